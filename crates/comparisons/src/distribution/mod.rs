//! "What does it look like?": centre, spread and shape of a measurement, alone or by group, on one scale.
//!
//! Histogram, box, single values and normal probability plot of the same values. The normal curve is a yardstick;
//! whether the shape fits is told by the test of Anderson and Darling.

mod card;
mod compute;
mod decisions;
mod groups;
mod numbers;
mod params;
mod structure;
mod verdict;

pub use numbers::{GroupNumbers, Numbers};

use std::collections::BTreeMap;

use acorn_data::frame::{Column, Frame, Kind};
use acorn_study::advice::{Advice, Proposal};
use acorn_study::{Cancel, Computed, Method, MethodCard, RoleColumns, StudyError, ValidatedSpec};

/// The method.
#[derive(Clone, Copy, Debug)]
pub struct Distribution;

impl Method for Distribution {
    type Answer = Numbers;

    fn card(&self) -> &'static MethodCard {
        &card::CARD
    }

    fn looks_at_labels(&self) -> bool {
        true
    }

    fn compute(&self, asked: &ValidatedSpec<'_>, cancel: &Cancel) -> Result<Computed<Numbers>, StudyError> {
        let params = params::Params::read(asked)?;
        let numbers = compute::compute(&params, cancel)?;
        let (verdict, notes, next) = verdict::read(&numbers, &params);
        Ok(Computed { verdict, notes, next, dial: None, answer: numbers })
    }

    /// The measurement with limits, else the first number.
    fn advise(&self, frame: &Frame, _answers: &BTreeMap<String, String>) -> Advice {
        let numbers = || frame.columns().iter().filter(|column| column.kind.is_numeric());
        let limited = |column: &&Column| column.info.is_limited();
        let measure = numbers().find(limited).or_else(|| numbers().find(|c| c.kind == Kind::Number)).or_else(|| numbers().next());
        let proposal = measure.map(|measure| Proposal {
            words: "all values together",
            why: format!("{} is the measurement with limits, or the first number.", measure.name),
            others: Vec::new(),
            roles: BTreeMap::from([("measure".to_owned(), RoleColumns::One(measure.name.clone()))]),
            options: serde_json::Map::new(),
        });
        Advice { question: None, proposal }
    }
}
