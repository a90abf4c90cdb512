//! "Do inspectors agree?": judgements of the same pieces by several people, with or without a known answer.
//!
//! Agreement of each with themselves, of all with each other and with the reference (exact intervals), kappa, and wrong
//! judgements by kind. Sources: AIAG, Measurement Systems Analysis, 4th ed., ch. III (attribute); Fleiss (1971), Psychological
//! Bulletin 76; Fleiss, Nee and Landis (1979), Psychological Bulletin 86; Fleiss, Cohen and Everitt (1969), Psychological
//! Bulletin 72; Clopper and Pearson (1934).

mod card;
mod compute;
mod decisions;
mod kappa;
mod notes;
mod numbers;
mod ratings;
mod tables;
mod terms;
mod verdict;

pub use numbers::Numbers;

use std::collections::BTreeMap;

use acorn_data::frame::{Column, Frame, Kind, Missing};
use acorn_study::advice::{Advice, Proposal};
use acorn_study::{Cancel, Computed, Method, MethodCard, RoleColumns, StudyError, ValidatedSpec};

/// The method.
#[derive(Clone, Copy, Debug)]
pub struct GaugeAttribute;

impl Method for GaugeAttribute {
    type Answer = compute::Answer;

    fn card(&self) -> &'static MethodCard {
        &card::CARD
    }

    fn compute(&self, asked: &ValidatedSpec<'_>, cancel: &Cancel) -> Result<Computed<compute::Answer>, StudyError> {
        let ratings = ratings::Ratings::read(asked, cancel)?;
        let answer = compute::answer(asked, ratings, cancel)?;
        let (verdict, notes, next) = (verdict::read(&answer), notes::all(&answer), notes::next(&answer));
        Ok(Computed { verdict, notes, next, dial: None, answer })
    }

    /// A column of few labels, judged by the labels of another on those of a third, each pair equally often.
    fn advise(&self, frame: &Frame, _answers: &BTreeMap<String, String>) -> Advice {
        let proposal = judged(frame).map(|(rating, part, operator)| {
            let role = |name: &str, column: &Column| (name.to_owned(), RoleColumns::One(column.name.clone()));
            let known = known_answer(frame, [rating, part, operator]).map(|column| role("reference", column));
            Proposal {
                words: "judgements of the same pieces by several people",
                why: format!("Each label of {} stands beside each of {} equally often.", operator.name, part.name),
                others: Vec::new(),
                roles: [role("rating", rating), role("part", part), role("operator", operator)].into_iter().chain(known).collect(),
                options: serde_json::Map::new(),
            }
        });
        Advice { question: None, proposal }
    }
}

/// The column that holds one answer for each piece, out of the labels that are given.
fn known_answer<'f>(frame: &'f Frame, [rating, part, operator]: [&'f Column; 3]) -> Option<&'f Column> {
    let many = |by: &[&Column]| frame.groups(by, None, Missing::Left, PARTS_MOST * LABELS_MOST).ok();
    let labels = |column: &Column| {
        let groups = many(&[column])?;
        Some((0..groups.len()).filter_map(|place| groups.label(place).map(str::to_owned)).collect::<Vec<_>>())
    };
    let given = labels(rating)?;
    let pieces = many(&[part])?.len();
    let is_known = |column: &&Column| {
        let is_other = ![rating, part, operator].iter().any(|one| one.name == column.name);
        let own = labels(column).unwrap_or_default();
        is_other
            && own.len() > 1
            && own.iter().all(|label| given.contains(label))
            && many(&[part, column]).is_some_and(|all| all.len() == pieces)
    };
    frame.columns().iter().find(is_known)
}

/// Most labels that people judge by, most people, most pieces.
const LABELS_MOST: usize = 6;
const OPERATORS_MOST: usize = 20;
const PARTS_MOST: usize = 500;

/// Judgements, pieces and people.
fn judged(frame: &Frame) -> Option<(&Column, &Column, &Column)> {
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
        (groups.len() == pairs && (0..pairs).all(|pair| groups.rows(pair).len() == times)).then_some(())
    };
    // A known answer stands by its piece and is no judgement.
    let varies = |rating: &Column, part: &Column, parts: usize| {
        frame.groups(&[part, rating], None, Missing::Left, PARTS_MOST * LABELS_MOST).is_ok_and(|groups| groups.len() > parts)
    };
    // A number of the trial stands once in each cell, and is no judgement either.
    let is_trial = |rating: &Column, part: &Column, operator: &Column, all: usize| {
        let groups = frame.groups(&[part, operator, rating], None, Missing::Left, PARTS_MOST * OPERATORS_MOST * LABELS_MOST).ok();
        groups.is_some_and(|groups| groups.len() == all && (0..all).all(|place| groups.rows(place).len() == groups.rows(0).len()))
    };
    let is_label = |column: &Column| column.kind != Kind::WholeNumber;
    labels.iter().find_map(|&(part, parts)| {
        labels.iter().filter(|(operator, people)| operator.name != part.name && *people < parts && *people <= OPERATORS_MOST).find_map(
            |&(operator, people)| {
                even(part, operator, parts * people)?;
                let others = labels.iter().filter(|(column, _)| column.name != part.name && column.name != operator.name);
                let mut rating = others.filter(|(column, labels)| {
                    let judges = is_label(column) && *labels <= LABELS_MOST && varies(column, part, parts);
                    judges && !is_trial(column, part, operator, parts * people * labels)
                });
                rating.next().map(|(rating, _)| (*rating, part, operator))
            },
        )
    })
}
