//! Terms of a nested gauge study.

use acorn_study::Entry;

/// The terms.
pub const TERMS: &[Entry] = &[Entry::new(
    "Nested study",
    "A gauge study in which each part is read by one operator only, as when measuring destroys it. Repeated readings are of pieces as alike as can be found.",
    "parts within operators",
    "AIAG MSA, 4th ed., ch. IV",
)
.forms(&["nested"])];
