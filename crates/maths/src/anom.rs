//! The largest of several means against their common mean: the decision value h of an analysis of means.
//!
//! h is the exact point that max |tᵢ| of k means passes with the chance alpha, tᵢ with df degrees of freedom and correlation
//! −1/(k − 1) (Nelson 1983, J. Quality Technology 15). With εᵢ independent standard normals, the residuals εᵢ − ε̄ do not
//! depend on ε̄, so that P(all |εᵢ − ε̄| ≤ c) = P(all |εᵢ| ≤ c given Σεᵢ = 0) = √(k/2π) ∫ g(t)ᵏ dt with
//! g(t) = ∫ φ(x) cos(tx) dx over |x| ≤ c; the spread is then averaged over its chi distribution.

use std::collections::HashMap;
use std::sync::{Mutex, OnceLock, PoisonError};

use super::curve::{Curve, spreads};
use super::normal::density;
use super::root;
use super::tails::t_two_sided;

/// h of `k` means whose spread has `df` degrees of freedom, passed by the largest with the chance `alpha`; NaN below two
/// means or without degrees of freedom.
///
/// Accurate to about 1e-7. Each pair of k and df is worked out once in the life of the program.
///
/// # Examples
/// ```
/// use acorn_maths::anom::decision;
/// // Two means differ from their mean by the same: Student's t.
/// assert!((decision(2, 10.0, 0.05) - 2.228_138_85).abs() < 1e-6);
/// ```
pub fn decision(k: usize, df: f64, alpha: f64) -> f64 {
    type Known = Mutex<HashMap<(usize, u64, u64), f64>>;
    static KNOWN: OnceLock<Known> = OnceLock::new();
    if k < 2 || df.is_nan() || df < 1.0 {
        return f64::NAN;
    }
    if k == 2 {
        return t_two_sided(alpha, df);
    }
    let key = (k, df.to_bits(), alpha.to_bits());
    let known = KNOWN.get_or_init(Mutex::default);
    if let Some(found) = known.lock().unwrap_or_else(PoisonError::into_inner).get(&key) {
        return *found;
    }
    let inside = inside(k);
    let weights = spreads(df);
    // Bonferroni's t lies above it.
    let most = t_two_sided(alpha / k as f64, df) * 1.01;
    let found = root::between(0.0, most, |h| weights.iter().map(|(s, weight)| weight * inside.at(h * s)).sum::<f64>() < 1.0 - alpha);
    known.lock().unwrap_or_else(PoisonError::into_inner).insert(key, found);
    found
}

/// Beyond this z everything is inside.
const END: f64 = 9.0;

/// P(max |Zᵢ| ≤ z) of `k` standard normals with correlation −1/(k − 1).
fn inside(k: usize) -> Curve {
    Curve::of(END, 1.0, |z| within(k, z * ((k - 1) as f64 / k as f64).sqrt()))
}

/// P(all |εᵢ| ≤ c given Σεᵢ = 0).
fn within(k: usize, c: f64) -> f64 {
    if c <= 0.0 {
        return 0.0;
    }
    // g falls off like φ(c)/t at worst, so that its k-th power is soon nothing; its waves are of length 2π/c.
    const STEPS: usize = 200;
    let step = c / STEPS as f64;
    let weight = |i: usize| {
        let simpson = if i == 0 || i == STEPS {
            1.0
        } else if i % 2 == 1 {
            4.0
        } else {
            2.0
        };
        2.0 * density(step * i as f64) * simpson * step / 3.0
    };
    let weights: Vec<f64> = (0..=STEPS).map(weight).collect();
    let g = |t: f64| weights.iter().enumerate().map(|(i, weight)| weight * (t * step * i as f64).cos()).sum::<f64>();
    let end = (0.4 * STEPS as f64 / c).min(if k == 3 { 60.0_f64 } else { 30.0 }.max(8.0 / c));
    let panels = 2 * (end * c.max(1.0) * 4.0).ceil() as usize;
    let across = end / panels as f64;
    let at = |i: usize| {
        let simpson = if i == 0 || i == panels {
            1.0
        } else if i % 2 == 1 {
            4.0
        } else {
            2.0
        };
        simpson * g(across * i as f64).powi(k as i32)
    };
    let integral = 2.0 * across / 3.0 * (0..=panels).map(at).sum::<f64>();
    (k as f64 / (2.0 * std::f64::consts::PI)).sqrt() * integral
}
