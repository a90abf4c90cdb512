//! Every test of this crate in one program: compiled once, run side by side.

mod charts;
mod counting;
mod limits;
