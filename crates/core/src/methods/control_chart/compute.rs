//! Individuals and moving range.
//!
//! center = x̄, sigma = MRbar / d2(w) (or the median moving range over that of normals), limits center ± k sigma;
//! moving range: d2 sigma, and (d2 ± k d3) sigma floored at 0. Inputs and outputs in the unit of the measure.
//! Sources: Montgomery (2013), Introduction to Statistical Quality Control, sec. 6.4; Nelson (1982) for the
//! median moving range.

use std::borrow::Cow;
use std::ops::Range;
use std::sync::Arc;

use super::answer::{Chart, Panel, PhaseLimits};
use super::false_alarm;
use super::limits::{Process, Stretch, moving_ranges, processes};
use super::params::{LimitSource, Params};
use super::patterns::{Judged, Pattern, Watch};
use crate::frame::{Column, NO_TIME, Values};
use crate::numeric::bias;
use crate::numeric::describe::{self, Moments};
use crate::study::words::Writer;
use crate::study::{Cancel, StudyError};

struct Phase {
    label: Option<String>,
    points: Range<usize>,
}

/// Computes the chart.
///
/// # Errors
/// [`StudyError::TooFewValues`] without a single value, [`StudyError::Stopped`].
pub fn individuals(params: &Params, cancel: &Cancel) -> Result<Chart, StudyError> {
    let order = params.order.and_then(sorted_rows);
    let plotted: Arc<[f64]> = match &order {
        Some(order) => order.iter().map(|&row| params.values[row]).collect(),
        None => params.values.clone(),
    };
    let omitted = omitted_points(params, order.as_deref());
    // Statistics and patterns see omitted points as missing.
    let used: Cow<[f64]> = match &omitted {
        Some(omitted) => plotted.iter().zip(omitted).map(|(&v, &out)| if out { f64::NAN } else { v }).collect(),
        None => Cow::Borrowed(&plotted),
    };
    let phases = phases(params.phase, order.as_deref(), plotted.len());
    let mut ranges: Arc<[f64]> = std::iter::repeat_n(f64::NAN, used.len()).collect();
    let ranges_here = Arc::make_mut(&mut ranges);
    for phase in &phases {
        moving_ranges(&used[phase.points.clone()], params.mr_length, &mut ranges_here[phase.points.clone()]);
    }
    cancel.check()?;

    let stretches: Vec<Stretch> =
        phases.iter().map(|phase| Stretch::of(&used[phase.points.clone()], &ranges[phase.points.clone()])).collect();
    let moments = match (&stretches[..], &omitted) {
        ([only], None) => only.values,
        _ => describe::moments(&plotted),
    };
    if moments.n == 0 {
        return Err(StudyError::TooFewValues { column: params.measure.name.clone(), have: 0, need: 1 });
    }
    let constants = bias::range_constants(params.mr_length).expect("the moving range length is checked to be 2 or more");
    let processes = processes(params, &used, &ranges, &stretches, &constants);
    let panel = |name, values: &Arc<[f64]>, moments: &[Moments], lines: &dyn Fn(&Process) -> Lines| Panel {
        name,
        values: values.clone(),
        present: moments.iter().map(|m| m.n).sum(),
        extent: extent(moments),
        phases: phases.iter().zip(&processes).map(|(phase, process)| lines(process).of(phase)).collect(),
        signals: Vec::new(),
    };
    let range_moments: Vec<Moments> = stretches.iter().map(|stretch| stretch.ranges).collect();
    let mut location = panel("individuals", &plotted, &[moments], &|p| limits(p.center, p.sigma, params.width, f64::NEG_INFINITY));
    let mut spread = panel("moving-range", &ranges, &range_moments, &|p| {
        let center = p.sigma.map(|sigma| constants.d2 * sigma);
        limits(center, p.sigma.map(|sigma| constants.d3 * sigma), params.width, 0.0)
    });
    search(&mut location, &used, params, &params.watches, cancel)?;
    search(&mut spread, &ranges, params, &[Watch::usual(Pattern::BeyondLimits)], cancel)?;
    let lag_one = describe::lag_one_correlation(&plotted, &moments);
    let basis = match params.limits {
        LimitSource::Known { .. } => moments.n,
        _ => processes.iter().map(|process| process.n).min().unwrap_or(0),
    };
    Ok(Chart {
        kind: params.chart,
        sigma_within: processes.last().and_then(|process| process.sigma),
        unordered: params.order.map_or(0, |column| missing_in_order(&column.values)),
        row_ids: params.frame.row_ids().cloned(),
        named: params.label.is_some(),
        labels: params.label.or(params.order).map(|column| column.values.clone()),
        points_between: false_alarm::points_between(&params.watches, params.width, cancel)?,
        width: params.width,
        watches: params.watches.clone(),
        writer: Writer::of(&params.measure.info, describe::decimals(&plotted)),
        column: params.measure.name.clone(),
        limits_known: matches!(params.limits, LimitSource::Known { .. }),
        panels: vec![location, spread],
        omitted,
        order,
        basis,
        lag_one,
        moments,
    })
}

