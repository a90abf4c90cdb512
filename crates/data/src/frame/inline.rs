//! Frames from values typed into a JSON specification.

use serde_json::Value;

use super::{Column, ColumnInfo, Frame, Kind, NO_CODE, Values};

/// Why typed columns do not make a frame.
#[derive(Debug, Clone, PartialEq, thiserror::Error)]
pub enum InlineError {
    /// Columns of a frame have one length.
    #[error("column “{column}” has {have} values where {need} are needed")]
    LengthsDiffer {
        /// The odd column.
        column: String,
        /// Its length.
        have: usize,
        /// The first column's length.
        need: usize,
    },
    /// A value is neither a number, a label nor missing.
    #[error("column “{column}”, row {row}: {found} is neither a number, a label nor null")]
    NotAValue {
        /// The column.
        column: String,
        /// The row, from 0.
        row: usize,
        /// The JSON text found.
        found: String,
    },
}

impl Frame {
    /// Builds a frame from JSON columns: all numbers (or null) make a number column, all whole ones one of whole numbers, anything with a
    /// string makes a category column, null is missing.
    ///
    /// # Errors
    /// [`InlineError`] names the column and row.
    ///
    /// # Examples
    /// ```
    /// use acorn_data::frame::{Frame, Kind};
    /// let columns = serde_json::json!({"flux": [811.5, null], "bench": ["A", "B"]});
    /// let frame = Frame::from_json(columns.as_object().unwrap()).unwrap();
    /// assert_eq!(frame.rows(), 2);
    /// assert_eq!(frame.column("bench").unwrap().kind, Kind::Category);
    /// assert_eq!(frame.column("flux").unwrap().values.text(1), None); // missing is not "NaN"
    /// ```
    pub fn from_json(columns: &serde_json::Map<String, Value>) -> Result<Frame, InlineError> {
        let built = columns.iter().map(|(name, values)| column(name, values)).collect::<Result<Vec<_>, _>>()?;
        Frame::new(built, None)
    }
}

fn column(name: &str, values: &Value) -> Result<Column, InlineError> {
    let bad = |row: usize, found: &Value| InlineError::NotAValue { column: name.to_owned(), row, found: found.to_string() };
    let cells = values.as_array().ok_or_else(|| bad(0, values))?;
    let numeric = cells.iter().all(|cell| cell.is_number() || cell.is_null());
    let values =
        if numeric { Values::Number(cells.iter().map(|cell| cell.as_f64().unwrap_or(f64::NAN)).collect()) } else { labels(cells, bad)? };
    let kind = match &values {
        Values::Number(numbers) if numbers.iter().all(|number| number.is_nan() || number.fract() == 0.0) => Kind::WholeNumber,
        Values::Number(_) => Kind::Number,
        _ => Kind::Category,
    };
    Ok(Column { name: name.to_owned(), kind, info: ColumnInfo::default(), measuring: None, held: None, values })
}

fn labels(cells: &[Value], bad: impl Fn(usize, &Value) -> InlineError) -> Result<Values, InlineError> {
    let mut known = std::collections::HashMap::new();
    let mut labels = Vec::new();
    let mut codes = Vec::with_capacity(cells.len());
    for (row, cell) in cells.iter().enumerate() {
        let label = match cell {
            // A label of nothing is none, as in a file.
            Value::Null => {
                codes.push(NO_CODE);
                continue;
            }
            Value::String(text) if text.trim().is_empty() => {
                codes.push(NO_CODE);
                continue;
            }
            Value::String(text) => text.clone(),
            Value::Number(number) => number.to_string(),
            Value::Bool(flag) => flag.to_string(),
            other => return Err(bad(row, other)),
        };
        codes.push(*known.entry(label.clone()).or_insert_with(|| {
            labels.push(label);
            labels.len() as u32 - 1
        }));
    }
    Ok(Values::Label { codes: codes.into(), labels: labels.into() })
}
