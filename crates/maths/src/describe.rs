//! Mean, spread and order statistics of values in which NaN is missing.

use pulp::{Arch, Simd, WithSimd};
use rayon::prelude::*;

use super::is_shared;

/// Count, mean and sample sd of the values that are not missing.
#[derive(Clone, Copy, Debug, PartialEq)]
pub struct Moments {
    /// How many values are not missing.
    pub n: usize,
    /// Their mean; `None` without values.
    pub mean: Option<f64>,
    /// Their sample standard deviation (divisor n - 1); `None` below two values.
    pub sd: Option<f64>,
    /// The smallest; `None` without values.
    pub min: Option<f64>,
    /// The largest; `None` without values.
    pub max: Option<f64>,
}

/// Independent lanes of a sum: fast, because the compiler makes vectors of them, and exact, because rounding errors grow
/// with the length of a lane instead of that of all.
const LANES: usize = 8;

/// Count, sum of distances from a pivot, sum of their squares, smallest and largest of the values that are not missing.
struct Sums {
    n: f64,
    off: f64,
    squares: f64,
    low: f64,
    high: f64,
}

impl Sums {
    fn and(self, other: Sums) -> Sums {
        let (low, high) = (self.low.min(other.low), self.high.max(other.high));
        Sums { n: self.n + other.n, off: self.off + other.off, squares: self.squares + other.squares, low, high }
    }
}

/// A pivot lies near the values within so many variances; each costs a bit of the sum of squares.
const NEAR: f64 = 16.0;

/// Values added up by one core at a time. The pieces are always the same, and so is the sum.
const PIECE: usize = 1 << 15;

/// Sees pieces of the values side by side, and joins what was seen in their order.
fn in_pieces<T: Send>(values: &[f64], see: impl Fn(&[f64]) -> T + Sync + Send, join: impl Fn(T, T) -> T) -> T {
    let seen: Vec<T> = match is_shared(values.len()) {
        true => values.par_chunks(PIECE).map(see).collect(),
        false if values.len() > PIECE => values.chunks(PIECE).map(see).collect(),
        false => return see(values),
    };
    seen.into_iter().reduce(join).expect("there is a piece")
}

fn sums(values: &[f64], pivot: f64) -> Sums {
    // With the widest instructions that the machine has.
    in_pieces(values, |piece| Arch::new().dispatch(Of { piece, pivot }), Sums::and)
}

/// The sums of a piece, as work that is written for whatever machine it meets.
struct Of<'v> {
    piece: &'v [f64],
    pivot: f64,
}

impl WithSimd for Of<'_> {
    type Output = Sums;

    #[inline(always)]
    fn with_simd<S: Simd>(self, _: S) -> Sums {
        sums_of(self.piece, self.pivot)
    }
}

#[inline(always)]
fn sums_of(values: &[f64], pivot: f64) -> Sums {
    let (mut n, mut off, mut squares) = ([0.0; LANES], [0.0; LANES], [0.0; LANES]);
    let (mut low, mut high) = ([pivot; LANES], [pivot; LANES]);
    let mut see = |lane: usize, value: f64| {
        let there = !value.is_nan();
        let distance = if there { value - pivot } else { 0.0 };
        n[lane] += if there { 1.0 } else { 0.0 };
        off[lane] += distance;
        squares[lane] += distance * distance;
        low[lane] = if value < low[lane] { value } else { low[lane] };
        high[lane] = if value > high[lane] { value } else { high[lane] };
    };
    let (chunks, rest) = values.as_chunks::<LANES>();
    for chunk in chunks {
        for (lane, &value) in chunk.iter().enumerate() {
            see(lane, value);
        }
    }
    rest.iter().enumerate().for_each(|(lane, &value)| see(lane, value));
    let (low, high) = (low.into_iter().fold(pivot, f64::min), high.into_iter().fold(pivot, f64::max));
    Sums { n: n.iter().sum(), off: off.iter().sum(), squares: squares.iter().sum(), low, high }
}

