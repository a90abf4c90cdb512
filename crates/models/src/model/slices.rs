//! An order of slices that needs no memory, so that every thread can look up its own draws.

use super::random::mix;

/// A permutation of so many slices: a Feistel network over the next power of four, walked until it is inside
/// (Black and Rogaway 2002, Ciphers with arbitrary finite domains).
#[derive(Clone, Copy, Debug)]
pub struct Slices {
    all: u64,
    half: u32,
    key: u64,
}

const ROUNDS: u64 = 4;

impl Slices {
    /// Of so many slices.
    pub fn new(all: u64, key: u64) -> Slices {
        let bits = 64 - all.saturating_sub(1).leading_zeros();
        Slices { all, half: bits.div_ceil(2).max(1), key }
    }

    /// The slice of a draw.
    pub fn of(&self, draw: u64) -> u64 {
        let mask = (1u64 << self.half) - 1;
        let mut at = draw;
        loop {
            let (mut left, mut right) = (at >> self.half, at & mask);
            for round in 0..ROUNDS {
                (left, right) = (right, left ^ (mix(self.key ^ (round << 56) ^ right) & mask));
            }
            at = (left << self.half) | right;
            if at < self.all {
                return at;
            }
        }
    }
}
