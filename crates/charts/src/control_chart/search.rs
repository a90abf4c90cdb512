//! The search for patterns, sixty-four points at a time.
//!
//! Windows of one pattern and side that share a point are one signal, and so are neighbouring points beyond the same
//! limit.

use super::bits::{Bits, Fact};
use super::patterns::{Pattern, RunRule, Signal};

/// The lines that a pattern is judged by.
#[derive(Clone, Copy, Debug)]
pub enum Zones<'v> {
    /// The same for every point: lower limit, 2 and 1 sd below, centre, 1 and 2 sd above, upper limit.
    Even([f64; 7]),
    /// Of each point its own centre and sd.
    Each {
        /// Centres.
        center: &'v [f64],
        /// Sds of the plotted statistic.
        sd: &'v [f64],
        /// Distance of the control limits from the centre, in sd.
        width: f64,
    },
}

impl Zones<'_> {
    /// The lines about one centre.
    pub fn about(center: f64, sd: f64, width: f64) -> Zones<'static> {
        Zones::Even([-width, -2.0, -1.0, 0.0, 1.0, 2.0, width].map(|z| center + z * sd))
    }
}

/// The places of lines among the upper and the lower ones: centre, 1 sd, 2 sd, limit.
const CENTRE: usize = 0;
const LIMIT: usize = 3;

/// What a pattern asks of each value.
fn facts(pattern: Pattern) -> &'static [Fact] {
    use Fact::{Above, Below, Falls, Present, Rises};
    match pattern {
        Pattern::BeyondLimits => &[Above(LIMIT), Below(LIMIT)],
        Pattern::RunOneSide => &[Above(CENTRE), Below(CENTRE)],
        Pattern::Trend | Pattern::Alternating => &[Rises, Falls],
        Pattern::TwoOfThreeOuter => &[Above(2), Below(2), Present],
        Pattern::FourOfFiveOuter | Pattern::HuggingCentre => &[Above(1), Below(1), Present],
        Pattern::AvoidingCentre => &[Above(1), Below(1)],
    }
}

/// A search through the points of one phase; NaN is missing or omitted.
pub struct Search {
    facts: Vec<(Fact, Bits)>,
}

/// Points at which a window of `span` points is complete.
struct Layer {
    complete: Bits,
    span: usize,
}

/// The windows of one side of a pattern, shorter spans first.
struct Side {
    side: i8,
    layers: Vec<Layer>,
}

impl Search {
    /// Looks at the points of one phase for some patterns, in one pass.
    pub fn of(values: &[f64], zones: Zones, run_rules: &[RunRule]) -> Search {
        let mut asked: Vec<Fact> = Vec::new();
        for fact in run_rules.iter().flat_map(|rule| facts(rule.pattern)) {
            if !asked.contains(fact) {
                asked.push(*fact);
            }
        }
        let bits = match zones {
            Zones::Even(l) => Bits::of(values, false, |_| [[l[3], l[4], l[5], l[6]], [l[3], l[2], l[1], l[0]]], &asked),
            Zones::Each { center, sd, width } => {
                let own = |i: usize| match (center.get(i), sd.get(i)) {
                    (Some(center), Some(sd)) => [1.0, -1.0].map(|side| [0.0, 1.0, 2.0, width].map(|z| center + side * z * sd)),
                    _ => [[f64::NAN; 4]; 2],
                };
                Bits::of(values, true, own, &asked)
            }
        };
        Search { facts: asked.into_iter().zip(bits).collect() }
    }

    /// The points of which a fact holds; those that no rule asked for are never wanted.
    fn points(&self, fact: Fact) -> &Bits {
        let found = self.facts.iter().find(|(other, _)| *other == fact);
        &found.expect("every fact of a watched pattern was asked for").1
    }

