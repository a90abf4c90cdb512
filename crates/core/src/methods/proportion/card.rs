//! How a share describes itself.

use std::sync::LazyLock;

use super::terms::TERMS;
use crate::study::card::{Choice, Field, Filling, Formula, GROUPING, MethodCard, Slot};

/// The card.
pub static CARD: LazyLock<MethodCard> = LazyLock::new(|| {
    let sources = vec![
        Choice::plain("counts", "typed counts", "How many of how many: an answer while typing."),
        Choice::plain("column", "a column", "Counts the rows that have a label.").told_by(&["category"]),
    ];
    let sides = vec![
        Choice::plain("not-equal", "different from the claim", "Whether it is another share, either way."),
        Choice::plain("less", "less than the claim", "Whether fewer than claimed."),
        Choice::plain("greater", "more than the claim", "Whether more than claimed."),
    ];
    let counted = vec![Field::number("x", "how many", true, Some(0.0)), Field::number("n", "out of", true, Some(0.0))];
    MethodCard {
        method: "proportion",
        question: "Is this share what was claimed?",
        part: "Judge",
        use_when: "Use it for a share of pieces: pass or fail, one kind or another, with or without a claim about it.",
        found_by: &["proportion", "one proportion", "binomial test", "Clopper-Pearson", "Wilson interval", "percent defective"],
        statement: "Tell a share from {from}[: {subject}][, counting {value}][, against {p0}][, asking whether it is {alternative}].",
        slots: vec![
            Slot::new("from", "where the numbers come from", Filling::choice(sources)),
            Slot::new("x", "counts", Filling::Typed { fields: counted, list: None, most: 1, row_word: "count" })
                .at("subject")
                .on("from", &["counts"]),
            Slot::new("category", "column of labels", Filling::needed(&GROUPING, "choose a column"))
                .at("subject")
                .on("from", &["column"])
                .subject(),
            Slot::new(
                "value",
                "label that counts",
                Filling::Label { of: "category", words: "{}", empty: "choose the label that counts", required: true },
            )
            .on("from", &["column"]),
            Slot::new("p0", "claim", Filling::number("a claim of {}", "no claim", 0.0, 1.0)).quiet(),
            Slot::new("alternative", "what is asked", Filling::choice(sides)).quiet(),
        ],
        terms: TERMS,
        formulas: FORMULAS.to_vec(),
    }
});

const FORMULAS: [Formula; 4] = [
    Formula::new("share", "Share", "x/n", "-"),
    Formula::new(
        "exact-interval",
        "Exact interval",
        "the shares under which as many or more, and as few or fewer, have a chance of 2.5 % each: beta quantiles",
        "Clopper and Pearson (1934), Biometrika 26",
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
        "binomial: as many or more, as few or fewer, or all counts no likelier than the one seen",
        "Freeman and Halton (1951), Biometrika 38",
    ),
];
