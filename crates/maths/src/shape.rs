//! The shape of values: skewness, kurtosis, percentiles, and whether a normal fits (Anderson and Darling).

use super::describe::moments;
use super::normal;
use super::sorting::Sorted;

/// Bias-adjusted skewness G1 and excess kurtosis G2; `None` below three and four values, or when all are equal.
///
/// G1 = √(n(n-1))/(n-2) m₃/m₂^1.5 and G2 = (n-1)/((n-2)(n-3)) ((n+1)(m₄/m₂² - 3) + 6) (Joanes and Gill 1998).
/// NaN is missing.
pub fn skewness_and_kurtosis(values: &[f64]) -> (Option<f64>, Option<f64>) {
    let of = moments(values);
    let (Some(mean), true) = (of.mean, of.min != of.max) else { return (None, None) };
    let n = of.n as f64;
    let (mut off, mut two, mut three, mut four) = (0.0, 0.0, 0.0, 0.0);
    for value in values.iter().filter(|value| !value.is_nan()) {
        let d = value - mean;
        off += d;
        two += d * d;
        three += d * d * d;
        four += d * d * d * d;
    }
    // What rounding left in the mean, taken out of the central moments.
    let rest = off / n;
    let m2 = two / n - rest * rest;
    let m3 = three / n - 3.0 * rest * two / n;
    let m4 = four / n - 4.0 * rest * three / n;
    let skewness = (of.n > 2).then(|| (n * (n - 1.0)).sqrt() / (n - 2.0) * m3 / m2.powf(1.5));
    let excess = m4 / (m2 * m2) - 3.0;
    let kurtosis = (of.n > 3).then(|| (n - 1.0) / ((n - 2.0) * (n - 3.0)) * ((n + 1.0) * excess + 6.0));
    (skewness, kurtosis)
}

/// Anderson and Darling's test of normal shape with estimated mean and sd.
#[derive(Clone, Copy, Debug, PartialEq)]
pub struct Normality {
    /// The statistic.
    pub a2: f64,
    /// A2 (1 + 0.75/n + 2.25/n²).
    pub a2_star: f64,
    /// The chance of so large a statistic when a normal is the source.
    pub p: f64,
}

/// Fewest values that can be tested.
pub const NORMALITY_LEAST: usize = 8;

/// Tests sorted values against a normal of their own mean and sd; `None` below eight values or without spread.
///
/// A2 = -n - Σ [(2i - 1) ln Φ(zᵢ) + (2(n - i) + 1) ln Φ(-zᵢ)]/n, its tail by the four pieces of D'Agostino and Stephens (1986),
/// Goodness-of-Fit Techniques, table 4.9. Logarithms of Φ are taken without forming Φ, so that far values cost nothing.
pub fn anderson_darling(sorted: &Sorted, mean: f64, sd: f64) -> Option<Normality> {
    if sorted.len() < NORMALITY_LEAST || sd.is_nan() || sd <= 0.0 {
        return None;
    }
    let n = sorted.len() as f64;
    let a2 = -n - normal::sum_of_tails(sorted, mean, sd);
    let a2_star = a2 * (1.0 + 0.75 / n + 2.25 / (n * n));
    Some(Normality { a2, a2_star, p: tail(a2_star) })
}

fn tail(a: f64) -> f64 {
    let p = if a <= 0.2 {
        1.0 - (-13.436 + 101.14 * a - 223.73 * a * a).exp()
    } else if a <= 0.34 {
        1.0 - (-8.318 + 42.796 * a - 59.938 * a * a).exp()
    } else if a < 0.6 {
        (0.9177 - 4.279 * a - 1.38 * a * a).exp()
    } else if a <= 13.0 {
        (1.2937 - 5.709 * a + 0.0186 * a * a).exp()
    } else {
        // The last polynomial turns up again far out.
        0.0
    };
    p.clamp(0.0, 1.0)
}

/// How values depart from a normal, in words, from their skewness and excess kurtosis.
pub fn departure(skewness: Option<f64>, kurtosis: Option<f64>) -> &'static str {
    match (skewness.unwrap_or(0.0), kurtosis.unwrap_or(0.0)) {
        (s, _) if s > 0.5 => "skewed, with a long tail to the right",
        (s, _) if s < -0.5 => "skewed, with a long tail to the left",
        (_, k) if k > 1.0 => "peaked, with heavier tails than a normal",
        (_, k) if k < -0.8 => "flatter than a normal: two streams may be mixed, or the tails cut off",
        _ => "not normal, though neither skewed nor heavy-tailed",
    }
}
