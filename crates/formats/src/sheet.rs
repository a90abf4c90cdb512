//! Sheets of a workbook as records of text, numbers with a decimal point and dates in ISO 8601.

use std::io::Cursor;

use calamine::{DataRef, Reader, Xlsx};
use csv::StringRecord;

use crate::bounds;
use crate::error::FormatError;

/// A workbook whose sheets can be read one by one.
pub(crate) struct Workbook {
    name: String,
    book: Xlsx<Cursor<Vec<u8>>>,
}

impl Workbook {
    pub fn open(name: &str, bytes: Vec<u8>) -> Result<Workbook, FormatError> {
        let broken = |problem: String| FormatError::BrokenWorkbook { name: name.to_owned(), problem };
        let archive = zip::ZipArchive::new(Cursor::new(&bytes)).map_err(|error| broken(error.to_string()))?;
        // A small file may unpack to anything; the sizes are stated up front.
        let unpacked = archive.decompressed_size().unwrap_or(0).min(u128::from(u64::MAX)) as u64;
        if unpacked > bounds::UNPACKED_BYTES {
            return Err(FormatError::TooMuch { what: "unpacked size in bytes", have: unpacked, limit: bounds::UNPACKED_BYTES });
        }
        let book = Xlsx::new(Cursor::new(bytes)).map_err(|error| broken(error.to_string()))?;
        Ok(Workbook { name: name.to_owned(), book })
    }

    pub fn sheets(&self) -> Vec<String> {
        self.book.sheet_names()
    }

    /// The rows of a sheet that have anything in them. Only cells that are there are held, so that one far away from the
    /// others costs no more than any other.
    pub fn rows(&mut self, sheet: &str) -> Result<Vec<SheetRow>, FormatError> {
        let name = self.name.clone();
        let broken = |error: calamine::XlsxError| FormatError::BrokenWorkbook { name: name.clone(), problem: error.to_string() };
        let mut reader = self.book.worksheet_cells_reader(sheet).map_err(&broken)?;
        let mut rows: Vec<SheetRow> = Vec::new();
        while let Some(cell) = reader.next_cell().map_err(&broken)? {
            let (text, stored) = (cell_text(cell.get_value()), is_number(cell.get_value()));
            if text.trim().is_empty() {
                continue;
            }
            let (row, column) = cell.get_position();
            FormatError::bound("columns", column as usize + 1, bounds::COLUMNS)?;
            let line = u64::from(row) + 1;
            // Rows mostly come in order, though nothing forbids a workbook to mix them.
            let place = match rows.last() {
                Some(last) if last.line >= line => rows.binary_search_by_key(&line, |row| row.line),
                _ => Err(rows.len()),
            };
            let at = place.unwrap_or_else(|at| {
                rows.insert(at, SheetRow { line, ..SheetRow::default() });
                at
            });
            FormatError::bound("rows", rows.len(), bounds::ROWS)?;
            rows[at].put(column as usize, &text, stored);
        }
        Ok(rows)
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
    fn put(&mut self, column: usize, text: &str, stored: bool) {
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

fn is_number(cell: &DataRef) -> bool {
    matches!(cell, DataRef::Float(_) | DataRef::Int(_))
}

fn cell_text(cell: &DataRef) -> String {
    match cell {
        DataRef::Empty | DataRef::Error(_) => String::new(),
        DataRef::String(text) | DataRef::DateTimeIso(text) | DataRef::DurationIso(text) => text.clone(),
        DataRef::SharedString(text) => (*text).to_owned(),
        DataRef::Float(value) => value.to_string(),
        DataRef::Int(value) => value.to_string(),
        DataRef::Bool(flag) => if *flag { "yes" } else { "no" }.to_owned(),
        DataRef::DateTime(serial) if serial.is_duration() => serial.as_f64().to_string(),
        DataRef::DateTime(serial) => {
            let (year, month, day, hour, minute, second, milli) = serial.to_ymd_hms_milli();
            let seconds = match (second, milli) {
                (0, 0) => String::new(),
                (_, 0) => format!(":{second:02}"),
                _ => format!(":{second:02}.{milli:03}"),
            };
            format!("{year:04}-{month:02}-{day:02} {hour:02}:{minute:02}{seconds}")
        }
    }
}
