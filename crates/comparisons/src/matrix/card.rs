//! How a matrix of correlations describes itself.

use std::sync::LazyLock;

use super::terms::TERMS;
use acorn_study::card::{Formula, MethodCard, NUMBERS, Slot, SlotKind, SubjectKind};

/// Most columns.
pub const COLUMNS_MOST: usize = 20;

/// The card.
pub static CARD: LazyLock<MethodCard> = LazyLock::new(|| MethodCard {
    method: "matrix",
    question: "Which of them go together?",
    part: "Look",
    use_when: "Use it for several measurements of the same pieces: every pair at once, and which pairs chance does not explain.",
    found_by: &["matrix", "scatter matrix", "scatterplot matrix", "correlation matrix", "pairwise correlation", "Holm"],
    statement: "Hold {measure} against each other.",
    slots: vec![
        Slot::new(
            "measure",
            "measurements",
            SlotKind::needed(&NUMBERS, "choose measurements").many(COLUMNS_MOST, "Choose two to 20 measurements of the same pieces."),
        )
        .subject(SubjectKind::Measurement),
    ],
    terms: TERMS,
    decisions: super::decisions::ALL,
    formulas: FORMULAS.to_vec(),
});

const FORMULAS: [Formula; 3] = [
    Formula::new(
        "pearson",
        "Pearson's r",
        "Σ(x − x̄)(y − ȳ)/√(Σ(x − x̄)² Σ(y − ȳ)²); interval by Fisher's z, p by t",
        "Pearson (1896); Fisher (1921)",
    ),
    Formula::new("spearman", "Spearman's r", "Pearson's r of ranks", "Spearman (1904)"),
    Formula::new("holm", "Chance for all pairs", "the smallest of m chances times m, the next times m − 1, and so on", "Holm (1979)"),
];
