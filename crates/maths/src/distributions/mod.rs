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
/// assert_eq!(crate::distributions::holm(&[0.01, 0.5, 0.02]), [0.03, 0.5, 0.04]);
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

#[cfg(test)]
mod tests {
    use super::*;
    use crate::normal;

    /// The definitions: every count looked at.
    fn holds(law: &impl Law, most: u32) {
        let [least, top] = law.range();
        let counts: Vec<f64> = (0..=most).map(f64::from).filter(|count| (least..=top).contains(count)).collect();
        let chances: Vec<f64> = counts.iter().map(|count| law.ln_chance(*count).exp()).collect();
        let total: f64 = chances.iter().sum();
        assert!((total - 1.0).abs() < 1e-12, "{total}");
        for (place, seen) in counts.iter().enumerate() {
            let rare = |chance: &&f64| **chance <= chances[place] * (1.0 + AS_LIKELY);
            let want: f64 = chances.iter().filter(rare).sum();
            assert!((law.two_sided(*seen) - want).abs() < 1e-11, "{seen}: {} {want}", law.two_sided(*seen));
            let below: f64 = chances[..=place].iter().sum();
            assert!((law.at_most(*seen) - below).abs() < 1e-11 && (law.at_least(*seen + 1.0) - (1.0 - below)).abs() < 1e-11, "{seen}");
        }
    }

    #[test]
    fn chances_of_every_law_are_those_of_every_count() {
        for p in [0.0, 0.02, 0.3, 0.5, 0.8, 1.0] {
            [1.0, 2.0, 9.0, 40.0].into_iter().for_each(|n| holds(&Binomial { n, p }, 40));
        }
        [0.0, 0.4, 1.0, 7.3, 30.0].into_iter().for_each(|mean| holds(&Poisson { mean }, 130));
        for (total, marked, drawn) in [(21.0, 8.0, 11.0), (9.0, 9.0, 4.0), (30.0, 1.0, 29.0), (40.0, 20.0, 20.0), (5.0, 0.0, 3.0)] {
            holds(&Hypergeometric { total, marked, drawn }, 40);
        }
    }

    #[test]
    fn even_numbers_stand_for_counts_as_often_as_their_chance() {
        for (total, marked, drawn) in [(21.0, 8.0, 11.0), (9.0, 9.0, 4.0), (4000.0, 1500.0, 700.0)] {
            let law = Hypergeometric { total, marked, drawn };
            let n = 40_000;
            let counts: Vec<f64> = (0..n).map(|k| law.drawn_by((f64::from(k) + 0.5) / f64::from(n))).collect();
            let [least, most] = law.range();
            let mut count = least;
            while count <= most {
                let share = counts.iter().filter(|drawn| **drawn == count).count() as f64 / f64::from(n);
                assert!((share - law.ln_chance(count).exp()).abs() < 1e-4, "{count}: {share}");
                count += 1.0;
            }
        }
    }

    #[test]
    fn digits_are_kept_where_counts_are_large() {
        // Of n = 2e9 halves, the middle: 1 / sqrt(pi n / 2) (1 - 1 / (4 n)).
        let n = 2e9;
        let middle = Binomial { n, p: 0.5 }.ln_chance(1e9).exp() * (std::f64::consts::PI * n / 2.0).sqrt();
        assert!((middle - 1.0).abs() < 1e-9, "{middle}");
        // The urn is so large that drawing from it changes nothing.
        let (urn, coin) = (Hypergeometric { total: 1e15, marked: 3e14, drawn: 50.0 }, Binomial { n: 50.0, p: 0.3 });
        assert!((urn.two_sided(21.0) / coin.two_sided(21.0) - 1.0).abs() < 1e-9);
        assert!((0.0..1e-9).contains(&Binomial { n: 2e9, p: 0.4999 }.two_sided(1e9)));
        let vast = Hypergeometric { total: 4e15, marked: 2e15, drawn: 2e15 };
        assert!((vast.two_sided(1e15 + 1e8) - 2.0 * normal::above(6.324_555)).abs() < 1e-9);
    }
}
