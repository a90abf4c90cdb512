//! "What goes with it?": every other column ranked by how much of the variation of one it explains.
//!
//! Inputs: a measurement in any unit, or a column of up to 20 labels such as pass and fail, or some rows against all others;
//! and the columns to try, all others unless they are named. Rows without either value are left out, column by column. Outputs:
//! the part explained (r², η² or V², between 0 and 1), the same without what chance adds for each label, chances column by
//! column, and chances for the whole screen by permutation. Errors: more labels than 20, nothing to try. Sources: Fisher
//! (1925) for η² and its F; Ezekiel (1930) and Kelley (1935) for the adjustment, Bergsma (2013), J. Korean Statistical Society
//! 42, for that of V; Westfall and Young (1993), Resampling-Based Multiple Testing, for the screen.

mod candidates;
mod card;
mod compute;
mod decisions;
mod numbers;
mod params;
mod pictures;
mod strength;
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
pub struct Screening;

impl Method for Screening {
    type Answer = Numbers;

    fn card(&self) -> &'static MethodCard {
        &card::CARD
    }

    fn compute(&self, asked: &ValidatedSpec<'_>, cancel: &Cancel) -> Result<Computed<Numbers>, StudyError> {
        let params = params::Params::read(asked)?;
        let answer = compute::compute(&params, cancel)?;
        Ok(Computed { verdict: verdict::read(&answer), notes: verdict::notes(&answer), next: verdict::next(&answer), dial: None, answer })
    }

    /// The measurement with limits, or the last one; else the column with the fewest labels.
    fn advise(&self, frame: &Frame, _answers: &BTreeMap<String, String>) -> Advice {
        let limited = |column: &&&Column| column.info.is_limited();
        let numbers: Vec<&Column> = frame.columns().iter().filter(|column| column.kind == Kind::Number).collect();
        let labels = |column: &Column| frame.coded(column, params::LABELS_MOST).map_or(0, |coded| coded.labels.len());
        let by_labels = || {
            frame.columns().iter().filter(|column| column.kind == Kind::Category && labels(column) > 1).min_by_key(|column| labels(column))
        };
        let measure = numbers.iter().find(limited).or(numbers.last()).copied().or_else(by_labels);
        let proposal = measure.filter(|_| frame.columns().len() > 1).map(|measure| Proposal {
            words: "every other column",
            why: format!("{} is held against every other column.", measure.name),
            others: Vec::new(),
            roles: BTreeMap::from([("measure".to_owned(), RoleColumns::One(measure.name.clone()))]),
            options: serde_json::Map::new(),
        });
        Advice { question: None, proposal }
    }
}
