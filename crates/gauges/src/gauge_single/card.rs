//! How a study of one reference piece describes itself.

use std::sync::LazyLock;

use super::terms::TERMS;
use acorn_study::card::{Formula, MethodCard, NUMBERS, Slot, SlotKind, SubjectKind};
use acorn_study::gauge::against::MULTIPLIER;

/// The share of the tolerance that a gauge may take, unless said otherwise.
pub const SHARE: f64 = 0.2;

/// The card.
pub static CARD: LazyLock<MethodCard> = LazyLock::new(|| {
    let multiplier = SlotKind::usually(MULTIPLIER, "counting {} sds", "counting 6 sds", 0.1, 20.0);
    let share = SlotKind::usually(SHARE, "a share of {} of the tolerance", "a fifth of the tolerance", 0.001, 1.0);
    let positive = |words, unset| SlotKind::number(words, unset, f64::MIN_POSITIVE, f64::MAX);
    MethodCard {
        method: "gauge-single",
        question: "Is this gauge right and repeatable?",
        part: "Measure",
        use_when: "Use it before anything else with a new gauge: one person reads one piece of known value 25 to 50 times.",
        found_by: &["Cg", "Cgk", "type 1 gauge study", "bias", "repeatability", "resolution", "reference piece", "master"],
        statement: "Judge the gauge by {measure} of one piece known to be {reference}, against {limits}[, {tolerance}], allowing it {share}[, {multiplier}][, {resolution}].",
        slots: vec![
            Slot::new("measure", "measurement", SlotKind::needed(&NUMBERS, "choose the readings")).subject(SubjectKind::Measurement),
            Slot::new("reference", "reference", SlotKind::number("{}", "which value?", f64::MIN, f64::MAX)),
            Slot::new("limits", "limits", SlotKind::Limits { of: "measure" }),
            Slot::new("tolerance", "tolerance", positive("a tolerance of {}", "the tolerance of the limits")).quiet(),
            Slot::new("share", "share of the tolerance", share),
            Slot::new("multiplier", "sds of a study variation", multiplier).quiet(),
            Slot::new("resolution", "resolution", positive("a resolution of {}", "no known resolution")).quiet(),
        ],
        decisions: super::decisions::ALL,
        formulas: FORMULAS.to_vec(),
        terms: TERMS,
    }
});

const FORMULAS: [Formula; 4] = [
    Formula::new("bias", "Bias", "x̄ − reference, t = bias √n / s with n − 1 df", "AIAG MSA, 4th ed., ch. III"),
    Formula::new("cg", "Cg", "share · T / (k s), interval by χ² of s²", "ISO 22514-7 (2021)"),
    Formula::new("cgk", "Cgk", "(share · T/2 − |bias|) / (k s/2)", "ISO 22514-7 (2021)"),
    Formula::new("resolution", "Resolution", "smallest step / T", "ISO 22514-7 (2021)"),
];
