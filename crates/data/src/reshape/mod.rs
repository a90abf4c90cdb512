//! Tables made of tables: stacked, unstacked, joined by a key, summed up by group. Nothing of the old table is changed.

mod join;
mod stack;
mod summary;
mod unstack;

use serde::{Deserialize, Serialize};

use crate::frame::{Column, ColumnInfo, Frame, Kind, Values};
pub use summary::Statistic;

/// Most rows and columns of what is made.
const ROWS_MOST: usize = 5_000_000;
const COLUMNS_MOST: usize = 1_000;

/// How a table is made of another.
#[derive(Clone, Debug, PartialEq, Serialize, Deserialize, utoipa::ToSchema)]
#[serde(tag = "how", rename_all = "kebab-case", deny_unknown_fields)]
pub enum Reshape {
    /// The values of several columns under each other: a row for each column of a row, with the column's name beside the value.
    Stack {
        /// The columns, in the order in which their values come.
        columns: Vec<String>,
        /// What the column of their names is called.
        label: String,
        /// What the column of their values is called.
        value: String,
    },
    /// The reverse: a column for each label, and a row for all rows that are alike in every other column.
    Unstack {
        /// The column whose labels become columns.
        label: String,
        /// The column whose values stand in them.
        value: String,
    },
    /// Columns of another table beside those of this, where the key is the same. Rows without such a key there have none of its values.
    Join {
        /// The columns of the key, here and there.
        by: Vec<[String; 2]>,
        /// The columns that come from there.
        bring: Vec<String>,
    },
    /// A row for each group with what its values come to.
    Summary {
        /// The columns that make the groups.
        by: Vec<String>,
        /// The columns that are summed up.
        of: Vec<String>,
        /// What is told of each.
        numbers: Vec<Statistic>,
    },
}

impl Reshape {
    /// The same with columns called otherwise: those of the table by `here`, those of the other one of a join by `there`.
    ///
    /// # Errors
    /// Those of `here` and `there`.
    pub fn renamed<E>(
        self,
        here: impl Fn(String) -> std::result::Result<String, E>,
        there: impl Fn(String) -> std::result::Result<String, E>,
    ) -> std::result::Result<Reshape, E> {
        let all = |names: Vec<String>| names.into_iter().map(&here).collect::<std::result::Result<Vec<_>, E>>();
        Ok(match self {
            Reshape::Stack { columns, label, value } => Reshape::Stack { columns: all(columns)?, label, value },
            Reshape::Unstack { label, value } => Reshape::Unstack { label: here(label)?, value: here(value)? },
            Reshape::Join { by, bring } => Reshape::Join {
                by: by.into_iter().map(|[own, other]| Ok([here(own)?, there(other)?])).collect::<std::result::Result<_, E>>()?,
                bring: bring.into_iter().map(&there).collect::<std::result::Result<_, E>>()?,
            },
            Reshape::Summary { by, of, numbers } => Reshape::Summary { by: all(by)?, of: all(of)?, numbers },
        })
    }

    /// The number of columns, from the first, by which the rows of what is made are known; none where only their places tell them apart.
    pub fn keys(&self) -> usize {
        if let Reshape::Summary { by, .. } = self { by.len() } else { 0 }
    }
}

/// Why a table cannot be made so.
#[derive(Clone, Debug, PartialEq, Eq, thiserror::Error)]
#[error("{0}")]
pub struct ReshapeError(String);

type Result<T> = std::result::Result<T, ReshapeError>;

/// What was made.
#[derive(Clone, Debug)]
pub struct Reshaped {
    /// The columns.
    pub columns: Vec<Column>,
    /// Of a join: how many rows found no such key.
    pub unmatched: usize,
}

/// Makes a table of another one; a join needs a second.
///
/// # Errors
/// [`ReshapeError`] says in a sentence what is named that is not there, what does not go together, or what would grow too large.
pub fn reshape(frame: &Frame, other: Option<&Frame>, how: &Reshape) -> Result<Reshaped> {
    let mut unmatched = 0;
    let columns = match how {
        Reshape::Stack { columns, label, value } => stack::stack(frame, columns, label, value)?,
        Reshape::Unstack { label, value } => unstack::unstack(frame, label, value)?,
        Reshape::Join { by, bring } => {
            let other = other.ok_or_else(|| ReshapeError("a join needs another table".to_owned()))?;
            let joined = join::join(frame, other, by, bring)?;
            unmatched = joined.unmatched;
            joined.columns
        }
        Reshape::Summary { by, of, numbers } => summary::summary(frame, by, of, numbers)?,
    };
    if columns.len() > COLUMNS_MOST {
        return Err(ReshapeError(format!("it would have {} columns; {COLUMNS_MOST} is the most", columns.len())));
    }
    for (place, column) in columns.iter().enumerate() {
        if column.name.trim().is_empty() || columns[..place].iter().any(|other| other.name == column.name) {
            return Err(ReshapeError(format!("two columns would be called “{}”; choose another name", column.name)));
        }
    }
    Ok(Reshaped { columns, unmatched })
}

fn named<'f>(frame: &'f Frame, name: &str) -> Result<&'f Column> {
    frame.column(name).ok_or_else(|| ReshapeError(format!("there is no column “{name}”")))
}

fn all_named<'f>(frame: &'f Frame, names: &[String], what: &str) -> Result<Vec<&'f Column>> {
    if names.is_empty() {
        return Err(ReshapeError(format!("choose {what}")));
    }
    names.iter().map(|name| named(frame, name)).collect()
}

fn bounded(rows: usize) -> Result<()> {
    if rows > ROWS_MOST { Err(ReshapeError(format!("it would have {rows} rows; {ROWS_MOST} is the most"))) } else { Ok(()) }
}

/// A column that is new, with nothing said of it.
fn made(name: &str, kind: Kind, values: Values) -> Column {
    Column { name: name.to_owned(), kind, info: ColumnInfo::default(), measuring: None, held: None, values }
}

/// A column with the values of some rows of it; none where the row is absent.
fn picked(column: &Column, rows: impl Iterator<Item = Option<usize>>) -> Column {
    use crate::frame::{NO_CODE, NO_TIME};
    let values = match &column.values {
        Values::Number(values) => Values::Number(rows.map(|row| row.map_or(f64::NAN, |row| values[row])).collect()),
        Values::Label { codes, labels } => {
            Values::Label { codes: rows.map(|row| row.map_or(NO_CODE, |row| codes[row])).collect(), labels: labels.clone() }
        }
        Values::Time(values) => Values::Time(rows.map(|row| row.map_or(NO_TIME, |row| values[row])).collect()),
    };
    Column { values, ..column.clone() }
}
