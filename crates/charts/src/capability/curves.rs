//! What the figure draws over the values: the histogram, both curves and the probability plot.

use super::assumed::AssumedDistribution;
use acorn_data::figure::histogram::{Bin, CurvePoint};
use acorn_maths::normal;

/// Points of a drawn curve.
const CURVE_POINTS: usize = 121;
/// How far a curve is drawn, in sds of its own scale.
const REACH: f64 = 4.0;

/// A normal on the scale of an assumed shape.
#[derive(Clone, Copy, Debug)]
pub struct Spread<'t> {
    pub assumed: &'t AssumedDistribution,
    pub mean: f64,
    pub sd: f64,
}

impl Spread<'_> {
    /// The value so many sds from the mean.
    pub fn at(&self, score: f64) -> f64 {
        self.assumed.value_at(self.mean + score * self.sd)
    }

    /// The share between two values.
    fn between(&self, low: f64, high: f64) -> f64 {
        let score = |x: f64| (self.assumed.score(x) - self.mean) / self.sd;
        let (low, high) = (score(low), score(high));
        // From the smaller side.
        if low > 0.0 { normal::above(low) - normal::above(high) } else { normal::below(high) - normal::below(low) }
    }

    /// The curve in counts a bar over the histogram and as far as the shape has something to show.
    pub fn curve(&self, bins: &[Bin], n: usize) -> Vec<CurvePoint> {
        let (Some(first), Some(last)) = (bins.first(), bins.last()) else { return Vec::new() };
        let width = first.to - first.from;
        let room = last.to - first.from;
        // A long tail is not drawn farther than the histogram is long.
        let end = |score: f64, far: f64| Some(self.at(score)).filter(|value| value.is_finite()).unwrap_or(far);
        let low = end(-REACH, first.from).max(first.from - room).min(first.from);
        let high = end(REACH, last.to).min(last.to + room).max(last.to);
        let step = 0.05 * width;
        let at = |k: usize| low + (high - low) * k as f64 / (CURVE_POINTS - 1) as f64;
        let point = |k: usize| {
            let value = at(k);
            let count = n as f64 * width * self.between(value - step, value + step) / (2.0 * step);
            count.is_finite().then_some(CurvePoint { value, count })
        };
        (0..CURVE_POINTS).filter_map(point).collect()
    }
}
