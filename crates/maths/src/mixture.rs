//! Two groups in one column of values: a mixture of two normals with one sd.

use super::describe::moments;
use super::sorting::Sorted;

/// Two groups of values.
#[derive(Clone, Copy, Debug, PartialEq)]
pub struct TwoGroups {
    /// The centre of each, the lower one first.
    pub centers: [f64; 2],
    /// The sd within them.
    pub sd: f64,
    /// The share of the lower one.
    pub share: f64,
}

/// Fewer values do not show two groups.
const LEAST: usize = 40;
/// Of more values so many of even ranks tell.
const MOST: usize = 4000;
/// The smaller group holds at least this share.
const SHARE_LEAST: f64 = 0.15;
/// The groups are at least so many of their sds apart: then there is a valley between them (Schilling, Watkins and Watkins 2002).
const APART: f64 = 3.0;
/// By so much the Bayesian criterion of two groups is better than that of one (Kass and Raftery 1995: very strong is 10).
const BETTER: f64 = 20.0;
/// In the middle there are at most this share of the values about the smaller peak.
const VALLEY: f64 = 0.5;

/// Finds two groups by expectation and maximisation (McLachlan and Peel 2000, Finite Mixture Models, ch. 3); `None` where one normal, or a
/// single shape without a valley, does as well, or with fewer than 40 values.
pub fn two_groups(sorted: &Sorted) -> Option<TwoGroups> {
    let values = sorted.thinned(MOST);
    let n = values.len() as f64;
    let of = moments(&values);
    let (mean, sd) = (of.mean?, of.sd.filter(|sd| *sd > 0.0 && sd.is_finite())?);
    if values.len() < LEAST {
        return None;
    }
    let scaled: Vec<f64> = values.iter().map(|value| (value - mean) / sd).collect();
    let (mut centers, mut variance, mut share) = ([-1.0, 1.0], 0.3, 0.5);
    let mut likelihood = f64::NEG_INFINITY;
    for _ in 0..300 {
        let (mut lower, mut sums, mut squares, mut total) = (0.0, [0.0; 2], [0.0; 2], 0.0);
        for &x in &scaled {
            let density = |center: f64, share: f64| share * (-(x - center) * (x - center) / (2.0 * variance)).exp();
            let [a, b] = [density(centers[0], share), density(centers[1], 1.0 - share)];
            let both = (a + b).max(f64::MIN_POSITIVE);
            let belongs = a / both;
            total += both.ln();
            lower += belongs;
            for (place, weight) in [belongs, 1.0 - belongs].into_iter().enumerate() {
                sums[place] += weight * x;
                squares[place] += weight * x * x;
            }
        }
        if lower < 1.0 || n - lower < 1.0 {
            return None;
        }
        let found = total - 0.5 * n * (std::f64::consts::TAU * variance).ln();
        let settled = found - likelihood < 1e-7 * n;
        likelihood = found;
        if settled {
            break;
        }
        let of = [lower, n - lower];
        centers = [sums[0] / of[0], sums[1] / of[1]];
        variance = ((squares[0] - of[0] * centers[0] * centers[0] + squares[1] - of[1] * centers[1] * centers[1]) / n).max(1e-9);
        share = lower / n;
    }
    let one = -0.5 * n * (1.0 + (std::f64::consts::TAU * (n - 1.0) / n).ln());
    let within = variance.sqrt();
    let distance = centers[1] - centers[0];
    let is_better = 2.0 * (likelihood - one) - 2.0 * n.ln() > BETTER;
    let holds = (SHARE_LEAST..=1.0 - SHARE_LEAST).contains(&share);
    if !is_better || !holds || distance < APART * within {
        return None;
    }
    let about = |center: f64| scaled.iter().filter(|x| (**x - center).abs() <= distance / 6.0).count() as f64;
    let peaks = about(centers[0]).min(about(centers[1]));
    (about(0.5 * (centers[0] + centers[1])) <= VALLEY * peaks).then(|| TwoGroups {
        centers: centers.map(|center| mean + sd * center),
        sd: sd * within,
        share,
    })
}
