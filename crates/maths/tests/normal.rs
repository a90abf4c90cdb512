//! `normal`.

use acorn_maths::normal::*;

#[test]
fn the_sum_over_many_is_that_of_each() {
    for n in [1, 9, 1000] {
        let values: Vec<f64> = (0..n).map(|i| (i as f64 + 0.5) * 190.0 / n as f64 + 5.0).collect();
        let z = |i: usize| (values[i] - 100.0) / 10.0;
        let each = |i: usize| (2.0 * i as f64 + 1.0) * ln_below(z(i)) + (2.0 * (n - i) as f64 - 1.0) * ln_below(-z(i));
        let want = (0..n).map(each).sum::<f64>() / n as f64;
        assert!((sum_of_tails(&values, 100.0, 10.0) / want - 1.0).abs() < 1e-13, "{n}");
    }
}

#[test]
fn the_series_agree_with_the_logarithm_of_the_function_itself() {
    for k in -8190..8190 {
        let z = f64::from(k) / 1024.0 + 1e-4;
        let direct = if z > 0.0 { (-above(z)).ln_1p() } else { below(z).ln() };
        assert!((ln_below(z) - direct).abs() <= 1e-12 * direct.abs().max(1e-16), "{z}: {} {direct}", ln_below(z));
    }
}
