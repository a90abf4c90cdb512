//! How ranked kinds describe themselves.

use std::sync::LazyLock;

use super::terms::TERMS;
use crate::study::card::{Choice, Field, Filling, Formula, GROUPING, MethodCard, NUMBERS, Slot};

/// The share that the leading kinds make before the rest is folded, unless said otherwise.
pub const SHARE: f64 = 0.8;

/// The card.
pub static CARD: LazyLock<MethodCard> = LazyLock::new(|| {
    let folds = vec![
        Choice::plain("usual", "what comes after 80 % folded", "The leading kinds that make 80 % together, the rest as one."),
        Choice::with(
            "share",
            "what comes after {share} of all folded",
            "Another share, such as 0.9.",
            vec![Field::number("share", "share", true, Some(0.0))],
        ),
        Choice::with(
            "top",
            "all but the first {top} folded",
            "So many kinds, the rest as one.",
            vec![Field::number("top", "kinds", true, Some(1.0))],
        ),
        Choice::plain("none", "nothing folded", "Every kind by itself."),
    ];
    MethodCard {
        method: "pareto",
        question: "Which defects matter?",
        part: "Look",
        use_when: "Use it for kinds of defects, causes or costs: where a few of them make most of the trouble, and where none leads.",
        found_by: &["Pareto", "Pareto chart", "vital few", "80/20", "defect kinds", "cumulative share", "cost of defects"],
        statement: "Rank {category}[ by {count}][, weighed by {weight}][, within {group}], {fold}.",
        slots: vec![
            Slot::new("category", "kinds of defects", Filling::needed(&GROUPING, "choose the kinds")).subject(),
            Slot::new("count", "counts", Filling::optional(&NUMBERS, "a row a defect")).quiet(),
            Slot::new("weight", "weight", Filling::optional(&NUMBERS, "each alike")).quiet(),
            Slot::new("group", "groups", Filling::optional(&GROUPING, "all together")).quiet(),
            Slot::new("fold", "what is folded", Filling::Choice { tag: "=", choices: folds }),
        ],
        formulas: FORMULAS.to_vec(),
        terms: TERMS,
    }
});

const FORMULAS: [Formula; 4] = [
    Formula::new(
        "ranking",
        "Share of a kind",
        "its count, or count times weight, over the total; ranked, equal ones as they first come",
        "Juran and Godfrey (1999), sec. 5",
    ),
    Formula::new("vital", "Vital few", "fewest leading kinds with a cumulative share of 0.8 or more", "Juran and Godfrey (1999), sec. 5"),
    Formula::new("gini", "Gini's index", "Σ|xᵢ − xⱼ| / (2 k² x̄)", "Gini (1912); Sen (1973), ch. 2"),
    Formula::new("even", "Chance that all kinds are alike", "χ² = Σ(xᵢ − x̄)²/x̄ with k − 1 df", "Pearson (1900)"),
];
