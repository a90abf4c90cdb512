//! What a capability study computes, in the shape of its contract. A number that cannot be told is null: everything
//! about spread below two values or without any, both-sided indices with one limit, short-term ones where the shape
//! leaves no short-term spread.

use serde::Serialize;

use super::indices::ShareOutside;
use super::need::Need;
use super::tolerance::Tolerance;
use crate::control_chart;
use acorn_data::figure::histogram::{Bin, CurvePoint};
use acorn_data::figure::probability::PlotPoint;
use acorn_maths::shapes::System;
use acorn_maths::words::ValueFormat;
use acorn_study::dial::Dial;
use acorn_study::gauge::share::GaugeShare;

/// What a capability study computes.
#[derive(Clone, Debug, Serialize, utoipa::ToSchema)]
#[schema(as = CapabilityNumbers)]
pub struct Numbers {
    /// Values.
    pub n: usize,
    /// Values that are missing.
    pub missing: usize,
    /// Mean of all values.
    pub mean: Option<f64>,
    /// Sample sd of all values.
    pub sd_overall: Option<f64>,
    /// Short-term sd in use.
    pub sd_within: Option<f64>,
    /// What the gauge makes of the overall spread, where the column names a gauge that was studied.
    #[serde(skip_serializing_if = "Option::is_none")]
    pub gauge: Option<GaugeShare>,
    /// Ppk without the gauge's part of the spread; null where no normal is assumed of the values as they are.
    #[serde(skip_serializing_if = "Option::is_none")]
    pub ppk_without_gauge: Option<f64>,
    /// Cp.
    pub cp: Option<f64>,
    /// Cp of the lower side.
    pub cpl: Option<f64>,
    /// Cp of the upper side.
    pub cpu: Option<f64>,
    /// Cpk.
    pub cpk: Option<f64>,
    /// Pp.
    pub pp: Option<f64>,
    /// Pp of the lower side.
    pub ppl: Option<f64>,
    /// Pp of the upper side.
    pub ppu: Option<f64>,
    /// Ppk.
    pub ppk: Option<f64>,
    /// Cpm, which punishes distance from the target.
    pub cpm: Option<f64>,
    /// 95 % interval of Cp.
    pub cp_ci95: Option<[f64; 2]>,
    /// 95 % interval of Cpk.
    pub cpk_ci95: Option<[f64; 2]>,
    /// 95 % interval of Pp.
    pub pp_ci95: Option<[f64; 2]>,
    /// 95 % interval of Ppk.
    pub ppk_ci95: Option<[f64; 2]>,
    /// The one-tailed sigma distance with the short-term share out.
    pub z_bench_within: Option<f64>,
    /// The one-tailed sigma distance with the share out.
    pub z_bench_overall: Option<f64>,
    /// Shares of the values beyond the limits.
    pub observed: ShareOutside,
    /// Shares that the short-term spread puts there.
    pub expected_within: ShareOutside,
    /// Shares that the shape puts there.
    pub expected_overall: ShareOutside,
    /// Anderson and Darling's statistic of the values against a normal.
    pub ad: Option<f64>,
    /// Adjusted for the number of values.
    pub ad_star: Option<f64>,
    /// The chance of so large a statistic from a normal.
    pub ad_p: Option<f64>,
    /// The same chance for the shape that is assumed.
    pub shape_p: Option<f64>,
    /// Whether the values contradict it: an unlikely chance, and among very many values a large departure too.
    pub misfits: bool,
    /// The shape that is assumed, in words.
    pub shape: String,
    /// Bias-adjusted skewness of the values.
    pub skewness: Option<f64>,
    /// Excess kurtosis G2.
    #[serde(skip)]
    pub kurtosis: Option<f64>,
    /// No signal on any panel of the chart.
    pub steady: bool,
    /// Signals on all panels.
    pub signals: usize,
    /// As many would come by chance.
    pub signals_expected: f64,
    /// Whether chance explains the signals, so that the process counts as steady.
    pub signals_by_chance: bool,
    /// The lines of the chart of single values.
    pub control: Option<Control>,
    /// The transformation in use.
    pub transform: Option<Transform>,
    /// The fitted family in use.
    pub fit: Option<FitNumbers>,
    /// Families ranked, the best first, when the best was asked for.
    pub shapes: Vec<Candidate>,
    /// Of a fitted shape: the smallest and the largest Ppk of the shapes that fit as well.
    pub ppk_by_shape: Option<[f64; 2]>,
    /// The smallest and the largest share that they put beyond the limits.
    pub outside_by_shape: Option<[f64; 2]>,
    /// The limits in use.
    pub limits: LimitsInUse,
    /// Bars.
    pub bins: Vec<Bin>,
    /// The short-term curve in counts a bar; empty when nothing is assumed short-term.
    pub short_term: Vec<CurvePoint>,
    /// The long-term curve in counts a bar.
    pub long_term: Vec<CurvePoint>,
    /// Where the shape has 1, 2 and 3 sds below and above the middle of a normal; empty when no shape is assumed.
    pub sigma_lines: Vec<SigmaLine>,
    /// The probability plot against the shape.
    pub plot: Vec<PlotPoint>,
    /// Tolerance intervals.
    pub tolerance: Vec<Tolerance>,
    /// How many values a wanted interval takes; null without Ppk.
    pub need: Option<Need>,
    /// How values are written.
    pub writer: ValueFormat,
    /// The dial.
    pub dial: Dial,
    /// The values in order with their control limits, for the view. Under a transformation or a fitted shape the limits
    /// are found on the scale on which it is normal, and stand here on the scale of the values.
    pub chart: Option<control_chart::Numbers>,
}

