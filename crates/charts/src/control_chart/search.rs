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
    let words = layers.iter().map(|layer| layer.complete.display_text().len()).max().unwrap_or(0);
    for word in 0..words {
        let of = |layer: &Layer| layer.complete.display_text().get(word).copied().unwrap_or(0);
        let mut any = layers.iter().fold(0, |any, layer| any | of(layer));
        while any != 0 {
            let bit = any.trailing_zeros();
            any &= any - 1;
            let shortest = layers.iter().find(|layer| of(layer) >> bit & 1 == 1);
            see(word * 64 + bit as usize, shortest.map_or(1, |layer| layer.span));
        }
    }
}
