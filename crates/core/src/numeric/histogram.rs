//! Bins for a heap of values.

use serde::Serialize;

/// One bin: values from `from` up to, not including, `to`; the last bin includes its end.
#[derive(Clone, Copy, Debug, PartialEq, Serialize)]
#[cfg_attr(feature = "openapi", derive(utoipa::ToSchema))]
pub struct Bin {
    /// Left edge.
    pub from: f64,
    /// Right edge.
    pub to: f64,
    /// Values inside.
    pub count: usize,
}

/// Bins of a round width (1, 2 or 5 times a power of ten) that cover the values, about `wanted` of them.
/// Missing values are left out; no values, no bins; equal values, one bin around them.
pub fn round_bins(values: &[f64], wanted: usize) -> Vec<Bin> {
    let low = values.iter().copied().fold(f64::INFINITY, f64::min);
    let high = values.iter().copied().fold(f64::NEG_INFINITY, f64::max);
    if low > high {
        return Vec::new();
    }
    // A spread below the resolution of the values themselves is none.
    let spread = (high - low).max(low.abs().max(high.abs()) * 1e-12);
    let width = round_width(if high > low { spread / wanted.max(1) as f64 } else { 1.0 });
    let first = (low / width).floor();
    let count = ((high / width).floor() - first) as usize + 1;
    let mut bins: Vec<Bin> =
        (0..count).map(|i| Bin { from: (first + i as f64) * width, to: (first + i as f64 + 1.0) * width, count: 0 }).collect();
    for value in values.iter().filter(|value| !value.is_nan()) {
        let place = ((value / width).floor() - first).max(0.0) as usize;
        bins[place.min(count - 1)].count += 1;
    }
    bins
}

/// The smallest of 1, 2, 5 times a power of ten that is at least `wanted` (which is above 0).
fn round_width(wanted: f64) -> f64 {
    let power = 10f64.powf(wanted.log10().floor());
    [1.0, 2.0, 5.0, 10.0].into_iter().map(|step| step * power).find(|width| *width >= wanted * (1.0 - 1e-9)).unwrap_or(10.0 * power)
}

#[cfg(test)]
mod tests {
    use super::*;

    #[test]
    fn bins_cover_every_value_once() {
        let values = [2.34, 2.4, 2.401, f64::NAN, 2.46];
        let bins = round_bins(&values, 8);
        assert_eq!(bins.iter().map(|bin| bin.count).sum::<usize>(), 4);
        assert!(bins.len() <= 10 && bins[0].from <= 2.34 && bins.last().unwrap().to >= 2.46);
        assert_eq!(round_bins(&[f64::NAN], 8).len(), 0);
        assert_eq!(round_bins(&[1e15, 1e15], 8).iter().map(|bin| bin.count).sum::<usize>(), 2);
    }
}
