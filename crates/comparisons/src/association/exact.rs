//! The exact chance of a table, all totals held.
//!
//! Two rows and two columns: Fisher (1935). More: every table is looked at while there are few enough; else random ones, drawn
//! cell by cell with the totals held (Patefield 1981, Applied Statistics 30). Two-sided: tables no likelier than the one seen
//! (Freeman and Halton 1951, Biometrika 38).

use rand::{RngExt, SeedableRng};
use rand_xoshiro::Xoshiro256PlusPlus;
use statrs::function::gamma::ln_gamma;

use super::tally::Cross;
use acorn_maths::distributions::{AS_LIKELY, Hypergeometric, Law};
use acorn_study::{Cancel, StudyError};

/// The same tables for the same counts.
pub const SEED: u64 = 1;
/// Random tables, fewer of large ones.
const DRAWS: usize = 20_000;
const DRAWS_LEAST: usize = 2_000;
/// Cells drawn at most.
const CELLS_MOST: usize = 1_000_000;
/// Steps at most to look at every table, which is not begun with more counts than this.
const STEPS_MOST: usize = 1_000_000;
const EVERY_MOST: f64 = 300.0;
/// Factorials that are kept.
const TABLED_MOST: usize = 1 << 16;

/// A chance, and how it was found.
#[derive(Clone, Copy, Debug, PartialEq)]
pub struct Exact {
    pub p: f64,
    /// Random tables; 0 when every one was looked at.
    pub draws: usize,
}

/// The chance of a table without empty rows and columns, at least two of each.
///
/// # Errors
/// [`StudyError::Stopped`].
pub fn exact(table: &Cross, cancel: &Cancel) -> Result<Exact, StudyError> {
    let (rows, columns) = table.totals();
    if rows.len() == 2 && columns.len() == 2 {
        let law = Hypergeometric { total: rows.iter().sum(), marked: columns[0], drawn: rows[0] };
        return Ok(Exact { p: law.two_sided(table.at(0, 0)), draws: 0 });
    }
    let seen = table.counts.iter().map(|count| ln_gamma(count + 1.0)).sum::<f64>() - AS_LIKELY;
    let total: f64 = rows.iter().sum();
    let factorials: Vec<f64> = (0..=(total as usize).min(TABLED_MOST)).map(|count| ln_gamma(count as f64 + 1.0)).collect();
    let held: f64 = rows.iter().chain(&columns).map(|sum| ln_gamma(sum + 1.0)).sum::<f64>() - ln_gamma(total + 1.0);
    if total <= EVERY_MOST {
        let mut every = Every { seen, held, columns: &columns, factorials: &factorials, steps: 0, p: 0.0 };
        let left: Vec<usize> = rows.iter().map(|sum| *sum as usize).collect();
        if every.column(0, &left, 0.0) {
            return Ok(Exact { p: every.p.min(1.0), draws: 0 });
        }
    }
    random(&rows, &columns, seen, &factorials, cancel)
}

/// All tables with the totals, column by column.
struct Every<'t> {
    /// Σ ln of the factorials of the cells of the table seen: a larger sum is a rarer table.
    seen: f64,
    held: f64,
    columns: &'t [f64],
    factorials: &'t [f64],
    steps: usize,
    p: f64,
}

impl Every<'_> {
    /// Fills a column from what is left of each row; false when there are too many tables.
    fn column(&mut self, place: usize, left: &[usize], sum: f64) -> bool {
        if place + 1 == self.columns.len() {
            self.steps += 1;
            let all = sum + left.iter().map(|count| self.factorials[*count]).sum::<f64>();
            if all >= self.seen {
                self.p += (self.held - all).exp();
            }
            return self.steps <= STEPS_MOST;
        }
        let mut left = left.to_vec();
        self.cell(place, 0, self.columns[place] as usize, &mut left, sum)
    }

    fn cell(&mut self, place: usize, row: usize, wanted: usize, left: &mut Vec<usize>, sum: f64) -> bool {
        self.steps += 1;
        if self.steps > STEPS_MOST {
            return false;
        }
        let here = left[row];
        if row + 1 == left.len() {
            left[row] = here - wanted;
            let fits = self.column(place + 1, &left.clone(), sum + self.factorials[wanted]);
            left[row] = here;
            return fits;
        }
        // What the rows after this one cannot take has to stand here.
        let after: usize = left[row + 1..].iter().sum();
        for count in wanted.saturating_sub(after)..=wanted.min(here) {
            left[row] = here - count;
            let fits = self.cell(place, row + 1, wanted - count, left, sum + self.factorials[count]);
            left[row] = here;
            if !fits {
                return false;
            }
        }
        true
    }
}

