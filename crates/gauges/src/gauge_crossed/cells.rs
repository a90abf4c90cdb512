//! Readings by part and operator.

use super::params::Params;
use acorn_data::frame::{Groups, Missing, NO_GROUP};
use acorn_study::reading::{bad, numbers};
use acorn_study::{Cancel, StudyError};

/// Most parts.
const PARTS_MOST: usize = 100_000;
/// Most operators.
const OPERATORS_MOST: usize = 10_000;
/// Most cells of parts and operators.
const CELLS_MOST: usize = 4_000_000;

/// Every operator's readings of every part.
pub struct Cells {
    /// Names of the parts that were read, in order of first appearance.
    pub parts: Vec<String>,
    /// Names of the operators who read, in order of first appearance.
    pub operators: Vec<String>,
    /// Part after part, in each operator after operator, in each reading after reading.
    pub values: Vec<f64>,
    /// The row of each.
    pub rows: Vec<usize>,
    /// Where each cell ends.
    ends: Vec<usize>,
    /// Rows that name a part and an operator.
    pub asked: usize,
    /// Rows without a reading, a part or an operator.
    pub missing: usize,
    /// Operators who have rows but no reading yet.
    pub unread: Vec<String>,
}

impl Cells {
    /// Gathers the readings.
    ///
    /// # Errors
    /// [`StudyError::TooFewValues`] without a reading; [`StudyError::BadOption`] below two parts;
    /// [`StudyError::TooManyGroups`]; [`StudyError::Stopped`].
    pub fn of(params: &Params, cancel: &Cancel) -> Result<Cells, StudyError> {
        let values = numbers(params.measure, "measurement")?;
        let frame = params.frame;
        let parts = frame.groups(&[params.part], None, Missing::Left, PARTS_MOST)?;
        let operators = frame.groups(&[params.operator], None, Missing::Left, OPERATORS_MOST)?;
        cancel.check()?;
        let (part_of, operator_of) = (parts.of_rows(values.len()), operators.of_rows(values.len()));
        let is_asked = |row: &usize| part_of[*row] != NO_GROUP && operator_of[*row] != NO_GROUP;
        let asked: Vec<usize> = (0..values.len()).filter(is_asked).collect();
        let kept: Vec<usize> = asked.iter().copied().filter(|&row| !values[row].is_nan()).collect();
        if kept.is_empty() {
            return Err(StudyError::TooFewValues { column: params.measure.name.clone(), have: 0, need: 4 });
        }
        let read_parts = Read::of(&parts, kept.iter().map(|&row| part_of[row]));
        let read_operators = Read::of(&operators, kept.iter().map(|&row| operator_of[row]));
        let (p, o) = (read_parts.names.len(), read_operators.names.len());
        if p.saturating_mul(o) > CELLS_MOST {
            return Err(bad("part", format!("{p} parts by {o} operators are more than {CELLS_MOST} cells")));
        }
        if p < 2 {
            let problem = match parts.len() {
                0 | 1 => "one part tells nothing about the others; read two parts or more, best ten that span the process".to_owned(),
                all => format!("only part {} of {all} has a reading yet; read another", read_parts.names.concat()),
            };
            return Err(bad("part", problem));
        }
        let cell_of = |row: usize| read_parts.place[part_of[row]] * o + read_operators.place[operator_of[row]];
        let mut ends = vec![0usize; p * o];
        kept.iter().for_each(|&row| ends[cell_of(row)] += 1);
        let mut next = vec![0usize; p * o];
        let mut total = 0;
        for (cell, end) in ends.iter_mut().enumerate() {
            next[cell] = total;
            total += *end;
            *end = total;
        }
        let mut cells = Cells {
            parts: read_parts.names,
            operators: read_operators.names,
            values: vec![0.0; kept.len()],
            rows: vec![0; kept.len()],
            ends,
            asked: asked.len(),
            missing: values.len() - kept.len(),
            unread: read_operators.unread,
        };
        for &row in &kept {
            let place = &mut next[read_parts.place[part_of[row]] * o + read_operators.place[operator_of[row]]];
            (cells.values[*place], cells.rows[*place]) = (values[row], row);
            *place += 1;
        }
        Ok(cells)
    }

    /// How many cells there are, empty ones too.
    pub fn len(&self) -> usize {
        self.ends.len()
    }

    /// The readings of a cell by its number.
    pub fn nth(&self, cell: usize) -> &[f64] {
        &self.values[self.start(cell)..self.ends[cell]]
    }

    /// The number of the first reading of a cell.
    pub fn start(&self, cell: usize) -> usize {
        if cell == 0 { 0 } else { self.ends[cell - 1] }
    }

    /// The readings of a part by an operator.
    pub fn cell(&self, part: usize, operator: usize) -> &[f64] {
        self.nth(part * self.operators.len() + operator)
    }

    /// All readings of a part.
    pub fn of_part(&self, part: usize) -> &[f64] {
        let o = self.operators.len();
        &self.values[self.start(part * o)..self.ends[part * o + o - 1]]
    }

    /// The part and the operator of a reading.
    pub fn whose(&self, reading: usize) -> (usize, usize) {
        let cell = self.ends.partition_point(|end| *end <= reading);
        (cell / self.operators.len(), cell % self.operators.len())
    }

    /// Readings in each cell, when they are equally many everywhere.
    pub fn trials(&self) -> Option<usize> {
        let first = self.ends[0];
        (0..self.len()).all(|cell| self.ends[cell] - self.start(cell) == first).then_some(first)
    }
}

/// Which labels were read, and the place of each among them.
struct Read {
    names: Vec<String>,
    place: Vec<usize>,
    unread: Vec<String>,
}

impl Read {
    fn of(groups: &Groups, read: impl Iterator<Item = usize>) -> Read {
        let mut is_read = vec![false; groups.len()];
        read.for_each(|group| is_read[group] = true);
        let mut of = Read { names: Vec::new(), place: vec![NO_GROUP; groups.len()], unread: Vec::new() };
        for (group, is_read) in is_read.into_iter().enumerate() {
            let name = groups.label(group).unwrap_or_default().to_owned();
            if is_read {
                of.place[group] = of.names.len();
                of.names.push(name);
            } else {
                of.unread.push(name);
            }
        }
        of
    }
}

/// The largest less the smallest.
pub fn range(values: &[f64]) -> f64 {
    let (low, high) = values.iter().fold((f64::INFINITY, f64::NEG_INFINITY), |(low, high), &value| (low.min(value), high.max(value)));
    high - low
}
