//! "Do the groups differ?": means of two groups or more, row by row, or against a value.
//!
//! Inputs: a measurement in any unit, and a column of up to 60 groups or a column for each; NaN is missing. Outputs: means and
//! differences in the unit of the measurement with 95 % intervals, chances. The test is the one that the data allow: unequal
//! spreads take Welch's with Games and Howell's pairs, few values far from normal take ranks, else analysis of variance with
//! Tukey's pairs. Errors: more groups than 60, no group column. Sources: Fisher (1925); Welch (1951), Biometrika 38; Kruskal and
//! Wallis (1952); Brown and Forsythe (1974); Tukey (1953), Kramer (1956); Games and Howell (1976); Nelson (1983), JQT 15.

mod card;
mod compute;
mod decisions;
mod numbers;
mod params;
mod tables;
mod terms;
mod verdict;

pub use numbers::Numbers;

use std::collections::BTreeMap;

use acorn_data::frame::{Column, Frame, Kind};
use acorn_study::advice::{Advice, Proposal};
use acorn_study::{Cancel, Computed, Method, MethodCard, RoleColumns, StudyError, ValidatedSpec};

/// The method.
#[derive(Clone, Copy, Debug)]
pub struct Compare;

impl Method for Compare {
    type Answer = Numbers;

    fn card(&self) -> &'static MethodCard {
        &card::CARD
    }

    fn compute(&self, asked: &ValidatedSpec<'_>, cancel: &Cancel) -> Result<Computed<Numbers>, StudyError> {
        let params = params::Params::read(asked)?;
        let numbers = compute::compute(&params, cancel)?;
        let verdict = verdict::read(&numbers, &params);
        let (notes, next) = (verdict::notes(&numbers, &params), verdict::next(&numbers, &params));
        Ok(Computed { verdict, notes, next, dial: None, answer: numbers })
    }

    /// The measurement with limits, or the first, between the labels of the first column that has a few.
    fn advise(&self, frame: &Frame, _answers: &BTreeMap<String, String>) -> Advice {
        let labels = |column: &&Column| frame.coded(column, card::GROUPS_MOST).map_or(0, |coded| coded.labels.len());
        let group = frame.columns().iter().find(|column| column.kind == Kind::Category && labels(column) > 1);
        let limited = |column: &&&Column| column.info.is_limited();
        let numbers: Vec<&Column> = frame.columns().iter().filter(|column| column.kind == Kind::Number).collect();
        let measure = numbers.iter().find(limited).or(numbers.first());
        let proposal = measure.zip(group).map(|(measure, group)| Proposal {
            words: "groups of a column",
            why: format!("{} has a few labels to compare {} between.", group.name, measure.name),
            others: Vec::new(),
            roles: BTreeMap::from(
                [("measure", *measure), ("group", group)].map(|(role, column)| (role.to_owned(), RoleColumns::One(column.name.clone()))),
            ),
            options: serde_json::Map::new(),
        });
        Advice { question: None, proposal }
    }
}
