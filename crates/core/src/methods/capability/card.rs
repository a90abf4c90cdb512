//! How a capability study describes itself.

use crate::frame::Kind;
use crate::study::card::{Choice, Condition, Field, FieldKind, Filling, Formula, MethodCard, Slot, bar_choices};

/// The card.
pub fn card() -> MethodCard {
    let slot = |name, label, quiet, filling| Slot { at: name, name, label, shows: vec![], quiet, filling };
    let with = |role, slot: Slot| Slot {
        shows: vec![Condition { option: None, among: vec![], empty_role: None, filled_role: Some(role) }],
        ..slot
    };
    let without = |role, slot: Slot| Slot {
        shows: vec![Condition { option: None, among: vec![], empty_role: Some(role), filled_role: None }],
        ..slot
    };
    let column = |kinds, empty, required| Filling::Column { kinds, empty, required, many: false };
    let grouping = vec![Kind::Category, Kind::WholeNumber, Kind::Text, Kind::DateTime];
    let ordering = vec![Kind::DateTime, Kind::WholeNumber, Kind::Number];
    let choices = |tag, choices| Filling::Choice { tag, choices };
    let number = |words, unset, usual, low, high| Filling::Number { words, unset, usual, low, high };
    MethodCard {
        method: "capability",
        question: "Can it meet the limits?",
        part: "Look",
        use_when: "Use it when a measurement has limits: how far from them it stays, short-term and long-term.",
        statement: "Judge {measure}[ in samples by {subgroup}][ in the order of {order}][ of {group} {only}] against {limits}, taking its shape as \
                    {shape}, short-term spread from {sigma}[, short-term values {historical}][, {bound}][, {goal}][, with bars {bins}].",
        slots: vec![
            slot("measure", "measurement", false, column(vec![Kind::Number, Kind::WholeNumber], "choose a measurement", true)),
            slot("subgroup", "samples", true, column(grouping.clone(), "single values", false)),
            slot("order", "order", true, column(ordering, "the rows", false)),
            slot("group", "one group only", true, column(grouping, "all rows", false)),
            with("group", slot("only", "which one", false, choices("=", only()))),
            slot("limits", "limits", false, Filling::Limits { of: "measure" }),
            slot("shape", "shape", false, choices("", shapes())),
            with("subgroup", slot("sigma", "short-term spread", false, choices("", of_samples()))),
            without("subgroup", slot("sigma", "short-term spread", false, choices("", of_values()))),
            slot("historical", "values from before", true, choices("=", historical())),
            slot("bound", "natural bound", true, number("never below {}", "no bound", None, f64::MIN, f64::MAX)),
            slot("goal", "Ppk asked for", true, number("asking for a Ppk of {}", "asking for a Ppk of 1.33", Some(1.33), 0.1, 10.0)),
            slot("bins", "bars", true, choices("=", bar_choices())),
        ],
        formulas: formulas(),
    }
}

fn choice(value: &'static str, words: &'static str, use_when: &'static str) -> Choice {
    Choice { value, words, use_when, fields: vec![] }
}

fn shapes() -> Vec<Choice> {
    vec![
        choice("normal", "normal", "The usual one; the test of shape says whether it holds."),
        choice("best-fit", "the best of those fitted", "Fits all families and ranks them, with pictures."),
        choice("box-cox", "normal after a power", "Box and Cox: for positive values with one long tail."),
        choice("johnson", "normal after one of Johnson's functions", "For bounded or heavy-tailed values."),
        choice("percentile", "none, by percentiles", "For many values of no known shape."),
        choice("fit:lognormal", "lognormal", "Products of many small effects: leaks, wear, times."),
        choice("fit:weibull", "Weibull", "Strength and life."),
        choice("fit:gamma", "gamma", "Waiting times that add up."),
        choice("fit:exponential", "exponential", "Time to an event that may come at any moment."),
        choice("fit:logistic", "logistic", "Like a normal with heavier tails."),
        choice("fit:loglogistic", "loglogistic", "Like a lognormal with heavier tails."),
        choice("fit:smallest-extreme-value", "smallest extreme value", "The weakest of many."),
        choice("fit:largest-extreme-value", "largest extreme value", "The strongest of many."),
        choice("fit:lognormal-threshold", "lognormal above a threshold", "With a smallest value found from the data."),
        choice("fit:weibull-threshold", "Weibull above a threshold", "With a smallest value found from the data."),
        choice("fit:gamma-threshold", "gamma above a threshold", "With a smallest value found from the data."),
        choice("fit:exponential-threshold", "exponential above a threshold", "With a smallest value found from the data."),
        choice("fit:loglogistic-threshold", "loglogistic above a threshold", "With a smallest value found from the data."),
        choice("fit:normal", "normal, by percentiles", "A fitted normal, for comparison with other fits."),
    ]
}

