//! "Do these go together?": two measurements of the same rows, or of rows some way apart.
//!
//! Inputs: two columns of numbers in any units; pairs with a missing side are left out; a column of up to 12 groups. Outputs:
//! correlations with 95 % intervals, a line or parabola with bands for its mean and for one more point in the unit of y, and
//! the point that moves it most. Errors: the same column twice, no pair, too many groups. Sources: Pearson (1896); Fisher
//! (1921); Spearman (1904); Draper and Smith (1998); Cook (1977), Technometrics 19; Simpson (1951) for groups that turn it round.

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
pub struct Relation;

impl Method for Relation {
    type Answer = compute::Answer;

    fn card(&self) -> &'static MethodCard {
        &card::CARD
    }

    fn compute(&self, asked: &ValidatedSpec<'_>, cancel: &Cancel) -> Result<Computed<compute::Answer>, StudyError> {
        let answer = compute::answer(asked, cancel)?;
        Ok(Computed { verdict: verdict::read(&answer), notes: verdict::notes(&answer), next: verdict::next(&answer), dial: None, answer })
    }

    /// The last measurement against the first one.
    fn advise(&self, frame: &Frame, _answers: &BTreeMap<String, String>) -> Advice {
        let numbers: Vec<&str> =
            frame.columns().iter().filter(|column| column.kind == Kind::Number).map(|column| column.name.as_str()).collect();
        let proposal = match &numbers[..] {
            [x, .., y] => Some(Proposal {
                words: "two measurements",
                why: format!("{y} and {x} are measured on the same rows."),
                others: Vec::new(),
                roles: BTreeMap::from([("x", x), ("y", y)].map(|(role, name)| (role.to_owned(), RoleColumns::One((*name).to_owned())))),
                options: serde_json::Map::new(),
            }),
            _ => None,
        };
        Advice { question: None, proposal }
    }
}
