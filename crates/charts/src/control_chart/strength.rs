//! Which signal to look at first: the one that a steady process would show least.

use super::answer::Chart;
use super::panel::Panel;
use super::patterns::{Pattern, Signal};
use acorn_maths::normal;

/// What a chance below the smallest number counts for.
const MOST: f64 = 700.0;

/// How far a point lies from the centre, in thirds of the distance of its limit on that side; 0 when nothing is known.
fn score(panel: &Panel, point: usize) -> f64 {
    let place = panel.phases.iter().rposition(|phase| phase.first <= point).unwrap_or(0);
    let lines = panel.lines(place, point);
    let value = panel.values[point];
    let room = if value >= lines.center { lines.ucl - lines.center } else { lines.center - lines.lcl };
    let score = 3.0 * (value - lines.center) / room;
    if score.is_finite() { score } else { 0.0 }
}

/// Minus the logarithm of the chance of a score as far out on either side.
fn rarity(score: f64) -> f64 {
    -(2.0 * normal::above(score.abs())).ln().max(-MOST)
}

/// How strong a signal is: minus the logarithm of about the chance of it at a given place.
pub fn of(panel: &Panel, signal: &Signal) -> f64 {
    let points = signal.first..=signal.last;
    let n = (signal.last - signal.first + 1) as f64;
    let scores = || points.clone().map(|point| score(panel, point));
    // As means tell a shift: the same side, so many times.
    let shifted = rarity(scores().sum::<f64>() / n.sqrt());
    match signal.pattern {
        Pattern::BeyondLimits => scores().map(rarity).sum::<f64>().min(MOST),
        Pattern::RunOneSide => shifted.max((n - 1.0) * 2.0_f64.ln()),
        Pattern::Trend => (1..=n as usize).map(|k| (k as f64).ln()).sum::<f64>() - 2.0_f64.ln(),
        Pattern::Alternating => 0.45 * n,
        Pattern::TwoOfThreeOuter | Pattern::FourOfFiveOuter => shifted,
        Pattern::HuggingCentre => -n * 0.683_f64.ln(),
        Pattern::AvoidingCentre => -n * 0.317_f64.ln(),
    }
}

impl Chart {
    /// The strongest signal of the first panel that has any.
    pub(super) fn strongest(&self) -> Option<(&Panel, &Signal)> {
        let panel = self.panels.iter().find(|panel| !panel.signals.is_empty())?;
        // Each is weighed once: a signal can be as long as the chart.
        let weighed = panel.signals.iter().map(|signal| (of(panel, signal), signal));
        let (_, signal) = weighed.max_by(|a, b| a.0.total_cmp(&b.0))?;
        Some((panel, signal))
    }

    /// The point to look at first: the farthest of the strongest signal.
    pub(super) fn first_to_look_at(&self) -> Option<usize> {
        let (panel, signal) = self.strongest()?;
        match signal.pattern {
            Pattern::BeyondLimits => (signal.first..=signal.last).max_by(|a, b| score(panel, *a).abs().total_cmp(&score(panel, *b).abs())),
            _ => Some(signal.first),
        }
    }
}
