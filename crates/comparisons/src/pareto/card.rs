//! How ranked kinds describe themselves.

use std::sync::LazyLock;

use super::terms::TERMS;
use acorn_study::card::{Choice, Field, Formula, GROUPING, MethodCard, NUMBERS, Slot, SlotKind, SubjectKind};

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
    let stages = vec![
        Choice::plain("none", "nothing compared", "One ranking of all rows."),
        Choice::plain("labels", "compared by labels", "Two labels of a column, such as weeks or states.").implied_by(&["stage"]),
        Choice::plain("rows", "compared by rows", "Two stretches of rows."),
    ];
    let row = |name, label| Field::number(name, label, true, Some(1.0));
    let bounds = vec![
        row("before_first", "before, from row"),
        row("before_last", "before, to row"),
        row("after_first", "after, from row"),
        row("after_last", "after, to row"),
    ];
    let label = |name, label, empty| {
        Slot::new(name, label, SlotKind::Label { of: "stage", words: "{}", empty, required: false }).on("compare_to", &["labels"])
    };
    let inspected = |name, label| {
        let slot_kind = SlotKind::number("{}", "unknown", f64::MIN_POSITIVE, 1e15);
        Slot::new(name, label, slot_kind).on("compare_to", &["labels", "rows"]).quiet()
    };
    MethodCard {
        method: "pareto",
        question: "Which defects matter?",
        part: "Look",
        use_when: "Use it for kinds of defects, causes or costs: where a few of them make most of the trouble, and where none leads.",
        found_by: &["Pareto", "Pareto chart", "vital few", "80/20", "defect kinds", "cumulative share", "cost of defects"],
        statement: "Rank {category}[ by {count}][, weighed by {weight}][, {merge}][, within {group}], {fold}[, {compare_to}][: {stage}][, {before}][ against {after}][, inspected before {inspected_before}][, inspected after {inspected_after}].",
        slots: vec![
            Slot::new("category", "kinds of defects", SlotKind::needed(&GROUPING, "choose the kinds")).subject(SubjectKind::Labels),
            Slot::new("count", "counts", SlotKind::optional(&NUMBERS, "a row a defect")).quiet(),
            Slot::new("weight", "weight", SlotKind::optional(&NUMBERS, "each alike")).quiet(),
            Slot::new("group", "groups", SlotKind::optional(&GROUPING, "all together")).quiet(),
            Slot::new("merge", "kinds that are one", SlotKind::Renames { of: "category", unset: "each name a kind of its own" }).quiet(),
            Slot::new("fold", "what is folded", SlotKind::Choice { tag: "=", choices: folds }),
            Slot::new("compare_to", "before and after", SlotKind::choice(stages)).quiet(),
            Slot::new("stage", "column of before and after", SlotKind::needed(&GROUPING, "choose a column")).on("compare_to", &["labels"]),
            Slot::new("rows", "rows before and after", SlotKind::Typed { fields: bounds, list: None, most: 1, row_word: "row" })
                .at("stage")
                .on("compare_to", &["rows"]),
            label("before", "label before", "the first label"),
            label("after", "label after", "the second label"),
            inspected("inspected_before", "inspected before"),
            inspected("inspected_after", "inspected after"),
        ],
        decisions: super::decisions::ALL,
        formulas: FORMULAS.to_vec(),
        terms: TERMS,
    }
});

const FORMULAS: [Formula; 8] = [
    Formula::new(
        "ranking",
        "Share of a kind",
        "its count, or count times weight, over the total; ranked, equal ones as they first come",
        "Juran and Godfrey (1999), sec. 5",
    ),
    Formula::new("vital", "Vital few", "fewest leading kinds with a cumulative share of 0.8 or more", "Juran and Godfrey (1999), sec. 5"),
    Formula::new("gini", "Gini's index", "Σ|xᵢ − xⱼ| / (2 k² x̄)", "Gini (1912); Sen (1973), ch. 2"),
    Formula::new("even", "Chance that all kinds are alike", "χ² = Σ(xᵢ − x̄)²/x̄ with k − 1 df", "Pearson (1900)"),
    Formula::new("alike", "Kinds that are alike", "quantiles of binomial (all, 1/k) at (i − 0.375)/(k + 0.25)", "Blom (1958), ch. 6"),
    Formula::new(
        "mix",
        "Change of the mix",
        "share among all defects, before and after; Fisher's exact test",
        "Fisher (1935), J. Royal Statistical Society 98",
    ),
    Formula::new(
        "rates",
        "Change of the rate",
        "count over number inspected; of both counts those before are binomial with the part inspected before",
        "Przyborowski and Wilenski (1940), Biometrika 31",
    ),
    Formula::new("holm", "p for all kinds together", "the smallest p times the number of kinds, and so on up", "Holm (1979)"),
];
