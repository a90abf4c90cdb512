//! How the table of indices describes itself.

use std::sync::LazyLock;

use super::compute::MANY;
use crate::capability::GOAL;
use acorn_study::card::{Choice, Formula, GROUPING, MethodCard, NUMBERS, ORDERING, Slot, SlotKind, SubjectKind};
use acorn_study::gauge;

/// The card.
pub static CARD: LazyLock<MethodCard> = LazyLock::new(|| {
    let shapes = vec![
        Choice::plain("normal", "normal", "The usual one; the test of shape tells where it does not hold."),
        Choice::plain("best-fit", "the best of those fitted", "Each row its own."),
        Choice::plain("percentile", "none, by percentiles", "For many values of no known shape."),
    ];
    let goal = SlotKind::usually(GOAL, "asking for a Ppk of {}", "asking for a Ppk of 1.33", 0.1, 10.0);
    MethodCard {
        method: "indices",
        question: "Which of them can meet their limits?",
        part: "Look",
        use_when: "Use it for many measurements, or one measurement at each cavity, bench or position.",
        found_by: &["Ppk", "Cpk", "Pp", "Cp", "capability table", "indices"],
        statement: "Judge {measure} against their limits[, each {group} by itself][, in the order of {order}], taking shapes as {shape}[, {goal}].",
        slots: vec![
            Slot::new(
                "measure",
                "measurements",
                SlotKind::needed(&NUMBERS, "choose columns with limits")
                    .many(MANY, "Choose as many as you like; each is judged by its own limits."),
            )
            .subject(SubjectKind::Measurement),
            Slot::new("group", "groups", SlotKind::optional(&GROUPING, "all rows together")).quiet(),
            Slot::new("order", "order", SlotKind::optional(&ORDERING, "the rows")).quiet(),
            Slot::new("shape", "shape", SlotKind::choice(shapes)),
            Slot::new("goal", "Ppk asked for", goal).quiet(),
        ],
        terms: &[],
        decisions: super::decisions::ALL,
        formulas: vec![
            gauge::share::FORMULA,
            Formula::new(
                "row",
                "Each row",
                "as \u{201c}Can it meet the limits?\u{201d} answers for it, single values in order",
                "ISO 22514-2; Montgomery (2013), ch. 8",
            ),
        ],
    }
});
