//! How a comparison describes itself.

use std::sync::LazyLock;

use super::terms::TERMS;
use acorn_study::card::{Choice, Formula, GROUPING, MethodCard, NUMBERS, Slot, SlotKind, SubjectKind};

/// Most groups.
pub const GROUPS_MOST: usize = 60;

/// The card.
pub static CARD: LazyLock<MethodCard> = LazyLock::new(|| {
    let tests = vec![
        Choice::plain("groups", "between the groups of", "The means of two groups or more, with the test that the data allow."),
        Choice::plain("paired", "row by row", "Two columns measured on the same pieces: the first less the second."),
        Choice::plain("one-sample", "against", "One mean against a value.").implied_by(&["mean"]),
    ];
    let measure = |most, several| {
        Slot::new("measure", "measurement", SlotKind::needed(&NUMBERS, "choose a measurement").many(most, several))
            .subject(SubjectKind::Measurement)
    };
    MethodCard {
        method: "compare",
        question: "Do the groups differ?",
        part: "Look",
        use_when: "Use it for a measurement on several benches, lots or settings, before and after, or against a value.",
        found_by: &[
            "compare",
            "t test",
            "two-sample t",
            "paired t",
            "ANOVA",
            "analysis of variance",
            "Welch",
            "Tukey",
            "Games-Howell",
            "Kruskal-Wallis",
            "analysis of means",
            "ANOM",
            "Levene",
            "Brown-Forsythe",
        ],
        statement: "Compare {measure} {test}[ {group}][ {mean}][, to find a difference of {delta}].",
        slots: vec![
            measure(GROUPS_MOST, "Choose several when each group has a column of its own.").on("test", &["groups"]),
            measure(2, "Choose the two columns that are measured on the same pieces.").on("test", &["paired"]),
            measure(1, "").on("test", &["one-sample"]),
            Slot::new("test", "what is compared", SlotKind::choice(tests)),
            Slot::new("group", "groups", SlotKind::optional(&GROUPING, "the columns")).on("test", &["groups"]),
            Slot::new("mean", "value compared with", SlotKind::number("{}", "a value", f64::MIN, f64::MAX)).on("test", &["one-sample"]),
            Slot::new("delta", "difference to be found", SlotKind::number("{}", "any size", f64::MIN_POSITIVE, f64::MAX)).quiet(),
        ],
        terms: TERMS,
        decisions: super::decisions::ALL,
        formulas: FORMULAS.to_vec(),
    }
});

const FORMULAS: [Formula; 11] = [
    Formula::new("mean", "Mean with its interval", "x̄ ± t s/√n, n − 1 df", "Student (1908)"),
    Formula::new("anova", "Analysis of variance", "F = Σ nᵢ(x̄ᵢ − x̄)²/(k − 1) over Σ (nᵢ − 1)sᵢ²/(N − k)", "Fisher (1925)"),
    Formula::new("welch", "Welch's test", "means weighed by nᵢ/sᵢ²", "Welch (1951), Biometrika 38"),
    Formula::new(
        "kruskal",
        "Kruskal-Wallis",
        "H = 12/(N(N + 1)) Σ Rᵢ²/nᵢ − 3(N + 1), over 1 − Σ(t³ − t)/(N³ − N)",
        "Kruskal and Wallis (1952)",
    ),
    Formula::new("brown-forsythe", "Equal spread", "analysis of variance of |x − median of its group|", "Brown and Forsythe (1974)"),
    Formula::new(
        "tukey",
        "Pairs of equal spread",
        "|x̄ᵢ − x̄ⱼ|/(s √(½(1/nᵢ + 1/nⱼ))) by the studentized range",
        "Tukey (1953); Kramer (1956)",
    ),
    Formula::new(
        "games-howell",
        "Pairs of unequal spread",
        "|x̄ᵢ − x̄ⱼ|/√(½(sᵢ²/nᵢ + sⱼ²/nⱼ)), Welch's df, by the studentized range",
        "Games and Howell (1976)",
    ),
    Formula::new("anom", "Decision limits", "x̄ ± h s √((k − 1)/N)", "Nelson (1983), JQT 15"),
    Formula::new(
        "two-sample",
        "Two means",
        "pooled: s² of both, n₁ + n₂ − 2 df; Welch: s₁²/n₁ + s₂²/n₂, its own df",
        "Student (1908); Welch (1947)",
    ),
    Formula::new("one-mean", "One mean", "t = (x̄ − value)/(s/√n)", "Student (1908)"),
    Formula::new(
        "needed",
        "Values needed",
        "2 s² (t of 0.975 + t of 0.9)²/difference² in each group; half of it against a value or row by row",
        "Fleiss (1981)",
    ),
];
