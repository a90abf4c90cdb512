//! "Is the gauge right over its whole range?": pieces of known value, each read several times.
//!
//! Every single bias (reading less reference) on its reference by least squares; each piece's bias by its own t. Source: AIAG,
//! Measurement Systems Analysis, 4th ed., ch. III (linearity); Draper and Smith (1998), ch. 1, for the band of the fit.

mod card;
mod compute;
mod decisions;
mod numbers;
mod params;
mod terms;
mod verdict;

pub use numbers::Numbers;

use std::collections::BTreeMap;

use acorn_data::frame::{Column, Frame, Kind, Missing};
use acorn_study::advice::{Advice, Proposal};
use acorn_study::{Cancel, Computed, Method, MethodCard, RoleColumns, StudyError, ValidatedSpec};

/// The method.
#[derive(Clone, Copy, Debug)]
pub struct GaugeLinearity;

impl Method for GaugeLinearity {
    type Answer = compute::Answer;

    fn card(&self) -> &'static MethodCard {
        &card::CARD
    }

    fn compute(&self, asked: &ValidatedSpec<'_>, cancel: &Cancel) -> Result<Computed<compute::Answer>, StudyError> {
        let params = params::Params::read(asked)?;
        cancel.check()?;
        let answer = compute::answer(&params)?;
        let (verdict, notes, next) = (verdict::read(&answer), verdict::notes(&answer), verdict::next(&answer));
        Ok(Computed { verdict, notes, next, dial: None, answer })
    }

    /// A column of labels, a number that is one within each label, and another that is not.
    fn advise(&self, frame: &Frame, _answers: &BTreeMap<String, String>) -> Advice {
        let proposal = masters(frame).map(|(measure, part, reference)| {
            let role = |name: &str, column: &Column| (name.to_owned(), RoleColumns::One(column.name.clone()));
            Proposal {
                words: "readings of pieces of known value",
                why: format!("{} is one number for each label of {}, {} is not.", reference.name, part.name, measure.name),
                others: Vec::new(),
                roles: BTreeMap::from([role("measure", measure), role("part", part), role("reference", reference)]),
                options: serde_json::Map::new(),
            }
        });
        Advice { question: None, proposal }
    }
}

/// Most labels of a column that could be reference pieces.
const PARTS_MOST: usize = 100;

/// Readings, pieces and their known values.
fn masters(frame: &Frame) -> Option<(&Column, &Column, &Column)> {
    let numbers = || frame.columns().iter().filter(|column| column.kind.is_numeric());
    let parts = || frame.columns().iter().filter(|column| !matches!(column.kind, Kind::Number | Kind::DateTime));
    parts().find_map(|part| {
        let groups = frame.groups(&[part], None, Missing::Left, PARTS_MOST).ok().filter(|groups| groups.len() > 1)?;
        let constant = |column: &Column| {
            let one = |group: usize| groups.rows(group).windows(2).all(|pair| column.values.key(pair[0]) == column.values.key(pair[1]));
            column.name != part.name && (0..groups.len()).all(one)
        };
        let several = (0..groups.len()).all(|group| groups.rows(group).len() > 1);
        let reference = numbers().find(|column| several && constant(column))?;
        let measure = numbers().find(|column| column.kind == Kind::Number && !constant(column) && column.name != part.name)?;
        Some((measure, part, reference))
    })
}
