//! Sheets of a workbook as records of text, numbers with a decimal point and dates in ISO 8601.

use std::io::Cursor;

use calamine::{DataRef, Dimensions, Reader, Xlsx};

use crate::bounds;
use crate::error::FormatError;
use crate::lines::{Lines, SheetRow};
use crate::marks::Marks;
use crate::merged::{self, Range};
use crate::reading::ReadNote;

/// A workbook whose sheets can be read one by one.
pub(crate) struct Workbook {
    name: String,
    book: Xlsx<Cursor<Vec<u8>>>,
    marks: Marks,
}

/// Rows of another sheet looked at to show how it begins.
const BEGINS_WITHIN: usize = 200;
/// Cells shown of its first line, and other sheets told of.
const BEGINS_WITH: usize = 4;
const OTHERS_TOLD: usize = 5;

impl Workbook {
    pub fn open(name: &str, bytes: Vec<u8>) -> Result<Workbook, FormatError> {
        let marks = Marks::of(name, &bytes)?;
        let book = guarded(name, || Xlsx::new(Cursor::new(bytes)).map_err(|error| error.to_string()))?;
        Ok(Workbook { name: name.to_owned(), book, marks })
    }

    pub fn sheets(&self) -> Vec<String> {
        self.book.sheet_names()
    }

    /// The rows of a sheet that have anything in them, and what is doubtful about them.
    pub fn lines(&mut self, sheet: &str, keeps_merged: bool) -> Result<Lines<'static>, FormatError> {
        let read = self.rows(sheet, usize::MAX, keeps_merged)?;
        let mut doubts = read.doubts;
        if !read.rows.is_empty() {
            doubts.extend(self.marks.doubts(sheet));
            doubts.extend(self.others(sheet));
        }
        Ok(Lines::Sheet { rows: read.rows, sheet: sheet.to_owned(), doubts })
    }

    /// The other sheets, each with how it begins: a cover may stand before the data.
    fn others(&mut self, sheet: &str) -> Option<ReadNote> {
        let others: Vec<String> = self.sheets().into_iter().filter(|other| other != sheet).collect();
        let begins = |book: &mut Workbook, other: &String| {
            // What cannot be read is not offered.
            let rows = book.rows(other, BEGINS_WITHIN, true).ok()?.rows;
            let filled = |row: &SheetRow| row.record.iter().filter(|cell| !cell.is_empty()).count();
            // The first of the fullest.
            let first = rows.iter().rev().max_by_key(|row| filled(row))?;
            let cells: Vec<&str> = first.record.iter().filter(|cell| !cell.is_empty()).take(BEGINS_WITH).collect();
            Some(format!("“{other}” ({})", cells.join(", ")))
        };
        let told: Vec<String> = others.iter().take(OTHERS_TOLD).filter_map(|other| begins(self, other)).collect();
        let more = others.len().saturating_sub(OTHERS_TOLD);
        let more = if more > 0 { format!(" and {more} more") } else { String::new() };
        (!told.is_empty()).then(|| ReadNote::doubt("sheets", format!("Other sheets hold {}{more}.", told.join(", "))))
    }

    /// Up to so many rows. Only cells that are there are held, so that one far away from the others costs no more than any
    /// other.
    fn rows(&mut self, sheet: &str, most: usize, keeps_merged: bool) -> Result<Read, FormatError> {
        let book = &mut self.book;
        let merged = guarded(&self.name, || Ok(book.merge_cells_by_sheet_name(sheet).unwrap_or_default()))?;
        let mut read = Read::default();
        let mut errors = Errors::default();
        let mut clocks = None;
        let mut too_much = Ok(());
        guarded(&self.name, || {
            let broken = |error: calamine::XlsxError| error.to_string();
            let mut reader = book.worksheet_cells_reader(sheet).map_err(broken)?;
            while let Some(cell) = reader.next_cell().map_err(broken)? {
                let (row, column) = cell.get_position();
                let value = cell.get_value();
                errors.see(value, (row, column));
                if let DataRef::DateTime(serial) = value
                    && (0.0..1.0).contains(&serial.as_f64())
                    && !serial.is_duration()
                {
                    clocks.get_or_insert_with(|| place((row, column)));
                }
                let (text, stored) = (cell_text(value), is_number(value));
                if text.trim().is_empty() {
                    continue;
                }
                too_much = read.put((row, column), &text, stored);
                if too_much.is_err() || read.rows.len() > most {
                    break;
                }
            }
            Ok(())
        })?;
        too_much?;
        let range = |range: &Dimensions| Range {
            lines: (u64::from(range.start.0) + 1, u64::from(range.end.0) + 1),
            columns: (range.start.1 as usize, range.end.1 as usize),
        };
        let ranges: Vec<Range> = merged.iter().map(range).collect();
        read.doubts.extend(merged::note(&ranges, keeps_merged));
        if !keeps_merged {
            merged::fill_down(&mut read.rows, &ranges);
        }
        read.doubts.extend(errors.doubt());
        read.doubts.extend(clocks.map(|first| {
            ReadNote::doubt("cells", format!("Times of day without a date stand from cell {first} on: they are read as labels."))
        }));
        Ok(read)
    }
}

