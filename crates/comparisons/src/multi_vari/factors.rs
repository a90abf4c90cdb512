//! Factors with their levels, and which combination of levels each row has.

use std::collections::HashMap;
use std::sync::Arc;

use rayon::prelude::*;

use super::card::{CELLS_MOST, FACTORS_MOST};
use acorn_data::frame::{Coded, Column, Frame, Kind, TooManyGroups};

/// Of a row that is in no cell.
pub const NO_CELL: u32 = u32::MAX;
/// Up to so many places combinations are counted in a list; beyond, by a key.
const LISTED_MOST: usize = 1 << 22;
/// Rows are looked at in so many pieces side by side, unless they are few.
pub const PIECES: usize = 4;
/// The fewest rows of a piece.
pub const PIECE_LEAST: usize = 1 << 15;

/// A factor with its levels.
pub struct Factor {
    pub name: String,
    pub kind: Kind,
    /// Labels in the order in which they are shown.
    pub labels: Vec<String>,
    /// As the column has them, and the places of these in the order of the labels.
    codes: Arc<[u32]>,
    places: Vec<u32>,
}

impl Factor {
    fn of(frame: &Frame, column: &Column) -> Result<Factor, TooManyGroups> {
        let Coded { codes, labels } = frame.coded(column, CELLS_MOST)?;
        let mut order: Vec<u32> = (0..labels.len() as u32).collect();
        match column.kind {
            Kind::Number | Kind::WholeNumber => {
                let number = |code: &u32| labels[*code as usize].parse::<f64>().unwrap_or(f64::NAN);
                order.sort_by(|a, b| number(a).total_cmp(&number(b)));
            }
            // As they are written, moments sort as they follow each other.
            Kind::DateTime => order.sort_by(|a, b| labels[*a as usize].cmp(&labels[*b as usize])),
            Kind::Category | Kind::Text => {}
        }
        let mut places = vec![0; order.len()];
        order.iter().enumerate().for_each(|(at, &code)| places[code as usize] = at as u32);
        let labels = order.iter().map(|&code| labels[code as usize].clone()).collect();
        Ok(Factor { name: column.name.clone(), kind: column.kind, labels, codes, places })
    }

    /// How often the label changes from row to row.
    pub fn changes(&self) -> usize {
        self.codes.windows(2).filter(|pair| pair[0] != pair[1]).count()
    }

    /// The place of the label of a row in the order of the labels.
    fn place(&self, row: usize) -> Option<u32> {
        self.places.get(self.codes[row] as usize).copied()
    }
}

/// The factors of some columns.
///
/// # Errors
/// [`TooManyGroups`].
pub fn factors(frame: &Frame, columns: &[&Column]) -> Result<Vec<Factor>, TooManyGroups> {
    columns.iter().map(|column| Factor::of(frame, column)).collect()
}

/// The levels of a cell, by their places.
pub type Codes = [u32; FACTORS_MOST];

/// The cell of each row, and the levels of each cell; cells stand in the order of their levels.
pub fn combinations(factors: &[Factor], values: &[f64]) -> Result<(Vec<u32>, Vec<Codes>), TooManyGroups> {
    let widths: Vec<usize> = factors.iter().map(|factor| factor.labels.len().max(1)).collect();
    let all = widths.iter().try_fold(1_usize, |all, &width| all.checked_mul(width));
    let apart = |mut at: u128| {
        let mut codes = Codes::default();
        for (place, &width) in widths.iter().enumerate().rev() {
            codes[place] = (at % width as u128) as u32;
            at /= width as u128;
        }
        codes
    };
    let (cell_of_row, codes) = match all.filter(|all| *all <= LISTED_MOST) {
        Some(all) => listed(factors, values, &widths, all, apart),
        None => keyed(factors, values, &widths, apart),
    };
    if codes.len() > CELLS_MOST {
        let columns = factors.iter().map(|factor| factor.name.as_str()).collect::<Vec<_>>().join(" and ");
        return Err(TooManyGroups { columns, most: CELLS_MOST });
    }
    Ok((cell_of_row, codes))
}

/// By a list of all combinations that there may be.
fn listed(factors: &[Factor], values: &[f64], widths: &[usize], all: usize, apart: impl Fn(u128) -> Codes) -> (Vec<u32>, Vec<Codes>) {
    let mut cell_of_row = vec![NO_CELL; values.len()];
    let piece = values.len().div_ceil(PIECES).max(PIECE_LEAST);
    cell_of_row.par_chunks_mut(piece).enumerate().for_each(|(at, own)| {
        let start = at * piece;
        let values = &values[start..start + own.len()];
        own.iter_mut().zip(values).for_each(|(place, value)| *place = if value.is_nan() { NO_CELL } else { 0 });
        for (factor, &width) in factors.iter().zip(widths) {
            for (place, code) in own.iter_mut().zip(&factor.codes[start..]) {
                let next = factor.places.get(*code as usize).map_or(NO_CELL, |next| place.wrapping_mul(width as u32).wrapping_add(*next));
                *place = if *place == NO_CELL { NO_CELL } else { next };
            }
        }
    });
    let mut used = vec![NO_CELL; all];
    for &place in &cell_of_row {
        if let Some(used) = used.get_mut(place as usize) {
            *used = 0;
        }
    }
    let mut codes = Vec::new();
    for (at, used) in used.iter_mut().enumerate().filter(|(_, used)| **used == 0) {
        *used = codes.len() as u32;
        codes.push(apart(at as u128));
    }
    if codes.len() < all {
        cell_of_row.par_iter_mut().for_each(|place| *place = used.get(*place as usize).copied().unwrap_or(NO_CELL));
    }
    (cell_of_row, codes)
}

/// By a key, where there may be too many combinations for a list.
fn keyed(factors: &[Factor], values: &[f64], widths: &[usize], apart: impl Fn(u128) -> Codes) -> (Vec<u32>, Vec<Codes>) {
    let key = |row: usize| {
        let place = |at: u128, (factor, &width): (&Factor, &usize)| Some(at * width as u128 + u128::from(factor.place(row)?));
        factors.iter().zip(widths).try_fold(0_u128, place).filter(|_| !values[row].is_nan())
    };
    let mut known: HashMap<u128, u32> = HashMap::new();
    let mut cell_of_row = vec![NO_CELL; values.len()];
    for (row, cell) in cell_of_row.iter_mut().enumerate() {
        if let Some(key) = key(row) {
            let next = known.len() as u32;
            *cell = *known.entry(key).or_insert(next);
        }
    }
    let mut keys: Vec<(u128, u32)> = known.into_iter().collect();
    keys.sort_unstable();
    let mut place = vec![0; keys.len()];
    keys.iter().enumerate().for_each(|(at, (_, cell))| place[*cell as usize] = at as u32);
    cell_of_row.iter_mut().filter(|cell| **cell != NO_CELL).for_each(|cell| *cell = place[*cell as usize]);
    (cell_of_row, keys.into_iter().map(|(key, _)| apart(key)).collect())
}