/// Row positions in rising order of a column, rows without a value last; `None` when they are already in
/// order, or when labels leave only the order of the rows.
fn sorted_rows(column: &Column) -> Option<Vec<usize>> {
    let mut rows: Vec<usize> = (0..column.values.len()).collect();
    match &column.values {
        Values::Number(values) if !values.is_sorted_by(|a, b| a <= b || b.is_nan()) => {
            rows.sort_by(|&a, &b| values[a].is_nan().cmp(&values[b].is_nan()).then(values[a].total_cmp(&values[b])));
        }
        Values::Time(values) if !values.is_sorted_by_key(|&time| (time == NO_TIME, time)) => {
            rows.sort_by_key(|&row| (values[row] == NO_TIME, values[row]));
        }
        _ => return None,
    }
    Some(rows)
}

fn missing_in_order(values: &Values) -> usize {
    match values {
        Values::Number(values) => values.len() - describe::count(values),
        Values::Time(values) => values.iter().filter(|&&time| time == NO_TIME).count(),
        Values::Label { .. } => 0,
    }
}

fn omitted_points(params: &Params, order: Option<&[usize]>) -> Option<Vec<bool>> {
    let row = |point: usize| order.map_or(point, |order| order[point]);
    let is_out = |point| params.omit.contains(&params.frame.row_id(row(point)));
    (!params.omit.is_empty()).then(|| (0..params.values.len()).map(is_out).collect())
}

/// Stretches of points with one phase value; one nameless stretch without a phase column.
fn phases(column: Option<&Column>, order: Option<&[usize]>, n: usize) -> Vec<Phase> {
    let Some(column) = column else {
        return vec![Phase { label: None, points: 0..n }];
    };
    let label = |point: usize| column.values.text(order.map_or(point, |order| order[point]));
    let mut phases: Vec<Phase> = Vec::new();
    for point in 0..n {
        let label = label(point);
        match phases.last_mut() {
            Some(phase) if phase.label == label => phase.points.end = point + 1,
            _ => phases.push(Phase { label, points: point..point + 1 }),
        }
    }
    phases.iter_mut().for_each(|phase| {
        phase.label.get_or_insert_with(|| "no phase".to_owned());
    });
    phases
}

/// Centre, sd and limits of a plotted statistic.
struct Lines {
    center: Option<f64>,
    sigma: Option<f64>,
    lcl: Option<f64>,
    ucl: Option<f64>,
}

fn limits(center: Option<f64>, sigma: Option<f64>, width: f64, floor: f64) -> Lines {
    let reach = center.zip(sigma);
    Lines { center, sigma, lcl: reach.map(|(c, s)| (c - width * s).max(floor)), ucl: reach.map(|(c, s)| c + width * s) }
}

impl Lines {
    fn of(self, phase: &Phase) -> PhaseLimits {
        let Lines { center, sigma, lcl, ucl } = self;
        PhaseLimits { label: phase.label.clone(), first: phase.points.start, last: phase.points.end - 1, center, lcl, ucl, sigma }
    }
}

/// The smallest and the largest of several stretches.
fn extent(moments: &[Moments]) -> Option<[f64; 2]> {
    let each = moments.iter().filter_map(|m| m.min.zip(m.max));
    each.map(|(low, high)| [low, high]).reduce(|[low, high], [a, b]| [low.min(a), high.max(b)])
}

/// Searches each phase of a panel for each watched pattern. Zones are taken before limits are floored.
fn search(panel: &mut Panel, used: &[f64], params: &Params, watches: &[Watch], cancel: &Cancel) -> Result<(), StudyError> {
    for phase in &panel.phases {
        let (Some(center), Some(sigma)) = (phase.center, phase.sigma) else {
            continue;
        };
        let judged = Judged { values: &used[phase.first..=phase.last], center, sd: sigma, width: params.width };
        for &watch in watches {
            cancel.check()?;
            judged.find(watch, phase.first, &mut panel.signals);
        }
    }
    panel.signals.sort_by_key(|signal| (signal.first, signal.pattern, signal.last));
    Ok(())
}
