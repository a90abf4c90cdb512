//! "Which shape does it have?": the shapes that may stand for a measurement, best first, each drawn over the values with why it is
//! or is not to be trusted.

mod card;
mod compute;
mod decisions;
mod numbers;
mod verdict;

pub use numbers::Numbers;

use std::collections::BTreeMap;

use acorn_data::frame::{Frame, Kind};
use acorn_study::advice::{Advice, Proposal};
use acorn_study::{Cancel, Computed, Method, MethodCard, RoleColumns, StudyError, ValidatedSpec};

/// The method.
#[derive(Clone, Copy, Debug)]
pub struct FitDistribution;

impl Method for FitDistribution {
    type Answer = Numbers;

    fn card(&self) -> &'static MethodCard {
        &card::CARD
    }

    fn compute(&self, asked: &ValidatedSpec<'_>, cancel: &Cancel) -> Result<Computed<Numbers>, StudyError> {
        let numbers = compute::compute(asked, cancel)?;
        let (verdict, notes, next) = verdict::read(&numbers);
        Ok(Computed { verdict, notes, next, dial: None, answer: numbers })
    }

    /// The first measurement; whole numbers, which often only count the rows, where there is no other.
    fn advise(&self, frame: &Frame, _answers: &BTreeMap<String, String>) -> Advice {
        let of = |fits: fn(Kind) -> bool| frame.columns().iter().find(|column| fits(column.kind));
        let first = of(|kind| kind == Kind::Number).or_else(|| of(Kind::is_numeric));
        let proposal = |column: &acorn_data::frame::Column| Proposal {
            words: "its shape",
            why: format!("{} is the first measurement.", column.name),
            others: Vec::new(),
            roles: BTreeMap::from([("measure".to_owned(), RoleColumns::One(column.name.clone()))]),
            options: serde_json::Map::new(),
        };
        Advice { question: None, proposal: first.map(proposal) }
    }
}
