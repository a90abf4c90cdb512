//! A model run over its draws.
//!
//! Groups of blocks are worked out on every core and joined in their order, so that the answer is the same on one thread and on
//! many. Whatever of a draw is no finite number is counted and left out.

use pulp::{Arch, Simd, WithSimd};
use rayon::prelude::*;

use super::assembly::Model;
use super::bench::Bench;
use super::draws::{Sampling, Source};
use super::random::BLOCK;
use acorn_data::formula::Program;
use acorn_maths::cancel::{Cancel, Stopped};

/// Blocks that a core works out at a time.
const BLOCKS: usize = 16;
/// Draws of a group.
const GROUP: usize = BLOCKS * BLOCK;

/// Count, mean, squares about it, extent, and how many lie out, of the draws of a response that are numbers.
#[derive(Clone, Copy, Debug, PartialEq)]
pub struct Tally {
    /// Draws that are finite numbers.
    pub n: f64,
    /// Draws that are none.
    pub undefined: f64,
    /// Their mean.
    pub mean: f64,
    squares: f64,
    /// The smallest.
    pub low: f64,
    /// The largest.
    pub high: f64,
    /// Below LSL.
    pub below: f64,
    /// Above USL.
    pub above: f64,
}

impl Tally {
    /// Of nothing yet.
    pub const NONE: Tally =
        Tally { n: 0.0, undefined: 0.0, mean: 0.0, squares: 0.0, low: f64::INFINITY, high: f64::NEG_INFINITY, below: 0.0, above: 0.0 };

    /// Of a block, with its limits; what is missing of them is infinite.
    pub fn of(values: &[f64], limits: [f64; 2]) -> Tally {
        Arch::new().dispatch(Of { values, limits })
    }

    #[inline(always)]
    fn summed(values: &[f64], [lsl, usl]: [f64; 2]) -> Tally {
        const LANES: usize = 8;
        let pivot = values.iter().copied().find(|value| value.is_finite()).unwrap_or(0.0);
        let (mut n, mut off, mut squares) = ([0.0; LANES], [0.0; LANES], [0.0; LANES]);
        let (mut low, mut high) = ([f64::INFINITY; LANES], [f64::NEG_INFINITY; LANES]);
        let (mut below, mut above) = ([0.0; LANES], [0.0; LANES]);
        let mut see = |lane: usize, value: f64| {
            let there = value.abs() < f64::INFINITY;
            let distance = if there { value - pivot } else { 0.0 };
            n[lane] += if there { 1.0 } else { 0.0 };
            off[lane] += distance;
            squares[lane] += distance * distance;
            low[lane] = if there && value < low[lane] { value } else { low[lane] };
            high[lane] = if there && value > high[lane] { value } else { high[lane] };
            below[lane] += if there && value < lsl { 1.0 } else { 0.0 };
            above[lane] += if there && value > usl { 1.0 } else { 0.0 };
        };
        let (chunks, rest) = values.as_chunks::<LANES>();
        for chunk in chunks {
            chunk.iter().enumerate().for_each(|(lane, value)| see(lane, *value));
        }
        rest.iter().enumerate().for_each(|(lane, value)| see(lane, *value));
        let count: f64 = n.iter().sum();
        let (off, squares): (f64, f64) = (off.iter().sum(), squares.iter().sum());
        let shift = if count > 0.0 { off / count } else { 0.0 };
        Tally {
            n: count,
            undefined: values.len() as f64 - count,
            mean: pivot + shift,
            squares: (squares - off * shift).max(0.0),
            low: low.into_iter().fold(f64::INFINITY, f64::min),
            high: high.into_iter().fold(f64::NEG_INFINITY, f64::max),
            below: below.iter().sum(),
            above: above.iter().sum(),
        }
    }

    /// Both together (Chan, Golub and LeVeque 1983).
    pub fn and(self, other: Tally) -> Tally {
        let n = self.n + other.n;
        let undefined = self.undefined + other.undefined;
        if n == 0.0 {
            return Tally { undefined, ..Tally::NONE };
        }
        let apart = if self.n > 0.0 && other.n > 0.0 { other.mean - self.mean } else { 0.0 };
        let start = if self.n > 0.0 { self.mean } else { other.mean };
        Tally {
            n,
            undefined,
            mean: start + apart * other.n / n,
            squares: self.squares + other.squares + apart * apart * self.n * other.n / n,
            low: self.low.min(other.low),
            high: self.high.max(other.high),
            below: self.below + other.below,
            above: self.above + other.above,
        }
    }

    /// Variance of the draws, as of a sample.
    pub fn variance(&self) -> f64 {
        if self.n > 1.0 { self.squares / (self.n - 1.0) } else { 0.0 }
    }

    /// Standard deviation.
    pub fn sd(&self) -> f64 {
        // What is no more than rounding of the mean is no spread.
        let sd = self.variance().sqrt();
        if sd <= 1e-14 * self.mean.abs() { 0.0 } else { sd }
    }

