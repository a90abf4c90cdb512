//! Mathematics shared by the methods.

pub mod bias;
pub mod describe;
pub mod equal_means;
pub mod equal_variance;
pub mod normal;
pub mod root;
pub mod shape;
pub mod shapes;
pub mod sorting;
pub mod tails;
pub mod tolerance;
