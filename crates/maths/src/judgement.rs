//! What is unlikely, too few or too coarse: decided here once, for all methods.

use crate::describe::{few_distinct, moments};

/// Below this chance what was supposed (a shape, equal spreads, a random order) is not believed.
pub const UNLIKELY: f64 = 0.05;

/// Below this chance something is said that is looked at over and over, or that costs an action: signals beyond chance,
/// scatter unlike counts, limits gone stale, more defects than expected.
pub const VERY_UNLIKELY: f64 = 0.01;

/// Below this chance signals are more than a steady process shows. Less than 5 %, so that fewer than 5 % of steady charts are called not
/// steady although the process that stands for them is estimated from the same values.
pub const BEYOND_CHANCE: f64 = 0.03;

/// From so many values on departures from a shape are found that no decision hangs on.
pub const PLENTY: usize = 5000;

/// Among so many, a departure counts when it would show as A² = 5 in 5,000.
const DEPARTURE: f64 = 0.001;

/// Up to so many different values come from coarse readings: fewer than ten steps in the spread (AIAG MSA, 4th ed., ch. 2).
pub const COARSE: usize = 9;

/// So few values are not called coarse: they cannot have many steps.
const ENOUGH: usize = 20;

/// Whether a chance is so small that what it supposes is not believed; an unknown one is not.
pub fn unlikely(p: Option<f64>) -> bool {
    p.is_some_and(|p| p < UNLIKELY)
}

/// Whether values contradict their shape: by the chance `p` of a statistic as large, and among very many values only when
/// the departure itself is large.
pub fn misfits(n: usize, p: Option<f64>, statistic: Option<f64>) -> bool {
    let large = n < PLENTY || statistic.is_none_or(|a2| a2 / n as f64 > DEPARTURE);
    large && unlikely(p)
}

/// How many different values there are, when they are so few that the gauge reads coarsely; `None` also when all are equal or
/// there are few.
pub fn coarse(values: &[f64]) -> Option<usize> {
    let many = values.iter().filter(|value| !value.is_nan()).nth(ENOUGH - 1).is_some();
    few_distinct(values, COARSE).filter(|distinct| many && *distinct > 1)
}

/// Whether the smallest of several chances is so small that what was looked for in so many places is there.
pub fn unlikely_among(p: f64, tried: usize) -> bool {
    p * (tried.max(1) as f64) < 0.1 * VERY_UNLIKELY
}

/// Readings in steps of so many sds leave nothing to judge within a step (Wheeler and Lyday 1989: fewer than four ranges within limits).
const COARSE_STEP: f64 = 0.9;

/// The step in which values were read, and the same in sds, when it is about as large as their sd; `None` for finer readings, fewer than
/// 20 values, and values that are all equal.
pub fn too_coarse(values: &[f64]) -> Option<(f64, f64)> {
    coarse(values)?;
    let mut distinct: Vec<f64> = Vec::new();
    for value in values.iter().filter(|value| !value.is_nan()) {
        if !distinct.contains(value) {
            distinct.push(*value);
        }
    }
    distinct.sort_unstable_by(f64::total_cmp);
    let step = distinct.windows(2).map(|pair| pair[1] - pair[0]).reduce(f64::min)?;
    let sds = step / moments(values).sd.filter(|sd| *sd > 0.0)?;
    (sds.is_finite() && sds >= COARSE_STEP).then_some((step, sds))
}

/// Values of a measurement that are 0 are many from this share on.
const MANY_ZEROS: f64 = 0.1;

/// 0 stands out when it is so many times as frequent as any other value.
const ZERO_STANDS_OUT: usize = 2;

/// How many values are exactly 0, where they are many, no value is below 0, and none of the others is nearly as frequent: then they stand
/// for nothing at all, or for less than the gauge reads.
pub fn many_zeros(values: &[f64]) -> Option<usize> {
    let there = || values.iter().filter(|value| !value.is_nan());
    let (n, zeros) = (there().count(), there().filter(|value| **value == 0.0).count());
    let is_measured = n >= ENOUGH && few_distinct(values, COARSE).is_none() && there().all(|value| *value >= 0.0);
    let is_many = is_measured && zeros < n && zeros as f64 >= MANY_ZEROS * n as f64;
    (is_many && zeros >= ZERO_STANDS_OUT * most_frequent(there().filter(|value| **value != 0.0))).then_some(zeros)
}

/// How often the most frequent value is there.
fn most_frequent<'a>(values: impl Iterator<Item = &'a f64>) -> usize {
    let mut sorted: Vec<f64> = values.copied().collect();
    sorted.sort_unstable_by(f64::total_cmp);
    sorted.chunk_by(|a, b| a == b).map(<[f64]>::len).max().unwrap_or(0)
}
