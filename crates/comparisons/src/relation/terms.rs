//! Terms of a relation.

use acorn_study::Entry;

/// The terms.
pub const TERMS: &[Entry] = &[
    Entry::new(
        "Correlation",
        "How closely two columns rise and fall together: 1 along a line, 0 not at all, −1 against each other. It is no cause.",
        "r",
        "Pearson (1896)",
    )
    .forms(&["correlation", "Pearson"])
    .heads(&["r", "what may follow", "what it may follow from"]),
    Entry::new(
        "Spearman's correlation",
        "The same of ranks: it follows any rise, straight or bent, and hardly minds far values.",
        "r of ranks",
        "Spearman (1904)",
    )
    .forms(&["Spearman"]),
    Entry::new(
        "Line or parabola",
        "The line or parabola from which the points lie least far, and what part of the variation it explains.",
        "least squares",
        "Draper and Smith (1998)",
    )
    .heads(&["fit", "fitted", "constant", "x²", "x", "sd about the fit", "R²", "residual"]),
    Entry::new(
        "Lag",
        "So many rows later: what shows first here may show there only after a while.",
        "y of row i + lag",
        "Box and Jenkins (1970)",
    )
    .heads(&["rows later"]),
    Entry::new(
        "Cook's distance",
        "How far the whole fit would move without a point. From 0.5 on it is worth a look, from 1 on the point makes the fit.",
        "e² h/(p s² (1 − h)²)",
        "Cook (1977)",
    )
    .forms(&["Cook's distance"])
    .heads(&["leverage"]),
    Entry::new(
        "Left out",
        "Rows that no number of the answer rests on. Each has its reason, which stands in the margin; leaving out what merely does not fit is no reason.",
        "",
        "ISO 16269-4",
    )
    .heads(&["rows left out"]),
];
