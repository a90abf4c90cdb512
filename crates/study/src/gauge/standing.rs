//! When a gauge is good enough: up to 10 % of what it is held against it is good, above 30 % it cannot be used, and it must
//! tell five groups of parts apart (AIAG MSA, 4th ed., ch. III).

use super::against::Basis;
use crate::{Note, Tone};
use acorn_maths::words::{counted, percent, span};

/// Up to this share a gauge is good.
pub const GOOD: f64 = 0.10;
/// Above this share it cannot be used.
pub const POOR: f64 = 0.30;
/// Fewer groups of parts told apart are too few.
pub const GROUPS: f64 = 5.0;

/// How a gauge stands.
#[derive(Clone, Copy, Debug, PartialEq, Eq)]
pub enum Standing {
    /// Nothing varies.
    Nothing,
    /// Good, by its whole interval where there is one.
    Good,
    /// Good by the estimate; its interval reaches higher.
    MayBeGood,
    /// Good for the tolerance; these parts are too alike to judge it against the process.
    ForTolerance,
    /// It depends on the use.
    Depends,
    /// Its interval holds both good and poor.
    CannotTell,
    /// It cannot be used.
    Poor,
}

impl Standing {
    /// Where a gauge stands by its share of the basis, the interval of that and the groups it tells apart, too few of which
    /// leave it no better than "it depends", or good for the tolerance alone where that is what it is held against.
    pub fn of(share: Option<f64>, interval: Option<[f64; 2]>, ndc: Option<f64>, basis: Basis) -> Standing {
        let few = ndc.is_some_and(|ndc| ndc < GROUPS);
        match share {
            None => Standing::Nothing,
            Some(part) if part > GOOD && interval.is_some_and(|[low, high]| low <= GOOD && high > POOR) => Standing::CannotTell,
            Some(part) if part > POOR => Standing::Poor,
            Some(part) if part > GOOD => Standing::Depends,
            Some(_) if few && basis == Basis::Tolerance => Standing::ForTolerance,
            Some(_) if few => Standing::Depends,
            Some(_) if interval.is_none_or(|[_, high]| high > POOR) => Standing::MayBeGood,
            Some(_) => Standing::Good,
        }
    }

    /// Whether it may be used.
    pub fn is_good(self) -> bool {
        matches!(self, Standing::Good | Standing::ForTolerance)
    }

    /// A note beside it: of a gauge that is good nothing is alarming.
    pub fn calmer(self, note: Note) -> Note {
        let tone = if self.is_good() && note.tone == Tone::Alarm { Tone::Caution } else { note.tone };
        Note { tone, ..note }
    }

    /// Its tone and its title.
    pub fn display_text(self) -> (Tone, &'static str) {
        match self {
            Standing::Nothing => (Tone::Unsure, "Nothing varies"),
            Standing::Good => (Tone::Calm, "Fit for use"),
            Standing::MayBeGood => (Tone::Caution, "Fit for use, with a doubt"),
            Standing::ForTolerance => (Tone::Calm, "Fit for the tolerance"),
            Standing::CannotTell => (Tone::Unsure, "Cannot tell"),
            Standing::Depends => (Tone::Caution, "Depends on the use"),
            Standing::Poor => (Tone::Alarm, "Not usable as it is"),
        }
    }
}

/// What a standing leaves open, as a sentence; empty where nothing.
pub fn left_open(standing: Standing) -> &'static str {
    match standing {
        Standing::ForTolerance => " These parts are too alike to judge it against the process.",
        Standing::CannotTell => " More parts, or more operators, would tell.",
        _ => "",
    }
}

/// "the gauge takes 15.0 % of the tolerance, likely 9.3 % to 33 %, and tells 8 steps apart".
pub fn takes(share: f64, basis: Basis, interval: Option<[f64; 2]>, ndc: Option<f64>) -> String {
    let likely = interval.map(|[low, high]| format!(", likely {},", span(&percent(low), &percent(high)))).unwrap_or_default();
    let groups = ndc.map(|ndc| {
        let groups = counted(ndc as usize, "step", "steps");
        if ndc < GROUPS { format!(" and tells only {groups} apart") } else { format!(" and tells {groups} apart") }
    });
    format!("the gauge takes {} of {}{likely}{}", percent(share), basis.display_text(), groups.unwrap_or_default())
}
