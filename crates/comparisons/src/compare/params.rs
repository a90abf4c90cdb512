//! What a comparison takes.

use serde::Deserialize;

use super::card::GROUPS_MOST;
use acorn_data::frame::{Column, Missing};
use acorn_study::reading::{bad, numbers};
use acorn_study::{StudyError, ValidatedSpec};

/// What is compared.
#[derive(Clone, Copy, Debug, Default, PartialEq, Eq, Deserialize)]
#[serde(rename_all = "kebab-case")]
pub enum Test {
    /// Groups with each other.
    #[default]
    Groups,
    /// Two columns row by row.
    Paired,
    /// One mean with a value.
    OneSample,
}

/// The statement, read.
pub struct Params<'f> {
    pub measure: &'f Column,
    pub test: Test,
    /// What the groups are told apart by, where that is a column.
    pub group: Option<&'f Column>,
    /// Values of each group in order of first appearance, none of them missing; differences of pairs as one group.
    pub groups: Vec<(String, Vec<f64>)>,
    /// Rows without a value or a label, and rows without a partner.
    pub missing: usize,
    /// What one mean is compared with: a value, or no difference.
    pub against: Option<f64>,
    /// A difference that is to be found.
    pub delta: Option<f64>,
}

impl<'f> Params<'f> {
    /// Reads a statement that fits its card.
    ///
    /// # Errors
    /// [`StudyError`] names the role or option.
    pub fn read(asked: &ValidatedSpec<'f>) -> Result<Params<'f>, StudyError> {
        let columns = asked.columns("measure");
        let measure = asked.needed("measure")?;
        let mean = asked.number("mean");
        let usual = if mean.is_some() { Test::OneSample } else { Test::Groups };
        let test = asked.option("test")?.unwrap_or(usual);
        let values =
            columns.iter().map(|column| numbers(column, "measurement").map(|values| &values[..])).collect::<Result<Vec<_>, _>>()?;
        let kept = |values: &[f64]| values.iter().copied().filter(|value| !value.is_nan()).collect::<Vec<f64>>();
        let group = asked.column("group").filter(|_| test == Test::Groups);
        let rows = asked.frame().rows();
        let (groups, missing) = match (test, group, &values[..]) {
            (Test::Paired, _, [first, second]) => {
                let apart: Vec<f64> = kept(&first.iter().zip(second.iter()).map(|(a, b)| a - b).collect::<Vec<_>>());
                let missing = rows - apart.len();
                (vec![(format!("{} less {}", columns[0].name, columns[1].name), apart)], missing)
            }
            (Test::Paired, ..) => return Err(bad("measure", "choose the two columns that are measured on the same pieces")),
            (Test::Groups, Some(_), [_, _, ..]) => {
                return Err(bad("group", "several columns are the groups already; leave out the column of groups, or all columns but one"));
            }
            (Test::Groups, Some(column), [values]) => {
                let labels = asked.frame().groups(&[column], None, Missing::Left, GROUPS_MOST)?;
                let of = |group: usize| {
                    let rows = labels.rows(group).iter().map(|&row| values[row]).collect::<Vec<_>>();
                    (labels.label(group).unwrap_or_default().to_owned(), kept(&rows))
                };
                let groups: Vec<(String, Vec<f64>)> = (0..labels.len()).map(of).filter(|(_, values)| !values.is_empty()).collect();
                let used: usize = groups.iter().map(|(_, values)| values.len()).sum();
                (groups, rows - used)
            }
            (Test::Groups, None, [_]) => {
                return Err(StudyError::MissingRole { role: "groups", choose: "a column of groups, or a measurement for each group" });
            }
            _ => {
                let groups: Vec<(String, Vec<f64>)> =
                    columns.iter().zip(&values).map(|(column, values)| (column.name.clone(), kept(values))).collect();
                let used: usize = groups.iter().map(|(_, values)| values.len()).sum();
                (groups, rows * columns.len() - used)
            }
        };
        let against = match test {
            Test::OneSample => Some(mean.ok_or_else(|| bad("mean", "type the value to compare with"))?),
            Test::Paired => Some(0.0),
            Test::Groups => None,
        };
        if groups.iter().all(|(_, values)| values.is_empty()) {
            return Err(StudyError::TooFewValues { column: measure.name.clone(), have: 0, need: 1 });
        }
        Ok(Params { measure, test, group, groups, missing, against, delta: asked.number("delta") })
    }
}
