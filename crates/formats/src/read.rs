//! Reads a source: finds its layout and kinds, applies the corrections, builds the table.

use std::collections::HashMap;

use acorn_core::frame::Kind;

use crate::affix::Affix;
use crate::body::{Body, Stored, each_record};
use crate::bounds;
use crate::cell::{Dress, guess_number, parse_value, value_of};
use crate::error::FormatError;
use crate::export::as_meant;
use crate::fixed::{self, FIXED};
use crate::infer::{ColumnLook, DateReason, DressLook};
use crate::layout;
use crate::lines::Lines;
use crate::notes;
use crate::reading::{Fix, Misfit, ReadAs, ReadColumn, ReadNote, Reading, Wish};
use crate::source::{Head, Source};
use crate::table::{Builder, CellValue, Table, TableColumn};

/// Rows looked at to find the kinds; a surprise further down starts a look at all of them.
const LOOK_ROWS: usize = 20_000;
const SAMPLE_ROWS: usize = 7;

/// Reads a source as it seems, or as wished.
///
/// # Errors
/// [`FormatError`] for a wish the source does not have, no rows, or too many.
pub fn read(source: &Source, wish: &Wish) -> Result<Reading, FormatError> {
    let (mut lines, head) = source.lines(wish)?;
    let known = Wish { header_line: Some(1), keep_total: true, keep_units: wish.keep_units || head == Head::Names, ..wish.clone() };
    let wish = if head == Head::Sought { wish } else { &known };
    let is_fixed = part_fixed(&mut lines, wish.delimiter)?;
    let delimiter = match (&lines, wish.delimiter) {
        _ if is_fixed => Some(b'\t'),
        (Lines::Sheet { .. }, _) => None,
        (Lines::Text { .. }, Some(sign)) => {
            Some(u8::try_from(sign).map_err(|_| FormatError::NoSuch { what: "delimiter", given: sign.into() })?)
        }
        (Lines::Text { text, .. }, None) => Some(layout::delimiter(text)),
    };
    if let (Lines::Text { text, .. }, Some(delimiter)) = (&lines, delimiter)
        && let Some(line) = layout::open_quote(text, delimiter)
    {
        return Err(FormatError::OpenQuote { name: source.name().to_owned(), line });
    }
    let body = Body::find(source.name(), &lines, delimiter, wish)?;
    let first = body.build(wish, LOOK_ROWS)?;
    let surprised = first.problem_count > 0 && body.rows > LOOK_ROWS;
    let built = if surprised { body.build(wish, usize::MAX)? } else { first };
    let (encoding, sheet) = match &lines {
        Lines::Text { encoding, .. } => (Some(encoding.name().to_owned()), None),
        Lines::Sheet { sheet, .. } => (None, Some(sheet.clone()).filter(|sheet| !sheet.is_empty())),
    };
    let read_as = ReadAs {
        encoding,
        delimiter: if is_fixed { Some(FIXED) } else { delimiter.map(char::from) },
        decimal: built.dress.decimal.into(),
        header_line: body.header_line,
        date_order: built.dress.dates,
        sheet,
        sheets: source.sheets(),
    };
    let mut notes = notes::of(&body, &read_as, built.date_reason, built.short_date.as_deref());
    notes.extend(match &lines {
        Lines::Text { doubts, .. } | Lines::Sheet { doubts, .. } => doubts.clone(),
    });
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

/// Puts tabs between columns of fixed width, where there are such or they are wished for; whether it did.
fn part_fixed(lines: &mut Lines, wished: Option<char>) -> Result<bool, FormatError> {
    let Lines::Text { text, .. } = lines else { return Ok(false) };
    if wished.is_some_and(|sign| sign != FIXED) {
        return Ok(false);
    }
    match fixed::columns(text) {
        Some(columns) => {
            *text = fixed::with_tabs(text, &columns);
            Ok(true)
        }
        None if wished == Some(FIXED) => Err(FormatError::NoSuch { what: "column of fixed width", given: "cells under each other".into() }),
        None => Ok(false),
    }
}

fn decimal_sign(sign: char) -> u8 {
    if sign == ',' { b',' } else { b'.' }
}

impl Body<'_> {
    /// Finds the kinds from the first `look` rows and builds the table.
    fn build(&self, wish: &Wish, look: usize) -> Result<Built, FormatError> {
        let plain = vec![None; self.width];
        let (mut looks, mut dress_look) = self.look(look, &plain);
        let kept =
            |index: usize| wish.columns.iter().any(|column| column.index == index && column.kind.is_some_and(|kind| !kind.is_numeric()));
        let affix = |(index, look): (usize, &ColumnLook)| look.affix().filter(|_| !kept(index)).cloned();
        let affixes: Vec<Option<Affix>> = looks.iter().enumerate().map(affix).collect();
        if affixes.iter().any(Option::is_some) {
            (looks, dress_look) = self.look(look, &affixes);
        }
        let (date_order, date_reason) = dress_look.date_order();
        let dress = Dress {
            decimal: wish.decimal.map_or_else(|| dress_look.decimal(self.delimiter), decimal_sign),
            dates: wish.date_order.unwrap_or(date_order),
            grouped: true,
        };
        let (mut columns, mut column_notes) = self.columns(wish, &looks, &dress_look, dress);
        for (column, affix) in columns.iter_mut().zip(&affixes).filter(|(column, _)| !column.left_out) {
            let Some(Affix { sign, .. }) = affix else { continue };
            column.unit.get_or_insert_with(|| sign.clone());
            let sentence = format!("{}: “{sign}” beside the numbers is taken as their unit.", column.name);
            column_notes.push(ReadNote { column: Some(column.index), ..ReadNote::fact("affix", sentence) });
        }
        let built = self.fill(wish, dress, date_reason, (columns, &affixes), column_notes);
        Ok(Built { short_date: dress_look.short_date().map(str::to_owned), ..built })
    }

    /// Looks at so many rows; cells without what stands beside their number.
    fn look(&self, rows: usize, affixes: &[Option<Affix>]) -> (Vec<ColumnLook>, DressLook) {
        let mut looks: Vec<ColumnLook> = (0..self.width).map(|_| ColumnLook::default()).collect();
        let mut dress = DressLook::default();
        let mut seen = 0;
        let mut stored = Stored::of(self.lines);
        each_record(self.lines, self.delimiter, |line, record| {
            if line >= self.first_row_line && Some(line) != self.total_line {
                let stored = stored.at(line);
                for (index, (column, cell)) in looks.iter_mut().zip(record.iter()).enumerate() {
                    let cell = affixes[index].as_ref().map_or(cell, |affix| affix.strip(cell));
                    if stored.get(index) == Some(&true) { column.see_stored(cell) } else { column.see(cell, &mut dress) }
                }
                seen += 1;
            }
            seen < rows
        });
        (looks, dress)
    }

    /// Names, kinds and decimal signs, wishes applied: empty names are numbered, repeated ones too.
    fn columns(&self, wish: &Wish, looks: &[ColumnLook], file: &DressLook, dress: Dress) -> (Vec<ReadColumn>, Vec<ReadNote>) {
        let mut columns: Vec<ReadColumn> = Vec::with_capacity(self.width);
        let mut renamed = Vec::new();
        let mut notes = Vec::new();
        for (index, (header, look)) in self.header.iter().zip(looks).enumerate() {
            let wished = wish.columns.iter().rev().find(|column| column.index == index);
            let given = wished.and_then(|wish| wish.name.as_deref()).unwrap_or_else(|| as_meant(header));
            let name: String = given
                .split_whitespace()
                .collect::<Vec<_>>()
                .join(" ")
                .chars()
                .filter(|letter| !letter.is_control())
                .take(bounds::NAME_CHARS)
                .collect();
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
            if let Some(name) = look.named().filter(|_| !kind.is_numeric() && !left_out && wished.is_none_or(|wish| wish.kind.is_none())) {
                let number = name.parse::<f64>().map_or_else(|_| String::new(), |value| value.to_string());
                let sentence = format!("{unique}: “{name}” is kept as it is written, as a label. As a number it would be {number}.");
                notes.push(ReadNote::either("labels", index, sentence, [name.to_owned(), number]));
            }
            if look.mixes_zones() && kind == Kind::DateTime && !left_out {
                let sentence = format!("{unique}: some times say their zone and others do not; those that do are taken to UTC.");
                notes.push(ReadNote { column: Some(index), ..ReadNote::doubt("dates", sentence) });
            }
            if let Some(doubt) = doubt.filter(|_| kind.is_numeric() && !left_out) {
                let sentence = format!("{unique}: “{}” is read as {}. It could be {}.", doubt.text, doubt.read_as, doubt.instead);
                let note = ReadNote::either("decimal", index, sentence, [doubt.read_as.clone(), doubt.instead.clone()]);
                notes.push(ReadNote { detail: Some(doubt.reason.to_owned()), ..note });
            }
            columns.push(ReadColumn { index, name: unique, kind, unit, decimal: decimal.into(), left_out, sample: Vec::new() });
        }
        if !renamed.is_empty() {
            let note = ReadNote::doubt("names", format!("Empty or repeated column names: now {}.", renamed.join(", ")));
            notes.push(ReadNote { detail: Some("Names can be changed above each column.".into()), ..note });
        }
        (columns, notes)
    }

    fn fill(
        &self,
        wish: &Wish,
        dress: Dress,
        date_reason: DateReason,
        (mut columns, affixes): (Vec<ReadColumn>, &[Option<Affix>]),
        column_notes: Vec<ReadNote>,
    ) -> Built {
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
                    builder.push_label(as_meant(text.trim()));
                    continue;
                }
                let text = affixes[column.index].as_ref().map_or(text, |affix| affix.strip(text));
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
        Built { dress, date_reason, short_date: None, columns, column_notes, problems, problem_count, table }
    }
}

fn problem(row: usize, column: &ReadColumn, text: &str, dress: Dress) -> Misfit {
    let guess = column.kind.is_numeric().then(|| guess_number(text, dress.decimal)).flatten().map(|value| value.to_string());
    let text: String = text.trim().chars().take(bounds::SHOWN_CHARS).collect();
    Misfit { row, column: column.index, name: column.name.clone(), text, kind: column.kind, guess }
}

struct Built {
    dress: Dress,
    date_reason: DateReason,
    short_date: Option<String>,
    columns: Vec<ReadColumn>,
    column_notes: Vec<ReadNote>,
    problems: Vec<Misfit>,
    problem_count: usize,
    table: Table,
}
