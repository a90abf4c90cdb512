//! Tolerance intervals: limits that hold at least a wanted share of all values, with a wanted confidence (ISO 16269-6).

use statrs::function::gamma::ln_gamma;

use super::normal;
use super::root;
use super::tails::{binomial_from, chi_square_above, chi_square_upper};

/// Farther than so many sds no factor lies.
const MOST_SDS: f64 = 1e6;

/// From so many degrees of freedom on Howe's approximation is closer than any figure is read.
const MANY: f64 = 10_000.0;

/// How many sds about the mean of n values hold a share of a normal on both sides, with a confidence; `None` below two.
///
/// The root k of 2√n ∫₀^∞ φ(√n x) P(χ²ₙ₋₁ > (n-1) r(x)²/k²) dx = confidence, Φ(x + r) - Φ(x - r) = share (Krishnamoorthy
/// and Mathew 2009, eq. 2.3.5); beyond 10,000 values k² = (n-1)(1 + 1/n) z² / χ² (Howe 1969).
///
/// # Examples
/// ```
/// // ISO 16269-6, table C.2: n = 10, 95 % of the values with 95 % confidence.
/// let k = acorn_maths::tolerance::two_sided(10, 0.95, 0.95).unwrap();
/// assert!((k - 3.3935).abs() < 2e-3);
/// ```
pub fn two_sided(n: usize, share: f64, confidence: f64) -> Option<f64> {
    if n < 2 {
        return None;
    }
    let (n, df) = (n as f64, n as f64 - 1.0);
    if df > MANY {
        let z = normal::quantile(0.5 + 0.5 * share);
        return Some((df * (1.0 + 1.0 / n) * z * z / chi_square_upper(confidence, df)).sqrt());
    }
    // In units of the error of the mean, which lies within eight of them.
    let nodes: Vec<(f64, f64)> = steps(0.0, 8.0, 80)
        .map(|(u, weight)| {
            let r = half_width(u / n.sqrt(), share);
            (2.0 * weight * normal::density(u), df * r * r)
        })
        .collect();
    let holds = |k: f64| nodes.iter().map(|(weight, inner)| weight * chi_square_above(inner / (k * k), df)).sum::<f64>();
    Some(root::upward(0.0, MOST_SDS, |k| holds(k) < confidence))
}

/// How many sds beyond the mean of n values hold a share of a normal on one side, with a confidence; `None` below two.
///
/// k = t'/√n, t' the quantile of Student's t with n - 1 degrees of freedom and noncentrality z √n, from
/// P(t' ≤ t) = ∫ Φ(t s - z √n) f(s) ds over the density f of the sample sd of a standard normal.
///
/// # Examples
/// ```
/// // ISO 16269-6, table C.1: n = 10, 95 % of the values with 95 % confidence.
/// let k = acorn_maths::tolerance::one_sided(10, 0.95, 0.95).unwrap();
/// assert!((k - 2.911).abs() < 1e-3);
/// ```
pub fn one_sided(n: usize, share: f64, confidence: f64) -> Option<f64> {
    if n < 2 {
        return None;
    }
    let (n, df) = (n as f64, n as f64 - 1.0);
    let shift = normal::quantile(share) * n.sqrt();
    let constant = std::f64::consts::LN_2 + 0.5 * df * (0.5 * df).ln() - ln_gamma(0.5 * df);
    // A power, because (df - 1) ln s is no number where both are 0.
    let sd_density = |s: f64| s.powf(df - 1.0) * (constant - 0.5 * df * s * s).exp();
    let reach = 9.0 / (2.0 * df).sqrt();
    // The fewer values, the farther the factor and the steeper Φ within the wider density.
    let panels = 400 + 2 * (2000.0 / df) as u32;
    let nodes: Vec<(f64, f64)> =
        steps((1.0 - reach).max(0.0), 1.0 + reach, panels).map(|(s, weight)| (s, weight * sd_density(s))).collect();
    let holds = |k: f64| nodes.iter().map(|(s, weight)| weight * normal::below(k * n.sqrt() * s - shift)).sum::<f64>();
    Some(root::upward(0.0, MOST_SDS, |k| holds(k) < confidence))
}

/// The innermost ranks, counted from 1 at either end, between which a share of all values lies with a confidence, and that
/// confidence; the outermost with the confidence they reach when even they do not. `None` below two values.
/// `sides` is 2 for an interval and 1 for a bound.
///
/// Between the r-th value from below and from above lies a beta share (Wilks 1941).
pub fn ranks(n: usize, share: f64, confidence: f64, sides: usize) -> Option<(usize, f64)> {
    if n < 2 {
        return None;
    }
    let reached = |rank: usize| binomial_from((sides * rank) as f64, n as f64, 1.0 - share);
    let (mut low, mut high) = (1, n / sides);
    while low < high {
        let middle = low + (high - low).div_ceil(2);
        if reached(middle) >= confidence { low = middle } else { high = middle - 1 }
    }
    Some((low, reached(low)))
}

/// r with Φ(x + r) - Φ(x - r) = share.
fn half_width(x: f64, share: f64) -> f64 {
    root::between(0.0, x + 12.0, |r| normal::below(x + r) - normal::below(x - r) < share)
}

/// Simpson's rule.
fn steps(from: f64, to: f64, panels: u32) -> impl Iterator<Item = (f64, f64)> {
    let step = (to - from) / f64::from(panels);
    (0..=panels).map(move |k| {
        let weight = if k == 0 || k == panels { 1.0 } else { 2.0 + 2.0 * f64::from(k % 2) };
        (from + step * f64::from(k), weight * step / 3.0)
    })
}
