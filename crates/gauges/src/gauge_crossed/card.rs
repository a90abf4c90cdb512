//! How a gauge study describes itself.

use std::sync::LazyLock;

use super::params::ALPHA_POOL;
use super::terms::TERMS;
use acorn_study::card::{Choice, Formula, GROUPING, MethodCard, NUMBERS, Slot, SlotKind, SubjectKind};
use acorn_study::gauge::against::MULTIPLIER;

/// The card.
pub static CARD: LazyLock<MethodCard> = LazyLock::new(|| {
    let ways = vec![
        Choice::plain("both", "both methods", "Variance analysis and ranges side by side, and why they differ."),
        Choice::plain("anova", "variance analysis", "Uses every reading, and sees when operators read some parts differently."),
        Choice::plain("range", "ranges", "To compare with studies worked by hand."),
    ];
    let alpha = SlotKind::usually(ALPHA_POOL, "pooling the interaction above p {}", "pooling the interaction above p 0.25", 0.0, 1.0);
    let multiplier = SlotKind::usually(MULTIPLIER, "counting {} sds", "counting 6 sds", 0.1, 20.0);
    let positive = |words, unset| SlotKind::number(words, unset, f64::MIN_POSITIVE, f64::MAX);
    MethodCard {
        method: "gauge-crossed",
        question: "Can we trust the gauge?",
        part: "Measure",
        use_when: "Use it first of all: several people read the same parts several times, to learn how much of what you see is measuring.",
        found_by: &[
            "gauge R&R",
            "GR&R",
            "repeatability",
            "reproducibility",
            "measurement system analysis",
            "MSA",
            "ndc",
            "%study variation",
            "%tolerance",
            "crossed study",
            "ANOVA",
        ],
        statement: "Judge the gauge by {measure} of {part}, read by {operator}[ in trials {trial}], against {limits}[, {tolerance}][, {process_sd}], with {method}[, {alpha_pool}][, {multiplier}].",
        slots: vec![
            Slot::new("measure", "measurement", SlotKind::needed(&NUMBERS, "choose the readings")).subject(SubjectKind::Measurement),
            Slot::new("part", "parts", SlotKind::needed(&GROUPING, "choose what was read")),
            Slot::new("operator", "operators", SlotKind::needed(&GROUPING, "choose who read it")),
            Slot::new("trial", "trials", SlotKind::optional(&GROUPING, "as they come")).quiet(),
            Slot::new("limits", "limits", SlotKind::Limits { of: "measure" }),
            Slot::new("tolerance", "tolerance", positive("a tolerance of {}", "the tolerance of the limits")).quiet(),
            Slot::new("process_sd", "process sd", positive("a process sd of {}", "no known process sd")).quiet(),
            Slot::new("method", "method", SlotKind::choice(ways)),
            Slot::new("alpha_pool", "when the interaction is pooled", alpha).on("method", &["both", "anova"]).quiet(),
            Slot::new("multiplier", "sds of a study variation", multiplier).quiet(),
        ],
        decisions: super::decisions::ALL,
        formulas: FORMULAS.to_vec(),
        terms: TERMS,
    }
});

const FORMULAS: [Formula; 11] = [
    Formula::new(
        "components",
        "Components of variance",
        "σ²ₑ = MSₑ, σ²ₒₚ = (MSₒₚ − MSₑ)/r, σ²ₒ = (MSₒ − MSₒₚ)/(p r), σ²ₚ = (MSₚ − MSₒₚ)/(o r); negative ones are set to 0; pooled: MSₒₚ and MSₑ together",
        "Montgomery (2013), sec. 8.7; AIAG MSA, 4th ed.",
    ),
    Formula::new("study-variation", "%study variation", "sd of the component / sd of the total", "AIAG MSA, 4th ed."),
    Formula::new(
        "tolerance",
        "%tolerance",
        "so many sds of the component / (USL − LSL); with one limit: / twice the way from the mean to it",
        "AIAG MSA, 4th ed.",
    ),
    Formula::new("ndc", "Number of distinct categories", "ndc = 1.41 sdₚ/sd of the gauge, rounded down, at least 1", "AIAG MSA, 4th ed."),
    Formula::new(
        "anova",
        "Variance analysis",
        "SS, df, MS = SS/df; part and operator over part × operator, that over repeatability",
        "Montgomery (2013), sec. 8.7",
    ),
    Formula::new(
        "gauge-interval",
        "Interval of the gauge",
        "modified large sample: Σ cᵢMSᵢ − √Σ(Gᵢcᵢ MSᵢ)² to Σ cᵢMSᵢ + √Σ(Hᵢcᵢ MSᵢ)², Gᵢ = 1 − df/χ²₀.₉₇₅, Hᵢ = df/χ²₀.₀₂₅ − 1",
        "Burdick, Borror and Montgomery (2003)",
    ),
    Formula::new(
        "share-interval",
        "Interval of a share",
        "each MS replaced by df MS/χ²(df), the share computed again, its 2.5 and 97.5 % points of 2,000 draws (seed 1)",
        "Hamada and Weerahandi (2000); Burdick, Borror and Montgomery (2005)",
    ),
    Formula::new(
        "uneven",
        "Cells that differ in number",
        "components by restricted maximum likelihood; sums of squares adjusted for each other (type III with every cell filled)",
        "Searle, Casella and McCulloch (1992), ch. 6; Yates (1934)",
    ),
    Formula::new(
        "range-method",
        "Range method",
        "EV = R̄ K₁; AV = √((X̄ range · K₂)² − EV²/(p r)); PV = range of part means · K₃; K = 1/d₂*",
        "AIAG MSA, 4th ed.; Duncan (1986) for d₂*",
    ),
    Formula::new(
        "bias-limits",
        "Decision limits of operator means",
        "x̄ ± h s √((k − 1)/N), h of the largest |t| of k means with correlation −1/(k − 1), by integration",
        "Nelson (1983); Nelson, Wludyka and Copeland (2005)",
    ),
    Formula::new(
        "consistency-limits",
        "Decision limits of operator sds",
        "k s² times the quantiles of Beta(ν/2, (k − 1)ν/2) at 0.025/k and 1 − 0.025/k",
        "Wludyka and Nelson (1997)",
    ),
];
