//! "Where does the variation come from?": a measurement over one to four factors, each within the one before.
//!
//! Inputs: a measurement in any unit and up to four columns of labels, outermost first, nested: piece 1 of one hour is not
//! piece 1 of the next; rows without a value or a label are left out. Outputs: variances in the unit squared and their shares,
//! with 95 % intervals, means in the unit. Components solve the expected mean squares of the sequential sums of squares with
//! their unbalanced coefficients; negative ones are set to 0 afterwards. Errors: the same column twice, too many combinations.
//! Sources: Seder (1950), Industrial Quality Control 6; Searle, Casella and McCulloch (1992), Variance Components, ch. 5, for
//! unbalanced nesting; Hamada and Weerahandi (2000), J. Quality Technology 32, for intervals.

#[doc(hidden)]
pub mod arrangement;
mod card;
#[doc(hidden)]
pub mod cells;
mod components;
mod compute;
mod decisions;
#[doc(hidden)]
pub mod factors;
mod numbers;
mod propose;
mod standouts;
mod tables;
mod terms;
mod verdict;

pub use numbers::Numbers;

use std::collections::BTreeMap;

use acorn_data::frame::Frame;
use acorn_study::advice::Advice;
use acorn_study::{Cancel, Computed, Method, MethodCard, StudyError, ValidatedSpec};

/// The method.
#[derive(Clone, Copy, Debug)]
pub struct MultiVari;

impl Method for MultiVari {
    type Answer = compute::Answer;

    fn card(&self) -> &'static MethodCard {
        &card::CARD
    }

    fn compute(&self, asked: &ValidatedSpec<'_>, cancel: &Cancel) -> Result<Computed<compute::Answer>, StudyError> {
        let answer = compute::answer(asked, cancel)?;
        Ok(Computed { verdict: verdict::read(&answer), notes: verdict::notes(&answer), next: verdict::next(&answer), dial: None, answer })
    }

    fn advise(&self, frame: &Frame, _answers: &BTreeMap<String, String>) -> Advice {
        propose::advice(frame)
    }
}
