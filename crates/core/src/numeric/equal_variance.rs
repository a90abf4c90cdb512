//! Whether groups spread alike.

use super::describe::{median, moments};
use super::tails::f_above;

/// A test of equal spread.
#[derive(Clone, Copy, Debug, PartialEq, serde::Serialize)]
#[cfg_attr(feature = "openapi", derive(utoipa::ToSchema))]
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

/// Levene's test about the medians: one-way analysis of variance of |x - median of its group|. NaN is missing.
/// `None` with fewer than two groups of two values, or when no group varies about its mean distance.
///
/// Source: Brown and Forsythe (1974), J. American Statistical Association 69.
pub fn brown_forsythe(groups: &[impl AsRef<[f64]>]) -> Option<EqualVariance> {
    let distances: Vec<Vec<f64>> = groups
        .iter()
        .filter_map(|group| median(group.as_ref()).map(|middle| group.as_ref().iter().map(|value| (value - middle).abs()).collect()))
        .filter(|group: &Vec<f64>| group.len() > 1)
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
    let f = (between / df1) / (within / df2);
    f.is_finite().then(|| EqualVariance { f, df1, df2, p: f_above(f, df1, df2) })
}

#[cfg(test)]
mod tests {
    use super::*;

    #[test]
    fn groups_that_spread_alike_are_told_from_those_that_do_not() {
        let calm: Vec<f64> = (0..20).map(|i| f64::from(i * 7 % 20)).collect();
        let wild: Vec<f64> = calm.iter().map(|value| value * 5.0 + 100.0).collect();
        let shifted: Vec<f64> = calm.iter().map(|value| value + 50.0).collect();
        assert!(brown_forsythe(&[calm.clone(), shifted]).unwrap().p > 0.99);
        assert!(brown_forsythe(&[calm.clone(), wild]).unwrap().p < 1e-4);
        assert_eq!(brown_forsythe(&[calm]), None);
        assert_eq!(brown_forsythe(&[vec![1.0, 1.0], vec![2.0, 2.0]]), None);
    }
}
