//! When a response meets its limits: the one place where that is decided.

use super::numbers::Out;
use acorn_charts::capability::GOAL;
use acorn_maths::normal;
use acorn_study::Tone;

/// The share out of a normal whose Ppk on both sides is the usual goal: what "meets its limits" means here.
pub fn allowed() -> f64 {
    2.0 * normal::above(3.0 * GOAL)
}

/// How a response stands to its limits.
#[derive(Clone, Copy, Debug, PartialEq, Eq, PartialOrd, Ord)]
pub enum Standing {
    /// No more out than a Ppk of 1.33 allows.
    Meets,
    /// No more than 27 in 10,000 out, as three sds allow.
    JustMeets,
    /// More.
    Misses,
}

impl Standing {
    /// How good that is.
    pub fn tone(self) -> Tone {
        match self {
            Standing::Meets => Tone::Calm,
            Standing::JustMeets => Tone::Caution,
            Standing::Misses => Tone::Alarm,
        }
    }
}

/// By the draws themselves; where they are too few to tell, by Ppk.
pub fn standing(out: &Out, ppk: Option<f64>) -> Standing {
    let by_ppk = ppk.is_some_and(|ppk| ppk >= GOAL) && out.ci95[0] <= allowed();
    if out.ci95[1] <= allowed() || by_ppk {
        Standing::Meets
    } else if out.total <= 0.0027 {
        Standing::JustMeets
    } else {
        Standing::Misses
    }
}
