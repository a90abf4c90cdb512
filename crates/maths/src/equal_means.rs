//! Whether groups have one mean, when their spreads may differ.

use super::tails::{f_above, t_beyond, t_two_sided};

/// How many values, their mean and their sample sd.
#[derive(Clone, Copy, Debug, PartialEq)]
pub struct Sample {
    /// Values.
    pub n: f64,
    /// Their mean.
    pub mean: f64,
    /// Their sample sd.
    pub sd: f64,
}

/// A test of equal means of several groups.
#[derive(Clone, Copy, Debug, PartialEq, serde::Serialize, utoipa::ToSchema)]
pub struct EqualMeans {
    /// The statistic.
    pub f: f64,
    /// Groups less one.
    pub df1: f64,
    /// Degrees of freedom of the spreads; need not be whole.
    pub df2: f64,
    /// The chance of so large a statistic when all means are one.
    pub p: f64,
}

/// Whether means differ more than the groups' own spreads explain. Groups below two values or without spread are left out;
/// `None` below two others.
///
/// Source: Welch (1951), Biometrika 38.
pub fn welch(groups: impl IntoIterator<Item = Sample>) -> Option<EqualMeans> {
    let usable: Vec<Sample> = groups.into_iter().filter(|group| group.n > 1.0 && group.sd > 0.0).collect();
    let k = usable.len() as f64;
    if k < 2.0 {
        return None;
    }
    let weight = |group: &Sample| group.n / (group.sd * group.sd);
    let total: f64 = usable.iter().map(weight).sum();
    let grand = usable.iter().map(|group| weight(group) * group.mean).sum::<f64>() / total;
    let between = usable.iter().map(|group| weight(group) * (group.mean - grand).powi(2)).sum::<f64>() / (k - 1.0);
    let slack: f64 = usable.iter().map(|group| (1.0 - weight(group) / total).powi(2) / (group.n - 1.0)).sum();
    let f = between / (1.0 + 2.0 * (k - 2.0) / (k * k - 1.0) * slack);
    let (df1, df2) = (k - 1.0, (k * k - 1.0) / (3.0 * slack));
    (f.is_finite() && df2.is_finite()).then(|| EqualMeans { f, df1, df2, p: f_above(f, df1, df2) })
}

/// Whether means differ more than one spread common to all explains: one-way analysis of variance. Groups without a value are
/// left out; `None` below two others, without a spread, or when no group has two values.
///
/// F = Σ nᵢ(x̄ᵢ − x̄)²/(k − 1) over Σ (nᵢ − 1)sᵢ²/(N − k) (Fisher 1925).
pub fn anova(groups: impl IntoIterator<Item = Sample>) -> Option<EqualMeans> {
    let usable: Vec<Sample> = groups.into_iter().filter(|group| group.n > 0.0).collect();
    let (k, n) = (usable.len() as f64, usable.iter().map(|group| group.n).sum::<f64>());
    let pivot = usable.first()?.mean;
    let grand = pivot + usable.iter().map(|group| group.n * (group.mean - pivot)).sum::<f64>() / n;
    let between: f64 = usable.iter().map(|group| group.n * (group.mean - grand).powi(2)).sum();
    let within: f64 = usable.iter().filter(|group| group.n > 1.0).map(|group| (group.n - 1.0) * group.sd * group.sd).sum();
    let (df1, df2) = (k - 1.0, n - k);
    let f = between / df1 / (within / df2);
    (k > 1.0 && df2 > 0.0 && f.is_finite()).then(|| EqualMeans { f, df1, df2, p: f_above(f, df1, df2) })
}

/// The difference of two means.
#[derive(Clone, Copy, Debug, PartialEq)]
pub struct Difference {
    /// The second mean less the first.
    pub shift: f64,
    /// Its 95 % interval.
    pub ci95: [f64; 2],
    /// The chance of so large a difference when there is none.
    pub p: f64,
}

/// The difference of two means whose spreads may differ; `None` when neither varies.
///
/// t = (x̄₂ - x̄₁)/√(s₁²/n₁ + s₂²/n₂) on df = (v₁ + v₂)²/(v₁²/(n₁-1) + v₂²/(n₂-1)), v = s²/n (Welch 1947, Biometrika 34).
pub fn difference(first: Sample, second: Sample) -> Option<Difference> {
    let variance = |sample: Sample| sample.sd * sample.sd / sample.n;
    let (va, vb) = (variance(first), variance(second));
    let df = (va + vb) * (va + vb) / (va * va / (first.n - 1.0) + vb * vb / (second.n - 1.0));
    let (shift, error) = (second.mean - first.mean, (va + vb).sqrt());
    if !(error > 0.0 && error.is_finite() && df > 0.0) {
        return None;
    }
    let reach = t_two_sided(0.05, df) * error;
    Some(Difference { shift, ci95: [shift - reach, shift + reach], p: t_beyond(shift / error, df) })
}
