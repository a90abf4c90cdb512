//! The part of a file that is the table: where it begins and ends, and its records one after the other.

use csv::StringRecord;

use crate::bounds;
use crate::error::FormatError;
use crate::layout;
use crate::lines::{Lines, SheetRow};
use crate::reading::{LineRole, RawLine, Wish};

/// Lines shown at the head.
const HEAD_LINES: usize = 7;

/// Calls back with each record and its line, until told to stop.
pub fn each_record(lines: &Lines, delimiter: Option<u8>, mut see: impl FnMut(u64, &mut StringRecord) -> bool) {
    let mut record = StringRecord::new();
    match lines {
        Lines::Sheet { rows, .. } => {
            for row in rows {
                record.clone_from(&row.record);
                if !see(row.line, &mut record) {
                    return;
                }
            }
        }
        Lines::Text { text, .. } => {
            let mut reader = layout::records(text, delimiter.unwrap_or(b','));
            // The text is valid UTF-8 and rows may have any length, so no record can fail.
            while reader.read_record(&mut record).unwrap_or(false) {
                let line = record.position().map_or(0, |position| line_of(text, position));
                let blank = record.iter().all(|cell| cell.trim().is_empty());
                if !blank && !see(line, &mut record) {
                    return;
                }
            }
        }
    }
}

/// Which cells of a workbook are stored as numbers, by line; lines are asked for in order.
pub struct Stored<'l> {
    rows: &'l [SheetRow],
    next: usize,
}

impl<'l> Stored<'l> {
    pub fn of(lines: &'l Lines) -> Stored<'l> {
        let rows = if let Lines::Sheet { rows, .. } = lines { &rows[..] } else { &[] };
        Stored { rows, next: 0 }
    }

    pub fn at(&mut self, line: u64) -> &'l [bool] {
        while self.rows.get(self.next).is_some_and(|row| row.line < line) {
            self.next += 1;
        }
        self.rows.get(self.next).filter(|row| row.line == line).map_or(&[], |row| &row.stored)
    }
}

/// The line that a record stands on: its position is taken before the empty lines above it are passed over.
fn line_of(text: &str, position: &csv::Position) -> u64 {
    let rest = &text.as_bytes()[position.byte() as usize..];
    let passed = rest.iter().take_while(|byte| matches!(byte, b'\r' | b'\n')).filter(|byte| **byte == b'\n').count();
    position.line() + passed as u64
}

/// Cells up to the last one with something in it.
fn filled_width(record: &StringRecord) -> usize {
    record.iter().enumerate().filter(|(_, cell)| !cell.trim().is_empty()).last().map_or(0, |(at, _)| at + 1)
}

/// The part of a file that is the table.
pub struct Body<'l> {
    pub lines: &'l Lines,
    pub delimiter: Option<u8>,
    pub header: Vec<String>,
    pub header_line: u64,
    pub first_row_line: u64,
    /// The line of units under the header, and the unit of each column.
    pub units: Option<(u64, Vec<Option<String>>)>,
    pub rows: usize,
    pub width: usize,
    /// Whether the header is surely one; else it could be the first row.
    pub header_sure: bool,
    pub longer_rows: usize,
    pub total_line: Option<u64>,
    pub raw: Vec<RawLine>,
    pub lines_between: u64,
}

