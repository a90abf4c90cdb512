//! How the simulation describes itself.

use std::sync::LazyLock;

use serde_json::Value;

use super::terms::TERMS;
use crate::model::{self, CORRELATIONS_MOST, Control, Correlation, Input, MANY, Response, SCALES_MOST, Search, Tightening};
use acorn_study::StudyError;
use acorn_study::card::{Choice, Field, FieldKind, Formula, MethodCard, Slot, SlotKind, SubjectKind};
use acorn_study::in_range;
use acorn_study::reading::bad;

/// Draws unless said otherwise.
pub const DRAWS: f64 = 100_000.0;
/// Fewest and most draws.
pub const DRAWS_RANGE: [f64; 2] = [1e3, 1e7];
/// The seed unless said otherwise.
pub const SEED: f64 = 1.0;

fn list<T: for<'d> serde::Deserialize<'d>>(option: &str, given: &Value, most: usize) -> Result<(), StudyError> {
    let list = given.as_array().ok_or_else(|| bad(option, "is a list"))?;
    in_range(option, list.len() as f64, 0.0, most as f64)?;
    list.iter().try_for_each(|one| model::read::<T>(option, one).map(|_| ()))
}

fn tightening(option: &str, given: &Value) -> Result<(), StudyError> {
    let read: Tightening = model::read(option, given)?;
    in_range("tightening.scales", read.scales.len() as f64, 1.0, SCALES_MOST as f64)?;
    read.scales.iter().try_for_each(|scale| in_range("tightening.scales", *scale, 0.0, 10.0).map(|_| ()))?;
    read.goal.map_or(Ok(()), |goal| in_range("tightening.goal", goal, 0.0, 1.0).map(|_| ()))
}

fn built(one: &'static str, many: &'static str, unset: &'static str, choices: Vec<Choice>, check: acorn_study::card::Check) -> SlotKind {
    SlotKind::Built { one, many, unset, required: false, choices, check }
}

fn text(name: &'static str, label: &'static str) -> Field {
    Field { name, label, kind: FieldKind::Text, required: false, low: None }
}

