//! Builds the table of a file whose columns are known.

use std::collections::HashMap;
use std::ops::Range;

use crate::affix::Affix;
use crate::body::{Body, Stored};
use crate::bounds;
use crate::cell::{ParseStyle, guess_number, parse_value, quick_number, value_of};
use crate::columns::decimal_sign;
use crate::export::as_meant;
use crate::reading::{Fix, Misfit, ReadColumn, ReadNote, ReadOptions};
use crate::signs;
use crate::stretches::Stretch;
use crate::table::{Builder, CellValue, Table, TableColumn, free_name};
use acorn_data::frame::{Kind, Values};
use acorn_maths::words::counted;
use rayon::prelude::*;

const SAMPLE_ROWS: usize = 7;

/// A column of the table as it grows.
struct ColumnFiller<'w> {
    column: &'w ReadColumn,
    affix: Option<&'w Affix>,
    style: ParseStyle,
    /// Whether a sign such as in "<0.5" is kept beside.
    splits: bool,
    values: Builder,
    /// The value above, where empty cells have it.
    above: Option<CellValue>,
    /// The rows that have a sign, and the first value with one as it stands.
    signs: Vec<(usize, &'static str)>,
    first: String,
    /// Texts that had spaces around them.
    padded: usize,
}

/// A column of all rows.
struct Finished {
    values: Values,
    /// The signs of its values, their number, and the first value with one.
    signs: Option<Values>,
    signed: usize,
    first: String,
    padded: usize,
}

impl<'w> ColumnFiller<'w> {
    fn new(
        column: &'w ReadColumn,
        affix: Option<&'w Affix>,
        style: ParseStyle,
        read_options: &ReadOptions,
        rows: usize,
    ) -> ColumnFiller<'w> {
        let asks = read_options.columns.iter().any(|wished| wished.index == column.index && wished.no_signs);
        ColumnFiller {
            column,
            affix,
            style: ParseStyle { decimal: decimal_sign(column.decimal), ..style },
            splits: column.kind.is_numeric() && !asks,
            values: Builder::new(column.kind, rows),
            above: column.fill_down.then_some(CellValue::Missing),
            signs: Vec::new(),
            first: String::new(),
            padded: 0,
        }
    }

    fn push(&mut self, value: CellValue, sign: Option<&'static str>) {
        if let Some(above) = &mut self.above {
            above.clone_from(&value);
        }
        if let Some(sign) = sign {
            self.signs.push((self.values.len(), sign));
        }
        self.values.push(value);
    }

    /// With what a later stretch of the column holds.
    fn and(mut self, later: ColumnFiller<'w>) -> ColumnFiller<'w> {
        let before = self.values.len();
        if self.signs.is_empty() {
            self.first = later.first;
        }
        self.padded += later.padded;
        self.signs.extend(later.signs.into_iter().map(|(row, sign)| (before + row, sign)));
        self.values.append(later.values);
        self
    }

    fn finish(self) -> Finished {
        let signs = self.sign_values();
        Finished { values: self.values.finish(), signs, signed: self.signs.len(), first: self.first, padded: self.padded }
    }

    /// The signs of all rows, where there are any.
    fn sign_values(&self) -> Option<Values> {
        self.signs.first()?;
        let mut signs = Builder::new(Kind::Category, self.values.len());
        let mut signed = self.signs.iter().peekable();
        for row in 0..self.values.len() {
            match signed.next_if(|(at, _)| *at == row) {
                Some((_, sign)) => signs.push_label(sign),
                None => signs.push(CellValue::Missing),
            }
        }
        Some(signs.finish())
    }

    /// Takes the next cell; what it says where that does not fit, and how it was read.
    fn take<'t>(&mut self, cell: &'t str, is_stored: bool) -> Option<(&'t str, ParseStyle)> {
        if self.column.kind.is_numeric()
            && self.above.is_none()
            && let Some(value) = quick_number(cell, if is_stored { b'.' } else { self.style.decimal })
            && (self.column.kind == Kind::Number || value.fract() == 0.0)
        {
            self.values.push(CellValue::Number(value));
            return None;
        }
        let is_empty = cell.trim().is_empty();
        if is_empty && let Some(above) = self.above.clone() {
            self.push(above, None);
            return None;
        }
        if matches!(self.column.kind, Kind::Category | Kind::Text) && cell.len() <= bounds::CELL_CHARS && !is_empty && self.above.is_none()
        {
            let text = cell.trim();
            self.padded += usize::from(text.len() < cell.len());
            self.values.push_label(as_meant(text));
            return None;
        }
        let text = self.affix.map_or(cell, |affix| affix.strip(cell));
        let (sign, number) = signs::split(text).filter(|_| self.splits).map_or((None, text), |(sign, rest)| (Some(sign), rest));
        let style = if is_stored { ParseStyle::STORED } else { self.style };
        let value = value_of(self.column.kind, number, style);
        let unfit = value.is_none();
        if !unfit && sign.is_some() && self.signs.is_empty() {
            text.trim().clone_into(&mut self.first);
        }
        self.push(value.unwrap_or(CellValue::Missing), sign.filter(|_| !unfit));
        unfit.then_some((text, style))
    }
}

