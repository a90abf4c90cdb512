//! "Which defects matter?": kinds ranked by how often they come, or by what they cost, the leading few before the rest.
//!
//! From a log (a row a defect) or from totals, told apart by whether there is a column of counts. Inputs: labels, counts and
//! weights from 0 on (a weight in any unit, such as money), groups; outputs: counts or weighed counts in the unit of the weight,
//! shares as fractions. Errors: a count or weight below 0, which names its row; no row with a kind. Sources: Juran and Godfrey
//! (1999), Juran's Quality Handbook, 5th ed., sec. 5; Gini (1912) by Sen (1973), On Economic Inequality, ch. 2; Pearson (1900)
//! for the chance that all kinds are alike.

mod alike;
mod card;
mod change;
mod compute;
mod decisions;
#[doc(hidden)]
pub mod names;
mod numbers;
mod params;
mod tally;
mod terms;
mod verdict;

pub use numbers::Numbers;

use std::collections::BTreeMap;

use acorn_data::frame::{Column, Frame, Kind, Missing};
use acorn_study::advice::{Advice, Proposal};
use acorn_study::{Cancel, Computed, Method, MethodCard, RoleColumns, StudyError, ValidatedSpec};

/// The method.
#[derive(Clone, Copy, Debug)]
pub struct Pareto;

impl Method for Pareto {
    type Answer = compute::Answer;

    fn card(&self) -> &'static MethodCard {
        &card::CARD
    }

    fn compute(&self, asked: &ValidatedSpec<'_>, cancel: &Cancel) -> Result<Computed<compute::Answer>, StudyError> {
        let params = params::Params::read(asked)?;
        let answer = compute::answer(&params, cancel)?;
        let (verdict, notes, next) = (verdict::read(&answer), verdict::notes(&answer), verdict::next(&answer));
        Ok(Computed { verdict, notes, next, dial: None, answer })
    }

    /// The labels that come in most kinds; a whole number beside labels that come once each is their count.
    fn advise(&self, frame: &Frame, _answers: &BTreeMap<String, String>) -> Advice {
        Advice { question: None, proposal: proposal(frame) }
    }
}

/// Most labels of a column that could be kinds of defects.
const KINDS_MOST: usize = 500;

fn proposal(frame: &Frame) -> Option<Proposal> {
    let kinds = |column: &Column| {
        let groups = frame.groups(&[column], None, Missing::Left, KINDS_MOST).ok()?;
        (groups.len() > 2).then_some(groups.len())
    };
    let labels = frame.columns().iter().filter(|column| matches!(column.kind, Kind::Category | Kind::Text));
    // Names of single pieces are no kinds: at least a few must come again, or be counted.
    let (column, many) = labels.filter_map(|column| Some((column, kinds(column)?))).max_by_key(|(_, many)| *many)?;
    let count = frame.columns().iter().find(|column| column.kind == Kind::WholeNumber);
    let totals = 2 * many > frame.rows();
    let role = |name: &str, column: &Column| (name.to_owned(), RoleColumns::One(column.name.clone()));
    let (words, why, mut roles) = match count.filter(|_| totals) {
        Some(count) => (
            "totals of each kind",
            format!("{} is a count beside each label of {}.", count.name, column.name),
            BTreeMap::from([role("count", count)]),
        ),
        None if totals => return None,
        None => ("a log, a row a defect", format!("Labels of {} come again and again.", column.name), BTreeMap::new()),
    };
    roles.extend([role("category", column)]);
    Some(Proposal { words, why, others: Vec::new(), roles, options: serde_json::Map::new() })
}
