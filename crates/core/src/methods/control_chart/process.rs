//! Centre and process sd of a stretch of points.

use std::ops::Range;

use super::params::{LimitSource, Params, SigmaFrom};
use super::points::Points;
use super::samples::Samples;
use crate::numeric::bias::{c4, range_constants};
use crate::numeric::describe::{self, Moments};
use crate::study::{StudyError, in_range};

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
/// share a value, which leaves about 0.62 (n - 1) degrees of freedom (Montgomery 2013, sec. 6.4).
pub fn of_values(values: &Moments, ranges: &Moments, range_values: &[f64], sigma_from: SigmaFrom, length: usize) -> Process {
    let constants = range_constants(length).expect("the moving range length is checked to be 2 or more");
    let sigma = match sigma_from {
        SigmaFrom::MrMedian => describe::median(range_values).map(|median| median / constants.median),
        _ => ranges.mean.map(|mean| mean / constants.d2),
    };
    let df = 0.62 * (values.n as f64 - 1.0);
    Process { center: values.mean.unwrap_or(f64::NAN), sigma: sigma.unwrap_or(f64::NAN), n: values.n, df }
}

/// From samples: the mean of all values, and the sd by one of three ways.
///
/// - range: Σ fᵢ Rᵢ / d2(nᵢ) / Σ fᵢ with fᵢ = d2² / d3² (Burr 1969, J. Quality Technology 1)
/// - sd: Σ fᵢ sᵢ / c4(nᵢ) / Σ fᵢ with fᵢ = c4² / (1 - c4²)
/// - pooled: √(Σ (nᵢ - 1) sᵢ² / Σ (nᵢ - 1)) / c4(1 + Σ (nᵢ - 1))
pub fn of_samples(samples: &Samples, stretch: Range<usize>, sigma_from: SigmaFrom) -> Process {
    let used = || stretch.clone().filter(|&i| samples.used[i] && samples.n[i] > 0.0);
    let pivot = used().next().map_or(0.0, |i| samples.mean[i]);
    let (mut total, mut off, mut points) = (0.0, 0.0, 0);
    for i in used() {
        total += samples.n[i];
        off += samples.n[i] * (samples.mean[i] - pivot);
        points += 1;
    }
    let center = if points == 0 { f64::NAN } else { pivot + off / total };
    let several = || used().filter(|&i| samples.n[i] > 1.0);
    let weighted = |of: &dyn Fn(usize) -> (f64, f64)| {
        let (mut weights, mut sum) = (0.0, 0.0);
        for i in several() {
            let (weight, estimate) = of(i);
            weights += weight;
            sum += weight * estimate;
        }
        // Var(s)/σ² = 1/(2 df) roughly, which gives the degrees of freedom of a weighted estimate.
        (sum / weights, 0.5 * weights)
    };
    let (sigma, df) = match sigma_from {
        SigmaFrom::Pooled => {
            let (mut df, mut squares) = (0.0, 0.0);
            for i in several() {
                df += samples.n[i] - 1.0;
                squares += (samples.n[i] - 1.0) * samples.sd[i] * samples.sd[i];
            }
            (c4(1.0 + df).map_or(f64::NAN, |c4| (squares / df).sqrt() / c4), df)
        }
        SigmaFrom::Sd => weighted(&|i| {
            let c4 = c4(samples.n[i]).unwrap_or(f64::NAN);
            (c4 * c4 / (1.0 - c4 * c4), samples.sd[i] / c4)
        }),
        _ => weighted(&|i| {
            let constants = range_constants(samples.n[i] as usize).expect("samples of one value are passed over");
            let d2 = constants.d2;
            (d2 * d2 / (constants.d3 * constants.d3), samples.range[i] / d2)
        }),
    };
    Process { center, sigma, n: points, df }
}
