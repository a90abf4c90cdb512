//! The Weibull distribution by maximum likelihood.

use super::describe::moments;

/// Shape and scale that make the values likeliest; `None` with fewer than two different positive values.
///
/// The shape k solves Σ x^k ln x / Σ x^k - 1/k - mean(ln x) = 0, which rises in k, so that halving finds its only
/// root; scale = (mean x^k)^(1/k). Values are taken relative to the largest, lest a power overflow. Source: Cohen
/// (1965), Technometrics 7.
///
/// # Examples
/// ```
/// use acorn_core::numeric::weibull::fit;
/// let (shape, scale) = fit(&[1.0, 2.0, 3.0, 4.0, 5.0]).unwrap();
/// // Both likelihood equations hold.
/// let values = [1.0_f64, 2.0, 3.0, 4.0, 5.0];
/// let mean = |f: &dyn Fn(f64) -> f64| values.iter().map(|&x| f(x)).sum::<f64>() / 5.0;
/// assert!((mean(&|x| (x / scale).powf(shape)) - 1.0).abs() < 1e-9);
/// assert!((mean(&|x| ((x / scale).powf(shape) - 1.0) * x.ln()) - 1.0 / shape).abs() < 1e-9);
/// assert_eq!(fit(&[2.0, 2.0]), None);
/// ```
pub fn fit(values: &[f64]) -> Option<(f64, f64)> {
    let of = moments(values);
    let largest = of.max?;
    if of.n < 2 || of.min? <= 0.0 || of.min == of.max {
        return None;
    }
    let logs: Vec<f64> = values.iter().map(|value| (value / largest).ln()).collect();
    let mean_log = logs.iter().sum::<f64>() / logs.len() as f64;
    let rises = |shape: f64| {
        let (mut powers, mut weighted) = (0.0, 0.0);
        for log in &logs {
            let power = (shape * log).exp();
            powers += power;
            weighted += power * log;
        }
        weighted / powers - 1.0 / shape - mean_log
    };
    let (mut low, mut high) = (1e-3, 1.0);
    while rises(high) < 0.0 && high < 1e6 {
        (low, high) = (high, 2.0 * high);
    }
    for _ in 0..100 {
        let middle = 0.5 * (low + high);
        if rises(middle) < 0.0 { low = middle } else { high = middle }
    }
    let shape = 0.5 * (low + high);
    let mean_power = logs.iter().map(|log| (shape * log).exp()).sum::<f64>() / logs.len() as f64;
    Some((shape, largest * mean_power.powf(1.0 / shape)))
}
