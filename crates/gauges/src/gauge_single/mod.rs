//! "Is this gauge right and repeatable?": one operator reads one reference piece again and again.
//!
//! Bias against the known value with its t interval, and the capability of the gauge against a share of the tolerance:
//! C_g = share · T / (k s), C_gk = (share · T/2 − |bias|) / (k s/2). Sources: ISO 22514-7 (2021), cl. 8; AIAG, Measurement Systems
//! Analysis, 4th ed., ch. III (bias).

mod card;
mod compute;
mod decisions;
mod numbers;
mod terms;
mod verdict;

pub use numbers::Numbers;

use std::collections::BTreeMap;

use acorn_data::frame::{Frame, Kind};
use acorn_study::advice::{Advice, Proposal};
use acorn_study::{Cancel, Computed, Method, MethodCard, RoleColumns, StudyError, ValidatedSpec};

/// The method.
#[derive(Clone, Copy, Debug)]
pub struct GaugeSingle;

impl Method for GaugeSingle {
    type Answer = compute::Answer;

    fn card(&self) -> &'static MethodCard {
        &card::CARD
    }

    fn compute(&self, asked: &ValidatedSpec<'_>, _cancel: &Cancel) -> Result<Computed<compute::Answer>, StudyError> {
        let answer = compute::answer(asked)?;
        let (verdict, notes, next) = (verdict::read(&answer), verdict::notes(&answer), verdict::next(&answer));
        Ok(Computed { verdict, notes, next, dial: None, answer })
    }

    /// The first measurement; the reference is known to the person alone.
    fn advise(&self, frame: &Frame, _answers: &BTreeMap<String, String>) -> Advice {
        let proposal = frame.columns().iter().find(|column| column.kind == Kind::Number).map(|column| Proposal {
            words: "readings of one reference piece",
            why: format!("{} is the first measurement. Type the known value of the piece.", column.name),
            others: Vec::new(),
            roles: BTreeMap::from([("measure".to_owned(), RoleColumns::One(column.name.clone()))]),
            options: serde_json::Map::new(),
        });
        Advice { question: None, proposal }
    }
}
