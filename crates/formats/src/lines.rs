//! What is read of a source before anything is understood: its text, or the rows of a sheet.

use std::borrow::Cow;

use csv::StringRecord;
use encoding_rs::Encoding;

use crate::reading::ReadNote;

/// Text of a source, or the records of one of its sheets.
pub(crate) enum Lines<'s> {
    Text { text: Cow<'s, str>, encoding: &'static Encoding, doubts: Vec<ReadNote> },
    Sheet { rows: Vec<SheetRow>, sheet: String, doubts: Vec<ReadNote> },
}

impl Lines<'_> {
    /// Whether it is a sheet with several rows of several cells, which a cover is not.
    pub fn has_table(&self) -> bool {
        let wide = |row: &SheetRow| row.record.iter().filter(|cell| !cell.trim().is_empty()).count() > 1;
        matches!(self, Lines::Sheet { rows, .. } if rows.iter().filter(|row| wide(row)).take(3).count() == 3)
    }

    /// Whether it is a sheet with anything in it.
    pub fn has_rows(&self) -> bool {
        matches!(self, Lines::Sheet { rows, .. } if !rows.is_empty())
    }
}

/// One row of a sheet.
#[derive(Clone, Debug, Default)]
pub(crate) struct SheetRow {
    /// Its number, from 1.
    pub line: u64,
    /// Its texts, up to the last one.
    pub record: StringRecord,
    /// Which of them are stored as numbers.
    pub stored: Vec<bool>,
}

impl SheetRow {
    /// Puts a cell; the last one counts where one comes twice.
    pub fn put(&mut self, column: usize, text: &str, stored: bool) {
        while self.record.len() < column {
            self.record.push_field("");
            self.stored.push(false);
        }
        if self.record.len() == column {
            self.record.push_field(text);
            self.stored.push(stored);
        } else {
            // Not from left to right: a record can only grow, so it is made anew.
            let cells = self.record.iter().enumerate().map(|(at, cell)| if at == column { text } else { cell });
            self.record = cells.collect();
            self.stored[column] = stored;
        }
    }
}
