//! Sheets of an OpenDocument spreadsheet, read cell by cell: what repeats is counted before it is written out.

use std::io::{BufReader, Cursor, Read};

use quick_xml::events::{BytesStart, Event};
use quick_xml::{Reader, XmlVersion};

use crate::bounds;
use crate::error::FormatError;
use crate::lines::{Lines, SheetRow};
use crate::merged::{self, Range};
use crate::reading::ReadNote;

/// A sheet with what is doubtful about it.
#[derive(Default)]
struct Sheet {
    name: String,
    rows: Vec<SheetRow>,
    hidden: usize,
    merged: Vec<Range>,
    errors: usize,
}

/// The sheets of a spreadsheet.
pub(crate) struct OpenDocument {
    sheets: Vec<Sheet>,
}

/// Bytes that a cell takes beside its text.
const CELL_BYTES: u64 = 32;

impl OpenDocument {
    /// Reads every sheet.
    ///
    /// # Errors
    /// [`FormatError::BrokenWorkbook`], [`FormatError::TooMuch`].
    pub fn open(name: &str, bytes: &[u8]) -> Result<OpenDocument, FormatError> {
        let broken = |problem: String| FormatError::BrokenWorkbook { name: name.to_owned(), problem };
        let mut archive = zip::ZipArchive::new(Cursor::new(bytes)).map_err(|error| broken(error.to_string()))?;
        let content = archive.by_name("content.xml").map_err(|error| broken(error.to_string()))?;
        let limit = bounds::UNPACKED_BYTES;
        let mut content = content.take(limit + 1);
        let mut reading = Reading::default();
        let read = reading.read(BufReader::new(&mut content));
        if content.limit() == 0 {
            return Err(FormatError::TooMuch { what: "unpacked size in bytes", have: limit + 1, limit });
        }
        read?.map_err(broken)?;
        Ok(OpenDocument { sheets: reading.sheets })
    }

    pub fn sheets(&self) -> Vec<String> {
        self.sheets.iter().map(|sheet| sheet.name.clone()).collect()
    }

    /// The rows of a sheet that have anything in them.
    pub fn lines(&self, name: &str, keeps_merged: bool) -> Option<Lines<'static>> {
        let sheet = self.sheets.iter().find(|sheet| sheet.name == name)?;
        let said = |count: usize, one: &str, many: &str, what: &str| {
            let cells = if count == 1 { format!("One {one}") } else { format!("{count} {many}") };
            (count > 0).then(|| ReadNote::doubt("cells", format!("{cells} {what}")))
        };
        let doubts = [
            said(sheet.hidden, "row is", "rows are", "hidden in the workbook and taken in all the same."),
            said(sheet.errors, "cell holds an error", "cells hold errors", "and is read as missing."),
        ];
        let mut rows = sheet.rows.clone();
        if !keeps_merged {
            merged::fill_down(&mut rows, &sheet.merged);
        }
        let doubts = doubts.into_iter().flatten().chain(merged::note(&sheet.merged, keeps_merged)).collect();
        Some(Lines::Sheet { rows, sheet: sheet.name.clone(), doubts })
    }
}

/// A cell as it is read.
#[derive(Default)]
struct Cell {
    kind: String,
    value: Option<String>,
    text: String,
    repeated: usize,
}

impl Cell {
    /// What it says, and whether it is a number.
    fn said(self) -> (String, bool) {
        match (self.kind.as_str(), self.value) {
            ("float" | "percentage" | "currency", Some(value)) => (value, true),
            ("date", Some(value)) => (value.replacen('T', " ", 1), false),
            ("time", Some(value)) => (clock(&value).unwrap_or(self.text), false),
            ("boolean", Some(value)) => (if value == "true" { "yes" } else { "no" }.to_owned(), false),
            ("string", Some(value)) => (value, false),
            _ => (self.text, false),
        }
    }
}

/// "PT06H10M30S" as "06:10:30".
fn clock(duration: &str) -> Option<String> {
    let rest = duration.strip_prefix("PT")?;
    let (hours, rest) = rest.split_once('H')?;
    let (minutes, rest) = rest.split_once('M')?;
    let seconds = rest.strip_suffix('S')?;
    Some(if seconds.trim_matches(['0', '.']).is_empty() { format!("{hours}:{minutes}") } else { format!("{hours}:{minutes}:{seconds}") })
}

/// Where the reading stands.
#[derive(Default)]
struct Reading {
    sheets: Vec<Sheet>,
    /// The number of the row, from 1, and how often it stands there.
    line: u64,
    repeated: u64,
    row: SheetRow,
    column: usize,
    cell: Option<Cell>,
    paragraphs: usize,
    /// Text of notes to a cell is none of its own.
    aside: usize,
    bytes: u64,
}

impl Reading {
    /// Reads to the end; a bound is told apart from what is broken.
    fn read(&mut self, xml: impl std::io::BufRead) -> Result<Result<(), String>, FormatError> {
        let mut reader = Reader::from_reader(xml);
        let mut buffer = Vec::new();
        loop {
            let event = match reader.read_event_into(&mut buffer) {
                Ok(event) => event,
                Err(error) => return Ok(Err(error.to_string())),
            };
            match event {
                Event::Eof => return Ok(Ok(())),
                Event::Start(tag) => self.begin(&tag),
                Event::Empty(tag) => {
                    self.begin(&tag);
                    self.end(tag.local_name().as_ref())?;
                }
                Event::End(tag) => self.end(tag.local_name().as_ref())?,
                Event::Text(text) => self.say(&text),
                Event::GeneralRef(name) => self.say(&entity(&name)),
                _ => {}
            }
            buffer.clear();
        }
    }

