//! "How many do I need?": the width of the interval of Ppk against the number of values.

use serde::Serialize;

use super::indices::half_width;

/// How many values an interval of a wanted width takes.
#[derive(Clone, Debug, PartialEq, Serialize, utoipa::ToSchema)]
pub struct Need {
    /// Half the width wanted, as an index.
    pub wanted: f64,
    /// The index it is worked out for: the Ppk found.
    pub ppk: f64,
    /// The fewest values whose interval is no wider; null when more than a thousand million.
    pub n: Option<u64>,
    /// Intervals of more and more values.
    pub curve: Vec<NeedPoint>,
}

/// The interval that so many values would give.
#[derive(Clone, Copy, Debug, PartialEq, Serialize, utoipa::ToSchema)]
pub struct NeedPoint {
    /// Values.
    pub n: u64,
    /// Lower end.
    pub low: f64,
    /// Upper end.
    pub high: f64,
}

const MOST: u64 = 1_000_000_000;

impl Need {
    /// For the Ppk found: Bissell's interval, or the one found for `known` values, which narrows with their root; by halving.
    pub fn of(ppk: f64, wanted: f64, known: Option<(usize, [f64; 2])>) -> Need {
        let reach = |n: u64| match known {
            Some((found, [low, high])) => 0.5 * (high - low) * (found as f64 / n as f64).sqrt(),
            None => half_width(ppk, n as f64, n as f64 - 1.0),
        };
        let (mut low, mut high) = (2, MOST);
        while low < high {
            let middle = low + (high - low) / 2;
            if reach(middle) <= wanted { high = middle } else { low = middle + 1 }
        }
        let steps = [1.0, 1.25, 1.6, 2.0, 2.5, 3.2, 4.0, 5.0, 6.3, 8.0];
        let sizes = (1..=4).flat_map(|power| steps.map(|step| (step * 10f64.powi(power)) as u64));
        let curve = sizes.map(|n| NeedPoint { n, low: ppk - reach(n), high: ppk + reach(n) }).collect();
        Need { wanted, ppk, n: Some(low).filter(|_| reach(low) <= wanted), curve }
    }
}

/// More values than this nobody gathers to settle one index.
const GATHERED_MOST: u64 = 100_000;

/// How many values it takes before the whole interval of an index lies at or above a goal, if the index stays what it is;
/// `None` when it is not above the goal, or would take more than a hundred thousand.
pub fn enough_to_tell(index: f64, goal: f64) -> Option<usize> {
    let tells = |n: u64| index - half_width(index, n as f64, n as f64 - 1.0) >= goal;
    let (mut low, mut high) = (2, GATHERED_MOST);
    while low < high {
        let middle = low + (high - low) / 2;
        if tells(middle) { high = middle } else { low = middle + 1 }
    }
    tells(low).then_some(low as usize)
}

/// The same from an interval that reaches so far below with `n` values, and must not reach farther than the room.
pub fn enough_by_root(n: usize, reach: f64, room: f64) -> Option<usize> {
    let enough = n as f64 * (reach / room).powi(2);
    (room > 0.0 && enough <= GATHERED_MOST as f64).then_some(enough.ceil() as usize)
}
