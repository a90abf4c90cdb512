//! The standard normal distribution, through `erfc` so that far tails keep their digits.

use std::f64::consts::{PI, SQRT_2};
use std::sync::OnceLock;

use rayon::prelude::*;

use super::{is_shared, root};

/// The density at `z`: exp(-z²/2) / √(2π).
pub fn density(z: f64) -> f64 {
    (-0.5 * z * z).exp() / (2.0 * PI).sqrt()
}

/// The probability of a value up to `z`: erfc(-z/√2) / 2.
pub fn below(z: f64) -> f64 {
    0.5 * libm::erfc(-z / SQRT_2)
}

/// The probability of a value above `z`. Not `1 - below(z)`, which is 0 from z = 8.3 on.
pub fn above(z: f64) -> f64 {
    0.5 * libm::erfc(z / SQRT_2)
}

/// ln Φ(z), also where Φ(z) is too small to be a number.
///
/// Beyond -37 by the asymptotic series of Mills' ratio (Abramowitz and Stegun 26.2.12), whose error there is below 1e-12.
///
/// # Examples
/// ```
/// use acorn_maths::normal::{below, ln_below};
/// assert!((ln_below(-30.0) - below(-30.0).ln()).abs() < 1e-9);
/// assert!((ln_below(-1e4) + 5e7 + 1e4_f64.ln() + 0.918_938_533).abs() < 1e-6);
/// ```
pub fn ln_below(z: f64) -> f64 {
    if z.abs() < NODES_END {
        return from_nodes(z);
    }
    if z > -37.0 {
        // Above 0 from the small side, where 1 - Φ keeps its digits.
        return if z > 0.0 { (-above(z)).ln_1p() } else { below(z).ln() };
    }
    let s = 1.0 / (z * z);
    -0.5 * z * z - (-z).ln() - 0.5 * (2.0 * PI).ln() + (-s * (1.0 - 3.0 * s * (1.0 - 5.0 * s * (1.0 - 7.0 * s)))).ln_1p()
}

/// The z below which a share of a normal lies, from the logarithm of the share, also where the share is too small to be a
/// number; infinite for a share of 0 or 1.
///
/// # Examples
/// ```
/// use acorn_maths::normal::{ln_below, quantile_of_ln};
/// assert!((quantile_of_ln(ln_below(-40.0)) + 40.0).abs() < 1e-9);
/// ```
pub fn quantile_of_ln(ln_share: f64) -> f64 {
    // Any share that is a number at all has its quantile by itself.
    if ln_share > -700.0 || !ln_share.is_finite() {
        return quantile(ln_share.exp());
    }
    // Φ(z) lies below e^(-z²/2), so that z is less far out than this.
    root::between(-(-2.0 * ln_share).sqrt(), -30.0, |z| ln_below(z) < ln_share)
}

/// Where the nodes of ln Φ end, and how many there are in a unit.
const NODES_END: f64 = 8.0;
const NODES_A_UNIT: f64 = 8.0;
/// Terms of the series about a node. Far out ln Φ falls like e^(-z²/2), whose terms shrink like (8/16)^k/k!; these leave less
/// than 1e-13 of the value.
const TERMS: usize = 13;
const LANES: usize = 4;

/// The series of ln Φ about 129 nodes from -8 to 8.
fn nodes() -> &'static [[f64; TERMS]] {
    static NODES: OnceLock<Vec<[f64; TERMS]>> = OnceLock::new();
    NODES.get_or_init(|| {
        let last = (2.0 * NODES_END * NODES_A_UNIT) as usize;
        (0..=last).map(|k| series_about(k as f64 / NODES_A_UNIT - NODES_END)).collect()
    })
}

/// ln Φ by its Taylor series about the nearest node, several times as fast as by `erfc` and a logarithm.
fn from_nodes(z: f64) -> f64 {
    let place = (z + NODES_END) * NODES_A_UNIT;
    let nearest = (place + 0.5) as usize;
    let t = (place - nearest as f64) / NODES_A_UNIT;
    nodes()[nearest].iter().rev().fold(0.0, |sum, c| sum * t + c)
}

/// Σ [(2i - 1) ln Φ(zᵢ) + (2(n - i) + 1) ln Φ(-zᵢ)]/n with zᵢ = (xᵢ - mean)/sd over rising values, the sum of Anderson
/// and Darling.
///
/// Values near one node share its coefficients, so that the compiler makes vectors of the inner loop; their sums are
/// small, so that little is lost where n A2 is all but cancelled by n².
pub fn sum_of_tails(sorted: &[f64], mean: f64, sd: f64) -> f64 {
    let nodes = nodes();
    let n = sorted.len() as f64;
    let weight = |i: usize| (2.0 * i as f64 + 1.0) / n;
    let one = |i: usize| {
        let z = (sorted[i] - mean) / sd;
        weight(i) * ln_below(z) + (2.0 - weight(i)) * ln_below(-z)
    };
    let series = |c: &[f64; TERMS], t: f64| c.iter().rev().fold(0.0, |sum, c| sum * t + c);
    let upto = |z: f64| sorted.partition_point(|x| (x - mean) / sd < z);
    let (first, last) = (upto(0.5 / NODES_A_UNIT - NODES_END), upto(NODES_END - 0.5 / NODES_A_UNIT));
    let mut sum: f64 = (0..first).chain(last..sorted.len()).map(one).sum();
    let per_sd = 1.0 / sd;
    let end_of = |k: usize| upto(k as f64 / NODES_A_UNIT - NODES_END + 0.5 / NODES_A_UNIT).min(last);
    let ends: Vec<usize> = std::iter::once(first).chain((1..nodes.len() - 1).map(end_of)).collect();
    let about = |k: usize| {
        let node = k as f64 / NODES_A_UNIT - NODES_END;
        let (start, end) = (ends[k - 1], ends[k]);
        let (below, above) = (&nodes[k], &nodes[nodes.len() - 1 - k]);
        let (chunks, rest) = sorted[start..end].as_chunks::<LANES>();
        let mut lanes = [0.0; LANES];
        let mut see = |lane: usize, i: usize, x: f64| {
            let (t, weight) = ((x - mean) * per_sd - node, weight(i));
            lanes[lane] += weight * series(below, t) + (2.0 - weight) * series(above, -t);
        };
        for (chunk, place) in chunks.iter().zip((start..).step_by(LANES)) {
            (0..LANES).for_each(|lane| see(lane, place + lane, chunk[lane]));
        }
        let done = end - rest.len();
        rest.iter().enumerate().for_each(|(lane, &x)| see(lane, done + lane, x));
        lanes.iter().sum::<f64>()
    };
    let each: Vec<f64> = match is_shared(sorted.len()) {
        true => (1..nodes.len() - 1).into_par_iter().map(about).collect(),
        false => (1..nodes.len() - 1).map(about).collect(),
    };
    sum += each.iter().sum::<f64>();
    sum
}

