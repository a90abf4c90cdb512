//! Terms of dependence.

use acorn_study::Entry;

/// The terms.
pub const TERMS: &[Entry] = &[
    Entry::new(
        "Association",
        "One thing depends on another when its shares are not the same everywhere. Depending is not yet a cause.",
        "counts by row and column",
        "Pearson (1900)",
    )
    .heads(&["what may depend", "what it may depend on", "third column"]),
    Entry::new(
        "Expected count",
        "What a cell would hold if rows and columns had nothing to do with each other.",
        "row total × column total / all",
        "Pearson (1900)",
    )
    .forms(&["expected count"])
    .heads(&["observed"]),
    Entry::new("Alpha", "The chance at which something is no longer believed to be chance.", "α", "ISO 3534-1").heads(&["alpha"]),
    Entry::new(
        "Chi-square",
        "How far all counts together are from what was expected.",
        "Σ (observed − expected)²/expected",
        "Pearson (1900)",
    )
    .forms(&["χ²", "G²"]),
    Entry::new(
        "Cramér's V",
        "How strongly one depends on the other: 0 not at all, 1 wholly. It does not grow with the number of rows.",
        "√(χ²/(n (min(rows, columns) − 1)))",
        "Cramér (1946), ch. 21",
    )
    .forms(&["Cramér's V"]),
    Entry::new(
        "Adjusted residual",
        "How far one count is from its expected one, in its own sd: beyond about ±2 it stands out, beyond ±3 among many.",
        "(observed − expected)/√(expected (1 − row share)(1 − column share))",
        "Haberman (1973)",
    )
    .forms(&["adjusted residual"]),
    Entry::new(
        "Exact test",
        "Counts every table with the same totals, where cells expect too few for χ².",
        "tables no likelier than the one seen",
        "Fisher (1935); Freeman and Halton (1951)",
    )
    .forms(&["exact test", "exact p"]),
    Entry::new("Table of counts", "How often each label of one came with each label of the other.", "observed counts", "ISO 3534-1")
        .heads(&["table of counts", "where the counts come from"]),
];
