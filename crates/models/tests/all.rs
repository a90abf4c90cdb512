//! Every test of this crate in one program: compiled once, run side by side.

mod fit_distribution;
mod model;
mod model_words;
mod simulation;
