//! Whether the verdict depends on the shape, where the assumed one is refuted.

use super::indices::{Limits, half_width, of_shape};
use acorn_maths::judgement::{PLENTY, VERY_UNLIKELY};
use acorn_maths::shapes::{Family, Shape, aic, fit, is_refuted};
use acorn_maths::sorting::Sorted;
use acorn_study::{Cancel, StudyError};

/// Shapes whose criterion is within so much of the smallest are kept (Burnham and Anderson 2002, sec. 2.6: considerably less support).
const KEPT: f64 = 4.0;

/// What all shapes that the values do not refute say.
#[derive(Clone, Copy, Debug, PartialEq)]
pub struct Agreement {
    /// The smallest and the largest Ppk among them.
    pub ppk: [f64; 2],
    /// Whether each meets the goal with its interval; `false`: each is below 1 with it.
    pub meets: bool,
}

/// The agreement of the shapes that fit about as well as the best, which itself is not refuted; `None` where none fits, where they disagree
/// about the goal, and of very many values, which tell shapes apart.
///
/// # Errors
/// [`StudyError::Stopped`].
pub fn of(sorted: &Sorted, limits: Limits, goal: f64, seed: u64, cancel: &Cancel) -> Result<Option<Agreement>, StudyError> {
    if sorted.len() > PLENTY {
        return Ok(None);
    }
    let fitted: Vec<(Shape, f64)> =
        Family::ALL.into_iter().filter_map(|family| fit(family, sorted)).map(|shape| (shape, aic(&shape, sorted))).collect();
    let Some((best, least)) = fitted.iter().min_by(|a, b| a.1.total_cmp(&b.1)).copied() else { return Ok(None) };
    let kept = fitted.iter().filter(|(_, aic)| *aic <= least + KEPT).filter_map(|(shape, _)| of_shape(limits, shape).worse);
    let Some([low, high]) = kept.map(|ppk| [ppk; 2]).reduce(|[low, high], [a, b]| [low.min(a), high.max(b)]) else { return Ok(None) };
    let n = sorted.len() as f64;
    let reach = |ppk: f64| half_width(ppk, n, n - 1.0);
    let meets = low - reach(low) >= goal;
    if !meets && high + reach(high) >= 1.0 {
        return Ok(None);
    }
    // Last, since it takes longest. A little looser than elsewhere: it is asked where a test has already spoken against one shape.
    Ok((!is_refuted(best, sorted, VERY_UNLIKELY, seed, cancel)?).then_some(Agreement { ppk: [low, high], meets }))
}
