//! From checked parameters to a chart: points, panels, signals, and what they say about each other.

use std::sync::Arc;

use super::answer::Chart;
use super::build::{build, search_panels};
use super::chance;
use super::compare::Source;
use super::counting::Counting;
use super::explanation::Explanation;
use super::kind::ChartKind;
use super::lineup::{Candidate, LineUp};
use super::panel::Panel;
use super::params::{Inspected, LimitSource, Params};
use super::parts::ChartParts;
use super::patterns::{Pattern, RunRule};
use super::plotted::Plotted;
use super::points::Points;
use super::samples::{self, Samples};
use super::{counts, false_alarm};
use acorn_maths::describe::{self, Moments};
use acorn_maths::words::ValueFormat;
use acorn_study::{Cancel, StudyError};

/// Computes the chart.
///
/// # Errors
/// [`StudyError::TooFewValues`] without a single value, [`StudyError::BadValue`] for an impossible count,
/// [`StudyError::OutOfRange`] for a baseline or cut beyond the points, [`StudyError::Stopped`].
pub fn compute(params: &Params, cancel: &Cancel) -> Result<Chart, StudyError> {
    let nothing = || StudyError::TooFewValues { column: params.column().name.clone(), have: 0, need: 1 };
    let points = Points::arrange(params)?;
    if points.len() == 0 {
        return Err(nothing());
    }
    let raw = if params.kind.counts() { Vec::new() } else { samples::columns(params) };
    let mut parts = build(params, &points, &raw)?;
    cancel.check()?;
    let panels = panels(params, &points, &mut parts, &raw, cancel)?;
    let moments = moments(&raw, &panels[0]);
    if moments.n == 0 {
        return Err(nothing());
    }
    let counting = counting(params, &parts, &panels[0]);
    let sigma_within = parts.process.map(|process| process.sigma).filter(|sigma| sigma.is_finite());
    let chance = chance::weigh(params, &points, &raw, &panels, &parts.diagnostics, sigma_within, cancel)?;
    let line_up = if params.kind.counts() { line_up(params, &points, &mut parts, cancel)? } else { None };
    let observed = parts.observed.clone().unwrap_or_else(|| panels[0].values.clone());
    let frozen = !matches!(params.limits, LimitSource::Data);
    let (comparison, freshness) = if points.phases.len() > 1 || frozen {
        let charted = parts.charted.as_ref().unwrap_or(&raw);
        let samples = params.sampling.filter(|sampling| sampling.of_values()).map(|_| Samples::of(&points, charted));
        let source = Source { params, points: &points, values: &observed, samples: samples.as_ref(), charted };
        (source.phases(), source.freshness().map(|fresh| fresh.with_beyond(&panels[0])))
    } else {
        (None, None)
    };
    let lag_one = match &points.phases[..] {
        // The moments are those of the values as they were read, which deviations are not.
        [_] if raw.len() == 1 && !points.gathered() && params.kind != ChartKind::Deviation => {
            describe::lag_one_correlation(&observed, &moments)
        }
        phases => {
            // Each phase about its own mean: a shift between phases is no likeness of neighbours.
            let own = phases.iter().flat_map(|phase| about_mean(&observed[phase.points.clone()])).collect::<Vec<_>>();
            describe::lag_one_correlation(&own, &describe::moments(&own))
        }
    };
    let mut chart = Chart {
        kind: params.kind,
        gauge: None,
        sigma_within,
        chance,
        explanation: None,
        in_control_arl: in_control_arl(params, &parts, counting.as_ref(), cancel)?,
        counting,
        width: params.width,
        run_rules: params.run_rules.clone(),
        column: params.column().name.clone(),
        side_names: params.columns.iter().map(|column| column.name.clone()).collect(),
        limits_sample_size: parts.limits_sample_size,
        limits_df: parts.limits_df,
        limits: params.limits.clone(),
        diagnostics: parts.diagnostics,
        panels,
        points,
        raw,
        comparison,
        freshness,
        line_up,
        lag_one,
        moments,
    };
    chart.explanation = Explanation::of(&chart, params.frame, cancel)?;
    Ok(chart)
}

fn about_mean(values: &[f64]) -> impl Iterator<Item = f64> + '_ {
    let mean = describe::moments(values).mean.unwrap_or(f64::NAN);
    values.iter().map(move |value| value - mean)
}

fn panels(params: &Params, points: &Points, parts: &mut ChartParts, raw: &[Arc<[f64]>], cancel: &Cancel) -> Result<Vec<Panel>, StudyError> {
    let mut panels = search_panels(params, points, parts, cancel)?;
    for panel in &mut panels {
        panel.writer = writer(params, panel, raw);
    }
    Ok(panels)
}

