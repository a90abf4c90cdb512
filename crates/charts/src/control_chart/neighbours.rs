//! Whether neighbours are more alike, or less, than values far apart: what drift and mixing do, told from chance.
//!
//! Single values by von Neumann's ratio η = Σ(xᵢ₊₁ - xᵢ)²/Σ(x - x̄)², of mean 2n/(n - 1) and variance about 4(n - 2)/(n² - 1) for
//! values in a random order, whatever their shape (von Neumann 1941, Annals of Mathematical Statistics 12). Subgroups by the F of
//! their means against what varies within them (Fisher 1925).

use super::answer::Chart;
use acorn_maths::describe::moments;
use acorn_maths::normal;
use acorn_maths::tails::f_above;

/// Fewer points than this tell nothing.
const LEAST: usize = 8;

/// How neighbours compare with values far apart.
#[derive(Clone, Copy, Debug, PartialEq)]
pub struct Neighbours {
    /// The chance of neighbours so much alike in a random order.
    pub p_alike: f64,
    /// The chance of neighbours so unlike in a random order.
    pub p_unlike: f64,
}

impl Chart {
    /// Judges the order of the values; `None` with too few, or none that vary.
    pub fn neighbours(&self) -> Option<Neighbours> {
        if self.sampled() { self.within_subgroups() } else { one_by_one(&self.panels[0].values) }
    }

    fn within_subgroups(&self) -> Option<Neighbours> {
        let all = self.moments;
        let (n, mean, sd) = (all.n as f64, all.mean?, all.sd?);
        let (mut groups, mut between) = (0.0, 0.0);
        for point in 0..self.len() {
            // The charted statistic is a mean of subgroups.
            let (size, own) = (self.values_behind(point) as f64, self.panels[0].values[point]);
            if size > 0.0 && !own.is_nan() {
                groups += 1.0;
                between += size * (own - mean) * (own - mean);
            }
        }
        let (df1, df2) = (groups - 1.0, n - groups);
        let within = sd * sd * (n - 1.0) - between;
        if df1 < 1.0 || df2 < 1.0 || n < LEAST as f64 || within <= 0.0 {
            return None;
        }
        let f = (between / df1) / (within / df2);
        Some(Neighbours { p_alike: f_above(f, df1, df2), p_unlike: f_above(1.0 / f, df2, df1) })
    }
}

pub fn one_by_one(values: &[f64]) -> Option<Neighbours> {
    let of = moments(values);
    let (n, sd) = (of.n as f64, of.sd.filter(|sd| *sd > 0.0)?);
    if of.n < LEAST {
        return None;
    }
    let mut last = f64::NAN;
    let mut sum = 0.0;
    for &value in values.iter().filter(|value| !value.is_nan()) {
        let step = (value - last) / sd;
        if !step.is_nan() {
            sum += step * step;
        }
        last = value;
    }
    let ratio = sum / (n - 1.0);
    let score = (ratio - 2.0 * n / (n - 1.0)) / (4.0 * (n - 2.0) / ((n - 1.0) * (n - 1.0))).sqrt();
    Some(Neighbours { p_alike: normal::below(score), p_unlike: normal::above(score) })
}
