//! How a claim describes itself.

use std::sync::LazyLock;

use super::sample::SAMPLES;
use super::terms::TERMS;
use acorn_study::card::{Choice, Field, Formula, GROUPING, MethodCard, NUMBERS, Slot, SlotKind, SubjectKind};

/// Where there is something counted.
const COUNTED: [&str; 3] = ["counts", "two", "column"];
/// The card.
pub static CARD: LazyLock<MethodCard> = LazyLock::new(|| MethodCard {
    method: "proportion",
    question: "Is the claim true?",
    part: "Judge",
    use_when: "Use it for a share of pieces or a rate of defects, one against a claim or two against each other, and for how many to inspect.",
    found_by: &[
        "proportion",
        "one proportion",
        "two proportions",
        "rate",
        "binomial test",
        "Fisher",
        "Poisson test",
        "Clopper-Pearson",
        "Wilson interval",
        "percent defective",
        "sample size",
        "how many to inspect",
        "zero failures",
    ],
    statement: "Judge {from}[ as {counting}][: {subject}][ out of {size}][, counting {value}][, between {group}][, against {claim}][, asking whether it is {alternative}].",
    slots: slots(),
    terms: TERMS,
    decisions: super::decisions::ALL,
    formulas: FORMULAS.to_vec(),
});

fn slots() -> Vec<Slot> {
    let sources = vec![
        Choice::plain("counts", "typed counts", "How many of how many: an answer while typing."),
        Choice::plain("two", "typed counts of two samples", "Two lines, two weeks, before and after.").implied_by(&["x1", "exposure1"]),
        Choice::plain("column", "a column", "Counts the rows that have a label, or sums counts.").implied_by(&["category", "count"]),
        Choice::plain("margin", "how many to inspect for a margin", "Before counting: to know a share to within so much.")
            .implied_by(&["margin"]),
        Choice::plain("power", "how many to inspect to find a difference", "Before counting: to find that a claim does not hold.")
            .implied_by(&["claimed"]),
        Choice::plain("passes", "how many must pass", "Before counting: to show a share with no failure, or with few.")
            .implied_by(&["at_most"]),
    ];
    let counted = vec![
        Choice::plain("pieces", "a share of pieces", "Each piece counts once: it passes or fails."),
        Choice::plain("defects", "a rate of defects", "A piece, an hour or a metre may have several.").implied_by(&[
            "rate0",
            "exposure",
            "exposure1",
            "count",
        ]),
    ];
    let sides = vec![
        Choice::plain("not-equal", "different", "Whether it is another one, either way."),
        Choice::plain("less", "less", "Whether it is less than the claim, or the first less than the second."),
        Choice::plain("greater", "more", "Whether it is more than the claim, or the first more than the second."),
    ];
    let number = |name, label| Field::number(name, label, true, Some(0.0));
    let loose = |name, label| Field::number(name, label, false, Some(0.0));
    let typed =
        |name, label, fields| Slot::new(name, label, SlotKind::Typed { fields, list: None, most: 1, row_word: "count" }).at("subject");
    let pieces = |slot: Slot, from: &'static str| slot.on("from", &[from]).on("counting", &["pieces"]);
    let defects = |slot: Slot, from: &'static str| slot.on("from", &[from]).on("counting", &["defects"]);
    vec![
        Slot::new("from", "where the numbers come from", SlotKind::choice(sources)),
        Slot::new("counting", "what is counted", SlotKind::choice(counted)).on("from", &COUNTED),
        pieces(typed("x", "counts", vec![number("x", "how many"), number("n", "out of")]), "counts"),
        defects(typed("exposure", "counts", vec![number("x", "how many"), number("exposure", "in how much")]), "counts"),
        pieces(
            typed(
                "x1",
                "counts",
                vec![
                    number("x1", "first, how many"),
                    number("n1", "first, out of"),
                    number("x2", "second, how many"),
                    number("n2", "second, out of"),
                ],
            ),
            "two",
        ),
        defects(
            typed(
                "exposure1",
                "counts",
                vec![
                    number("x1", "first, how many"),
                    number("exposure1", "first, in how much"),
                    number("x2", "second, how many"),
                    number("exposure2", "second, in how much"),
                ],
            ),
            "two",
        ),
        typed("margin", "what is wanted", vec![number("margin", "margin, such as 0.02"), loose("expected", "share expected")])
            .on("from", &["margin"]),
        typed(
            "power",
            "what is wanted",
            vec![number("claimed", "share claimed"), number("share", "share to be found"), loose("power", "chance to find it")],
        )
        .on("from", &["power"]),
        typed(
            "at_most",
            "what is wanted",
            vec![number("at_most", "share at most"), loose("confidence", "confidence"), loose("failures", "failures allowed")],
        )
        .on("from", &["passes"]),
        pieces(
            Slot::new("category", "column of labels", SlotKind::needed(&GROUPING, "choose a column"))
                .at("subject")
                .subject(SubjectKind::Labels),
            "column",
        ),
        defects(
            Slot::new("count", "counts", SlotKind::needed(&NUMBERS, "choose the counts")).at("subject").subject(SubjectKind::Count),
            "column",
        ),
        defects(Slot::new("size", "column of how much", SlotKind::optional(&NUMBERS, "one a row")), "column"),
        pieces(
            Slot::new(
                "value",
                "label that counts",
                SlotKind::Label { of: "category", words: "{}", empty: "choose the label that counts", required: true },
            ),
            "column",
        ),
        Slot::new("group", "two samples", SlotKind::optional(&GROUPING, "none")).on("from", &["column"]).quiet(),
        Slot::new("p0", "claim", SlotKind::number("a claim of {}", "no claim", 0.0, 1.0))
            .at("claim")
            .on("from", &["counts", "column"])
            .on("counting", &["pieces"])
            .without("group")
            .quiet(),
        Slot::new("rate0", "claim", SlotKind::number("a claim of {}", "no claim", f64::MIN_POSITIVE, 1e15))
            .at("claim")
            .on("from", &["counts", "column"])
            .on("counting", &["defects"])
            .without("group")
            .quiet(),
        Slot::new("alternative", "what is asked", SlotKind::choice(sides)).on("from", &SAMPLES).quiet(),
    ]
}

