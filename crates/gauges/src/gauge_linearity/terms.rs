//! Terms of a linearity study.

use acorn_study::Entry;

const SOURCE: &str = "AIAG MSA, 4th ed., ch. III";

/// The terms.
pub const TERMS: &[Entry] = &[
    Entry::new("Linearity", "How the bias of a gauge changes over its range.", "|slope| · 6 process sd", SOURCE)
        .forms(&["linearity"])
        .heads(&["linearity / process"]),
    Entry::new(
        "Slope of the bias",
        "How much the bias grows for each unit of the reference.",
        "least squares of bias on reference",
        SOURCE,
    )
    .heads(&["slope", "intercept", "r²"]),
    Entry::new(
        "t",
        "How many standard errors a number lies from 0. Beyond about 2 chance alone seldom brings it.",
        "number / standard error",
        "Student (1908)",
    )
    .heads(&["t"]),
    Entry::new("Average bias", "The mean of all single biases, over all pieces.", "Σ(reading − reference)/N", SOURCE)
        .heads(&["average bias", "average bias / process"]),
];
