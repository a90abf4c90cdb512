//! Records whose cells have names: rows as they come, columns in the order in which they first appear.

use std::collections::HashMap;

use crate::bounds;
use crate::error::FormatError;
use crate::lines::{Lines, SheetRow};
use crate::reading::ReadNote;

/// Bytes that a cell takes beside its text.
const CELL_BYTES: u64 = 16;

/// Rows that are gathered; what they take is counted, so that a small file cannot fill the memory.
#[derive(Default)]
pub(crate) struct Records {
    names: Vec<String>,
    places: HashMap<String, usize>,
    rows: Vec<SheetRow>,
    bytes: u64,
}

impl Records {
    /// The place of a column, a new one behind the others.
    pub fn place(&mut self, name: &str) -> Result<usize, FormatError> {
        if let Some(place) = self.places.get(name) {
            return Ok(*place);
        }
        let place = self.names.len();
        FormatError::bound("columns", place + 1, bounds::COLUMNS)?;
        self.places.insert(name.to_owned(), place);
        self.names.push(name.to_owned());
        Ok(place)
    }

    /// Begins a row.
    pub fn row(&mut self) -> Result<(), FormatError> {
        FormatError::bound("rows", self.rows.len() + 1, bounds::ROWS)?;
        // Line 1 has the names.
        self.rows.push(SheetRow { line: self.rows.len() as u64 + 2, ..SheetRow::default() });
        Ok(())
    }

    /// Puts a cell into the row that was begun last.
    pub fn put(&mut self, place: usize, text: &str, stored: bool) -> Result<(), FormatError> {
        self.bytes += text.len() as u64 + CELL_BYTES;
        if self.bytes > bounds::UNPACKED_BYTES {
            return Err(FormatError::TooMuch { what: "unpacked size in bytes", have: self.bytes, limit: bounds::UNPACKED_BYTES });
        }
        if let Some(row) = self.rows.last_mut() {
            row.put(place, text, stored);
        }
        Ok(())
    }

    /// Whether no row was begun.
    pub fn is_empty(&self) -> bool {
        self.rows.is_empty()
    }

    /// The names, then the rows.
    pub fn lines(self, doubts: Vec<ReadNote>) -> Lines<'static> {
        let mut head = SheetRow { line: 1, ..SheetRow::default() };
        self.names.iter().enumerate().for_each(|(place, name)| head.put(place, name, false));
        Lines::Sheet { rows: std::iter::once(head).chain(self.rows).collect(), sheet: String::new(), doubts }
    }
}
