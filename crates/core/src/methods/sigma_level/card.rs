//! How a sigma level describes itself.

use crate::frame::Kind;
use crate::study::card::{Choice, Condition, Field, FieldKind, Filling, Formula, MethodCard, Slot};

/// The card.
pub fn card() -> MethodCard {
    let slot = |at, name, label, quiet, filling| Slot { at, name, label, shows: vec![], quiet, filling };
    let when = |among: &[&'static str], slot: Slot| Slot {
        shows: vec![Condition { option: Some("from"), among: among.to_vec(), empty_role: None, filled_role: None }],
        ..slot
    };
    let column = |kinds, empty, required| Filling::Column { kinds, empty, required, many: false };
    let numbers = || vec![Kind::WholeNumber, Kind::Number];
    let grouping = vec![Kind::Category, Kind::Text, Kind::WholeNumber, Kind::DateTime];
    let number = |words, unset, usual, low, high| Filling::Number { words, unset, usual, low, high };
    let typed = |fields| Filling::Typed { fields, list: None };
    MethodCard {
        method: "sigma-level",
        question: "How bad is it?",
        part: "Look",
        use_when: "Use it to compare: defects per unit and per million, yield, sigma level, rolled through steps.",
        statement: "Tell how bad it is from {from}[: {subject}][ out of {inspected}][ by {step}], {shift}[, with {opportunities}][, {goal}].",
        slots: vec![
            slot("from", "from", "where the numbers come from", false, Filling::Choice { tag: "", choices: sources() }),
            when(&["counts"], slot("subject", "defects", "counts", false, typed(counted()))),
            when(&["steps"], slot("subject", "steps", "steps", false, Filling::Typed { fields: step(), list: Some("steps") })),
            when(&["normal"], slot("subject", "mean", "mean, sd and limits", false, typed(normal()))),
            when(&["columns"], slot("subject", "count", "defects", false, column(numbers(), "choose the defects", true))),
            when(
                &["columns"],
                slot("inspected", "size", "number inspected", false, column(numbers(), "choose the number inspected", true)),
            ),
            when(&["columns"], slot("step", "step", "steps", true, column(grouping, "no steps", false))),
            when(
                &["columns"],
                slot(
                    "opportunities",
                    "opportunities",
                    "chances a unit",
                    true,
                    number("{} chances a unit", "1 chance a unit", Some(1.0), 1.0, 1e9),
                ),
            ),
            when(&["measurement"], slot("subject", "measure", "measurement", false, column(numbers(), "choose a measurement", true))),
            slot("shift", "shift", "shift", false, number("with a shift of {}", "with a shift of 1.5", Some(1.5), 0.0, 3.0)),
            slot("goal", "goal", "level asked for", true, number("asking for a level of {}", "none", None, 0.0, 12.0)),
        ],
        formulas: formulas(),
    }
}

fn field(name: &'static str, label: &'static str, required: bool, low: Option<f64>) -> Field {
    Field { name, label, kind: FieldKind::Number, required, low }
}

fn counted() -> Vec<Field> {
    vec![
        field("units", "units inspected", true, Some(0.0)),
        field("opportunities", "chances in each", false, Some(0.0)),
        field("defects", "defects found", true, Some(0.0)),
    ]
}

fn step() -> Vec<Field> {
    let name = Field { name: "name", label: "step", kind: FieldKind::Text, required: true, low: None };
    std::iter::once(name).chain(counted()).collect()
}

fn normal() -> Vec<Field> {
    vec![
        field("mean", "mean", true, None),
        field("sd", "sd", true, Some(0.0)),
        field("lsl", "lower limit", false, None),
        field("usl", "upper limit", false, None),
    ]
}

fn sources() -> Vec<Choice> {
    let choice = |value, words, use_when| Choice { value, words, use_when, fields: vec![] };
    vec![
        choice("counts", "typed counts", "Units, chances and defects: an answer while typing."),
        choice("steps", "typed counts of several steps", "What passes through all of them: the rolled yield."),
        choice("normal", "a typed mean and sd", "With limits: what a normal leaves outside."),
        choice("columns", "columns of counts", "Defects and units of the dataset, with their steadiness."),
        choice("measurement", "a measurement", "Its values against the limits of its column."),
    ]
}

fn formulas() -> Vec<Formula> {
    let formula = |name, formula, source| Formula { name, formula, source };
    vec![
        formula("Per unit, per chance", "dpu = D/U, dpo = D/(U O), dpmo = 10⁶ dpo, yield = 1 − dpo", "Montgomery (2013), sec. 1.2"),
        formula(
            "Sigma level",
            "z + shift, z = Φ⁻¹(1 − dpo) or of the normal share out; the shift is 1.5 unless changed",
            "Harry and Schroeder (2000)",
        ),
        formula(
            "First-time yield",
            "e^−dpu: the share of units without any defect, defects falling at random",
            "Poisson; Montgomery (2013), sec. 7.3",
        ),
        formula(
            "Rolled yield",
            "the product of the first-time yields of all steps; normalised: its k-th root",
            "Harry and Schroeder (2000)",
        ),
        formula("Interval of counts", "exact binomial on U O chances, 95 %", "Clopper and Pearson (1934)"),
        formula("Interval of a measurement", "z ± 1.96 √(1/n + z²/(2(n − 1)))", "delta method; Bissell (1990)"),
        formula("Test of the normal", "A² of Anderson and Darling with estimated mean and sd", "D'Agostino and Stephens (1986), table 4.9"),
    ]
}
