//! Centre and process sd of a stretch of points.

use std::ops::Range;

use super::params::{LimitSource, Params, SigmaFrom};
use super::points::Points;
use acorn_maths::bias::range_constants;
use acorn_maths::describe::{self, Moments};
use acorn_study::{StudyError, in_range};

/// The process as estimated from a stretch, or as known.
#[derive(Clone, Copy, Debug, PartialEq)]
pub struct Process {
    /// Mean; NaN without values.
    pub center: f64,
    /// Short-term sd; NaN when nothing tells it.
    pub sigma: f64,
    /// Points it rests on.
    pub n: usize,
    /// Degrees of freedom of the sd; those of a known sd are infinite.
    pub df: f64,
}

impl Process {
    /// A process settled beforehand.
    pub fn known(center: f64, sigma: Option<f64>, n: usize) -> Process {
        Process { center, sigma: sigma.unwrap_or(f64::NAN), n, df: f64::INFINITY }
    }
}

/// The points that the limits of each phase rest on.
///
/// # Errors
/// [`StudyError::OutOfRange`] for a baseline beyond the last point.
pub fn bases(params: &Params, points: &Points) -> Result<Vec<Range<usize>>, StudyError> {
    let own = points.phases.iter().map(|phase| phase.points.clone());
    match params.limits {
        LimitSource::Baseline { first, last } => {
            in_range("limits.last", last as f64, 0.0, points.len().saturating_sub(1) as f64)?;
            in_range("limits.first", first as f64, 0.0, last as f64)?;
            Ok(own.map(|_| first..last + 1).collect())
        }
        _ => Ok(own.collect()),
    }
}

/// The range of each point and the `length - 1` before it, into `ranges`; NaN where one of them is missing or
/// lies before the stretch.
pub fn moving_ranges(values: &[f64], length: usize, ranges: &mut [f64]) {
    if length == 2 {
        for (range, pair) in ranges.iter_mut().skip(1).zip(values.windows(2)) {
            *range = (pair[1] - pair[0]).abs();
        }
        return;
    }
    for (range, window) in ranges.iter_mut().skip(length - 1).zip(values.windows(length)) {
        if window.iter().all(|value| !value.is_nan()) {
            let (low, high) = window.iter().fold((f64::MAX, f64::MIN), |(low, high), &v| (low.min(v), high.max(v)));
            *range = high - low;
        }
    }
}

/// From single values: x̄, and MRbar / d2 or the median moving range over that of normals. Neighbouring ranges
/// share a value, which leaves about 0.62 (n - 1) degrees of freedom (Montgomery 2013, sec. 6.4); their median about 0.31 (n - 1),
/// by simulation as in `tests/limits.rs`.
pub fn of_values(values: &Moments, ranges: &Moments, range_values: &[f64], sigma_from: SigmaFrom, length: usize) -> Process {
    let constants = range_constants(length).expect("the moving range length is checked to be 2 or more");
    let sigma = match sigma_from {
        SigmaFrom::MrMedian => describe::median(range_values).map(|median| median / constants.median),
        _ => ranges.mean.map(|mean| mean / constants.d2),
    };
    let kept = if sigma_from == SigmaFrom::MrMedian { 0.31 } else { 0.62 };
    let df = kept * (values.n as f64 - 1.0);
    Process { center: values.mean.unwrap_or(f64::NAN), sigma: sigma.unwrap_or(f64::NAN), n: values.n, df }
}
