//! Seeded draws for the demo data.

use rand::SeedableRng;
use rand::distr::Distribution;
use rand_distr::{Binomial, Normal, Poisson, StandardNormal, Uniform};
use rand_xoshiro::Xoshiro256PlusPlus;

/// A seeded source of draws; each file has its own, so that one can change without the others.
pub struct Random(Xoshiro256PlusPlus);

impl Random {
    pub fn seeded(seed: u64) -> Random {
        Random(Xoshiro256PlusPlus::seed_from_u64(seed))
    }

    pub fn standard(&mut self) -> f64 {
        StandardNormal.sample(&mut self.0)
    }

    pub fn normal(&mut self, mean: f64, sd: f64) -> f64 {
        Normal::new(mean, sd).expect("sd is positive").sample(&mut self.0)
    }

    pub fn whole(&mut self, low: u64, high: u64) -> u64 {
        Uniform::new_inclusive(low, high).expect("low is below high").sample(&mut self.0)
    }

    pub fn share(&mut self) -> f64 {
        Uniform::new(0.0, 1.0).expect("0 is below 1").sample(&mut self.0)
    }

    pub fn binomial(&mut self, n: u64, p: f64) -> u64 {
        Binomial::new(n, p).expect("p is a share").sample(&mut self.0)
    }

    pub fn poisson(&mut self, mean: f64) -> u64 {
        let count: f64 = Poisson::new(mean).expect("mean is positive").sample(&mut self.0);
        count as u64
    }

    /// The place of a draw among weights.
    pub fn among(&mut self, weights: &[f64]) -> usize {
        let mut rest = self.share() * weights.iter().sum::<f64>();
        for (place, weight) in weights.iter().enumerate() {
            rest -= weight;
            if rest < 0.0 {
                return place;
            }
        }
        weights.len() - 1
    }
}
