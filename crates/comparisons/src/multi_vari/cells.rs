//! Values gathered into cells, and these into groups within groups.

use std::ops::Range;

use rayon::prelude::*;

use super::factors::{Codes, Factor, PIECE_LEAST, PIECES, combinations};
use acorn_maths::describe::mean;
use acorn_study::{Cancel, StudyError};

/// Values that the sums are taken from near the mean of.
const PIVOT_OF: usize = 100;
/// More cells are gathered in one piece of rows.
const PIECED_MOST: usize = 1 << 16;

/// The values of one combination of levels.
#[derive(Clone, Copy, Debug, PartialEq)]
pub struct Cell {
    pub n: usize,
    pub mean: f64,
    /// Σ(x − mean)².
    pub squares: f64,
    pub low: f64,
    pub high: f64,
}

/// What one piece of the rows has of a cell.
#[derive(Clone, Copy)]
struct Seen {
    n: usize,
    squares: f64,
    low: f64,
    high: f64,
}

impl Default for Seen {
    fn default() -> Seen {
        Seen { n: 0, squares: 0.0, low: f64::INFINITY, high: f64::NEG_INFINITY }
    }
}

impl Seen {
    fn and(self, other: Seen) -> Seen {
        let (low, high) = (self.low.min(other.low), self.high.max(other.high));
        Seen { n: self.n + other.n, squares: self.squares + other.squares, low, high }
    }
}

/// A level of a factor within its parent: the cells of all its descendants stand side by side.
#[derive(Clone, Debug, PartialEq)]
pub struct Group {
    pub label: u32,
    /// Its place among the groups of the level before.
    pub parent: usize,
    pub cells: Range<usize>,
    pub n: f64,
    pub mean: f64,
}

impl Group {
    fn gather(&mut self, cells: &[Cell], pivot: f64) {
        let inside = &cells[self.cells.clone()];
        self.n = inside.iter().map(|cell| cell.n as f64).sum();
        self.mean = pivot + inside.iter().map(|cell| cell.n as f64 * (cell.mean - pivot)).sum::<f64>() / self.n;
    }
}

/// Cells and the groups that they make, level by level, outermost first; the innermost groups are the cells.
#[derive(Clone)]
pub struct Nest {
    pub levels: Vec<Vec<Group>>,
    pub cells: Vec<Cell>,
    pub n: usize,
    pub mean: f64,
}

impl Nest {
    /// The same without what each label of a level does everywhere.
    pub fn without(&self, level: usize, effects: &[(usize, f64)]) -> Nest {
        let mut rest = self.clone();
        for group in &self.levels[level] {
            let effect = effects.iter().find(|(label, _)| *label == group.label as usize).map_or(0.0, |(_, effect)| *effect);
            rest.cells[group.cells.clone()].iter_mut().for_each(|cell| cell.mean -= effect);
        }
        rest.levels.iter_mut().flatten().for_each(|group| group.gather(&rest.cells, self.mean));
        rest.mean = self.mean + rest.cells.iter().map(|cell| cell.n as f64 * (cell.mean - self.mean)).sum::<f64>() / self.n as f64;
        rest
    }

    /// How many labels of a level have a value; a narrowed column keeps labels that none of its rows has.
    pub fn used(&self, level: usize) -> usize {
        let groups = &self.levels[level];
        let mut has_value = vec![false; groups.iter().map(|group| group.label as usize + 1).max().unwrap_or(0)];
        groups.iter().for_each(|group| has_value[group.label as usize] = true);
        has_value.into_iter().filter(|has_value| *has_value).count()
    }
}

/// Values in their nest.
pub struct Tree {
    pub factors: Vec<Factor>,
    pub nest: Nest,
    pub cell_of_row: Vec<u32>,
}

impl std::ops::Deref for Tree {
    type Target = Nest;

    fn deref(&self) -> &Nest {
        &self.nest
    }
}

