//! Johnson's systems: three functions of a normal that reach every skewness and kurtosis.

use serde::Serialize;

use crate::describe::moments;
use crate::normal;
use crate::shape::anderson_darling;
use crate::sorting::Sorted;

/// Which function of a normal.
#[derive(Clone, Copy, Debug, PartialEq, Eq, Serialize, utoipa::ToSchema)]
pub enum System {
    /// Unbounded: z = γ + δ asinh((x - ξ)/λ).
    SU,
    /// Bounded on both sides: z = γ + δ ln((x - ξ)/(ξ + λ - x)).
    SB,
    /// Bounded below: z = γ + δ ln(x - ξ).
    SL,
}

/// A fitted system.
#[derive(Clone, Copy, Debug, PartialEq)]
pub struct Johnson {
    /// Which function.
    pub system: System,
    /// γ
    pub gamma: f64,
    /// δ
    pub delta: f64,
    /// ξ
    pub xi: f64,
    /// λ; 1 for SL.
    pub lambda: f64,
}

/// The search for the best percentiles needs no more values than this.
const SKETCH: usize = 5000;
/// Fewest values: eight are needed to tell one fit from another.
const LEAST: usize = 8;

impl Johnson {
    /// The system that makes sorted values most normal by the test of Anderson and Darling, its parameters from the
    /// percentiles at ±z and ±3z for z = 0.25, 0.26, ... 1.25; `None` below eight values, without spread, or when no
    /// system holds all values.
    ///
    /// Sources: Slifker and Shapiro (1980), Technometrics 22, for the parameters; Chou, Polansky and Mason (1998),
    /// J. Quality Technology 30, for the search.
    pub fn fit(sorted: &Sorted) -> Option<Johnson> {
        if sorted.len() < LEAST {
            return None;
        }
        let sketch = sorted.thinned(SKETCH);
        let (low, high) = (sketch[0], sketch[sketch.len() - 1]);
        let mut best: Option<(f64, Johnson)> = None;
        for step in 0..=100 {
            let z = 0.25 + 0.01 * f64::from(step);
            for candidate in candidates(&sketch, z).into_iter().flatten().filter(|one| one.holds(low) && one.holds(high)) {
                let scores = sketch.on_scale(|x| candidate.score(x));
                let of = moments(&scores);
                let test = of.mean.zip(of.sd).and_then(|(mean, sd)| anderson_darling(&scores, mean, sd));
                // The smaller the statistic, the larger its p.
                if let Some(test) = test.filter(|test| test.a2_star.is_finite())
                    && best.is_none_or(|(a2, _)| test.a2_star < a2)
                {
                    best = Some((test.a2_star, candidate));
                }
            }
        }
        best.map(|(_, found)| found)
    }

    fn holds(&self, x: f64) -> bool {
        self.score(x).is_finite()
    }

    /// A value on the normal scale; infinite at and beyond the bounds.
    pub fn score(&self, x: f64) -> f64 {
        let d = x - self.xi;
        let inner = match self.system {
            System::SU => (d / self.lambda).asinh(),
            System::SB if d >= self.lambda => f64::INFINITY,
            System::SB if d > 0.0 => (d / (self.lambda - d)).ln(),
            System::SL if d > 0.0 => d.ln(),
            _ => f64::NEG_INFINITY,
        };
        self.gamma + self.delta * inner
    }

    /// Back to the scale of the values.
    pub fn value_at(&self, z: f64) -> f64 {
        let inner = (z - self.gamma) / self.delta;
        match self.system {
            System::SU => self.xi + self.lambda * inner.sinh(),
            System::SB => self.xi + self.lambda / (1.0 + (-inner).exp()),
            System::SL => self.xi + inner.exp(),
        }
    }

    /// The smallest and the largest value it can have.
    pub fn bounds(&self) -> (Option<f64>, Option<f64>) {
        match self.system {
            System::SU => (None, None),
            System::SB => (Some(self.xi), Some(self.xi + self.lambda)),
            System::SL => (Some(self.xi), None),
        }
    }
}

/// The systems that the percentiles at ±z and ±3z point to.
fn candidates(sorted: &Sorted, z: f64) -> [Option<Johnson>; 2] {
    let n = sorted.len() as f64;
    // The percentile of rank n p + 0.5 (Slifker and Shapiro), in the terms of a (n - 1) p rule.
    let at = |score: f64| {
        let place = (n * normal::below(score) - 0.5) / (n - 1.0);
        (0.0..=1.0).contains(&place).then(|| sorted.quantile(place)).flatten()
    };
    let (Some(far_low), Some(low), Some(high), Some(far_high)) = (at(-3.0 * z), at(-z), at(z), at(3.0 * z)) else {
        return [None, None];
    };
    let (m, n, p) = (far_high - high, low - far_low, high - low);
    if p <= 0.0 || m <= 0.0 || n <= 0.0 {
        return [None, None];
    }
    let middle = 0.5 * (high + low);
    let ratio = m * n / (p * p);
    let two = if ratio > 1.0 { unbounded(z, m / p, n / p, p, middle) } else { bounded(z, p / m, p / n, p, middle) };
    [Some(two).filter(Johnson::is_sound), Some(lognormal(z, m / p, p, middle)).filter(Johnson::is_sound)]
}

/// SU from m/p and n/p.
fn unbounded(z: f64, m: f64, n: f64, p: f64, middle: f64) -> Johnson {
    let delta = 2.0 * z / (0.5 * (m + n)).acosh();
    let root = (m * n - 1.0).sqrt();
    let gamma = delta * ((n - m) / (2.0 * root)).asinh();
    let lambda = 2.0 * p * root / ((m + n - 2.0) * (m + n + 2.0).sqrt());
    Johnson { system: System::SU, gamma, delta, xi: middle + p * (n - m) / (2.0 * (m + n - 2.0)), lambda }
}

/// SB from p/m and p/n.
fn bounded(z: f64, m: f64, n: f64, p: f64, middle: f64) -> Johnson {
    let both = (1.0 + m) * (1.0 + n);
    let excess = m * n - 1.0;
    let delta = z / (0.5 * both.sqrt()).acosh();
    let gamma = delta * ((n - m) * (both - 4.0).sqrt() / (2.0 * excess)).asinh();
    let lambda = p * ((both - 2.0).powi(2) - 4.0).sqrt() / excess;
    Johnson { system: System::SB, gamma, delta, xi: middle - 0.5 * lambda + p * (n - m) / (2.0 * excess), lambda }
}

/// SL from m/p.
fn lognormal(z: f64, m: f64, p: f64, middle: f64) -> Johnson {
    let delta = 2.0 * z / m.ln();
    let gamma = delta * ((m - 1.0) / (p * m.sqrt())).ln();
    Johnson { system: System::SL, gamma, delta, xi: middle - 0.5 * p * (m + 1.0) / (m - 1.0), lambda: 1.0 }
}

impl Johnson {
    fn is_sound(&self) -> bool {
        [self.gamma, self.delta, self.xi, self.lambda].iter().all(|value| value.is_finite()) && self.delta > 0.0 && self.lambda > 0.0
    }
}
