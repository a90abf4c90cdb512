//! Laws of counts: binomial, Poisson and hypergeometric, with their exact chances.
//!
//! Chances are taken by the saddle-point form of Loader (2000), Fast and Accurate Computation of Binomial Probabilities, which
//! keeps its digits where differences of logarithms of factorials lose theirs. The two-sided chance is that of all counts no
//! likelier than the one seen: Freeman and Halton (1951), Biometrika 38.

mod chances;
mod hypergeometric;

use std::f64::consts::TAU;

pub use hypergeometric::Hypergeometric;

use super::tails::{beta_below, binomial_from, gamma_above, gamma_below};
use chances::{deviance, ln_binomial, stirling_error};

/// Counts whose chances differ by less are as likely as each other: rounding must not decide.
pub const AS_LIKELY: f64 = 1e-7;
/// A law of whole counts whose chances rise up to the likeliest count and fall after it.
pub trait Law {
    /// ln of the chance of a count within the range.
    fn ln_chance(&self, count: f64) -> f64;
    /// The smallest and the largest count; the largest may be infinite.
    fn range(&self) -> [f64; 2];
    /// A count than which none is likelier.
    fn likeliest(&self) -> f64;
    /// The sd of the counts.
    fn sd(&self) -> f64;
    /// The chance of so many or fewer.
    fn at_most(&self, count: f64) -> f64;
    /// The chance of so many or more.
    fn at_least(&self, count: f64) -> f64;

    /// The largest count below and the smallest above the likeliest that are no likelier than the one seen.
    fn no_likelier(&self, seen: f64) -> [f64; 2] {
        let limit = self.ln_chance(seen) + AS_LIKELY;
        let [least, most] = self.range();
        let likeliest = self.likeliest();
        let rare = |count: f64| self.ln_chance(count) <= limit;
        if seen == likeliest || rare(likeliest) {
            return [likeliest, likeliest + 1.0];
        }
        let halved = |mut common: f64, mut beyond: f64| {
            while (beyond - common).abs() > 1.0 {
                let middle = ((common + beyond) / 2.0).floor();
                if middle == common || middle == beyond {
                    break;
                }
                if rare(middle) { beyond = middle } else { common = middle }
            }
            beyond
        };
        if seen < likeliest {
            let mut reach = (likeliest - seen).max(1.0);
            // The first rare count above, beyond the most when there is none.
            while likeliest + reach <= most && !rare(likeliest + reach) {
                reach *= 2.0;
            }
            [seen, halved(likeliest, (likeliest + reach).min(most + 1.0))]
        } else {
            [halved(likeliest, least - 1.0), seen]
        }
    }

    /// The chance of a count no likelier than the one seen.
    fn two_sided(&self, seen: f64) -> f64 {
        let [low, high] = self.no_likelier(seen);
        (self.at_most(low) + self.at_least(high)).min(1.0)
    }
}

/// So many of `n`, each with a chance `p`.
#[derive(Clone, Copy, Debug)]
pub struct Binomial {
    /// How many there are.
    pub n: f64,
    /// The chance of each.
    pub p: f64,
}

impl Law for Binomial {
    fn ln_chance(&self, count: f64) -> f64 {
        ln_binomial(count, self.n, self.p)
    }

    fn range(&self) -> [f64; 2] {
        [0.0, self.n]
    }

    fn likeliest(&self) -> f64 {
        ((self.n + 1.0) * self.p).floor().min(self.n)
    }

    fn sd(&self) -> f64 {
        (self.n * self.p * (1.0 - self.p)).sqrt()
    }

    fn at_most(&self, count: f64) -> f64 {
        match count {
            c if c < 0.0 => 0.0,
            c if c >= self.n => 1.0,
            c => beta_below(self.n - c, c + 1.0, 1.0 - self.p),
        }
    }

    fn at_least(&self, count: f64) -> f64 {
        binomial_from(count, self.n, self.p)
    }
}

/// Events that come one by one.
#[derive(Clone, Copy, Debug)]
pub struct Poisson {
    /// How many are expected.
    pub mean: f64,
}

impl Law for Poisson {
    fn ln_chance(&self, count: f64) -> f64 {
        match (count, self.mean) {
            (0.0, mean) => -mean,
            (_, 0.0) => f64::NEG_INFINITY,
            (count, mean) => -stirling_error(count) - deviance(count, mean) - 0.5 * (TAU * count).ln(),
        }
    }

    fn range(&self) -> [f64; 2] {
        [0.0, f64::INFINITY]
    }

    fn likeliest(&self) -> f64 {
        self.mean.floor()
    }

    fn sd(&self) -> f64 {
        self.mean.sqrt()
    }

    fn at_most(&self, count: f64) -> f64 {
        if count < 0.0 { 0.0 } else { gamma_above(count + 1.0, self.mean) }
    }

    fn at_least(&self, count: f64) -> f64 {
        if count <= 0.0 { 1.0 } else { gamma_below(count, self.mean) }
    }
}

/// Chances adjusted for how many there are, in their places. Source: Holm (1979), Scandinavian J. Statistics 6.
///
/// # Examples
/// ```
/// assert_eq!(acorn_maths::distributions::holm(&[0.01, 0.5, 0.02]), [0.03, 0.5, 0.04]);
/// ```
pub fn holm(chances: &[f64]) -> Vec<f64> {
    let mut order: Vec<usize> = (0..chances.len()).collect();
    order.sort_by(|&a, &b| chances[a].total_cmp(&chances[b]));
    let mut adjusted = vec![0.0; chances.len()];
    let mut largest: f64 = 0.0;
    for (place, &at) in order.iter().enumerate() {
        largest = largest.max((chances.len() - place) as f64 * chances[at]).min(1.0);
        adjusted[at] = largest;
    }
    adjusted
}
