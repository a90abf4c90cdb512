//! Intervals of what is computed from mean squares.
//!
//! A generalised interval: each mean square is replaced by df MS / χ²(df), the wanted number computed again, negative
//! components set to 0 as in the estimate, and its quantiles taken. Sources: Weerahandi (1993), J. American Statistical
//! Association 88; Hamada and Weerahandi (2000), J. Quality Technology 32; Burdick, Borror and Montgomery (2005), Design and
//! Analysis of Gauge R&R Studies, SIAM.

use rand::SeedableRng;
use rand_distr::{ChiSquared, Distribution};
use rand_xoshiro::Xoshiro256PlusPlus;

/// So many draws leave the ends of a 95 % interval within about half a percent of chance.
const DRAWS: usize = 2000;
/// The same draws for the same data.
const SEED: u64 = 1;

/// Mean squares as they might as well have come out, each given with its df; none when a df is not above 0.
pub fn drawn<const N: usize>(squares: [(f64, f64); N]) -> Vec<[f64; N]> {
    let mut random = Xoshiro256PlusPlus::seed_from_u64(SEED);
    let laws: Vec<ChiSquared<f64>> = squares.iter().filter_map(|(_, df)| ChiSquared::new(*df).ok()).collect();
    let draw = |_| {
        let mut one = squares.map(|(square, df)| df * square);
        one.iter_mut().zip(&laws).for_each(|(square, law)| *square /= law.sample(&mut random));
        one
    };
    if laws.len() == N { (0..DRAWS).map(draw).collect() } else { Vec::new() }
}

/// The 95 % interval of `wanted` over drawn mean squares; `None` when more than one draw in forty has no such number.
pub fn ends<const N: usize>(drawn: &[[f64; N]], wanted: impl Fn([f64; N]) -> Option<f64>) -> Option<[f64; 2]> {
    let mut numbers: Vec<f64> = drawn.iter().filter_map(|squares| wanted(*squares).filter(|number| number.is_finite())).collect();
    if numbers.is_empty() || numbers.len() < drawn.len() - drawn.len() / 40 {
        return None;
    }
    let mut end = |share: f64| {
        let place = (share * (numbers.len() - 1) as f64).round() as usize;
        *numbers.select_nth_unstable_by(place, f64::total_cmp).1
    };
    Some([end(0.025), end(0.975)])
}

/// The 95 % interval of `wanted` of mean squares, each given with its df.
pub fn generalised<const N: usize>(squares: [(f64, f64); N], wanted: impl Fn([f64; N]) -> Option<f64>) -> Option<[f64; 2]> {
    ends(&drawn(squares), wanted)
}
