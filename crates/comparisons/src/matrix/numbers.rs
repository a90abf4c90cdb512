//! What a matrix of correlations consists of, in the shape of its contract.

use serde::Serialize;

use acorn_data::figure::even_bars::EvenBars;
use acorn_maths::words::ValueFormat;

/// What a matrix of correlations consists of: for each pair of columns, by their places, null where there is no number.
#[derive(Clone, Debug, PartialEq, Serialize, utoipa::ToSchema)]
#[schema(as = MatrixNumbers)]
pub struct Numbers {
    /// The columns.
    pub columns: Vec<Column>,
    /// Rows with both values; on the diagonal those with a value.
    pub n: Vec<Vec<usize>>,
    /// Pearson's r; 1 on the diagonal, null when either does not vary.
    pub pearson: Vec<Vec<Option<f64>>>,
    /// Its 95 % interval.
    pub ci95: Vec<Vec<Option<[f64; 2]>>>,
    /// Its chance.
    pub p: Vec<Vec<Option<f64>>>,
    /// Its chance for all pairs together.
    pub p_holm: Vec<Vec<Option<f64>>>,
    /// Whether that is beyond chance.
    pub flagged: Vec<Vec<bool>>,
    /// Spearman's r.
    pub spearman: Vec<Vec<Option<f64>>>,
    /// Some rows, column by column, to draw.
    pub sample: Vec<Vec<Option<f64>>>,
    /// The method of the scatter of a pair.
    pub opens: &'static str,
}

/// A column.
#[derive(Clone, Debug, PartialEq, Serialize, utoipa::ToSchema)]
#[schema(as = MatrixColumn)]
pub struct Column {
    /// Its name.
    pub name: String,
    /// How its values are written.
    pub writer: ValueFormat,
    /// How it is spread.
    pub bars: EvenBars,
}
