//! Rare events: pieces between events (g) and time between events (t).
//!
//! g: geometric, P(Y = y) = p (1 - p)^y for y = 0, 1, ... with p = 1 / (1 + ȳ); limits at the smallest y whose
//! distribution function reaches Φ(-k) and Φ(k), centre at the median; on request ȳ ± k √(ȳ (ȳ + 1)). t: Weibull by
//! maximum likelihood (shape 1 when exponential is asked for), limits and centre at the quantiles of the same shares.
//! Zones lie at the quantiles of Φ(±1) and Φ(±2). Sources: Kaminsky et al. (1992), J. Quality Technology 24; Benneyan
//! (2001), Health Care Management Science 4; Xie, Goh and Ranjan (2002), Reliability Engineering and System Safety 77;
//! Nelson (1994), J. Quality Technology 26.

use std::sync::Arc;

use super::individuals::used;
use super::kind::ChartKind;
use super::panel::{Lines, PanelSpec, PhaseLimits};
use super::params::{LimitSource, Params, Tails, TimeShape};
use super::parts::ChartParts;
use super::plotted::Plotted;
use super::points::Points;
use super::process::{Process, bases};
use acorn_maths::describe;
use acorn_maths::normal;
use acorn_maths::shapes::{self, Family};
use acorn_maths::sorting::Sorted;
use acorn_maths::words::typed;
use acorn_study::StudyError;

/// A chart of counts or times between events.
///
/// # Errors
/// [`StudyError::BadValue`] for a negative count, a count that is not whole, or a time that is not positive.
pub fn build(params: &Params, points: &Points, values: &Arc<[f64]>) -> Result<ChartParts, StudyError> {
    check(params, points, values)?;
    let used = used(values, points);
    let counts = params.kind == ChartKind::G;
    let mut shape = None;
    let mut tail = None;
    let mut processes = Vec::new();
    let mut phase_limits = Vec::new();
    for basis in bases(params, points)? {
        let kept: Vec<f64> = used[basis].iter().copied().filter(|value| !value.is_nan()).collect();
        let mean = match params.limits {
            LimitSource::Known { center, .. } => center,
            _ => describe::moments(&kept).mean.unwrap_or(f64::NAN),
        };
        processes.push(Process { center: mean, sigma: f64::NAN, n: kept.len(), df: f64::NAN });
        if counts && params.tails == Tails::Sigma {
            let sd = (mean * (mean + 1.0)).sqrt();
            phase_limits.push(PhaseLimits::even(Lines::about(mean, sd, params.width).within(0.0, f64::INFINITY)));
            continue;
        }
        let fitted = if counts { None } else { weibull(params, &kept, mean) };
        let quantile = |z: f64| match fitted {
            Some((shape, scale)) => scale * (-normal::above(z).ln()).powf(1.0 / shape),
            None if counts => geometric(mean, z),
            None => f64::NAN,
        };
        let zones = [-params.width, -2.0, -1.0, 0.0, 1.0, 2.0, params.width].map(quantile);
        let lines = Lines { center: zones[3], sd: f64::NAN, lcl: zones[0], ucl: zones[6] };
        phase_limits.push(PhaseLimits::Even { lines, zones: Some(zones) });
        shape = fitted;
        if counts {
            let share = 1.0 / (1.0 + mean);
            // P(Y < lcl) + P(Y > ucl): what the whole numbers leave of the two tails.
            let below = 1.0 - (1.0 - share).powf(zones[0]);
            tail = Some(below + (1.0 - share).powf(zones[6] + 1.0));
        }
    }
    let plotted = if counts { Plotted::PiecesBetween } else { Plotted::TimeBetween };
    let mut parts = ChartParts::new(vec![PanelSpec::new(plotted, values.clone(), phase_limits)], &processes);
    parts.process = None;
    parts.diagnostics.shape = shape;
    parts.diagnostics.tail = tail;
    parts.diagnostics.mean_between = processes.last().map(|process| process.center).filter(|_| counts);
    Ok(parts)
}

fn check(params: &Params, points: &Points, values: &[f64]) -> Result<(), StudyError> {
    for (point, &value) in values.iter().enumerate() {
        let problem = match params.kind {
            ChartKind::G if value < 0.0 => format!("{} is negative, which a count cannot be", typed(value)),
            ChartKind::G if value.fract() != 0.0 && !value.is_nan() => format!("{} is not a whole number of pieces", typed(value)),
            ChartKind::T if value <= 0.0 => format!("{} is not a time between two events: it must be above 0", typed(value)),
            _ => continue,
        };
        return Err(StudyError::BadValue { column: params.column().name.clone(), row: points.first_row(point), problem });
    }
    Ok(())
}

/// The smallest count whose distribution function reaches Φ(z).
pub fn geometric(mean: f64, z: f64) -> f64 {
    let stay = mean / (1.0 + mean);
    if stay == 0.0 {
        return 0.0;
    }
    // 1 - stay^(y + 1) ≥ Φ(z) from y + 1 = ln(1 - Φ(z)) / ln(stay) on; the slack undoes rounding just above a whole number.
    let exact = normal::above(z).ln() / stay.ln() - 1.0;
    (exact - 1e-9 * exact.abs().max(1.0)).ceil().max(0.0) + 0.0
}

/// Shape and scale of the times; `None` when nothing tells them.
fn weibull(params: &Params, times: &[f64], mean: f64) -> Option<(f64, f64)> {
    if params.time_shape == TimeShape::Exponential || matches!(params.limits, LimitSource::Known { .. }) {
        return mean.is_finite().then_some((1.0, mean));
    }
    let fitted = shapes::fit(Family::Weibull, &Sorted::of(times))?;
    Some((1.0 / fitted.scale, fitted.location.exp()))
}
