//! Percentiles and bars of many draws, without sorting them.

use pulp::{Arch, Simd, WithSimd};
use rayon::prelude::*;

use acorn_data::figure::histogram::{Bin, round_up};

/// Shares whose values are told.
pub const SHARES: [f64; 13] = [0.00135, 0.005, 0.025, 0.05, 0.1, 0.25, 0.5, 0.75, 0.9, 0.95, 0.975, 0.995, 0.99865];

/// Cells over the range of the draws, at most: a power of two less one, so that a cell fits its last bits.
const CELLS: usize = 1 << 13;
/// Draws whose cells are found at a time.
const STRIDE: usize = 1024;

/// Even cells of a round width over an extent, and how many draws lie in each.
pub struct Cells {
    first: f64,
    width: f64,
    counts: Vec<u32>,
    /// The one value, when all draws are alike.
    only: Option<f64>,
}

/// The cells of draws, as work that is written for whatever machine it meets.
struct Place<'v> {
    values: &'v [f64],
    first: f64,
    scale: f64,
    out: &'v mut [u32],
}

impl WithSimd for Place<'_> {
    type Output = ();

    #[inline(always)]
    fn with_simd<S: Simd>(self, _: S) {
        let Place { values, first, scale, out } = self;
        // Adding 2^52 leaves the nearest whole number in the last bits.
        const MAGIC: f64 = 4_503_599_627_370_496.0;
        for (out, value) in out.iter_mut().zip(values) {
            let place = value * scale - first;
            // What is no finite number goes beyond the last cell.
            let there = value.abs() < f64::INFINITY;
            let place = if there { place } else { CELLS as f64 };
            // A hair less than a half, so that a draw on an edge lies above it.
            *out = (place - 0.499_999_9 + MAGIC).to_bits() as u32;
        }
    }
}

impl Cells {
    /// Counts draws within an extent; what is no finite number is left out.
    pub fn of(pieces: &[&[f64]], [low, high]: [f64; 2]) -> Cells {
        let spread = (high - low).max(low.abs().max(high.abs()) * 1e-11).max(f64::MIN_POSITIVE);
        let width = round_up(spread / (CELLS - 4) as f64);
        let cells = Cells { first: (low / width).floor() - 1.0, width, counts: Vec::new(), only: (low == high).then_some(low) };
        let count = |piece: &&[f64]| {
            let mut counts = vec![0u32; CELLS + 1];
            cells.each(piece, |_, cell| counts[cell] += 1);
            counts
        };
        let add = |mut all: Vec<u32>, more: Vec<u32>| {
            all.iter_mut().zip(more).for_each(|(all, more)| *all += more);
            all
        };
        let counts = pieces.par_iter().map(count).reduce(|| vec![0; CELLS + 1], add);
        Cells { counts: counts[..CELLS].to_vec(), ..cells }
    }

    /// Sees every draw of a piece with its cell; `CELLS` for what is no finite number.
    fn each(&self, piece: &[f64], mut see: impl FnMut(f64, usize)) {
        let mut places = [0u32; STRIDE];
        for values in piece.chunks(STRIDE) {
            let out = &mut places[..values.len()];
            Arch::new().dispatch(Place { values, first: self.first, scale: 1.0 / self.width, out });
            values.iter().zip(&places).for_each(|(value, place)| see(*value, (*place as usize).min(CELLS)));
        }
    }

    /// Values below which shares lie, by the place (n − 1) p between the two draws around it (Hyndman and Fan 1996, type 7).
    pub fn percentiles(&self, pieces: &[&[f64]], shares: &[f64]) -> Vec<f64> {
        if let Some(only) = self.only {
            return vec![only; shares.len()];
        }
        let before: Vec<u64> = self
            .counts
            .iter()
            .scan(0, |sum, count| {
                let before = *sum;
                *sum += u64::from(*count);
                Some(before)
            })
            .collect();
        let n = self.counts.iter().map(|count| u64::from(*count)).sum::<u64>();
        let places: Vec<f64> = shares.iter().map(|share| share * n.saturating_sub(1) as f64).collect();
        let cell_of = |rank: u64| before.partition_point(|before| *before <= rank).saturating_sub(1);
        let mut wanted = vec![false; CELLS + 1];
        for place in &places {
            wanted[cell_of(*place as u64)] = true;
            wanted[cell_of((*place as u64 + 1).min(n - 1))] = true;
        }
        let pick = |piece: &&[f64]| {
            let mut picked = Vec::new();
            self.each(piece, |value, cell| {
                if wanted[cell] {
                    picked.push(value);
                }
            });
            picked
        };
        let mut picked: Vec<f64> = pieces.par_iter().map(pick).flatten_iter().collect();
        picked.par_sort_unstable_by(f64::total_cmp);
        // How many picked draws lie in wanted cells before each cell.
        let picked_before = |cell: usize| (0..cell).filter(|other| wanted[*other]).map(|other| self.counts[other] as usize).sum::<usize>();
        let at = |rank: u64| {
            let cell = cell_of(rank);
            picked[picked_before(cell) + (rank - before[cell]) as usize]
        };
        let value = |place: &f64| {
            let (rank, part) = (*place as u64, place.fract());
            let left = at(rank);
            if part > 0.0 { left + part * (at((rank + 1).min(n - 1)) - left) } else { left }
        };
        places.iter().map(value).collect()
    }

    /// Bars of a round width over most of the draws, and how many lie beyond them on either side.
    ///
    /// A far tail, as a quotient by almost nothing has, would leave one bar to all the others: bars reach 2.5 times as far from the
    /// median as 0.135 % and 99.865 % do. Their counts are those of the cells in them, or where cells are too wide for that, counted anew.
    pub fn bars(&self, pieces: &[&[f64]], [low, high]: [f64; 2], [least, middle, most]: [f64; 3]) -> (Vec<Bin>, [usize; 2]) {
        const WANTED: f64 = 48.0;
        const FAR: f64 = 2.5;
        let (from, to) = (low.max(middle - FAR * (middle - least)), high.min(middle + FAR * (most - middle)));
        let spread = (to - from).max(from.abs().max(to.abs()) * 1e-12);
        let width = if spread > 0.0 { round_up(spread / WANTED) } else { 1.0 };
        let first = (from / width).floor();
        let many = (((to / width).floor() - first) as usize + 1).min(4 * WANTED as usize);
        let place = |value: f64| {
            let place = (value / width).floor() - first;
            if place < 0.0 { 0 } else { (place as usize + 1).min(many + 1) }
        };
        let mut counts = vec![0usize; many + 2];
        let cells_each = width / self.width;
        if cells_each >= 10.0 && (cells_each - cells_each.round()).abs() < 1e-6 {
            for (cell, count) in self.counts.iter().enumerate().filter(|(_, count)| **count > 0) {
                // By the middle of the cell, which lies on no edge.
                counts[place((self.first + cell as f64 + 0.5) * self.width)] += *count as usize;
            }
        } else {
            pieces.iter().flat_map(|piece| piece.iter()).filter(|value| value.is_finite()).for_each(|value| counts[place(*value)] += 1);
        }
        let bin =
            |place: usize| Bin { from: (first + place as f64) * width, to: (first + place as f64 + 1.0) * width, count: counts[place + 1] };
        ((0..many).map(bin).collect(), [counts[0], counts[many + 1]])
    }
}
