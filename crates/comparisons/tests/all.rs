//! Every test of this crate in one program: compiled once, run side by side.

mod association;
mod compare;
mod multi_vari;
mod pareto;
mod proportion;
mod relation;
mod screening;
mod second_ways;
