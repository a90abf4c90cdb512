//! Typed columns of one dataset, held in memory for a computation.
//!
//! Missing has one representation per storage: NaN for numbers, [`NO_CODE`] for labels and
//! [`NO_TIME`] for times. Every row has a lasting identity, its row id.

#[doc(hidden)]
pub mod coded;
#[doc(hidden)]
pub mod find;
#[doc(hidden)]
pub mod groups;
mod inline;
mod limits;
#[doc(hidden)]
pub mod order;
#[doc(hidden)]
pub mod rules;

use std::sync::Arc;

use serde::{Deserialize, Serialize};

pub use coded::Coded;
pub use find::TextPattern;
pub use groups::{Groups, Missing, NO_GROUP, TooManyGroups};
pub use inline::InlineError;
pub use limits::{LIMIT_ROWS_MOST, LimitRow, LimitTable, Limits, RowLimits};
pub use rules::{CHOICES_MOST, Rules};

/// The code of a missing label.
pub const NO_CODE: u32 = u32::MAX;
/// The time of a missing date-time.
pub const NO_TIME: i64 = i64::MIN;

/// What a column holds, as a person would say it.
#[derive(Clone, Copy, Debug, PartialEq, Eq, Hash, Serialize, Deserialize, utoipa::ToSchema)]
#[serde(rename_all = "kebab-case")]
pub enum Kind {
    /// A measurement, or any number with decimals.
    Number,
    /// A count or a running number.
    WholeNumber,
    /// One of a limited set of labels.
    Category,
    /// A moment, to the microsecond.
    DateTime,
    /// Free words.
    Text,
}

impl Kind {
    /// The kind in words.
    pub fn display_text(self) -> &'static str {
        match self {
            Kind::Number => "number",
            Kind::WholeNumber => "whole number",
            Kind::Category => "category",
            Kind::DateTime => "date and time",
            Kind::Text => "text",
        }
    }

    /// Whether values of this kind can be computed with.
    pub fn is_numeric(self) -> bool {
        matches!(self, Kind::Number | Kind::WholeNumber)
    }
}

/// What belongs to a column and every study reads from there: unit, decimals and limits.
#[derive(Clone, Debug, Default, PartialEq, Serialize, Deserialize, utoipa::ToSchema)]
pub struct ColumnInfo {
    /// The unit, such as `mm`.
    pub unit: Option<String>,
    /// Decimals to show; found from the values when absent.
    pub decimals: Option<u8>,
    /// Lower specification limit.
    pub lsl: Option<f64>,
    /// The aim.
    pub target: Option<f64>,
    /// Upper specification limit.
    pub usl: Option<f64>,
    /// Limits that differ between rows.
    #[serde(default, skip_serializing_if = "Option::is_none")]
    pub limit_table: Option<LimitTable>,
    /// What its values can be.
    #[serde(default, skip_serializing_if = "Rules::are_none")]
    pub rules: Rules,
}

/// What the last study of the gauge of a column found.
#[derive(Clone, Debug, PartialEq, Serialize, Deserialize, utoipa::ToSchema)]
pub struct Measuring {
    /// The gauge, as people call it.
    pub gauge: String,
    /// Its sd, in the unit of the measurement.
    pub sd: f64,
    /// The day of the study, as `2026-05-04`.
    pub day: String,
}

/// The values of a column. Cheap to clone: the storage is shared.
#[derive(Clone, Debug, PartialEq)]
pub enum Values {
    /// Numbers; NaN is missing.
    Number(Arc<[f64]>),
    /// Codes into labels; [`NO_CODE`] is missing.
    Label {
        /// One code a row.
        codes: Arc<[u32]>,
        /// The labels, in order of first appearance.
        labels: Arc<[String]>,
    },
    /// Microseconds since 1970 in UTC; [`NO_TIME`] is missing.
    Time(Arc<[i64]>),
}

impl Values {
    /// The number of rows.
    pub fn len(&self) -> usize {
        match self {
            Values::Number(values) => values.len(),
            Values::Label { codes, .. } => codes.len(),
            Values::Time(values) => values.len(),
        }
    }

    /// Whether there is no row.
    pub fn is_empty(&self) -> bool {
        self.len() == 0
    }

    /// The values of some rows.
    fn at(&self, positions: &[usize]) -> Values {
        match self {
            Values::Number(values) => Values::Number(positions.iter().map(|&row| values[row]).collect()),
            Values::Label { codes, labels } => {
                Values::Label { codes: positions.iter().map(|&row| codes[row]).collect(), labels: labels.clone() }
            }
            Values::Time(values) => Values::Time(positions.iter().map(|&row| values[row]).collect()),
        }
    }

    /// Equal for rows with equal values, and for rows without one.
    pub fn key(&self, row: usize) -> u64 {
        match self {
            // Both zeros are one number, and every missing one is as missing as another.
            Values::Number(values) if values[row] == 0.0 => 0.0_f64.to_bits(),
            Values::Number(values) if values[row].is_nan() => f64::NAN.to_bits(),
            Values::Number(values) => values[row].to_bits(),
            Values::Label { codes, .. } => codes[row].into(),
            Values::Time(values) => values[row].cast_unsigned(),
        }
    }

    /// Whether a row has no value.
    pub fn is_missing(&self, row: usize) -> bool {
        match self {
            Values::Number(values) => values[row].is_nan(),
            Values::Label { codes, .. } => codes[row] == NO_CODE,
            Values::Time(values) => values[row] == NO_TIME,
        }
    }

