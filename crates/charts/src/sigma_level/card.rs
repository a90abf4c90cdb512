//! How a sigma level describes itself.

use std::sync::LazyLock;

use super::params::{SHIFT, STEPS_MOST};
use super::terms::TERMS;
use crate::control_chart;
use acorn_study::card::{Choice, Field, FieldKind, Formula, GROUPING, MethodCard, NUMBERS, ORDERING, Slot, SlotKind, SubjectKind};

/// The card.
pub static CARD: LazyLock<MethodCard> = LazyLock::new(|| {
    let typed = |fields, list| SlotKind::Typed { fields, list, most: STEPS_MOST, row_word: "step" };
    let chances = SlotKind::usually(1.0, "{} chances a unit", "1 chance a unit", 1e-9, 1e12);
    let shift = SlotKind::usually(SHIFT, "with a shift of {}", "with a shift of 1.5", 0.0, 3.0);
    MethodCard {
        method: "sigma-level",
        question: "How bad is it?",
        part: "Look",
        use_when: "Use it to compare: defects per unit and per million, yield, sigma level, rolled through steps.",
        found_by: &["DPMO", "DPU", "sigma level", "yield", "rolled throughput yield", "first-time yield", "ppm"],
        statement: "Tell how bad it is from {from}[: {subject}][ out of {inspected}][ by {step}][ in subgroups by {subgroup}][ in the order of {order}][ called by {label}], {shift}[, with {opportunities}][, {goal}].",
        slots: vec![
            Slot::new("from", "where the numbers come from", SlotKind::choice(sources())),
            Slot::new("defects", "counts", typed(counted(), None)).at("subject").on("from", &["counts"]),
            Slot::new("steps", "steps", typed(step(), Some("steps"))).at("subject").on("from", &["steps"]),
            Slot::new("mean", "mean, sd and limits", typed(normal(), None)).at("subject").on("from", &["normal"]),
            Slot::new("count", "defects", SlotKind::needed(&NUMBERS, "choose the defects"))
                .at("subject")
                .on("from", &["columns"])
                .subject(SubjectKind::Count),
            Slot::new("size", "number inspected", SlotKind::needed(&NUMBERS, "choose the number inspected"))
                .at("inspected")
                .on("from", &["columns"]),
            Slot::new("step", "steps", SlotKind::optional(&GROUPING, "no steps")).on("from", &["columns"]).quiet(),
            Slot::new("label", "name of a subgroup", SlotKind::optional(&GROUPING, "its number")).on("from", &["columns"]).quiet(),
            Slot::new("opportunities", "chances a unit", chances).on("from", &["columns"]).quiet(),
            Slot::new("measure", "measurement", SlotKind::needed(&NUMBERS, "choose a measurement"))
                .at("subject")
                .on("from", &["measurement"])
                .subject(SubjectKind::Measurement),
            Slot::new("subgroup", "subgroups", SlotKind::optional(&GROUPING, "single values")).on("from", &["measurement"]).quiet(),
            Slot::new("order", "order", SlotKind::optional(&ORDERING, "the rows")).on("from", &["columns", "measurement"]).quiet(),
            Slot::new("shift", "shift", shift),
            Slot::new("goal", "level asked for", SlotKind::number("asking for a level of {}", "none", 0.0, 12.0)).quiet(),
        ],
        terms: TERMS,
        decisions: super::decisions::ALL,
        formulas: [&FORMULAS[..], &control_chart::FORMULAS].concat(),
    }
});

fn counted() -> Vec<Field> {
    vec![
        Field::number("units", "units inspected", true, Some(0.0)),
        Field::number("opportunities", "chances in each", false, Some(0.0)),
        Field::number("defects", "defects found", true, Some(0.0)),
    ]
}

fn step() -> Vec<Field> {
    let name = Field { name: "name", label: "step", kind: FieldKind::Text, required: true, low: None };
    std::iter::once(name).chain(counted()).collect()
}

fn normal() -> Vec<Field> {
    vec![
        Field::number("mean", "mean", true, None),
        Field::number("sd", "sd", true, Some(0.0)),
        Field::number("lsl", "LSL", false, None),
        Field::number("usl", "USL", false, None),
    ]
}

fn sources() -> Vec<Choice> {
    let choice = Choice::plain;
    vec![
        choice("counts", "typed counts", "Units, chances and defects: an answer while typing."),
        choice("steps", "typed counts of several steps", "What passes through all of them: the rolled yield.").implied_by(&["steps"]),
        choice("normal", "a typed mean and sd", "With limits: what a normal leaves outside.").implied_by(&["mean", "sd"]),
        choice("columns", "columns of counts", "Defects and units of the dataset, with their steadiness.").implied_by(&["count"]),
        choice("measurement", "a measurement", "Its values against the limits of its column.").implied_by(&["measure"]),
    ]
}

const FORMULAS: [Formula; 7] = [
    Formula::new(
        "per-unit",
        "Per unit, per chance",
        "dpu = D/U, dpo = D/(U O), dpmo = 10⁶ dpo, yield = 1 − dpo",
        "Montgomery (2013), sec. 1.2",
    ),
    Formula::new(
        "sigma-level",
        "Sigma level",
        "z + shift, z = Φ⁻¹(1 − dpo) or of the normal share out; the shift is 1.5 unless changed",
        "Harry and Schroeder (2000)",
    ),
    Formula::new(
        "first-time-yield",
        "First-time yield",
        "e^−dpu: the share of units without any defect, defects falling at random",
        "Poisson; Montgomery (2013), sec. 7.3",
    ),
    Formula::new(
        "rolled-yield",
        "Rolled yield",
        "the product of the first-time yields of all steps; normalised: its k-th root",
        "Harry and Schroeder (2000)",
    ),
    Formula::new("count-interval", "Interval of counts", "exact binomial on U O chances, 95 %", "Clopper and Pearson (1934)"),
    Formula::new("measured-interval", "Interval of a measurement", "z ± 1.96 √(1/n + z²/(2(n − 1)))", "delta method; Bissell (1990)"),
    Formula::new(
        "anderson-darling",
        "Test of the normal",
        "A² of Anderson and Darling with estimated mean and sd",
        "D'Agostino and Stephens (1986), table 4.9",
    ),
];
