//! Terms of a simulation.

use acorn_study::Entry;

/// The terms.
pub const TERMS: &[Entry] = &[
    Entry::new(
        "Monte Carlo simulation",
        "Inputs are drawn by chance many times and every response is worked out for each draw, so that the draws show how it will vary.",
        "JCGM 101",
        "Metropolis and Ulam (1949)",
    )
    .forms(&["draws", "simulated"])
    .heads(&["draw", "response", "responses", "out below", "out above", "out in all", "no number", "simulated from", "simulated to", "below it"]),
    Entry::new(
        "Input",
        "Something that varies from piece to piece and that nobody sets: a dimension, a cell's capacity, a temperature of the day.",
        "a distribution",
        "JCGM 101:2008",
    )
    .heads(&["input", "inputs", "its spread times"]),
    Entry::new(
        "Control",
        "A setting that the plant chooses, between a lowest and a highest value; held exactly, or within an sd of its own.",
        "value, range, step",
        "Taguchi (1986)",
    )
    .heads(&["control", "controls", "as it is"]),
    Entry::new(
        "Error of a share",
        "How far the share of the draws may be from the one that endless draws would give; ten times the draws make it three times smaller.",
        "√(p(1 − p)/n)",
        "Binomial sampling",
    )
    .heads(&["error of the share", "its error", "error with others"]),
    Entry::new(
        "Share of variance",
        "How much of a response's variance an input makes: by itself, and with all it does together with others. Sums of the first stay at or below 1.",
        "Sobol's indices",
        "Sobol (1993); Saltelli and others (2010)",
    )
    .forms(&["its variance"])
    .heads(&["by itself", "with others", "shares of variance"]),
    Entry::new(
        "Tightening",
        "Making the spread of one input smaller, all else as it is, to see what that does to a response before money is spent on it.",
        "x → m + c(x − m)",
        "Evans (1975)",
    )
    .heads(&["tightening"]),
    Entry::new(
        "Latin hypercube",
        "Draws spread so that each of as many equal slices of every input holds one: means and percentiles settle sooner than by plain draws.",
        "one draw a slice",
        "McKay, Beckman and Conover (1979)",
    )
    .heads(&["sampling"]),
    Entry::new(
        "Worst case",
        "Every input at its worst end at once. It almost never happens; a stack that fits even then fits always.",
        "Σ|a|h",
        "Drake (1999)",
    )
    .heads(&["worst case from", "worst case to"]),
    Entry::new(
        "Root sum square",
        "Half-widths of the inputs added as squares, as independent spreads add; right for sums of normals about their targets.",
        "√Σ(ah)²",
        "Drake (1999)",
    )
    .heads(&["root sum square from", "root sum square to"]),
    Entry::new(
        "Search of settings",
        "Tries settings inside their ranges on the same draws and keeps what does best; noise is left alone.",
        "common random numbers",
        "Nelder and Mead (1965)",
    )
    .heads(&["search of settings", "found", "may be from", "may be to"]),
    Entry::new(
        "Correlated inputs",
        "Inputs that go together, such as two dimensions of one moulding: drawn by a normal copula with the correlations given.",
        "normal copula",
        "Nelsen (2006)",
    )
    .heads(&["correlations"]),
];
