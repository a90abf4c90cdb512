//! Terms of a comparison.

use acorn_study::Entry;

/// The terms.
pub const TERMS: &[Entry] = &[
    Entry::new(
        "Difference of means",
        "How far apart two groups are on average, with the stretch in which it likely lies.",
        "x̄ᵢ − x̄ⱼ",
        "ISO 2854",
    )
    .heads(&["what is compared", "apart", "difference to be found", "value compared with"]),
    Entry::new("Kruskal-Wallis", "The same by ranks, for few values that are far from normal.", "H", "Kruskal and Wallis (1952)")
        .forms(&["Kruskal-Wallis", "ranks"]),
    Entry::new(
        "Pairs compared",
        "Each group against each other, with chances that hold for all pairs together.",
        "studentized range",
        "Tukey (1953); Games and Howell (1976)",
    )
    .forms(&["Tukey", "Games-Howell"])
    .heads(&["pair"]),
    Entry::new(
        "Analysis of means",
        "Which groups differ from the mean of all: those outside the decision limits.",
        "x̄ ± h s √((k − 1)/N)",
        "Nelson (1983)",
    )
    .forms(&["analysis of means", "decision limits"])
    .heads(&["LDL", "UDL", "outside"]),
    Entry::new(
        "Values needed",
        "So many in each group that a difference of a size is found nine times in ten.",
        "2 s² (t + t)²/δ²",
        "Fleiss (1981)",
    )
    .heads(&["values needed"]),
];
