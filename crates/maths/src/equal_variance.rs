//! Whether groups spread alike.

use super::describe::{median, moments};
use super::tails::f_above;

/// A test of equal spread.
#[derive(Clone, Copy, Debug, PartialEq, serde::Serialize, utoipa::ToSchema)]
pub struct EqualVariance {
    /// The statistic.
    pub f: f64,
    /// Groups less one.
    pub df1: f64,
    /// Values less groups.
    pub df2: f64,
    /// The chance of so large a statistic when all spread alike.
    pub p: f64,
}

/// Distances that vary by so small a part of the largest vary by rounding.
const ROUNDING: f64 = 1e-12;

/// Levene's test about the medians: one-way analysis of variance of |x - median of its group|. NaN is missing.
/// Both values of a group of two lie equally far from their median and say nothing of how distances vary: groups below three are left
/// out. `None` with fewer than two others, or when distances vary within none.
///
/// Source: Brown and Forsythe (1974), J. American Statistical Association 69.
pub fn brown_forsythe(groups: &[impl AsRef<[f64]>]) -> Option<EqualVariance> {
    let distances: Vec<Vec<f64>> = groups
        .iter()
        .filter_map(|group| median(group.as_ref()).map(|middle| group.as_ref().iter().map(|value| (value - middle).abs()).collect()))
        .filter(|group: &Vec<f64>| group.len() > 2)
        .collect();
    let all: Vec<f64> = distances.concat();
    let total = moments(&all);
    let (k, n) = (distances.len() as f64, total.n as f64);
    if k < 2.0 || n <= k {
        return None;
    }
    let grand = total.mean?;
    let (mut between, mut within) = (0.0, 0.0);
    for group in &distances {
        let of = moments(group);
        let (n, mean, sd) = (of.n as f64, of.mean?, of.sd.unwrap_or(0.0));
        between += n * (mean - grand) * (mean - grand);
        within += (n - 1.0) * sd * sd;
    }
    let (df1, df2) = (k - 1.0, n - k);
    // What rounding leaves is no spread.
    let largest = all.iter().fold(0.0, |most: f64, distance| most.max(*distance));
    if within.sqrt() <= ROUNDING * largest {
        return None;
    }
    let f = (between / df1) / (within / df2);
    f.is_finite().then(|| EqualVariance { f, df1, df2, p: f_above(f, df1, df2) })
}

/// Where sds so many times apart would have been found, there is little left to hide.
pub const ALIKE: f64 = 2.0;

/// How many times apart the sds of two groups of normal values must lie before a test at 5 % finds it in four of five cases:
/// exp(2.8 √(1/(2(a - 1)) + 1/(2(b - 1)))), because ln s has a variance of about 1/(2(n - 1)) (Johnson and Welch 1939) and
/// 2.8 = 1.96 + 0.84. `sizes` are the numbers of values of all groups, of which those below 2 say nothing; the typical pair
/// stands for all. `None` below two groups.
pub fn ratio_found(sizes: impl IntoIterator<Item = usize>) -> Option<f64> {
    let shares: Vec<f64> = sizes.into_iter().filter(|n| *n > 1).map(|n| 1.0 / (n - 1) as f64).collect();
    (shares.len() > 1).then(|| (2.8 * (shares.iter().sum::<f64>() / shares.len() as f64).sqrt()).exp())
}
