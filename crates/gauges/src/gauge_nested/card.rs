//! How a nested gauge study describes itself.

use std::sync::LazyLock;

use super::terms::TERMS;
use acorn_study::card::{Formula, GROUPING, MethodCard, NUMBERS, Slot, SlotKind, SubjectKind};
use acorn_study::gauge::against::MULTIPLIER;

/// The card.
pub static CARD: LazyLock<MethodCard> = LazyLock::new(|| {
    let multiplier = SlotKind::usually(MULTIPLIER, "counting {} sds", "counting 6 sds", 0.1, 20.0);
    let positive = |words, unset| SlotKind::number(words, unset, f64::MIN_POSITIVE, f64::MAX);
    MethodCard {
        method: "gauge-nested",
        question: "Can we trust a gauge that destroys the piece?",
        part: "Measure",
        use_when: "Use it when no two people can read the same piece: each operator has parts of their own, cut or picked as alike as can be.",
        found_by: &["nested gauge study", "destructive gauge study", "gauge R&R", "nested ANOVA"],
        statement: "Judge the gauge by {measure} of {part}, each read by one {operator}, against {limits}[, {tolerance}][, {process_sd}][, {multiplier}].",
        slots: vec![
            Slot::new("measure", "measurement", SlotKind::needed(&NUMBERS, "choose the readings")).subject(SubjectKind::Measurement),
            Slot::new("part", "parts", SlotKind::needed(&GROUPING, "choose what was read")),
            Slot::new("operator", "operators", SlotKind::needed(&GROUPING, "choose who read it")),
            Slot::new("limits", "limits", SlotKind::Limits { of: "measure" }),
            Slot::new("tolerance", "tolerance", positive("a tolerance of {}", "the tolerance of the limits")).quiet(),
            Slot::new("process_sd", "process sd", positive("a process sd of {}", "no known process sd")).quiet(),
            Slot::new("multiplier", "sds of a study variation", multiplier).quiet(),
        ],
        decisions: super::decisions::ALL,
        formulas: FORMULAS.to_vec(),
        terms: TERMS,
    }
});

const FORMULAS: [Formula; 7] = [
    Formula::new(
        "components",
        "Components of variance",
        "σ²ₑ = MSₑ, σ²ₚ = (MSₚ − MSₑ)/r, σ²ₒ = (MSₒ − MSₚ)/(p r), r readings of each of p parts of an operator; negative ones are set to 0",
        "Montgomery (2013), sec. 8.7; Searle, Casella and McCulloch (1992), ch. 4",
    ),
    Formula::new("study-variation", "%study variation", "sd of the component / sd of the total", "AIAG MSA, 4th ed."),
    Formula::new(
        "tolerance",
        "%tolerance",
        "so many sds of the component / (USL − LSL); with one limit: / twice the way from the mean to it",
        "AIAG MSA, 4th ed.",
    ),
    Formula::new(
        "anova",
        "Variance analysis",
        "SS, df, MS = SS/df; operator over part, part over repeatability",
        "Montgomery (2013), sec. 8.7",
    ),
    Formula::new(
        "share-interval",
        "Interval of a share",
        "each MS replaced by df MS/χ²(df), the share computed again, its 2.5 and 97.5 % points of 2,000 draws (seed 1)",
        "Hamada and Weerahandi (2000); Burdick, Borror and Montgomery (2005)",
    ),
    Formula::new(
        "bias-limits",
        "Decision limits of operator means",
        "x̄ ± h √(MSₚ (k − 1)/N), h of the largest |t| of k means: their parts differ too",
        "Nelson (1983); Nelson, Wludyka and Copeland (2005)",
    ),
    Formula::new(
        "consistency-limits",
        "Decision limits of operator sds",
        "k s² times the quantiles of Beta(ν/2, (k − 1)ν/2) at 0.025/k and 1 − 0.025/k",
        "Wludyka and Nelson (1997)",
    ),
];