impl Tree {
    /// Sorts values, NaN where missing, one a row as the codes of the factors.
    ///
    /// # Errors
    /// [`StudyError::TooManyGroups`], [`StudyError::Stopped`].
    pub fn of(factors: Vec<Factor>, values: &[f64], cancel: &Cancel) -> Result<Tree, StudyError> {
        let (cell_of_row, codes) = combinations(&factors, values)?;
        cancel.check()?;
        // A mean of a few lies near all of them.
        let few: Vec<f64> = values.iter().copied().filter(|value| !value.is_nan()).take(PIVOT_OF).collect();
        let pivot = if few.is_empty() { 0.0 } else { mean(&few) };
        let sums = gathered(&cell_of_row, values, codes.len(), |(n, sum): &mut (f64, f64), _, value| {
            *n += 1.0;
            *sum += value - pivot;
        });
        let means: Vec<f64> = (0..codes.len())
            .map(|cell| {
                let (n, sum) = sums.iter().fold((0.0, 0.0), |(n, sum), piece| (n + piece[cell].0, sum + piece[cell].1));
                pivot + sum / n
            })
            .collect();
        cancel.check()?;
        let seen = gathered(&cell_of_row, values, codes.len(), |seen: &mut Seen, cell, value| {
            seen.n += 1;
            seen.squares += (value - means[cell]) * (value - means[cell]);
            seen.low = if value < seen.low { value } else { seen.low };
            seen.high = if value > seen.high { value } else { seen.high };
        });
        let whole = |(cell, &mean): (usize, &f64)| {
            let all = seen.iter().map(|piece| piece[cell]).fold(Seen::default(), Seen::and);
            Cell { n: all.n, mean, squares: all.squares, low: all.low, high: all.high }
        };
        let cells: Vec<Cell> = means.iter().enumerate().map(whole).collect();
        cancel.check()?;
        let levels = levels(&codes, &cells, factors.len(), pivot);
        let n: usize = cells.iter().map(|cell| cell.n).sum();
        let mean = pivot + cells.iter().map(|cell| cell.n as f64 * (cell.mean - pivot)).sum::<f64>() / n as f64;
        Ok(Tree { factors, nest: Nest { levels, cells, n, mean }, cell_of_row })
    }

    /// The label of a group of a level.
    pub fn label(&self, level: usize, group: &Group) -> &str {
        &self.factors[level].labels[group.label as usize]
    }

    /// The labels of a group of a level, outermost first.
    pub fn path(&self, level: usize, group: usize) -> Vec<String> {
        let mut path = Vec::with_capacity(level + 1);
        let mut at = group;
        for level in (0..=level).rev() {
            let group = &self.levels[level][at];
            path.push(self.label(level, group).to_owned());
            at = group.parent;
        }
        path.reverse();
        path
    }
}

/// What is seen of each cell in each piece of the rows. The pieces are always the same, and so is what comes of them.
fn gathered<T: Clone + Default + Send>(
    cell_of_row: &[u32],
    values: &[f64],
    cells: usize,
    see: impl Fn(&mut T, usize, f64) + Sync,
) -> Vec<Vec<T>> {
    let piece = if cells > PIECED_MOST { values.len().max(1) } else { values.len().div_ceil(PIECES).max(PIECE_LEAST) };
    let of = |(own, values): (&[u32], &[f64])| {
        let mut seen = vec![T::default(); cells];
        for (&cell, &value) in own.iter().zip(values) {
            if let Some(seen) = seen.get_mut(cell as usize) {
                see(seen, cell as usize, value);
            }
        }
        seen
    };
    cell_of_row.par_chunks(piece).zip(values.par_chunks(piece)).map(of).collect()
}

/// The groups of each level: runs of cells that share their levels up to it.
fn levels(codes: &[Codes], cells: &[Cell], many: usize, pivot: f64) -> Vec<Vec<Group>> {
    let mut levels: Vec<Vec<Group>> = Vec::with_capacity(many);
    for level in 0..many {
        let mut groups: Vec<Group> = Vec::new();
        let mut parent = 0;
        for (cell, codes_here) in codes.iter().enumerate() {
            let goes_on = cell > 0 && codes[cell - 1][..=level] == codes_here[..=level];
            if goes_on {
                groups.last_mut().expect("a run has begun").cells.end = cell + 1;
                continue;
            }
            if let Some(before) = levels.last() {
                while !before[parent].cells.contains(&cell) {
                    parent += 1;
                }
            }
            groups.push(Group { label: codes_here[level], parent, cells: cell..cell + 1, n: 0.0, mean: 0.0 });
        }
        groups.iter_mut().for_each(|group| group.gather(cells, pivot));
        levels.push(groups);
    }
    levels
}
