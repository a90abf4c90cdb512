//! Every test of this crate in one program: compiled once, run side by side.

mod common;

mod alerts;
mod api;
mod bounds;
mod contract;
mod floor;
mod gauges;
mod imports;
mod models;
mod narrowing;
mod table;