impl Body<'_> {
    /// The table, values that do not fit missing, and what is to be said of it.
    pub fn fill(
        &self,
        read_options: &ReadOptions,
        style: ParseStyle,
        mut columns: Vec<ReadColumn>,
        affixes: &[Option<Affix>],
    ) -> FilledTable {
        let fixes: HashMap<(usize, usize), &Fix> = read_options.fixes.iter().map(|fix| ((fix.row, fix.column), fix)).collect();
        // A value is carried down over the ends of stretches.
        let whole = [(Stretch::whole(self.lines), 0..self.rows)];
        let parts = if columns.iter().any(|column| column.fill_down) { &whole[..] } else { self.parts() };
        let kept: Vec<&ReadColumn> = columns.iter().filter(|column| !column.left_out).collect();
        let filled = |part: &(Stretch, Range<usize>)| {
            // The first takes up the others.
            let rows = if part.1.start == 0 { self.rows } else { part.1.len() };
            let fillers = kept.iter().map(|column| ColumnFiller::new(column, affixes[column.index].as_ref(), style, read_options, rows));
            self.fill_part(part, read_options, &fixes, fillers.collect())
        };
        let filled: Vec<Part> = parts.par_iter().map(filled).collect();
        let problem_count = filled.iter().map(|part| part.problem_count).sum();
        let mut problems = Vec::new();
        let mut of_columns: Vec<Vec<ColumnFiller>> = kept.iter().map(|_| Vec::with_capacity(parts.len())).collect();
        for part in filled {
            problems.extend(part.problems);
            of_columns.iter_mut().zip(part.fillers).for_each(|(column, filler)| column.push(filler));
        }
        problems.truncate(bounds::PROBLEMS_LISTED);
        let finish = |stretches: Vec<ColumnFiller>| stretches.into_iter().reduce(ColumnFiller::and).map(ColumnFiller::finish);
        let finished: Vec<Option<Finished>> = of_columns.into_par_iter().map(finish).collect();
        let mut table = Table { columns: Vec::new(), rows: self.rows };
        let (mut notes, mut told) = (Vec::new(), Vec::new());
        let padded: usize = finished.iter().flatten().map(|column| column.padded).sum();
        if padded > 0 {
            let texts = counted(padded, "text", "texts");
            notes.push(ReadNote::fact("spaces", format!("Spaces before or after {texts} are removed.")));
        }
        for (column, finished) in kept.into_iter().zip(finished) {
            let Some(Finished { values, signs, signed, first, .. }) = finished else { continue };
            let sample = (0..self.rows.min(SAMPLE_ROWS)).map(|row| values.text(row)).collect::<Vec<_>>();
            table.columns.push(TableColumn { name: column.name.clone(), kind: column.kind, unit: column.unit.clone(), values });
            let sign_column = signs.map(|values| {
                let taken = |name: &str| columns.iter().any(|other| other.name == name);
                let name = free_name(&format!("{} sign", column.name), taken);
                notes.push(signs::note(column, &name, signed, &first));
                table.columns.push(TableColumn { name: name.clone(), kind: Kind::Category, unit: None, values });
                name
            });
            told.push((column.index, sample, sign_column));
        }
        for (index, sample, sign_column) in told {
            (columns[index].sample, columns[index].sign_column) = (sample, sign_column);
        }
        FilledTable { columns, notes, problems, problem_count, table }
    }

    fn fill_part<'w>(
        &self,
        part: &(Stretch, Range<usize>),
        read_options: &ReadOptions,
        fixes: &HashMap<(usize, usize), &Fix>,
        mut fillers: Vec<ColumnFiller<'w>>,
    ) -> Part<'w> {
        let (mut problems, mut problem_count) = (Vec::new(), 0);
        let mut stored = Stored::of(self.lines);
        self.each_row_of(part, |row, line, record| {
            let stored = stored.at(line);
            for filler in &mut fillers {
                let index = filler.column.index;
                if let Some(fix) = fixes.get(&(row + 1, index)) {
                    let fixed = fix.text.as_deref().map_or(Ok(CellValue::Missing), |text| parse_value(filler.column.kind, text));
                    if let Ok(value) = fixed {
                        filler.push(value, None);
                        continue;
                    }
                }
                let unfit = filler.take(record.get(index).unwrap_or_default(), stored.get(index) == Some(&true));
                if let Some((text, style)) = unfit.filter(|_| !read_options.unfit_as_missing) {
                    problem_count += 1;
                    if problems.len() < bounds::PROBLEMS_LISTED {
                        problems.push(problem(row + 1, filler.column, text, style));
                    }
                }
            }
        });
        Part { fillers, problems, problem_count }
    }
}

/// A stretch of the table, with what does not fit in it.
#[derive(Default)]
struct Part<'w> {
    fillers: Vec<ColumnFiller<'w>>,
    problems: Vec<Misfit>,
    problem_count: usize,
}

/// A table with what was found while it was filled.
pub(crate) struct FilledTable {
    pub columns: Vec<ReadColumn>,
    pub notes: Vec<ReadNote>,
    pub problems: Vec<Misfit>,
    pub problem_count: usize,
    pub table: Table,
}

fn problem(row: usize, column: &ReadColumn, text: &str, style: ParseStyle) -> Misfit {
    let guess = column.kind.is_numeric().then(|| guess_number(text, style.decimal)).flatten().map(|value| value.to_string());
    let text: String = text.trim().chars().take(bounds::SHOWN_CHARS).collect();
    Misfit { row, column: column.index, name: column.name.clone(), text, kind: column.kind, guess }
}
