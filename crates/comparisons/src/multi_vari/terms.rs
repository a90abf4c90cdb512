//! Terms of a multi-vari study.

use acorn_study::Entry;

/// The terms.
pub const TERMS: &[Entry] = &[
    Entry::new(
        "Multi-vari",
        "A measurement over factors that lie within each other, so that one sees where most of the variation is: within pieces, from piece to piece, or over time.",
        "",
        "Seder (1950)",
    )
    .forms(&["multi-vari"]),
    Entry::new(
        "Family of variation",
        "What one factor adds to the variation: the sd squared that its levels would have if nothing inside them varied.",
        "component of variance",
        "Searle, Casella and McCulloch (1992)",
    )
    .forms(&["families"])
    .heads(&["family", "share of variation", "share from", "share to"]),
    Entry::new(
        "Crossed factors",
        "The same labels stand under every parent, as the positions of a mould do; nested ones belong to one parent only, as a piece to its hour.",
        "",
        "Searle, Casella and McCulloch (1992)",
    )
    .forms(&["crossed"])
    .heads(&["factors, outermost first", "arrangement"]),
];
