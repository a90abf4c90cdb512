//! Terms of a sigma level.

use acorn_study::Entry;

/// The terms.
pub const TERMS: &[Entry] = &[
    Entry::new(
        "Sigma level",
        "The sds between mean and limit that would give as many defects, plus a shift for drift over time. 6 is 3.4 in a million.",
        "Φ⁻¹(1 − share out) + shift",
        "Harry and Schroeder (2000)",
    )
    .forms(&["sigma level"])
    .heads(&["level", "z"]),
    Entry::new(
        "Shift of the sigma level",
        "1.5 sds, added by convention for what a process drifts in the long run. It rests on habit, not on these values.",
        "z + 1.5",
        "Harry and Schroeder (2000)",
    )
    .heads(&["shift"]),
    Entry::new(
        "Chances (opportunities)",
        "How many defects a unit could have. Counting more of them makes any process look better.",
        "units × chances a unit",
        "Montgomery (2013), sec. 1.2",
    )
    .forms(&["chances", "DPMO", "opportunities"])
    .heads(&["chance"]),
    Entry::new(
        "Defects per unit (DPU)",
        "Defects over units, however many chances a unit has.",
        "DPU = D / U",
        "Montgomery (2013), sec. 1.2",
    )
    .forms(&["defects per unit", "DPU"]),
    Entry::new("Yield", "The share of units without any defect.", "e^−DPU, defects falling at random", "Montgomery (2013), sec. 7.3")
        .forms(&["yield"])
        .heads(&["units without a defect"]),
    Entry::new(
        "Rolled yield",
        "The share that comes through all steps without any defect.",
        "the product of the yields of all steps",
        "Harry and Schroeder (2000)",
    )
    .forms(&["rolled yield"])
    .heads(&["steps", "step", "as if all steps were alike"]),
];
