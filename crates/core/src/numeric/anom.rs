//! The largest of several means against their common mean: the decision value h of an analysis of means.
//!
//! h is the exact point that max |tᵢ| of k means passes with the chance alpha, tᵢ with df degrees of freedom and correlation
//! −1/(k − 1) (Nelson 1983, J. Quality Technology 15). With εᵢ independent standard normals, the residuals εᵢ − ε̄ do not
//! depend on ε̄, so that P(all |εᵢ − ε̄| ≤ c) = P(all |εᵢ| ≤ c given Σεᵢ = 0) = √(k/2π) ∫ g(t)ᵏ dt with
//! g(t) = ∫ φ(x) cos(tx) dx over |x| ≤ c; the spread is then averaged over its chi distribution.

use std::collections::HashMap;
use std::sync::{Mutex, OnceLock, PoisonError};

use statrs::function::gamma::ln_gamma;

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
/// use acorn_core::numeric::anom::decision;
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
    let inside = Inside::of(k);
    let weights = spreads(df);
    // Bonferroni's t lies above it.
    let most = t_two_sided(alpha / k as f64, df) * 1.01;
    let found = root::between(0.0, most, |h| weights.iter().map(|(s, weight)| weight * inside.at(h * s)).sum::<f64>() < 1.0 - alpha);
    known.lock().unwrap_or_else(PoisonError::into_inner).insert(key, found);
    found
}

/// P(max |Zᵢ| ≤ z) of `k` standard normals with correlation −1/(k − 1), between nodes of Chebyshev.
struct Inside {
    nodes: Vec<f64>,
}

/// Beyond this z everything is inside.
const END: f64 = 9.0;
const NODES: usize = 96;

impl Inside {
    fn of(k: usize) -> Inside {
        let place = |node: usize| 0.5 * END * (1.0 - (std::f64::consts::PI * node as f64 / (NODES - 1) as f64).cos());
        Inside { nodes: (0..NODES).map(|node| within(k, place(node) * ((k - 1) as f64 / k as f64).sqrt())).collect() }
    }

    /// By the barycentric formula (Berrut and Trefethen 2004).
    fn at(&self, z: f64) -> f64 {
        if z >= END {
            return 1.0;
        }
        let (mut above, mut below) = (0.0, 0.0);
        for (node, value) in self.nodes.iter().enumerate() {
            let place = 0.5 * END * (1.0 - (std::f64::consts::PI * node as f64 / (NODES - 1) as f64).cos());
            if (z - place).abs() < 1e-14 {
                return *value;
            }
            let half = if node == 0 || node == NODES - 1 { 0.5 } else { 1.0 };
            let weight = half * if node % 2 == 0 { 1.0 } else { -1.0 } / (z - place);
            above += weight * value;
            below += weight;
        }
        above / below
    }
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

/// Nodes of the spread s = √(χ²/df) with their weights, which add up to 1.
fn spreads(df: f64) -> Vec<(f64, f64)> {
    const PANELS: usize = 240;
    // ln density of s: (df/2) ln df − (df/2 − 1) ln 2 − ln Γ(df/2) + (df − 1) ln s − df s²/2.
    let constant = 0.5 * df * df.ln() - (0.5 * df - 1.0) * std::f64::consts::LN_2 - ln_gamma(0.5 * df);
    let sd = (0.5 / df).sqrt();
    let (low, high) = ((1.0 - 9.0 * sd).max(0.0), 1.0 + 9.0 * sd);
    let across = (high - low) / PANELS as f64;
    let one = |i: usize| {
        let s = low + across * i as f64;
        let simpson = if i == 0 || i == PANELS {
            1.0
        } else if i % 2 == 1 {
            4.0
        } else {
            2.0
        };
        let density = if s > 0.0 { (constant + (df - 1.0) * s.ln() - 0.5 * df * s * s).exp() } else { 0.0 };
        (s, simpson * across / 3.0 * density)
    };
    let all: Vec<(f64, f64)> = (0..=PANELS).map(one).collect();
    let sum: f64 = all.iter().map(|(_, weight)| weight).sum();
    all.into_iter().map(|(s, weight)| (s, weight / sum)).collect()
}
