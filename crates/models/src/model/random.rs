//! Random numbers several at a time.

use pulp::{Simd, WithSimd};

use acorn_maths::wide;

/// Draws of a block.
pub const BLOCK: usize = 1024;
const LANES: usize = 8;

/// As many streams of xoshiro256++ (Blackman and Vigna 2021) beside each other as a vector holds.
#[derive(Clone, Debug)]
pub struct Lanes([[u64; LANES]; 4]);

impl Lanes {
    /// Streams that start from one number.
    pub fn from(seed: u64) -> Lanes {
        let word = |word: usize, lane: usize| mix(seed ^ mix((1 + word * LANES + lane) as u64 ^ 0x9e37_79b9_7f4a_7c15));
        Lanes(std::array::from_fn(|place| std::array::from_fn(|lane| word(place, lane))))
    }

    /// The next number of every stream, above 0 and below 1, on 2^52 even places.
    #[inline(always)]
    fn open(&mut self) -> [f64; LANES] {
        let [s0, s1, s2, s3] = &mut self.0;
        let mut out = [0.0; LANES];
        for lane in 0..LANES {
            let drawn = s0[lane].wrapping_add(s3[lane]).rotate_left(23).wrapping_add(s0[lane]);
            let shifted = s1[lane] << 17;
            s2[lane] ^= s0[lane];
            s3[lane] ^= s1[lane];
            s1[lane] ^= s2[lane];
            s0[lane] ^= s3[lane];
            s2[lane] ^= shifted;
            s3[lane] = s3[lane].rotate_left(45);
            // From 1 to 2 less 1, and half a place up, away from 0.
            out[lane] = f64::from_bits((drawn >> 12) | 0x3ff0_0000_0000_0000) - (1.0 - f64::EPSILON / 2.0);
        }
        out
    }

    #[inline(always)]
    fn fill(&mut self, out: &mut [f64; BLOCK]) {
        let (chunks, _) = out.as_chunks_mut::<LANES>();
        for chunk in chunks {
            *chunk = self.open();
        }
    }
}

/// A distribution that whole vectors are drawn from.
#[derive(Clone, Copy, Debug, PartialEq)]
pub enum Quick {
    /// Mean and sd.
    Normal(f64, f64),
    /// Low and range.
    Uniform(f64, f64),
    /// Low, high, the range times the way up, the range times the way down, the share below the mode.
    Triangular([f64; 5]),
    /// Threshold, mean and sd of the logarithms.
    Lognormal(f64, f64, f64),
    /// Threshold, location and scale of the logarithms of a smallest extreme value.
    Weibull(f64, f64, f64),
    /// Threshold, location and scale of the logarithms of a logistic.
    Loglogistic(f64, f64, f64),
    /// Location and scale.
    Logistic(f64, f64),
    /// Location and scale.
    SmallestExtremeValue(f64, f64),
    /// Location and scale.
    LargestExtremeValue(f64, f64),
}

/// A block drawn with the widest instructions of the machine.
pub struct Draw<'a> {
    pub from: Quick,
    pub lanes: Lanes,
    pub out: &'a mut [f64; BLOCK],
}

impl WithSimd for Draw<'_> {
    type Output = ();

    #[inline(always)]
    fn with_simd<S: Simd>(self, _: S) {
        let Draw { from, mut lanes, out } = self;
        lanes.fill(out);
        match from {
            Quick::Normal(mean, sd) => {
                normals(out);
                out.iter_mut().for_each(|x| *x = mean + sd * *x);
            }
            Quick::Uniform(low, range) => out.iter_mut().for_each(|x| *x = low + range * *x),
            Quick::Triangular([low, high, up, down, mode]) => out.iter_mut().for_each(|x| {
                // Both ways are worked out, so that whole vectors need no branch.
                let u = *x;
                let share = if u < mode { 1.0 } else { 0.0 };
                *x = share * (low + (u * up).sqrt()) + (1.0 - share) * (high - ((1.0 - u) * down).sqrt());
            }),
            Quick::Lognormal(threshold, mean, sd) => {
                normals(out);
                out.iter_mut().for_each(|x| *x = threshold + wide::exp(mean + sd * *x));
            }
            Quick::Weibull(threshold, location, scale) => {
                out.iter_mut().for_each(|x| *x = threshold + wide::exp(location + scale * wide::ln(-wide::ln(*x))));
            }
            Quick::Loglogistic(threshold, location, scale) => {
                out.iter_mut().for_each(|x| *x = threshold + wide::exp(location + scale * (wide::ln(*x) - wide::ln(1.0 - *x))));
            }
            Quick::Logistic(location, scale) => out.iter_mut().for_each(|x| *x = location + scale * (wide::ln(*x) - wide::ln(1.0 - *x))),
            Quick::SmallestExtremeValue(location, scale) => {
                out.iter_mut().for_each(|x| *x = location + scale * wide::ln(-wide::ln(*x)));
            }
            Quick::LargestExtremeValue(location, scale) => {
                out.iter_mut().for_each(|x| *x = location - scale * wide::ln(-wide::ln(*x)));
            }
        }
    }
}

/// Pairs of even draws as pairs of normal ones (Box and Muller 1958).
#[inline(always)]
fn normals(out: &mut [f64; BLOCK]) {
    let (first, second) = out.split_at_mut(BLOCK / 2);
    for (one, other) in first.iter_mut().zip(second) {
        let radius = (-2.0 * wide::ln(*one)).sqrt();
        let (sin, cos) = wide::sin_cos_of_turn(*other);
        (*one, *other) = (radius * cos, radius * sin);
    }
}

/// Spreads the bits of a number (Steele, Lea and Flood 2014).
pub fn mix(mut bits: u64) -> u64 {
    bits = (bits ^ (bits >> 30)).wrapping_mul(0xbf58_476d_1ce4_e5b9);
    bits = (bits ^ (bits >> 27)).wrapping_mul(0x94d0_49bb_1331_11eb);
    bits ^ (bits >> 31)
}
