//! The eight patterns of a control chart, each a small machine that is fed one point after the other.
//!
//! Zones are sd of the plotted statistic about the centre. *Beyond* is strictly beyond, *within* is not
//! beyond; a point on the centre breaks a run, equal neighbours break a trend. Windows of one pattern and
//! side that share a point are one signal, and so are neighbouring points beyond the same limit.
//!
//! Sources: Western Electric (1956), Statistical Quality Control Handbook, p. 25-28; Nelson (1984),
//! "The Shewhart control chart: tests for special causes", J. Quality Technology 16(4); ISO 7870-2.

use serde::{Deserialize, Serialize};

use crate::study::card::Length;

/// A pattern that a steady process seldom shows.
#[derive(Clone, Copy, Debug, PartialEq, Eq, Hash, PartialOrd, Ord, Serialize, Deserialize)]
#[cfg_attr(feature = "openapi", derive(utoipa::ToSchema))]
#[serde(rename_all = "kebab-case")]
pub enum Pattern {
    /// One point beyond a control limit.
    BeyondLimits,
    /// Points in a row on one side of the centre.
    RunOneSide,
    /// Points in a row rising, or falling.
    Trend,
    /// Points in a row up and down by turns.
    Alternating,
    /// All but one of a few points beyond 2 sd on the same side.
    TwoOfThreeOuter,
    /// All but one of a few points beyond 1 sd on the same side.
    FourOfFiveOuter,
    /// Points in a row within 1 sd.
    HuggingCentre,
    /// Points in a row beyond 1 sd, on either side.
    AvoidingCentre,
}

impl Pattern {
    /// All, in the order of the catalogue.
    pub const ALL: [Pattern; 8] = [
        Pattern::BeyondLimits,
        Pattern::RunOneSide,
        Pattern::Trend,
        Pattern::Alternating,
        Pattern::TwoOfThreeOuter,
        Pattern::FourOfFiveOuter,
        Pattern::HuggingCentre,
        Pattern::AvoidingCentre,
    ];

    /// Its name in a specification.
    pub fn name(self) -> &'static str {
        match self {
            Pattern::BeyondLimits => "beyond-limits",
            Pattern::RunOneSide => "run-one-side",
            Pattern::Trend => "trend",
            Pattern::Alternating => "alternating",
            Pattern::TwoOfThreeOuter => "two-of-three-outer",
            Pattern::FourOfFiveOuter => "four-of-five-outer",
            Pattern::HuggingCentre => "hugging-centre",
            Pattern::AvoidingCentre => "avoiding-centre",
        }
    }

    /// Whether a location chart watches for it unless told otherwise.
    pub fn default_on(self) -> bool {
        matches!(self, Pattern::BeyondLimits | Pattern::RunOneSide | Pattern::Trend | Pattern::TwoOfThreeOuter)
    }

    /// Its usual length and bounds; `None` for a single point.
    pub fn length(self) -> Option<Length> {
        let default = match self {
            Pattern::BeyondLimits => return None,
            Pattern::RunOneSide => 9,
            Pattern::Trend => 6,
            Pattern::Alternating => 14,
            Pattern::TwoOfThreeOuter => 2,
            Pattern::FourOfFiveOuter => 4,
            Pattern::HuggingCentre => 15,
            Pattern::AvoidingCentre => 8,
        };
        let low = if matches!(self, Pattern::Trend | Pattern::Alternating) { 3 } else { 2 };
        Some(Length { default, low, high: 100 })
    }
}

/// A pattern watched for, with its length.
#[derive(Clone, Copy, Debug, PartialEq, Eq, Hash, PartialOrd, Ord)]
pub struct Watch {
    /// The pattern.
    pub pattern: Pattern,
    /// Points it takes; 1 for a single point.
    pub length: usize,
}

impl Watch {
    /// A pattern at its usual length.
    pub fn usual(pattern: Pattern) -> Watch {
        Watch { pattern, length: pattern.length().map_or(1, |length| length.default) }
    }
}