    /// The value of a row as words, `None` when missing. Numbers take the fewest digits that read back
    /// the same, times are ISO 8601 without zone.
    pub fn text(&self, row: usize) -> Option<String> {
        match self {
            Values::Number(values) => Some(values[row]).filter(|v| !v.is_nan()).map(|v| v.to_string()),
            Values::Label { codes, labels } => labels.get(codes[row] as usize).cloned(),
            Values::Time(values) => time_text(values[row]),
        }
    }
}

/// Microseconds since 1970 as `2026-05-04 06:10`, with seconds only when they are not zero.
pub fn time_text(micros: i64) -> Option<String> {
    if micros == NO_TIME {
        return None;
    }
    let time = jiff::Timestamp::from_microsecond(micros).ok()?.to_zoned(jiff::tz::TimeZone::UTC).datetime();
    let whole_minute = time.second() == 0 && time.subsec_nanosecond() == 0;
    Some(if whole_minute { time.strftime("%Y-%m-%d %H:%M").to_string() } else { time.strftime("%Y-%m-%d %H:%M:%S%.f").to_string() })
}

/// The first and the last microsecond of what is written as a day, a minute or a moment; `None` where it is none of them.
pub fn moments_named(text: &str) -> Option<[i64; 2]> {
    let text = text.trim();
    let span = match text.len() {
        10 => 24 * 60 * 60 * 1_000_000,
        16 => 60 * 1_000_000,
        _ => 1,
    };
    let first = text.parse::<jiff::civil::DateTime>().ok()?.to_zoned(jiff::tz::TimeZone::UTC).ok()?.timestamp().as_microsecond();
    Some([first, first + span - 1])
}

/// One named column of a frame.
#[derive(Clone, Debug)]
pub struct Column {
    /// The name, unique in its frame.
    pub name: String,
    /// What it holds.
    pub kind: Kind,
    /// Unit, decimals and limits.
    pub info: ColumnInfo,
    /// What is known of its gauge.
    pub measuring: Option<Measuring>,
    /// The limits of each row where they differ.
    pub held: Option<RowLimits>,
    /// One value a row.
    pub values: Values,
}

/// Columns of equal length.
#[derive(Clone, Debug)]
pub struct Frame {
    columns: Vec<Column>,
    rows: usize,
    /// `None`: the row id is the position.
    row_ids: Option<Arc<[i64]>>,
    /// Columns of other datasets, each of a length of its own.
    foreign_columns: Vec<(i64, Column)>,
}

impl Frame {
    /// Joins columns into a frame. `row_ids` may be absent when ids equal positions.
    ///
    /// # Errors
    /// Names the first column (or `row ids`) whose length differs from the first column's.
    pub fn new(columns: Vec<Column>, row_ids: Option<Arc<[i64]>>) -> Result<Frame, InlineError> {
        let rows = columns.first().map_or(0, |column| column.values.len());
        let odd = columns.iter().find(|column| column.values.len() != rows).map(|c| (c.name.clone(), c.values.len()));
        let odd = odd.or(row_ids.as_ref().filter(|ids| ids.len() != rows).map(|ids| ("row ids".to_owned(), ids.len())));
        match odd {
            Some((column, have)) => Err(InlineError::LengthsDiffer { column, have, need: rows }),
            None => Ok(Frame { columns, rows, row_ids, foreign_columns: Vec::new() }),
        }
    }

    /// No column and no row, for questions whose numbers are all typed.
    pub fn empty() -> Frame {
        Frame { columns: Vec::new(), rows: 0, row_ids: None, foreign_columns: Vec::new() }
    }

    /// The column of a name.
    pub fn column(&self, name: &str) -> Option<&Column> {
        self.columns.iter().find(|column| column.name == name)
    }

    /// The same with columns of other datasets beside it, for pieces that are taken from there.
    #[must_use]
    pub fn with_foreign_columns(self, foreign_columns: Vec<(i64, Column)>) -> Frame {
        Frame { foreign_columns, ..self }
    }

    /// A column of another dataset.
    pub fn column_beside(&self, dataset: i64, name: &str) -> Option<&Column> {
        self.foreign_columns.iter().find(|(id, column)| *id == dataset && column.name == name).map(|(_, column)| column)
    }

    /// All columns, in order.
    pub fn columns(&self) -> &[Column] {
        &self.columns
    }

    /// Some columns of the rows at some positions, with their identities.
    pub fn pick(&self, columns: &[&Column], positions: &[usize]) -> Frame {
        let pick = |column: &&Column| {
            let (values, held) = (column.values.at(positions), column.held.as_ref().map(|held| held.at(positions)));
            Column { values, held, ..(*column).clone() }
        };
        let row_ids = positions.iter().map(|&position| self.row_id(position)).collect();
        let columns = columns.iter().map(pick).collect();
        Frame { columns, rows: positions.len(), row_ids: Some(row_ids), foreign_columns: self.foreign_columns.clone() }
    }

    /// All rows but those of some ids.
    pub fn without(&self, ids: &[i64]) -> Frame {
        let gone: std::collections::HashSet<i64> = ids.iter().copied().collect();
        let kept: Vec<usize> = (0..self.rows).filter(|&position| !gone.contains(&self.row_id(position))).collect();
        self.pick(&self.columns.iter().collect::<Vec<_>>(), &kept)
    }

    /// The number of rows.
    pub fn rows(&self) -> usize {
        self.rows
    }

    /// The lasting identity of the row at a position.
    pub fn row_id(&self, position: usize) -> i64 {
        self.row_ids.as_ref().map_or(position as i64, |ids| ids[position])
    }

    /// The listed ids, or `None` when they equal the positions.
    pub fn row_ids(&self) -> Option<&Arc<[i64]>> {
        self.row_ids.as_ref()
    }
}
