//! The power that makes values most normal.

use super::fit::highest;
use crate::sorting::Sorted;

/// A power transformation y = (x^λ - 1)/λ, ln x at λ = 0, of positive values.
#[derive(Clone, Copy, Debug, PartialEq)]
pub struct BoxCox {
    /// The power λ.
    pub lambda: f64,
}

/// Powers looked at.
const POWERS: (f64, f64) = (-5.0, 5.0);
/// The first search needs no more values than this.
const SKETCH: usize = 4000;

impl BoxCox {
    /// The λ on [-5, 5] that maximises the profile log-likelihood -n/2 ln σ̂²(λ) + (λ - 1) Σ ln x of sorted positive
    /// values (Box and Cox 1964, J. Royal Statistical Society B 26); `None` when they do not vary or are not positive.
    pub fn fit(sorted: &Sorted) -> Option<BoxCox> {
        let (&low, &high) = (sorted.first()?, sorted.last()?);
        if low <= 0.0 || low >= high {
            return None;
        }
        let height = |values: &[f64]| {
            let logs: Vec<f64> = values.iter().map(|value| value.ln()).collect();
            let centre = logs.iter().sum::<f64>() / logs.len() as f64;
            let logs: Vec<f64> = logs.into_iter().map(|log| log - centre).collect();
            // Relative to their geometric mean the values need no Jacobian, and powers of them do not overflow.
            move |lambda: f64| {
                let power = |log: f64| if lambda.abs() < 1e-12 { log } else { (lambda * log).exp_m1() / lambda };
                let (mut off, mut squares) = (0.0, 0.0);
                for &log in &logs {
                    let y = power(log);
                    off += y;
                    squares += y * y;
                }
                let n = logs.len() as f64;
                -0.5 * n * ((squares - off * off / n) / n).ln()
            }
        };
        let sketch = sorted.thinned(SKETCH);
        let rough = highest(POWERS.0, POWERS.1, 1e-9, height(&sketch));
        let lambda = if sketch.len() == sorted.len() {
            rough
        } else {
            highest((rough - 0.1).max(POWERS.0), (rough + 0.1).min(POWERS.1), 1e-6, height(sorted))
        };
        Some(BoxCox { lambda })
    }

    /// A value on the scale of the power; -∞ where the power cannot be taken.
    pub fn score(&self, x: f64) -> f64 {
        if x <= 0.0 {
            return if self.lambda > 0.0 { -1.0 / self.lambda } else { f64::NEG_INFINITY };
        }
        if self.lambda.abs() < 1e-12 { x.ln() } else { (self.lambda * x.ln()).exp_m1() / self.lambda }
    }

    /// Back to the scale of the values: 0 or ∞ beyond what a power can reach.
    pub fn value_at(&self, y: f64) -> f64 {
        if self.lambda.abs() < 1e-12 {
            return y.exp();
        }
        let above = self.lambda * y;
        if above > -1.0 {
            // 1 + λ y would lose the digits of a small λ.
            (above.ln_1p() / self.lambda).exp()
        } else if self.lambda > 0.0 {
            0.0
        } else {
            f64::INFINITY
        }
    }
}
