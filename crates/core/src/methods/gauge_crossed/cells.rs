//! Readings by part and operator.

use super::params::Params;
use crate::frame::{Groups, Missing};
use crate::study::filled::{bad, numbers};
use crate::study::words::counted;
use crate::study::{Cancel, StudyError};

/// Most parts.
const PARTS_MOST: usize = 100_000;
/// Most operators.
const OPERATORS_MOST: usize = 10_000;
/// Most cells of parts and operators.
const CELLS_MOST: usize = 4_000_000;

/// Every operator's readings of every part, equally many in each cell.
pub struct Cells {
    /// Names of the parts, in order of first appearance.
    pub parts: Vec<String>,
    /// Names of the operators, in order of first appearance.
    pub operators: Vec<String>,
    /// Readings of one part by one operator.
    pub trials: usize,
    /// Part after part, in each operator after operator, in each reading after reading.
    pub values: Vec<f64>,
    /// The row of each.
    pub rows: Vec<usize>,
    /// Rows without a reading, a part or an operator.
    pub missing: usize,
}

impl Cells {
    /// Gathers the readings.
    ///
    /// # Errors
    /// [`StudyError::TooFewValues`] without a reading; [`StudyError::BadOption`] below two parts, or when a cell has fewer
    /// readings than others, which is named; [`StudyError::TooManyGroups`]; [`StudyError::Stopped`].
    pub fn of(params: &Params, cancel: &Cancel) -> Result<Cells, StudyError> {
        let values = numbers(params.measure, "measurement")?;
        let frame = params.frame;
        let parts = frame.groups(&[params.part], None, Missing::Left, PARTS_MOST)?;
        let operators = frame.groups(&[params.operator], None, Missing::Left, OPERATORS_MOST)?;
        cancel.check()?;
        let part_of = places(&parts, values.len());
        let operator_of = places(&operators, values.len());
        let there = |row: &usize| !values[*row].is_nan() && part_of[*row] != NONE && operator_of[*row] != NONE;
        let kept: Vec<usize> = (0..values.len()).filter(there).collect();
        if kept.is_empty() {
            return Err(StudyError::TooFewValues { column: params.measure.name.clone(), have: 0, need: 4 });
        }
        let (p, o) = (parts.len(), operators.len());
        if p.saturating_mul(o) > CELLS_MOST {
            return Err(bad("part", format!("{p} parts by {o} operators are more than {CELLS_MOST} cells")));
        }
        if p < 2 {
            return Err(bad("part", "one part tells nothing about the others; read two parts or more, best ten that span the process"));
        }
        let mut counts = vec![0usize; p * o];
        kept.iter().for_each(|&row| counts[part_of[row] * o + operator_of[row]] += 1);
        let trials = counts.iter().copied().max().unwrap_or(0);
        if let Some(short) = counts.iter().position(|count| *count != trials) {
            let (part, operator) = (parts.label(short / o).unwrap_or_default(), operators.label(short % o).unwrap_or_default());
            let cells = counts.iter().filter(|count| **count != trials).count();
            let more = if cells > 1 { format!(", and so in {}", counted(cells - 1, "other cell", "other cells")) } else { String::new() };
            let readings = counted(counts[short], "reading", "readings");
            return Err(bad(
                "measure",
                format!(
                    "{operator} has {readings} of part {part} where others have {trials}{more}; read what is missing, or leave out the parts that not everyone has read equally often"
                ),
            ));
        }
        let mut next: Vec<usize> = (0..p * o).map(|cell| cell * trials).collect();
        let mut cells = Cells {
            parts: names(&parts),
            operators: names(&operators),
            trials,
            values: vec![0.0; kept.len()],
            rows: vec![0; kept.len()],
            missing: values.len() - kept.len(),
        };
        for row in kept {
            let place = &mut next[part_of[row] * o + operator_of[row]];
            (cells.values[*place], cells.rows[*place]) = (values[row], row);
            *place += 1;
        }
        Ok(cells)
    }

    /// The readings of a part by an operator.
    pub fn cell(&self, part: usize, operator: usize) -> &[f64] {
        let start = (part * self.operators.len() + operator) * self.trials;
        &self.values[start..start + self.trials]
    }

    /// All readings of a part.
    pub fn of_part(&self, part: usize) -> &[f64] {
        let each = self.operators.len() * self.trials;
        &self.values[part * each..(part + 1) * each]
    }

    /// The part and the operator of a reading.
    pub fn whose(&self, reading: usize) -> (usize, usize) {
        let cell = reading / self.trials;
        (cell / self.operators.len(), cell % self.operators.len())
    }
}

/// Of a row that belongs to no group.
const NONE: usize = usize::MAX;

fn places(groups: &Groups, rows: usize) -> Vec<usize> {
    let mut places = vec![NONE; rows];
    for group in 0..groups.len() {
        groups.rows(group).iter().for_each(|&row| places[row] = group);
    }
    places
}

fn names(groups: &Groups) -> Vec<String> {
    (0..groups.len()).map(|group| groups.label(group).unwrap_or_default().to_owned()).collect()
}

/// The mean of values, from a pivot near them.
pub fn mean(values: &[f64]) -> f64 {
    let pivot = values.first().copied().unwrap_or(f64::NAN);
    pivot + values.iter().map(|value| value - pivot).sum::<f64>() / values.len() as f64
}

/// The largest less the smallest.
pub fn range(values: &[f64]) -> f64 {
    let (low, high) = values.iter().fold((f64::INFINITY, f64::NEG_INFINITY), |(low, high), &value| (low.min(value), high.max(value)));
    high - low
}
