//! The likeliest member of a family.

use super::family::{Family, Standard};
use super::likelihood;
use super::member::Shape;
use crate::sorting::Sorted;

/// Thresholds tried before the best is looked for closely: one in each factor of 1.27 of its distance.
const THRESHOLDS: usize = 85;
/// How near to the smallest value, and how far from it, thresholds are looked for, in ranges of the values.
const REACH: [f64; 2] = [2e-7, 100.0];
/// So many values tell about where the peak is; only near it are all of them asked.
const SKETCH: usize = 2000;

/// The likeliest member of a family for sorted values; `None` when they do not vary, when one of them lies at or below
/// the bound of the family, or when no threshold makes them likelier than its neighbours do.
///
/// Parameters in the unit of the values or of their logarithms. A threshold is the one at which the likelihood of the
/// rest has a peak below the smallest value, from 2e-7 to 100 ranges of the values away; right at the smallest value the likelihood grows without bound and says
/// nothing (Meeker and Escobar 1998, sec. 11.7). An exponential above a threshold takes the unbiased
/// x₁ - (x̄ - x₁)/(n - 1), because at x₁ itself the smallest value would have no room below it.
///
/// # Examples
/// ```
/// use acorn_maths::shapes::{Family, fit};
/// use acorn_maths::sorting::Sorted;
/// let shape = fit(Family::Exponential, &Sorted::of(&[1.0, 2.0, 6.0])).unwrap();
/// assert!((shape.parameters()[0].1 - 3.0).abs() < 1e-12);
/// assert_eq!(fit(Family::Lognormal, &Sorted::of(&[-1.0, 2.0, 3.0])), None);
/// ```
pub fn fit(family: Family, sorted: &Sorted) -> Option<Shape> {
    let (&low, &high) = (sorted.first()?, sorted.last()?);
    let room = high - low;
    // Values that differ by rounding only do not vary.
    if room <= 1e-13 * low.abs().max(high.abs()) {
        return None;
    }
    if !family.has_threshold() {
        return at_threshold(family, sorted, 0.0);
    }
    if family.plain() == Family::Exponential {
        let n = sorted.len() as f64;
        let mean = likelihood::normal(sorted).0;
        return (n > 1.0).then(|| at_threshold(family, sorted, low - (mean - low) / (n - 1.0))).flatten();
    }
    at_threshold(family, sorted, peak(family, sorted)?)
}

fn at_threshold(family: Family, sorted: &[f64], threshold: f64) -> Option<Shape> {
    if family.is_bounded() && sorted[0] - threshold <= 0.0 {
        return None;
    }
    let shifted = || sorted.iter().map(|x| x - threshold);
    let on_scale: Vec<f64> = if family.of_logarithms() { shifted().map(f64::ln).collect() } else { shifted().collect() };
    let found = match family.standard() {
        _ if family.plain() == Family::Exponential => ((shifted().sum::<f64>() / sorted.len() as f64).ln(), 1.0),
        Standard::Normal => likelihood::normal(&on_scale),
        Standard::Logistic => likelihood::logistic(&on_scale),
        Standard::Smallest => likelihood::smallest(&on_scale),
        Standard::Largest => likelihood::largest(&on_scale),
        Standard::Gamma => likelihood::gamma(&on_scale),
    };
    let (first, scale) = found;
    (first.is_finite() && scale.is_finite() && scale > 0.0).then(|| Shape::new(family, found, threshold))
}

/// Where the likelihood of all values peaks among thresholds below the smallest value.
fn peak(family: Family, sorted: &Sorted) -> Option<f64> {
    let low = sorted[0];
    let room = sorted[sorted.len() - 1] - low;
    let threshold = |log: f64| low - room * log.exp();
    let height = |values: &[f64], log: f64| {
        let shape = at_threshold(family, values, threshold(log));
        shape.map_or(f64::NEG_INFINITY, |shape| shape.ln_likelihood(values))
    };
    let [first, last] = REACH.map(f64::ln);
    let step = (last - first) / (THRESHOLDS - 1) as f64;
    let at = |k: usize| first + step * k as f64;
    let sketch = sorted.thinned(SKETCH);
    let heights: Vec<f64> = (0..THRESHOLDS).map(|k| height(&sketch, at(k))).collect();
    let peaks = (1..THRESHOLDS - 1).filter(|&k| heights[k] > heights[k - 1] && heights[k] >= heights[k + 1]);
    let best = peaks.max_by(|&a, &b| heights[a].total_cmp(&heights[b]))?;
    let nearly = highest(at(best - 1), at(best + 1), if sketch.len() == sorted.len() { 1e-8 } else { 1e-3 }, |log| height(&sketch, log));
    Some(threshold(if sketch.len() == sorted.len() { nearly } else { climbed(nearly, |log| height(sorted, log)) }))
}

/// Where a function is highest near a place, by parabolas through three points ever closer together: few steps, for each asks
/// all values.
fn climbed(near: f64, f: impl Fn(f64) -> f64) -> f64 {
    let (mut at, mut apart) = (near, 0.02);
    let mut here = f(at);
    for _ in 0..30 {
        let (left, right) = (f(at - apart), f(at + apart));
        let bend = left - 2.0 * here + right;
        let step = if bend < 0.0 { 0.5 * apart * (left - right) / bend } else { apart * (right - left).signum() * 2.0 };
        let step = step.clamp(-2.0 * apart, 2.0 * apart);
        let there = f(at + step);
        if there > here {
            (at, here) = (at + step, there);
        }
        if step.abs() < 0.5 * apart {
            apart *= 0.1;
        }
        if apart < 1e-4 {
            break;
        }
    }
    at
}

/// Where a function with one peak between two places is highest, by golden sections.
pub fn highest(mut low: f64, mut high: f64, close: f64, f: impl Fn(f64) -> f64) -> f64 {
    const GOLDEN: f64 = 0.618_033_988_749_894_9;
    let (mut left, mut right) = (high - GOLDEN * (high - low), low + GOLDEN * (high - low));
    let (mut at_left, mut at_right) = (f(left), f(right));
    while high - low > close {
        if at_left < at_right {
            (low, left, at_left) = (left, right, at_right);
            right = low + GOLDEN * (high - low);
            at_right = f(right);
        } else {
            (high, right, at_right) = (right, left, at_left);
            left = high - GOLDEN * (high - low);
            at_left = f(left);
        }
    }
    0.5 * (low + high)
}
