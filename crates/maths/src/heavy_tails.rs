//! Tails heavier than those of a normal, on both sides: Student's t as a shape.

use std::f64::consts::PI;

use statrs::function::gamma::ln_gamma;

use super::describe::moments;
use super::sorting::Sorted;

/// Degrees of freedom that are tried: more are as good as normal.
const DEGREES: [f64; 6] = [2.0, 3.0, 4.0, 5.0, 7.0, 10.0];
/// Of more values so many of even ranks tell.
const MOST: usize = 4000;

/// By how much Akaike's criterion of the best t (location, scale and degrees of freedom) is better than that of a normal; `None` below 20
/// values, or without spread. Location and scale are the likeliest for each number of degrees of freedom (Lange, Little and Taylor 1989,
/// J. American Statistical Association 84).
pub fn gain_of_t(sorted: &Sorted) -> Option<f64> {
    let values = sorted.thinned(MOST);
    let n = values.len() as f64;
    let of = moments(&values);
    let (mean, sd) = (of.mean?, of.sd.filter(|sd| *sd > 0.0 && sd.is_finite())?);
    if values.len() < 20 {
        return None;
    }
    let scaled: Vec<f64> = values.iter().map(|value| (value - mean) / sd).collect();
    let best = DEGREES.into_iter().map(|df| likelihood(&scaled, df)).fold(f64::NEG_INFINITY, f64::max);
    let normal = -0.5 * n * (1.0 + (2.0 * PI * (n - 1.0) / n).ln());
    Some(2.0 * (best - normal) - 2.0)
}

fn likelihood(values: &[f64], df: f64) -> f64 {
    let n = values.len() as f64;
    let (mut center, mut square) = (values[values.len() / 2], 0.5);
    for _ in 0..100 {
        let weight = |x: f64| (df + 1.0) / (df + (x - center) * (x - center) / square);
        let weights: f64 = values.iter().map(|&x| weight(x)).sum();
        let next = values.iter().map(|&x| weight(x) * x).sum::<f64>() / weights;
        let spread = (values.iter().map(|&x| weight(x) * (x - next) * (x - next)).sum::<f64>() / n).max(1e-12);
        let settled = (spread / square - 1.0).abs() < 1e-6;
        (center, square) = (next, spread);
        if settled {
            break;
        }
    }
    let constant = ln_gamma((df + 1.0) / 2.0) - ln_gamma(df / 2.0) - 0.5 * (df * PI * square).ln();
    values.iter().map(|&x| constant - 0.5 * (df + 1.0) * (1.0 + (x - center) * (x - center) / (df * square)).ln()).sum()
}
