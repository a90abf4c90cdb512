//! The order in which factors lie within each other, read from the data.

use std::collections::BTreeMap;

use super::card::FACTORS_MOST;
use super::factors::{Factor, factors};
use acorn_data::frame::{Column, Frame, Kind};
use acorn_maths::words::listed;
use acorn_study::RoleColumns;
use acorn_study::advice::{Advice, Proposal};

/// A column with more labels than this part of its rows names rows, not levels.
const LABELS_MOST: f64 = 0.5;

/// The measurement with limits, or the first, over the columns of labels: the one whose label changes least from row to row is
/// outermost. What another lies within never changes without it, so that nesting is kept.
pub fn advice(frame: &Frame) -> Advice {
    let numbers: Vec<&Column> = frame.columns().iter().filter(|column| column.kind == Kind::Number).collect();
    let limited = |column: &&&Column| column.info.is_limited();
    let Some(measure) = numbers.iter().find(limited).or(numbers.first()) else { return Advice::default() };
    let labelled = |column: &&Column| column.kind != Kind::Number && column.name != measure.name;
    let kept = |factor: &Factor| factor.labels.len() > 1 && factor.labels.len() as f64 <= LABELS_MOST * frame.rows() as f64;
    let one = |column: &Column| factors(frame, &[column]).ok().and_then(|mut one| one.pop()).filter(kept);
    let mut found: Vec<Factor> = frame.columns().iter().filter(labelled).filter_map(one).collect();
    found.sort_by_key(|factor| (factor.changes(), factor.labels.len()));
    found.truncate(FACTORS_MOST);
    if found.is_empty() {
        return Advice::default();
    }
    let names: Vec<String> = found.iter().map(|factor| factor.name.clone()).collect();
    let why = match &names[..] {
        [one] => format!("{one} is a column of labels."),
        [first, .., last] => {
            format!("From row to row {first} changes least often and {last} most, so each is taken within the one before.")
        }
        [] => String::new(),
    };
    let proposal = Proposal {
        words: "factors within each other",
        why: format!("{why} Outermost first: {}.", listed(&names)),
        others: Vec::new(),
        roles: BTreeMap::from([
            ("measure".to_owned(), RoleColumns::One(measure.name.clone())),
            ("factors".to_owned(), RoleColumns::Many(names)),
        ]),
        options: serde_json::Map::new(),
    };
    Advice { question: None, proposal: Some(proposal) }
}
