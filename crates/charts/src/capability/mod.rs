//! "Can it meet the limits?": how much of a measurement lies, or will lie, beyond its specification limits.
//!
//! Values and limits are put on a scale on which a shape is taken for granted (`assumed`), distances to the limits are
//! measured in spreads of that shape (`indices`), and the same chart that answers "is it steady?" says whether any of
//! this can be relied on (`compute`). Words never quote an index without these conditions (`verdict`, `notes`).
//!
//! Sources: ISO 22514-2 (non-normal indices by percentiles); Kane (1986), J. Quality Technology 18; Montgomery (2013),
//! ch. 8; Bissell (1990), Applied Statistics 39, for the interval of Ppk.

mod agreement;
mod answer;
mod assumed;
mod card;
mod compute;
mod curves;
pub mod decisions;
#[doc(hidden)]
pub mod indices;
#[doc(hidden)]
pub mod need;
pub mod notes;
mod numbers;
mod params;
mod tables;
mod terms;
mod tolerance;
pub mod verdict;

pub use answer::Answer;
pub use compute::answer;
pub use numbers::Numbers;
pub use params::{GOAL, Params, ShapeChoice};

use std::collections::BTreeMap;

use acorn_data::frame::{Column, Frame, Kind};
use acorn_study::advice::{Advice, Proposal};
use acorn_study::{Cancel, Computed, Method, MethodCard, RoleColumns, StudyError, ValidatedSpec};

/// The method.
#[derive(Clone, Copy, Debug)]
pub struct Capability;

impl Method for Capability {
    type Answer = Answer;

    fn card(&self) -> &'static MethodCard {
        &card::CARD
    }

    fn looks_at_labels(&self) -> bool {
        true
    }

    fn compute(&self, asked: &ValidatedSpec<'_>, cancel: &Cancel) -> Result<Computed<Answer>, StudyError> {
        let answer = answer(Params::read(asked)?, cancel)?;
        let (verdict, notes, next) = (verdict::read(&answer), notes::all(&answer), notes::next(&answer));
        Ok(Computed { verdict, notes, next, dial: Some(answer.dial()), answer })
    }

    /// The measurement with limits, in the samples and the order that the control chart would take.
    fn advise(&self, frame: &Frame, _answers: &BTreeMap<String, String>) -> Advice {
        let limited = |column: &&Column| column.kind == Kind::Number && column.info.is_limited();
        let Some(measure) = frame.columns().iter().find(limited) else { return Advice::default() };
        let charted = crate::control_chart::ControlChart.advise(frame, &BTreeMap::from([("kind".into(), "measured".into())]));
        let mut roles = BTreeMap::from([("measure".to_owned(), RoleColumns::One(measure.name.clone()))]);
        if let Some(proposal) = charted.proposal.filter(|proposal| proposal.roles.get("measure") == roles.get("measure")) {
            roles.extend(proposal.roles.into_iter().filter(|(role, _)| role == "subgroup" || role == "order"));
        }
        let proposal = Proposal {
            words: "all values against their limits",
            why: format!("{} is the first measurement with limits.", measure.name),
            others: Vec::new(),
            roles,
            options: serde_json::Map::new(),
        };
        Advice { question: None, proposal: Some(proposal) }
    }
}
