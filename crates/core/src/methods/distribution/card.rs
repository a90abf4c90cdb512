//! How the look describes itself.

use crate::frame::Kind;
use crate::study::card::{Choice, Condition, Filling, Formula, MethodCard, Slot, bar_choices};

/// The card.
pub fn card() -> MethodCard {
    let slot = |name, label, quiet, filling| Slot { at: name, name, label, shows: vec![], quiet, filling };
    let only =
        |option, among, filled_role, slot: Slot| Slot { shows: vec![Condition { option, among, empty_role: None, filled_role }], ..slot };
    let heaps = |slot| only(Some("show"), vec!["heaps"], None, slot);
    let numbers = vec![Kind::Number, Kind::WholeNumber];
    let grouping = vec![Kind::Category, Kind::WholeNumber, Kind::Text, Kind::DateTime];
    let column = |kinds, empty, required, many| Filling::Column { kinds, empty, required, many };
    let switch = |on, off| Filling::Switch { on, off };
    MethodCard {
        method: "distribution",
        question: "What does it look like?",
        part: "Look",
        use_when: "Use it first: centre, spread and shape, alone or group beside group.",
        statement: "Look at {measure}[ by {group}] as {show}[, with bars {bins}][, {same_scale}][, {curve}].",
        slots: vec![
            slot("measure", "measurement", false, column(numbers, "choose a measurement", true, false)),
            slot("group", "groups", true, column(grouping, "all together", false, true)),
            slot("show", "picture", false, Filling::Choice { tag: "", choices: pictures() }),
            heaps(slot("bins", "bars", false, Filling::Choice { tag: "=", choices: bar_choices() })),
            only(None, vec![], Some("group"), slot("same_scale", "scale", false, switch("on one scale", "each group on its own scale"))),
            heaps(slot("curve", "bell curve", false, switch("with the bell curve as a yardstick", "without a bell curve"))),
        ],
        formulas: formulas(),
    }
}

fn choice(value: &'static str, words: &'static str, use_when: &'static str) -> Choice {
    Choice { value, words, use_when, fields: vec![] }
}

fn pictures() -> Vec<Choice> {
    vec![
        choice("heaps", "heaps", "Histograms: how often which values occur."),
        choice("boxes", "boxes", "Box plots: many groups at a glance."),
        choice("values", "single values", "Every value by itself, in the order of the rows."),
        choice("probability", "probability plots", "Whether the shape is normal: the points then follow the line."),
    ]
}

fn formulas() -> Vec<Formula> {
    let formula = |name, formula, source| Formula { name, formula, source };
    vec![
        formula("Mean and sd", "x̄ = Σx/n, s = √(Σ(x − x̄)²/(n − 1)), two passes", "Chan, Golub and LeVeque (1983)"),
        formula("Intervals", "x̄ ± t s/√n; s √((n − 1)/χ²) at both ends; 95 %", "ISO 2602; ISO 2854"),
        formula("Quartiles and median", "linear at (n − 1) p between order statistics (type 7)", "Hyndman and Fan (1996)"),
        formula(
            "Skewness, kurtosis",
            "G₁ = √(n(n−1))/(n−2) m₃/m₂^1.5; G₂ = (n−1)/((n−2)(n−3)) ((n+1)(m₄/m₂² − 3) + 6)",
            "Joanes and Gill (1998)",
        ),
        formula(
            "Test of shape",
            "A² = −n − Σ(2i−1)/n [ln Φ(zᵢ) + ln Φ(−z₍ₙ₊₁₋ᵢ₎)]; A²(1 + 0.75/n + 2.25/n²)",
            "Anderson and Darling (1954); D'Agostino and Stephens (1986), table 4.9",
        ),
        formula(
            "Bars",
            "width 2 IQR / ∛n, kept to 5 to 60 bars, rounded to 1, 2 or 5; left-closed, the last one closed",
            "Freedman and Diaconis (1981)",
        ),
        formula("Boxes", "quartiles; whiskers to the last values within 1.5 interquartile ranges", "Tukey (1977)"),
        formula(
            "Probability plot",
            "scores Φ⁻¹((i − 0.375)/(n + 0.25)); band x̄ + z s ± 1.96 s √(1/n + z²/(2(n − 1)))",
            "Blom (1958); Meeker and Escobar (1998), ch. 6",
        ),
        formula("Groups", "centres by Welch's test, spreads by Levene's test about the medians", "Welch (1951); Brown and Forsythe (1974)"),
    ]
}
