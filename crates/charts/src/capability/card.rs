//! How a capability study describes itself.

use std::sync::LazyLock;

use super::params::{GOAL, SEED, WANTED};
use super::terms::TERMS;
use crate::control_chart::{self, pattern_slot};
use acorn_study::bars;
use acorn_study::card::{Choice, Field, FieldKind, Formula, GROUPING, MethodCard, NUMBERS, ORDERING, Slot, SlotKind, SubjectKind};

/// The card.
pub static CARD: LazyLock<MethodCard> = LazyLock::new(|| {
    let [width, start] = bars::slots();
    let goal = SlotKind::usually(GOAL, "asking for a Ppk of {}", "asking for a Ppk of 1.33", 0.1, 10.0);
    let wanted = SlotKind::usually(WANTED, "wanting it known to ± {}", "wanting it known to ± 0.1", 0.001, 10.0);
    let seed = SlotKind::usually(SEED as f64, "drawing from seed {}", "drawing from seed 0", 0.0, 1e9).whole();
    MethodCard {
        method: "capability",
        question: "Can it meet the limits?",
        part: "Look",
        use_when: "Use it when a measurement has limits: how far from them it stays, short-term and long-term.",
        found_by: &[
            "capability",
            "Cp",
            "Cpk",
            "Pp",
            "Ppk",
            "Cpm",
            "Z bench",
            "Box-Cox",
            "Johnson",
            "tolerance interval",
            "non-normal",
            "ppm",
        ],
        statement: "Judge {measure}[ in subgroups by {subgroup}][ in subgroups of {subgroup_size}][ in the order of {order}][ of {group} {only}] against {limits}, taking its shape as \
                    {shape}, short-term spread from {sigma}[, short-term values {historical}][, {bound}][, {goal}][, {wanted}][, with bars {bins}][, {bin_start}][, watching for {patterns}][, {seed}].",
        slots: vec![
            Slot::new(
                "measure",
                "measurement",
                SlotKind::needed(&NUMBERS, "choose a measurement").many(control_chart::SIDE_BY_SIDE_MOST, control_chart::SEVERAL),
            )
            .subject(SubjectKind::Measurement),
            Slot::new("subgroup", "subgroups", SlotKind::optional(&GROUPING, "single values")).single("measure").quiet(),
            Slot::new("subgroup_size", "rows a subgroup", SlotKind::number("{} rows in a row", "single values", 2.0, 10_000.0).whole())
                .without("subgroup")
                .single("measure")
                .quiet(),
            Slot::new("order", "order", SlotKind::optional(&ORDERING, "the rows")).quiet(),
            Slot::new("group", "one group only", SlotKind::optional(&GROUPING, "all rows")).quiet(),
            Slot::new("only", "which one", SlotKind::Choice { tag: "=", choices: only() }).with("group"),
            Slot::new("limits", "limits", SlotKind::Limits { of: "measure" }),
            Slot::new("shape", "shape", SlotKind::choice(shapes())),
            Slot::new("sigma", "short-term spread", SlotKind::choice(of_samples())).with("subgroup"),
            Slot::new("sigma", "short-term spread", SlotKind::choice([of_values(), of_samples()].concat())).without("subgroup"),
            Slot::new("historical", "values from before", SlotKind::Choice { tag: "=", choices: historical() }).quiet(),
            Slot::new("bound", "natural bound", SlotKind::number("never below {}", "no bound", f64::MIN, f64::MAX)).quiet(),
            Slot::new("goal", "Ppk asked for", goal).quiet(),
            Slot::new("wanted", "how well Ppk should be known", wanted).quiet(),
            width.quiet(),
            start,
            pattern_slot().quiet(),
            Slot::new("seed", "seed of the draws", seed).on("shape", &drawn()).quiet(),
        ],
        terms: TERMS,
        decisions: super::decisions::ALL,
        formulas: [&FORMULAS[..], &control_chart::FORMULAS].concat(),
    }
});

fn shapes() -> Vec<Choice> {
    vec![
        Choice::plain("normal", "normal", "The usual one; the test of shape says whether it holds."),
        Choice::plain("best-fit", "the best of those fitted", "Fits all families and ranks them, with pictures."),
        Choice::plain("box-cox", "normal after a power", "Box and Cox: for positive values with one long tail."),
        Choice::plain("johnson", "normal after one of Johnson's functions", "For bounded or heavy-tailed values."),
        Choice::plain("percentile", "none, by percentiles", "For many values of no known shape."),
        Choice::plain("fit:lognormal", "lognormal", "Products of many small effects: leaks, wear, times."),
        Choice::plain("fit:weibull", "Weibull", "Strength and life."),
        Choice::plain("fit:gamma", "gamma", "Waiting times that add up."),
        Choice::plain("fit:exponential", "exponential", "Time to an event that may come at any moment."),
        Choice::plain("fit:logistic", "logistic", "Like a normal with heavier tails."),
        Choice::plain("fit:loglogistic", "loglogistic", "Like a lognormal with heavier tails."),
        Choice::plain("fit:smallest-extreme-value", "smallest extreme value", "The weakest of many."),
        Choice::plain("fit:largest-extreme-value", "largest extreme value", "The strongest of many."),
        Choice::plain("fit:lognormal-threshold", "lognormal above a threshold", "With a smallest value found from the data."),
        Choice::plain("fit:weibull-threshold", "Weibull above a threshold", "With a smallest value found from the data."),
        Choice::plain("fit:gamma-threshold", "gamma above a threshold", "With a smallest value found from the data."),
        Choice::plain("fit:exponential-threshold", "exponential above a threshold", "With a smallest value found from the data."),
        Choice::plain("fit:loglogistic-threshold", "loglogistic above a threshold", "With a smallest value found from the data."),
        Choice::plain("fit:normal", "normal, by percentiles", "A fitted normal, for comparison with other fits."),
    ]
}

