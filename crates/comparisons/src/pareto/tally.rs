//! Sums by group and kind.

use super::params::Params;
use acorn_data::frame::{Coded, Column, NO_CODE, Values};
use acorn_study::{Cancel, StudyError};

/// What each row counts for; `None` when each is one.
struct Worth<'f> {
    count: Option<&'f [f64]>,
    weight: Option<&'f [f64]>,
}

/// Sums by group and kind, and the row at which each kind first comes.
pub struct Tally {
    /// How many kinds there are, groups apart.
    kinds: usize,
    /// Counts, weighed.
    sums: Vec<f64>,
    /// Of weighed counts: the counts themselves, and count × weight², the variance of the sum when counts are Poisson.
    counts: Vec<f64>,
    squares: Vec<f64>,
    pub first: Vec<usize>,
    pub rows: usize,
}

impl Tally {
    /// Counts every row.
    ///
    /// # Errors
    /// [`StudyError::BadValue`] for a count or a weight below 0; [`StudyError::Stopped`].
    pub fn of(params: &Params, kinds: &Coded, groups: Option<&Coded>, cancel: &Cancel) -> Result<Tally, StudyError> {
        let worth = Worth { count: column_numbers(params.count)?, weight: column_numbers(params.weight)? };
        let k = kinds.labels.len();
        let cells = k * groups.map_or(1, |groups| groups.labels.len());
        let of_weights = if worth.weight.is_some() { cells } else { 0 };
        let mut tally = Tally {
            kinds: k,
            sums: vec![0.0; cells],
            counts: vec![0.0; of_weights],
            squares: vec![0.0; of_weights],
            first: vec![usize::MAX; k],
            rows: 0,
        };
        for (row, &kind) in kinds.codes.iter().enumerate() {
            if row.is_multiple_of(1 << 18) {
                cancel.check()?;
            }
            let group = groups.map_or(0, |groups| groups.codes[row]);
            if kind == NO_CODE || group == NO_CODE {
                continue;
            }
            let count = worth.count.map_or(1.0, |counts| counts[row]);
            let value = worth.weight.map_or(count, |weights| count * weights[row]);
            if value.is_nan() {
                continue;
            }
            let cell = group as usize * k + kind as usize;
            tally.rows += 1;
            tally.sums[cell] += value;
            if let Some(weights) = worth.weight {
                tally.counts[cell] += count;
                tally.squares[cell] += value * weights[row];
            }
            let first = &mut tally.first[kind as usize];
            *first = (*first).min(row);
        }
        Ok(tally)
    }

    /// The sum of a kind in a group.
    pub fn sum(&self, group: usize, kind: usize) -> f64 {
        self.sums[group * self.kinds + kind]
    }

    /// Kinds that any row has, with a number of each over all groups.
    fn over_groups(&self, cells: &[f64]) -> Vec<(u32, f64)> {
        let of = |kind: usize| cells.iter().skip(kind).step_by(self.kinds.max(1)).sum();
        (0..self.kinds).filter(|kind| self.first[*kind] != usize::MAX).map(|kind| (kind as u32, of(kind))).collect()
    }

    /// All kinds with their sums.
    pub fn all(&self) -> Vec<(u32, f64)> {
        self.over_groups(&self.sums)
    }

    /// All kinds with their counts, where these are weighed.
    pub fn unweighed(&self) -> Option<Vec<(u32, f64)>> {
        (!self.counts.is_empty()).then(|| self.over_groups(&self.counts))
    }

    /// The variance of a weighed sum of a kind, over all groups or in one.
    pub fn variance(&self, kind: u32, group: Option<usize>) -> f64 {
        let cells = self.squares.iter().skip(kind as usize).step_by(self.kinds.max(1));
        match group {
            Some(group) => cells.skip(group).take(1).sum(),
            None => cells.sum(),
        }
    }

    /// The largest first, equal ones as they first come.
    pub fn rank(&self, kinds: &mut [(u32, f64)]) {
        kinds.sort_by(|a, b| b.1.total_cmp(&a.1).then(self.first[a.0 as usize].cmp(&self.first[b.0 as usize])));
    }
}

/// The numbers of a column that none may be below 0.
fn column_numbers(column: Option<&Column>) -> Result<Option<&[f64]>, StudyError> {
    let Some(column) = column else { return Ok(None) };
    let Values::Number(values) = &column.values else { return Ok(None) };
    match values.iter().position(|value| *value < 0.0) {
        Some(row) => {
            let problem = format!("{} is below 0; nothing counts for less than nothing", values[row]);
            Err(StudyError::BadValue { column: column.name.clone(), row, problem })
        }
        None => Ok(Some(values)),
    }
}
