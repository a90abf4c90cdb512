//! Every test of this crate in one program: compiled once, run side by side.

mod gauge;
mod gauge_kinds;
mod gauge_mathematics;
mod gauge_plan;
