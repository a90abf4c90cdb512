//! Tail shares and quantiles of chi-square, t and F.
//!
//! The incomplete gamma and beta functions are those of `statrs`. Beyond [`MANY`] degrees of freedom, where the
//! continued fraction of the beta function no longer settles, the normal limits take over; their relative error
//! there is below 1e-4 of a standard error.

use statrs::function::beta::beta_reg;
use statrs::function::gamma::gamma_ur;

use super::normal;

/// Above this many degrees of freedom the normal limits serve.
const MANY: f64 = 5000.0;

/// The share of a chi-square with `df` degrees of freedom above `x`.
///
/// # Examples
/// ```
/// // Of two degrees of freedom: exp(-x / 2).
/// let share = acorn_core::numeric::tails::chi_square_above(700.0, 2.0);
/// assert!((share / (-350.0_f64).exp() - 1.0).abs() < 1e-12);
/// ```
pub fn chi_square_above(x: f64, df: f64) -> f64 {
    if x <= 0.0 { 1.0 } else { gamma_ur(0.5 * df, 0.5 * x) }
}

/// The share of Student's t with `df` degrees of freedom farther from 0 than `t`, both sides.
pub fn t_beyond(t: f64, df: f64) -> f64 {
    if df > MANY { 2.0 * normal::above(t.abs()) } else { beta_reg(0.5 * df, 0.5, df / (df + t * t)) }
}

/// The share of F with `df1` and `df2` degrees of freedom above `f`.
pub fn f_above(f: f64, df1: f64, df2: f64) -> f64 {
    if f <= 0.0 {
        return 1.0;
    }
    if df1 > MANY || df2 > MANY {
        // Paulson (1942): the cube root of F is close to normal.
        let (a, b) = (2.0 / (9.0 * df1), 2.0 / (9.0 * df2));
        let root = f.cbrt();
        return normal::above(((1.0 - b) * root - (1.0 - a)) / (b * root * root + a).sqrt());
    }
    beta_reg(0.5 * df2, 0.5 * df1, df2 / (df2 + df1 * f))
}

/// The t beyond which a share `alpha` lies, both sides together.
pub fn t_two_sided(alpha: f64, df: f64) -> f64 {
    if df > MANY {
        // Hill (1970): the first terms of the expansion about the normal quantile, exact to 1e-11 here.
        let z = -normal::quantile(0.5 * alpha);
        let z2 = z * z;
        return z * (1.0 + (z2 + 1.0) / (4.0 * df) + ((5.0 * z2 + 16.0) * z2 + 3.0) / (96.0 * df * df));
    }
    falling_root(0.0, |t| t_beyond(t, df) - alpha)
}

/// The F above which a share `alpha` lies.
pub fn f_upper(alpha: f64, df1: f64, df2: f64) -> f64 {
    falling_root(0.0, |f| f_above(f, df1, df2) - alpha)
}

/// The chi-square above which a share `alpha` lies.
pub fn chi_square_upper(alpha: f64, df: f64) -> f64 {
    falling_root(0.0, |x| chi_square_above(x, df) - alpha)
}

/// Where a falling function crosses 0, from `low` up: doubling, then halving, to the last bits.
fn falling_root(low: f64, falls: impl Fn(f64) -> f64) -> f64 {
    let (mut low, mut high) = (low, 1.0);
    while falls(high) > 0.0 && high < 1e12 {
        (low, high) = (high, 2.0 * high);
    }
    for _ in 0..80 {
        let middle = 0.5 * (low + high);
        if falls(middle) > 0.0 { low = middle } else { high = middle }
    }
    0.5 * (low + high)
}

#[cfg(test)]
mod tests {
    use super::*;

    #[test]
    fn quantiles_agree_with_published_tables() {
        // Pearson and Hartley (1966), tables 12 and 18.
        assert!((t_two_sided(0.05, 10.0) - 2.228_138_851_9).abs() < 1e-9);
        assert!((t_two_sided(0.05, 1e6) - 1.959_966).abs() < 1e-4);
        assert!((f_upper(0.05, 5.0, 10.0) - 3.325_834_5).abs() < 1e-6);
        assert!((f_upper(0.025, 40.0, 1e7) - 59.341_71 / 40.0).abs() < 1e-3);
    }

    #[test]
    fn the_normal_limits_join_smoothly() {
        for f in [0.97, 1.0, 1.04] {
            let (inside, beyond) = (f_above(f, 4999.0, 4999.0), f_above(f, 5001.0, 5001.0));
            assert!((inside - beyond).abs() < 3e-4, "{f}: {inside} {beyond}");
        }
    }
}
