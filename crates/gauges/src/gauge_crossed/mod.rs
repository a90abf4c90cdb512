//! "Can we trust the gauge?": how much of the variation the measuring makes, from parts that each operator reads several times.
//!
//! Two ways side by side: a variance analysis with parts and operators at random (Montgomery 2013, sec. 8.7), and the range
//! method (AIAG, Measurement Systems Analysis, 4th ed., ch. III, its constants computed for any size).

mod anova;
mod card;
mod cells;
mod components;
mod compute;
mod decisions;
mod notes;
mod numbers;
mod params;
mod range;
mod readers;
mod tables;
mod terms;
mod unbalanced;
mod verdict;

pub use numbers::Numbers;

use std::collections::BTreeMap;

use acorn_data::frame::{Column, Frame, Kind, Missing};
use acorn_study::advice::{Advice, Proposal};
use acorn_study::{Cancel, Computed, Method, MethodCard, RoleColumns, StudyError, ValidatedSpec};
use compute::Answer;

/// The method.
#[derive(Clone, Copy, Debug)]
pub struct GaugeCrossed;

impl Method for GaugeCrossed {
    type Answer = Answer;

    fn card(&self) -> &'static MethodCard {
        &card::CARD
    }

    fn compute(&self, asked: &ValidatedSpec<'_>, cancel: &Cancel) -> Result<Computed<Answer>, StudyError> {
        let params = params::Params::read(asked)?;
        let answer = compute::answer(&params, cancel)?;
        let (verdict, notes, next) = (verdict::read(&answer), notes::all(&answer), notes::next(&answer));
        Ok(Computed { verdict, notes, next, dial: None, answer })
    }

    /// A measurement with two columns of labels that meet each other equally often: the one with fewer labels reads.
    fn advise(&self, frame: &Frame, _answers: &BTreeMap<String, String>) -> Advice {
        let proposal = crossed(frame).map(|(measure, part, operator)| {
            let role = |name: &str, column: &Column| (name.to_owned(), RoleColumns::One(column.name.clone()));
            Proposal {
                words: "every operator's readings of every part",
                why: format!("Each label of {} stands beside each of {} equally often.", operator.name, part.name),
                others: Vec::new(),
                roles: BTreeMap::from([role("measure", measure), role("part", part), role("operator", operator)]),
                options: serde_json::Map::new(),
            }
        });
        Advice { question: None, proposal }
    }
}

/// Most labels of a column that could be operators.
const OPERATORS_MOST: usize = 20;
/// Most labels of a column that could be parts.
const PARTS_MOST: usize = 500;

/// A measurement, and two columns of labels every pair of which it has more than once.
fn crossed(frame: &Frame) -> Option<(&Column, &Column, &Column)> {
    let measure = frame.columns().iter().find(|column| column.kind == Kind::Number)?;
    let labels: Vec<(&Column, usize)> = frame
        .columns()
        .iter()
        .filter(|column| matches!(column.kind, Kind::Category | Kind::Text | Kind::WholeNumber))
        .filter_map(|column| Some((column, frame.groups(&[column], None, Missing::Left, PARTS_MOST).ok()?.len())))
        .filter(|(_, labels)| *labels > 1)
        .collect();
    let even = |one: &Column, other: &Column, pairs: usize| {
        let groups = frame.groups(&[one, other], None, Missing::Left, pairs).ok()?;
        let times = groups.rows(0).len();
        let all = groups.len() == pairs && times > 1 && (0..pairs).all(|pair| groups.rows(pair).len() == times);
        all.then_some(())
    };
    labels.iter().enumerate().find_map(|(place, (one, many))| {
        labels[place + 1..].iter().find_map(|(other, others)| {
            even(one, other, many * others)?;
            let (part, operator, readers) = if many >= others { (one, other, others) } else { (other, one, many) };
            (*readers <= OPERATORS_MOST).then_some((measure, *part, *operator))
        })
    })
}
