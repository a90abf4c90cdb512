//! Mathematics shared by the methods.

pub mod bias;
pub mod describe;
pub mod histogram;
pub mod normal;
pub mod shape;
pub mod shapes;
pub mod sorting;
pub mod spread;
pub mod tails;
pub mod tolerance;