/// The smallest and the largest value that is not missing; `None` without values.
pub fn extent(values: &[f64]) -> Option<[f64; 2]> {
    let first = values.iter().copied().find(|value| !value.is_nan())?;
    let ends = |piece: &[f64]| Arch::new().dispatch(Ends { piece, first });
    Some(in_pieces(values, ends, |a, b| [a[0].min(b[0]), a[1].max(b[1])]))
}

/// The ends of a piece.
struct Ends<'v> {
    piece: &'v [f64],
    first: f64,
}

impl WithSimd for Ends<'_> {
    type Output = [f64; 2];

    #[inline(always)]
    fn with_simd<S: Simd>(self, _: S) -> [f64; 2] {
        let (mut low, mut high) = ([self.first; LANES], [self.first; LANES]);
        let mut see = |lane: usize, value: f64| {
            low[lane] = if value < low[lane] { value } else { low[lane] };
            high[lane] = if value > high[lane] { value } else { high[lane] };
        };
        let (chunks, rest) = self.piece.as_chunks::<LANES>();
        for chunk in chunks {
            (0..LANES).for_each(|lane| see(lane, chunk[lane]));
        }
        rest.iter().enumerate().for_each(|(lane, &value)| see(lane, value));
        [low.into_iter().fold(self.first, f64::min), high.into_iter().fold(self.first, f64::max)]
    }
}

/// How many values are not missing.
pub fn count(values: &[f64]) -> usize {
    values.iter().filter(|value| !value.is_nan()).count()
}

/// Count, mean, sample sd and extremes, missing values left out.
///
/// From a pivot p near the values: x̄ = p + Σ(x - p)/n and sd = √((Σ(x - p)² - (Σ(x - p))²/n) / (n - 1)) (Chan, Golub and
/// LeVeque 1983, eq. 1.7). The first value is the pivot; where it turns out to lie far from the others, the mean is, in a
/// second pass.
///
/// # Examples
/// ```
/// use acorn_maths::describe::moments;
/// // An offset of ten million leaves nine digits of a spread in the thousandths.
/// let far = moments(&[1e7 + 0.001, 1e7 + 0.002, f64::NAN, 1e7 + 0.003]);
/// assert_eq!(far.n, 3);
/// assert!((far.sd.unwrap() - 0.001).abs() < 1e-9);
/// assert_eq!(moments(&[4.2]).sd, None);
/// ```
pub fn moments(values: &[f64]) -> Moments {
    let Some(&first) = values.iter().find(|value| !value.is_nan()) else {
        return Moments { n: 0, mean: None, sd: None, min: None, max: None };
    };
    let rough = sums(values, first);
    let n = rough.n;
    let (pivot, fine) = match (rough.off / n).powi(2) > NEAR * (rough.squares / n - (rough.off / n).powi(2)) {
        true => (first + rough.off / n, sums(values, first + rough.off / n)),
        false => (first, rough),
    };
    let sd = (n > 1.0).then(|| ((fine.squares - fine.off * fine.off / n).max(0.0) / (n - 1.0)).sqrt());
    Moments { n: n as usize, mean: Some(pivot + fine.off / n), sd, min: Some(fine.low), max: Some(fine.high) }
}

/// Count, mean and extremes in one pass, for values that do not lie far from 0 against their spread, such as ranges.
/// The sd is left out.
pub fn mean_and_extent(values: &[f64]) -> Moments {
    let Some(&first) = values.iter().find(|value| !value.is_nan()) else { return moments(&[]) };
    let Sums { n, off, low, high, .. } = sums(values, first);
    Moments { n: n as usize, mean: Some(first + off / n), sd: None, min: Some(low), max: Some(high) }
}

/// The mean of values none of which is missing, from a pivot near them; no number without values.
pub fn mean(values: &[f64]) -> f64 {
    let pivot = values.first().copied().unwrap_or(f64::NAN);
    pivot + values.iter().map(|value| value - pivot).sum::<f64>() / values.len() as f64
}

