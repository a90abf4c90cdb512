//! Terms that several methods use.

use acorn_study::Entry;

const VIM: &str = "ISO 3534-1, ISO 3534-2";

/// The terms.
pub const TERMS: &[Entry] = &[
    Entry::new("Values", "The readings that the answer rests on. Empty cells are counted apart and nothing is put in their place.", "n", VIM)
        .heads(&["values", "value", "rows", "n", "number"]),
    Entry::new("Missing", "Cells without a reading. They are left out of every sum, and said to be.", "", "ISO 16269-4").heads(&["missing"]),
    Entry::new("Measurement", "A column of readings on a scale, with a unit and perhaps limits.", "", VIM)
        .heads(&["measurement", "measurements", "column", "what"]),
    Entry::new("Mean", "The sum of the values over their number: where they balance. One far value moves it.", "x̄ = Σ xᵢ / n", VIM)
        .forms(&["mean", "x-bar"])
        .heads(&["means", "centre"]),
    Entry::new("Median", "Half of the values lie below it and half above. A few far values do not move it.", "x₍₍ₙ₊₁₎⁄₂₎ of the sorted values", VIM)
        .forms(&["median"]),
    Entry::new("Quartiles", "A quarter of the values lies below the lower one and a quarter above the upper one.", "p (n + 1)-th of the sorted values", "Hyndman and Fan (1996), type 6")
        .forms(&["lower quartile", "upper quartile", "quartile", "quartiles"]),
    Entry::new("Range", "The largest value less the smallest, of a subgroup or of all.", "R = x₍ₙ₎ − x₍₁₎", VIM)
        .forms(&["range", "ranges"])
        .heads(&["smallest", "largest"]),
    Entry::new("Standard deviation (sd)", "The usual distance of a value from the mean, in the unit of the measurement. About two thirds lie within one sd.", "s = √(Σ (xᵢ − x̄)² / (n − 1))", VIM)
        .forms(&["sd", "sds", "standard deviation"])
    .heads(&["Sd"]),
    Entry::new("Skewness", "How lopsided the values are: 0 when both tails are alike, above 0 with a long upper tail.", "G₁ = √(n (n − 1)) / (n − 2) · m₃ / m₂^1.5", "Joanes and Gill (1998)")
        .forms(&["skewness", "skewed"]),
    Entry::new("Excess kurtosis", "How heavy the tails are beside a normal's: 0 as a normal, above 0 with more far values.", "G₂ = (n − 1) ((n + 1) g₂ + 6) / ((n − 2)(n − 3))", "Joanes and Gill (1998)")
        .forms(&["kurtosis"]),
    Entry::new("95 % interval", "Where the true number is likely to lie: 95 of 100 such intervals hold it. More values make it narrower.", "estimate ± its uncertainty at 95 %", VIM)
        .forms(&["95 % interval", "likely"])
        .heads(&["95 % from", "95 % to", "from", "to"]),
    Entry::new("Confidence", "How often a statement made this way is right, over many sets of values.", "", VIM).forms(&["confidence"]).heads(&["sure"]),
    Entry::new("p-value", "How often chance alone would bring as much or more, were nothing the matter. Below 0.05 it is called unlikely here, below 0.01 very unlikely.", "P(T ≥ t) under what is assumed", VIM)
        .forms(&["p-value", "p =", "p below"])
        .heads(&["p"]),
    Entry::new("Degrees of freedom (df)", "How many values an estimate of spread is worth. The more, the surer it is.", "n − 1 for one set of n values", VIM)
        .forms(&["degrees of freedom"])
        .heads(&["df"]),
    Entry::new("Anderson-Darling test", "Whether values could come from a shape, with weight on both tails. A large A² speaks against it.", "A² = −n − Σ (2i − 1)/n [ln F(xᵢ) + ln(1 − F(x₍ₙ₊₁₋ᵢ₎))]", "D'Agostino and Stephens (1986)")
        .forms(&["Anderson-Darling", "test of shape"])
        .heads(&["A²"]),
    Entry::new("Histogram", "Bars over the scale of the values; each bar is as high as the number of values in it.", "count of from ≤ x < to", "ISO 3534-1")
        .forms(&["histogram", "histograms"])
        .heads(&["picture", "bars", "width of the bars", "edge of the first bar", "scale of the groups"]),
    Entry::new("Box plot", "A box from quartile to quartile with the median in it; whiskers reach to the last value within 1.5 boxes.", "whisker ≤ 1.5 (Q₃ − Q₁)", "Tukey (1977)")
        .forms(&["box plot", "box plots"]),
    Entry::new("Normal probability plot", "Sorted values against where a normal would have them. On a straight line they are normal; bends tell of tails.", "z = Φ⁻¹((i − 0.375) / (n + 0.25))", "Blom (1958)")
        .forms(&["normal probability plot", "probability plot"]),
    Entry::new("Specification limits (LSL, USL)", "The smallest and the largest value that a piece may have. They come from its use, not from the process.", "", "ISO 3534-2")
        .forms(&["LSL", "USL", "specification limits", "specification limit"])
        .heads(&["limits", "natural bound", "of limits", "against limits"]),
    Entry::new("Target", "The value aimed at, between the specification limits.", "T", "ISO 3534-2").forms(&["target"]),
    Entry::new("Share outside", "The part of all pieces beyond a specification limit: counted among the values, or expected from their shape.", "seen: count / n; expected: F(LSL) + 1 − F(USL)", "ISO 22514-2")
        .heads(&["out", "seen", "expected", "both", "below LSL", "above USL"]),
    Entry::new("Parts per million (ppm)", "So many pieces of a million. 1 % is 10,000 ppm; 1 in 2,000 is 500 ppm.", "10⁶ × share", "ISO 22514-2")
        .forms(&["ppm", "in a million"]),
    Entry::new("Subgroup", "A few pieces taken together under the same conditions, so that only chance makes them differ.", "", "ISO 7870-1; Shewhart (1931)")
        .forms(&["subgroup", "subgroups"])
        .heads(&["within-sd"]),
    Entry::new("Order", "What the values come one after the other by. Drift, runs and moving ranges mean nothing without it.", "", "ISO 7870-1").heads(&["order"]),
    Entry::new("Group", "A column whose labels tell values apart: a bench, a cavity, a line.", "", VIM)
        .heads(&["group", "groups", "one group only", "which one", "column of labels"]),
    Entry::new("Defective", "A piece that fails at least one requirement. It counts once, however many defects it has.", "", "ISO 3534-2")
        .forms(&["defective", "defectives"]),
    Entry::new("Before and after", "Two stretches of one process with something changed between them. Without the number inspected only shares can be compared.", "", "ISO 3534-2")
        .heads(&["before", "after"]),
    Entry::new("Analysis of variance", "Takes the whole variation apart by what it comes from, and asks of each part whether chance would bring as much.", "F = MS / MS of what it is tested against", "Fisher (1925); Montgomery (2013)")
        .forms(&["variance analysis", "analysis of variance"])
        .heads(&["method", "ss", "ms"]),
    Entry::new("One centre for all", "Whether groups could share one mean, their spreads being what they are.", "F = Σ wᵢ (x̄ᵢ − x̃)² / (k − 1) / (1 + 2 (k − 2) Λ / (k² − 1)), wᵢ = nᵢ / sᵢ²", "Welch (1951)")
        .forms(&["Welch"])
        .heads(&["one centre for all", "F"]),
    Entry::new("One spread for all", "Whether groups could share one sd, judged by distances from their medians, which few far values upset.", "F of |xᵢⱼ − median of group i|", "Brown and Forsythe (1974)")
        .forms(&["Brown-Forsythe"])
        .heads(&["one spread for all"]),
    Entry::new("Defect", "A fault on a piece. A piece may have several.", "", "ISO 3534-2").forms(&["defect", "defects"]).heads(&["count", "counts", "counted"]),
    Entry::new("Number inspected", "How many pieces, or how much product, were looked at. A share or a rate is the count over it.", "n", "ISO 7870-2")
        .forms(&["number inspected"])
        .heads(&["out of", "units", "what is asked", "where the numbers come from"]),
    Entry::new("Steady (stable)", "Nothing but chance moves the process: no signal on its chart beyond what chance brings. Only then can it be foretold.", "", "Shewhart (1931); ISO 7870-1")
        .forms(&["steady", "stable"]),
    Entry::new("Signal", "A point or a run of points that a steady process seldom shows. It is worth a search for its cause.", "", "Shewhart (1931); ISO 7870-1")
        .forms(&["signal", "signals"]),
    Entry::new("Control limits (UCL, CL, LCL)", "Where nearly all points of a steady process lie, found from the process itself. They are not specification limits.", "CL ± 3 sd of what is plotted", "Shewhart (1931); ISO 7870-2")
        .forms(&["UCL", "LCL", "CL", "control limits", "control limit"]),
    Entry::new("False alarm", "A signal from a process that is steady after all. Each further pattern that is watched brings more.", "one in 370 points with limits at 3 sd alone", "ISO 7870-1; Montgomery (2013), sec. 5.3")
        .forms(&["false alarm", "false alarms"]),
    Entry::new("Patterns", "What is watched for on a chart besides points beyond the limits: runs, trends, points crowding or keeping away.", "", "Western Electric (1956); Nelson (1984)")
        .forms(&["patterns", "pattern"]),
    Entry::new("Short-term and long-term spread", "Short-term is how neighbours differ, with no drift in it; long-term is how all values differ. A gap between them is drift.", "σ from neighbours or subgroups; s of all values", "ISO 22514-2; AIAG SPC manual")
        .forms(&["short-term", "long-term"])
        .heads(&["sd short", "sd long", "values from before", "values from subgroups"]),
    Entry::new("Seed", "What random draws start from. The same seed gives the same answer again; another one shows how much draws matter.", "", "Efron and Tibshirani (1993)")
        .forms(&["seed"]),
    Entry::new("Fit", "A drawn shape is laid over the values; how near it comes is tested.", "maximum likelihood", "Meeker and Escobar (1998)").heads(&["fits", "shape taken"]),
];
