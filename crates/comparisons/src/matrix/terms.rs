//! Terms of a matrix of correlations.

use acorn_study::Entry;

/// The terms.
pub const TERMS: &[Entry] = &[Entry::new(
    "Chance for all pairs",
    "Among many pairs some go together by chance. Each chance is made larger by how many pairs there are, so that one wrong flag in the whole matrix is rare.",
    "Holm",
    "Holm (1979)",
)
.forms(&["Holm"])
.heads(&["p for all pairs", "pairs flagged"])];
