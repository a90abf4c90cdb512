//! Sheets of a workbook as records of text, numbers with a decimal point and dates in ISO 8601.

use std::io::Cursor;

use acorn_core::frame::time_text;
use calamine::{Data, Reader, Xlsx};
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

    /// The cells of a sheet, trailing empty rows gone.
    pub fn records(&mut self, sheet: &str) -> Result<Vec<StringRecord>, FormatError> {
        let range = self
            .book
            .worksheet_range(sheet)
            .map_err(|error| FormatError::BrokenWorkbook { name: self.name.clone(), problem: error.to_string() })?;
        FormatError::bound("columns", range.width(), bounds::COLUMNS)?;
        FormatError::bound("rows", range.height(), bounds::ROWS)?;
        Ok(range.rows().map(|row| row.iter().map(cell_text).collect()).collect())
    }
}

fn cell_text(cell: &Data) -> String {
    match cell {
        Data::Empty | Data::Error(_) => String::new(),
        Data::String(text) | Data::DateTimeIso(text) | Data::DurationIso(text) => text.clone(),
        Data::Float(value) => value.to_string(),
        Data::Int(value) => value.to_string(),
        Data::Bool(flag) => if *flag { "yes" } else { "no" }.to_owned(),
        Data::DateTime(serial) if serial.is_duration() => serial.as_f64().to_string(),
        // Serial days count from 1899-12-30; 25,569 days later is 1970.
        Data::DateTime(serial) => {
            let micros = ((serial.as_f64() - 25_569.0) * 86_400_000.0).round() * 1000.0;
            time_text(micros as i64).unwrap_or_default()
        }
    }
}
