//! What several figures draw alike: histograms of values, and values against a shape.

pub mod even_bars;
pub mod histogram;
pub mod probability;
