//! How a linearity study describes itself.

use std::sync::LazyLock;

use super::terms::TERMS;
use acorn_study::card::{Formula, GROUPING, MethodCard, NUMBERS, Slot, SlotKind, SubjectKind};
use acorn_study::gauge::against::MULTIPLIER;

/// The card.
pub static CARD: LazyLock<MethodCard> = LazyLock::new(|| {
    let multiplier = SlotKind::usually(MULTIPLIER, "counting {} sds", "counting 6 sds", 0.1, 20.0);
    MethodCard {
        method: "gauge-linearity",
        question: "Is the gauge right over its whole range?",
        part: "Measure",
        use_when: "Use it when a gauge serves small and large pieces: five pieces of known value over its range, each read ten times or more.",
        found_by: &["linearity", "bias", "gauge linearity and bias", "reference pieces", "calibration"],
        statement: "Judge the gauge by {measure} of {part}, known to be {reference}[, {process_sd}][, {multiplier}].",
        slots: vec![
            Slot::new("measure", "measurement", SlotKind::needed(&NUMBERS, "choose the readings")).subject(SubjectKind::Measurement),
            Slot::new("part", "parts", SlotKind::needed(&GROUPING, "choose the pieces")),
            Slot::new("reference", "reference", SlotKind::needed(&NUMBERS, "choose their known values")),
            Slot::new(
                "process_sd",
                "process sd",
                SlotKind::number("a process sd of {}", "no known process sd", f64::MIN_POSITIVE, f64::MAX),
            )
            .quiet(),
            Slot::new("multiplier", "sds of a study variation", multiplier).quiet(),
        ],
        decisions: super::decisions::ALL,
        formulas: FORMULAS.to_vec(),
        terms: TERMS,
    }
});

const FORMULAS: [Formula; 5] = [
    Formula::new("bias", "Bias", "x̄ − reference of a piece, t = bias √n / s with n − 1 df", "AIAG MSA, 4th ed., ch. III"),
    Formula::new(
        "fit",
        "Fit",
        "every single bias on its reference by least squares, N − 2 df; r² of it",
        "AIAG MSA, 4th ed.; Draper and Smith (1998), ch. 1",
    ),
    Formula::new(
        "band",
        "Band of the fit",
        "fit ± t s √(1/N + (reference − mean)²/Σ(reference − mean)²)",
        "Draper and Smith (1998), sec. 1.4",
    ),
    Formula::new(
        "average",
        "Average bias",
        "mean of all single biases, standard error pooled sd within pieces / √N, N − pieces df",
        "AIAG MSA, 4th ed.",
    ),
    Formula::new(
        "linearity",
        "Linearity",
        "|slope| · so many process sds; of the process: |slope|; average bias / so many process sds",
        "AIAG MSA, 4th ed.",
    ),
];
