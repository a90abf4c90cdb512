//! What several figures draw alike: heaps of values, and values against a shape.

pub mod heap;
pub mod probability;
