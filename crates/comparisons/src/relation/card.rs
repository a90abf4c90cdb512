//! How a relation describes itself.

use std::sync::LazyLock;

use super::terms::TERMS;
use acorn_study::card::{Choice, Formula, GROUPING, MethodCard, NUMBERS, Slot, SlotKind, SubjectKind};

/// Most rows that one column may lag behind the other.
const LAG_MOST: f64 = 10_000.0;

/// The card.
pub static CARD: LazyLock<MethodCard> = LazyLock::new(|| {
    let fits = vec![
        Choice::plain("linear", "a line", "When one rises evenly with the other."),
        Choice::plain("quadratic", "a parabola", "When there is a best place between, or the rise slows down."),
        Choice::plain("none", "no fit", "The points alone."),
    ];
    MethodCard {
        method: "relation",
        question: "Do these go together?",
        part: "Look",
        use_when: "Use it for two measurements of the same pieces: whether one rises or falls with the other, and how surely.",
        found_by: &[
            "relation",
            "scatter",
            "scatter plot",
            "correlation",
            "Pearson",
            "Spearman",
            "regression",
            "least squares",
            "Cook's distance",
            "leverage",
        ],
        statement: "Plot {y} against {x}[, {lag}][, by {group}], with {fit}[, leaving out {left_out}].",
        slots: vec![
            Slot::new("y", "what may follow", SlotKind::needed(&NUMBERS, "choose what may follow")).subject(SubjectKind::Measurement),
            Slot::new("x", "what it may follow from", SlotKind::needed(&NUMBERS, "choose what it may follow from")),
            Slot::new("lag", "rows later", SlotKind::number("{} rows later", "of the same row", 1.0, LAG_MOST).whole()).quiet(),
            Slot::new("group", "groups", SlotKind::optional(&GROUPING, "all together")).quiet(),
            Slot::new("fit", "fit", SlotKind::choice(fits)),
            Slot::new("left_out", "rows left out", SlotKind::LeftOut { unset: "no rows" }).quiet(),
        ],
        terms: TERMS,
        decisions: super::decisions::ALL,
        formulas: FORMULAS.to_vec(),
    }
});

const FORMULAS: [Formula; 6] = [
    Formula::new(
        "pearson",
        "Pearson's r",
        "Σ(x − x̄)(y − ȳ)/√(Σ(x − x̄)² Σ(y − ȳ)²); interval by Fisher's z, p by t",
        "Pearson (1896); Fisher (1921)",
    ),
    Formula::new(
        "spearman",
        "Spearman's r",
        "Pearson's r of ranks; z with variance (1 + r²/2)/(n − 3)",
        "Spearman (1904); Bonett and Wright (2000)",
    ),
    Formula::new("fit", "Fit", "least squares in powers of x", "Legendre (1805); Forsythe (1957)"),
    Formula::new(
        "bands",
        "Bands",
        "ŷ ± t s √h for the mean, ŷ ± t s √(1 + h) for one more point, h its leverage",
        "Draper and Smith (1998), ch. 3",
    ),
    Formula::new("cook", "Cook's distance", "e² h/(p s² (1 − h)²)", "Cook (1977), Technometrics 19"),
    Formula::new("within", "Within groups", "Pearson's r of distances from the means of the group", "Pearson (1899); Simpson (1951)"),
];
