//! What a study of one reference piece computes, in the shape of its contract.

use serde::Serialize;

use acorn_maths::words::ValueFormat;

/// What a study of one reference piece computes. Shares are fractions; null where there is nothing to tell.
#[derive(Clone, Debug, PartialEq, Serialize, utoipa::ToSchema)]
#[schema(as = GaugeSingleNumbers)]
pub struct Numbers {
    /// Readings.
    pub n: usize,
    /// Rows without one.
    pub missing: usize,
    /// Their mean.
    pub mean: f64,
    /// Their sd; null with one reading.
    pub sd: Option<f64>,
    /// The known value.
    pub reference: f64,
    /// Mean less reference.
    pub bias: f64,
    /// t of the bias, n − 1 df.
    pub bias_t: Option<f64>,
    /// Its two-sided chance.
    pub bias_p: Option<f64>,
    /// 95 % interval of the bias.
    pub bias_ci95: Option<[f64; 2]>,
    /// The tolerance; null without one.
    pub tolerance: Option<f64>,
    /// The share of it that the gauge may take.
    pub share: f64,
    /// Sds counted as its spread.
    pub multiplier: f64,
    /// Capability by spread.
    pub cg: Option<f64>,
    /// Its 95 % interval.
    pub cg_ci95: Option<[f64; 2]>,
    /// Capability by spread and bias.
    pub cgk: Option<f64>,
    /// Spread over the tolerance.
    pub pct_repeatability: Option<f64>,
    /// Spread and bias over the tolerance; null when the bias alone takes its share.
    pub pct_repeatability_bias: Option<f64>,
    /// Smallest step over the tolerance.
    pub pct_resolution: Option<f64>,
    /// The readings of a view, in order, thinned.
    pub readings: Vec<Reading>,
    /// How readings are written.
    pub writer: ValueFormat,
}

/// A reading in its place.
#[derive(Clone, Copy, Debug, PartialEq, Serialize, utoipa::ToSchema)]
#[schema(as = GaugeReading)]
pub struct Reading {
    /// Its place, from 0.
    pub i: usize,
    /// Its value.
    pub value: f64,
}