/// A pattern found, from the first to the last of its points.
#[derive(Clone, Copy, Debug, PartialEq, Eq, Serialize)]
#[cfg_attr(feature = "openapi", derive(utoipa::ToSchema))]
pub struct Signal {
    /// The pattern.
    pub pattern: Pattern,
    /// First point.
    pub first: usize,
    /// Last point, included.
    pub last: usize,
    /// 1 above or rising, -1 below or falling, 0 neither.
    pub side: i8,
}

/// Where a point lies against its own centre and sd.
#[derive(Clone, Copy, Debug, PartialEq)]
pub struct Place {
    /// The plotted value.
    pub value: f64,
    /// 0 on the centre; 1, 2, 3 within one sd, beyond one, beyond two; negative below.
    pub zone: i8,
    /// 1 above the upper limit, -1 below the lower, else 0.
    pub beyond: i8,
}

impl Place {
    /// Places a value. `width` is the distance of the control limits in sd.
    pub fn of(value: f64, center: f64, sd: f64, width: f64) -> Place {
        let above = |z: f64| i8::from(value > center + z * sd);
        let below = |z: f64| i8::from(value < center - z * sd);
        Place {
            value,
            zone: above(0.0) + above(1.0) + above(2.0) - below(0.0) - below(1.0) - below(2.0),
            beyond: above(width) - below(width),
        }
    }
}

/// A window that is complete at the point just fed: how many points it spans and on which side.
type Window = Option<(usize, i8)>;

/// The state of watching for one pattern.
#[derive(Clone, Debug)]
pub enum Machine {
    Beyond,
    Row { pattern: Pattern, length: usize, side: i8, count: usize },
    Steps { turns: bool, length: usize, previous: f64, step: i8, count: usize },
    Outer { length: usize, zone: i8, side: i8, run: usize, before_gap: usize },
}

impl Machine {
    /// The machines of a watch: one, or one a side where both sides may be under way at once.
    pub fn of(watch: Watch) -> Vec<Machine> {
        let Watch { pattern, length } = watch;
        let outer = |zone, side| Machine::Outer { length, zone, side, run: 0, before_gap: 0 };
        let steps = |turns| Machine::Steps { turns, length, previous: f64::NAN, step: 0, count: 0 };
        match pattern {
            Pattern::BeyondLimits => vec![Machine::Beyond],
            Pattern::TwoOfThreeOuter => vec![outer(3, 1), outer(3, -1)],
            Pattern::FourOfFiveOuter => vec![outer(2, 1), outer(2, -1)],
            Pattern::Trend => vec![steps(false)],
            Pattern::Alternating => vec![steps(true)],
            _ => vec![Machine::Row { pattern, length, side: 0, count: 0 }],
        }
    }

    /// Forgets everything: a missing or omitted point, or the edge of a phase.
    pub fn reset(&mut self) {
        match self {
            Machine::Beyond => {}
            Machine::Row { side, count, .. } => (*side, *count) = (0, 0),
            Machine::Steps { previous, step, count, .. } => (*previous, *step, *count) = (f64::NAN, 0, 0),
            Machine::Outer { run, before_gap, .. } => (*run, *before_gap) = (0, 0),
        }
    }

    /// Feeds the next point.
    #[inline]
    pub fn push(&mut self, place: Place) -> Window {
        match self {
            Machine::Beyond => (place.beyond != 0).then_some((1, place.beyond)),
            Machine::Row { pattern, length, side, count } => {
                let (now, holds) = match pattern {
                    Pattern::RunOneSide => (place.zone.signum(), place.zone != 0),
                    Pattern::HuggingCentre => (0, place.zone.abs() <= 1),
                    _ => (0, place.zone.abs() >= 2),
                };
                *count = if !holds {
                    0
                } else if now == *side {
                    *count + 1
                } else {
                    1
                };
                *side = now;
                (*count >= *length).then_some((*length, now))
            }
            Machine::Steps { turns, length, previous, step, count } => {
                let now = i8::from(place.value > *previous) - i8::from(place.value < *previous);
                let goes_on = if *turns { now == -*step } else { now == *step };
                *count = if now == 0 {
                    0
                } else if goes_on {
                    *count + 1
                } else {
                    1
                };
                *step = now;
                *previous = place.value;
                (*count + 1 >= *length).then_some((*length, if *turns { 0 } else { now }))
            }
            Machine::Outer { length, zone, side, run, before_gap } => {
                if place.zone * *side < *zone {
                    *before_gap = *run;
                    *run = 0;
                    return None;
                }
                *run += 1;
                if *run >= *length { Some((*length, *side)) } else { (*run + *before_gap >= *length).then_some((*length + 1, *side)) }
            }
        }
    }
}