/// The Taylor coefficients of ln Φ about a node. Its slope r = φ/Φ has r' = -r (z + r), which gives one coefficient after
/// the other.
fn series_about(node: f64) -> [f64; TERMS] {
    let value = if node > 0.0 { (-above(node)).ln_1p() } else { below(node).ln() };
    let mut slope = [0.0; TERMS];
    slope[0] = density(node) / below(node);
    for k in 0..TERMS - 1 {
        let squares: f64 = (0..=k).map(|j| slope[j] * slope[k - j]).sum();
        let shifted = if k > 0 { slope[k - 1] } else { 0.0 };
        slope[k + 1] = -(node * slope[k] + shifted + squares) / (k + 1) as f64;
    }
    std::array::from_fn(|k| if k == 0 { value } else { slope[k - 1] / k as f64 })
}

/// The value below which a share `p` of a standard normal lies; infinite at 0 and 1, NaN outside.
///
/// Wichura's rational approximations, relative error about 1e-16 (Algorithm AS 241, PPND16, 1988).
///
/// # Examples
/// ```
/// use acorn_maths::normal::quantile;
/// assert!((quantile(0.998_650_101_968_369_9) - 3.0).abs() < 1e-12);
/// assert!((quantile(1e-300) + 37.047_096_299_361_2).abs() < 1e-9);
/// assert_eq!(quantile(0.5), 0.0);
/// ```
pub fn quantile(p: f64) -> f64 {
    if !(0.0..=1.0).contains(&p) {
        return f64::NAN;
    }
    let q = p - 0.5;
    if q.abs() <= 0.425 {
        let r = 0.180_625 - q * q;
        return q * polynomial(&CENTRE_TOP, r) / polynomial(&CENTRE_BOTTOM, r);
    }
    let tail = if q < 0.0 { p } else { 1.0 - p };
    if tail == 0.0 {
        return q.signum() * f64::INFINITY;
    }
    let r = (-tail.ln()).sqrt();
    let size = if r <= 5.0 {
        polynomial(&NEAR_TOP, r - 1.6) / polynomial(&NEAR_BOTTOM, r - 1.6)
    } else {
        polynomial(&FAR_TOP, r - 5.0) / polynomial(&FAR_BOTTOM, r - 5.0)
    };
    q.signum() * size
}

fn polynomial(coefficients: &[f64; 8], x: f64) -> f64 {
    coefficients.iter().rev().fold(0.0, |sum, c| sum * x + c)
}

#[allow(clippy::excessive_precision)]
const CENTRE_TOP: [f64; 8] = [
    3.3871328727963666080,
    133.14166789178437745,
    1971.5909503065514427,
    13731.693765509461125,
    45921.953931549871457,
    67265.770927008700853,
    33430.575583588128105,
    2509.0809287301226727,
];
#[allow(clippy::excessive_precision)]
const CENTRE_BOTTOM: [f64; 8] = [
    1.0,
    42.313330701600911252,
    687.18700749205790830,
    5394.1960214247511077,
    21213.794301586595867,
    39307.895800092710610,
    28729.085735721942674,
    5226.4952788528545610,
];
#[allow(clippy::excessive_precision)]
const NEAR_TOP: [f64; 8] = [
    1.42343711074968357734,
    4.63033784615654529590,
    5.76949722146069140550,
    3.64784832476320460504,
    1.27045825245236838258,
    0.241780725177450611770,
    0.0227238449892691845833,
    7.74545014278341407640e-4,
];
#[allow(clippy::excessive_precision)]
const NEAR_BOTTOM: [f64; 8] = [
    1.0,
    2.05319162663775882187,
    1.67638483018380384940,
    0.689767334985100004550,
    0.148103976427480074590,
    0.0151986665636164571966,
    5.47593808499534494600e-4,
    1.05075007164441684324e-9,
];
#[allow(clippy::excessive_precision)]
const FAR_TOP: [f64; 8] = [
    6.65790464350110377720,
    5.46378491116411436990,
    1.78482653991729133580,
    0.296560571828504891230,
    0.0265321895265761230930,
    0.00124266094738807843860,
    2.71155556874348757815e-5,
    2.01033439929228813265e-7,
];
#[allow(clippy::excessive_precision)]
const FAR_BOTTOM: [f64; 8] = [
    1.0,
    0.599832206555887937690,
    0.136929880922735805310,
    0.0148753612908506148525,
    7.86869131145613259100e-4,
    1.84631831751005468180e-5,
    1.42151175831644588870e-7,
    2.04426310338993978564e-15,
];
