//! "Is the claim true?": one share or rate against a claim, two against each other, and how many to inspect.
//!
//! A claim such as "97 % pass burn-in at the first try" is judged by what samples of that size would show if it held, without
//! approximation. Inputs: whole counts `x` out of `n` pieces, or in an exposure (hours, metres, pieces; any unit, one for both
//! samples), typed or counted in columns. Outputs: fractions, rates in defects per unit of exposure, chances. Sources: Clopper
//! and Pearson (1934), Biometrika 26; Wilson (1927), J. American Statistical Association 22; Freeman and Halton (1951),
//! Biometrika 38, for the two-sided chance; Fisher (1935); Newcombe (1998), Statistics in Medicine 17; Garwood (1936) and
//! Przyborowski and Wilenski (1940), Biometrika, for rates.

mod card;
mod decisions;
#[doc(hidden)]
pub mod numbers;
#[doc(hidden)]
pub mod one;
mod params;
#[doc(hidden)]
pub mod plan;
#[doc(hidden)]
pub mod sample;
mod terms;
mod two;
mod verdict;

pub use numbers::Numbers;

use std::collections::BTreeMap;

use params::Asked;

use acorn_data::frame::{Column, Frame, Kind, Missing};
use acorn_study::advice::{Advice, Proposal};
use acorn_study::{Cancel, Computed, Method, MethodCard, RoleColumns, StudyError, ValidatedSpec};

/// The method.
#[derive(Clone, Copy, Debug)]
pub struct Proportion;

impl Method for Proportion {
    type Answer = Numbers;

    fn card(&self) -> &'static MethodCard {
        &card::CARD
    }

    fn compute(&self, asked: &ValidatedSpec<'_>, cancel: &Cancel) -> Result<Computed<Numbers>, StudyError> {
        let ((verdict, notes, next), answer) = match Asked::read(asked)? {
            Asked::Planned(plan) => {
                let planned = plan.answer(cancel)?;
                (verdict::of_plan(&planned, &plan), Numbers::Planned(planned))
            }
            Asked::Counted(counted) if counted.samples.len() == 2 => {
                let two = two::two(&counted);
                (verdict::of_two(&two, &counted), Numbers::Two(two))
            }
            Asked::Counted(counted) => {
                let one = one::one(&counted, &counted.samples[0]);
                (verdict::of_one(&one, &counted), Numbers::One(one))
            }
        };
        Ok(Computed { verdict, notes, next, dial: None, answer })
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
