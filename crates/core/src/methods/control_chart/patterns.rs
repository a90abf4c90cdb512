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

/// A small machine that is fed one point after the other.
trait Machine {
    /// Feeds the next point; true when a window is complete at it.
    fn push(&mut self, place: Place) -> bool;
    /// How many points the window just completed spans, and on which side.
    fn window(&self) -> (usize, i8);
    /// Forgets everything: a missing or omitted point, or the edge of a phase.
    fn reset(&mut self);
}

/// One point beyond a control limit.
struct Beyond {
    side: i8,
}

impl Machine for Beyond {
    #[inline(always)]
    fn push(&mut self, place: Place) -> bool {
        self.side = place.beyond;
        place.beyond != 0
    }

    fn window(&self) -> (usize, i8) {
        (1, self.side)
    }

    fn reset(&mut self) {}
}

/// Points in a row of which `holds` tells whether each belongs, and to which side.
struct Row<F> {
    length: usize,
    holds: F,
    side: i8,
    count: usize,
}

impl<F: Fn(i8) -> (bool, i8)> Machine for Row<F> {
    #[inline(always)]
    fn push(&mut self, place: Place) -> bool {
        let (holds, side) = (self.holds)(place.zone);
        let goes_on = if side == self.side { self.count + 1 } else { 1 };
        self.count = if holds { goes_on } else { 0 };
        self.side = side;
        self.count >= self.length
    }

    fn window(&self) -> (usize, i8) {
        (self.length, self.side)
    }

    fn reset(&mut self) {
        (self.side, self.count) = (0, 0);
    }
}

/// Steps from point to point that all go one way, or by turns.
struct Steps {
    turns: bool,
    length: usize,
    previous: f64,
    step: i8,
    count: usize,
}

impl Machine for Steps {
    #[inline(always)]
    fn push(&mut self, place: Place) -> bool {
        let step = i8::from(place.value > self.previous) - i8::from(place.value < self.previous);
        let goes_on = if self.turns { step == -self.step } else { step == self.step };
        let count = if goes_on { self.count + 1 } else { 1 };
        self.count = if step == 0 { 0 } else { count };
        self.step = step;
        self.previous = place.value;
        self.count + 1 >= self.length
    }

    fn window(&self) -> (usize, i8) {
        (self.length, if self.turns { 0 } else { self.step })
    }

    fn reset(&mut self) {
        (self.previous, self.step, self.count) = (f64::NAN, 0, 0);
    }
}

/// `length` points beyond a zone on one side within `length + 1` in a row: one run, or two about a single gap.
struct Outer {
    length: usize,
    zone: i8,
    side: i8,
    run: usize,
    before_gap: usize,
}

impl Machine for Outer {
    #[inline(always)]
    fn push(&mut self, place: Place) -> bool {
        let outer = place.zone * self.side >= self.zone;
        self.before_gap = if outer { self.before_gap } else { self.run };
        self.run = if outer { self.run + 1 } else { 0 };
        outer && self.run + self.before_gap >= self.length
    }

    fn window(&self) -> (usize, i8) {
        (if self.run >= self.length { self.length } else { self.length + 1 }, self.side)
    }

    fn reset(&mut self) {
        (self.run, self.before_gap) = (0, 0);
    }
}

fn one_side(zone: i8) -> (bool, i8) {
    (zone != 0, zone.signum())
}

fn hugging(zone: i8) -> (bool, i8) {
    (zone.abs() <= 1, 0)
}

fn avoiding(zone: i8) -> (bool, i8) {
    (zone.abs() >= 2, 0)
}

