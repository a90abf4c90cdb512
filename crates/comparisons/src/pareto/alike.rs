//! What ranking would show if all kinds were alike.
//!
//! Of k counts that are each binomial (all, 1/k), the i-th smallest lies near the quantile at (i − 0.375)/(k + 0.25): Blom
//! (1958), Statistical Estimates and Transformed Beta-Variables. Even kinds that are all alike rank as a slope, never as a level.

use acorn_maths::distributions::{Binomial, Law};
use acorn_maths::normal;

/// From such an sd on steps of one are too small to matter.
const WIDE: f64 = 1e4;

/// The counts of `k` kinds that are alike, the largest first; together about `total`.
pub fn alike(total: f64, k: usize) -> Vec<f64> {
    let level = |place: usize| (k as f64 - place as f64 - 0.375) / (k as f64 + 0.25);
    let law = Binomial { n: total.round(), p: 1.0 / k as f64 };
    let (mean, sd) = (law.n * law.p, law.sd());
    if sd > WIDE {
        return (0..k).map(|place| mean + sd * normal::quantile(level(place))).collect();
    }
    // Both rise: one walk up the counts meets every quantile.
    let mut count = (mean - 9.0 * sd - 9.0).floor().max(0.0);
    let mut below = law.at_most(count);
    let mut ranked: Vec<f64> = (0..k)
        .rev()
        .map(|place| {
            while below < level(place) && count < law.n {
                count += 1.0;
                below += law.ln_chance(count).exp();
            }
            count
        })
        .collect();
    ranked.reverse();
    ranked
}
