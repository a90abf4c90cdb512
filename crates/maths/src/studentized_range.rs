//! The range of several means over their spread, by which all pairs are compared at once.
//!
//! The range of k standard normals is at most w with the chance k ∫ φ(z) (Φ(z) − Φ(z − w))^(k − 1) dz, z the largest; the spread
//! is then averaged over its chi distribution. Sources: Tukey (1953); Lund and Lund (1983), Applied Statistics 32; Hochberg and
//! Tamhane (1987), Multiple Comparison Procedures, app. 1.

use super::curve::{Curve, spreads};
use super::normal::{below, density};
use super::root::falling;

/// The studentized range of `k` means.
pub struct StudentizedRange {
    /// The chance that the range of normals is larger.
    larger: Curve,
}

/// Hardly any range of normals is larger.
const END: f64 = 14.0;
const PANELS: usize = 400;

impl StudentizedRange {
    /// Of at least two means.
    pub fn of(k: usize) -> StudentizedRange {
        StudentizedRange { larger: Curve::of(END, 0.0, |w| 1.0 - within(k, w)) }
    }

    /// The chance of a larger one than `q`, its spread with `df` degrees of freedom.
    ///
    /// # Examples
    /// ```
    /// use acorn_maths::studentized_range::StudentizedRange;
    /// // Pearson and Hartley (1966), table 29: of 4 means, df 20, 3.96 at 5 %.
    /// assert!((StudentizedRange::of(4).above(3.958_293, 20.0) - 0.05).abs() < 1e-6);
    /// ```
    pub fn above(&self, q: f64, df: f64) -> f64 {
        if !(df > 0.0 && q.is_finite()) {
            return f64::NAN;
        }
        spreads(df).iter().map(|(s, weight)| weight * self.larger.at(q * s)).sum::<f64>().clamp(0.0, 1.0)
    }

    /// The one that a larger one passes with the chance `alpha`.
    pub fn upper(&self, alpha: f64, df: f64) -> f64 {
        let weights = spreads(df);
        let above = |q: f64| weights.iter().map(|(s, weight)| weight * self.larger.at(q * s)).sum::<f64>() - alpha;
        let (mut low, mut high) = (0.0, 4.0);
        while above(high) > 0.0 && high < 1e4 {
            (low, high) = (high, 2.0 * high);
        }
        falling([low, high], above)
    }
}

/// The chance that the range of `k` standard normals is at most `w`.
fn within(k: usize, w: f64) -> f64 {
    let (low, high) = (-8.0, 8.0);
    let across = (high - low) / PANELS as f64;
    let at = |i: usize| {
        let z = low + across * i as f64;
        // Both ends are nothing: the middle rule is as good as any of higher order (Trefethen and Weideman 2014).
        density(z) * (below(z) - below(z - w)).powi(k as i32 - 1)
    };
    (k as f64 * across * (0..=PANELS).map(at).sum::<f64>()).min(1.0)
}
