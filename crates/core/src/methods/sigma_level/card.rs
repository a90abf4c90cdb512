//! How a sigma level describes itself.

use crate::frame::Kind;
use crate::study::card::{Choice, Condition, Filling, Formula, MethodCard, Slot};

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
    let number = |words, unset, low, high| Filling::Number { words, unset, low, high };
    let typed = |label| Filling::Typed { fields: label };
    MethodCard {
        method: "sigma-level",
        question: "How bad is it?",
        part: "Look",
        use_when: "Use it to compare: defects per unit and per million, yield, sigma level, rolled through steps.",
        statement: "Tell how bad it is from {from}[: {subject}][ out of {inspected}][ by {step}], {shift}[, with {opportunities}][, {goal}].",
        slots: vec![
            slot("from", "from", "where the numbers come from", false, Filling::Choice { tag: "", choices: sources() }),
            when(&["counts"], slot("subject", "defects", "counts", false, typed(&["units", "opportunities", "defects"]))),
            when(&["steps"], slot("subject", "steps", "steps", false, typed(&["steps"]))),
            when(&["normal"], slot("subject", "mean", "mean, sd and limits", false, typed(&["mean", "sd", "lsl", "usl"]))),
            when(&["columns"], slot("subject", "count", "defects", false, column(numbers(), "choose the defects", true))),
            when(
                &["columns"],
                slot("inspected", "size", "number inspected", false, column(numbers(), "choose the number inspected", true)),
            ),
            when(&["columns"], slot("step", "step", "steps", true, column(grouping, "no steps", false))),
            when(
                &["columns"],
                slot("opportunities", "opportunities", "chances a unit", true, number("{} chances a unit", "1 chance a unit", 1.0, 1e9)),
            ),
            when(&["measurement"], slot("subject", "measure", "measurement", false, column(numbers(), "choose a measurement", true))),
            slot("shift", "shift", "shift", false, number("with a shift of {}", "with a shift of 1.5", 0.0, 3.0)),
            slot("goal", "goal", "level asked for", true, number("asking for a level of {}", "none", 0.0, 12.0)),
        ],
        formulas: formulas(),
    }
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
