//! The part of a file that is the table: where it begins and ends, and its records one after the other.

use std::collections::{BTreeMap, VecDeque};
use std::ops::Range;

use csv::StringRecord;
use rayon::prelude::*;

use crate::bounds;
use crate::error::FormatError;
use crate::head;
use crate::left_out::{self, Aside};
use crate::lines::{Lines, SheetRow};
use crate::reading::{LineRole, RawLine, ReadOptions};
use crate::stretches::Stretch;

/// Lines shown at the head.
const HEAD_LINES: usize = 7;

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

/// Cells up to the last one with something in it.
fn filled_width(record: &StringRecord) -> usize {
    record.iter().enumerate().filter(|(_, cell)| !cell.trim().is_empty()).last().map_or(0, |(at, _)| at + 1)
}

/// The part of a file that is the table.
pub struct Body<'l> {
    pub lines: &'l Lines<'l>,
    pub delimiter: Option<u8>,
    pub header: Vec<String>,
    /// The line of the column names, the first where there are two; 0 for none.
    pub header_line: u64,
    /// The last line of the column names.
    pub header_end: u64,
    pub first_row_line: u64,
    /// The line of units under the header, and the unit of each column.
    pub units: Option<(u64, Vec<Option<String>>)>,
    pub rows: usize,
    pub width: usize,
    /// Whether the header is surely one; else it could be the first row.
    pub header_sure: bool,
    pub longer_rows: usize,
    /// Lines from the first row on that are no rows.
    pub(crate) asides: BTreeMap<u64, Aside>,
    parts: Vec<(Stretch, Range<usize>)>,
    pub raw: Vec<RawLine>,
    pub lines_between: u64,
}

/// The names of the columns and where they stand.
struct Header {
    names: Vec<String>,
    /// The lines themselves.
    records: Vec<StringRecord>,
    line: u64,
    end: u64,
    first_row_line: u64,
    sure: bool,
}

impl Header {
    fn find(head: &[(u64, StringRecord)], records: &[StringRecord], read_options: &ReadOptions) -> Result<Header, FormatError> {
        let none = |first_row_line| Header { names: Vec::new(), records: Vec::new(), line: 0, end: 0, first_row_line, sure: true };
        let first_line = |at: usize| head.get(at).map_or(1, |(line, _)| *line);
        let (at, sure) = match read_options.header_line {
            Some(0) => return Ok(none(first_line(0))),
            Some(wanted) => {
                let found = head.iter().position(|(line, _)| *line == wanted);
                (found.ok_or(FormatError::NoSuch { what: "line", given: wanted.to_string() })?, true)
            }
            None => {
                let groups = if read_options.header_lines.is_none() { head::numbered_groups(records) } else { None };
                let top = head::top(records);
                match groups.map(|(upper, _)| upper).or(top.header) {
                    Some(at) => (at, top.sure || groups.is_some()),
                    None => return Ok(Header { sure: top.sure, ..none(first_line(top.above)) }),
                }
            }
        };
        let both = match read_options.header_lines {
            Some(1) => None,
            Some(2) if at + 1 < head.len() => Some((at, at + 1)),
            Some(lines) => return Err(FormatError::NoSuch { what: "number of lines with names", given: lines.to_string() }),
            // A line that was pointed at begins the header.
            None => head::two_lines(records, at).filter(|(upper, _)| read_options.header_line.is_none() || *upper == at),
        };
        let (upper, lower) = both.unwrap_or((at, at));
        let names = match both {
            Some(_) => head::joined(&records[upper], &records[lower]),
            None => records[at].iter().map(str::to_owned).collect(),
        };
        let records = records[upper..=lower].to_vec();
        Ok(Header {
            names,
            records,
            line: head[upper].0,
            end: head[lower].0,
            first_row_line: head[lower].0 + 1,
            sure: sure || both.is_some(),
        })
    }
}

