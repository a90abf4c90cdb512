//! Terms of a control chart.

use acorn_study::Entry;

/// The terms.
pub const TERMS: &[Entry] = &[
    Entry::new("Control chart", "Values in the order of time with a centre and limits that a steady process keeps to. It tells chance from causes.", "centre ± 3 sd of what is plotted", "Shewhart (1931); ISO 7870-2")
        .forms(&["control chart"])
        .heads(&["kind of chart", "name of a point", "points"]),
    Entry::new("Individuals and moving range (I-MR)", "Each value by itself, and beneath it how far it lies from the one before.", "x̄ ± 3 MR̄ / d₂", "ISO 7870-2; Montgomery (2013), sec. 6.4")
        .forms(&["individuals", "I-MR", "individual values"])
        .heads(&["Individuals"]),
    Entry::new("Moving range", "How far a value lies from the one before it. Its mean gives the short-term sd of single values.", "MRᵢ = |xᵢ − xᵢ₋₁|", "ISO 7870-2")
        .forms(&["moving range", "moving ranges"]),
    Entry::new("Deviation from target", "How far a value lies from the target of its own part, so that short runs of many parts share one chart.", "x − T of the part, or that over the part's sd", "Montgomery (2013), sec. 10.1")
        .forms(&["deviation"])
        .heads(&["part", "unit"]),
    Entry::new("Proportion defective (p)", "Defectives over pieces inspected, subgroup by subgroup. With an even number inspected the count itself will do (np).", "p̄ ± 3 √(p̄ (1 − p̄) / n)", "ISO 7870-2")
        .forms(&["proportion defective", "proportion"]),
    Entry::new("Defects per unit (u)", "Defects over the amount of product inspected; with an even amount the count itself will do (c).", "ū ± 3 √(ū / n)", "ISO 7870-2")
        .heads(&["rate"]),
    Entry::new("Scatter beyond counting", "How much the counts vary beside what counting alone brings: 1 when pieces fail independently, more when something else moves them.", "χ² / df", "Laney (2002); Jones and Govindaraju (2000)")
        .forms(&["scatter"])
        .heads(&["widened"]),
    Entry::new("EWMA", "A mean that forgets: the newest value weighs λ, those before ever less. It sees small lasting shifts early.", "zᵢ = λ xᵢ + (1 − λ) zᵢ₋₁", "Roberts (1959)")
        .forms(&["EWMA", "exponentially weighted moving average"])
        .heads(&["weight of the newest"]),
    Entry::new("CUSUM", "A running sum of what exceeds the target by more than an allowance k; past the limit h the process has moved.", "Cᵢ = max(0, Cᵢ₋₁ + xᵢ − T − k)", "Page (1954); ISO 7870-4")
        .forms(&["CUSUM", "cumulative sum"])
        .heads(&["allowance", "decision limit"]),
    Entry::new("Rare events (g, t)", "Good pieces, or time, between one bad event and the next. They tell more than many subgroups with none.", "g: geometric; t: Weibull or exponential", "Benneyan (2001)")
        .forms(&["between events", "rare events"])
        .heads(&["pieces between", "time between", "how the limits are taken"]),
    Entry::new("Width of the limits", "How many sds of what is plotted lie between centre and limit. At 3 one steady point in 370 lies beyond.", "k", "ISO 7870-2")
        .heads(&["width"]),
    Entry::new("Log", "A row for each defect or event. Its rows are counted by day, shift or lot, so that no totals have to be prepared.", "rows of a period", "ISO 7870-2")
        .heads(&["log", "period"]),
    Entry::new("Where limits come from", "From all values, from a stretch when the process ran well, or from figures settled before and kept.", "", "ISO 7870-2")
        .heads(&["where the limits come from"]),
    Entry::new("Phase", "A stretch with limits of its own, from a change on purpose to the next.", "", "ISO 7870-1")
        .forms(&["phase", "phases"]),
    Entry::new("Shift", "How far the mean of one stretch lies from that of another.", "x̄₂ − x̄₁", "Welch (1947)")
        .forms(&["shift between phases"])
        .heads(&["that shift", "the shift"]),
    Entry::new("Freshness of frozen limits", "Whether the newest points still behave as those that the limits were taken from.", "Welch's t; the ratio of both spreads", "Welch (1947)")
        .heads(&["newest", "that spread", "change of spread", "spread"]),
    Entry::new("Runs", "Stretches on one side of the median, or rising and falling by turns. Too few tell of drift or clusters, too many of mixtures.", "E = 1 + 2 n₁ n₂ / (n₁ + n₂)", "Wald and Wolfowitz (1940); NIST/SEMATECH, sec. 1.3.5.13")
        .forms(&["runs about the median", "runs up and down"])
        .heads(&["clusters", "mixtures", "trends", "swings"]),
    Entry::new("Likeness of neighbours (autocorrelation)", "How a value foretells the next: 0 when it does not, near 1 in slow drift. Limits from moving ranges are then too narrow.", "r = Σ (xᵢ − x̄)(xᵢ₊₁ − x̄) / Σ (xᵢ − x̄)²", "Box and Jenkins (1976)")
        .forms(&["autocorrelation"])
        .heads(&["neighbours"]),
    Entry::new("Average run length", "How many points a chart goes on for between two false alarms, or until it sees a shift.", "ARL = 1 / P(signal)", "ISO 7870-1; Montgomery (2013), sec. 5.3")
        .forms(&["average run length"]),
];