/// The card.
pub static CARD: LazyLock<MethodCard> = LazyLock::new(|| {
    let number = |name: &'static str, label: &'static str| Field::number(name, label, false, None);
    let draws =
        SlotKind::usually(DRAWS, "{} times", "100,000 times", DRAWS_RANGE[0], DRAWS_RANGE[1]).whole().offering(&[1e3, 1e4, 1e5, 1e6, 1e7]);
    let seed = SlotKind::usually(SEED, "drawing from seed {}", "drawing from seed 1", 0.0, 1e9).whole();
    let sampling = SlotKind::choice(vec![
        Choice::plain("plain", "each draw by itself", "The usual one; its errors are known."),
        Choice::plain(
            "latin-hypercube",
            "a Latin hypercube",
            "One draw in each of as many equal slices of every input: means settle sooner.",
        ),
    ]);
    let shares = SlotKind::Switch { usual: false, on: "and tell what drives them", off: "without asking what drives them" };
    let controls = vec![Choice::with(
        "control",
        "control",
        "What the plant sets.",
        vec![
            number("value", "set to"),
            Field::number("sd", "held within an sd of", false, Some(0.0)),
            number("low", "lowest"),
            number("high", "highest"),
            Field::number("step", "step", false, Some(0.0)),
        ],
    )];
    let responses = vec![Choice::with(
        "response",
        "response",
        "What follows from the others.",
        vec![text("formula", "formula"), number("lsl", "LSL"), number("target", "target"), number("usl", "USL")],
    )];
    let goals = vec![
        Choice::plain("least-out", "the fewest out", "The least share out of the limits."),
        Choice::plain("largest-ppk", "the largest Ppk", "Room to both sides, as a normal would need it."),
        Choice::plain("target", "the target", "The least mean squared distance from it."),
    ];
    MethodCard {
        method: "simulation",
        question: "What if?",
        part: "What if",
        use_when: "Use it for a model: inputs that vary, settings, formulas; what comes out, what drives it, which settings and which tightening pay.",
        found_by: &[
            "Monte Carlo",
            "simulation",
            "tolerance stack",
            "sensitivity",
            "Sobol",
            "optimise settings",
            "robust design",
            "root sum square",
        ],
        statement: "Draw {inputs}[ and set {controls}] {draws}, work out {responses}[ {sensitivity}][, correlated by {correlations}][, by {sampling}][, {search}][, {tightening}][, {seed}].",
        slots: vec![
            Slot::new(
                "inputs",
                "inputs",
                SlotKind::Built {
                    one: "input",
                    many: "inputs",
                    unset: "no inputs",
                    required: false,
                    choices: model::choices(),
                    check: |option, given| list::<Input>(option, given, MANY),
                },
            ),
            Slot::new(
                "controls",
                "controls",
                built("control", "controls", "no controls", controls, |option, given| list::<Control>(option, given, MANY)),
            )
            .quiet(),
            Slot::new("draws", "draws", draws),
            Slot::new(
                "responses",
                "responses",
                SlotKind::Built {
                    one: "response",
                    many: "responses",
                    unset: "a response",
                    required: true,
                    choices: responses,
                    check: |option, given| list::<Response>(option, given, MANY),
                },
            )
            .subject(SubjectKind::Measurement),
            Slot::new("sensitivity", "shares of variance", shares).quiet(),
            Slot::new(
                "correlations",
                "correlations",
                built("correlation", "correlations", "inputs that go together", Vec::new(), |option, given| {
                    list::<Correlation>(option, given, CORRELATIONS_MOST)
                }),
            )
            .quiet(),
            Slot::new("sampling", "sampling", sampling).quiet(),
            Slot::new(
                "search",
                "search of settings",
                built("search", "search for better settings", "search settings", goals, |option, given| {
                    model::read::<Search>(option, given).map(|_| ())
                }),
            )
            .quiet(),
            Slot::new("tightening", "tightening", built("tightening", "see what tightening pays", "tighten", Vec::new(), tightening))
                .quiet(),
            Slot::new("seed", "seed of the draws", seed).quiet(),
        ],
        terms: TERMS,
        decisions: super::decisions::ALL,
        formulas: FORMULAS.to_vec(),
    }
});

const FORMULAS: [Formula; 8] = [
    Formula::new(
        "simulated",
        "Simulated",
        "every input drawn, every response worked out by its formula, draw after draw; what is no finite number is counted and left out",
        "JCGM 101:2008",
    ),
    Formula::new(
        "percentile",
        "Percentiles",
        "the draw at place (n − 1)p of the sorted ones, between neighbours in proportion",
        "Hyndman and Fan (1996), type 7",
    ),
    Formula::new(
        "out",
        "Share out",
        "draws beyond the limits ÷ draws; error √(p(1 − p)/n), interval of Clopper and Pearson",
        "Clopper and Pearson (1934)",
    ),
    Formula::new("indices", "Pp and Ppk", "Pp = (USL − LSL)/6s; Ppk = min(USL − x̄, x̄ − LSL)/3s", "ISO 22514-2"),
    Formula::new(
        "sobol",
        "Shares of variance",
        "first = 1 − Σ(f(B) − f(ABᵢ))²/2NV; total = Σ(f(A) − f(ABᵢ))²/2NV",
        "Sobol (1993); Saltelli and others (2010); Jansen (1999)",
    ),
    Formula::new(
        "tightening",
        "Tightening",
        "x → m + c(x − m) for one input at a time, on the same draws",
        "Evans (1975), J. Quality Technology 7",
    ),
    Formula::new(
        "search",
        "Search",
        "points spread by Halton's sequence, then simplices downhill, all on the same draws",
        "Halton (1960); Nelder and Mead (1965)",
    ),
    Formula::new(
        "stack",
        "Stacks",
        "worst case: Σ|a|h; root sum square: √Σ(ah)², h half of the way from 0.135 % to 99.865 % of an input",
        "Drake (1999), Dimensioning and Tolerancing Handbook",
    ),
];