    /// The share out of the limits.
    pub fn out(&self) -> f64 {
        if self.n > 0.0 { (self.below + self.above) / self.n } else { 0.0 }
    }
}

/// The sums of a block, as work that is written for whatever machine it meets.
struct Of<'v> {
    values: &'v [f64],
    limits: [f64; 2],
}

impl WithSimd for Of<'_> {
    type Output = Tally;

    #[inline(always)]
    fn with_simd<S: Simd>(self, _: S) -> Tally {
        Tally::summed(self.values, self.limits)
    }
}

/// Every draw of every response.
#[derive(Clone, Debug)]
pub struct Run {
    /// Draws.
    pub draws: usize,
    responses: usize,
    /// Group after group, and in each response after response.
    values: Vec<f64>,
    /// One tally a response.
    pub tallies: Vec<Tally>,
}

impl Run {
    /// The draws of a response, in pieces.
    pub fn pieces(&self, response: usize) -> Vec<&[f64]> {
        let cut = |group: &[f64]| {
            let len = group.len() / self.responses;
            response * len..(response + 1) * len
        };
        self.values.chunks(GROUP * self.responses).map(|group| &group[cut(group)]).collect()
    }
}

/// The limits of every response, infinite where there are none.
pub fn limits(model: &Model) -> Vec<[f64; 2]> {
    let of = |lsl: Option<f64>, usl: Option<f64>| [lsl.unwrap_or(f64::NEG_INFINITY), usl.unwrap_or(f64::INFINITY)];
    model.responses.iter().map(|response| of(response.stated.lsl, response.stated.usl)).collect()
}

/// Groups of so many draws.
fn groups(draws: usize) -> usize {
    draws.div_ceil(GROUP)
}

/// Runs a model over so many draws.
///
/// # Errors
/// [`Stopped`].
pub fn run(model: &Model, draws: usize, seed: u64, sampling: Sampling, cancel: &Cancel) -> Result<Run, Stopped> {
    let responses = model.responses.len();
    let source = Source::of(seed, sampling, draws);
    let (programs, limits) = (model.programs(&model.settings()), limits(model));
    cancel.expect(groups(draws) as u32);
    let mut values = vec![0.0; draws * responses];
    let group = |bench: &mut Bench, (number, group): (usize, &mut [f64])| {
        cancel.step()?;
        let len = group.len() / responses;
        let mut tallies = vec![Tally::NONE; responses];
        for_blocks(model, &programs, bench, source, number, len, |bench, from, upto| {
            for (place, tally) in tallies.iter_mut().enumerate() {
                let block = bench.response(model, place);
                *tally = tally.and(Tally::of(block, limits[place]));
                group[place * len + from..place * len + upto].copy_from_slice(block);
            }
        });
        Ok(tallies)
    };
    let found: Vec<Vec<Tally>> =
        values.par_chunks_mut(GROUP * responses).enumerate().map_init(|| Bench::of(model), group).collect::<Result<_, Stopped>>()?;
    let tallies = (0..responses).map(|place| found.iter().map(|group| group[place]).fold(Tally::NONE, Tally::and)).collect();
    Ok(Run { draws, responses, values, tallies })
}

/// Draws and works out the blocks of a group, one after another.
fn for_blocks(
    model: &Model,
    programs: &[Program],
    bench: &mut Bench,
    source: Source,
    group: usize,
    len: usize,
    mut see: impl FnMut(&Bench, usize, usize),
) {
    for (place, from) in (0..len).step_by(BLOCK).enumerate() {
        let upto = (from + BLOCK).min(len);
        bench.draw(model, source, (group * BLOCKS + place) as u64, upto - from);
        bench.follow(model, programs);
        see(bench, from, upto);
    }
}

/// Sees every block of so many draws on every core, and joins what was seen in their order.
///
/// # Errors
/// [`Stopped`].
pub fn in_blocks<T: Send>(
    model: &Model,
    draws: usize,
    cancel: &Cancel,
    start: impl Fn() -> T + Sync,
    see: impl Fn(&mut Bench, u64, usize, &mut T) + Sync,
    join: impl Fn(T, T) -> T,
) -> Result<T, Stopped> {
    let all = groups(draws);
    cancel.expect(all as u32);
    let group = |bench: &mut Bench, number: usize| {
        cancel.step()?;
        let mut seen = start();
        let len = (draws - number * GROUP).min(GROUP);
        for (place, from) in (0..len).step_by(BLOCK).enumerate() {
            see(bench, (number * BLOCKS + place) as u64, (from + BLOCK).min(len) - from, &mut seen);
        }
        Ok(seen)
    };
    let found: Vec<T> = (0..all).into_par_iter().map_init(|| Bench::of(model), group).collect::<Result<_, Stopped>>()?;
    Ok(found.into_iter().reduce(join).unwrap_or_else(&start))
}
