//! The range of n independent standard normal values: its mean d2, its sd d3 and its median.
//!
//! Computed, not tabled, for any n from 2 on. With F the normal distribution function,
//! P(R ≤ r) = n ∫ φ(x) [F(x + r) - F(x)]^(n-1) dx (Hartley 1942), d2 = ∫ (1 - P) dr and
//! d2² + d3² = 2 ∫ r (1 - P) dr over r ≥ 0.

use std::collections::HashMap;
use std::sync::{Mutex, OnceLock, PoisonError};

use statrs::function::gamma::ln_gamma;

use super::normal::{below, density};
use super::root;

/// Constants of the range of n values in units of their sd.
#[derive(Clone, Copy, Debug, PartialEq)]
pub struct RangeConstants {
    /// Mean range.
    pub d2: f64,
    /// Standard deviation of the range.
    pub d3: f64,
    /// Median range.
    pub median: f64,
}

/// The constants of the range of `n` values; `None` below 2.
///
/// Accurate to about 1e-12. Each n is integrated once in the life of the program.
///
/// # Examples
/// ```
/// let two = acorn_maths::bias::range_constants(2).unwrap();
/// assert!((two.d2 - 2.0 / std::f64::consts::PI.sqrt()).abs() < 1e-12);
/// // The median range of two values is not half of d2, nor 0.954 exactly.
/// assert!((two.median - 0.953_872_552_422_9).abs() < 1e-9);
/// ```
pub fn range_constants(n: usize) -> Option<RangeConstants> {
    static KNOWN: OnceLock<Mutex<HashMap<usize, RangeConstants>>> = OnceLock::new();
    if n < 2 {
        return None;
    }
    let known = KNOWN.get_or_init(Mutex::default);
    if let Some(found) = known.lock().unwrap_or_else(PoisonError::into_inner).get(&n) {
        return Some(*found);
    }
    let computed = integrate(n);
    known.lock().unwrap_or_else(PoisonError::into_inner).insert(n, computed);
    Some(computed)
}

/// Mean of the sample sd of `n` normal values in units of their sd; `None` below 2. `n` need not be whole.
///
/// c4 = √(2/(n-1)) Γ(n/2) / Γ((n-1)/2), by log-gamma; beyond 1,000 by its series 1 - 1/(4m) + 1/(32m²) + 5/(128m³) with m = n - 1,
/// where the difference of two large logarithms would lose digits.
///
/// # Examples
/// ```
/// use acorn_maths::bias::c4;
/// assert!((c4(2.0).unwrap() - (2.0 / std::f64::consts::PI).sqrt()).abs() < 1e-14);
/// assert!((c4(5.0).unwrap() - 0.939_985_602_986_6).abs() < 1e-12);
/// ```
pub fn c4(n: f64) -> Option<f64> {
    let m = n - 1.0;
    if m < 1.0 {
        None
    } else if m > 1e3 {
        Some(1.0 - 0.25 / m + 1.0 / (32.0 * m * m) + 5.0 / (128.0 * m * m * m))
    } else {
        Some((2.0 / m).sqrt() * (ln_gamma(0.5 * n) - ln_gamma(0.5 * m)).exp())
    }
}

/// P(R > r) for the range R of n standard normal values. The trapezoid rule converges exponentially here: the integrand is smooth and vanishes at both ends.
pub fn range_above(n: usize, r: f64) -> f64 {
    const STEP: f64 = 0.05;
    const ENDS: f64 = 9.0;
    const WIDEST: f64 = 60.0;
    // So wide a range has no chance that a number could hold, whatever n, and the sum over it would take for ever.
    if r > WIDEST {
        return 0.0;
    }
    let power = (n - 1) as i32;
    let steps = ((2.0 * ENDS + r) / STEP).ceil() as i32;
    let at = |i: i32| -ENDS - r + STEP * f64::from(i);
    let inside: f64 = (0..=steps).map(at).map(|x| density(x) * (below(x + r) - below(x)).powi(power)).sum();
    (1.0 - n as f64 * inside * STEP).clamp(0.0, 1.0)
}

fn integrate(n: usize) -> RangeConstants {
    // Beyond 13 plus a slow growth with n the survival function is below 1e-16.
    let end = 13.0 + (n as f64).ln();
    let (mut mean, mut square) = (0.0, 0.0);
    let panels = 24;
    let width = end / f64::from(panels);
    for panel in 0..panels {
        for (node, weight) in gauss_nodes() {
            let r = width * (f64::from(panel) + 0.5 * (1.0 + node));
            let mass = 0.5 * width * weight * range_above(n, r);
            mean += mass;
            square += 2.0 * r * mass;
        }
    }
    RangeConstants { d2: mean, d3: (square - mean * mean).sqrt(), median: median_range(n, end) }
}

fn median_range(n: usize, end: f64) -> f64 {
    root::between(0.0, end, |range| range_above(n, range) > 0.5)
}

/// Nodes and weights of the 10-point Gauss-Legendre rule on [-1, 1] (Abramowitz and Stegun, table 25.4).
fn gauss_nodes() -> impl Iterator<Item = (f64, f64)> {
    const HALF: [(f64, f64); 5] = [
        (0.148_874_338_981_631_2, 0.295_524_224_714_752_87),
        (0.433_395_394_129_247_2, 0.269_266_719_309_996_35),
        (0.679_409_568_299_024_4, 0.219_086_362_515_982_04),
        (0.865_063_366_688_984_5, 0.149_451_349_150_580_6),
        (0.973_906_528_517_171_7, 0.066_671_344_308_688_14),
    ];
    HALF.into_iter().flat_map(|(node, weight)| [(-node, weight), (node, weight)])
}
