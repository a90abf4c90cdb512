//! Values parted by groups.

use super::tails::f_above;

/// Values parted by groups: one-way analysis of variance (Fisher 1925).
pub struct OneWay {
    /// The mean of each group; NaN without values.
    pub means: Vec<f64>,
    /// The values in each.
    pub counts: Vec<f64>,
    /// The share of the sum of squares between groups.
    pub share: f64,
    /// The chance of so large a share where groups are alike.
    pub p: f64,
    /// Mean squares between and within.
    pub squares: [f64; 2],
}

impl OneWay {
    /// Parts values; those of a group beyond the last are left out. `None` with fewer than two groups, or nothing within one.
    pub fn of(values: &[f64], group: &[usize], groups: usize) -> Option<OneWay> {
        let (mut counts, mut sums) = (vec![0.0; groups], vec![0.0; groups]);
        let held = || values.iter().zip(group).filter(|(_, group)| **group < groups);
        let origin = held().next().map(|(value, _)| *value)?;
        for (value, &group) in held() {
            counts[group] += 1.0;
            sums[group] += value - origin;
        }
        let n: f64 = counts.iter().sum();
        let mean = sums.iter().sum::<f64>() / n;
        let means: Vec<f64> = sums.iter().zip(&counts).map(|(sum, count)| sum / count).collect();
        let filled = counts.iter().filter(|count| **count > 0.0).count() as f64;
        let between: f64 = means.iter().zip(&counts).filter(|(_, n)| **n > 0.0).map(|(own, n)| n * (own - mean) * (own - mean)).sum();
        let within: f64 = held().map(|(value, &group)| (value - origin - means[group]).powi(2)).sum();
        let (df1, df2) = (filled - 1.0, n - filled);
        if df1 < 1.0 || df2 < 1.0 || !(between + within).is_finite() || between + within <= 0.0 {
            return None;
        }
        let squares = [between / df1, within / df2];
        let p = if within > 0.0 { f_above(squares[0] / squares[1], df1, df2) } else { 0.0 };
        Some(OneWay { means: means.iter().map(|mean| mean + origin).collect(), counts, share: between / (between + within), p, squares })
    }

    /// The groups with the lowest and the highest mean.
    pub fn ends(&self) -> [usize; 2] {
        let filled = || (0..self.means.len()).filter(|group| self.counts[*group] > 0.0);
        let by_mean = |a: &usize, b: &usize| self.means[*a].total_cmp(&self.means[*b]);
        [filled().min_by(by_mean).unwrap_or(0), filled().max_by(by_mean).unwrap_or(0)]
    }

    /// The distance of these.
    pub fn apart(&self) -> f64 {
        let [low, high] = self.ends();
        self.means[high] - self.means[low]
    }
}
