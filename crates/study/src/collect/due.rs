//! When an entry is due, late or missed.

use serde::Serialize;

use super::plan::{Every, Shift};

/// Due times of a shift.
#[derive(Clone, Debug, PartialEq, Eq, Serialize, utoipa::ToSchema)]
pub struct ShiftMissed {
    /// What the shift is called.
    pub shift: String,
    /// Those without an entry.
    pub missed: usize,
    /// All that were looked at.
    pub of: usize,
}

/// How a station stands with what is due.
#[derive(Clone, Debug, PartialEq, Eq, Serialize, utoipa::ToSchema)]
pub struct Due {
    /// When the next is due, in milliseconds since 1970; in the past while it is waited for. Null where pieces say how often.
    pub at: Option<i64>,
    /// Pieces until the next is due; negative while it is waited for. Null where time says how often.
    pub left: Option<i64>,
    /// Whether it is late by now.
    pub late: bool,
    /// Due ones without an entry, of those that were looked at.
    pub missed: usize,
    /// Due ones that were looked at.
    pub of: usize,
    /// The same by shift, in the order of the day; those in which nothing was due are left out.
    pub by_shift: Vec<ShiftMissed>,
}

const MINUTE: i64 = 60_000;
const DAY: i64 = 24 * 60;
/// Due ones that are looked back on, at most.
const BACK_MOST: i64 = 10_000;

/// The calendar that shifts are told by: any midnight of the plant, in milliseconds since 1970, and its shifts.
#[derive(Clone, Copy, Debug)]
pub struct Calendar<'s> {
    /// A midnight.
    pub midnight: i64,
    /// The shifts, in the order of the day; none for a plant that has none.
    pub shifts: &'s [Shift],
}

impl Calendar<'_> {
    /// Which shift goes on so many minutes after midnight, by its place. Before the first of the day it is the last of the day before.
    fn shift_at(&self, minute: i64) -> Option<usize> {
        let begun = self.shifts.iter().rposition(|shift| i64::from(shift.begins) <= minute);
        begun.or(self.shifts.len().checked_sub(1))
    }
}

/// Due ones on a grid: of what was looked at, which were missed, and which is next.
struct Grid {
    first: i64,
    open: i64,
    answered: Vec<i64>,
}

impl Grid {
    /// `step` and all others in one unit: milliseconds or pieces. An entry answers the due one that is nearest to it, so that one that
    /// comes a little early or late still counts; half-way belongs to the later one.
    fn new(step: i64, since: i64, entries: impl Iterator<Item = i64>, now: i64) -> Grid {
        let nearest = |place: i64| place.saturating_add(step / 2).div_euclid(step);
        let mut answered: Vec<i64> = entries.map(nearest).collect();
        answered.sort_unstable();
        answered.dedup();
        // The first one due after the plan began, and the one that can still be answered.
        let open = nearest(now);
        let first = (since.div_euclid(step) + 1).max(open - BACK_MOST);
        Grid { first, open, answered }
    }

    fn is_answered(&self, slot: i64) -> bool {
        self.answered.binary_search(&slot).is_ok()
    }

    fn next(&self) -> i64 {
        let mut next = self.open.max(self.first);
        while self.is_answered(next) {
            next += 1;
        }
        next
    }

    /// Counts those that are over, by the shift of the moment that each belongs to.
    fn counted(&self, calendar: Calendar<'_>, moment: impl Fn(i64) -> i64) -> (usize, usize, Vec<ShiftMissed>) {
        let shifts = calendar.shifts.iter().map(|shift| ShiftMissed { shift: shift.name.clone(), missed: 0, of: 0 });
        let mut by_shift: Vec<ShiftMissed> = shifts.collect();
        let (mut missed, mut of) = (0, 0);
        for slot in self.first..self.open {
            let is_missed = usize::from(!self.is_answered(slot));
            (missed, of) = (missed + is_missed, of + 1);
            let minute = (moment(slot) - calendar.midnight).div_euclid(MINUTE).rem_euclid(DAY);
            if let Some(shift) = calendar.shift_at(minute) {
                by_shift[shift].missed += is_missed;
                by_shift[shift].of += 1;
            }
        }
        by_shift.retain(|shift| shift.of > 0);
        (missed, of, by_shift)
    }
}

/// How a station stands at a moment where minutes say how often. Due times stand on a grid from midnight.
///
/// `since` is when the plan began, `entries` when entries were made, in any order; all in milliseconds since 1970.
pub fn standing(every: Every, calendar: Calendar<'_>, since: i64, entries: &[i64], now: i64) -> Due {
    let midnight = calendar.midnight;
    let step = i64::from(every.minutes.max(1)) * MINUTE;
    let grid = Grid::new(step, since - midnight, entries.iter().map(|at| at.saturating_sub(midnight)), now - midnight);
    let (missed, of, by_shift) = grid.counted(calendar, |slot| midnight + slot * step);
    let at = midnight + grid.next() * step;
    let late = now > at + i64::from(every.late_after) * MINUTE;
    Due { at: Some(at), left: None, late, missed, of, by_shift }
}

/// How a station stands where pieces say how often: one is due at each multiple of them.
///
/// `made` is how many pieces were made when looking back begins, and by now; `entries` are when each was made and how many pieces there
/// were by then, in the order of the pieces; `now` is the moment that a missed one with no entry after it is put to.
pub fn standing_by_pieces(every: Every, calendar: Calendar<'_>, made: [i64; 2], entries: &[(i64, i64)], now: i64) -> Due {
    let [since, made] = made;
    let step = i64::from(every.pieces.max(1));
    let grid = Grid::new(step, since, entries.iter().map(|(_, made)| *made), made);
    let moment = |slot: i64| {
        let after = entries.partition_point(|(_, made)| *made < slot * step);
        entries.get(after).map_or(now, |(at, _)| *at)
    };
    let (missed, of, by_shift) = grid.counted(calendar, moment);
    let left = grid.next() * step - made;
    Due { at: None, left: Some(left), late: -left > i64::from(every.late_after), missed, of, by_shift }
}