const FORMULAS: [Formula; 14] = [
    Formula::new("share", "Share", "x/n", "-"),
    Formula::new("rate", "Rate", "x over how much was looked at", "-"),
    Formula::new(
        "exact-interval",
        "Exact interval",
        "the shares under which as many or more, and as few or fewer, have a chance of 2.5 % each: beta quantiles",
        "Clopper and Pearson (1934), Biometrika 26",
    ),
    Formula::new(
        "rate-interval",
        "Exact interval of a rate",
        "½ χ² quantiles with 2x and 2x + 2 df, over how much was looked at",
        "Garwood (1936), Biometrika 28",
    ),
    Formula::new(
        "wilson-interval",
        "Wilson's interval",
        "(x + z²/2 ± z √(x(n − x)/n + z²/4)) / (n + z²), z = 1.96",
        "Wilson (1927), J. American Statistical Association 22",
    ),
    Formula::new(
        "exact-p",
        "p of the claim",
        "binomial or Poisson: as many or more, as few or fewer, or all counts no likelier than the one seen",
        "Freeman and Halton (1951), Biometrika 38",
    ),
    Formula::new(
        "fisher",
        "p of two shares",
        "hypergeometric, all totals held: tables no likelier than the one seen",
        "Fisher (1935), J. Royal Statistical Society 98",
    ),
    Formula::new("pooled-z", "z of two shares", "(p₁ − p₂)/√(p(1 − p)(1/n₁ + 1/n₂)), p of both together", "ISO 2854"),
    Formula::new(
        "newcombe",
        "Interval of a difference",
        "d − √((p₁ − l₁)² + (u₂ − p₂)²) to d + √((u₁ − p₁)² + (p₂ − l₂)²), l and u Wilson's",
        "Newcombe (1998), Statistics in Medicine 17, method 10",
    ),
    Formula::new(
        "ratio",
        "Ratio of two rates",
        "x₁ of x₁ + x₂ is binomial: its exact interval as odds, times how much₂ / how much₁; p as above",
        "Przyborowski and Wilenski (1940), Biometrika 31",
    ),
    Formula::new(
        "for-margin",
        "How many for a margin",
        "fewest n with half of Wilson's interval at the expected share within the margin",
        "Wilson (1927), J. American Statistical Association 22",
    ),
    Formula::new(
        "for-power",
        "How many for a power",
        "fewest n from which on the exact test at 0.05 finds the share with that chance; beyond 50,000 by the normal",
        "Chernick and Liu (2002), The American Statistician 56",
    ),
    Formula::new(
        "for-passes",
        "How many must pass",
        "fewest n with P(X ≤ failures) ≤ 1 − confidence at the largest share; with none: ln(1 − confidence)/ln(1 − share)",
        "Hahn and Meeker (1991), Statistical Intervals, ch. 9",
    ),
    Formula::new("difference", "Difference of two shares", "x₁/n₁ − x₂/n₂", "-"),
];