    fn say(&mut self, text: &str) {
        if let Some(cell) = self.cell.as_mut().filter(|_| self.paragraphs > 0 && self.aside == 0) {
            cell.text.push_str(text);
        }
    }

    fn begin(&mut self, tag: &BytesStart) {
        let attribute = |name: &str| {
            let found = tag.attributes().flatten().find(|one| one.key.local_name().as_ref() == name)?;
            found.normalized_value(XmlVersion::Explicit1_0).ok().map(|value| value.into_owned())
        };
        let count = |name: &str| attribute(name).and_then(|count| count.parse().ok()).unwrap_or(1_usize).max(1);
        match tag.local_name().as_ref() {
            "table" => {
                self.sheets.push(Sheet { name: attribute("name").unwrap_or_default(), ..Sheet::default() });
                self.line = 0;
            }
            "table-row" => {
                (self.row, self.column) = (SheetRow::default(), 0);
                self.repeated = count("number-rows-repeated") as u64;
                let hidden = attribute("visibility").is_some_and(|seen| seen != "visible");
                if let Some(sheet) = self.sheets.last_mut().filter(|_| hidden) {
                    sheet.hidden += self.repeated.min(bounds::ROWS as u64) as usize;
                }
            }
            "table-cell" | "covered-table-cell" => {
                let value = ["value", "date-value", "time-value", "boolean-value", "string-value"].into_iter().find_map(attribute);
                let error = tag.attributes().flatten().any(|one| one.key.as_ref() == "calcext:value-type" && one.value.as_ref() == "error");
                if let Some(sheet) = self.sheets.last_mut() {
                    let (wide, high) = (count("number-columns-spanned"), count("number-rows-spanned"));
                    if wide > 1 || high > 1 {
                        let lines = (self.line + 1, self.line.saturating_add(high as u64));
                        sheet.merged.push(Range { lines, columns: (self.column, self.column.saturating_add(wide - 1)) });
                    }
                    sheet.errors += usize::from(error);
                }
                let kind = if error { String::new() } else { attribute("value-type").unwrap_or_default() };
                self.cell = Some(Cell { kind, value, text: String::new(), repeated: count("number-columns-repeated") });
                (self.paragraphs, self.aside) = (0, usize::from(error));
            }
            "annotation" => self.aside += 1,
            "p" => {
                if self.paragraphs > 0 {
                    self.say("\n");
                }
                self.paragraphs += 1;
            }
            "s" => self.say(&" ".repeat(count("c").min(100))),
            "tab" => self.say("\t"),
            "line-break" => self.say("\n"),
            _ => {}
        }
    }

    fn end(&mut self, name: &str) -> Result<(), FormatError> {
        match name {
            "annotation" => self.aside = self.aside.saturating_sub(1),
            "table-cell" | "covered-table-cell" => {
                let Some(cell) = self.cell.take() else { return Ok(()) };
                let repeated = cell.repeated;
                let (text, stored) = cell.said();
                if !text.trim().is_empty() {
                    FormatError::bound("columns", self.column.saturating_add(repeated), bounds::COLUMNS)?;
                    for column in self.column..self.column + repeated {
                        self.bytes = self.bytes.saturating_add(text.len() as u64 + CELL_BYTES);
                        bounded(self.bytes)?;
                        self.row.put(column, &text, stored);
                    }
                }
                self.column = self.column.saturating_add(repeated);
            }
            "table-row" => {
                let row = std::mem::take(&mut self.row);
                let line = self.line + 1;
                self.line = self.line.saturating_add(self.repeated);
                if let Some(sheet) = self.sheets.last_mut().filter(|_| !row.record.is_empty()) {
                    FormatError::bound("rows", sheet.rows.len().saturating_add(self.repeated as usize), bounds::ROWS)?;
                    let again = self.repeated - 1;
                    let own = row.record.as_slice().len() as u64 + CELL_BYTES * row.record.len() as u64;
                    self.bytes = self.bytes.saturating_add(own.saturating_mul(again));
                    bounded(self.bytes)?;
                    sheet.rows.extend((0..again).map(|more| SheetRow { line: line + more, ..row.clone() }));
                    sheet.rows.push(SheetRow { line: line + again, ..row });
                }
            }
            _ => {}
        }
        Ok(())
    }
}

/// Fails when what is written out takes too much.
fn bounded(bytes: u64) -> Result<(), FormatError> {
    let limit = bounds::UNPACKED_BYTES;
    if bytes > limit { Err(FormatError::TooMuch { what: "unpacked size in bytes", have: bytes, limit }) } else { Ok(()) }
}

/// The sign that an entity stands for.
fn entity(name: &str) -> String {
    let coded = name.strip_prefix('#').and_then(|code| match code.strip_prefix('x') {
        Some(hex) => u32::from_str_radix(hex, 16).ok(),
        None => code.parse().ok(),
    });
    let named = || quick_xml::escape::resolve_predefined_entity(name).map(str::to_owned);
    coded.and_then(char::from_u32).map(String::from).or_else(named).unwrap_or_default()
}
