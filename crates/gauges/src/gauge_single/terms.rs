//! Terms of a study of one reference piece.

use acorn_study::Entry;

const SOURCE: &str = "ISO 22514-7; AIAG MSA, 4th ed.";

/// The terms.
pub const TERMS: &[Entry] = &[
    Entry::new(
        "Bias of a gauge",
        "How far readings lie off on the whole: their mean less the known value of the piece, or less the mean of all operators.",
        "x̄ − reference",
        SOURCE,
    )
    .forms(&["bias"])
    .heads(&["bias / tolerance"]),
    Entry::new(
        "Reference",
        "The accepted value of a piece, from a better gauge or a laboratory. Readings are held against it.",
        "",
        SOURCE,
    )
    .forms(&["known value"])
    .heads(&["reference"]),
    Entry::new(
        "Cg",
        "How often the spread of the gauge fits into a share of the tolerance, 20 % unless said otherwise. At least 1.33 is wanted.",
        "share · T / (6 s)",
        SOURCE,
    )
    .forms(&["Cg"])
    .heads(&["share of the tolerance"]),
    Entry::new("Cgk", "As Cg, with what the bias takes away on its side.", "(share · T/2 − |bias|) / (3 s)", SOURCE).forms(&["Cgk"]),
    Entry::new(
        "Resolution",
        "The smallest step that the gauge shows. It should be no more than a twentieth of the tolerance.",
        "step / T",
        SOURCE,
    )
    .forms(&["resolution"])
    .heads(&["resolution / tolerance"]),
];
