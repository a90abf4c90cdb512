//! How the look describes itself.

use std::sync::LazyLock;

use acorn_study::bars;
use acorn_study::card::{Choice, Formula, GROUPING, MethodCard, NUMBERS, Slot, SlotKind, SubjectKind};

/// The card.
pub static CARD: LazyLock<MethodCard> = LazyLock::new(|| {
    let switch = |on, off| SlotKind::Switch { usual: true, on, off };
    let pictures = vec![
        Choice::plain("histograms", "histograms", "Histograms: how often which values occur."),
        Choice::plain("boxes", "boxes", "Box plots: many groups at a glance."),
        Choice::plain("values", "individual values", "Every value by itself, in the order of the rows."),
        Choice::plain("probability", "probability plots", "Whether the shape is normal: the points then follow the line."),
    ];
    let [width, start] = bars::slots();
    MethodCard {
        method: "distribution",
        question: "What does it look like?",
        part: "Look",
        use_when: "Use it first: centre, spread and shape, alone or group beside group.",
        found_by: &[
            "histogram",
            "box plot",
            "individual values",
            "normal probability plot",
            "normality test",
            "Anderson-Darling",
            "skewness",
            "kurtosis",
        ],
        statement: "Look at {measure}[ by {group}] as {show}[, with bars {bins}][, {bin_start}][, {same_scale}][, {curve}].",
        slots: vec![
            Slot::new("measure", "measurement", SlotKind::needed(&NUMBERS, "choose a measurement")).subject(SubjectKind::Measurement),
            Slot::new(
                "group",
                "groups",
                SlotKind::optional(&GROUPING, "all together").many(2, "Choose two to tell every pair of their labels apart."),
            )
            .quiet(),
            Slot::new("show", "picture", SlotKind::choice(pictures)),
            width.on("show", &["histograms"]),
            start.on("show", &["histograms"]),
            Slot::new("same_scale", "scale", switch("on one scale", "each group on its own scale")).with("group"),
            Slot::new("curve", "normal curve", switch("with the normal curve as a yardstick", "without a normal curve"))
                .on("show", &["histograms"]),
        ],
        terms: &[],
        decisions: super::decisions::ALL,
        formulas: FORMULAS.to_vec(),
    }
});

const FORMULAS: [Formula; 10] = [
    Formula::new("mean-sd", "Mean and sd", "x̄ = Σx/n, s = √(Σ(x − x̄)²/(n − 1)), two passes", "Chan, Golub and LeVeque (1983)"),
    Formula::new("intervals", "Intervals", "x̄ ± t s/√n; s √((n − 1)/χ²) at both ends; 95 %", "ISO 2602; ISO 2854"),
    Formula::new("quartiles", "Quartiles and median", "linear at (n − 1) p between order statistics (type 7)", "Hyndman and Fan (1996)"),
    Formula::new(
        "skewness",
        "Skewness, kurtosis",
        "G₁ = √(n(n−1))/(n−2) m₃/m₂^1.5; G₂ = (n−1)/((n−2)(n−3)) ((n+1)(m₄/m₂² − 3) + 6)",
        "Joanes and Gill (1998)",
    ),
    Formula::new(
        "anderson-darling",
        "Test of shape",
        "A² = −n − Σ(2i−1)/n [ln Φ(zᵢ) + ln Φ(−z₍ₙ₊₁₋ᵢ₎)]; A²(1 + 0.75/n + 2.25/n²)",
        "Anderson and Darling (1954); D'Agostino and Stephens (1986), table 4.9",
    ),
    Formula::new(
        "bars",
        "Bars",
        "width 2 IQR / ∛n, kept to 5 to 60 bars, rounded to 1, 2 or 5; left-closed, the last one closed",
        "Freedman and Diaconis (1981)",
    ),
    Formula::new("boxes", "Boxes", "quartiles; whiskers to the last values within 1.5 interquartile ranges", "Tukey (1977)"),
    Formula::new(
        "probability-plot",
        "Probability plot",
        "scores Φ⁻¹((i − 0.375)/(n + 0.25)); band x̄ + z s ± 1.96 s √(1/n + z²/(2(n − 1)))",
        "Blom (1958); Meeker and Escobar (1998), ch. 6",
    ),
    Formula::new(
        "equal-means",
        "Centres of groups",
        "F of weighted means, weights n/s², on (k² − 1)/(3 Σ(1 − w/Σw)²/(n − 1)) degrees of freedom",
        "Welch (1951)",
    ),
    Formula::new("equal-spread", "Spreads of groups", "variance analysis of |x − median of the group|", "Brown and Forsythe (1974)"),
];
