//! "Which of them can meet their limits?": the indices of many columns, or of one column group by group, side by side.
//!
//! Each row is a capability study of its own (`crate::capability`), so that a click on it answers the same.

mod card;
mod compute;
mod decisions;
mod numbers;
mod verdict;

pub use numbers::Numbers;

use std::collections::BTreeMap;

use acorn_data::frame::{Column, Frame, Kind, Values};
use acorn_study::advice::{Advice, Proposal};
use acorn_study::{Cancel, Computed, Method, MethodCard, RoleColumns, StudyError, ValidatedSpec};

/// The method.
#[derive(Clone, Copy, Debug)]
pub struct Indices;

/// Groups that a proposal may make.
const GROUPS_PROPOSED: usize = 24;

impl Method for Indices {
    type Answer = Numbers;

    fn card(&self) -> &'static MethodCard {
        &card::CARD
    }

    fn compute(&self, asked: &ValidatedSpec<'_>, cancel: &Cancel) -> Result<Computed<Numbers>, StudyError> {
        let numbers = compute::compute(asked, cancel)?;
        let (verdict, notes, next) = verdict::read(&numbers);
        Ok(Computed { verdict, notes, next, dial: None, answer: numbers })
    }

    /// All measurements with limits; a single one by the first column with few labels.
    fn advise(&self, frame: &Frame, _answers: &BTreeMap<String, String>) -> Advice {
        let limited = |column: &&Column| column.kind.is_numeric() && column.info.is_limited();
        let names: Vec<String> = frame.columns().iter().filter(limited).map(|column| column.name.clone()).collect();
        let few = |column: &&Column| match &column.values {
            Values::Label { labels, .. } => column.kind == Kind::Category && (2..=GROUPS_PROPOSED).contains(&labels.len()),
            _ => false,
        };
        if names.is_empty() {
            return Advice::default();
        }
        let group = frame.columns().iter().find(few).filter(|_| names.len() == 1);
        let why = match group {
            Some(group) => format!("{} is the one with limits, and {} sorts its rows.", names[0], group.name),
            None => "These columns have limits.".to_owned(),
        };
        let mut roles = BTreeMap::from([("measure".to_owned(), RoleColumns::Many(names))]);
        roles.extend(group.map(|group| ("group".to_owned(), RoleColumns::One(group.name.clone()))));
        let words = "every column with limits";
        Advice { question: None, proposal: Some(Proposal { words, why, others: Vec::new(), roles, options: serde_json::Map::new() }) }
    }
}
