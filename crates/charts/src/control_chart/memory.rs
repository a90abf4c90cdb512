//! Charts with a memory: the weighted moving average and the cumulative sum.
//!
//! EWMA: zₜ = λ xₜ + (1 - λ) zₜ₋₁ from the centre, Var zₜ = λ² σₜ² + (1 - λ)² Var zₜ₋₁, which for equal samples is
//! σ² λ/(2 - λ) (1 - (1 - λ)²ᵗ); limits ± k. CUSUM: upper = max(0, upper + x - (centre + k σ)), lower likewise below;
//! decision limit h σ; a signal resets nothing. Missing and omitted points leave the memory as it is; a phase starts
//! afresh. Sources: Roberts (1959), Technometrics 1; Lucas and Saccucci (1990), Technometrics 32; Page (1954),
//! Biometrika 41; Montgomery (2013), ch. 9.

use std::sync::Arc;

use super::individuals::{processes, ranges_by_phase, used};
use super::panel::{Lines, PanelSpec, PhaseLimits};
use super::params::Params;
use super::parts::ChartParts;
use super::patterns::{Pattern, Signal};
use super::plotted::Plotted;
use super::points::Points;
use super::process::Process;
use super::samples::Samples;
use acorn_study::StudyError;

/// One value a point with what judges it: single values, or means of samples.
pub struct Series {
    pub values: Arc<[f64]>,
    /// Values behind each point; `None` when it is one.
    sizes: Option<Vec<f64>>,
    pub processes: Vec<Process>,
}

impl Series {
    /// Reads single values or gathers samples.
    ///
    /// # Errors
    /// [`StudyError::OutOfRange`] for a baseline beyond the last point.
    pub fn of(params: &Params, points: &Points, columns: &[Arc<[f64]>]) -> Result<Series, StudyError> {
        if params.sampling.is_some() {
            let samples = Samples::of(points, columns);
            let processes = samples.processes(params, points, params.sigma_from)?;
            return Ok(Series { values: samples.mean, sizes: Some(samples.n), processes });
        }
        let values = points.of_rows(&columns[0]);
        let used = used(&values, points);
        let ranges = ranges_by_phase(&used, points, params.mr_length);
        let processes = processes(params, points, &used, &ranges, None)?;
        drop(used);
        Ok(Series { values, sizes: None, processes })
    }

    /// The sd of the value of a point.
    fn sd(&self, point: usize, process: &Process) -> f64 {
        process.sigma / self.sizes.as_ref().map_or(1.0, |sizes| sizes[point].max(1.0).sqrt())
    }
}

/// The weighted moving average.
pub fn ewma(params: &Params, points: &Points, series: &Series) -> ChartParts {
    let lambda = params.lambda;
    let mut plotted = vec![f64::NAN; points.len()];
    let ruler = |(phase, process): (&super::points::Phase, &Process)| {
        let (mut level, mut variance) = (process.center, 0.0);
        let each = phase.points.clone().map(|i| {
            let value = series.values[i];
            let sd = series.sd(i, process);
            let next = lambda * lambda * sd * sd + (1.0 - lambda) * (1.0 - lambda) * variance;
            if !value.is_nan() {
                plotted[i] = lambda * value + (1.0 - lambda) * level;
                if !points.is_omitted(i) {
                    (level, variance) = (plotted[i], next);
                }
            }
            Lines::about(process.center, next.sqrt(), params.width)
        });
        PhaseLimits::of(each.collect())
    };
    let phase_limits = points.phases.iter().zip(&series.processes).map(ruler).collect();
    ChartParts::new(vec![PanelSpec::new(Plotted::Ewma, plotted, phase_limits)], &series.processes)
}

/// The cumulative sums above and below, in the unit of the measure.
pub fn cusum(params: &Params, points: &Points, series: &Series) -> ChartParts {
    let n = points.len();
    let (mut above, mut below) = (vec![f64::NAN; n], vec![f64::NAN; n]);
    let ruler = |(phase, process): (&super::points::Phase, &Process)| {
        let (mut up, mut down) = (0.0, 0.0);
        let each = phase.points.clone().map(|i| {
            let sd = series.sd(i, process);
            let value = series.values[i];
            if !value.is_nan() {
                let slack = params.reference * sd;
                above[i] = f64::max(0.0, up + value - process.center - slack);
                below[i] = f64::max(0.0, down + process.center - slack - value);
                if !points.is_omitted(i) {
                    (up, down) = (above[i], below[i]);
                }
            }
            Lines { center: 0.0, sd, lcl: -params.decision * sd, ucl: params.decision * sd }
        });
        PhaseLimits::of(each.collect())
    };
    let phase_limits = points.phases.iter().zip(&series.processes).map(ruler).collect();
    let larger = above.iter().zip(&below).map(|(&up, &down)| if up >= down { up } else { -down });
    let values = larger.collect();
    let mut parts = ChartParts::new(vec![PanelSpec { plotted: Plotted::Cusum, values, phase_limits, moments: None }], &series.processes);
    parts.diagnostics.sums = Some([above.into(), below.into()]);
    parts
}

/// Stretches in which a sum lies beyond its decision limit. Omitted points are passed over.
pub fn cusum_signals(panel: &mut super::panel::Panel, points: &Points) {
    let Some(sums) = panel.sums.clone() else { return };
    for (sum, side) in sums.iter().zip([1, -1]) {
        let mut open: Option<usize> = None;
        for (place, phase) in points.phases.iter().enumerate() {
            for i in phase.points.clone() {
                let beyond = !points.is_omitted(i) && sum[i] > panel.lines(place, i).ucl;
                open = match (beyond, open) {
                    (true, Some(at)) if i > phase.points.start => {
                        panel.signals[at].last = i;
                        Some(at)
                    }
                    (true, _) => {
                        panel.signals.push(Signal { pattern: Pattern::BeyondLimits, first: i, last: i, side });
                        Some(panel.signals.len() - 1)
                    }
                    (false, _) => None,
                };
            }
        }
    }
    panel.sort_signals();
}
