//! Reads a source: finds its layout and kinds, applies the corrections, builds the table.

use std::collections::HashMap;

use acorn_core::frame::Kind;

use crate::body::{Body, Stored, each_record};
use crate::bounds;
use crate::cell::{Dress, guess_number, parse_value, value_of};
use crate::dates::DateOrder;
use crate::error::FormatError;
use crate::infer::{ColumnLook, DateReason, DressLook};
use crate::layout;
use crate::reading::{Fix, LineRole, Misfit, ReadAs, ReadColumn, ReadNote, Reading, Wish};
use crate::source::{Lines, Source};
use crate::table::{Builder, CellValue, Table, TableColumn};

/// Rows looked at to find the kinds; a surprise further down starts a look at all of them.
const LOOK_ROWS: usize = 20_000;
const SAMPLE_ROWS: usize = 7;

/// Reads a source as it seems, or as wished.
///
/// # Errors
/// [`FormatError`] for a wish the source does not have, no rows, or too many.
pub fn read(source: &Source, wish: &Wish) -> Result<Reading, FormatError> {
    let lines = source.lines(wish.encoding.as_deref(), wish.sheet.as_deref())?;
    let delimiter = match (&lines, wish.delimiter) {
        (Lines::Sheet { .. }, _) => None,
        (Lines::Text { .. }, Some(sign)) => {
            Some(u8::try_from(sign).map_err(|_| FormatError::NoSuch { what: "delimiter", given: sign.into() })?)
        }
        (Lines::Text { text, .. }, None) => Some(layout::delimiter(text)),
    };
    let body = Body::find(source.name(), &lines, delimiter, wish)?;
    let first = body.build(wish, LOOK_ROWS)?;
    let surprised = first.problem_count > 0 && body.rows > LOOK_ROWS;
    let built = if surprised { body.build(wish, usize::MAX)? } else { first };
    let (encoding, sheet) = match &lines {
        Lines::Text { encoding, .. } => (Some(encoding.name().to_owned()), None),
        Lines::Sheet { sheet, .. } => (None, Some(sheet.clone())),
    };
    let read_as = ReadAs {
        encoding,
        delimiter: delimiter.map(char::from),
        decimal: built.dress.decimal.into(),
        header_line: body.header_line,
        day_first: built.dress.dates == DateOrder::DayFirst,
        sheet,
        sheets: source.sheets(),
    };
    let mut notes = body.notes(&read_as, built.date_reason);
    notes.extend(built.column_notes.clone());
    Ok(Reading {
        notes,
        read_as,
        columns: built.columns,
        lines: body.raw,
        lines_between: body.lines_between,
        problems: built.problems,
        problem_count: built.problem_count,
        table: built.table,
    })
}

fn decimal_sign(sign: char) -> u8 {
    if sign == ',' { b',' } else { b'.' }
}

