//! Terms of a proportion.

use acorn_study::Entry;

/// The terms.
pub const TERMS: &[Entry] = &[
    Entry::new(
        "Claim",
        "A share that someone says holds. The counts either could have come from it, or are unlikely to have.",
        "P(X ≥ x) or P(X ≤ x) under Binomial(n, p₀)",
        "ISO 3534-1",
    )
    .forms(&["claim"])
    .heads(&["share", "sides"]),
    Entry::new(
        "Rate",
        "How many defects come with so much: a piece, an hour, a metre. A piece may have several.",
        "x over how much was looked at",
        "ISO 3534-2",
    )
    .heads(&["how much", "in how much"]),
    Entry::new(
        "Two samples",
        "Two shares or rates that would be alike if nothing differed: two lines, two weeks, before and after.",
        "p₁ − p₂, or rate₁ / rate₂",
        "Fisher (1935); Newcombe (1998)",
    )
    .heads(&["two samples", "first", "second", "difference", "ratio"]),
    Entry::new(
        "Number to inspect",
        "So many pieces that a share is known well enough, a difference is found, or passing shows something.",
        "fewest n with margin, power or confidence reached",
        "Hahn and Meeker (1991), ch. 9",
    )
    .heads(&["to inspect", "what is wanted", "margin", "wanted", "reached"]),
    Entry::new(
        "Exact interval",
        "All shares that do not make what was counted unlikely. Never too narrow, at times too wide.",
        "quantiles of Beta(x, n − x + 1) and Beta(x + 1, n − x)",
        "Clopper and Pearson (1934)",
    )
    .forms(&["exact interval", "Clopper-Pearson"]),
    Entry::new(
        "Wilson's interval",
        "An interval of a share that is right on average, and close for few pieces too.",
        "(p̂ + z²/2n ± z √(p̂(1 − p̂)/n + z²/4n²)) / (1 + z²/n)",
        "Wilson (1927)",
    )
    .forms(&["Wilson's interval", "Wilson"]),
];