/// Shapes whose chance or interval rests on draws.
fn drawn() -> Vec<&'static str> {
    shapes().iter().map(|shape| shape.value).filter(|shape| *shape == "best-fit" || shape.starts_with("fit:")).collect()
}

fn of_samples() -> Vec<Choice> {
    vec![
        Choice::plain("pooled", "pooled sds", "All variances within subgroups; the most precise."),
        Choice::plain("range", "ranges", "As a chart of means and ranges takes it."),
        Choice::plain("sd", "sds", "As a chart of means and sds takes it."),
    ]
}

fn of_values() -> Vec<Choice> {
    vec![
        Choice::plain("mr-mean", "moving ranges", "The mean distance of neighbours; the usual one."),
        Choice::plain("mr-median", "the median moving range", "When a few neighbours lie far apart."),
    ]
}

fn historical() -> Vec<Choice> {
    let field = |name, label, low| Field::number(name, label, true, low);
    vec![
        Choice::plain("none", "from these values", "Mean and spread as they are."),
        Choice::with(
            "mean",
            "mean {mean} and sd {sigma} from before",
            "A process known beforehand; only the short-term indices change.",
            vec![field("mean", "mean", None), field("sigma", "sd", Some(f64::MIN_POSITIVE))],
        ),
    ]
}

fn only() -> Vec<Choice> {
    let label = Field { name: "label", label: "its label", kind: FieldKind::Text, required: true, low: None };
    vec![
        Choice::plain("all", "(all of them)", "Every row, whatever its group."),
        Choice::with("label", "{label}", "Only the rows with this label.", vec![label]),
    ]
}

const FORMULAS: [Formula; 17] = [
    Formula::new(
        "cp",
        "Cp, Cpk",
        "(USL − LSL)/6σ; the smaller of (USL − x̄)/3σ and (x̄ − LSL)/3σ, σ short-term",
        "Kane (1986); Montgomery (2013), ch. 8",
    ),
    Formula::new("pp", "Pp, Ppk", "the same with the sd of all values", "ISO 22514-2; AIAG SPC manual"),
    Formula::new("cpm", "Cpm", "(USL − LSL)/6√(s² + (x̄ − T)²)", "Chan, Cheng and Spiring (1988)"),
    Formula::new(
        "short-term",
        "Short-term spread",
        "MR̄/d₂ of single values; pooled sd, weighted ranges or sds of subgroups, with their bias constants",
        "Montgomery (2013), sec. 6.4; Burr (1969)",
    ),
    Formula::new(
        "both-interval",
        "Interval of Cp, Pp",
        "index √(χ²/df) at both ends, 95 %; df of the spread in use",
        "Kotz and Johnson (1993)",
    ),
    Formula::new("worse-interval", "Interval of Cpk, Ppk", "index ± 1.96 √(1/(9n) + index²/(2 df))", "Bissell (1990)"),
    Formula::new(
        "shape-interval",
        "Interval of a fitted shape",
        "400 samples drawn from the fit and fitted again, from the seed of the statement",
        "Efron and Tibshirani (1993), ch. 13",
    ),
    Formula::new(
        "any-shape",
        "Any other shape",
        "Pp = (USL − LSL)/(x₉₉.₈₆₅ − x₀.₁₃₅); Ppk from the median to the nearer limit",
        "ISO 22514-2",
    ),
    Formula::new("power", "Power", "y = (x^λ − 1)/λ, λ of the largest profile likelihood on [−5, 5]", "Box and Cox (1964)"),
    Formula::new(
        "johnson",
        "Johnson's functions",
        "SU, SB, SL from the percentiles at ±z and ±3z, z from 0.25 to 1.25; the one the test of shape likes best",
        "Slifker and Shapiro (1980); Chou, Polansky and Mason (1998)",
    ),
    Formula::new(
        "fit",
        "Fitted shapes",
        "maximum likelihood; ranked by the test of Anderson and Darling, its chance by table or 400 seeded refits; AIC beside it",
        "D'Agostino and Stephens (1986); Meeker and Escobar (1998)",
    ),
    Formula::new("z-bench", "Z bench", "the normal quantile of the whole share out, from the upper tail", "ISO 22514-2"),
    Formula::new(
        "tolerance",
        "Tolerance intervals",
        "x̄ ± k s, k exact; or order statistics whatever the shape; 95 % confidence",
        "ISO 16269-6",
    ),
    Formula::new("how-many", "How many", "the fewest n whose interval of Ppk is no wider than wanted", "Bissell (1990)"),
    Formula::new(
        "out",
        "Share out",
        "seen: values beyond a limit over all; expected: the tails of the shape beyond the specification limits",
        "ISO 22514-2",
    ),
    Formula::new("skewness", "Skewness", "G₁ = √(n(n−1))/(n−2) m₃/m₂^1.5", "Joanes and Gill (1998)"),
    Formula::new(
        "anderson-darling",
        "Test of the normal",
        "A² = −n − Σ(2i−1)/n [ln Φ(zᵢ) + ln Φ(−z₍ₙ₊₁₋ᵢ₎)]; A²(1 + 0.75/n + 2.25/n²)",
        "D'Agostino and Stephens (1986), table 4.9",
    ),
];
