//! Labels of a column as small numbers by row.

use std::sync::Arc;

use rayon::prelude::*;

use super::{Column, Frame, Missing, NO_CODE, TooManyGroups, Values};
use acorn_maths::describe::extent;
use acorn_maths::is_shared;

/// Whole numbers this far apart are looked up in a list; others by a key.
const LISTED_MOST: f64 = 1e6;
/// Rows that are looked at together.
const PIECE: usize = 1 << 15;

/// The label of each row: a place in a list, [`NO_CODE`] where there is none.
#[derive(Clone, Debug)]
pub struct Coded {
    /// One a row.
    pub codes: Arc<[u32]>,
    /// The labels, in order of first appearance.
    pub labels: Arc<[String]>,
}

impl Frame {
    /// The labels of a column of any kind. A column of labels is taken as it is.
    ///
    /// # Errors
    /// [`TooManyGroups`].
    pub fn coded(&self, column: &Column, most: usize) -> Result<Coded, TooManyGroups> {
        match &column.values {
            Values::Label { codes, labels } if labels.len() <= most => {
                return Ok(Coded { codes: codes.clone(), labels: labels.clone() });
            }
            Values::Number(values) => {
                if let Some(coded) = wholes(values) {
                    let refused = || TooManyGroups { columns: column.name.clone(), most };
                    return if coded.labels.len() <= most { Ok(coded) } else { Err(refused()) };
                }
            }
            _ => {}
        }
        let groups = self.groups(&[column], None, Missing::Left, most)?;
        let mut codes = vec![NO_CODE; self.rows()];
        for group in 0..groups.len() {
            groups.rows(group).iter().for_each(|&row| codes[row] = group as u32);
        }
        let labels = (0..groups.len()).map(|group| groups.label(group).unwrap_or_default().to_owned()).collect();
        Ok(Coded { codes: codes.into(), labels })
    }
}

/// Running numbers and other whole ones that lie near each other; `None` of others.
fn wholes(values: &[f64]) -> Option<Coded> {
    let [low, high] = extent(values)?;
    if low.fract() != 0.0 || high - low > LISTED_MOST {
        return None;
    }
    let many = (high - low) as usize + 1;
    // A number of labels as large as a piece of rows is quicker looked up in one piece.
    let piece = if is_shared(values.len()) && many < PIECE { PIECE.max(values.len() / 4) } else { values.len() };
    let first_rows = |(at, values): (usize, &[f64])| {
        let mut first = vec![u32::MAX; many];
        for (row, value) in values.iter().enumerate().filter(|(_, value)| !value.is_nan()) {
            let place = place(value - low);
            if place as f64 != value - low {
                return None;
            }
            if first[place] == u32::MAX {
                first[place] = (at * piece + row) as u32;
            }
        }
        Some(first)
    };
    let seen: Vec<Option<Vec<u32>>> = values.par_chunks(piece).enumerate().map(first_rows).collect();
    let mut first = vec![u32::MAX; many];
    for seen in seen {
        first.iter_mut().zip(seen?).for_each(|(first, seen)| *first = seen.min(*first));
    }
    let mut order: Vec<usize> = (0..many).filter(|&place| first[place] != u32::MAX).collect();
    order.sort_unstable_by_key(|&place| first[place]);
    let mut codes_of = vec![NO_CODE; many];
    order.iter().enumerate().for_each(|(code, &place)| codes_of[place] = code as u32);
    let code = |value: &f64| if value.is_nan() { NO_CODE } else { codes_of[place(value - low)] };
    let codes = if piece < values.len() { values.par_iter().map(code).collect() } else { values.iter().map(code).collect() };
    // Both zeros are one label.
    let label = |&place: &usize| (low + place as f64 + 0.0).to_string();
    Some(Coded { codes, labels: order.iter().map(label).collect() })
}

/// A number from 0 to 1e6 as a whole one, the nearest; quicker than a cast, which looks out for every other number.
fn place(off: f64) -> usize {
    // From 2⁵² on the last bits of a number count ones.
    const ONES: f64 = (1_u64 << 52) as f64;
    (off + ONES).to_bits() as u32 as usize
}
