//! The line-up: one count charted three ways on one scale, and which of them to believe.
//!
//! A plain chart takes every piece to fail by itself, so that its limits narrow as samples grow; where samples differ
//! by more than that, it flags nearly everything. The prime chart widens the limits by what neighbours differ;
//! single values take that difference alone and ignore the sizes.

use serde::Serialize;

use super::built::Dispersion;
use super::kind::ChartKind;
use super::panel::Panel;
use super::patterns::Pattern;
use crate::study::words::{about, counted};

/// A chance of dispersion this close to 0 or 1 is no accident.
pub const DISPERSION_BELOW: f64 = 0.01;
/// Sizes within this share of each other are about one size.
const ONE_SIZE: f64 = 0.25;

/// Three charts of one count.
pub struct LineUp {
    /// Plain, prime, single values.
    pub candidates: Vec<Candidate>,
    /// The one to believe.
    pub believe: ChartKind,
    /// Why, in one sentence.
    pub why: String,
}

/// One of the charts.
pub struct Candidate {
    pub kind: ChartKind,
    /// What its limits rest on.
    pub rests_on: &'static str,
    pub panel: Panel,
    /// Points beyond its limits.
    pub flagged: usize,
}

/// What a candidate's card says.
#[derive(Clone, Copy, Debug, Serialize)]
#[cfg_attr(feature = "openapi", derive(utoipa::ToSchema))]
pub struct CandidateWords {
    /// Its name.
    pub title: &'static str,
    /// What its limits rest on.
    pub rests_on: &'static str,
}

impl Candidate {
    pub fn new(kind: ChartKind, panel: Panel) -> Candidate {
        let rests_on = match kind {
            ChartKind::PPrime | ChartKind::UPrime => "limits widened for scatter between samples",
            ChartKind::Ratio => "each share or rate taken as one value",
            _ => "limits from counting alone",
        };
        let beyond = panel.signals.iter().filter(|signal| signal.pattern == Pattern::BeyondLimits);
        let flagged = beyond.map(|signal| signal.last - signal.first + 1).sum();
        Candidate { kind, rests_on, panel, flagged }
    }

    pub fn words(&self) -> CandidateWords {
        let title = match self.kind {
            ChartKind::PPrime => "p-prime chart",
            ChartKind::UPrime => "u-prime chart",
            ChartKind::Ratio => "Single values",
            ChartKind::P => "Plain p chart",
            _ => "Plain u chart",
        };
        CandidateWords { title, rests_on: self.rests_on }
    }
}

/// Which chart to believe, and why.
pub fn judge(candidates: Vec<Candidate>, dispersion: &Dispersion, sizes: Option<[f64; 2]>) -> LineUp {
    let [plain, prime, single] = [0, 1, 2].map(|place| &candidates[place]);
    let times = about(dispersion.ratio.sqrt());
    let n = plain.panel.present;
    let flags = |candidate: &Candidate| format!("{} of {}", candidate.flagged, counted(n, "sample", "samples"));
    let one_size = sizes.is_some_and(|[low, high]| high - low <= ONE_SIZE * high);
    let (believe, why) = if dispersion.p < DISPERSION_BELOW {
        let agree = if single.flagged == prime.flagged {
            "single values agree with it"
        } else if one_size {
            "single values differ a little, for they ignore the sizes"
        } else {
            "single values mislead here, for the sizes differ"
        };
        let why = format!(
            "Samples scatter {times} times as much as counting alone explains, so the plain limits are too tight: they flag {}, the widened ones {}; {agree}.",
            flags(plain),
            flags(prime)
        );
        (prime.kind, why)
    } else if dispersion.p > 1.0 - DISPERSION_BELOW {
        let why = format!(
            "Samples scatter only {times} times as much as counting explains, so the plain limits are too wide. Ask how samples are counted: are bad ones averaged away, or copied?"
        );
        (prime.kind, why)
    } else {
        (plain.kind, "Samples scatter as counting alone explains, so the plain limits are right and need no widening.".to_owned())
    };
    LineUp { candidates, believe, why }
}
