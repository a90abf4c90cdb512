//! Counts that do not scatter as counts do.

use super::Explanation;
use super::segments::residuals;
use crate::control_chart::answer::Chart;
use crate::control_chart::kind::ChartKind;
use crate::control_chart::panel::Panel;
use acorn_maths::describe::mean;
use acorn_maths::judgement::{UNLIKELY, VERY_UNLIKELY};
use acorn_maths::normal;
use acorn_maths::tails::chi_square_above;

/// Points that may be signals of their own lie beyond this many standard deviations.
const FAR: f64 = 3.0;
/// Unless one of them lies beyond this many standard deviations of the other points, they are the ends of a scatter that is too wide.
const APART: f64 = 4.0;
/// Fewer bad pieces a sample leave limits that say little.
const RARE: f64 = 1.0;

pub fn of(chart: &Chart) -> Option<Explanation> {
    if !matches!(chart.kind, ChartKind::P | ChartKind::Np | ChartKind::C | ChartKind::U) {
        return None;
    }
    let by_chance = chart.alarms().by_chance;
    let dispersion = chart.diagnostics.dispersion?;
    if dispersion.p > 1.0 - VERY_UNLIKELY / 10.0 && dispersion.df > 0.0 && dispersion.chi2 > 0.0 {
        return Some(Explanation::Underdispersed { times: dispersion.times() });
    }
    // Signals beyond chance are a second reason to doubt the limits.
    let least = match (chart.steady(), by_chance) {
        (true, _) => VERY_UNLIKELY / 10.0,
        (false, true) => VERY_UNLIKELY,
        (false, false) => UNLIKELY,
    };
    if dispersion.p < least && !explained_by_order(&scores(&chart.panels[0])) {
        return Some(Explanation::Overdispersed { times: dispersion.times() });
    }
    let mean = chart.diagnostics.mean_count.filter(|mean| *mean < RARE && *mean > 0.0)?;
    by_chance.then_some(Explanation::Rare { mean })
}

/// Distances of the points from their centre, in the sds that counting gives them.
pub fn scores(location: &Panel) -> Vec<f64> {
    let score = |point: usize| {
        let lines = location.lines(0, point);
        (location.values[point] - lines.center) / lines.sd
    };
    (0..location.values.len()).map(score).filter(|score| score.is_finite()).collect()
}

/// Whether changes of level explain the scatter of such distances: within the levels counting alone is left, or few of them stand out.
pub fn explained_by_order(scores: &[f64]) -> bool {
    let (left, splits) = residuals(scores);
    let squares = |scores: &[f64]| scores.iter().map(|score| score * score).sum::<f64>();
    let df = scores.len() as f64 - 1.0 - 2.0 * splits as f64;
    let within = squares(&left);
    if splits > 0 && (chi_square_above(within, df.max(1.0)) >= VERY_UNLIKELY / 10.0 || within < 0.5 * squares(scores)) {
        return true;
    }
    // A few far points, a quarter of all at most, may be signals of their own, where the others scatter as counts do. The squares of a
    // normal that is cut off at ±c average 1 − 2cφ(c)/(2Φ(c) − 1).
    let kept: Vec<f64> = scores.iter().copied().filter(|score| score.abs() <= FAR).collect();
    if 4 * kept.len() < 3 * scores.len() {
        return false;
    }
    let middle = mean(&kept);
    let within: Vec<f64> = kept.iter().map(|score| score - middle).collect();
    let expected = 1.0 - 2.0 * FAR * normal::density(FAR) / (1.0 - 2.0 * normal::above(FAR));
    let (chi2, df) = (squares(&within) / expected, (kept.len() as f64 - 1.0).max(1.0));
    let farthest = scores.iter().fold(0.0, |far: f64, score| far.max(score.abs()));
    farthest >= APART * (chi2 / df).sqrt().max(1.0) && chi_square_above(chi2, df) >= UNLIKELY
}
