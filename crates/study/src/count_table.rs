//! Whole counts, in a column or tabled in place.

use std::sync::Arc;

use serde::Deserialize;
use serde_json::Value;

use super::reading::{bad, numbers};
use super::{StudyError, in_range};
use acorn_data::frame::Column;

/// Whole counts by row and column, each with a name.
#[derive(Clone, Debug, PartialEq, Deserialize)]
#[serde(deny_unknown_fields)]
pub struct CountTable {
    /// Names of the rows.
    pub rows: Vec<String>,
    /// Names of the columns.
    pub columns: Vec<String>,
    /// The counts, row by row.
    pub counts: Vec<Vec<f64>>,
}

/// Beyond this whole numbers have no room for their last digit.
const COUNT_MOST: f64 = 9e15;

/// Whether a number can be a count.
pub fn is_count(count: f64) -> bool {
    count.fract() == 0.0 && (0.0..=COUNT_MOST).contains(&count)
}

/// The whole counts of a column; NaN where there is none.
///
/// # Errors
/// [`StudyError::WrongKind`]; [`StudyError::BadValue`] for what is no count.
pub fn counts<'f>(column: &'f Column, role: &'static str) -> Result<&'f Arc<[f64]>, StudyError> {
    let values = numbers(column, role)?;
    match values.iter().position(|count| !count.is_nan() && !is_count(*count)) {
        Some(row) => {
            let problem = format!("{} is no count: it must be a whole number from 0 on", values[row]);
            Err(StudyError::BadValue { column: column.name.clone(), row, problem })
        }
        None => Ok(values),
    }
}

impl CountTable {
    /// Reads an option.
    ///
    /// # Errors
    /// [`StudyError::BadOption`] for a table with holes or with what is no count.
    pub fn read(option: &str, given: &Value, most: usize) -> Result<CountTable, StudyError> {
        let table = CountTable::deserialize(given).map_err(|error| bad(option, format!("has rows, columns and counts: {error}")))?;
        in_range(option, table.rows.len().max(table.columns.len()) as f64, 0.0, most as f64)?;
        if table.counts.len() != table.rows.len() || table.counts.iter().any(|row| row.len() != table.columns.len()) {
            return Err(bad(option, format!("needs {} rows of {} counts", table.rows.len(), table.columns.len())));
        }
        match table.counts.iter().flatten().find(|count| !is_count(**count)) {
            Some(count) => Err(bad(option, format!("{count} is no count: type whole numbers from 0 on"))),
            None => Ok(table),
        }
    }
}
