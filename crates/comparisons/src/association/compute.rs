//! From counts to what was expected, how far they are from it, and where.

use std::collections::BTreeMap;

use super::decisions::WITHIN;
use super::exact::{Exact, exact, exact_together};
use super::numbers::{Reversed, TableNumbers, Within};
use super::params::Params;
use super::tally::Cross;
use acorn_maths::distributions::{Hypergeometric, Law, holm};
use acorn_maths::normal;
use acorn_maths::tails::chi_square_above;
use acorn_study::{Cancel, StudyError};

/// A larger part of cells that expect fewer than 5 leaves χ² untrue, and so does any that expects fewer than 1: Cochran (1954).
const FEW_MOST: f64 = 0.2;
const FEW: f64 = 5.0;
const LEAST: f64 = 1.0;
/// Factorials of more counts have no digits left to tell tables apart by.
const EXACT_MOST: f64 = 1e9;

/// Works a table out.
///
/// # Errors
/// [`StudyError::Stopped`].
pub fn table(of: &Cross, alpha: f64, cancel: &Cancel) -> Result<TableNumbers, StudyError> {
    let (rows, columns) = of.totals();
    let n: f64 = rows.iter().sum();
    let cells = |get: &dyn Fn(usize, usize) -> f64| -> Vec<Vec<f64>> {
        (0..rows.len()).map(|row| (0..columns.len()).map(|column| get(row, column)).collect()).collect()
    };
    let maybe = |get: &dyn Fn(usize, usize) -> Option<f64>| -> Vec<Vec<Option<f64>>> {
        (0..rows.len()).map(|row| (0..columns.len()).map(|column| get(row, column)).collect()).collect()
    };
    let expected = |row: usize, column: usize| if n > 0.0 { rows[row] * columns[column] / n } else { 0.0 };
    let lives = |row: usize, column: usize| expected(row, column) > 0.0;
    let apart = |row, column| of.at(row, column) - expected(row, column);
    let part = |row, column| if lives(row, column) { apart(row, column).powi(2) / expected(row, column) } else { 0.0 };
    let adjusted = |row: usize, column: usize| {
        let spread = expected(row, column) * (1.0 - rows[row] / n) * (1.0 - columns[column] / n);
        (spread > 0.0).then(|| apart(row, column) / spread.sqrt())
    };
    let live = of.without_empty();
    let (live_rows, live_columns) = (live.rows.len(), live.columns.len());
    let df = live_rows.saturating_sub(1) * live_columns.saturating_sub(1);
    let all = || (0..rows.len()).flat_map(|row| (0..columns.len()).map(move |column| (row, column)));
    let sum = |get: &dyn Fn(usize, usize) -> f64| all().map(|(row, column)| get(row, column)).sum::<f64>();
    let chi2 = sum(&part);
    let log = |row, column| {
        let count = of.at(row, column);
        if count > 0.0 { 2.0 * count * (count / expected(row, column)).ln() } else { 0.0 }
    };
    let g2 = sum(&log).max(0.0);
    let chance = |x: f64| (df > 0).then(|| chi_square_above(x, df as f64));
    let small: Vec<f64> = all().filter(|(row, column)| lives(*row, *column)).map(|(row, column)| expected(row, column)).collect();
    let below = small.iter().filter(|count| **count < FEW).count();
    let least = small.iter().copied().reduce(f64::min);
    let valid = df > 0 && below as f64 <= FEW_MOST * small.len() as f64 && least.is_some_and(|least| least >= LEAST);
    let found = if df > 0 && !valid && n <= EXACT_MOST { Some(exact(&live, cancel)?) } else { None };
    // Where χ² holds an adjusted residual is normal; else the count of a cell is hypergeometric, its totals held.
    let exactly = |row: usize, column: usize| Hypergeometric { total: n, marked: columns[column], drawn: rows[row] };
    let chance_of = |(row, column): (usize, usize)| {
        let z = adjusted(row, column)?;
        let two_sided =
            if valid || n > EXACT_MOST { 2.0 * normal::above(z.abs()) } else { exactly(row, column).two_sided(of.at(row, column)) };
        Some(two_sided.min(1.0))
    };
    // Of two rows, or two columns, the one tells what the other does.
    let first = |sums: &[f64], live: usize| sums.iter().position(|sum| *sum > 0.0).filter(|_| live == 2);
    let told_by = |(row, column): (usize, usize)| (first(&rows, live_rows).unwrap_or(row), first(&columns, live_columns).unwrap_or(column));
    let told: Vec<((usize, usize), f64)> =
        all().filter(|&cell| told_by(cell) == cell).filter_map(|cell| Some((cell, chance_of(cell)?))).collect();
    let together = holm(&told.iter().map(|(_, p)| *p).collect::<Vec<_>>());
    let known: BTreeMap<(usize, usize), f64> = told.into_iter().map(|(cell, _)| cell).zip(together).collect();
    let p_of_cells = maybe(&|row, column| adjusted(row, column).and_then(|_| known.get(&told_by((row, column))).copied()));
    let p = if valid { chance(chi2) } else { found.map(|found| found.p).or_else(|| chance(chi2)) };
    let stands_out = |row: usize, column: usize| {
        let z = adjusted(row, column).filter(|_| p_of_cells[row][column].is_some_and(|p| p < alpha));
        z.map_or(0, |z| if z > 0.0 { 1 } else { -1 })
    };
    Ok(TableNumbers {
        rows: of.rows.clone(),
        columns: of.columns.clone(),
        observed: cells(&|row, column| of.at(row, column)),
        expected: cells(&expected),
        contribution: cells(&part),
        residual: maybe(&|row, column| lives(row, column).then(|| apart(row, column) / expected(row, column).sqrt())),
        adjusted_residual: maybe(&adjusted),
        cell_p: p_of_cells.clone(),
        stands_out: (0..rows.len()).map(|row| (0..columns.len()).map(|column| stands_out(row, column)).collect()).collect(),
        difference: maybe(&|row, column| lives(row, column).then(|| apart(row, column) / expected(row, column))),
        row_profile: maybe(&|row, column| (rows[row] > 0.0).then(|| of.at(row, column) / rows[row])),
        column_profile: maybe(&|row, column| (columns[column] > 0.0).then(|| of.at(row, column) / columns[column])),
        overall_profile: columns.iter().map(|sum| (n > 0.0).then(|| sum / n)).collect(),
        row_totals: rows.clone(),
        column_totals: columns.clone(),
        total: n,
        chi2,
        df,
        p: chance(chi2),
        g2,
        p_g2: chance(g2),
        cramers_v: (df > 0).then(|| (chi2 / (n * (live_rows.min(live_columns) - 1) as f64)).sqrt().min(1.0)),
        cells_below_5: below,
        min_expected: least,
        valid,
        exact_p: found.map(|found| found.p),
        exact_draws: found.map_or(0, |found| found.draws),
        exact_error: found.and_then(error),
        p_used: p,
        depends: p.is_some_and(|p| p < alpha),
        folded: of.folded,
    })
}

