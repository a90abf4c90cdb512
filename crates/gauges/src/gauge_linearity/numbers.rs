//! What a linearity study computes, in the shape of its contract.

use serde::Serialize;

use acorn_maths::words::ValueFormat;

/// What a linearity study computes; null where there is nothing to tell.
#[derive(Clone, Debug, PartialEq, Serialize, utoipa::ToSchema)]
#[schema(as = GaugeLinearityNumbers)]
pub struct Numbers {
    /// Readings.
    pub n: usize,
    /// Rows without a reading, a piece or a reference.
    pub missing: usize,
    /// The pieces in rising order of the reference.
    pub parts: Vec<LinearityPart>,
    /// Bias on reference by least squares; null with one reference.
    pub fit: Option<LinearityFit>,
    /// Mean of all biases.
    pub average: AverageBias,
    /// |slope| × so many process sds; null without a process sd.
    pub linearity: Option<f64>,
    /// |slope|; null with one reference.
    pub pct_linearity: Option<f64>,
    /// |Average bias| over so many process sds; null without a process sd.
    pub pct_bias: Option<f64>,
    /// The band of the fit over the references.
    pub band: Vec<BandPoint>,
    /// How readings are written.
    pub writer: ValueFormat,
    /// How references are written.
    pub reference_writer: ValueFormat,
}

/// A piece of known value.
#[derive(Clone, Debug, PartialEq, Serialize, utoipa::ToSchema)]
pub struct LinearityPart {
    /// Its name.
    pub label: String,
    /// Its known value.
    pub reference: f64,
    /// Readings of it.
    pub n: usize,
    /// Their mean.
    pub mean: f64,
    /// That less the reference.
    pub bias: f64,
    /// Sd of the readings; null with one.
    pub sd: Option<f64>,
    /// t of the bias.
    pub t: Option<f64>,
    /// Its two-sided chance.
    pub p: Option<f64>,
    /// 95 % interval of the bias.
    pub bias_ci95: Option<[f64; 2]>,
    /// Single biases; none when there are very many.
    pub biases: Vec<f64>,
}

/// Bias on reference by least squares.
#[derive(Clone, Copy, Debug, PartialEq, Serialize, utoipa::ToSchema)]
pub struct LinearityFit {
    /// The bias at reference 0.
    pub intercept: f64,
    /// Growth of the bias for a unit of the reference.
    pub slope: f64,
    /// Sd about the line; null below three readings.
    pub s: Option<f64>,
    /// Share of the variation of the biases that the line explains.
    pub r2: Option<f64>,
    /// t of the intercept, N − 2 df.
    pub intercept_t: Option<f64>,
    /// Its two-sided chance.
    pub intercept_p: Option<f64>,
    /// t of the slope, N − 2 df.
    pub slope_t: Option<f64>,
    /// Its two-sided chance.
    pub slope_p: Option<f64>,
}

/// Mean of all biases.
#[derive(Clone, Copy, Debug, PartialEq, Serialize, utoipa::ToSchema)]
pub struct AverageBias {
    /// The mean.
    pub bias: f64,
    /// Its t, N − pieces df.
    pub t: Option<f64>,
    /// Its two-sided chance.
    pub p: Option<f64>,
}

/// The fit with its 95 % band at a reference.
#[derive(Clone, Copy, Debug, PartialEq, Serialize, utoipa::ToSchema)]
pub struct BandPoint {
    /// The reference.
    pub reference: f64,
    /// The fit there.
    pub fit: f64,
    /// Lower end; null without one.
    pub low: Option<f64>,
    /// Upper end; null without one.
    pub high: Option<f64>,
}
