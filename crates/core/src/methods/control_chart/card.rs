//! How the control chart describes itself.

use super::patterns::Pattern;
use crate::frame::Kind;
use crate::study::card::{Choice, Field, Filling, Formula, Item, MethodCard, Slot};

/// The card.
pub fn card() -> MethodCard {
    MethodCard {
        method: "control-chart",
        question: "Is it steady?",
        part: "Judge",
        use_when: "Use it when values come one after the other and you must know which of them are signals.",
        statement: "Chart {measure}, one by one in the order of {order}, with limits from {limits}, spread by {sigma}, watching for {patterns}.",
        slots: vec![
            column("measure", "measurement", vec![Kind::Number, Kind::WholeNumber], "choose a measurement", true),
            column("order", "order", vec![Kind::DateTime, Kind::WholeNumber, Kind::Number], "the rows", false),
            Slot {
                name: "limits",
                label: "where the limits come from",
                filling: Filling::Choice { tag: "from", choices: limit_choices() },
            },
            Slot {
                name: "sigma",
                label: "how the short-term spread is taken",
                filling: Filling::Choice { tag: "", choices: sigma_choices() },
            },
            Slot {
                name: "patterns",
                label: "patterns to watch for",
                filling: Filling::Checklist { one: "pattern", many: "patterns", tag: "pattern", items: Pattern::ALL.map(item).into() },
            },
        ],
        formulas: formulas(),
    }
}

fn column(name: &'static str, label: &'static str, kinds: Vec<Kind>, empty: &'static str, required: bool) -> Slot {
    Slot { name, label, filling: Filling::Column { kinds, empty, required } }
}

fn limit_choices() -> Vec<Choice> {
    let point = |name, label| Field { name, label, point_number: true, low: Some(0.0) };
    let number = |name, label, low| Field { name, label, point_number: false, low };
    vec![
        Choice { value: "data", words: "all values", use_when: "To look at a process for the first time.", fields: vec![] },
        Choice {
            value: "baseline",
            words: "values {first} to {last}",
            use_when: "To judge what came after a stretch when it ran well.",
            fields: vec![point("first", "first value"), point("last", "last value")],
        },
        Choice {
            value: "known",
            words: "known values, centre {center} and sd {sigma}",
            use_when: "To judge against figures settled before.",
            fields: vec![number("center", "centre", None), number("sigma", "sd", Some(0.0))],
        },
    ]
}

fn sigma_choices() -> Vec<Choice> {
    let choice = |value, words, use_when| Choice { value, words, use_when, fields: vec![] };
    vec![
        choice("mr-mean", "the mean moving range", "The usual way; uses every difference."),
        choice("mr-median", "the median moving range", "When a few wild values would widen the limits."),
    ]
}

fn item(pattern: Pattern) -> Item {
    let (label, finds) = match pattern {
        Pattern::BeyondLimits => ("beyond the limits", "One value beyond a control limit."),
        Pattern::RunOneSide => ("run on one side", "{length} in a row on one side of the centre."),
        Pattern::Trend => ("trend", "{length} in a row, each higher (or each lower) than the one before."),
        Pattern::Alternating => ("alternating", "{length} in a row, up and down by turns."),
        Pattern::TwoOfThreeOuter => ("outer, near a limit", "{length} of {length+1} in a row beyond 2 sd on the same side."),
        Pattern::FourOfFiveOuter => ("outer, off the middle", "{length} of {length+1} in a row beyond 1 sd on the same side."),
        Pattern::HuggingCentre => ("hugging the centre", "{length} in a row within 1 sd."),
        Pattern::AvoidingCentre => ("avoiding the centre", "{length} in a row beyond 1 sd, on either side."),
    };
    Item { value: pattern.name(), label, finds, default_on: pattern.default_on(), length: pattern.length() }
}

fn formulas() -> Vec<Formula> {
    let formula = |name, formula, source| Formula { name, formula, source };
    vec![
        formula("Centre", "x̄ = Σ xᵢ / n", "Shewhart (1931), Economic Control of Quality, ch. XX"),
        formula("Moving range", "MRᵢ = |xᵢ − xᵢ₋₁|, broken by a missing or omitted value", "ISO 7870-2:2023, individuals chart"),
        formula("Short-term sd", "s = MR̄ / d₂(2), or median MR / 0.9539", "Montgomery (2013), sec. 6.4; Nelson (1982), JQT 14(3)"),
        formula("Control limits", "x̄ ± 3 s", "Shewhart (1931); width 3 unless said otherwise"),
        formula("Limits of the moving range", "d₂ s, (d₂ ± 3 d₃) s, floored at 0", "Montgomery (2013), sec. 6.4"),
        formula(
            "d₂, d₃",
            "mean and sd of the range of n normal values, by quadrature",
            "Hartley (1942), Biometrika 32; agrees with Harter (1960)",
        ),
        formula(
            "Patterns",
            "zones of 1, 2 and 3 sd about the centre; exactly on a line is not beyond",
            "Western Electric (1956); Nelson (1984), JQT 16(4)",
        ),
        formula(
            "False alarms",
            "average points to the first signal of the chosen set, independent normal values",
            "1 / (2 (1 − Φ(3))) for limits alone; other sets by seeded simulation, about 0.3 % exact",
        ),
    ]
}
