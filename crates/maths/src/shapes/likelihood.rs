//! The likeliest location and scale, or gamma shape and scale, of values without a threshold.

use statrs::function::gamma::digamma;

use crate::root;

/// The root of a falling function, kept between bounds, by Newton's steps where they stay inside and halving elsewhere.
/// `f` gives the value and the slope.
fn falling_root(mut low: f64, mut high: f64, start: f64, f: impl Fn(f64) -> (f64, f64)) -> f64 {
    let mut x = start.clamp(low, high);
    for _ in 0..200 {
        let (value, slope) = f(x);
        if value > 0.0 {
            low = x
        } else {
            high = x
        }
        let newton = x - value / slope;
        let next = if newton > low && newton < high { newton } else { 0.5 * (low + high) };
        // Newton's steps square their error: one this small leaves nothing to correct.
        if (next - x).abs() <= 1e-10 * x.abs() || high - low <= 1e-15 * high {
            return next;
        }
        x = next;
    }
    x
}

fn mean(values: &[f64]) -> f64 {
    let first = values.first().copied().unwrap_or(0.0);
    first + values.iter().map(|value| value - first).sum::<f64>() / values.len() as f64
}

/// Mean and sd with divisor n.
pub fn normal(values: &[f64]) -> (f64, f64) {
    let mean = mean(values);
    (mean, (values.iter().map(|value| (value - mean) * (value - mean)).sum::<f64>() / values.len() as f64).sqrt())
}

/// Gumbel's for minima: the scale b solves Σ x e^(x/b) / Σ e^(x/b) - x̄ - b = 0, which falls in b; the location is
/// b ln(mean e^(x/b)). Powers are taken relative to the largest value. Source: Cohen (1965), Technometrics 7.
pub fn smallest(values: &[f64]) -> (f64, f64) {
    let (centre, spread) = normal(values);
    let most = values.iter().copied().fold(f64::NEG_INFINITY, f64::max);
    let sums = |b: f64| {
        let (mut weights, mut first, mut second) = (0.0, 0.0, 0.0);
        for &value in values {
            let d = value - most;
            let weight = (d / b).exp();
            weights += weight;
            first += weight * d;
            second += weight * d * d;
        }
        (weights, first / weights, second / weights)
    };
    let misses = |b: f64| {
        let (_, first, second) = sums(b);
        (first + most - centre - b, -(second - first * first) / (b * b) - 1.0)
    };
    let scale = falling_root(1e-6 * spread, 10.0 * spread, 0.78 * spread, misses);
    let (weights, _, _) = sums(scale);
    (most + scale * (weights / values.len() as f64).ln(), scale)
}

/// Gumbel's for maxima: that for minima of the values turned over.
pub fn largest(values: &[f64]) -> (f64, f64) {
    let turned: Vec<f64> = values.iter().map(|value| -value).collect();
    let (location, scale) = smallest(&turned);
    (-location, scale)
}

/// Logistic: Newton's method on 1/scale and location/scale, in which the likelihood is concave, with steps halved until
/// it rises (Antle, Klimko and Harkness 1970).
pub fn logistic(values: &[f64]) -> (f64, f64) {
    let (centre, spread) = normal(values);
    let n = values.len() as f64;
    // Standardised first, so that one start serves all.
    let standard: Vec<f64> = values.iter().map(|value| (value - centre) / spread).collect();
    let height = |slope: f64, place: f64| {
        let one = |x: &f64| {
            let z = slope * x - place;
            -z.abs() - 2.0 * (-z.abs()).exp().ln_1p()
        };
        n * slope.ln() + standard.iter().map(one).sum::<f64>()
    };
    let (mut slope, mut place) = (1.8, 0.0);
    let mut here = height(slope, place);
    for _ in 0..100 {
        let (mut by_slope, mut by_place) = (n / slope, 0.0);
        let (mut ss, mut sp, mut pp) = (n / (slope * slope), 0.0, 0.0);
        for &x in &standard {
            let z = slope * x - place;
            let share = 1.0 / (1.0 + (-z).exp());
            let lean = 1.0 - 2.0 * share;
            let curve = 2.0 * share * (1.0 - share);
            by_slope += lean * x;
            by_place -= lean;
            ss += curve * x * x;
            sp -= curve * x;
            pp += curve;
        }
        let determinant = ss * pp - sp * sp;
        let (step_slope, step_place) = ((pp * by_slope - sp * by_place) / determinant, (ss * by_place - sp * by_slope) / determinant);
        let mut reach = 1.0;
        let mut next = here;
        while reach > 1e-6 {
            let (s, p) = (slope + reach * step_slope, place + reach * step_place);
            if s > 0.0 {
                next = height(s, p);
                if next >= here {
                    (slope, place) = (s, p);
                    break;
                }
            }
            reach *= 0.5;
        }
        here = next;
        if step_slope.abs() < 1e-9 * slope && step_place.abs() < 1e-9 {
            break;
        }
    }
    (centre + spread * place / slope, spread / slope)
}

/// Gamma of positive values: the shape k solves ln k - ψ(k) = ln x̄ - mean ln x, the scale is x̄ / k.
/// Source: Choi and Wette (1969), Technometrics 11.
pub fn gamma(values: &[f64]) -> (f64, f64) {
    let centre = mean(values);
    let logs = values.iter().map(|value| (value / centre).ln()).sum::<f64>() / values.len() as f64;
    let wanted = (-logs).max(1e-12);
    // Beyond 1e5 the difference of the two logarithms would lose its digits: 1/(2k) + 1/(12k²).
    let gap = |k: f64| if k > 1e5 { 0.5 / k + 1.0 / (12.0 * k * k) } else { k.ln() - digamma(k) };
    let shape = root::between(-12.0, 28.0, |ln_k| gap(ln_k.exp()) > wanted).exp();
    (shape, centre / shape)
}
