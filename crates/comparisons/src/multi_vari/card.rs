//! How a multi-vari study describes itself.

use std::sync::LazyLock;

use super::terms::TERMS;
use acorn_study::card::{Formula, GROUPING, MethodCard, NUMBERS, Slot, SlotKind, SubjectKind};

/// Most factors.
pub const FACTORS_MOST: usize = 4;
/// Most combinations of their levels.
pub const CELLS_MOST: usize = 200_000;

/// The card.
pub static CARD: LazyLock<MethodCard> = LazyLock::new(|| MethodCard {
    method: "multi-vari",
    question: "Where does the variation come from?",
    part: "Look",
    use_when: "Use it before hunting for a cause: it says whether pieces vary within themselves, from one to the next, or over time.",
    found_by: &[
        "multi-vari",
        "multi vari chart",
        "sources of variation",
        "components of variance",
        "variance components",
        "nested analysis",
        "family of variation",
    ],
    statement: "Split the variation of {measure} over {factors}.",
    slots: vec![
        Slot::new("measure", "measurement", SlotKind::needed(&NUMBERS, "choose a measurement")).subject(SubjectKind::Measurement),
        Slot::new(
            "factors",
            "factors, outermost first",
            SlotKind::needed(&GROUPING, "choose what it may vary over")
                .many(FACTORS_MOST, "Choose up to four, outermost first: time, then piece, then the position within it.")
                .ordered(),
        ),
    ],
    terms: TERMS,
    decisions: super::decisions::ALL,
    formulas: FORMULAS.to_vec(),
});

const FORMULAS: [Formula; 4] = [
    Formula::new(
        "components",
        "Components of variance",
        "E[MSⱼ] = σ² + Σ over m ≥ j of c_jm σ²_m, solved from the innermost outwards; below 0 is 0",
        "Searle, Casella and McCulloch (1992), ch. 5",
    ),
    Formula::new(
        "nested",
        "Sums of squares",
        "SSⱼ = Σ n(x̄ of the group − x̄ of its parent)²",
        "Searle, Casella and McCulloch (1992), ch. 5",
    ),
    Formula::new(
        "share-interval",
        "Interval of a share",
        "each MS as df MS/χ²(df), 2,000 times, the share from each",
        "Hamada and Weerahandi (2000), J. Quality Technology 32",
    ),
    Formula::new("group-mean", "Mean of a level", "x̄ = Σx/n", "ISO 3534-1"),
];
