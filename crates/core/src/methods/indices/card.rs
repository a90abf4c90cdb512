//! How the table of indices describes itself.

use crate::frame::Kind;
use crate::study::card::{Choice, Filling, Formula, MethodCard, Slot};

/// The card.
pub fn card() -> MethodCard {
    let slot = |name, label, quiet, filling| Slot { at: name, name, label, shows: vec![], quiet, filling };
    let column = |kinds, empty, required, many| Filling::Column { kinds, empty, required, many };
    let grouping = vec![Kind::Category, Kind::WholeNumber, Kind::Text, Kind::DateTime];
    let choice = |value, words, use_when| Choice { value, words, use_when, fields: vec![] };
    let shapes = vec![
        choice("normal", "normal", "The usual one; the test of shape tells where it does not hold."),
        choice("best-fit", "the best of those fitted", "Each row its own."),
        choice("percentile", "none, by percentiles", "For many values of no known shape."),
    ];
    MethodCard {
        method: "indices",
        question: "Which of them can meet their limits?",
        part: "Look",
        use_when: "Use it for many measurements, or one measurement at each cavity, bench or position.",
        statement: "Judge {measure} against their limits[, each {group} by itself][, in the order of {order}], taking shapes as {shape}[, {goal}].",
        slots: vec![
            slot("measure", "measurements", false, column(vec![Kind::Number, Kind::WholeNumber], "choose columns with limits", true, true)),
            slot("group", "groups", true, column(grouping, "all rows together", false, false)),
            slot("order", "order", true, column(vec![Kind::DateTime, Kind::WholeNumber, Kind::Number], "the rows", false, false)),
            slot("shape", "shape", false, Filling::Choice { tag: "", choices: shapes }),
            slot(
                "goal",
                "Ppk asked for",
                true,
                Filling::Number {
                    words: "asking for a Ppk of {}",
                    unset: "asking for a Ppk of 1.33",
                    usual: Some(1.33),
                    low: 0.1,
                    high: 10.0,
                },
            ),
        ],
        formulas: vec![Formula {
            name: "Each row",
            formula: "as \u{201c}Can it meet the limits?\u{201d} answers for it, single values in order",
            source: "ISO 22514-2; Montgomery (2013), ch. 8",
        }],
    }
}
