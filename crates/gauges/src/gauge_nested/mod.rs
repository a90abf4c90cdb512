//! "Can we trust the gauge that destroys what it measures?": parts that only one operator sees.
//!
//! Parts are nested in operators: the same label under two operators is two parts. Operators, parts within operators and
//! repeating are taken apart by a nested variance analysis with all of them at random, balanced. Source: AIAG, Measurement
//! Systems Analysis, 4th ed., ch. IV; Montgomery (2013), sec. 8.7; Searle, Casella and McCulloch (1992), ch. 4.

mod card;
mod cells;
mod compute;
mod decisions;
mod numbers;
mod terms;
mod verdict;

pub use numbers::Numbers;

use std::collections::BTreeMap;

use acorn_data::frame::{Column, Frame, Kind, Missing};
use acorn_study::advice::{Advice, Proposal};
use acorn_study::{Cancel, Computed, Method, MethodCard, RoleColumns, StudyError, ValidatedSpec};

/// The method.
#[derive(Clone, Copy, Debug)]
pub struct GaugeNested;

impl Method for GaugeNested {
    type Answer = compute::Answer;

    fn card(&self) -> &'static MethodCard {
        &card::CARD
    }

    fn compute(&self, asked: &ValidatedSpec<'_>, cancel: &Cancel) -> Result<Computed<compute::Answer>, StudyError> {
        let answer = compute::answer(asked, cancel)?;
        let (verdict, notes, next) = (verdict::read(&answer), verdict::notes(&answer), verdict::next(&answer));
        Ok(Computed { verdict, notes, next, dial: None, answer })
    }

    /// A measurement with labels that each stand beside one operator only, more than once.
    fn advise(&self, frame: &Frame, _answers: &BTreeMap<String, String>) -> Advice {
        let proposal = nested(frame).map(|(measure, part, operator)| {
            let role = |name: &str, column: &Column| (name.to_owned(), RoleColumns::One(column.name.clone()));
            Proposal {
                words: "every operator's readings of parts of their own",
                why: format!("Each label of {} stands beside one of {} only.", part.name, operator.name),
                others: Vec::new(),
                roles: BTreeMap::from([role("measure", measure), role("part", part), role("operator", operator)]),
                options: serde_json::Map::new(),
            }
        });
        Advice { question: None, proposal }
    }
}

/// Most labels of a column that could be parts.
const PARTS_MOST: usize = 500;

/// A measurement, parts and their only operators.
fn nested(frame: &Frame) -> Option<(&Column, &Column, &Column)> {
    let measure = frame.columns().iter().find(|column| column.kind == Kind::Number)?;
    let labels = |column: &Column| frame.groups(&[column], None, Missing::Left, PARTS_MOST).ok().map(|groups| groups.len());
    let by = || frame.columns().iter().filter(|column| matches!(column.kind, Kind::Category | Kind::Text | Kind::WholeNumber));
    by().find_map(|part| {
        let parts = labels(part).filter(|parts| *parts > 3 && 2 * parts <= frame.rows())?;
        by().filter(|operator| operator.name != part.name).find_map(|operator| {
            let operators = labels(operator).filter(|operators| *operators > 1 && 2 * operators <= parts)?;
            let pairs = frame.groups(&[operator, part], None, Missing::Left, parts).ok()?.len();
            (pairs == parts && operators < parts).then_some((measure, part, operator))
        })
    })
}