fn of_samples() -> Vec<Choice> {
    vec![
        choice("pooled", "pooled sds", "All variances within samples; the most precise."),
        choice("range", "ranges", "As a chart of means and ranges takes it."),
        choice("sd", "sds", "As a chart of means and sds takes it."),
    ]
}

fn of_values() -> Vec<Choice> {
    vec![
        choice("mr-mean", "moving ranges", "The mean distance of neighbours; the usual one."),
        choice("mr-median", "the median moving range", "When a few neighbours lie far apart."),
    ]
}

fn historical() -> Vec<Choice> {
    let field = |name, label, low| Field { name, label, kind: FieldKind::Number, required: true, low };
    vec![
        choice("none", "from these values", "Mean and spread as they are."),
        Choice {
            value: "mean",
            words: "mean {mean} and sd {sigma} from before",
            use_when: "A process known beforehand; only the short-term indices change.",
            fields: vec![field("mean", "mean", None), field("sigma", "sd", Some(0.0))],
        },
    ]
}

fn only() -> Vec<Choice> {
    let label = Field { name: "label", label: "its label", kind: FieldKind::Text, required: true, low: None };
    vec![
        choice("all", "(all of them)", "Every row, whatever its group."),
        Choice { value: "label", words: "{label}", use_when: "Only the rows with this label.", fields: vec![label] },
    ]
}

fn formulas() -> Vec<Formula> {
    let formula = |name, formula, source| Formula { name, formula, source };
    vec![
        formula(
            "Cp, Cpk",
            "(USL − LSL)/6σ; the smaller of (USL − x̄)/3σ and (x̄ − LSL)/3σ, σ short-term",
            "Kane (1986); Montgomery (2013), ch. 8",
        ),
        formula("Pp, Ppk", "the same with the sd of all values", "ISO 22514-2; AIAG SPC manual"),
        formula("Cpm", "(USL − LSL)/6√(s² + (x̄ − T)²)", "Chan, Cheng and Spiring (1988)"),
        formula(
            "Short-term spread",
            "MR̄/d₂ of single values; pooled sd, weighted ranges or sds of samples, with their bias constants",
            "Montgomery (2013), sec. 6.4; Burr (1969)",
        ),
        formula("Interval of Cp, Pp", "index √(χ²/df) at both ends, 95 %; df of the spread in use", "Kotz and Johnson (1993)"),
        formula("Interval of Cpk, Ppk", "index ± 1.96 √(1/(9n) + index²/(2 df))", "Bissell (1990)"),
        formula(
            "Interval of a fitted shape",
            "400 samples drawn from the fit and fitted again, seeded",
            "Efron and Tibshirani (1993), ch. 13",
        ),
        formula("Any other shape", "Pp = (USL − LSL)/(x₉₉.₈₆₅ − x₀.₁₃₅); Ppk from the median to the nearer limit", "ISO 22514-2"),
        formula("Power", "y = (x^λ − 1)/λ, λ of the largest profile likelihood on [−5, 5]", "Box and Cox (1964)"),
        formula(
            "Johnson's functions",
            "SU, SB, SL from the percentiles at ±z and ±3z, z from 0.25 to 1.25; the one the test of shape likes best",
            "Slifker and Shapiro (1980); Chou, Polansky and Mason (1998)",
        ),
        formula(
            "Fitted shapes",
            "maximum likelihood; ranked by the test of Anderson and Darling, its chance by table or 400 seeded refits; AIC beside it",
            "D'Agostino and Stephens (1986); Meeker and Escobar (1998)",
        ),
        formula("Z bench", "the normal quantile of the whole share out, from the upper tail", "ISO 22514-2"),
        formula("Tolerance intervals", "x̄ ± k s, k exact; or order statistics whatever the shape; 95 % confidence", "ISO 16269-6"),
        formula("How many", "the fewest n whose interval of Ppk is no wider than wanted", "Bissell (1990)"),
    ]
}
