//! Individuals and moving range.
//!
//! center = x̄, sigma = MRbar / d2(w) (or the median moving range over that of normals), limits center ± k sigma;
//! moving range: d2 sigma, and (d2 ± k d3) sigma floored at 0. Inputs and outputs in the unit of the measure.
//! Sources: Montgomery (2013), Introduction to Statistical Quality Control, sec. 6.4; Nelson (1982) for the
//! median moving range.

use std::borrow::Cow;
use std::sync::Arc;

use super::panel::{Lines, PanelSpec};
use super::params::{LimitSource, Params};
use super::parts::{ChartParts, even};
use super::plotted::Plotted;
use super::points::Points;
use super::process::{Process, bases, moving_ranges, of_values};
use acorn_maths::bias::range_constants;
use acorn_maths::describe::{Moments, mean_and_extent, moments};
use acorn_maths::is_shared;
use acorn_study::StudyError;

/// Values, with omitted ones as missing.
pub fn used<'v>(values: &'v [f64], points: &Points) -> Cow<'v, [f64]> {
    match &points.omitted {
        Some(omitted) => values.iter().zip(omitted).map(|(&value, &out)| if out { f64::NAN } else { value }).collect(),
        None => Cow::Borrowed(values),
    }
}

/// Moving ranges that cross no edge of a phase.
pub fn ranges_by_phase(used: &[f64], points: &Points, length: usize) -> Arc<[f64]> {
    if length == 2 && points.phases.len() == 1 {
        let first = used.first().map(|_| f64::NAN);
        return first.into_iter().chain(used.windows(2).map(|pair| (pair[1] - pair[0]).abs())).collect();
    }
    let mut ranges: Arc<[f64]> = std::iter::repeat_n(f64::NAN, used.len()).collect();
    let here = Arc::make_mut(&mut ranges);
    for phase in &points.phases {
        moving_ranges(&used[phase.points.clone()], length, &mut here[phase.points.clone()]);
    }
    ranges
}

/// Moments of all values in use, and of all their moving ranges.
pub type Whole = (Moments, Moments);

/// The process that judges each phase, from single values and their moving ranges.
///
/// # Errors
/// [`StudyError::OutOfRange`] for a baseline beyond the last point.
pub fn processes(params: &Params, points: &Points, used: &[f64], ranges: &[f64], whole: Option<Whole>) -> Result<Vec<Process>, StudyError> {
    if let LimitSource::Known { center, sigma, .. } = params.limits {
        return Ok(vec![Process::known(center, sigma, points.len()); points.phases.len()]);
    }
    let one = |basis: std::ops::Range<usize>| {
        // Moving ranges lie wholly inside the basis: the first ones reach back before it.
        let inside = (basis.start + params.mr_length - 1).min(basis.end)..basis.end;
        let ranges = &ranges[inside];
        let (values, range_moments) = match whole.filter(|_| basis == (0..used.len())) {
            Some(whole) => whole,
            None => (moments(&used[basis]), mean_and_extent(ranges)),
        };
        of_values(&values, &range_moments, ranges, params.sigma_from, params.mr_length)
    };
    Ok(bases(params, points)?.into_iter().map(one).collect())
}

/// Computes the chart of one value a point.
///
/// # Errors
/// [`StudyError::OutOfRange`] for a baseline beyond the last point.
pub fn build(params: &Params, points: &Points, values: &Arc<[f64]>) -> Result<ChartParts, StudyError> {
    let used = used(values, points);
    let (of_values, of_ranges) = (|| moments(&used), || ranges_by_phase(&used, points, params.mr_length));
    let (of_values, ranges) = if is_shared(used.len()) { rayon::join(of_values, of_ranges) } else { (of_values(), of_ranges()) };
    let whole = (of_values, mean_and_extent(&ranges));
    let processes = processes(params, points, &used, &ranges, Some(whole))?;
    let constants = range_constants(params.mr_length).expect("the moving range length is checked to be 2 or more");
    let [low, high] = params.bounds;
    let location = even(&processes, |p| Lines::about(p.center, p.sigma, params.width).within(low, high));
    let spread =
        even(&processes, |p| Lines::about(constants.d2 * p.sigma, constants.d3 * p.sigma, params.width).within(0.0, f64::INFINITY));
    let seen = points.omitted.is_none().then_some(whole.0);
    let panels = vec![
        PanelSpec { plotted: Plotted::Individuals, values: values.clone(), phase_limits: location, moments: seen },
        PanelSpec { plotted: Plotted::MovingRange, values: ranges, phase_limits: spread, moments: Some(whole.1) },
    ];
    Ok(ChartParts::new(panels, &processes))
}