/// Finds the signals of one watch among places, `None` where a point is missing or omitted.
/// `offset` is the number of the first point; a phase is searched on its own.
pub fn find(watch: Watch, offset: usize, places: impl Iterator<Item = Option<Place>> + Clone, found: &mut Vec<Signal>) {
    let near = usize::from(watch.pattern == Pattern::BeyondLimits);
    for mut machine in Machine::of(watch) {
        let mut open: [Option<usize>; 3] = [None; 3];
        for (i, place) in places.clone().enumerate() {
            let Some(place) = place else {
                machine.reset();
                continue;
            };
            let Some((span, side)) = machine.push(place) else {
                continue;
            };
            let (first, last) = (offset + i + 1 - span, offset + i);
            let slot = &mut open[(side + 1) as usize];
            match slot.map(|index| &mut found[index]) {
                Some(signal) if signal.last + near >= first => signal.last = last,
                _ => {
                    *slot = Some(found.len());
                    found.push(Signal { pattern: watch.pattern, first, last, side });
                }
            }
        }
    }
}

#[cfg(test)]
mod tests {
    use super::*;

    fn signals(pattern: Pattern, values: &[f64]) -> Vec<(usize, usize, i8)> {
        let places = values.iter().map(|&v| (!v.is_nan()).then(|| Place::of(v, 0.0, 1.0, 3.0)));
        let mut found = Vec::new();
        find(Watch::usual(pattern), 0, places, &mut found);
        found.iter().map(|signal| (signal.first, signal.last, signal.side)).collect()
    }

    #[test]
    fn exactly_on_a_limit_is_not_beyond_and_neighbours_are_one_signal() {
        assert_eq!(signals(Pattern::BeyondLimits, &[3.0, -3.0, 3.1, 4.0, -3.1]), [(2, 3, 1), (4, 4, -1)]);
    }

    #[test]
    fn a_missing_point_breaks_a_run_but_not_the_next_one() {
        let mut values = vec![0.5; 20];
        values[8] = f64::NAN;
        assert_eq!(signals(Pattern::RunOneSide, &values), [(9, 19, 1)]);
    }

    #[test]
    fn outer_points_on_both_sides_of_one_gap_are_found_on_each_side() {
        assert_eq!(signals(Pattern::TwoOfThreeOuter, &[2.5, -2.5, 2.5, -2.5]), [(0, 2, 1), (1, 3, -1)]);
        assert_eq!(signals(Pattern::TwoOfThreeOuter, &[2.5, 0.0, 0.0, 2.5]), []);
        assert_eq!(signals(Pattern::FourOfFiveOuter, &[1.5, 1.5, 0.0, 1.5, 1.5, 1.5]), [(0, 5, 1)]);
    }

    #[test]
    fn equal_neighbours_break_a_trend_and_a_turn_starts_the_next_one() {
        let up_down: Vec<f64> = [0, 1, 2, 3, 4, 5, 4, 3, 2, 1, 0].map(f64::from).to_vec();
        assert_eq!(signals(Pattern::Trend, &up_down), [(0, 5, 1), (5, 10, -1)]);
        assert_eq!(signals(Pattern::Trend, &[0.0, 1.0, 2.0, 2.0, 3.0, 4.0]), []);
    }
}
