//! Terms of a look at a distribution.

use crate::study::Entry;

/// The terms.
pub const TERMS: &[Entry] = &[
    Entry::new(
        "One centre for all",
        "Whether groups could share one mean, their spreads being what they are.",
        "F = Σ wᵢ (x̄ᵢ − x̃)² / (k − 1) / (1 + 2 (k − 2) Λ / (k² − 1)), wᵢ = nᵢ / sᵢ²",
        "Welch (1951)",
    )
    .forms(&["Welch"])
    .heads(&["one centre for all", "F"]),
    Entry::new(
        "One spread for all",
        "Whether groups could share one sd, judged by distances from their medians, which few far values upset.",
        "F of |xᵢⱼ − median of group i|",
        "Brown and Forsythe (1974)",
    )
    .forms(&["Brown-Forsythe"])
    .heads(&["one spread for all"]),
];
