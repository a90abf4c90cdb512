//! Chances in Loader's saddle-point form.

use std::f64::consts::TAU;

use statrs::function::gamma::ln_gamma;

/// ln of the binomial chance.
pub fn ln_binomial(count: f64, n: f64, p: f64) -> f64 {
    let q = 1.0 - p;
    if count < 0.0 || count > n {
        return f64::NEG_INFINITY;
    }
    if n == 0.0 {
        return 0.0;
    }
    if count == 0.0 {
        return n * (-p).ln_1p();
    }
    if count == n {
        return n * p.ln();
    }
    if p <= 0.0 || q <= 0.0 {
        return f64::NEG_INFINITY;
    }
    stirling_error(n) - stirling_error(count) - stirling_error(n - count) - deviance(count, n * p) - deviance(n - count, n * q)
        + 0.5 * (n / (TAU * count * (n - count))).ln()
}

/// ln n! less Stirling's formula.
pub fn stirling_error(n: f64) -> f64 {
    if n < 16.0 {
        return ln_gamma(n + 1.0) - (n + 0.5) * n.ln() + n - 0.5 * TAU.ln();
    }
    let square = n * n;
    (1.0 / 12.0 - (1.0 / 360.0 - (1.0 / 1260.0 - (1.0 / 1680.0 - 1.0 / (1188.0 * square)) / square) / square) / square) / n
}

/// x ln(x / mean) + mean − x, without losing digits where both are alike.
pub fn deviance(x: f64, mean: f64) -> f64 {
    let apart = x - mean;
    if apart.abs() >= 0.1 * (x + mean) {
        return x * (x / mean).ln() - apart;
    }
    let v = apart / (x + mean);
    let mut sum = apart * v;
    let mut term = 2.0 * x * v;
    let square = v * v;
    for k in 1..1000 {
        term *= square;
        let next = sum + term / f64::from(2 * k + 1);
        if next == sum {
            break;
        }
        sum = next;
    }
    sum
}
