//! Signals that lie in the shape of the values: a chart of a normal is crossed by a long tail without any cause.

use super::Explanation;
use acorn_maths::describe::decimals;
use acorn_maths::heavy_tails::gain_of_t;
use acorn_maths::judgement::VERY_UNLIKELY;
use acorn_maths::shapes::{self, Family, Shape, aic, is_refuted};
use acorn_maths::sorting::Sorted;
use acorn_study::{Cancel, StudyError};

const FAMILIES: [Family; 5] = [Family::Lognormal, Family::Gamma, Family::Weibull, Family::Exponential, Family::LargestExtremeValue];
/// By so much a criterion has to be better with all values (Burnham and Anderson 2002, sec. 2.6: hardly any support is left), and
/// without the farthest one in fifty: a value that does not belong to the others makes no shape.
const BETTER: [f64; 2] = [10.0, 4.0];
/// Families that are tried.
const TRIED: usize = 3;
/// Without the farthest values, heavy tails are asked for less.
const TAILS: f64 = 0.0;

/// The shape that describes values which a normal does not; `None` where none does, as with a single value far from all others.
pub fn of(values: &[f64], cancel: &Cancel) -> Result<Option<Explanation>, StudyError> {
    let values = &above_zero(values);
    let sorted = Sorted::of(values);
    let Some(normal) = shapes::fit(Family::Normal, &sorted) else { return Ok(None) };
    let middle = normal.location;
    let mut nearer = values.to_vec();
    nearer.sort_unstable_by(|a, b| (a - middle).abs().total_cmp(&(b - middle).abs()));
    nearer.truncate(nearer.len() - (nearer.len() / 50).max(1));
    let nearer = Sorted::of(&nearer);
    let gain = |family: Family, sorted: &Sorted| {
        let (shape, normal) = (shapes::fit(family, sorted)?, shapes::fit(Family::Normal, sorted)?);
        Some((aic(&normal, sorted) - aic(&shape, sorted), shape))
    };
    let of_t = gain_of_t(&sorted).unwrap_or(0.0);
    let mut better: Vec<(f64, Shape)> = FAMILIES.into_iter().filter_map(|family| gain(family, &sorted)).collect();
    better.retain(|(gained, _)| *gained > BETTER[0] && *gained > of_t);
    better.sort_by(|a, b| b.0.total_cmp(&a.0));
    // The best may be refuted where another, hardly worse, is not.
    for (_, shape) in better.into_iter().take(TRIED) {
        let still = gain(shape.family, &nearer).is_some_and(|(gained, _)| gained > BETTER[1]);
        if still && !is_refuted(shape, &sorted, VERY_UNLIKELY, 1, cancel)? {
            return Ok(Some(Explanation::Skewed(shape.family)));
        }
    }
    let is_heavy = of_t > BETTER[0] && gain_of_t(&nearer).is_some_and(|gained| gained > TAILS) && both_tails(&sorted);
    Ok(is_heavy.then_some(Explanation::HeavyTails))
}

/// Values as they are; a 0 among positive ones, which a family of positive values cannot take, as half of the step that it was rounded from.
fn above_zero(values: &[f64]) -> Vec<f64> {
    let is_positive = values.iter().all(|value| *value >= 0.0);
    let half_step = 0.5 * 10f64.powi(-i32::from(decimals(values)));
    values.iter().map(|value| if is_positive && *value == 0.0 { half_step } else { *value }).collect()
}

/// Whether both ends reach out: neither is three times as far from the middle as the other, by the means of the farthest twentieths.
fn both_tails(sorted: &Sorted) -> bool {
    let few = (sorted.len() / 20).max(2);
    let middle = sorted[sorted.len() / 2];
    let mean = |part: &[f64]| part.iter().sum::<f64>() / part.len() as f64;
    let (low, high) = (middle - mean(&sorted[..few]), mean(&sorted[sorted.len() - few..]) - middle);
    low < 3.0 * high && high < 3.0 * low
}
