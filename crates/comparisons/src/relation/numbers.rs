//! What a relation consists of, in the shape of its contract.

use serde::Serialize;

use acorn_data::figure::even_bars::EvenBars;
use acorn_maths::words::ValueFormat;

/// What a relation consists of.
#[derive(Clone, Debug, PartialEq, Serialize, utoipa::ToSchema)]
#[schema(as = RelationNumbers)]
pub struct Numbers {
    /// Pairs.
    pub n: usize,
    /// Rows without a partner.
    pub missing: usize,
    /// Pearson's r; null when either does not vary.
    pub pearson: Option<f64>,
    /// Its 95 % interval.
    pub ci95: Option<[f64; 2]>,
    /// Its chance.
    pub p: Option<f64>,
    /// Spearman's r.
    pub spearman: Option<f64>,
    /// Its 95 % interval.
    pub spearman_ci95: Option<[f64; 2]>,
    /// The fit; null when there is none.
    pub fit: Option<FitNumbers>,
    /// The points, when they are few enough to be drawn one by one; else those that nearly stand alone.
    pub points: Vec<Point>,
    /// How many of the other points lie in each cell, when they are many.
    pub cells: Option<Cells>,
    /// Some of the points that are left out.
    pub left_out: Vec<Point>,
    /// Rows that are left out with their reasons.
    pub reasons: Vec<Reason>,
    /// How x and y are spread, in bars of even width over their range.
    pub bars: [EvenBars; 2],
    /// Each group by itself.
    pub groups: Vec<Group>,
    /// Pearson's r within groups, and its chance.
    pub within: Option<Within>,
    /// The point that moves the fit most, when that is far.
    pub influential: Option<Influential>,
    /// Rows that y is later.
    pub lag: usize,
    /// What x and y are.
    pub names: [String; 2],
    /// How x and y are written.
    pub writers: [ValueFormat; 2],
}

/// A fit.
#[derive(Clone, Debug, PartialEq, Serialize, utoipa::ToSchema)]
#[schema(as = RelationFit)]
pub struct FitNumbers {
    /// Constant first, in powers of x.
    pub coefficients: Vec<f64>,
    /// The part of the variation that it explains.
    pub r2: f64,
    /// The sd about it.
    pub sd: f64,
    /// The fit with both bands along x.
    pub curve: Vec<CurvePoint>,
}

/// The fit at a place.
#[derive(Clone, Copy, Debug, PartialEq, Serialize, utoipa::ToSchema)]
#[schema(as = RelationCurvePoint)]
pub struct CurvePoint {
    /// Where.
    pub x: f64,
    /// How high.
    pub y: f64,
    /// Half of the 95 % interval of the mean there.
    pub mean_reach: f64,
    /// Half of the 95 % interval of one more point there.
    pub point_reach: f64,
}

/// A pair.
#[derive(Clone, Copy, Debug, PartialEq, Serialize, utoipa::ToSchema)]
#[schema(as = RelationPoint)]
pub struct Point {
    /// The id of its row, that of x.
    pub row: i64,
    /// Its x.
    pub x: f64,
    /// Its y.
    pub y: f64,
    /// Its y less the fit.
    pub residual: Option<f64>,
    /// Its group, by place; null without groups.
    pub group: Option<usize>,
}

/// Why rows are left out.
#[derive(Clone, Debug, PartialEq, Serialize, utoipa::ToSchema)]
#[schema(as = RelationReason)]
pub struct Reason {
    /// The reason.
    pub why: String,
    /// Pairs that it takes away.
    pub pairs: usize,
}

/// Counts of points in even cells over the ranges of x and y.
#[derive(Clone, Debug, PartialEq, Serialize, utoipa::ToSchema)]
#[schema(as = RelationCells)]
pub struct Cells {
    /// Cells along x.
    pub across: usize,
    /// Cells along y.
    pub up: usize,
    /// Their counts, from the lowest row of cells up.
    pub counts: Vec<u32>,
}

/// A group by itself.
#[derive(Clone, Debug, PartialEq, Serialize, utoipa::ToSchema)]
#[schema(as = RelationGroup)]
pub struct Group {
    /// Its label.
    pub label: String,
    /// Pairs.
    pub n: usize,
    /// Pearson's r.
    pub pearson: Option<f64>,
    /// Its chance.
    pub p: Option<f64>,
}

/// The relation within groups.
#[derive(Clone, Copy, Debug, PartialEq, Serialize, utoipa::ToSchema)]
#[schema(as = RelationWithin)]
pub struct Within {
    /// Pearson's r of distances from the means of the group.
    pub r: f64,
    /// Its chance.
    pub p: Option<f64>,
}

/// A point that makes the fit.
#[derive(Clone, Copy, Debug, PartialEq, Serialize, utoipa::ToSchema)]
#[schema(as = RelationInfluential)]
pub struct Influential {
    /// The place of its point.
    pub point: usize,
    /// The position of its row, from 0.
    pub at: usize,
    /// The id of its row.
    pub row: i64,
    /// Its leverage.
    pub leverage: f64,
    /// Its Cook's distance.
    pub cook: f64,
    /// Pearson's r without it.
    pub pearson_without: Option<f64>,
    /// Whether it lies apart from the others, along x or from their fit; else it is one of them, and the farthest by chance.
    pub is_apart: bool,
}