/// The median of the values that are not missing; `None` without values. Linear time.
pub fn median(values: &[f64]) -> Option<f64> {
    let mut kept: Vec<f64> = values.iter().copied().filter(|value| !value.is_nan()).collect();
    if kept.is_empty() {
        return None;
    }
    let middle = kept.len() / 2;
    let even = kept.len().is_multiple_of(2);
    let (lower, &mut upper_middle, _) = kept.select_nth_unstable_by(middle, f64::total_cmp);
    let lower_middle = lower.iter().copied().fold(f64::NEG_INFINITY, f64::max);
    Some(if even { lower_middle + (upper_middle - lower_middle) / 2.0 } else { upper_middle })
}

/// The correlation of each value with the one before it, pairs with a missing side left out:
/// r₁ = Σ(x_i - x̄)(x_{i-1} - x̄) / Σ(x_i - x̄)² (Box and Jenkins 1970, eq. 2.1.12), from values and their
/// moments. `None` below 3 values or without spread.
pub fn lag_one_correlation(values: &[f64], moments: &Moments) -> Option<f64> {
    let (m, sd) = moments.mean.zip(moments.sd.filter(|sd| *sd > 0.0))?;
    if moments.n < 3 {
        return None;
    }
    // A piece and the value after it: each pair lies in one of them.
    let starts: Vec<usize> = (0..values.len()).step_by(PIECE).collect();
    let of = |&start: &usize| Arch::new().dispatch(Neighbours { piece: &values[start..(start + PIECE + 1).min(values.len())], m });
    let products: Vec<f64> = if is_shared(values.len()) { starts.par_iter().map(of).collect() } else { starts.iter().map(of).collect() };
    let products: f64 = products.iter().sum();
    Some(products / (sd * sd * (moments.n - 1) as f64))
}

/// The products of a piece.
struct Neighbours<'v> {
    piece: &'v [f64],
    m: f64,
}

impl WithSimd for Neighbours<'_> {
    type Output = f64;

    #[inline(always)]
    fn with_simd<S: Simd>(self, _: S) -> f64 {
        neighbours(self.piece, self.m)
    }
}

/// Σ(x_i - m)(x_{i-1} - m), pairs with a missing side left out.
#[inline(always)]
fn neighbours(values: &[f64], m: f64) -> f64 {
    let later = values.get(1..).unwrap_or_default();
    let (earlier, _) = values.split_at(later.len());
    let mut products = [0.0; LANES];
    let (here, next) = (earlier.as_chunks::<LANES>(), later.as_chunks::<LANES>());
    let mut add = |lane: usize, a: f64, b: f64| {
        let product = (a - m) * (b - m);
        products[lane] += if product.is_nan() { 0.0 } else { product };
    };
    for (a, b) in here.0.iter().zip(next.0) {
        (0..LANES).for_each(|lane| add(lane, a[lane], b[lane]));
    }
    here.1.iter().zip(next.1).enumerate().for_each(|(lane, (&a, &b))| add(lane, a, b));
    products.iter().sum()
}

/// How many different values there are, when at most so many; `None` without values or with more.
pub fn few_distinct(values: &[f64], most: usize) -> Option<usize> {
    let mut distinct = std::collections::HashSet::new();
    for value in values.iter().filter(|value| !value.is_nan()) {
        distinct.insert(value.to_bits());
        if distinct.len() > most {
            return None;
        }
    }
    (!distinct.is_empty()).then_some(distinct.len())
}

/// The fewest decimals, up to six, with which the first thousand values read back the same.
pub fn decimals(values: &[f64]) -> u8 {
    let kept = || values.iter().filter(|value| !value.is_nan()).take(1000);
    let fits = |places: u8| {
        let scale = 10f64.powi(places.into());
        kept().all(|value| (value * scale - (value * scale).round()).abs() <= 1e-7 * (value * scale).abs().max(1.0))
    };
    (0..6).find(|&places| fits(places)).unwrap_or(6)
}
