//! Centre and process sd of a stretch of points.

use super::params::{LimitSource, Params, SigmaFrom};
use crate::numeric::bias::RangeConstants;
use crate::numeric::describe::{self, Moments};

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

/// A stretch of points with its moving ranges and the moments of both.
pub struct Stretch<'v> {
    /// Moments of the values in use.
    pub values: Moments,
    /// Moments of the moving ranges.
    pub ranges: Moments,
    /// The moving ranges themselves, for their median.
    pub range_values: &'v [f64],
}

impl<'v> Stretch<'v> {
    /// Looks at values and at their moving ranges.
    pub fn of(values: &[f64], range_values: &'v [f64]) -> Stretch<'v> {
        Stretch { values: describe::moments(values), ranges: describe::moments(range_values), range_values }
    }

    /// Centre and sd: mean, and MRbar / d2 or the median moving range over that of normals.
    fn process(&self, sigma_from: SigmaFrom, constants: &RangeConstants) -> Process {
        let sigma = match sigma_from {
            SigmaFrom::MrMean => self.ranges.mean.map(|mean| mean / constants.d2),
            SigmaFrom::MrMedian => describe::median(self.range_values).map(|median| median / constants.median),
        };
        Process { center: self.values.mean, sigma, n: self.values.n }
    }
}

/// The process that judges each phase. `used` are all values, omitted ones NaN; `ranges` their moving ranges.
pub fn processes(params: &Params, used: &[f64], ranges: &[f64], phases: &[Stretch], constants: &RangeConstants) -> Vec<Process> {
    let one_for_all = |process: Process| vec![process; phases.len()];
    match params.limits {
        LimitSource::Known { center, sigma } => one_for_all(Process { center: Some(center), sigma: Some(sigma), n: used.len() }),
        LimitSource::Data => phases.iter().map(|phase| phase.process(params.sigma_from, constants)).collect(),
        LimitSource::Baseline { first, last } => {
            // Moving ranges lie wholly inside the baseline: the first ones reach back before it.
            let inside = (first + params.mr_length - 1).min(last + 1)..last + 1;
            one_for_all(Stretch::of(&used[first..=last], &ranges[inside]).process(params.sigma_from, constants))
        }
    }
}