impl<'l> Body<'l> {
    pub fn find(name: &str, lines: &'l Lines<'l>, delimiter: Option<u8>, read_options: &ReadOptions) -> Result<Body<'l>, FormatError> {
        let mut head: Vec<(u64, StringRecord)> = Vec::new();
        Stretch::whole(lines).each_record(lines, delimiter, |line, record| {
            head.push((line, record.clone()));
            head.len() < 60
        });
        let records: Vec<StringRecord> = head.iter().map(|(_, record)| record.clone()).collect();
        let header = Header::find(&head, &records, read_options)?;
        let under =
            head.iter().position(|(line, _)| *line >= header.first_row_line).filter(|_| header.line > 0 && !read_options.keep_units);
        let units = under.and_then(|at| head::units(&records[at..]).map(|units| (head[at].0, units)));
        let first_row_line = units.as_ref().map_or(header.first_row_line, |(line, _)| line + 1);
        let mut body = Body {
            lines,
            delimiter,
            header_line: header.line,
            header_end: header.end,
            first_row_line,
            units,
            rows: 0,
            width: header.names.len(),
            header: header.names,
            header_sure: header.sure,
            longer_rows: 0,
            asides: BTreeMap::new(),
            parts: Vec::new(),
            raw: Vec::new(),
            lines_between: 0,
        };
        let last = body.count(&header.records, read_options.keep_total);
        if body.rows == 0 || body.width == 0 {
            return Err(FormatError::NoRows { name: name.to_owned() });
        }
        FormatError::bound("rows", body.rows, bounds::ROWS)?;
        FormatError::bound("columns", body.width, bounds::COLUMNS)?;
        body.raw_lines(&head, last.as_ref());
        Ok(body)
    }

    /// Counts the rows and what stands among them; the last line.
    fn count(&mut self, names: &[StringRecord], keeps_totals: bool) -> Option<(u64, StringRecord)> {
        let stretches = Stretch::all(self.lines);
        let counted: Vec<Counted> = stretches.par_iter().map(|stretch| self.count_in(stretch, names, keeps_totals)).collect();
        let mut asides: BTreeMap<u64, Aside> =
            counted.iter().flat_map(|part| part.asides.iter().map(|(line, aside)| (*line, *aside))).collect();
        let rows: usize = counted.iter().map(|part| part.rows).sum();
        // What comes as often as rows do is a label of theirs.
        if asides.values().filter(|aside| **aside == Aside::Total).count() * 2 > rows {
            asides.retain(|_, aside| *aside != Aside::Total);
        }
        if self.header.is_empty() {
            let width = counted.iter().map(|part| part.width).max().unwrap_or(0);
            self.header = vec![String::new(); width];
        }
        self.width = self.header.len();
        let last = || counted.iter().flat_map(|part| &part.last);
        let skipped = last().count().saturating_sub(left_out::END_LINES);
        if !keeps_totals {
            let ends: Vec<&(u64, StringRecord)> = last().skip(skipped).collect();
            let at_end = left_out::at_end(ends.iter().map(|(_, record)| record), self.width);
            asides.extend(ends.iter().rev().map(|(line, _)| *line).zip(at_end.into_iter().rev()));
        }
        // A table has a row at least.
        if asides.len() >= rows {
            asides.clear();
        }
        self.longer_rows = counted.iter().map(|part| part.longer).sum();
        for (place, (stretch, part)) in stretches.iter().zip(&counted).enumerate() {
            let end = stretches.get(place + 1).map_or(u64::MAX, |next| next.first_line);
            let before = self.rows;
            self.rows += part.rows - asides.range(stretch.first_line..end).count();
            self.parts.push((stretch.clone(), before..self.rows));
        }
        self.asides = asides;
        last().last().cloned()
    }

    fn count_in(&self, stretch: &Stretch, names: &[StringRecord], keeps_totals: bool) -> Counted {
        let mut counted = Counted { width: self.width, ..Counted::default() };
        stretch.each_record(self.lines, self.delimiter, |line, record| {
            if line >= self.first_row_line {
                counted.rows += 1;
                // Only a record longer than the table is worth looking through.
                let filled = if record.len() > counted.width { filled_width(record) } else { 0 };
                if self.header.is_empty() {
                    counted.width = counted.width.max(filled);
                } else if filled > counted.width {
                    counted.longer += 1;
                }
                if let Some(aside) = left_out::between(record, names).filter(|aside| !keeps_totals || *aside == Aside::Header) {
                    counted.asides.insert(line, aside);
                }
                // The record is taken, not copied: the reader fills whatever it gets.
                let is_full = counted.last.len() >= left_out::END_LINES;
                let mut kept = if is_full { counted.last.pop_front() } else { None }.unwrap_or_default();
                kept.0 = line;
                std::mem::swap(&mut kept.1, record);
                counted.last.push_back(kept);
            }
            true
        });
        counted
    }

    /// Whether a line is a row.
    pub fn is_row(&self, line: u64) -> bool {
        line >= self.first_row_line && !self.asides.contains_key(&line)
    }

    fn raw_lines(&mut self, head: &[(u64, StringRecord)], last: Option<&(u64, StringRecord)>) {
        let role = |line: u64| match line {
            _ if (self.header_line..=self.header_end).contains(&line) => LineRole::Header,
            _ if self.units.as_ref().is_some_and(|(units, _)| *units == line) => LineRole::Units,
            _ if !self.is_row(line) => LineRole::LeftOut,
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
        let last = last.filter(|(line, _)| *line > end);
        lines.extend(last.map(raw));
        self.lines_between = last.map_or(0, |(line, _)| line - end - 1);
        self.raw = lines;
    }

    /// Stretches of the rows, each with the places of its rows among all.
    pub fn parts(&self) -> &[(Stretch, Range<usize>)] {
        &self.parts
    }

    /// Calls back with each row of a stretch, by its place among all rows, and its line.
    pub fn each_row_of(&self, (stretch, places): &(Stretch, Range<usize>), mut see: impl FnMut(usize, u64, &StringRecord)) {
        let mut row = places.start;
        stretch.each_record(self.lines, self.delimiter, |line, record| {
            if self.is_row(line) {
                see(row, line, record);
                row += 1;
            }
            row < places.end
        });
    }

    /// Calls back with each row, by its place, and its line.
    pub fn each_row(&self, see: impl FnMut(usize, u64, &StringRecord)) {
        self.each_row_of(&(Stretch::whole(self.lines), 0..self.rows), see);
    }
}

/// What was counted in a stretch.
#[derive(Default)]
struct Counted {
    rows: usize,
    longer: usize,
    width: usize,
    asides: BTreeMap<u64, Aside>,
    last: VecDeque<(u64, StringRecord)>,
}