/// The lines of the chart of single values and of their moving ranges.
#[derive(Clone, Copy, Debug, PartialEq, Serialize, utoipa::ToSchema)]
pub struct Control {
    /// Centre.
    pub center: Option<f64>,
    /// Lower control limit.
    pub lcl: Option<f64>,
    /// Upper control limit.
    pub ucl: Option<f64>,
    /// Centre of the moving ranges.
    pub mr_center: Option<f64>,
    /// Upper control limit of the moving ranges.
    pub mr_ucl: Option<f64>,
}

/// A value so many sds from the middle, on the scale on which the shape is normal.
#[derive(Clone, Copy, Debug, PartialEq, Serialize, utoipa::ToSchema)]
pub struct SigmaLine {
    /// How many sds, below 0 below the middle.
    pub sds: i8,
    /// The value.
    pub value: f64,
}

/// Limits, target and bound in use.
#[derive(Clone, Copy, Debug, PartialEq, Serialize, utoipa::ToSchema)]
pub struct LimitsInUse {
    /// Lower specification limit.
    pub lsl: Option<f64>,
    /// Target.
    pub target: Option<f64>,
    /// Upper specification limit.
    pub usl: Option<f64>,
    /// The smallest value that nature allows.
    pub bound: Option<f64>,
}

/// A transformation with what it gives on its scale.
#[derive(Clone, Copy, Debug, PartialEq, Serialize, utoipa::ToSchema)]
pub struct Transform {
    /// `box-cox` or `johnson`.
    pub kind: &'static str,
    /// The power, or Johnson's λ.
    pub lambda: f64,
    /// Johnson's system.
    #[serde(skip_serializing_if = "Option::is_none")]
    pub family: Option<System>,
    /// Johnson's γ.
    #[serde(skip_serializing_if = "Option::is_none")]
    pub gamma: Option<f64>,
    /// Johnson's δ.
    #[serde(skip_serializing_if = "Option::is_none")]
    pub delta: Option<f64>,
    /// Johnson's ξ.
    #[serde(skip_serializing_if = "Option::is_none")]
    pub xi: Option<f64>,
    /// Mean on its scale.
    pub mean: f64,
    /// Sd of all values on its scale.
    pub sd_overall: f64,
    /// Short-term sd on its scale.
    pub sd_within: Option<f64>,
}

/// A fitted family.
#[derive(Clone, Debug, PartialEq, Serialize, utoipa::ToSchema)]
pub struct FitNumbers {
    /// Its name.
    pub name: &'static str,
    /// Its name in words.
    pub words: &'static str,
    /// Parameters by name.
    #[schema(value_type = std::collections::HashMap<String, f64>)]
    pub parameters: serde_json::Map<String, serde_json::Value>,
    /// 2k - 2 ln L.
    pub aic: f64,
    /// Anderson and Darling's statistic against it.
    pub ad: Option<f64>,
    /// The chance of so large a statistic.
    pub p: Option<f64>,
}

/// A family in the ranking.
#[derive(Clone, Debug, Serialize, utoipa::ToSchema)]
#[schema(as = ShapeCandidate)]
pub struct Candidate {
    /// The fit.
    #[serde(flatten)]
    pub fit: FitNumbers,
    /// Whether it is the one in use.
    pub assumed: bool,
    /// Whether the values contradict it; false also when its threshold leaves no chance to tell.
    pub refuted: bool,
    /// Why it was not tested, in words; absent when it was.
    #[serde(skip_serializing_if = "Option::is_none")]
    pub untested: Option<&'static str>,
    /// Whether it reaches below the natural bound.
    pub below_bound: bool,
    /// Ppk under it.
    pub ppk: Option<f64>,
    /// The share that it puts beyond the limits.
    pub out: Option<f64>,
    /// Its curve in counts a bar.
    pub curve: Vec<CurvePoint>,
}
