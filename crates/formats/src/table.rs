//! A table as read: named columns of one kind each.

use std::collections::HashMap;
use std::sync::Arc;

use acorn_core::frame::{Kind, NO_CODE, NO_TIME, Values};

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

/// Collects values of one kind.
pub(crate) enum Builder {
    Number(Vec<f64>),
    Label { codes: Vec<u32>, labels: Vec<String>, known: HashMap<String, u32> },
    Time(Vec<i64>),
}

impl Builder {
    pub fn new(kind: Kind) -> Builder {
        match kind {
            Kind::Number | Kind::WholeNumber => Builder::Number(Vec::new()),
            Kind::DateTime => Builder::Time(Vec::new()),
            Kind::Category | Kind::Text => Builder::Label { codes: Vec::new(), labels: Vec::new(), known: HashMap::new() },
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

    /// Adds a label without allocating when it is known.
    pub fn push_label(&mut self, label: &str) {
        let Builder::Label { codes, labels, known } = self else {
            return self.push(CellValue::Missing);
        };
        let code = known.get(label).copied().unwrap_or_else(|| {
            let code = labels.len() as u32;
            labels.push(label.to_owned());
            known.insert(label.to_owned(), code);
            code
        });
        codes.push(code);
    }

    pub fn finish(self) -> Values {
        match self {
            Builder::Number(values) => Values::Number(values.into()),
            Builder::Time(values) => Values::Time(values.into()),
            Builder::Label { codes, labels, .. } => Values::Label { codes: codes.into(), labels: Arc::from(labels) },
        }
    }
}
