//! The line-up: one count charted three ways on one scale, and which of them to believe.
//!
//! A plain chart takes every piece to fail by itself, so that its limits narrow as samples grow; where samples differ
//! by more than that, it flags nearly everything. The prime chart widens the limits by what neighbours differ;
//! single values take that difference alone and ignore the sizes.

use serde::Serialize;

use super::kind::ChartKind;
use super::panel::Panel;
use super::parts::Dispersion;
use super::patterns::Pattern;
use acorn_maths::judgement::VERY_UNLIKELY;
use acorn_maths::words::{about, part_of};

/// Sizes within this share of each other are about one size.
const ONE_SIZE: f64 = 0.25;

/// Three charts of one count.
pub struct LineUp {
    /// Plain, prime, single values.
    pub candidates: Vec<Candidate>,
    /// The one to believe.
    pub believe: ChartKind,
    dispersion: Dispersion,
    sizes: Option<[f64; 2]>,
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
#[derive(Clone, Copy, Debug, Serialize, utoipa::ToSchema)]
pub struct CandidateWords {
    /// Its name.
    pub title: &'static str,
    /// What its limits rest on.
    pub rests_on: &'static str,
}

impl Candidate {
    pub fn new(kind: ChartKind, panel: Panel) -> Candidate {
        let rests_on = match kind {
            ChartKind::PPrime | ChartKind::UPrime => "limits widened for scatter between subgroups",
            ChartKind::Ratio => "each share or rate taken as one value",
            _ => "limits from counting alone",
        };
        let beyond = panel.signals.iter().filter(|signal| signal.pattern == Pattern::BeyondLimits);
        let flagged = beyond.map(|signal| signal.last - signal.first + 1).sum();
        Candidate { kind, rests_on, panel, flagged }
    }

    pub fn display_text(&self) -> CandidateWords {
        let title = match self.kind {
            ChartKind::PPrime => "p-prime chart",
            ChartKind::UPrime => "u-prime chart",
            ChartKind::Ratio => "Individuals",
            ChartKind::P => "Plain p chart",
            _ => "Plain u chart",
        };
        CandidateWords { title, rests_on: self.rests_on }
    }
}

impl LineUp {
    /// Judges which chart to believe by how the counts scatter.
    pub fn of(candidates: Vec<Candidate>, dispersion: Dispersion, sizes: Option<[f64; 2]>) -> LineUp {
        let odd = dispersion.p.min(1.0 - dispersion.p) < VERY_UNLIKELY;
        let believe = candidates[usize::from(odd)].kind;
        LineUp { candidates, believe, dispersion, sizes }
    }

    /// The chart to believe.
    pub fn believed(&self) -> &Candidate {
        self.candidates.iter().find(|candidate| candidate.kind == self.believe).unwrap_or(&self.candidates[0])
    }

    /// Why that one and not the others, a sentence on each.
    pub fn reasons(&self) -> [String; 2] {
        let [plain, prime, single] = [0, 1, 2].map(|place| &self.candidates[place]);
        let times = about(self.dispersion.times());
        let flags = |one: &Candidate| part_of(one.flagged, one.panel.present, ["subgroup", "subgroups"], ["is", "are"]);
        let scatter = if self.dispersion.p < VERY_UNLIKELY {
            let tight = "The plain limits take every piece to fail by itself; with subgroups this large that makes them too tight";
            format!("{tight}: subgroups scatter {times} times as much, and {} flagged.", flags(plain))
        } else if self.dispersion.p > 1.0 - VERY_UNLIKELY {
            let even = if self.dispersion.ratio == 0.0 {
                "Subgroups do not scatter at all".to_owned()
            } else {
                format!("Subgroups scatter only {times} times as much as counting explains")
            };
            format!("{even}. Ask how they are counted: are bad ones averaged away, or copied?")
        } else {
            "Subgroups are not seen to scatter more than counting explains, so that the plain limits need no widening.".to_owned()
        };
        let one_size = self.sizes.is_some_and(|[low, high]| high - low <= ONE_SIZE * high);
        let agree = match (single.flagged == prime.flagged, one_size) {
            (true, _) => "here they agree with the widened chart",
            (false, true) => "here they differ a little from the widened chart",
            (false, false) => "here that misleads, for the sizes differ much",
        };
        [scatter, format!("Individuals ignore that subgroups differ in size; {agree}.")]
    }
}
