//! When an entry is due, late or missed.

use serde::Serialize;

use super::plan::Every;

/// How a plan stands with its times.
#[derive(Clone, Copy, Debug, PartialEq, Eq, Serialize)]
#[cfg_attr(feature = "openapi", derive(utoipa::ToSchema))]
pub struct Due {
    /// When the next is due, in milliseconds since 1970; in the past while it is waited for.
    pub at: i64,
    /// Whether it is late by now.
    pub late: bool,
    /// Due times without an entry, of those that were looked at.
    pub missed: usize,
    /// Due times that were looked at.
    pub of: usize,
}

const MINUTE: i64 = 60_000;
/// Due times that are looked back on, at most.
const BACK_MOST: i64 = 10_000;

/// How a plan stands at a moment. Due times stand on a grid from midnight; an entry answers the one that is nearest to it, so that
/// one that comes a little early or late still counts.
///
/// `midnight` is any midnight of the plant, `since` when the plan began, `entries` when entries were made, in any order; all in
/// milliseconds since 1970.
pub fn standing(every: Every, midnight: i64, since: i64, entries: &[i64], now: i64) -> Due {
    let step = i64::from(every.minutes.max(1)) * MINUTE;
    // The due time nearest to a moment; half-way belongs to the later one.
    let nearest = |moment: i64| (moment - midnight + step / 2).div_euclid(step);
    let mut answered: Vec<i64> = entries.iter().map(|at| nearest(*at)).collect();
    answered.sort_unstable();
    answered.dedup();
    let is_answered = |slot: i64| answered.binary_search(&slot).is_ok();
    // The first one due after the plan began, and the one that can still be answered.
    let open = nearest(now);
    let first = (since - midnight).div_euclid(step) + 1;
    let first = first.max(open - BACK_MOST);
    let missed = (first..open).filter(|slot| !is_answered(*slot)).count();
    let mut next = open.max(first);
    while is_answered(next) {
        next += 1;
    }
    let at = midnight + next * step;
    let late = now > at + i64::from(every.late_after) * MINUTE;
    Due { at, late, missed, of: (open - first).max(0) as usize }
}
