//! What values look like, which defects matter, what goes with what, and which groups differ.

pub mod association;
pub mod compare;
pub mod distribution;
pub mod matrix;
pub mod multi_vari;
pub mod pareto;
pub mod proportion;
pub mod relation;
pub mod screening;
