//! Values that end at a limit: parts that were sorted, or readings pulled inside.

use super::describe::moments;
use super::normal;
use super::sorting::Sorted;

/// Values that would lie beyond a limit and do not.
#[derive(Clone, Copy, Debug, PartialEq)]
pub struct CutOff {
    /// Whether the upper limit cuts.
    pub upper: bool,
    /// The limit.
    pub limit: f64,
    /// How many would lie beyond it.
    pub expected: f64,
}

/// Fewer values do not show an end.
const LEAST: usize = 40;
/// So many would have to lie beyond: none of them does with a chance below e to the minus this.
const EXPECTED: f64 = 6.0;
/// The last value lies within so many sds of the limit.
const NEAR: f64 = 0.2;
/// A cut keeps at least this share of what a normal has just inside the limit.
const CLIFF: f64 = 0.5;

/// Finds a limit at which the values end although a normal of their mean and sd, which are those of what is left, would go on: at least
/// six of them are missing beyond, and just inside they are about as many as that normal has. `None` with fewer than 40 values.
pub fn cut_off(sorted: &Sorted, lsl: Option<f64>, usl: Option<f64>) -> Option<CutOff> {
    let of = moments(sorted);
    let (mean, sd) = (of.mean?, of.sd.filter(|sd| *sd > 0.0 && sd.is_finite())?);
    let (low, high, n) = (*sorted.first()?, *sorted.last()?, sorted.len() as f64);
    if sorted.len() < LEAST {
        return None;
    }
    let cut = |limit: f64, last: f64, upper: bool| {
        let inside = if upper { limit - last } else { last - limit };
        let z = if upper { (limit - mean) / sd } else { (mean - limit) / sd };
        let expected = n * normal::above(z);
        let band = 0.5;
        let seen =
            sorted.iter().filter(|value| if upper { **value > limit - band * sd } else { **value < limit + band * sd }).count() as f64;
        let usual = n * (normal::above(z - band) - normal::above(z));
        let is_cut = (0.0..=NEAR * sd).contains(&inside) && expected >= EXPECTED && seen >= CLIFF * usual;
        is_cut.then_some(CutOff { upper, limit, expected })
    };
    usl.and_then(|usl| cut(usl, high, true)).or_else(|| lsl.and_then(|lsl| cut(lsl, low, false)))
}