/// How the values of a panel are written: measured ones as they were read, means one decimal finer, shares in percent.
fn writer(params: &Params, panel: &Panel, raw: &[Arc<[f64]>]) -> ValueFormat {
    let reach = panel.span().map_or(1.0, |[low, high]| (high - low) / 6.0);
    let measured = || {
        let found = raw.iter().map(|column| describe::decimals(column)).max().unwrap_or(0);
        params.column().info.writer(found)
    };
    match panel.plotted {
        Plotted::Proportion => ValueFormat::fine("%", 100.0, reach),
        Plotted::Rate => ValueFormat::fine("per unit", 1.0, reach),
        Plotted::Count | Plotted::PiecesBetween => ValueFormat::plain(0),
        Plotted::StandardisedDeviation => ValueFormat::plain(2),
        Plotted::Individuals | Plotted::MovingRange if params.kind == ChartKind::Ratio => match panel.extent {
            Some([_, high]) if high <= 1.0 => ValueFormat::fine("%", 100.0, reach),
            _ => ValueFormat::fine("per unit", 1.0, reach),
        },
        Plotted::Individuals | Plotted::TimeBetween => measured(),
        Plotted::MovingRange | Plotted::Range if !matches!(params.kind, ChartKind::XbarBetween) => measured(),
        _ => measured().finer(),
    }
}

fn moments(raw: &[Arc<[f64]>], location: &Panel) -> Moments {
    match raw {
        [] => location.moments,
        // The same values, perhaps in another order.
        [_] if location.plotted == Plotted::Individuals => location.moments,
        [one] => describe::moments(one),
        several => describe::moments(&several.iter().flat_map(|column| column.iter().copied()).collect::<Vec<_>>()),
    }
}

/// What chance brings to a usual point of a chart of counts.
fn counting(params: &Params, parts: &ChartParts, location: &Panel) -> Option<Counting> {
    let (lines, zones) = location.usual_lines()?;
    match (params.kind, zones) {
        (ChartKind::G, Some(zones)) => Counting::of_pieces_between(parts.diagnostics.mean_between?, zones),
        (kind, _) => Counting::of(kind, lines, params.width),
    }
}

fn in_control_arl(params: &Params, parts: &ChartParts, counting: Option<&Counting>, cancel: &Cancel) -> Result<Option<f64>, StudyError> {
    let only_limits = matches!(params.run_rules[..], [RunRule { pattern: Pattern::BeyondLimits, .. }]);
    match (params.kind, counting) {
        _ if params.run_rules.is_empty() => Ok(None),
        (ChartKind::Ewma, _) if only_limits => false_alarm::ewma(params.lambda, params.width, cancel),
        (ChartKind::Cusum, _) if only_limits => false_alarm::cusum(params.reference, params.decision, cancel),
        // Their tails are known whatever the mean.
        (ChartKind::G, _) if only_limits => Ok(parts.diagnostics.tail.filter(|tail| *tail > 0.0).map(|tail| 1.0 / tail)),
        (_, Some(counting)) => counting.points_between(&params.run_rules, cancel),
        _ => false_alarm::in_control_arl(&params.run_rules, params.width, cancel),
    }
}

/// The same counts as a plain chart, a prime chart and single values, with what scatter says about them.
fn line_up(params: &Params, points: &Points, parts: &mut ChartParts, cancel: &Cancel) -> Result<Option<LineUp>, StudyError> {
    let counts = counts::Counts::read(params, points)?;
    let pieces = match params.kind {
        ChartKind::Ratio => counts.at_most_inspected(),
        kind => kind.counts_pieces(),
    };
    let kinds = if pieces { [ChartKind::P, ChartKind::PPrime] } else { [ChartKind::U, ChartKind::UPrime] };
    let mut candidates = Vec::new();
    for kind in [kinds[0], kinds[1], ChartKind::Ratio] {
        let limits = if matches!(params.limits, LimitSource::Known { .. }) { LimitSource::Data } else { params.limits.clone() };
        let inspected = params.inspected.or(Some(Inspected::Constant(1.0)));
        let as_kind = Params { kind, limits, inspected, run_rules: vec![RunRule::usual(Pattern::BeyondLimits)], ..params.clone() };
        let mut drawn = build(&as_kind, points, &[])?;
        if kind == kinds[0] && params.kind == ChartKind::Ratio {
            parts.diagnostics.dispersion = drawn.diagnostics.dispersion;
        }
        let panel = panels(&as_kind, points, &mut drawn, &[], cancel)?.into_iter().next();
        candidates.extend(panel.map(|panel| Candidate::new(kind, panel)));
    }
    Ok(parts.diagnostics.dispersion.map(|dispersion| LineUp::of(candidates, dispersion, counts.sizes())))
}
