//! Specification limits that differ between rows: those of a product, or those that held from a day on.

use std::borrow::Cow;
use std::collections::HashMap;
use std::sync::Arc;

use serde::{Deserialize, Serialize};

use super::{Column, ColumnInfo, Frame, NO_TIME, Values, moments_named};
use acorn_maths::words::{ValueFormat, typed};

/// Most rows of a table of limits.
pub const LIMIT_ROWS_MOST: usize = 5_000;

/// A lower and an upper specification limit, and the aim between them, in the unit of the column.
#[derive(Clone, Copy, Debug, Default, PartialEq, Serialize, Deserialize, utoipa::ToSchema)]
pub struct Limits {
    /// Lower specification limit.
    #[serde(default)]
    pub lsl: Option<f64>,
    /// The aim.
    #[serde(default)]
    pub target: Option<f64>,
    /// Upper specification limit.
    #[serde(default)]
    pub usl: Option<f64>,
}

impl Limits {
    /// Whether a value lies beyond one of them; a missing one does not.
    pub fn are_passed_by(&self, value: f64) -> bool {
        self.side(value) != 0
    }

    /// On which side a value lies beyond them: -1 below, 1 above, 0 on neither.
    pub fn side(&self, value: f64) -> i8 {
        i8::from(self.usl.is_some_and(|usl| value > usl)) - i8::from(self.lsl.is_some_and(|lsl| value < lsl))
    }

    /// What is wrong with them, in a sentence.
    ///
    /// # Errors
    /// A number that is none, or limits the wrong way round.
    pub fn check(&self) -> Result<(), String> {
        match *self {
            Limits { lsl: Some(lsl), usl: Some(usl), .. } if lsl >= usl => Err(format!("LSL {lsl} is not below USL {usl}")),
            Limits { lsl, target, usl } if [lsl, target, usl].into_iter().flatten().any(|value| !value.is_finite()) => {
                Err("limits must be finite numbers".to_owned())
            }
            _ => Ok(()),
        }
    }

    /// The limits in words: "2.3 to 2.5", "at most 1.2".
    pub fn display_text(&self) -> String {
        match (self.lsl, self.usl) {
            (Some(lsl), Some(usl)) => format!("{} to {}", typed(lsl), typed(usl)),
            (Some(lsl), None) => format!("at least {}", typed(lsl)),
            (None, Some(usl)) => format!("at most {}", typed(usl)),
            (None, None) => "no limits".to_owned(),
        }
    }
}

/// Which limits hold for which rows of a column. Rows that none of its lines is about have the column's own.
#[derive(Clone, Debug, Default, PartialEq, Serialize, Deserialize, utoipa::ToSchema)]
pub struct LimitTable {
    /// The column that tells the products or parts apart, by its number in the dataset.
    #[serde(default, skip_serializing_if = "Option::is_none")]
    pub by: Option<i64>,
    /// The column of the moments at which rows were measured, by its number.
    #[serde(default, skip_serializing_if = "Option::is_none")]
    pub since: Option<i64>,
    /// The limits.
    pub rows: Vec<LimitRow>,
}

/// One line of a table of limits.
#[derive(Clone, Debug, Default, PartialEq, Serialize, Deserialize, utoipa::ToSchema)]
pub struct LimitRow {
    /// The product that it is about; every one that has no line of its own when absent.
    #[serde(default, skip_serializing_if = "Option::is_none")]
    pub of: Option<String>,
    /// The day or moment from which it holds, as `2026-05-04` or `2026-05-04 06:00`; since ever when absent.
    #[serde(default, skip_serializing_if = "Option::is_none")]
    pub from: Option<String>,
    /// The limits.
    #[serde(flatten)]
    pub limits: Limits,
}

impl LimitRow {
    fn begins(&self) -> i64 {
        self.from.as_deref().and_then(moments_named).map_or(i64::MIN, |[first, _]| first)
    }
}

