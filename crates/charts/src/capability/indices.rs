//! Distances to the limits in spreads.
//!
//! - normal, also after a transformation: Cp = (USL - LSL)/6σ, Cpu = (USL - x̄)/3σ, Cpl = (x̄ - LSL)/3σ, Cpk the smaller;
//!   Pp, Ppu, Ppl, Ppk with the sd of all values (Kane 1986)
//! - any other shape: Pp = (USL - LSL)/(x₀.₉₉₈₆₅ - x₀.₀₀₁₃₅), Ppu = (USL - x₀.₅)/(x₀.₉₉₈₆₅ - x₀.₅),
//!   Ppl = (x₀.₅ - LSL)/(x₀.₅ - x₀.₀₀₁₃₅) (ISO 22514-2)
//!
//! With one limit the index of both sides is unknown and Ppk is that of the one side.

use super::assumed::AssumedDistribution;
use acorn_maths::normal;
use acorn_maths::shapes::Shape;
use acorn_maths::tails::chi_square_upper;

/// Shares of a normal below -3, 0 and 3 sds.
pub const THREE_SDS: [(f64, f64); 3] =
    [(0.001_349_898_031_630_094_6, 0.998_650_101_968_369_9), (0.5, 0.5), (0.998_650_101_968_369_9, 0.001_349_898_031_630_094_6)];

/// Indices of a scale.
#[derive(Clone, Copy, Debug, Default, PartialEq)]
pub struct Indices {
    /// Both limits.
    pub both: Option<f64>,
    /// The lower limit.
    pub lower: Option<f64>,
    /// The upper limit.
    pub upper: Option<f64>,
    /// The smaller side.
    pub worse: Option<f64>,
}

/// Two limits on one scale.
#[derive(Clone, Copy, Debug, PartialEq)]
pub struct Limits {
    /// Lower.
    pub lsl: Option<f64>,
    /// Upper.
    pub usl: Option<f64>,
}

/// Shares beyond the limits; a side without a limit is unknown.
#[derive(Clone, Copy, Debug, Default, PartialEq, serde::Serialize, utoipa::ToSchema)]
pub struct ShareOutside {
    /// Below the lower limit.
    pub below: Option<f64>,
    /// Above the upper limit.
    pub above: Option<f64>,
    /// Both.
    pub total: Option<f64>,
}

/// Infinite as unknown: a shape that never reaches a limit has no distance to it.
fn known(value: f64) -> Option<f64> {
    Some(value).filter(|value| value.is_finite())
}

impl Indices {
    fn of(both: Option<f64>, lower: Option<f64>, upper: Option<f64>) -> Indices {
        let (both, lower, upper) = (both.and_then(known), lower.and_then(known), upper.and_then(known));
        let worse = [lower, upper].into_iter().flatten().reduce(f64::min);
        Indices { both, lower, upper, worse }
    }

    /// Of a normal.
    pub fn normal(limits: Limits, mean: f64, sd: f64) -> Indices {
        if sd.is_nan() || sd <= 0.0 {
            return Indices::default();
        }
        let both = limits.usl.zip(limits.lsl).map(|(usl, lsl)| (usl - lsl) / (6.0 * sd));
        Indices::of(both, limits.lsl.map(|lsl| (mean - lsl) / (3.0 * sd)), limits.usl.map(|usl| (usl - mean) / (3.0 * sd)))
    }

    /// By the percentiles at 0.135 %, 50 % and 99.865 %.
    pub fn percentiles(limits: Limits, [low, middle, high]: [f64; 3]) -> Indices {
        let both = limits.usl.zip(limits.lsl).map(|(usl, lsl)| (usl - lsl) / (high - low));
        let lower = limits.lsl.map(|lsl| (middle - lsl) / (middle - low));
        Indices::of(both, lower, limits.usl.map(|usl| (usl - middle) / (high - middle)))
    }
}

impl ShareOutside {
    fn of(below: Option<f64>, above: Option<f64>) -> ShareOutside {
        let total = (below.is_some() || above.is_some()).then(|| below.unwrap_or(0.0) + above.unwrap_or(0.0));
        ShareOutside { below, above, total }
    }

    /// Of values; on a limit is inside.
    pub fn seen(limits: Limits, sorted: &[f64]) -> ShareOutside {
        let n = sorted.len() as f64;
        let below = |lsl: f64| sorted.partition_point(|value| *value < lsl) as f64 / n;
        let above = |usl: f64| (sorted.len() - sorted.partition_point(|value| *value <= usl)) as f64 / n;
        ShareOutside::of(limits.lsl.map(below), limits.usl.map(above))
    }

    /// Of a normal.
    pub fn normal(limits: Limits, mean: f64, sd: f64) -> ShareOutside {
        if sd.is_nan() || sd <= 0.0 {
            return ShareOutside::default();
        }
        let below = limits.lsl.map(|lsl| normal::below((lsl - mean) / sd));
        ShareOutside::of(below, limits.usl.map(|usl| normal::above((usl - mean) / sd)))
    }

    /// Of an assumed shape, on the scale of the values.
    pub fn fitted(limits: Limits, assumed: &AssumedDistribution) -> ShareOutside {
        let AssumedDistribution::Fitted(fitted) = assumed else { return ShareOutside::default() };
        ShareOutside::of_shape(limits, &fitted.shape)
    }

    /// Of a shape, on the scale of the values.
    pub fn of_shape(limits: Limits, shape: &Shape) -> ShareOutside {
        ShareOutside::of(limits.lsl.map(|lsl| shape.below(lsl)), limits.usl.map(|usl| shape.above(usl)))
    }

    /// The sigma distance that leaves as much in one tail of a normal; `None` when nothing, or everything, lies beyond.
    pub fn z_bench(&self) -> Option<f64> {
        self.total.map(|total| -normal::quantile(total)).and_then(known)
    }
}

/// The 95 % interval of an index of both limits: √(χ²/df) at both ends.
pub fn both_interval(index: Option<f64>, df: f64) -> Option<[f64; 2]> {
    let index = index.filter(|_| df.is_finite() && df > 0.0)?;
    Some([0.975, 0.025].map(|alpha| index * (chi_square_upper(alpha, df) / df).sqrt()))
}

/// The 95 % interval of the index of the worse side: ± 1.96 √(1/(9n) + index²/(2 df)) (Bissell 1990).
pub fn worse_interval(index: Option<f64>, n: f64, df: f64) -> Option<[f64; 2]> {
    let index = index.filter(|_| df.is_finite() && df > 0.0)?;
    let reach = half_width(index, n, df);
    Some([index - reach, index + reach])
}

/// Half the width of that interval.
pub fn half_width(index: f64, n: f64, df: f64) -> f64 {
    1.959_963_984_540_054 * (1.0 / (9.0 * n) + index * index / (2.0 * df)).sqrt()
}

/// An index on the scale on which its error hardly depends on it: the standard error of an index I is about
/// √((1 + 9/2 I²)/(9 n)) (Bissell 1990), which arsinh(√(9/2) I) makes even.
pub fn even_scale(index: f64) -> f64 {
    (4.5_f64.sqrt() * index).asinh()
}

/// Back from that scale.
pub fn from_even_scale(even: f64) -> f64 {
    even.sinh() / 4.5_f64.sqrt()
}

/// Indices of a shape, by its percentiles.
pub fn of_shape(limits: Limits, shape: &Shape) -> Indices {
    Indices::percentiles(limits, THREE_SDS.map(|(below, above)| shape.quantile(below, above)))
}
