//! How the question for a shape describes itself.

use std::sync::LazyLock;

use acorn_study::Entry;
use acorn_study::card::{Formula, MethodCard, NUMBERS, Slot, SlotKind, SubjectKind};

/// The terms.
const TERMS: &[Entry] = &[Entry::new(
    "Parameter of a shape",
    "A number that chooses one member of a family of shapes, such as the scale of a Weibull; found where the values are likeliest.",
    "maximum likelihood",
    "Fisher (1922)",
)
.heads(&["parameter"])];

/// The seed unless said otherwise.
pub const SEED: f64 = 0.0;

/// The card.
pub static CARD: LazyLock<MethodCard> = LazyLock::new(|| {
    let seed = SlotKind::usually(SEED, "drawing from seed {}", "drawing from seed 0", 0.0, 1e9).whole();
    MethodCard {
        method: "fit-distribution",
        question: "Which shape does it have?",
        part: "What if",
        use_when: "Use it to choose the distribution of an input of a model, or to see how far a shape may be trusted.",
        found_by: &["distribution fitting", "goodness of fit", "Weibull", "lognormal", "Anderson-Darling", "identify distribution"],
        statement: "Find the shapes that may stand for {measure}[, {seed}].",
        slots: vec![
            Slot::new("measure", "measurement", SlotKind::needed(&NUMBERS, "choose a measurement")).subject(SubjectKind::Measurement),
            Slot::new("seed", "seed of the draws", seed).quiet(),
        ],
        terms: TERMS,
        decisions: super::decisions::ALL,
        formulas: vec![Formula::new(
            "fit",
            "Fit",
            "maximum likelihood; ranked by the test of Anderson and Darling, its chance by table or 400 seeded refits; AIC beside it",
            "D'Agostino and Stephens (1986); Meeker and Escobar (1998)",
        )],
    }
});
