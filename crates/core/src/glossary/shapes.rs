//! Shapes that values may have, and their parameters.

use acorn_study::Entry;

const SHAPES: &str = "Johnson, Kotz and Balakrishnan (1994, 1995)";

/// The terms.
pub const TERMS: &[Entry] = &[
    Entry::new(
        "Shape (distribution)",
        "The law by which values are thought to scatter. It says how much lies beyond a limit that no value has reached yet.",
        "F(x), f(x)",
        SHAPES,
    )
    .forms(&["distribution"])
    .heads(&["shape", "shapes", "Fitted shapes"]),
    Entry::new(
        "Normal",
        "The bell-shaped law of values that many small causes add up to.",
        "f(x) = exp(−(x − μ)² / 2σ²) / (σ √(2π))",
        SHAPES,
    )
    .forms(&["normal", "normal curve"]),
    Entry::new(
        "Lognormal",
        "A law whose logarithms are normal: products of many small effects, never below 0.",
        "ln x is normal with μ and σ",
        SHAPES,
    )
    .forms(&["lognormal"])
    .heads(&["mu", "sigma"]),
    Entry::new(
        "Weibull",
        "A law of strength and life; its shape says whether failures come early, at random or by wear.",
        "F(x) = 1 − exp(−(x / scale)^shape)",
        SHAPES,
    )
    .forms(&["Weibull"]),
    Entry::new("Gamma", "A law of waiting times that add up, skewed and never below 0.", "f(x) ∝ x^(shape − 1) exp(−x / scale)", SHAPES)
        .forms(&["gamma"]),
    Entry::new("Exponential", "The law of the time to an event that may come at any moment alike.", "F(x) = 1 − exp(−x / scale)", SHAPES)
        .forms(&["exponential"]),
    Entry::new("Logistic", "Like a normal with heavier tails.", "F(x) = 1 / (1 + exp(−(x − location) / scale))", SHAPES)
        .forms(&["logistic"]),
    Entry::new("Loglogistic", "A law whose logarithms are logistic: like a lognormal with heavier tails.", "ln x is logistic", SHAPES)
        .forms(&["loglogistic"]),
    Entry::new(
        "Extreme values",
        "Laws of the smallest or the largest of many: the weakest link, the worst reading.",
        "F(x) = exp(−exp(−(x − location) / scale)) of the largest",
        SHAPES,
    )
    .forms(&["smallest extreme value", "largest extreme value"]),
    Entry::new(
        "Threshold",
        "A smallest value that the law starts from, found from the data or known.",
        "x − threshold follows the law",
        "Meeker and Escobar (1998)",
    )
    .forms(&["threshold"]),
    Entry::new(
        "Location and scale",
        "Where a law sits and how wide it is. Two numbers give the whole curve.",
        "F((x − location) / scale)",
        SHAPES,
    )
    .heads(&["location", "scale"]),
    Entry::new(
        "AIC",
        "How well a shape fits, less a price for each number it takes. The smallest is best; two apart is little.",
        "AIC = 2k − 2 ln L",
        "Akaike (1974)",
    )
    .forms(&["AIC"]),
];
