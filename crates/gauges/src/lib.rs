//! Can we trust the gauge? Studies of measurement systems.

pub mod gauge_attribute;
pub mod gauge_crossed;
pub mod gauge_linearity;
pub mod gauge_nested;
pub mod gauge_single;
