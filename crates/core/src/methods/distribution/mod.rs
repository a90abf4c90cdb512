//! "What does it look like?": centre, spread and shape of a measurement, alone or by group, on one scale.
//!
//! Heap (histogram), box, single values and normal probability plot of the same values. The bell curve is a yardstick;
//! whether the shape fits is told by the test of Anderson and Darling.

mod card;
mod compute;
mod groups;
mod numbers;
mod params;
mod verdict;

pub use numbers::{GroupNumbers, Numbers};

use std::collections::BTreeMap;

use crate::frame::{Column, Frame, Kind};
use crate::methods::Method;
use crate::study::advice::{Advice, Proposal};
use crate::study::{Cancel, Computed, MethodCard, RoleColumns, Spec, StudyError};

/// The method.
pub struct Distribution;

impl Method for Distribution {
    fn name(&self) -> &'static str {
        "distribution"
    }

    fn card(&self) -> MethodCard {
        card::card()
    }

    fn compute(&self, frame: &Frame, spec: &Spec, cancel: &Cancel) -> Result<Computed, StudyError> {
        let params = params::Params::check(frame, spec)?;
        let numbers = compute::compute(&params, cancel)?;
        let (verdict, notes, next) = verdict::read(&numbers, &params);
        Ok(Computed { verdict, notes, next, dial: None, numbers: Box::new(numbers) })
    }

    /// The measurement with limits, else the first number.
    fn advise(&self, frame: &Frame, _answers: &BTreeMap<String, String>) -> Advice {
        let numbers = || frame.columns().iter().filter(|column| column.kind.is_numeric());
        let limited = |column: &&Column| column.info.lsl.is_some() || column.info.usl.is_some();
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
