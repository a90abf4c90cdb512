//! Every test of this crate in one program: compiled once, run side by side.

mod columns;
mod floor;
mod gauges;
mod sequences;
mod store;
