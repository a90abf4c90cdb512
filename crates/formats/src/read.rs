//! Reads a source: finds its layout and kinds, applies the corrections, builds the table.

use crate::affix::Affix;
use crate::body::Body;
use crate::cell::ParseStyle;
use crate::columns::decimal_sign;
use crate::error::FormatError;
use crate::fixed::{self, FIXED};
use crate::infer::{ColumnLook, DateReason};
use crate::layout;
use crate::lines::Lines;
use crate::notes;
use crate::reading::{Misfit, ReadAs, ReadColumn, ReadNote, ReadOptions, Reading};
use crate::source::{Head, Source};
use crate::table::Table;

/// Rows looked at to find the kinds; a surprise further down starts a look at all of them.
const LOOK_ROWS: usize = 20_000;

/// Reads a source as it seems, or as wished.
///
/// # Errors
/// [`FormatError`] for a wish the source does not have, no rows, or too many.
pub fn read(source: &Source, read_options: &ReadOptions) -> Result<Reading, FormatError> {
    let (mut lines, head) = source.lines(read_options)?;
    let known = ReadOptions {
        header_line: Some(1),
        keep_total: true,
        keep_units: read_options.keep_units || head == Head::Names,
        ..read_options.clone()
    };
    let read_options = if head == Head::Unknown { read_options } else { &known };
    let is_fixed = part_fixed(&mut lines, read_options.delimiter)?;
    let delimiter = match (&lines, read_options.delimiter) {
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
    let body = Body::find(source.name(), &lines, delimiter, read_options)?;
    let first = body.build(read_options, LOOK_ROWS)?;
    let surprised = first.problem_count > 0 && body.rows > LOOK_ROWS;
    let built = if surprised { body.build(read_options, usize::MAX)? } else { first };
    let (encoding, sheet) = match &lines {
        Lines::Text { encoding, .. } => (Some(encoding.name().to_owned()), None),
        Lines::Sheet { sheet, .. } => (None, Some(sheet.clone()).filter(|sheet| !sheet.is_empty())),
    };
    let read_as = ReadAs {
        encoding,
        delimiter: if is_fixed { Some(FIXED) } else { delimiter.map(char::from) },
        decimal: built.style.decimal.into(),
        header_line: body.header_line,
        date_order: built.style.dates,
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
            *text = fixed::with_tabs(text, &columns).into();
            Ok(true)
        }
        None if wished == Some(FIXED) => Err(FormatError::NoSuch { what: "column of fixed width", given: "cells under each other".into() }),
        None => Ok(false),
    }
}

impl Body<'_> {
    /// Finds the kinds from the first `look` rows and builds the table.
    fn build(&self, read_options: &ReadOptions, look: usize) -> Result<Built, FormatError> {
        let plain = vec![None; self.width];
        let (mut looks, mut dress_look) = self.look(look, &plain);
        let kept = |index: usize| {
            read_options.columns.iter().any(|column| column.index == index && column.kind.is_some_and(|kind| !kind.is_numeric()))
        };
        let affix = |(index, look): (usize, &ColumnLook)| look.affix().filter(|_| !kept(index)).cloned();
        let affixes: Vec<Option<Affix>> = looks.iter().enumerate().map(affix).collect();
        if affixes.iter().any(Option::is_some) {
            (looks, dress_look) = self.look(look, &affixes);
        }
        let (date_order, date_reason) = dress_look.date_order();
        let style = ParseStyle {
            decimal: read_options.decimal.map_or_else(|| dress_look.decimal(self.delimiter), decimal_sign),
            dates: read_options.date_order.unwrap_or(date_order),
            grouped: true,
        };
        let (mut columns, mut column_notes) = self.columns(read_options, &looks, &dress_look, style);
        for (column, affix) in columns.iter_mut().zip(&affixes).filter(|(column, _)| !column.left_out) {
            let Some(Affix { sign, .. }) = affix else { continue };
            column.unit.get_or_insert_with(|| sign.clone());
            let sentence = format!("{}: “{sign}” beside the numbers is taken as their unit.", column.name);
            column_notes.push(ReadNote { column: Some(column.index), ..ReadNote::fact("affix", sentence) });
        }
        let filled = self.fill(read_options, style, columns, &affixes);
        column_notes.extend(filled.notes);
        Ok(Built {
            style,
            date_reason,
            short_date: dress_look.short_date().map(str::to_owned),
            columns: filled.columns,
            column_notes,
            problems: filled.problems,
            problem_count: filled.problem_count,
            table: filled.table,
        })
    }
}

/// What was built of a file.
struct Built {
    style: ParseStyle,
    date_reason: DateReason,
    short_date: Option<String>,
    columns: Vec<ReadColumn>,
    column_notes: Vec<ReadNote>,
    problems: Vec<Misfit>,
    problem_count: usize,
    table: Table,
}
