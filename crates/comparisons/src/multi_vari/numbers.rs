//! What a multi-vari study consists of, in the shape of its contract.

use serde::Serialize;

pub use super::arrangement::Arrangement;
use acorn_maths::words::ValueFormat;

/// What a multi-vari study consists of.
#[derive(Clone, Debug, PartialEq, Serialize, utoipa::ToSchema)]
#[schema(as = MultiVariNumbers)]
pub struct Numbers {
    /// Values.
    pub n: usize,
    /// Rows without a value or a label.
    pub missing: usize,
    /// The mean of all.
    pub mean: f64,
    /// Smallest and largest.
    pub extent: [f64; 2],
    /// The largest distance of two values within a cell; of cells with one value each, within the groups that hold them.
    pub widest: f64,
    /// Whether each cell has one value, so that spread is that of the groups that hold them.
    pub single: bool,
    /// How many combinations of levels there are.
    pub total: usize,
    /// Those in sight, in the order of their levels; empty when they are too many to be drawn one by one.
    pub cells: Vec<Cell>,
    /// Neighbouring cells together, when they are many.
    pub bands: Vec<Band>,
    /// The groups in sight of each factor but the innermost; none of a factor that has too many.
    pub groups: Vec<Vec<Group>>,
    /// What each factor adds, outermost first, then what is left within.
    pub families: Vec<Family>,
    /// The same without what the labels of a crossed factor do everywhere; null when no factor does.
    pub without: Option<Without>,
    /// The largest family, by name; null when nothing varies.
    pub dominant: Option<String>,
    /// The factors, outermost first.
    pub factors: Vec<Factor>,
    /// Levels that stand out.
    pub standouts: Vec<Standout>,
    /// What the gauge has of the innermost family.
    pub measuring: Option<Measured>,
    /// How values are written.
    pub writer: ValueFormat,
}

/// A combination of levels.
#[derive(Clone, Debug, PartialEq, Serialize, utoipa::ToSchema)]
#[schema(as = MultiVariCell)]
pub struct Cell {
    /// Its number, from 0.
    pub at: usize,
    /// Its labels, outermost first.
    pub levels: Vec<String>,
    /// Values.
    pub n: usize,
    /// Their mean.
    pub mean: f64,
    /// Their sd; null below two.
    pub sd: Option<f64>,
    /// Smallest.
    pub low: f64,
    /// Largest.
    pub high: f64,
    /// The values, when they are few enough to be drawn one by one.
    pub values: Vec<f64>,
}

/// Neighbouring cells.
#[derive(Clone, Copy, Debug, PartialEq, Serialize, utoipa::ToSchema)]
#[schema(as = MultiVariBand)]
pub struct Band {
    /// First cell.
    pub first: usize,
    /// Last cell.
    pub last: usize,
    /// The mean of their values.
    pub mean: f64,
    /// Smallest mean of a cell.
    pub low_mean: f64,
    /// Largest mean of a cell.
    pub high_mean: f64,
    /// Smallest value.
    pub low: f64,
    /// Largest value.
    pub high: f64,
    /// The largest distance of two values within a cell.
    pub widest: f64,
}

/// A level of a factor within its parent.
#[derive(Clone, Debug, PartialEq, Serialize, utoipa::ToSchema)]
#[schema(as = MultiVariGroup)]
pub struct Group {
    /// Its label.
    pub label: String,
    /// First cell.
    pub first: usize,
    /// Last cell.
    pub last: usize,
    /// The place of its parent among all groups of the factor before.
    pub parent: usize,
    /// The mean of its values.
    pub mean: f64,
    /// Smallest value.
    pub low: f64,
    /// Largest value.
    pub high: f64,
}

/// What a factor adds to the variation.
#[derive(Clone, Debug, PartialEq, Serialize, utoipa::ToSchema)]
#[schema(as = MultiVariFamily)]
pub struct Family {
    /// The name of the factor, or "within".
    pub name: String,
    /// Degrees of freedom; without any it cannot be told.
    pub df: f64,
    /// Sum of squares.
    pub ss: f64,
    /// Its component of variance, not below 0.
    pub variance: f64,
    /// The root of it.
    pub sd: f64,
    /// Its share of all components.
    pub share: f64,
    /// 95 % interval of the share.
    pub share_ci95: Option<[f64; 2]>,
    /// The chance of so large a mean square when it adds nothing.
    pub p: Option<f64>,
    /// How often it would come out as the largest.
    pub largest: f64,
}

/// The families without what a crossed factor does everywhere.
#[derive(Clone, Debug, PartialEq, Serialize, utoipa::ToSchema)]
#[schema(as = MultiVariWithout)]
pub struct Without {
    /// The factor.
    pub factor: String,
    /// What is left, outermost first.
    pub families: Vec<Family>,
}

/// A factor.
#[derive(Clone, Debug, PartialEq, Serialize, utoipa::ToSchema)]
#[schema(as = MultiVariFactor)]
pub struct Factor {
    /// Its name.
    pub name: String,
    /// Different labels.
    pub labels: usize,
    /// Groups that it makes within those before it.
    pub groups: usize,
    /// How it lies to those before it.
    pub arrangement: Arrangement,
    /// Of a crossed one, the part of its sum of squares that its labels make alike under every parent.
    pub alike: Option<f64>,
    /// The chance of that.
    pub alike_p: Option<f64>,
    /// The label that lies highest and the one that lies lowest, when labels are alike beyond chance.
    pub ends: Option<[LabelEffect; 2]>,
}

/// How far the groups of a label lie from their parents.
#[derive(Clone, Debug, PartialEq, Serialize, utoipa::ToSchema)]
#[schema(as = MultiVariLabelEffect)]
pub struct LabelEffect {
    /// The label.
    pub label: String,
    /// How far, on average.
    pub effect: f64,
}

/// A level that stands out.
#[derive(Clone, Debug, PartialEq, Serialize, utoipa::ToSchema)]
#[schema(as = MultiVariStandout)]
pub struct Standout {
    /// Its labels, outermost first.
    pub levels: Vec<String>,
    /// First cell.
    pub first: usize,
    /// Last cell.
    pub last: usize,
    /// Its mean less that of the others; null when it does not stand out in height.
    pub apart: Option<f64>,
    /// The sd of what lies inside over that of the others; null when it is like theirs.
    pub spread: Option<f64>,
    /// The smaller of both chances, for all levels of the factor together.
    pub p: f64,
}

/// What the gauge has of the innermost family.
#[derive(Clone, Debug, PartialEq, Serialize, utoipa::ToSchema)]
#[schema(as = MultiVariMeasured)]
pub struct Measured {
    /// The gauge.
    pub gauge: String,
    /// The day of its study.
    pub day: String,
    /// Its sd.
    pub sd: f64,
    /// The family that holds it.
    pub family: String,
    /// Its variance over that of the family, at most 1.
    pub share: f64,
    /// Its variance over all of the variation, at most 1.
    pub of_all: f64,
}
