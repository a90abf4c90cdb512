//! Values in which the decimal point has slipped, or that are in another unit.

use super::describe::median;

/// A value that is a round factor away from all others.
#[derive(Clone, Copy, Debug, PartialEq)]
pub struct Slip {
    /// Its place among the values.
    pub place: usize,
    /// The value.
    pub value: f64,
    /// How many times as large it is as it should be.
    pub factor: f64,
}

/// What values are multiplied by when a decimal point slips, or when inches and millimetres are mixed up.
const FACTORS: [f64; 8] = [10.0, 0.1, 100.0, 0.01, 1000.0, 0.001, 25.4, 1.0 / 25.4];
/// The others lie within this ratio of each other: among values that range wider, ten times as much may be real.
const WITHIN: f64 = 3.0;
/// Fewer others do not say what is usual.
const LEAST: usize = 8;
/// At most this share of the values is taken for slips.
const SHARE_MOST: f64 = 0.1;
/// Of more values the median is that of evenly spaced ones.
const SAMPLED: usize = 50_000;

/// Finds values that fit among the others only when they are divided by a power of ten or by 25.4.
///
/// `values` holds NaN where one is missing. Empty unless the other values, eight or more, have one sign and lie within a factor of 3 of
/// each other; at most one in ten, or one, is a slip.
pub fn slips(values: &[f64]) -> Vec<Slip> {
    let step = values.len().div_ceil(SAMPLED).max(1);
    let sample: Vec<f64> = values.iter().step_by(step).copied().collect();
    let Some(middle) = median(&sample).filter(|middle| *middle != 0.0) else { return Vec::new() };
    let usual = |value: f64| (1.0 / WITHIN..=WITHIN).contains(&(value / middle));
    let (mut low, mut high, mut n) = (f64::INFINITY, f64::NEG_INFINITY, 0usize);
    let mut apart = Vec::new();
    for (place, &value) in values.iter().enumerate().filter(|(_, value)| !value.is_nan()) {
        if usual(value) {
            (low, high, n) = (low.min(value), high.max(value), n + 1);
        } else {
            apart.push((place, value));
            if apart.len() * 10 > values.len().max(10) {
                return Vec::new();
            }
        }
    }
    let ratio = if low > 0.0 { high / low } else { low / high };
    if n < LEAST || ratio > WITHIN || apart.len() as f64 > (SHARE_MOST * n as f64).max(1.0) {
        return Vec::new();
    }
    // A tenth of the range beside it, as the usual values are not all that can be.
    let room = 0.1 * (high - low);
    let slip = |(place, value): (usize, f64)| {
        let fits = |factor: &&f64| (low - room..=high + room).contains(&(value / **factor));
        let factor = FACTORS.iter().filter(fits).min_by(|a, b| (value / **a - middle).abs().total_cmp(&(value / **b - middle).abs()))?;
        Some(Slip { place, value, factor: *factor })
    };
    apart.into_iter().filter_map(slip).collect()
}
