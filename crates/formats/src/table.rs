//! A table as read: named columns of one kind each.

use std::sync::Arc;

use acorn_data::frame::{Kind, NO_CODE, NO_TIME, Values};
use indexmap::IndexSet;

/// A table that was read and is not stored yet.
#[derive(Clone, Debug, Default)]
pub struct Table {
    /// Columns of equal length.
    pub columns: Vec<TableColumn>,
    /// Rows of each.
    pub rows: usize,
}

/// One column of a table.
#[derive(Clone, Debug)]
pub struct TableColumn {
    /// The name, unique in the table.
    pub name: String,
    /// What it holds.
    pub kind: Kind,
    /// The unit that the file gives.
    pub unit: Option<String>,
    /// One value a row.
    pub values: Values,
}

/// One value of a cell, typed.
#[derive(Clone, Debug, PartialEq)]
pub enum CellValue {
    /// No value.
    Missing,
    /// A number.
    Number(f64),
    /// A label or free words.
    Label(String),
    /// Microseconds since 1970 in UTC.
    Time(i64),
}

/// A name that is not taken: as given, or with a number behind it.
pub(crate) fn free_name(name: &str, taken: impl Fn(&str) -> bool) -> String {
    let numbered = (2..).map(|more| format!("{name} {more}"));
    std::iter::once(name.to_owned()).chain(numbered).find(|name| !taken(name)).unwrap_or_default()
}

/// Collects values of one kind.
pub(crate) enum Builder {
    Number(Vec<f64>),
    Label { codes: Vec<u32>, labels: IndexSet<String> },
    Time(Vec<i64>),
}

impl Builder {
    /// Of a column that gets so many rows.
    pub fn new(kind: Kind, rows: usize) -> Builder {
        match kind {
            Kind::Number | Kind::WholeNumber => Builder::Number(Vec::with_capacity(rows)),
            Kind::DateTime => Builder::Time(Vec::with_capacity(rows)),
            Kind::Category | Kind::Text => Builder::Label { codes: Vec::with_capacity(rows), labels: IndexSet::new() },
        }
    }

    /// Adds a value; one of another storage counts as missing.
    pub fn push(&mut self, value: CellValue) {
        match (self, value) {
            (Builder::Number(values), CellValue::Number(value)) => values.push(value),
            (Builder::Number(values), _) => values.push(f64::NAN),
            (Builder::Time(values), CellValue::Time(value)) => values.push(value),
            (Builder::Time(values), _) => values.push(NO_TIME),
            (builder, CellValue::Label(label)) => builder.push_label(&label),
            (Builder::Label { codes, .. }, _) => codes.push(NO_CODE),
        }
    }

    /// The rows so far.
    pub fn len(&self) -> usize {
        match self {
            Builder::Number(values) => values.len(),
            Builder::Time(values) => values.len(),
            Builder::Label { codes, .. } => codes.len(),
        }
    }

    /// Adds a label without allocating when it is known.
    pub fn push_label(&mut self, label: &str) {
        let Builder::Label { codes, labels } = self else {
            return self.push(CellValue::Missing);
        };
        codes.push(labels.get_index_of(label).unwrap_or_else(|| labels.insert_full(label.to_owned()).0) as u32);
    }

    /// Adds the values of rows that come behind.
    pub fn append(&mut self, other: Builder) {
        match (self, other) {
            (Builder::Number(values), Builder::Number(others)) => values.extend(others),
            (Builder::Time(values), Builder::Time(others)) => values.extend(others),
            (Builder::Label { codes, labels }, Builder::Label { codes: others, labels: theirs }) => {
                let places: Vec<u32> = theirs.into_iter().map(|label| labels.insert_full(label).0 as u32).collect();
                codes.extend(others.into_iter().map(|code| places.get(code as usize).copied().unwrap_or(NO_CODE)));
            }
            // Stretches of a column are of its kind.
            _ => {}
        }
    }

    pub fn finish(self) -> Values {
        match self {
            Builder::Number(values) => Values::Number(values.into()),
            Builder::Time(values) => Values::Time(values.into()),
            Builder::Label { codes, labels } => {
                Values::Label { codes: codes.into(), labels: Arc::from(labels.into_iter().collect::<Vec<_>>()) }
            }
        }
    }
}
