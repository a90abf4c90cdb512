//! The run chart: values about their median, and whether their order looks random.
//!
//! Runs about the median: with n₁ above and n₂ below, E = 1 + 2n₁n₂/n, Var = 2n₁n₂(2n₁n₂ - n)/(n²(n - 1)) (Wald and
//! Wolfowitz 1940). Runs up and down: E = (2n - 1)/3, Var = (16n - 29)/90 (Levene and Wolfowitz 1944). Values on the
//! median are left out, equal neighbours count once; chances by the normal approximation. Of several phases the newest.

use std::sync::Arc;

use super::individuals::used;
use super::panel::{Lines, PanelSpec, PhaseLimits};
use super::params::{LimitSource, Params};
use super::parts::{ChartParts, MedianRuns, Runs, UpDownRuns};
use super::plotted::Plotted;
use super::points::Points;
use super::process::{Process, bases};
use acorn_maths::describe;
use acorn_maths::normal;
use acorn_study::StudyError;

/// Values about their median.
///
/// # Errors
/// [`StudyError::OutOfRange`] for a baseline beyond the last point.
pub fn build(params: &Params, points: &Points, values: &Arc<[f64]>) -> Result<ChartParts, StudyError> {
    let used = used(values, points);
    let median = |basis: std::ops::Range<usize>| Process {
        center: describe::median(&used[basis.clone()]).unwrap_or(f64::NAN),
        sigma: f64::NAN,
        n: describe::count(&used[basis]),
        df: f64::NAN,
    };
    let processes: Vec<Process> = match params.limits {
        LimitSource::Known { center, .. } => vec![Process::known(center, None, points.len()); points.phases.len()],
        _ => bases(params, points)?.into_iter().map(median).collect(),
    };
    let phase_limits = processes.iter().map(|process| PhaseLimits::even(Lines::only(process.center))).collect();
    let mut parts = ChartParts::new(vec![PanelSpec::new(Plotted::Individuals, values.clone(), phase_limits)], &processes);
    parts.diagnostics.runs = points.phases.last().zip(processes.last()).map(|(phase, process)| {
        let newest = &used[phase.points.clone()];
        Runs { about_median: about_median(newest, process.center), up_down: up_down(newest) }
    });
    Ok(parts)
}

/// z of a count of runs, `None` when its variance is not positive.
fn score(observed: usize, expected: f64, variance: f64) -> Option<f64> {
    (variance > 0.0).then(|| (observed as f64 - expected) / variance.sqrt())
}

fn changes<T: PartialEq>(sides: &[T]) -> usize {
    if sides.is_empty() { 0 } else { 1 + sides.windows(2).filter(|pair| pair[0] != pair[1]).count() }
}

pub fn about_median(values: &[f64], median: f64) -> MedianRuns {
    let sides: Vec<bool> = values.iter().filter(|value| !value.is_nan() && **value != median).map(|value| *value > median).collect();
    let n = sides.len() as f64;
    let above = sides.iter().filter(|side| **side).count() as f64;
    let product = 2.0 * above * (n - above);
    let observed = changes(&sides);
    let expected = 1.0 + product / n;
    let z = score(observed, expected, product * (product - n) / (n * n * (n - 1.0)));
    MedianRuns {
        n: sides.len(),
        observed,
        expected: Some(expected).filter(|e| e.is_finite()),
        p_clustering: z.map(normal::below),
        p_mixtures: z.map(normal::above),
    }
}

pub fn up_down(values: &[f64]) -> UpDownRuns {
    let mut kept: Vec<f64> = values.iter().copied().filter(|value| !value.is_nan()).collect();
    kept.dedup();
    let rises: Vec<bool> = kept.windows(2).map(|pair| pair[1] > pair[0]).collect();
    let n = kept.len() as f64;
    let observed = changes(&rises);
    let expected = (2.0 * n - 1.0) / 3.0;
    let z = (kept.len() > 2).then(|| score(observed, expected, (16.0 * n - 29.0) / 90.0)).flatten();
    UpDownRuns {
        n: kept.len(),
        observed,
        expected: (kept.len() > 1).then_some(expected),
        p_trends: z.map(normal::below),
        p_oscillation: z.map(normal::above),
    }
}
