//! "What if?": a model of inputs that vary, settings, and responses that follow by formulas; simulated, asked what drives it,
//! searched for settings that do better, and asked what tightening pays.
//!
//! The model itself (drawing, running, shares, search) is `crate::model`; here it becomes a question with an answer.

mod answer;
mod card;
mod compute;
mod decisions;
mod next;
mod numbers;
mod params;
mod standing;
mod tables;
mod terms;
mod verdict;
mod words;

pub use answer::Answer;
pub use numbers::Numbers;

use std::collections::BTreeMap;

use acorn_data::frame::Frame;
use acorn_study::advice::Advice;
use acorn_study::{Cancel, Computed, Method, MethodCard, StudyError, ValidatedSpec};

/// The method.
#[derive(Clone, Copy, Debug)]
pub struct Simulation;

impl Method for Simulation {
    type Answer = Answer;

    fn card(&self) -> &'static MethodCard {
        &card::CARD
    }

    fn compute(&self, asked: &ValidatedSpec<'_>, cancel: &Cancel) -> Result<Computed<Answer>, StudyError> {
        let params = params::Params::read(asked)?;
        let answer = compute::answer(params, cancel)?;
        let (verdict, notes, next) = verdict::read(&answer);
        Ok(Computed { verdict, notes, next, dial: answer.dial(), answer })
    }

    /// Nothing: what a model is about no column tells.
    fn advise(&self, _frame: &Frame, _answers: &BTreeMap<String, String>) -> Advice {
        Advice::default()
    }
}
