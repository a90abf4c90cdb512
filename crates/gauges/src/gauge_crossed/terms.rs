//! Terms of a gauge study.

use acorn_study::Entry;

const MSA: &str = "AIAG MSA, 4th ed.; ISO 22514-7";

/// The terms.
pub const TERMS: &[Entry] = &[
    Entry::new(
        "Gauge (measurement system)",
        "All that makes a reading: the instrument, who uses it, how, and where. Its variation is in everything that you see.",
        "σ²gauge = σ²repeatability + σ²reproducibility",
        MSA,
    )
    .forms(&["gauge", "measuring", "total gauge"])
    .heads(&["gauge sd", "share of the gauge", "sd without the gauge"]),
    Entry::new(
        "Repeatability",
        "How readings of one part by one operator with one gauge differ.",
        "σ²ₑ = MS within part and operator",
        MSA,
    )
    .forms(&["repeatability", "repeating"])
    .heads(&["equipment (EV)"]),
    Entry::new(
        "Reproducibility",
        "How operators differ from each other: their means, and how they read some parts differently.",
        "σ²ₒ + σ²ₒₚ",
        MSA,
    )
    .forms(&["reproducibility", "operator differences"])
    .heads(&["operators (AV)"]),
    Entry::new("Operator", "Who takes a reading. Another shift, bench or set-up may stand in the place.", "", MSA)
        .forms(&["operator", "operators"]),
    Entry::new(
        "Part",
        "What is read. Parts should span all that the process makes, bad ones too; else the gauge looks worse than it is.",
        "",
        MSA,
    )
    .forms(&["parts"])
    .heads(&["parts (PV)", "trials", "reading"]),
    Entry::new(
        "Interaction",
        "Operators read some parts differently from others, so that no single correction mends it.",
        "MSₒₚ / MSₑ against F",
        "Montgomery (2013), sec. 8.7",
    )
    .forms(&["interaction"])
    .heads(&["part × operator", "source", "when the interaction is pooled"]),
    Entry::new(
        "%study variation",
        "The sd of a component over that of everything seen in the study. It says how well the gauge sorts these parts.",
        "100 sd / sd of the total",
        MSA,
    )
    .forms(&["study variation", "of the study"])
    .heads(&["% study", "study"]),
    Entry::new(
        "%tolerance",
        "How much of the tolerance the spread of a component fills. Under 10 % is good; 30 % and more cannot be used.",
        "100 · 6 sd / (USL − LSL)",
        MSA,
    )
    .forms(&["of the tolerance", "%tolerance"])
    .heads(&["% tolerance", "tolerance"]),
    Entry::new("%process", "The sd of a component over that of the process, known from elsewhere.", "100 sd / process sd", MSA)
        .forms(&["of the process"])
        .heads(&["% process", "process sd"]),
    Entry::new(
        "Contribution",
        "The variance of a component over the whole variance. Contributions add up to 100 %; shares of sds do not.",
        "σ²ᵢ / σ²total",
        MSA,
    )
    .heads(&["contribution", "variance", "total"]),
    Entry::new(
        "ndc",
        "How many groups of parts the gauge can tell apart. Five or more are wanted.",
        "1.41 sdₚ / sd of the gauge, rounded down",
        MSA,
    )
    .forms(&["ndc", "steps apart"]),
    Entry::new(
        "What would help",
        "The share that the gauge would take if one thing were mended, all else as it is.",
        "computed from the components",
        MSA,
    )
    .heads(&["two readings averaged", "no operator differences", "repeatability halved"]),
];