impl Body<'_> {
    /// Finds the kinds from the first `look` rows and builds the table.
    fn build(&self, wish: &Wish, look: usize) -> Result<Built, FormatError> {
        let mut looks: Vec<ColumnLook> = (0..self.width).map(|_| ColumnLook::default()).collect();
        let mut dress_look = DressLook::default();
        let mut seen = 0;
        let mut stored = Stored::of(self.lines);
        each_record(self.lines, self.delimiter, |line, record| {
            if line >= self.first_row_line && Some(line) != self.total_line {
                let stored = stored.at(line);
                for (index, (column, cell)) in looks.iter_mut().zip(record.iter()).enumerate() {
                    if stored.get(index) == Some(&true) { column.see_stored(cell) } else { column.see(cell, &mut dress_look) }
                }
                seen += 1;
            }
            seen < look
        });
        let (date_order, date_reason) = dress_look.date_order();
        let dress = Dress {
            decimal: wish.decimal.map_or_else(|| dress_look.decimal(self.delimiter), decimal_sign),
            dates: wish.day_first.map_or(date_order, |day| if day { DateOrder::DayFirst } else { DateOrder::MonthFirst }),
            grouped: true,
        };
        let (columns, column_notes) = self.columns(wish, &looks, &dress_look, dress);
        Ok(self.fill(wish, dress, date_reason, columns, column_notes))
    }

    /// Names, kinds and decimal signs, wishes applied: empty names are numbered, repeated ones too.
    fn columns(&self, wish: &Wish, looks: &[ColumnLook], file: &DressLook, dress: Dress) -> (Vec<ReadColumn>, Vec<ReadNote>) {
        let mut columns: Vec<ReadColumn> = Vec::with_capacity(self.width);
        let mut renamed = Vec::new();
        let mut notes = Vec::new();
        for (index, (header, look)) in self.header.iter().zip(looks).enumerate() {
            let wished = wish.columns.iter().rev().find(|column| column.index == index);
            let given = wished.and_then(|wish| wish.name.as_deref()).unwrap_or(header);
            let name: String = given.split_whitespace().collect::<Vec<_>>().join(" ").chars().take(bounds::NAME_CHARS).collect();
            let base = if name.is_empty() { format!("column {}", index + 1) } else { name.clone() };
            let taken = |name: &str| columns.iter().any(|column| column.name == name);
            let unique = if taken(&base) { (2..).map(|k| format!("{base} {k}")).find(|name| !taken(name)).unwrap_or(base) } else { base };
            if unique != name && self.header_line > 0 {
                renamed.push(unique.clone());
            }
            let asked = wished.and_then(|wish| wish.decimal).or(wish.decimal);
            let (decimal, doubt) = match asked {
                Some(_) => (asked.map_or(dress.decimal, decimal_sign), None),
                None => look.decimal(file, self.delimiter),
            };
            let kind = wished.and_then(|wish| wish.kind).unwrap_or_else(|| look.kind(decimal));
            let left_out = wished.is_some_and(|wish| wish.leave_out);
            let unit = self.units.as_ref().and_then(|(_, units)| units.get(index).cloned().flatten());
            if let Some(doubt) = doubt.filter(|_| kind.is_numeric() && !left_out) {
                notes.push(ReadNote {
                    about: "decimal",
                    column: Some(index),
                    readings: vec![doubt.read_as.clone(), doubt.instead.clone()],
                    doubt: true,
                    sentence: format!("{unique}: “{}” is read as {}. It could be {}.", doubt.text, doubt.read_as, doubt.instead),
                    detail: Some(doubt.reason.to_owned()),
                });
            }
            columns.push(ReadColumn { index, name: unique, kind, unit, decimal: decimal.into(), left_out, sample: Vec::new() });
        }
        if !renamed.is_empty() {
            notes.push(ReadNote {
                about: "names",
                column: None,
                readings: Vec::new(),
                doubt: true,
                sentence: format!("Empty or repeated column names: now {}.", renamed.join(", ")),
                detail: Some("Names can be changed above each column.".into()),
            });
        }
        (columns, notes)
    }

    fn fill(&self, wish: &Wish, dress: Dress, date_reason: DateReason, mut columns: Vec<ReadColumn>, column_notes: Vec<ReadNote>) -> Built {
        let fixes: HashMap<(usize, usize), &Fix> = wish.fixes.iter().map(|fix| ((fix.row, fix.column), fix)).collect();
        let mut builders: Vec<Builder> = columns.iter().map(|column| Builder::new(column.kind)).collect();
        let mut problems = Vec::new();
        let mut problem_count = 0;
        let mut stored = Stored::of(self.lines);
        self.each_row(|row, line, record| {
            let stored = stored.at(line);
            for (column, builder) in columns.iter().zip(&mut builders).filter(|(column, _)| !column.left_out) {
                let text = record.get(column.index).unwrap_or_default();
                if let Some(fix) = fixes.get(&(row + 1, column.index)) {
                    let fixed = fix.text.as_deref().map_or(Ok(CellValue::Missing), |text| parse_value(column.kind, text));
                    if let Ok(value) = fixed {
                        builder.push(value);
                        continue;
                    }
                }
                if matches!(column.kind, Kind::Category | Kind::Text) && text.len() <= bounds::CELL_CHARS && !text.trim().is_empty() {
                    builder.push_label(text.trim());
                    continue;
                }
                let own = Dress { decimal: decimal_sign(column.decimal), ..dress };
                let dress = if stored.get(column.index) == Some(&true) { Dress::STORED } else { own };
                let value = value_of(column.kind, text, dress);
                if value.is_none() && !wish.unfit_as_missing {
                    problem_count += 1;
                    if problems.len() < bounds::PROBLEMS_LISTED {
                        problems.push(problem(row + 1, column, text, dress));
                    }
                }
                builder.push(value.unwrap_or(CellValue::Missing));
            }
        });
        let mut table = Table { columns: Vec::new(), rows: self.rows };
        for (column, builder) in columns.iter_mut().zip(builders).filter(|(column, _)| !column.left_out) {
            let values = builder.finish();
            column.sample = (0..self.rows.min(SAMPLE_ROWS)).map(|row| values.text(row)).collect();
            table.columns.push(TableColumn { name: column.name.clone(), kind: column.kind, unit: column.unit.clone(), values });
        }
        Built { dress, date_reason, columns, column_notes, problems, problem_count, table }
    }

    fn notes(&self, read_as: &ReadAs, date_reason: DateReason) -> Vec<ReadNote> {
        let note = |about, doubt, sentence: String, detail: Option<String>| ReadNote {
            about,
            column: None,
            readings: Vec::new(),
            doubt,
            sentence,
            detail,
        };
        let decimal = if read_as.decimal == ',' { "comma" } else { "point" };
        let between = match read_as.delimiter {
            Some(';') => "Semicolons",
            Some('\t') => "Tabs",
            Some('|') => "Vertical bars",
            _ => "Commas",
        };
        let mut notes = vec![match &read_as.sheet {
            Some(sheet) => note("sheet", read_as.sheets.len() > 1, format!("Sheet “{sheet}” of {}.", read_as.sheets.len()), None),
            None => {
                let encoding = read_as.encoding.as_deref().map(|name| format!("{name} text"));
                note("delimiter", false, format!("{between} between columns, {decimal} as decimal sign."), encoding)
            }
        }];
        let above = self
            .raw
            .iter()
            .filter(|line| line.role == LineRole::LeftOut && line.line < self.first_row_line)
            .map(|line| line.line)
            .collect::<Vec<_>>();
        let start = if self.header_line > 0 { self.header_line } else { self.first_row_line };
        if !above.is_empty() {
            let lines = if start > 2 { format!("Lines 1 to {} stand", start - 1) } else { "Line 1 stands".into() };
            notes.push(note("header", false, format!("{lines} above the header: left out."), None));
        } else if self.header_line == 0 {
            notes.push(note("header", true, "No line of column names: the columns are numbered.".into(), None));
        }
        if let Some((line, units)) = &self.units {
            let named: Vec<&str> = units.iter().flatten().map(String::as_str).collect();
            notes.push(note("units", false, format!("Line {line} holds units: {}.", named.join(", ")), None));
        }
        if let Some(line) = self.total_line {
            notes.push(note("total", false, format!("Line {line} is a total: left out."), None));
        }
        let order = if read_as.day_first { "day first" } else { "month first" };
        match date_reason {
            DateReason::Seen => {
                notes.push(note("dates", false, format!("Dates read {order}: other dates in the file leave no doubt."), None))
            }
            DateReason::Guess => notes.push(note(
                "dates",
                true,
                format!("Dates read {order}; nothing in the file settles it."),
                Some("Check one date below.".into()),
            )),
            DateReason::Usual | DateReason::NoneSuch => {}
        }
        if self.longer_rows > 0 {
            notes.push(note(
                "rows",
                true,
                format!("{} rows have more cells than the header; the extra ones are left out.", self.longer_rows),
                None,
            ));
        }
        notes
    }
}

fn problem(row: usize, column: &ReadColumn, text: &str, dress: Dress) -> Misfit {
    let guess = column.kind.is_numeric().then(|| guess_number(text, dress.decimal)).flatten().map(|value| value.to_string());
    let text: String = text.trim().chars().take(80).collect();
    Misfit { row, column: column.index, name: column.name.clone(), text, kind: column.kind, guess }
}

struct Built {
    dress: Dress,
    date_reason: DateReason,
    columns: Vec<ReadColumn>,
    column_notes: Vec<ReadNote>,
    problems: Vec<Misfit>,
    problem_count: usize,
    table: Table,
}
