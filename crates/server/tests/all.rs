//! Every test of this crate in one program: compiled once, run side by side.

mod common;

mod alerts;
mod answers;
mod api;
mod bounds;
mod contract;
mod floor;
mod gauges;
mod guard;
mod imports;
mod jobs;
mod live;
mod models;
mod narrowing;
mod recompute_queue;
mod router;
mod table;
