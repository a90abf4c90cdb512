//! "What if?": a model of inputs that vary, settings, and responses that follow by formulas; simulated, asked what drives it,
//! searched for settings that do better, and asked what tightening pays.
//!
//! The model itself (drawing, running, shares, search) is `crate::model`; here it becomes a question with an answer.

mod card;
mod compute;
mod next;
mod numbers;
mod params;
mod tables;
mod terms;
mod verdict;
mod words;

pub use numbers::{Answer, Numbers};

use std::collections::BTreeMap;

use serde_json::json;

use crate::frame::Frame;
use crate::study::advice::{Advice, Proposal};
use crate::study::{Cancel, Computed, Filled, Method, MethodCard, StudyError};

/// The method.
#[derive(Clone, Copy, Debug)]
pub struct Simulation;

/// Inputs that a proposal takes from the columns.
const PROPOSED: usize = 6;

impl Method for Simulation {
    type Answer = Answer;

    fn card(&self) -> &'static MethodCard {
        &card::CARD
    }

    fn compute(&self, asked: &Filled<'_>, cancel: &Cancel) -> Result<Computed<Answer>, StudyError> {
        let params = params::Params::read(asked)?;
        let answer = compute::answer(params, cancel)?;
        let (verdict, notes, next) = verdict::read(&answer);
        Ok(Computed { verdict, notes, next, dial: answer.dial(), answer })
    }

    /// The measurements of the data as inputs that follow their columns, and their sum as a response to begin with.
    fn advise(&self, frame: &Frame, _answers: &BTreeMap<String, String>) -> Advice {
        let measured: Vec<_> = frame.columns().iter().filter(|column| column.kind.is_numeric()).take(PROPOSED).collect();
        if measured.is_empty() {
            return Advice::default();
        }
        let input = |column: &&crate::frame::Column| json!({"name": column.name, "unit": column.info.unit.clone().unwrap_or_default(), "distribution": "data", "column": column.name});
        let sum: Vec<String> = measured.iter().map(|column| crate::formula::written(&column.name)).collect();
        let options = json!({
            "inputs": measured.iter().map(input).collect::<Vec<_>>(),
            "responses": [{"name": "total", "formula": sum.join(" + ")}],
            "sensitivity": true,
        });
        let options = options.as_object().cloned().unwrap_or_default();
        let why = "The measurements become inputs that follow their columns; change the formula to what follows from them.".to_owned();
        Advice {
            question: None,
            proposal: Some(Proposal { words: "a model of these columns", why, others: Vec::new(), roles: BTreeMap::new(), options }),
        }
    }
}
