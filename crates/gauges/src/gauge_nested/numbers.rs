//! What a nested gauge study computes, in the shape of its contract.

use serde::Serialize;

use acorn_maths::words::ValueFormat;
use acorn_study::gauge::against::Basis;
use acorn_study::gauge::analysis::Line;
use acorn_study::gauge::component::{Component, Spread};
use acorn_study::gauge::operators::Operator;
use acorn_study::gauge::part::Part;

/// What a nested gauge study computes.
#[derive(Clone, Debug, PartialEq, Serialize, utoipa::ToSchema)]
#[schema(as = GaugeNestedNumbers)]
pub struct Numbers {
    /// Readings.
    pub n: usize,
    /// Rows without a reading, a part or an operator.
    pub missing: usize,
    /// Operators who have rows but no reading yet.
    pub unread: Vec<String>,
    /// Readings of a part.
    pub trials: usize,
    /// Mean of all readings.
    pub mean: f64,
    /// The variance analysis.
    pub anova: NestedAnova,
    /// What the verdict is held against.
    pub basis: Basis,
    /// The gauge's share of that; null when nothing varies.
    pub share: Option<f64>,
    /// Its 95 % interval; null without one.
    pub share_ci95: Option<[f64; 2]>,
    /// Groups of parts that the gauge tells apart.
    pub ndc: Option<f64>,
    /// How wide the basis is, in the unit of the measurement; null when nothing varies.
    pub basis_wide: Option<f64>,
    /// Spreads of repeatability, operators, gauge and parts, with their shares of the basis.
    pub spreads: Vec<Spread>,
    /// The parts, operator after operator, lowest mean first.
    pub parts: Vec<Part>,
    /// The operators, in order of first appearance.
    pub operators: Vec<Operator>,
    /// Decision limits of a bias; null when there is none to decide.
    pub bias_limits: Option<[f64; 2]>,
    /// Decision limits of an operator's sd.
    pub sd_limits: Option<[f64; 2]>,
    /// Lower specification limit.
    pub lsl: Option<f64>,
    /// Upper specification limit.
    pub usl: Option<f64>,
    /// The room that the spread is held against, when that is a tolerance.
    pub tolerance: Option<f64>,
    /// Sds in a study variation.
    pub multiplier: f64,
    /// How readings are written.
    pub writer: ValueFormat,
}

/// The variance analysis.
#[derive(Clone, Debug, PartialEq, Serialize, utoipa::ToSchema)]
#[schema(as = GaugeNestedAnova)]
pub struct NestedAnova {
    /// operator, part, repeatability, total.
    pub table: Vec<Line>,
    /// total-gauge, repeatability, reproducibility, part, total.
    pub components: Vec<Component>,
    /// Components that came out below 0 and were set to 0.
    pub set_to_zero: Vec<&'static str>,
    /// Groups of parts that the gauge tells apart; null when it does not vary.
    pub ndc: Option<f64>,
}
