//! Terms of a capability study.

use acorn_study::Entry;

/// The terms.
pub const TERMS: &[Entry] = &[
    Entry::new(
        "Cp, Cpk",
        "How often the short-term spread fits between the limits; Cpk counts the nearer limit only. 1 just fits, 1.33 has room.",
        "Cp = (USL − LSL) / 6σ; Cpk = min(USL − x̄, x̄ − LSL) / 3σ",
        "Kane (1986); ISO 22514-2",
    )
    .forms(&["Cp", "Cpk", "Cpl", "Cpu"])
    .heads(&["index", "indices"]),
    Entry::new(
        "Pp, Ppk",
        "As Cp and Cpk, with the spread of all values in place of the short-term one: what was delivered, drift included.",
        "Pp = (USL − LSL) / 6s; Ppk = min(USL − x̄, x̄ − LSL) / 3s",
        "ISO 22514-2; AIAG SPC manual",
    )
    .forms(&["Pp", "Ppk", "Ppl", "Ppu"])
    .heads(&["asked for"]),
    Entry::new(
        "Cpm",
        "Like Pp, but distance from the target counts as spread.",
        "Cpm = (USL − LSL) / 6√(s² + (x̄ − T)²)",
        "Chan, Cheng and Spiring (1988)",
    )
    .forms(&["Cpm"]),
    Entry::new(
        "Z bench",
        "The sds between mean and limit of a normal with the same share out on one side.",
        "Z = Φ⁻¹(1 − share out)",
        "ISO 22514-2",
    )
    .forms(&["Z bench"]),
    Entry::new(
        "Tolerance interval",
        "A stretch that holds a wanted share of all pieces, not only of those measured, with 95 % confidence.",
        "x̄ ± k s, or order statistics",
        "ISO 16269-6",
    )
    .forms(&["tolerance interval", "tolerance intervals"])
    .heads(&["share of all values", "whatever the shape"]),
    Entry::new(
        "Box-Cox transformation",
        "A power that makes skewed values normal, found from the values; limits go through the same power.",
        "y = (x^λ − 1) / λ",
        "Box and Cox (1964)",
    )
    .forms(&["Box-Cox", "after the power", "after a power"])
    .heads(&["λ"]),
    Entry::new(
        "Johnson's transformation",
        "One of three functions that make values normal: bounded on both sides, on one, or on none.",
        "z = γ + δ f((x − ξ) / λ)",
        "Johnson (1949); Slifker and Shapiro (1980)",
    )
    .forms(&["Johnson", "Johnson's functions"])
    .heads(&["γ", "δ", "ξ"]),
    Entry::new(
        "How many values",
        "How many readings make the interval of Ppk as narrow as is wanted.",
        "fewest n with half the interval ≤ the width wanted",
        "Bissell (1990)",
    )
    .heads(&["how well Ppk should be known"]),
];