/// Rows as they were read.
#[derive(Default)]
struct Read {
    rows: Vec<SheetRow>,
    doubts: Vec<ReadNote>,
}

impl Read {
    fn put(&mut self, (row, column): (u32, u32), text: &str, stored: bool) -> Result<(), FormatError> {
        FormatError::bound("columns", column as usize + 1, bounds::COLUMNS)?;
        let (rows, line) = (&mut self.rows, u64::from(row) + 1);
        // Rows mostly come in order, though nothing forbids a workbook to mix them.
        let found = match rows.last() {
            Some(last) if last.line >= line => rows.binary_search_by_key(&line, |row| row.line),
            _ => Err(rows.len()),
        };
        let at = found.unwrap_or_else(|at| {
            rows.insert(at, SheetRow { line, ..SheetRow::default() });
            at
        });
        FormatError::bound("rows", rows.len(), bounds::ROWS)?;
        rows[at].put(column as usize, text, stored);
        Ok(())
    }
}

/// Cells that hold an error of their formula.
#[derive(Default)]
struct Errors {
    count: usize,
    first: Option<(String, String)>,
}

impl Errors {
    fn see(&mut self, value: &DataRef, at: (u32, u32)) {
        if let DataRef::Error(error) = value {
            self.count += 1;
            self.first.get_or_insert_with(|| (error.to_string(), place(at)));
        }
    }

    fn doubt(self) -> Option<ReadNote> {
        let (error, at) = self.first?;
        let cells = if self.count == 1 { "One cell holds an error".to_owned() } else { format!("{} cells hold errors", self.count) };
        Some(ReadNote::doubt("cells", format!("{cells}, the first {error} in {at}: read as missing.")))
    }
}

/// The place of a cell, counted from 0.
fn place((row, column): (u32, u32)) -> String {
    merged::place(u64::from(row) + 1, column as usize)
}

/// What the reader of workbooks gives; one that it stumbles over is broken.
pub(crate) fn guarded<T>(name: &str, read: impl FnOnce() -> Result<T, String>) -> Result<T, FormatError> {
    let read = std::panic::catch_unwind(std::panic::AssertUnwindSafe(read));
    let read = read.unwrap_or_else(|_| Err("it refers to what cannot be".to_owned()));
    read.map_err(|problem| FormatError::BrokenWorkbook { name: name.to_owned(), problem })
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
            // A time of day has no date.
            match (0.0..1.0).contains(&serial.as_f64()) {
                true => format!("{hour:02}:{minute:02}{seconds}"),
                false => format!("{year:04}-{month:02}-{day:02} {hour:02}:{minute:02}{seconds}"),
            }
        }
    }
}
