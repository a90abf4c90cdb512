//! How a screening describes itself.

use std::sync::LazyLock;

use super::terms::TERMS;
use acorn_data::frame::Kind;
use acorn_study::card::{Formula, MethodCard, Slot, SlotKind, SubjectKind};

/// Most columns that are named one by one.
const COLUMNS_MOST: usize = 200;
/// What a screening is about: a measurement, or labels.
const ABOUT: [Kind; 3] = [Kind::Number, Kind::WholeNumber, Kind::Category];
/// What may explain it.
const ANY: [Kind; 4] = [Kind::Category, Kind::WholeNumber, Kind::Number, Kind::DateTime];

/// The card.
pub static CARD: LazyLock<MethodCard> = LazyLock::new(|| MethodCard {
    method: "screening",
    question: "What goes with it?",
    part: "Look",
    use_when: "Use it when there are many columns and nobody knows which of them matters: all are tried at once, and chance is reckoned with.",
    found_by: &[
        "screening",
        "predictor screening",
        "eta squared",
        "r squared",
        "Cramér's V",
        "permutation test",
        "over-represented",
        "contrast",
        "what do they have in common",
        "root cause",
    ],
    statement: "Find what goes with {measure}[{rows}], among {columns}[, but not {apart}].",
    slots: vec![
        Slot::new("measure", "what is to be explained", SlotKind::needed(&ABOUT, "choose a measurement, or pass and fail"))
            .without_option("rows")
            .subject(SubjectKind::Measurement),
        Slot::new("rows", "rows to be explained", SlotKind::Rows { empty: "some rows" }).quiet(),
        Slot::new(
            "columns",
            "columns to try",
            SlotKind::optional(&ANY, "every other column").many(COLUMNS_MOST, "None for all of them.").or_all(),
        ),
        Slot::new(
            "apart",
            "columns not to try",
            SlotKind::optional(&ANY, "none").many(COLUMNS_MOST, "Such as what the rows were chosen by, or what was worked out from it."),
        )
        .quiet(),
    ],
    terms: TERMS,
    decisions: super::decisions::ALL,
    formulas: FORMULAS.to_vec(),
});

const FORMULAS: [Formula; 4] = [
    Formula::new("r2", "Two measurements", "r² = (Σ(x − x̄)(y − ȳ))²/(Σ(x − x̄)² Σ(y − ȳ)²)", "Pearson (1896)"),
    Formula::new("eta2", "A measurement by labels", "η² = Σ n(ȳ of the label − ȳ)²/Σ(y − ȳ)²", "Fisher (1925)"),
    Formula::new("cramers-v", "Labels by labels", "V² = χ²/(n (the smaller number of labels − 1))", "Cramér (1946)"),
    Formula::new(
        "screen",
        "Chance for the whole screen",
        "how often the least chance of all columns is as small when the rows are shuffled; 1,000 shuffles, seed 1",
        "Westfall and Young (1993)",
    ),
];