    /// Where the windows of a rule are complete. No comparison holds for NaN, so that a missing point breaks everything.
    fn windows(&self, rule: RunRule) -> Vec<Side> {
        let RunRule { pattern, length } = rule;
        let (above, below) = (|line| self.points(Fact::Above(line)), |line| self.points(Fact::Below(line)));
        let one = |side, complete, span| Side { side, layers: vec![Layer { complete, span }] };
        let run = |side, bits: &Bits| one(side, bits.run_of(length), length);
        match pattern {
            Pattern::BeyondLimits => vec![one(1, above(LIMIT).clone(), 1), one(-1, below(LIMIT).clone(), 1)],
            Pattern::RunOneSide => vec![run(1, above(CENTRE)), run(-1, below(CENTRE))],
            Pattern::HuggingCentre => {
                let outer = above(1).or(below(1));
                vec![run(0, &self.points(Fact::Present).and_not(&outer))]
            }
            Pattern::AvoidingCentre => vec![run(0, &above(1).or(below(1)))],
            Pattern::Trend => {
                let steps = |side, bits: &Bits| one(side, bits.run_of(length - 1), length);
                vec![steps(1, self.points(Fact::Rises)), steps(-1, self.points(Fact::Falls))]
            }
            Pattern::Alternating => {
                let (rises, falls) = (self.points(Fact::Rises), self.points(Fact::Falls));
                let turns = rises.and(&falls.later(1)).or(&falls.and(&rises.later(1)));
                vec![one(0, turns.run_of(length - 2), length)]
            }
            Pattern::TwoOfThreeOuter => self.outer(2, length),
            Pattern::FourOfFiveOuter => self.outer(1, length),
        }
    }

    /// `length` points beyond a zone within `length + 1` in a row: one run, or two about a single gap.
    fn outer(&self, z: usize, length: usize) -> Vec<Side> {
        let about_a_gap = |outer: &Bits, gap: &Bits| {
            let part = |before: usize| {
                let after = length - before;
                outer.run_of(after).and(&gap.later(after)).and(&outer.run_of(before).later(after + 1))
            };
            (1..length).map(part).reduce(|all, one| all.or(&one)).unwrap_or_default()
        };
        let side = |side, outer: &Bits| {
            let gapped = about_a_gap(outer, &self.points(Fact::Present).and_not(outer));
            Side {
                side,
                layers: vec![Layer { complete: outer.run_of(length), span: length }, Layer { complete: gapped, span: length + 1 }],
            }
        };
        vec![side(1, self.points(Fact::Above(z))), side(-1, self.points(Fact::Below(z)))]
    }

    /// Adds the signals of one rule; the first point of the phase has number `offset`.
    pub fn find(&self, rule: RunRule, offset: usize, found: &mut Vec<Signal>) {
        let near = usize::from(rule.pattern == Pattern::BeyondLimits);
        for Side { side, layers } in self.windows(rule) {
            let start = found.len();
            each_window(&layers, |point, span| {
                let last = offset + point;
                let first = last + 1 - span;
                match found[start..].last_mut() {
                    Some(signal) if signal.last + near >= first => signal.last = last,
                    _ => found.push(Signal { pattern: rule.pattern, first, last, side }),
                }
            });
        }
    }

    /// Counts how often a set of patterns signals when everything starts afresh after each signal.
    pub fn false_alarms(&self, run_rules: &[RunRule]) -> usize {
        let mut layers: Vec<Layer> = run_rules.iter().flat_map(|&rule| self.windows(rule)).flat_map(|side| side.layers).collect();
        layers.sort_by_key(|layer| layer.span);
        let (mut fresh_from, mut false_alarms) = (0, 0);
        each_window(&layers, |point, span| {
            if point + 1 >= fresh_from + span {
                fresh_from = point + 1;
                false_alarms += 1;
            }
        });
        false_alarms
    }
}

/// Calls back with each point at which a window is complete, and the span of the shortest one there.
fn each_window(layers: &[Layer], mut see: impl FnMut(usize, usize)) {
    let words = layers.iter().map(|layer| layer.complete.words().len()).max().unwrap_or(0);
    for word in 0..words {
        let of = |layer: &Layer| layer.complete.words().get(word).copied().unwrap_or(0);
        let mut any = layers.iter().fold(0, |any, layer| any | of(layer));
        while any != 0 {
            let bit = any.trailing_zeros();
            any &= any - 1;
            let shortest = layers.iter().find(|layer| of(layer) >> bit & 1 == 1);
            see(word * 64 + bit as usize, shortest.map_or(1, |layer| layer.span));
        }
    }
}

#[cfg(test)]
mod tests {
    use super::*;

