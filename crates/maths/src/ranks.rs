//! Ranks, equal values sharing the mean of theirs.

use super::sorting::with_places;
use super::tails::chi_square_above;

/// The ranks of values from 1 on, none of which is missing, and Σ (t³ − t) over values that are equal.
///
/// # Examples
/// ```
/// let (ranks, ties) = acorn_maths::ranks::ranks(&[3.0, 1.0, 3.0]);
/// assert_eq!((ranks, ties), (vec![2.5, 1.0, 2.5], 6.0));
/// ```
pub fn ranks(values: &[f64]) -> (Vec<f64>, f64) {
    let order = with_places(values);
    let (mut ranks, mut ties) = (vec![0.0; values.len()], 0.0);
    let mut first = 0;
    while first < order.len() {
        let same = order[first..].iter().take_while(|(key, _)| *key == order[first].0).count();
        let rank = first as f64 + 0.5 * (same as f64 + 1.0);
        order[first..first + same].iter().for_each(|(_, at)| ranks[*at as usize] = rank);
        let t = same as f64;
        ties += t * t * t - t;
        first += same;
    }
    (ranks, ties)
}

/// A test of equal centres by ranks.
#[derive(Clone, Copy, Debug, PartialEq, serde::Serialize, utoipa::ToSchema)]
pub struct Kruskal {
    /// The statistic, corrected for equal values.
    pub h: f64,
    /// Degrees of freedom.
    pub df: f64,
    /// The chance of so large a one when all groups are alike.
    pub p: f64,
}

/// Whether groups have one centre, by ranks; `None` with fewer than two groups, or when all values are equal.
///
/// Source: Kruskal and Wallis (1952), J. American Statistical Association 47.
pub fn kruskal(groups: &[&[f64]]) -> Option<Kruskal> {
    let all: Vec<f64> = groups.concat();
    let n = all.len() as f64;
    let (ranks, ties) = ranks(&all);
    let correction = 1.0 - ties / (n * n * n - n);
    let used = groups.iter().filter(|group| !group.is_empty()).count();
    if used < 2 || correction <= 0.0 || !correction.is_finite() {
        return None;
    }
    let mut start = 0;
    let mut sum = 0.0;
    for group in groups.iter().filter(|group| !group.is_empty()) {
        let of: f64 = ranks[start..start + group.len()].iter().sum();
        sum += of * of / group.len() as f64;
        start += group.len();
    }
    let h = (12.0 / (n * (n + 1.0)) * sum - 3.0 * (n + 1.0)) / correction;
    let df = (used - 1) as f64;
    Some(Kruskal { h, df, p: chi_square_above(h, df) })
}
