//! Elementary functions without branches, so that a loop over them runs on whole vectors of numbers.
//!
//! Within 2 units in the last place of the exact value over the ranges stated, the same on every machine. The polynomials are those
//! of fdlibm (Sun Microsystems 1993).

/// a b + c, rounded once: one instruction where the machine has it, and the same number where it has not.
#[inline(always)]
fn fma(a: f64, b: f64, c: f64) -> f64 {
    a.mul_add(b, c)
}

/// A polynomial, its coefficients from the highest power down.
#[inline(always)]
fn polynomial<const N: usize>(x: f64, coefficients: [f64; N]) -> f64 {
    let mut sum = coefficients[0];
    let mut place = 1;
    while place < N {
        sum = fma(sum, x, coefficients[place]);
        place += 1;
    }
    sum
}

/// The natural logarithm of a normal positive number.
#[inline(always)]
pub fn ln(x: f64) -> f64 {
    const ROOT_HALF: u64 = 0x3fe6_a09e_667f_3bcd;
    const BIAS: u64 = 1023;
    const LOW: f64 = 1.908_214_929_270_587_7e-10;
    const HIGH: f64 = 6.931_471_803_691_238e-1;
    let bits = x.to_bits();
    // The exponent that leaves a mantissa from √½ to √2, counted from -1023 so that it is never negative.
    let exponent = bits.wrapping_sub(ROOT_HALF).wrapping_add(BIAS << 52) >> 52;
    let mantissa = f64::from_bits(bits.wrapping_sub(exponent.wrapping_sub(BIAS) << 52));
    let k = f64::from_bits(0x4330_0000_0000_0000 | exponent) - (4_503_599_627_370_496.0 + 1023.0);
    let f = mantissa - 1.0;
    let s = f / (2.0 + f);
    let z = s * s;
    let w = z * z;
    let odd = w * polynomial(w, [1.531_383_769_920_937_3e-1, 2.222_219_843_214_978_4e-1, 3.999_999_999_940_942e-1]);
    let even =
        z * polynomial(w, [1.479_819_860_511_658_6e-1, 1.818_357_216_161_805e-1, 2.857_142_874_366_239e-1, 6.666_666_666_666_735e-1]);
    let half = 0.5 * f * f;
    fma(k, HIGH, f - (half - fma(s, half + odd + even, k * LOW)))
}

/// e raised to a number; what lies beyond ±708 is taken for that.
#[inline(always)]
pub fn exp(x: f64) -> f64 {
    const MAGIC: f64 = 6_755_399_441_055_744.0;
    const HIGH: f64 = 6.931_471_803_691_238e-1;
    const LOW: f64 = 1.908_214_929_270_587_7e-10;
    let x = if x > 708.0 { 708.0 } else { x };
    let x = if x < -708.0 { -708.0 } else { x };
    // Adding a large number rounds to a whole one, which is then found in the last bits.
    let shifted = fma(x, std::f64::consts::LOG2_E, MAGIC);
    let k = shifted - MAGIC;
    let r = fma(k, -LOW, fma(k, -HIGH, x));
    // Taylor's series: from −½ ln 2 to ½ ln 2 what is left out is below 4e-18.
    let series = polynomial(
        r,
        [
            1.0 / 6_227_020_800.0,
            1.0 / 479_001_600.0,
            1.0 / 39_916_800.0,
            1.0 / 3_628_800.0,
            1.0 / 362_880.0,
            1.0 / 40_320.0,
            1.0 / 5_040.0,
            1.0 / 720.0,
            1.0 / 120.0,
            1.0 / 24.0,
            1.0 / 6.0,
            0.5,
            1.0,
            1.0,
        ],
    );
    series * f64::from_bits((shifted.to_bits() << 52).wrapping_add(1023 << 52))
}

/// Sine and cosine of a part of a full turn about its half: of 2π(u − ½), u from 0 to 1.
#[inline(always)]
pub fn sin_cos_of_turn(u: f64) -> (f64, f64) {
    let x = (u - 0.5) * std::f64::consts::FRAC_PI_2;
    let z = x * x;
    let s = polynomial(
        z,
        [
            1.589_690_995_211_55e-10,
            -2.505_076_025_340_686_4e-8,
            2.755_731_370_707_006_8e-6,
            -1.984_126_982_985_795e-4,
            8.333_333_333_322_49e-3,
            -1.666_666_666_666_663_2e-1,
        ],
    );
    let sin = fma(x * z, s, x);
    let c = polynomial(
        z,
        [
            -1.135_964_755_778_819_5e-11,
            2.087_572_321_298_175e-9,
            -2.755_731_435_139_066_3e-7,
            2.480_158_728_947_673e-5,
            -1.388_888_888_887_411e-3,
            4.166_666_666_666_66e-2,
        ],
    );
    let cos = fma(z * z, c, fma(-0.5, z, 1.0));
    // Twice the angle, twice.
    let (sin, cos) = (2.0 * sin * cos, 1.0 - 2.0 * sin * sin);
    (2.0 * sin * cos, 1.0 - 2.0 * sin * sin)
}