/// The standard error of a chance found from random tables.
fn error(found: Exact) -> Option<f64> {
    (found.draws > 0).then(|| (found.p * (1.0 - found.p) / found.draws as f64).sqrt())
}

/// Whether it depends within the labels of a third column, all of them together.
pub fn within(layers: &[(String, Cross)], whole: &TableNumbers, params: &Params, cancel: &Cancel) -> Result<Within, StudyError> {
    let (mut chi2, mut df, mut valid) = (0.0, 0, true);
    let mut thin = Vec::new();
    // What each cell has more than expected within its layer.
    let mut more = vec![vec![0.0; whole.columns.len()]; whole.rows.len()];
    for (_, cross) in layers {
        let one = table(cross, params.alpha, cancel)?;
        (chi2, df) = (chi2 + one.chi2, df + one.df);
        if one.df > 0 {
            valid &= one.valid || one.total > EXACT_MOST;
            thin.push(cross.without_empty());
        }
        for (row, sums) in more.iter_mut().enumerate() {
            for (column, sum) in sums.iter_mut().enumerate() {
                *sum += one.observed[row][column] - one.expected[row][column];
            }
        }
    }
    // Layers that are too thin for χ² each are no better together: forty of three values always give the same sum.
    let p = match df > 0 {
        true if valid => Some(chi_square_above(chi2, df as f64)),
        true => Some(exact_together(&thin, chi2, cancel)?.p),
        false => None,
    };
    let turned = whole.marked().find(|&(row, column, side)| f64::from(side) * more[row][column] < 0.0);
    let reversed = match (whole.depends, WITHIN.is_made(p)) {
        (true, false) => Some(Reversed::OnlyWhole),
        (false, true) => Some(Reversed::OnlyWithin),
        (true, true) => turned.map(|(row, column, _)| Reversed::Turned { row, column }),
        (false, false) => None,
    };
    Ok(Within { chi2, df, p, reversed })
}

impl Cross {
    /// Without rows and columns that hold nothing.
    fn without_empty(&self) -> Cross {
        let (rows, columns) = self.totals();
        let live = |sums: &[f64]| (0..sums.len()).filter(|&place| sums[place] > 0.0).collect::<Vec<_>>();
        let (rows, columns) = (live(&rows), live(&columns));
        Cross {
            counts: rows.iter().flat_map(|&row| columns.iter().map(move |&column| self.at(row, column))).collect(),
            rows: rows.iter().map(|&row| self.rows[row].clone()).collect(),
            columns: columns.iter().map(|&column| self.columns[column].clone()).collect(),
            folded: self.folded,
        }
    }
}