/// Hands the machines of a watch to a visitor, each with its own type, so that a search compiles to a tight
/// loop for each pattern. Both sides of an outer pattern may be under way at once, so it has two.
trait Visitor {
    fn visit(&mut self, machine: impl Machine + Send + 'static);
}

fn each_machine(watch: Watch, visitor: &mut impl Visitor) {
    let length = watch.length;
    let steps = |turns| Steps { turns, length, previous: f64::NAN, step: 0, count: 0 };
    let outer = |zone, side| Outer { length, zone, side, run: 0, before_gap: 0 };
    match watch.pattern {
        Pattern::BeyondLimits => visitor.visit(Beyond { side: 0 }),
        Pattern::RunOneSide => visitor.visit(Row { length, holds: one_side, side: 0, count: 0 }),
        Pattern::HuggingCentre => visitor.visit(Row { length, holds: hugging, side: 0, count: 0 }),
        Pattern::AvoidingCentre => visitor.visit(Row { length, holds: avoiding, side: 0, count: 0 }),
        Pattern::Trend => visitor.visit(steps(false)),
        Pattern::Alternating => visitor.visit(steps(true)),
        Pattern::TwoOfThreeOuter => [1, -1].into_iter().for_each(|side| visitor.visit(outer(3, side))),
        Pattern::FourOfFiveOuter => [1, -1].into_iter().for_each(|side| visitor.visit(outer(2, side))),
    }
}

/// Several patterns watched for at once, point by point.
#[derive(Default)]
pub struct Lookout {
    machines: Vec<Box<dyn Machine + Send>>,
}

impl Visitor for Lookout {
    fn visit(&mut self, machine: impl Machine + Send + 'static) {
        self.machines.push(Box::new(machine));
    }
}

impl Lookout {
    /// A lookout for a set of patterns.
    pub fn of(watches: &[Watch]) -> Lookout {
        let mut lookout = Lookout::default();
        watches.iter().for_each(|&watch| each_machine(watch, &mut lookout));
        lookout
    }

    /// Feeds the next point; true when a pattern is complete, upon which all start afresh.
    pub fn cries(&mut self, place: Place) -> bool {
        // A cry resets every machine, so those after the first that fires need not see the point.
        let cry = self.machines.iter_mut().any(|machine| machine.push(place));
        if cry {
            self.machines.iter_mut().for_each(|machine| machine.reset());
        }
        cry
    }
}

/// The points of one phase, placed once for all patterns.
pub struct Placed<'v> {
    values: &'v [f64],
    zones: Vec<[i8; 2]>,
    offset: usize,
}

/// The zone of a point that is missing or omitted.
const ABSENT: [i8; 2] = [i8::MIN, 0];

impl<'v> Placed<'v> {
    /// Places the points of a phase that starts at point `offset`; NaN is missing or omitted.
    pub fn new(values: &'v [f64], offset: usize, center: f64, sd: f64, width: f64) -> Placed<'v> {
        let zone = |&value: &f64| {
            let Place { zone, beyond, .. } = Place::of(value, center, sd, width);
            if value.is_nan() { ABSENT } else { [zone, beyond] }
        };
        Placed { values, zones: values.iter().map(zone).collect(), offset }
    }

    /// Adds the signals of one watch.
    pub fn find(&self, watch: Watch, found: &mut Vec<Signal>) {
        each_machine(watch, &mut Search { placed: self, pattern: watch.pattern, found });
    }
}

struct Search<'p, 'v> {
    placed: &'p Placed<'v>,
    pattern: Pattern,
    found: &'p mut Vec<Signal>,
}

impl Visitor for Search<'_, '_> {
    fn visit(&mut self, machine: impl Machine + Send + 'static) {
        let mut machine = machine;
        let near = usize::from(self.pattern == Pattern::BeyondLimits);
        let mut open: [Option<usize>; 3] = [None; 3];
        for (i, (&value, &[zone, beyond])) in self.placed.values.iter().zip(&self.placed.zones).enumerate() {
            if zone == ABSENT[0] {
                machine.reset();
                continue;
            }
            if !machine.push(Place { value, zone, beyond }) {
                continue;
            }
            let (span, side) = machine.window();
            let last = self.placed.offset + i;
            let first = last + 1 - span;
            let slot = &mut open[(side + 1) as usize];
            match slot.map(|index| &mut self.found[index]) {
                Some(signal) if signal.last + near >= first => signal.last = last,
                _ => {
                    *slot = Some(self.found.len());
                    self.found.push(Signal { pattern: self.pattern, first, last, side });
                }
            }
        }
    }
}

#[cfg(test)]
mod tests {
    use super::*;

    fn signals(pattern: Pattern, values: &[f64]) -> Vec<(usize, usize, i8)> {
        let mut found = Vec::new();
        Placed::new(values, 0, 0.0, 1.0, 3.0).find(Watch::usual(pattern), &mut found);
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