    /// Searched with even lines and with lines of each point its own, which must agree.
    fn found(values: &[f64], rule: RunRule) -> Vec<Signal> {
        let (center, sd) = (vec![0.0; values.len()], vec![1.0; values.len()]);
        let [even, each] = [Zones::about(0.0, 1.0, 3.0), Zones::Each { center: &center, sd: &sd, width: 3.0 }].map(|zones| {
            let mut found = Vec::new();
            Search::of(values, zones, &[rule]).find(rule, 0, &mut found);
            found
        });
        assert_eq!(even, each);
        even
    }

    fn signals(pattern: Pattern, values: &[f64]) -> Vec<(usize, usize, i8)> {
        found(values, RunRule::usual(pattern)).iter().map(|signal| (signal.first, signal.last, signal.side)).collect()
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

    /// Whether the points of a window make the pattern, on a side: the definition, word by word.
    fn makes(pattern: Pattern, window: &[f64], side: f64) -> bool {
        let beyond = |z: f64| window.iter().filter(|&&v| v * side > z).count();
        let edges = |z: f64| window.first().is_some_and(|&v| v * side > z) && window.last().is_some_and(|&v| v * side > z);
        let steps: Vec<f64> = window.windows(2).map(|pair| pair[1] - pair[0]).collect();
        let outer = |z: f64, length: usize| edges(z) && beyond(z) >= length && window.len() <= length + 1;
        match pattern {
            Pattern::BeyondLimits => beyond(3.0) == 1,
            Pattern::RunOneSide => beyond(0.0) == window.len(),
            Pattern::Trend => steps.iter().all(|step| step * side > 0.0),
            Pattern::Alternating => steps.iter().all(|step| *step != 0.0) && steps.windows(2).all(|pair| pair[0] * pair[1] < 0.0),
            Pattern::TwoOfThreeOuter => outer(2.0, 2),
            Pattern::FourOfFiveOuter => outer(1.0, 4),
            Pattern::HuggingCentre => window.iter().all(|v| v.abs() <= 1.0),
            Pattern::AvoidingCentre => window.iter().all(|v| v.abs() > 1.0),
        }
    }

    fn by_definition(pattern: Pattern, values: &[f64]) -> Vec<(usize, usize, i8)> {
        let usual = RunRule::usual(pattern).length;
        let outer = matches!(pattern, Pattern::TwoOfThreeOuter | Pattern::FourOfFiveOuter);
        let sided = !matches!(pattern, Pattern::Alternating | Pattern::HuggingCentre | Pattern::AvoidingCentre);
        let near = usize::from(pattern == Pattern::BeyondLimits);
        let mut all = Vec::new();
        for side in if sided { vec![1, -1] } else { vec![0] } {
            let mut merged: Vec<(usize, usize, i8)> = Vec::new();
            for last in 0..values.len() {
                for length in usual..=usual + usize::from(outer) {
                    let Some(first) = (last + 1).checked_sub(length) else { continue };
                    let window = &values[first..=last];
                    if window.iter().any(|v| v.is_nan()) || !makes(pattern, window, f64::from(side)) {
                        continue;
                    }
                    match merged.last_mut() {
                        Some(signal) if signal.1 + near >= first => (signal.0, signal.1) = (signal.0.min(first), last),
                        _ => merged.push((first, last, side)),
                    }
                }
            }
            all.append(&mut merged);
        }
        all
    }

    proptest::proptest! {
        #[test]
        fn the_search_finds_what_the_definition_says(
            steps in proptest::collection::vec(proptest::option::weighted(0.98, -7i32..=7), 1..300),
        ) {
            // Halves of an sd, so that ties and values exactly on a line occur.
            let values: Vec<f64> = steps.iter().map(|step| step.map_or(f64::NAN, |step| f64::from(step) / 2.0)).collect();
            // A calmer stretch lets the long patterns appear too.
            let calm: Vec<f64> = values.iter().map(|value| value / 4.0).collect();
            for pattern in Pattern::ALL {
                proptest::prop_assert_eq!(signals(pattern, &values), by_definition(pattern, &values));
                proptest::prop_assert_eq!(signals(pattern, &calm), by_definition(pattern, &calm));
            }
        }
    }
}
