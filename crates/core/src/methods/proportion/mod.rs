//! "Is this share what was claimed?": one share with its exact interval, and how well it goes with a claim.
//!
//! A claim such as "97 % pass burn-in at the first try" is judged by what samples of that size would show if it held, without
//! approximation. Sources: Clopper and Pearson (1934), Biometrika 26; Wilson (1927), J. American Statistical Association 22;
//! Freeman and Halton (1951), Biometrika 38, for the two-sided chance.

mod card;
mod compute;
mod numbers;
mod params;
mod terms;
mod verdict;

pub use numbers::Numbers;

use std::collections::BTreeMap;

use crate::frame::{Column, Frame, Kind, Missing};
use crate::study::advice::{Advice, Proposal};
use crate::study::{Cancel, Computed, Filled, Method, MethodCard, RoleColumns, StudyError};

/// The method.
#[derive(Clone, Copy, Debug)]
pub struct Proportion;

impl Method for Proportion {
    type Answer = Numbers;

    fn card(&self) -> &'static MethodCard {
        &card::CARD
    }

    fn compute(&self, asked: &Filled<'_>, _cancel: &Cancel) -> Result<Computed<Numbers>, StudyError> {
        let params = params::Params::read(asked)?;
        let numbers = compute::compute(&params);
        let (verdict, notes, next) = verdict::read(&numbers, &params);
        Ok(Computed { verdict, notes, next, dial: None, answer: numbers })
    }

    /// The first column of two labels, the rarer one counting; else typed numbers.
    fn advise(&self, frame: &Frame, _answers: &BTreeMap<String, String>) -> Advice {
        let bare = Proposal {
            words: "typed counts",
            why: "No column has two labels, so the numbers are typed.".to_owned(),
            others: Vec::new(),
            roles: BTreeMap::new(),
            options: serde_json::Map::new(),
        };
        let proposal = frame.columns().iter().find_map(|column| rarer(frame, column)).map_or(bare.clone(), |(column, label)| Proposal {
            words: "the share of one label",
            why: format!("{column} has two labels, and {label} is the rarer."),
            roles: BTreeMap::from([("category".to_owned(), RoleColumns::One(column))]),
            options: serde_json::Map::from_iter([("value".to_owned(), label.into())]),
            ..bare
        });
        Advice { question: None, proposal: Some(proposal) }
    }
}

/// A column of two labels, and the rarer of them.
fn rarer(frame: &Frame, column: &Column) -> Option<(String, String)> {
    let groups = frame.groups(&[column], None, Missing::Left, 2).ok().filter(|groups| groups.len() == 2)?;
    let rarer = if groups.rows(1).len() < groups.rows(0).len() { 1 } else { 0 };
    matches!(column.kind, Kind::Category | Kind::Text).then(|| (column.name.clone(), groups.label(rarer).unwrap_or_default().to_owned()))
}
