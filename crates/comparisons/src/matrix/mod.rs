//! "Which of them go together?": every pair of up to 20 measurements.
//!
//! Inputs: two to 20 columns of numbers in any units; rows that lack either value of a pair are left out of that pair. Outputs:
//! Pearson's and Spearman's correlation with 95 % intervals and chances, pair by pair, and chances adjusted by Holm for all
//! pairs. Errors: the same column twice, one column. Sources: Pearson (1896); Fisher (1921), Metron 1; Spearman (1904); Holm
//! (1979), Scandinavian J. Statistics 6.

mod card;
mod compute;
mod decisions;
mod numbers;
mod tables;
mod terms;
mod verdict;

pub use numbers::Numbers;

use std::collections::BTreeMap;

use acorn_data::frame::{Frame, Kind};
use acorn_study::advice::{Advice, Proposal};
use acorn_study::{Cancel, Computed, Method, MethodCard, RoleColumns, StudyError, ValidatedSpec};

/// The method.
#[derive(Clone, Copy, Debug)]
pub struct Matrix;

impl Method for Matrix {
    type Answer = Numbers;

    fn card(&self) -> &'static MethodCard {
        &card::CARD
    }

    fn compute(&self, asked: &ValidatedSpec<'_>, cancel: &Cancel) -> Result<Computed<Numbers>, StudyError> {
        let answer = compute::compute(asked, cancel)?;
        Ok(Computed { verdict: verdict::read(&answer), notes: verdict::notes(&answer), next: verdict::next(&answer), dial: None, answer })
    }

    /// All measurements, as many as there is room for.
    fn advise(&self, frame: &Frame, _answers: &BTreeMap<String, String>) -> Advice {
        let numbers: Vec<String> = frame
            .columns()
            .iter()
            .filter(|column| column.kind == Kind::Number)
            .map(|column| column.name.clone())
            .take(card::COLUMNS_MOST)
            .collect();
        let proposal = (numbers.len() > 1).then(|| Proposal {
            words: "all measurements",
            why: format!("There are {} measurements on the same rows.", numbers.len()),
            others: Vec::new(),
            roles: BTreeMap::from([("measure".to_owned(), RoleColumns::Many(numbers))]),
            options: serde_json::Map::new(),
        });
        Advice { question: None, proposal }
    }
}
