//! Which distribution fits, and what if? Models and their simulation.

pub mod fit_distribution;
pub mod model;
pub mod simulation;
