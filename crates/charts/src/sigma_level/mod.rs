//! "How bad is it?": defects in numbers that can be compared: per unit, per chance, per million, as a yield and as a
//! sigma level, from typed numbers, from counts or from a measurement.
//!
//! A sigma level is the normal quantile of the yield, read short-term: the shift, 1.5 unless said otherwise, is added for
//! the drift that long-term numbers contain. It is a convention (Harry and Schroeder 2000), so it is always stated.
//!
//! Counts over samples are also a binomial or Poisson capability study: whether they are steady and scatter as counts
//! do, with the exact interval of their share.

mod card;
mod compute;
mod decisions;
mod numbers;
mod params;
mod terms;
mod verdict;

pub use numbers::{Answer, Numbers};

use std::collections::BTreeMap;

use acorn_data::frame::Frame;
use acorn_study::advice::{Advice, Proposal};
use acorn_study::{Cancel, Computed, Method, MethodCard, RoleColumns, StudyError, ValidatedSpec};

/// The method.
#[derive(Clone, Copy, Debug)]
pub struct SigmaLevel;

impl Method for SigmaLevel {
    type Answer = Answer;

    fn card(&self) -> &'static MethodCard {
        &card::CARD
    }

    fn looks_at_labels(&self) -> bool {
        true
    }

    fn compute(&self, asked: &ValidatedSpec<'_>, cancel: &Cancel) -> Result<Computed<Answer>, StudyError> {
        let params = params::Params::read(asked)?;
        let answer = compute::answer(&params, cancel)?;
        let (verdict, notes, next) = verdict::read(&answer, &params);
        Ok(Computed { verdict, notes, next, dial: None, answer })
    }

    /// Counts with the number inspected, as the control chart would chart them, else the measurement with limits, else
    /// typed numbers.
    fn advise(&self, frame: &Frame, _answers: &BTreeMap<String, String>) -> Advice {
        let charted = crate::control_chart::ControlChart.advise(frame, &BTreeMap::from([("kind".into(), "counted".into())]));
        let counted =
            charted.proposal.map(|proposal| proposal.roles).filter(|roles| roles.contains_key("count") && roles.contains_key("size"));
        let limited = frame.columns().iter().find(|column| column.kind.is_numeric() && column.info.is_limited());
        let (from, roles, why) = match (limited, counted) {
            (Some(column), _) => {
                let roles = BTreeMap::from([("measure".to_owned(), RoleColumns::One(column.name.clone()))]);
                ("measurement", roles, format!("{} has limits.", column.name))
            }
            (None, Some(roles)) => {
                let kept = roles.into_iter().filter(|(role, _)| matches!(role.as_str(), "count" | "size" | "label" | "order")).collect();
                ("columns", kept, "The dataset holds counts and the number inspected.".to_owned())
            }
            (None, None) => {
                ("counts", BTreeMap::new(), "No column holds counts with their number inspected, so the numbers are typed.".to_owned())
            }
        };
        let options = serde_json::Map::from_iter([("from".to_owned(), from.into())]);
        Advice { question: None, proposal: Some(Proposal { words: "the level it reaches", why, others: Vec::new(), roles, options }) }
    }
}
