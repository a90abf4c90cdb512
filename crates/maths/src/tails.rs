//! Tail shares and quantiles of chi-square, t, F, beta and the counts that rest on them.
//!
//! The incomplete gamma function is that of `statrs`. Its incomplete beta function stops after 140 terms, too few from
//! some thousand degrees of freedom on, so that the same continued fraction is carried on here until it settles.

use statrs::function::beta::ln_beta;
use statrs::function::gamma::{gamma_lr, gamma_ur};

use super::normal;
use super::root;

/// No quantile is looked for beyond.
const FAR: f64 = 1e300;

/// From here on series and fractions take too many terms, and the cube roots of Wilson and Hilferty are within 1e-7.
const VAST: f64 = 1e6;

/// The share of a gamma of shape `k` and scale 1 below `x`.
pub fn gamma_below(k: f64, x: f64) -> f64 {
    // A series of what is no number would never settle.
    if k.is_nan() || x.is_nan() {
        f64::NAN
    } else if x <= 0.0 {
        0.0
    } else if x.is_infinite() {
        1.0
    } else if k > VAST {
        normal::below(cube_root_score(k, x))
    } else {
        gamma_lr(k, x)
    }
}

/// The share above, from the small side.
pub fn gamma_above(k: f64, x: f64) -> f64 {
    if k.is_nan() || x.is_nan() {
        f64::NAN
    } else if x <= 0.0 {
        1.0
    } else if x.is_infinite() {
        0.0
    } else if k > VAST {
        normal::above(cube_root_score(k, x))
    } else {
        gamma_ur(k, x)
    }
}

/// (x/k)^(1/3) is close to normal (Wilson and Hilferty 1931, Proc. National Academy of Sciences 17).
fn cube_root_score(k: f64, x: f64) -> f64 {
    ((x / k).cbrt() - 1.0 + 1.0 / (9.0 * k)) * 3.0 * k.sqrt()
}

/// The incomplete beta function I_x(a, b): the share of a beta distribution below x.
///
/// Continued fraction of DiDonato and Morris (1992), J. ACM 35, eq. 9 in the form of Abramowitz and Stegun 26.5.8, by
/// Lentz's algorithm, on the side where it settles within about √max(a, b) terms.
///
/// # Examples
/// ```
/// use acorn_maths::tails::beta_below;
/// // I_x(1, b) = 1 - (1 - x)^b
/// assert!((beta_below(1.0, 9.0, 0.25) - (1.0 - 0.75_f64.powi(9))).abs() < 1e-14);
/// // Symmetric, however large.
/// assert!((beta_below(2e6, 2e6, 0.5) - 0.5).abs() < 1e-9);
/// ```
pub fn beta_below(a: f64, b: f64, x: f64) -> f64 {
    if a.is_nan() || b.is_nan() || x.is_nan() {
        return f64::NAN;
    }
    if x <= 0.0 {
        return 0.0;
    }
    if x >= 1.0 {
        return 1.0;
    }
    if a.min(b) > VAST {
        // The cube root of an F ratio is close to normal (Paulson 1942, Annals of Mathematical Statistics 13).
        let root = (x / a / ((1.0 - x) / b)).cbrt();
        let (a, b) = (1.0 / (9.0 * a), 1.0 / (9.0 * b));
        return normal::below(((1.0 - b) * root - 1.0 + a) / (b * root * root + a).sqrt());
    }
    let front = (a * x.ln() + b * (-x).ln_1p() - ln_beta(a, b)).exp();
    if x < (a + 1.0) / (a + b + 2.0) { front * fraction(a, b, x) / a } else { 1.0 - front * fraction(b, a, 1.0 - x) / b }
}

/// I_x(a, b) above x, from the small side.
fn beta_above(a: f64, b: f64, x: f64) -> f64 {
    beta_below(b, a, 1.0 - x)
}

