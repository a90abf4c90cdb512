//! Is it steady, can it meet its limits, and how bad is it?

pub mod capability;
pub mod control_chart;
pub mod indices;
pub mod sigma_level;
