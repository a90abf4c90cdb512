//! What a gauge study computes, in the shape of its contract.

use serde::Serialize;

use super::range::RangeMethod;
use acorn_maths::words::ValueFormat;
use acorn_study::gauge::against::Basis;
use acorn_study::gauge::analysis::Line;
use acorn_study::gauge::component::{Component, Spread};
use acorn_study::gauge::operators::Operator;
use acorn_study::gauge::part::Part;

/// What a gauge study computes.
#[derive(Clone, Debug, PartialEq, Serialize, utoipa::ToSchema)]
#[schema(as = GaugeCrossedNumbers)]
pub struct Numbers {
    /// Readings.
    pub n: usize,
    /// Rows without a reading, a part or an operator.
    pub missing: usize,
    /// Rows that name a part and an operator: readings that are or will be.
    pub asked: usize,
    /// Operators who have rows but no reading yet.
    pub unread: Vec<String>,
    /// Most readings of one part by one operator.
    pub trials: usize,
    /// Whether every operator has read every part equally often.
    pub balanced: bool,
    /// Mean of all readings.
    pub mean: f64,
    /// The variance analysis; null when it was not asked for, or when nothing is left to tell repeating from.
    pub anova: Option<Anova>,
    /// The range method; null when it was not asked for, with one reading a cell, or when cells differ in number.
    pub range: Option<RangeMethod>,
    /// What the verdict is held against.
    pub basis: Basis,
    /// The gauge's share of that; null when nothing varies.
    pub share: Option<f64>,
    /// Its 95 % interval; null without one.
    pub share_ci95: Option<[f64; 2]>,
    /// 95 % interval of the gauge's share of everything seen; null without one.
    pub study_ci95: Option<[f64; 2]>,
    /// Groups of parts that the gauge tells apart.
    pub ndc: Option<f64>,
    /// How wide the basis is, in the unit of the measurement; null when nothing varies.
    pub basis_wide: Option<f64>,
    /// Spreads of repeatability, operators, gauge and parts in the unit of the measurement, with their shares of the basis.
    pub spreads: Vec<Spread>,
    /// The parts, lowest mean first, with every reading.
    pub parts: Vec<Part>,
    /// Those readings as they were measured, each by its place among them; empty when they are very many.
    pub in_order: Vec<usize>,
    /// The operators, in order of first appearance.
    pub operators: Vec<Operator>,
    /// Decision limits of a bias; null when there is none to decide.
    pub bias_limits: Option<[f64; 2]>,
    /// Decision limits of an operator's sd.
    pub sd_limits: Option<[f64; 2]>,
    /// What one thing mended would bring.
    pub would_help: Vec<Mended>,
    /// Different values among the readings, when they are few.
    pub distinct: Option<usize>,
    /// Cells all of whose readings are alike.
    pub equal_cells: usize,
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
#[schema(as = GaugeAnova)]
pub struct Anova {
    /// total-gauge, repeatability, reproducibility, operator, operator-part, part, total.
    pub components: Vec<Component>,
    /// part, operator, operator-part, repeatability, total; null without a second operator or a second reading.
    pub with_interaction: Option<Vec<Line>>,
    /// part, operator, repeatability, total.
    pub without_interaction: Vec<Line>,
    /// The chance of so large an interaction.
    pub p_interaction: Option<f64>,
    /// Whether interaction and repeatability are taken together.
    pub pooled: bool,
    /// Components that came out below 0 and were set to 0.
    pub set_to_zero: Vec<&'static str>,
    /// Groups of parts that the gauge tells apart; null when it does not vary.
    pub ndc: Option<f64>,
    /// 95 % interval of the gauge's variance; null where a component of it was set to 0.
    pub ci95: Option<[f64; 2]>,
}

/// What one thing mended would bring.
#[derive(Clone, Copy, Debug, PartialEq, Serialize, utoipa::ToSchema)]
#[schema(as = GaugeMended)]
pub struct Mended {
    /// In words.
    pub what: &'static str,
    /// The gauge's share of everything seen then.
    pub pct_study: Option<f64>,
    /// Its share of the tolerance then.
    pub pct_tolerance: Option<f64>,
    /// Its share of the basis of the verdict then.
    pub share: Option<f64>,
}