impl<'l> Body<'l> {
    pub fn find(name: &str, lines: &'l Lines, delimiter: Option<u8>, wish: &Wish) -> Result<Body<'l>, FormatError> {
        let mut head: Vec<(u64, StringRecord)> = Vec::new();
        each_record(lines, delimiter, |line, record| {
            head.push((line, record.clone()));
            head.len() < 60
        });
        let records: Vec<StringRecord> = head.iter().map(|(_, record)| record.clone()).collect();
        let mut sure = true;
        let (header, header_line, first_row_line) = match wish.header_line {
            Some(0) => (Vec::new(), 0, head.first().map_or(1, |(line, _)| *line)),
            Some(wanted) => {
                let found = head.iter().find(|(line, _)| *line == wanted);
                let (line, record) = found.ok_or(FormatError::NoSuch { what: "line", given: wanted.to_string() })?;
                (record.iter().map(str::to_owned).collect(), *line, line + 1)
            }
            None => {
                let top = layout::top(&records);
                sure = top.sure;
                match top.header.map(|index| &head[index]) {
                    Some((line, record)) => (record.iter().map(str::to_owned).collect(), *line, line + 1),
                    None => (Vec::new(), 0, head.get(top.above).map_or(1, |(line, _)| *line)),
                }
            }
        };
        let under = head.iter().position(|(line, _)| *line >= first_row_line).filter(|_| header_line > 0 && !wish.keep_units);
        let units = under.and_then(|at| layout::units(&records[at..]).map(|units| (head[at].0, units)));
        let first_row_line = units.as_ref().map_or(first_row_line, |(line, _)| line + 1);
        let header: Vec<String> = header;
        let mut body = Body {
            lines,
            delimiter,
            header_line,
            first_row_line,
            units,
            rows: 0,
            width: header.len(),
            header,
            header_sure: sure,
            longer_rows: 0,
            total_line: None,
            raw: Vec::new(),
            lines_between: 0,
        };
        let mut last: Option<(u64, StringRecord)> = None;
        let (mut rows, mut longer) = (0, 0);
        let mut width = body.width;
        each_record(lines, delimiter, |line, record| {
            if line >= first_row_line {
                rows += 1;
                // Only a record longer than the table is worth looking through.
                let filled = if record.len() > width { filled_width(record) } else { 0 };
                if body.header.is_empty() {
                    width = width.max(filled);
                } else if filled > width {
                    longer += 1;
                }
                // The record is taken, not copied: the reader fills whatever it gets.
                let (at, kept) = last.get_or_insert_with(|| (line, StringRecord::new()));
                *at = line;
                std::mem::swap(kept, record);
            }
            true
        });
        body.longer_rows = longer;
        if body.header.is_empty() {
            body.header = vec![String::new(); width];
        }
        body.width = body.header.len();
        if let Some((line, record)) = &last
            && rows > 1
            && layout::is_total(record)
            && !wish.keep_total
        {
            body.total_line = Some(*line);
            rows -= 1;
        }
        body.rows = rows;
        if rows == 0 || body.width == 0 {
            return Err(FormatError::NoRows { name: name.to_owned() });
        }
        FormatError::bound("rows", rows, bounds::ROWS)?;
        FormatError::bound("columns", body.width, bounds::COLUMNS)?;
        body.raw_lines(&head, last.as_ref());
        Ok(body)
    }

    fn raw_lines(&mut self, head: &[(u64, StringRecord)], last: Option<&(u64, StringRecord)>) {
        let role = |line: u64| match line {
            _ if line == self.header_line => LineRole::Header,
            _ if self.units.as_ref().is_some_and(|(units, _)| *units == line) => LineRole::Units,
            _ if line < self.first_row_line || Some(line) == self.total_line => LineRole::LeftOut,
            _ => LineRole::Row,
        };
        let joint = self.delimiter.map_or(" · ".to_owned(), |sign| char::from(sign).to_string());
        let raw = |(line, record): &(u64, StringRecord)| {
            let text: String = record.iter().collect::<Vec<_>>().join(&joint).chars().take(200).collect();
            RawLine { line: *line, text, role: role(*line) }
        };
        let shown = head.iter().position(|(line, _)| *line >= self.first_row_line).unwrap_or(0) + 3;
        let shown = shown.max(HEAD_LINES).min(head.len());
        // A long preamble is cut from above.
        let mut lines: Vec<RawLine> = head[shown.saturating_sub(HEAD_LINES)..shown].iter().map(raw).collect();
        let end = lines.last().map_or(0, |line| line.line);
        if let Some(last) = last.filter(|(line, _)| *line > end) {
            self.lines_between = last.0 - end - 1;
            lines.push(raw(last));
        }
        self.raw = lines;
    }

    pub fn each_row(&self, mut see: impl FnMut(usize, u64, &StringRecord)) {
        let mut row = 0;
        each_record(self.lines, self.delimiter, |line, record| {
            if line >= self.first_row_line && Some(line) != self.total_line {
                see(row, line, record);
                row += 1;
            }
            row < self.rows
        });
    }
}
