//! Percentiles and bars of many draws, without sorting them.

use rayon::prelude::*;

use crate::figure::histogram::Bin;

/// Shares whose values are told.
pub const SHARES: [f64; 13] = [0.00135, 0.005, 0.025, 0.05, 0.1, 0.25, 0.5, 0.75, 0.9, 0.95, 0.975, 0.995, 0.99865];

/// Cells over the range in which order is looked for.
const CELLS: usize = 8192;

/// Values below which shares lie, by the place (n − 1) p between the two draws around it (Hyndman and Fan 1996, type 7), of draws
/// within an extent; what is no finite number is left out.
pub fn percentiles(pieces: &[&[f64]], [low, high]: [f64; 2], shares: &[f64]) -> Vec<f64> {
    if low >= high {
        return vec![low; shares.len()];
    }
    let scale = CELLS as f64 / (high - low);
    let cell = move |value: f64| (((value - low) * scale) as usize).min(CELLS - 1);
    let count = |piece: &&[f64]| {
        let mut counts = vec![0u32; CELLS];
        piece.iter().filter(|value| value.is_finite()).for_each(|value| counts[cell(*value)] += 1);
        counts
    };
    let add = |mut all: Vec<u32>, more: Vec<u32>| {
        all.iter_mut().zip(more).for_each(|(all, more)| *all += more);
        all
    };
    let counts = pieces.par_iter().map(count).reduce(|| vec![0; CELLS], add);
    let n: u64 = counts.iter().map(|count| u64::from(*count)).sum();
    let places: Vec<f64> = shares.iter().map(|share| share * (n.saturating_sub(1)) as f64).collect();
    let before: Vec<u64> = counts
        .iter()
        .scan(0, |sum, count| {
            let before = *sum;
            *sum += u64::from(*count);
            Some(before)
        })
        .collect();
    let cell_of = |rank: u64| before.partition_point(|before| *before <= rank).saturating_sub(1);
    let mut wanted = vec![false; CELLS];
    for place in &places {
        wanted[cell_of(*place as u64)] = true;
        wanted[cell_of((*place as u64 + 1).min(n - 1))] = true;
    }
    let pick = |piece: &&[f64]| -> Vec<f64> { piece.iter().copied().filter(|value| value.is_finite() && wanted[cell(*value)]).collect() };
    let mut picked: Vec<f64> = pieces.par_iter().map(pick).flatten_iter().collect();
    picked.par_sort_unstable_by(f64::total_cmp);
    // How many picked draws lie in wanted cells before each cell.
    let picked_before = |cell: usize| (0..cell).filter(|other| wanted[*other]).map(|other| counts[other] as usize).sum::<usize>();
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
/// median as 0.135 % and 99.865 % do.
pub fn bars(pieces: &[&[f64]], [low, high]: [f64; 2], [least, middle, most]: [f64; 3]) -> (Vec<Bin>, [usize; 2]) {
    const WANTED: f64 = 48.0;
    const FAR: f64 = 2.5;
    let (from, to) = (low.max(middle - FAR * (middle - least)), high.min(middle + FAR * (most - middle)));
    let spread = (to - from).max(from.abs().max(to.abs()) * 1e-12);
    let width = if spread > 0.0 { round_up(spread / WANTED) } else { 1.0 };
    let first = (from / width).floor();
    let many = (((to / width).floor() - first) as usize + 1).min(4 * WANTED as usize);
    let count = |piece: &&[f64]| {
        let mut counts = vec![0usize; many + 2];
        for value in piece.iter().filter(|value| value.is_finite()) {
            let place = (value / width).floor() - first;
            counts[if place < 0.0 { 0 } else { (place as usize + 1).min(many + 1) }] += 1;
        }
        counts
    };
    let add = |mut all: Vec<usize>, more: Vec<usize>| {
        all.iter_mut().zip(more).for_each(|(all, more)| *all += more);
        all
    };
    let counts = pieces.par_iter().map(count).reduce(|| vec![0; many + 2], add);
    let bin =
        |place: usize| Bin { from: (first + place as f64) * width, to: (first + place as f64 + 1.0) * width, count: counts[place + 1] };
    ((0..many).map(bin).collect(), [counts[0], counts[many + 1]])
}

/// The smallest of 1, 2, 5 times a power of ten that is at least `wanted`.
fn round_up(wanted: f64) -> f64 {
    let power = 10f64.powf(wanted.log10().floor());
    [1.0, 2.0, 5.0, 10.0].into_iter().map(|step| step * power).find(|width| *width >= wanted * (1.0 - 1e-9)).unwrap_or(10.0 * power)
}
