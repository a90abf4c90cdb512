//! What the gauge studies share: components of variance, lines of an analysis, what a gauge is held against, and when it is
//! good enough. Bands: AIAG, Measurement Systems Analysis, 4th ed., ch. III.

pub mod against;
pub mod analysis;
pub mod component;
pub mod due;
pub mod notes;
pub mod operators;
pub mod part;
pub mod plan;
pub mod share;
pub mod standing;