pub fn random(rows: &[f64], columns: &[f64], seen: f64, factorials: &[f64], cancel: &Cancel) -> Result<Exact, StudyError> {
    let draws = (CELLS_MOST / (rows.len() * columns.len())).clamp(DRAWS_LEAST, DRAWS);
    let mut random = Xoshiro256PlusPlus::seed_from_u64(SEED);
    let ln_factorial = |count: f64| factorials.get(count as usize).copied().unwrap_or_else(|| ln_gamma(count + 1.0));
    let mut hits = 0_usize;
    for _ in 0..draws {
        cancel.check()?;
        let mut sum = 0.0;
        drawn(rows, columns, &mut random, |_, _, count| sum += ln_factorial(count));
        if sum >= seen {
            hits += 1;
        }
    }
    Ok(Exact { p: (hits + 1) as f64 / (draws + 1) as f64, draws })
}

/// The chance that χ² of several tables together is as large as seen, all totals of each held: the share of random sets of tables.
///
/// # Errors
/// [`StudyError::Stopped`].
pub fn exact_together(tables: &[Cross], seen: f64, cancel: &Cancel) -> Result<Exact, StudyError> {
    let totals: Vec<(Vec<f64>, Vec<f64>)> = tables.iter().map(Cross::totals).collect();
    let cells: usize = totals.iter().map(|(rows, columns)| rows.len() * columns.len()).sum();
    let draws = (CELLS_MOST / cells.max(1)).clamp(DRAWS_LEAST, DRAWS);
    // χ² = n (Σ count²/(row × column) − 1).
    let totals: Vec<(f64, Vec<f64>, Vec<f64>)> =
        totals.into_iter().map(|(rows, columns)| (rows.iter().sum(), rows, columns)).filter(|(n, ..)| *n > 0.0).collect();
    let least = seen * (1.0 - AS_LIKELY);
    let mut random = Xoshiro256PlusPlus::seed_from_u64(SEED);
    let mut hits = 0_usize;
    for _ in 0..draws {
        cancel.check()?;
        let mut chi2 = 0.0;
        for (n, rows, columns) in &totals {
            let mut sum = 0.0;
            drawn(rows, columns, &mut random, |row, column, count| sum += count * count / (rows[row] * columns[column]));
            chi2 += n * (sum - 1.0);
        }
        if chi2 >= least {
            hits += 1;
        }
    }
    Ok(Exact { p: (hits + 1) as f64 / (draws + 1) as f64, draws })
}

/// Tells each cell of a random table with the totals: its row, its column and its count. No total is 0.
fn drawn(rows: &[f64], columns: &[f64], random: &mut Xoshiro256PlusPlus, mut tell: impl FnMut(usize, usize, f64)) {
    let mut left = rows.to_vec();
    let last = columns.len() - 1;
    for (place, column) in columns[..last].iter().enumerate() {
        let mut wanted = *column;
        let mut all: f64 = left.iter().sum();
        for (row, left) in left.iter_mut().enumerate() {
            let here = *left;
            let count =
                if all == here { wanted } else { Hypergeometric { total: all, marked: here, drawn: wanted }.drawn_by(random.random()) };
            all -= here;
            wanted -= count;
            *left -= count;
            tell(row, place, count);
        }
    }
    for (row, count) in left.into_iter().enumerate() {
        tell(row, last, count);
    }
}
