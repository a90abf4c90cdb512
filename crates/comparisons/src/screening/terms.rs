//! Terms of a screening.

use acorn_study::Entry;

/// The terms.
pub const TERMS: &[Entry] = &[
    Entry::new(
        "Part explained",
        "How much of the variation goes with a column: r² for a measurement, eta squared for labels, V squared between labels. It is no cause.",
        "r², η² or V²",
        "Fisher (1925)",
    )
    .forms(&["eta squared", "r squared"])
    .heads(&["explained", "adjusted", "what is to be explained", "rows to be explained", "columns to try", "columns not to try", "kind of measure"]),
    Entry::new(
        "Chance for the whole screen",
        "Among many columns some go with anything by chance. Shuffled rows show how well the best of all of them does then.",
        "permutation",
        "Westfall and Young (1993)",
    )
    .forms(&["whole screen"])
    .heads(&["p of the screen"]),
    Entry::new(
        "Over-represented",
        "A label that holds more of the rows in question than drawing rows at random would give it.",
        "hypergeometric",
        "Fisher (1935)",
    )
    .heads(&["over-represented", "rows of it", "p of the label"]),
];
