//! Centre and process sd of a stretch of points.

use super::params::{LimitSource, Params, SigmaFrom};
use crate::numeric::bias::RangeConstants;
use crate::numeric::describe;

/// The process as estimated from a stretch, or as known.
#[derive(Clone, Copy, Debug, PartialEq)]
pub struct Process {
    /// Mean; `None` without values.
    pub center: Option<f64>,
    /// Short-term sd; `None` without a pair of neighbours.
    pub sigma: Option<f64>,
    /// Values it rests on.
    pub n: usize,
}

/// The range of each point and the `length - 1` before it; NaN where one of them is missing or lies before
/// the stretch.
pub fn moving_ranges(values: &[f64], length: usize) -> Vec<f64> {
    let mut ranges = vec![f64::NAN; values.len()];
    if length == 2 {
        for (range, pair) in ranges[1.min(values.len())..].iter_mut().zip(values.windows(2)) {
            *range = (pair[1] - pair[0]).abs();
        }
        return ranges;
    }
    for (end, window) in values.windows(length).enumerate() {
        if window.iter().all(|value| !value.is_nan()) {
            let (low, high) = window.iter().fold((f64::MAX, f64::MIN), |(low, high), &v| (low.min(v), high.max(v)));
            ranges[end + length - 1] = high - low;
        }
    }
    ranges
}

/// Centre and sd of a stretch: mean, and MRbar / d2 or the median moving range over that of normals.
fn estimate(values: &[f64], ranges: &[f64], sigma_from: SigmaFrom, constants: &RangeConstants) -> Process {
    let sigma = match sigma_from {
        SigmaFrom::MrMean => describe::mean(ranges).map(|mean| mean / constants.d2),
        SigmaFrom::MrMedian => describe::median(ranges).map(|median| median / constants.median),
    };
    Process { center: describe::mean(values), sigma, n: describe::count(values) }
}

/// The process that judges a phase of `values` (omitted points are NaN) whose moving ranges are `ranges`.
pub fn process(params: &Params, values: &[f64], ranges: &[f64], phase: std::ops::Range<usize>, constants: &RangeConstants) -> Process {
    match params.limits {
        LimitSource::Known { center, sigma } => Process { center: Some(center), sigma: Some(sigma), n: values.len() },
        LimitSource::Data => estimate(&values[phase.clone()], &ranges[phase], params.sigma_from, constants),
        LimitSource::Baseline { first, last } => {
            // Moving ranges lie wholly inside the baseline: the first ones reach back before it.
            let inside = (first + params.mr_length - 1).min(last + 1)..last + 1;
            estimate(&values[first..=last], &ranges[inside], params.sigma_from, constants)
        }
    }
}