impl LimitTable {
    /// The table with blanks trimmed, or nothing when it says nothing.
    ///
    /// # Errors
    /// What cannot be: limits the wrong way round, a day that is none, two lines about the same rows, products without a column
    /// that tells them, in a sentence that names the line.
    pub fn checked(mut self) -> Result<Option<LimitTable>, String> {
        let kept = |text: Option<String>| text.map(|text| text.trim().to_owned()).filter(|text| !text.is_empty());
        if self.rows.len() > LIMIT_ROWS_MOST {
            return Err(format!("a table of limits has {LIMIT_ROWS_MOST} lines at most"));
        }
        let mut told = HashMap::new();
        for (place, row) in self.rows.iter_mut().enumerate() {
            (row.of, row.from) = (kept(row.of.take()), kept(row.from.take()));
            let wrong = |problem: String| Err(format!("line {} of the limits: {problem}", place + 1));
            if let Err(problem) = row.limits.check() {
                return wrong(problem);
            }
            if row.of.is_some() && self.by.is_none() {
                return wrong("no column says which rows are of a product".to_owned());
            }
            if let Some(from) = row.from.as_deref() {
                if self.since.is_none() {
                    return wrong("no column says when a row was measured".to_owned());
                }
                if moments_named(from).is_none() {
                    return wrong(format!("“{from}” is no day; write it as 2026-05-04"));
                }
            }
            if let Some(before) = told.insert((row.of.clone(), row.begins()), place + 1) {
                return wrong(format!("line {before} is about the same rows"));
            }
        }
        Ok((!self.rows.is_empty()).then_some(self))
    }

    /// The limits that hold for a product at a moment: those of its latest line by then, or of the lines about every product where it
    /// has none. `None` leaves the column's own.
    pub fn limits_of(&self, product: Option<&str>, at: Option<i64>) -> Option<Limits> {
        latest(&self.lines_of(product), at).map(|line| self.rows[line].limits)
    }

    /// The lines about a product with their beginnings, in order of these.
    fn lines_of(&self, product: Option<&str>) -> Vec<(i64, usize)> {
        let about = |of: Option<&str>| {
            let lines = self.rows.iter().enumerate().filter(|(_, row)| row.of.as_deref() == of);
            let mut lines: Vec<_> = lines.map(|(line, row)| (row.begins(), line)).collect();
            lines.sort_unstable();
            lines
        };
        match product.map(|product| about(Some(product.trim()))) {
            Some(own) if !own.is_empty() => own,
            _ => about(None),
        }
    }

    /// The limits of each row, from the columns that choose them; a column that is gone chooses nothing.
    pub fn held(&self, info: &ColumnInfo, by: Option<(&str, &Values)>, since: Option<(&str, &Values)>, rows: usize) -> RowLimits {
        let mut sets = vec![info.limits()];
        let codes_of_lines: Vec<u32> = self.rows.iter().map(|row| code_of(&mut sets, row.limits)).collect();
        let code = |lines: &[(i64, usize)], at| latest(lines, at).map_or(0, |line| codes_of_lines[line]);
        let at = |row: usize| match since {
            Some((_, Values::Time(times))) => Some(times[row]).filter(|time| *time != NO_TIME),
            _ => None,
        };
        let codes = match by {
            None => {
                let lines = self.lines_of(None);
                (0..rows).map(|row| code(&lines, at(row))).collect()
            }
            Some((_, by)) => {
                let mut of_products = HashMap::new();
                let mut lines = |row: usize| -> u32 {
                    let lines = of_products.entry(by.key(row)).or_insert_with(|| self.lines_of(by.text(row).as_deref()));
                    code(lines, at(row))
                };
                (0..rows).map(&mut lines).collect()
            }
        };
        let name = |column: Option<(&str, &Values)>| column.map(|(name, _)| name.into());
        RowLimits { codes, sets: sets.into(), by: name(by), since: name(since) }
    }
}

/// The latest line that has begun; one that holds since ever where there is no moment.
fn latest(lines: &[(i64, usize)], at: Option<i64>) -> Option<usize> {
    let begun = lines.partition_point(|(begins, _)| *begins <= at.unwrap_or(i64::MIN));
    begun.checked_sub(1).map(|last| lines[last].1)
}

/// The code of limits among those seen.
fn code_of(sets: &mut Vec<Limits>, limits: Limits) -> u32 {
    let known = sets.iter().position(|set| *set == limits);
    known.unwrap_or_else(|| {
        sets.push(limits);
        sets.len() - 1
    }) as u32
}

