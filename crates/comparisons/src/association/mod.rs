//! "Does it depend on ...?": counts by two labels, and whether one depends on the other, how strongly, and where.
//!
//! Inputs: a column of labels for the rows and one for the columns, each row of the data counting once or as a column of whole
//! counts says; or a table of whole counts, typed. A third column gives the same table for each of its labels. Outputs: counts,
//! fractions, χ² and G² without continuity correction, Cramér's V without bias correction, chances. Errors: a count that is
//! none, the same column twice, too many labels. Sources: Pearson (1900); Cochran (1954), Biometrics 10, for when χ² may be
//! used; Fisher (1935), Freeman and Halton (1951), Biometrika 38, and Patefield (1981), Applied Statistics 30, for the exact
//! test; Haberman (1973), Biometrics 29, for adjusted residuals; Holm (1979).

mod answer;
mod card;
mod compute;
mod decisions;
#[doc(hidden)]
pub mod exact;
mod numbers;
mod params;
#[doc(hidden)]
pub mod tally;
mod terms;
mod verdict;

pub use numbers::Numbers;

use std::collections::BTreeMap;

use acorn_data::frame::{Column, Frame, Kind};
use acorn_study::advice::{Advice, Proposal};
use acorn_study::{Cancel, Computed, Method, MethodCard, RoleColumns, StudyError, ValidatedSpec};

/// The method.
#[derive(Clone, Copy, Debug)]
pub struct Association;

impl Method for Association {
    type Answer = answer::Answer;

    fn card(&self) -> &'static MethodCard {
        &card::CARD
    }

    fn compute(&self, asked: &ValidatedSpec<'_>, cancel: &Cancel) -> Result<Computed<answer::Answer>, StudyError> {
        let answer = answer::answer(asked, cancel)?;
        Ok(Computed { verdict: verdict::read(&answer), notes: verdict::notes(&answer), next: verdict::next(&answer), dial: None, answer })
    }

    /// The column of labels with the most of them, on the next one; else a typed table.
    fn advise(&self, frame: &Frame, _answers: &BTreeMap<String, String>) -> Advice {
        let labels = |column: &&Column| frame.coded(column, 60).map_or(0, |coded| coded.labels.len());
        let mut columns: Vec<&Column> =
            frame.columns().iter().filter(|column| column.kind == Kind::Category && labels(column) > 1).collect();
        columns.sort_by_key(|column| std::cmp::Reverse(labels(column)));
        let bare = Proposal {
            words: "a typed table",
            why: "There are no two columns of labels, so the counts are typed.".to_owned(),
            others: Vec::new(),
            roles: BTreeMap::new(),
            options: serde_json::Map::from_iter([("from".to_owned(), "table".into())]),
        };
        let proposal = match &columns[..] {
            [column, row, ..] => {
                let roles =
                    [("column", column), ("row", row)].map(|(role, column)| (role.to_owned(), RoleColumns::One(column.name.clone())));
                Proposal {
                    words: "two columns of labels",
                    why: format!("{} and {} are columns of labels.", column.name, row.name),
                    roles: BTreeMap::from(roles),
                    options: serde_json::Map::new(),
                    ..bare
                }
            }
            _ => bare,
        };
        Advice { question: None, proposal: Some(proposal) }
    }
}
