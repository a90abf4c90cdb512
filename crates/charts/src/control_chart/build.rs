//! The panels of each kind of chart, and their signals.

use std::sync::Arc;

use super::kind::ChartKind;
use super::memory::{self, Series};
use super::panel::Panel;
use super::params::{Params, Sampling};
use super::parts::ChartParts;
use super::patterns::{Pattern, RunRule};
use super::plotted::Plotted;
use super::points::Points;
use super::samples::{self, Samples};
use super::{counts, deviation, individuals, rare, run};
use acorn_maths::words::ValueFormat;
use acorn_study::{Cancel, StudyError};

/// What a kind of chart makes of the charted columns.
///
/// # Errors
/// [`StudyError`] where it cannot be drawn of them.
pub fn build(params: &Params, points: &Points, raw: &[Arc<[f64]>]) -> Result<ChartParts, StudyError> {
    match params.kind {
        ChartKind::Individuals => individuals::build(params, points, &points.of_rows(&raw[0])),
        ChartKind::Ratio => individuals::build(params, points, &counts::Counts::read(params, points)?.ratios()),
        ChartKind::XbarR | ChartKind::XbarS | ChartKind::XbarBetween => samples::build(params, points, raw),
        ChartKind::P | ChartKind::Np | ChartKind::C | ChartKind::U | ChartKind::PPrime | ChartKind::UPrime => counts::build(params, points),
        ChartKind::Ewma => {
            let series = Series::of(params, points, raw)?;
            Ok(memory::ewma(params, points, &series).with_observed(series.values))
        }
        ChartKind::Cusum => {
            let series = Series::of(params, points, raw)?;
            Ok(memory::cusum(params, points, &series).with_observed(series.values))
        }
        ChartKind::Run => run::build(params, points, &one_each(params, points, raw)),
        ChartKind::G | ChartKind::T => rare::build(params, points, &points.of_rows(&raw[0])),
        ChartKind::Deviation => deviation::build(params, points, raw),
    }
}

/// One value a point: the value itself, or the mean of its sample.
fn one_each(params: &Params, points: &Points, raw: &[Arc<[f64]>]) -> Arc<[f64]> {
    if params.sampling.is_some_and(Sampling::of_values) { Samples::of(points, raw).mean } else { points.of_rows(&raw[0]) }
}

/// The panels with their signals.
///
/// # Errors
/// [`StudyError::Stopped`].
pub fn search_panels(params: &Params, points: &Points, parts: &mut ChartParts, cancel: &Cancel) -> Result<Vec<Panel>, StudyError> {
    let mut panels = Vec::new();
    for (place, drawn) in std::mem::take(&mut parts.panels).into_iter().enumerate() {
        let mut panel = Panel::new(drawn, &points.phases, ValueFormat::default());
        if panel.plotted == Plotted::Cusum {
            panel.sums = parts.diagnostics.sums.take();
            memory::cusum_signals(&mut panel, points);
        } else if place == 0 {
            panel.search(points, params.width, &params.run_rules, cancel)?;
        } else {
            panel.search(points, params.width, &[RunRule::usual(Pattern::BeyondLimits)], cancel)?;
        }
        panels.push(panel);
    }
    Ok(panels)
}
