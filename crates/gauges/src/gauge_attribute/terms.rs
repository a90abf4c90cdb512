//! Terms of a study of judgements.

use acorn_study::Entry;

const SOURCE: &str = "AIAG MSA, 4th ed., ch. III";

/// The terms.
pub const TERMS: &[Entry] = &[
    Entry::new(
        "Kappa",
        "Agreement beyond what chance alone would bring: 1 is full agreement, 0 no more than chance. From 0.75 on it is good, below 0.40 poor.",
        "(observed − by chance) / (1 − by chance)",
        "Cohen (1960); Fleiss (1971)",
    )
    .forms(&["kappa"]),
    Entry::new(
        "Agreement",
        "Pieces on which judgements are all the same, of all pieces.",
        "agreed / inspected, Clopper and Pearson's interval",
        SOURCE,
    )
    .forms(&["agree with themselves", "agree with each other", "agree with the reference"])
    .heads(&["agreed", "inspected"]),
    Entry::new(
        "Missed",
        "Bad pieces that were judged good, of all judgements of bad pieces. They reach the customer.",
        "“good” of bad / all of bad",
        SOURCE,
    )
    .forms(&["misses", "missed"])
    .heads(&["miss rate"]),
    Entry::new(
        "False alarm of an inspector",
        "Good pieces that were judged bad, of all judgements of good pieces. They cost money.",
        "“bad” of good / all of good",
        SOURCE,
    )
    .heads(&["false alarm rate"]),
    Entry::new("Judgement", "What an inspector says of a piece: good or bad, or one of several labels.", "", SOURCE)
        .forms(&["judgement", "judgements"])
        .heads(&["label that is bad"]),
];
