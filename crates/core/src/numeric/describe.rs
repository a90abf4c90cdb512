//! Mean, spread and order statistics of values in which NaN is missing.

/// Count, mean and sample sd of the values that are not missing.
#[derive(Clone, Copy, Debug, PartialEq)]
pub struct Moments {
    /// How many values are not missing.
    pub n: usize,
    /// Their mean; `None` without values.
    pub mean: Option<f64>,
    /// Their sample standard deviation (divisor n - 1); `None` below two values.
    pub sd: Option<f64>,
    /// The smallest; `None` without values.
    pub min: Option<f64>,
    /// The largest; `None` without values.
    pub max: Option<f64>,
}

const LANES: usize = 8;

/// Sums `term(value)` over the values that are not missing, in eight independent lanes: fast, and the
/// rounding error grows with n/8 instead of n.
fn lane_sum(values: &[f64], term: impl Fn(f64) -> f64) -> f64 {
    let mut lanes = [0.0; LANES];
    let chunks = values.chunks_exact(LANES);
    for (lane, &value) in lanes.iter_mut().zip(chunks.remainder()) {
        *lane += if value.is_nan() { 0.0 } else { term(value) };
    }
    for chunk in chunks {
        for (lane, &value) in lanes.iter_mut().zip(chunk) {
            *lane += if value.is_nan() { 0.0 } else { term(value) };
        }
    }
    lanes.iter().sum()
}

/// How many values are not missing.
pub fn count(values: &[f64]) -> usize {
    values.iter().filter(|value| !value.is_nan()).count()
}

/// The mean of the values that are not missing, corrected by a second pass so that a large common offset
/// costs no digits; `None` without values.
pub fn mean(values: &[f64]) -> Option<f64> {
    let n = count(values);
    let first = *values.iter().find(|value| !value.is_nan())?;
    let rough = first + lane_sum(values, |value| value - first) / n as f64;
    Some(rough + lane_sum(values, |value| value - rough) / n as f64)
}

/// Count, mean, sample sd and extremes, missing values left out.
///
/// sd = √(Σ(x - x̄)² / (n - 1)), two-pass with the compensation of Chan, Golub and LeVeque (1983, eq. 1.7).
///
/// # Examples
/// ```
/// use acorn_core::numeric::describe::moments;
/// // An offset of ten million leaves nine digits of a spread in the thousandths.
/// let far = moments(&[1e7 + 0.001, 1e7 + 0.002, f64::NAN, 1e7 + 0.003]);
/// assert_eq!(far.n, 3);
/// assert!((far.sd.unwrap() - 0.001).abs() < 1e-9);
/// assert_eq!(moments(&[4.2]).sd, None);
/// ```
pub fn moments(values: &[f64]) -> Moments {
    let n = count(values);
    let center = mean(values);
    let sd = center.filter(|_| n > 1).map(|m| {
        let squares = lane_sum(values, |value| (value - m) * (value - m));
        let drift = lane_sum(values, |value| value - m);
        ((squares - drift * drift / n as f64).max(0.0) / (n - 1) as f64).sqrt()
    });
    let min = values.iter().copied().fold(f64::INFINITY, f64::min);
    let max = values.iter().copied().fold(f64::NEG_INFINITY, f64::max);
    Moments { n, mean: center, sd, min: (n > 0).then_some(min), max: (n > 0).then_some(max) }
}

/// The median of the values that are not missing; `None` without values. Linear time.
pub fn median(values: &[f64]) -> Option<f64> {
    let mut kept: Vec<f64> = values.iter().copied().filter(|value| !value.is_nan()).collect();
    if kept.is_empty() {
        return None;
    }
    let middle = kept.len() / 2;
    let even = kept.len().is_multiple_of(2);
    let (lower, &mut upper_middle, _) = kept.select_nth_unstable_by(middle, f64::total_cmp);
    let lower_middle = lower.iter().copied().fold(f64::NEG_INFINITY, f64::max);
    Some(if even { lower_middle + (upper_middle - lower_middle) / 2.0 } else { upper_middle })
}

/// The correlation of each value with the one before it, pairs with a missing side left out:
/// r₁ = Σ(x_i - x̄)(x_{i-1} - x̄) / Σ(x_i - x̄)² (Box and Jenkins 1970, eq. 2.1.12). `None` below 3 values
/// or without spread.
pub fn lag_one_correlation(values: &[f64]) -> Option<f64> {
    let m = mean(values)?;
    let squares = lane_sum(values, |value| (value - m) * (value - m));
    if count(values) < 3 || squares <= 0.0 {
        return None;
    }
    let products: f64 = values.windows(2).map(|pair| (pair[0] - m) * (pair[1] - m)).filter(|p| !p.is_nan()).sum();
    Some(products / squares)
}

/// The fewest decimals, up to six, with which the first thousand values read back the same.
pub fn decimals(values: &[f64]) -> u8 {
    let kept = || values.iter().filter(|value| !value.is_nan()).take(1000);
    let fits = |places: u8| {
        let scale = 10f64.powi(places.into());
        kept().all(|value| (value * scale - (value * scale).round()).abs() <= 1e-7 * (value * scale).abs().max(1.0))
    };
    (0..6).find(|&places| fits(places)).unwrap_or(6)
}

#[cfg(test)]
mod tests {
    use super::*;

    #[test]
    fn empty_single_equal_and_missing_values_have_an_answer() {
        let empty = moments(&[f64::NAN]);
        assert_eq!((empty.n, empty.mean, empty.sd, empty.min), (0, None, None, None));
        let equal = moments(&[2.4; 1000]);
        assert_eq!((equal.mean, equal.sd), (Some(2.4), Some(0.0)));
        assert_eq!(median(&[]), None);
        assert_eq!(median(&[f64::NAN, 3.0, 1.0, 2.0, 10.0]), Some(2.5));
        assert_eq!(lag_one_correlation(&[1.0, 1.0, 1.0]), None);
    }

    #[test]
    fn the_spread_survives_a_huge_offset_over_a_million_values() {
        let values: Vec<f64> = (0..1_000_000).map(|i| 1e7 + f64::from(i % 7)).collect();
        let near: Vec<f64> = (0..1_000_000).map(|i| f64::from(i % 7)).collect();
        let (far, near) = (moments(&values), moments(&near));
        assert!((far.sd.unwrap() / near.sd.unwrap() - 1.0).abs() < 1e-9);
        assert!((far.mean.unwrap() - 1e7 - near.mean.unwrap()).abs() < 1e-7);
    }

    #[test]
    fn decimals_are_found_from_the_values() {
        assert_eq!(decimals(&[2.4, 2.401, f64::NAN]), 3);
        assert_eq!(decimals(&[1e7, 12.0]), 0);
        assert_eq!(decimals(&[1.0 / 3.0]), 6);
    }
}