fn fraction(a: f64, b: f64, x: f64) -> f64 {
    const TINY: f64 = 1e-300;
    let kept = |value: f64| if value.abs() < TINY { TINY } else { value };
    let mut c = 1.0;
    let mut d = 1.0 / kept(1.0 - (a + b) * x / (a + 1.0));
    let mut sum = d;
    let terms = (200.0 + 20.0 * a.max(b).sqrt()).min(1e5);
    let mut m = 1.0;
    while m < terms {
        let even = m * (b - m) * x / ((a + 2.0 * m - 1.0) * (a + 2.0 * m));
        d = 1.0 / kept(1.0 + even * d);
        c = kept(1.0 + even / c);
        sum *= d * c;
        let odd = -(a + m) * (a + b + m) * x / ((a + 2.0 * m) * (a + 2.0 * m + 1.0));
        d = 1.0 / kept(1.0 + odd * d);
        c = kept(1.0 + odd / c);
        sum *= d * c;
        if (d * c - 1.0).abs() < 1e-16 {
            break;
        }
        m += 1.0;
    }
    sum
}

/// The value below which a share p of a beta distribution lies.
fn beta_quantile(p: f64, a: f64, b: f64) -> f64 {
    // On the logarithmic scale of the odds both ends keep their digits.
    let share = |odds: f64| 1.0 / (1.0 + (-odds).exp());
    share(root::between(-745.0, 745.0, |odds| beta_below(a, b, share(odds)) < p))
}

/// The exact 95 % interval of a share of which `events` were seen in `trials`; from 0 with none, to 1 with all.
///
/// Source: Clopper and Pearson (1934), Biometrika 26.
pub fn share_interval(events: f64, trials: f64) -> [f64; 2] {
    let low = if events <= 0.0 { 0.0 } else { beta_quantile(0.025, events, trials - events + 1.0) };
    let high = if events >= trials { 1.0 } else { beta_quantile(0.975, events + 1.0, trials - events) };
    [low, high]
}

/// The exact 95 % interval of the mean of a Poisson count. Source: Garwood (1936), Biometrika 28.
///
/// # Examples
/// ```
/// // Pearson and Hartley (1966), table 40.
/// let [low, high] = acorn_maths::tails::count_interval(10.0);
/// assert!((low - 4.795).abs() < 1e-3 && (high - 18.39).abs() < 1e-2);
/// ```
pub fn count_interval(events: f64) -> [f64; 2] {
    let low = if events <= 0.0 { 0.0 } else { 0.5 * chi_square_upper(0.975, 2.0 * events) };
    [low, 0.5 * chi_square_upper(0.025, 2.0 * events + 2.0)]
}

/// The chance of `least` or more of `trials`, each with a chance `p`.
pub fn binomial_from(least: f64, trials: f64, p: f64) -> f64 {
    if least <= 0.0 {
        1.0
    } else if least > trials {
        0.0
    } else {
        beta_below(least, trials - least + 1.0, p)
    }
}

/// The share of a chi-square with `df` degrees of freedom above `x`.
///
/// # Examples
/// ```
/// // Of two degrees of freedom: exp(-x / 2).
/// let share = acorn_maths::tails::chi_square_above(700.0, 2.0);
/// assert!((share / (-350.0_f64).exp() - 1.0).abs() < 1e-12);
/// ```
pub fn chi_square_above(x: f64, df: f64) -> f64 {
    gamma_above(0.5 * df, 0.5 * x)
}

/// The share of Student's t with `df` degrees of freedom farther from 0 than `t`, both sides.
pub fn t_beyond(t: f64, df: f64) -> f64 {
    beta_below(0.5 * df, 0.5, df / (df + t * t))
}

/// The share of F with `df1` and `df2` degrees of freedom above `f`.
pub fn f_above(f: f64, df1: f64, df2: f64) -> f64 {
    if f <= 0.0 { 1.0 } else { beta_above(0.5 * df1, 0.5 * df2, df1 * f / (df1 * f + df2)) }
}

/// The t beyond which a share `alpha` lies, both sides together.
pub fn t_two_sided(alpha: f64, df: f64) -> f64 {
    if df.is_nan() { f64::NAN } else { root::upward(0.0, FAR, |t| t_beyond(t, df) > alpha) }
}

/// The F above which a share `alpha` lies.
pub fn f_upper(alpha: f64, df1: f64, df2: f64) -> f64 {
    if df1.is_nan() || df2.is_nan() { f64::NAN } else { root::upward(0.0, FAR, |f| f_above(f, df1, df2) > alpha) }
}

/// The chi-square above which a share `alpha` lies.
pub fn chi_square_upper(alpha: f64, df: f64) -> f64 {
    if df.is_nan() { f64::NAN } else { root::upward(0.0, FAR, |x| chi_square_above(x, df) > alpha) }
}