/// The limits of each row of a column.
#[derive(Clone, Debug, PartialEq)]
pub struct RowLimits {
    /// Which of the sets holds, a row each.
    codes: Arc<[u32]>,
    /// The different limits.
    sets: Arc<[Limits]>,
    /// The name of the column that tells the products apart.
    pub by: Option<Arc<str>>,
    /// The name of the column that says when a row was measured.
    pub since: Option<Arc<str>>,
}

impl RowLimits {
    /// The limits of a row.
    pub fn limits(&self, row: usize) -> Limits {
        self.sets[self.codes[row] as usize]
    }

    /// Those of some rows.
    pub(super) fn at(&self, positions: &[usize]) -> RowLimits {
        RowLimits { codes: positions.iter().map(|&row| self.codes[row]).collect(), ..self.clone() }
    }

    /// The limits that hold for rows with a value, and for how many, in order of first appearance.
    fn in_use(&self, values: &Values) -> Vec<(Limits, usize)> {
        let mut counts = vec![0; self.sets.len()];
        let mut order = Vec::new();
        for (_, code) in self.codes.iter().enumerate().filter(|(row, _)| !values.is_missing(*row)) {
            if counts[*code as usize] == 0 {
                order.push(*code as usize);
            }
            counts[*code as usize] += 1;
        }
        order.into_iter().map(|code| (self.sets[code], counts[code])).collect()
    }
}

impl ColumnInfo {
    /// A writer of its values, which carry `found` decimals unless it says otherwise.
    pub fn writer(&self, found: u8) -> ValueFormat {
        ValueFormat::plain(self.decimals.unwrap_or(found).into()).in_unit(self.unit.as_deref().unwrap_or_default())
    }

    /// The limits of every row that has no others.
    pub fn limits(&self) -> Limits {
        Limits { lsl: self.lsl, target: self.target, usl: self.usl }
    }

    /// Whether any of its rows may have a specification limit.
    pub fn is_limited(&self) -> bool {
        let table = self.limit_table.iter().flat_map(|table| &table.rows).map(|row| row.limits);
        table.chain([self.limits()]).any(|limits| limits.lsl.is_some() || limits.usl.is_some())
    }

    /// The limits of a row that has not come yet: of a product at a moment.
    pub fn limits_of(&self, product: Option<&str>, at: Option<i64>) -> Limits {
        self.limit_table.as_ref().and_then(|table| table.limits_of(product, at)).unwrap_or_else(|| self.limits())
    }
}

impl Column {
    /// The limits of a row.
    pub fn limits(&self, row: usize) -> Limits {
        self.held.as_ref().map_or_else(|| self.info.limits(), |held| held.limits(row))
    }

    /// The positions of the values beyond their limits.
    pub fn beyond(&self) -> Vec<usize> {
        let Values::Number(values) = &self.values else { return Vec::new() };
        values.iter().enumerate().filter(|(row, value)| self.limits(*row).are_passed_by(**value)).map(|(row, _)| row).collect()
    }

    /// The different limits of its rows and how many have each, where there are several.
    pub fn differing(&self) -> Option<Vec<(Limits, usize)>> {
        self.held.as_ref().map(|held| held.in_use(&self.values)).filter(|sets| sets.len() > 1)
    }

    /// The column with limits that all of its rows share as its own, or none where they differ.
    fn with_shared_limits(&self) -> Column {
        let Some(held) = &self.held else { return self.clone() };
        let sets = held.in_use(&self.values);
        let (shared, held) = match sets[..] {
            [] => (self.info.limits(), None),
            [(shared, _)] => (shared, None),
            _ => (Limits::default(), Some(held.clone())),
        };
        let Limits { lsl, target, usl } = shared;
        Column { info: ColumnInfo { lsl, target, usl, ..self.info.clone() }, held, ..self.clone() }
    }
}

impl Frame {
    /// The frame for a question about all of its rows: limits that they share are the column's, limits that differ are none of them.
    pub fn with_shared_limits(frame: Cow<'_, Frame>) -> Cow<'_, Frame> {
        if frame.columns.iter().all(|column| column.held.is_none()) {
            return frame;
        }
        let columns = frame.columns.iter().map(Column::with_shared_limits).collect();
        Cow::Owned(Frame { columns, ..frame.into_owned() })
    }
}
