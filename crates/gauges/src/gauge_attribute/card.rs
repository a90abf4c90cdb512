//! How a study of judgements describes itself.

use std::sync::LazyLock;

use super::terms::TERMS;
use acorn_study::card::{Formula, GROUPING, MethodCard, Slot, SlotKind, SubjectKind};

/// The card.
pub static CARD: LazyLock<MethodCard> = LazyLock::new(|| MethodCard {
    method: "gauge-attribute",
    question: "Do inspectors agree?",
    part: "Measure",
    use_when: "Use it when people judge by eye or go and no-go: several people judge the same pieces twice, best pieces whose true state is known.",
    found_by: &[
        "attribute agreement",
        "attribute gauge study",
        "kappa",
        "Cohen",
        "Fleiss",
        "miss rate",
        "false alarm rate",
        "go and no-go",
        "visual inspection",
    ],
    statement: "Judge inspection by {rating} of {part}, by {operator}[ in trials {trial}], against {reference}[, {bad} being bad].",
    slots: vec![
        Slot::new("rating", "judgement", SlotKind::needed(&GROUPING, "choose the judgements")).subject(SubjectKind::Labels),
        Slot::new("part", "parts", SlotKind::needed(&GROUPING, "choose what was judged")),
        Slot::new("operator", "operators", SlotKind::needed(&GROUPING, "choose who judged")),
        Slot::new("trial", "trials", SlotKind::optional(&GROUPING, "as they come")).quiet(),
        Slot::new("reference", "reference", SlotKind::optional(&GROUPING, "no reference")),
        Slot::new(
            "bad",
            "label that is bad",
            SlotKind::Label { of: "rating", words: "{}", empty: "choose the label that means bad", required: false },
        )
        .with("reference"),
    ],
    decisions: super::decisions::ALL,
    formulas: FORMULAS.to_vec(),
    terms: TERMS,
});

const FORMULAS: [Formula; 4] = [
    Formula::new(
        "agreement",
        "Agreement",
        "agreed / inspected; exact interval by beta quantiles",
        "AIAG MSA, 4th ed.; Clopper and Pearson (1934)",
    ),
    Formula::new(
        "fleiss",
        "Kappa of all judgements",
        "κⱼ = 1 − Σ xᵢⱼ(m − xᵢⱼ)/(n m (m − 1) pⱼqⱼ), κ = Σ pⱼqⱼκⱼ/Σ pⱼqⱼ; z by its standard error under no agreement",
        "Fleiss (1971); Fleiss, Nee and Landis (1979)",
    ),
    Formula::new(
        "cohen",
        "Kappa of two",
        "(pₒ − pₑ)/(1 − pₑ), interval ± 1.96 large-sample standard errors",
        "Cohen (1960); Fleiss, Cohen and Everitt (1969)",
    ),
    Formula::new("errors", "Wrong judgements", "“good” of bad / all of bad; “bad” of good / all of good", "AIAG MSA, 4th ed."),
];
