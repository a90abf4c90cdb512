//! Terms of ranked kinds.

use acorn_study::Entry;

const SOURCE: &str = "Juran and Godfrey (1999), sec. 5";

/// The terms.
pub const TERMS: &[Entry] = &[
    Entry::new(
        "Pareto",
        "Kinds ranked, the most frequent first. Often a few of them make most of the trouble: work there pays most.",
        "kinds by count, share and cumulative share",
        SOURCE,
    )
    .forms(&["kinds", "kind"])
    .heads(&["kinds of defects"]),
    Entry::new("Cumulative share", "The share of a kind and of all that come before it.", "Σ of the shares so far", SOURCE)
        .heads(&["cumulative", "what is folded"]),
    Entry::new("Vital few", "The fewest kinds that together make 80 % of all.", "fewest kinds with cumulative share ≥ 0.8", SOURCE)
        .heads(&["vital few", "the leading fifth"]),
    Entry::new(
        "Gini's index",
        "How unevenly a total is spread over its kinds: 0 when all are alike, near 1 when one has nearly all.",
        "Σ|xᵢ − xⱼ| / (2 k² x̄)",
        "Gini (1912); Sen (1973), ch. 2",
    )
    .heads(&["Gini's index"]),
    Entry::new("Weight", "What one defect counts for, such as its cost.", "count × weight", SOURCE).heads(&["weight"]),
    Entry::new(
        "Kinds that are one",
        "Names that mean the same, such as with another spelling, counted as one kind.",
        "counts summed",
        SOURCE,
    )
    .heads(&["kinds that are one"]),
];
