//! The standard normal distribution, through `erfc` so that far tails keep their digits.

use std::f64::consts::{PI, SQRT_2};

/// The density at `z`: exp(-z²/2) / √(2π).
pub fn density(z: f64) -> f64 {
    (-0.5 * z * z).exp() / (2.0 * PI).sqrt()
}

/// The probability of a value up to `z`: erfc(-z/√2) / 2.
pub fn below(z: f64) -> f64 {
    0.5 * libm::erfc(-z / SQRT_2)
}

/// The probability of a value above `z`. Not `1 - below(z)`, which is 0 from z = 8.3 on.
pub fn above(z: f64) -> f64 {
    0.5 * libm::erfc(z / SQRT_2)
}
