//! What is asked about what was counted.

use serde::Deserialize;

use acorn_data::frame::Column;

/// Where one may ask which is more.
pub const SAMPLES: [&str; 4] = ["counts", "two", "column", "power"];

/// Where nothing is counted yet.
pub const PLANS: [&str; 3] = ["margin", "power", "passes"];

/// What is asked about the claim, or about the first of two samples.
#[derive(Clone, Copy, Debug, Default, PartialEq, Eq, Deserialize)]
#[serde(rename_all = "kebab-case")]
pub enum Alternative {
    /// Whether it is another one, either way.
    #[default]
    NotEqual,
    /// Whether it is less.
    Less,
    /// Whether it is more.
    Greater,
}

/// What is counted.
#[derive(Clone, Copy, Debug, Default, PartialEq, Eq, Deserialize)]
#[serde(rename_all = "kebab-case")]
pub enum Counting {
    /// Pieces that pass or fail.
    #[default]
    Pieces,
    /// Defects, of which a piece may have several.
    Defects,
}

/// What was counted in one sample.
#[derive(Clone, Debug, PartialEq)]
pub struct Sample {
    /// What it is called; empty of the only one.
    pub label: String,
    /// A whole count.
    pub x: f64,
    /// Of pieces: how many, at least `x` and 1. Of defects: how much was looked at, above 0.
    pub of: f64,
}

/// Something was counted.
pub struct Counted<'f> {
    pub counting: Counting,
    /// One or two.
    pub samples: Vec<Sample>,
    /// Rows without a label or a number.
    pub missing: usize,
    pub claim: Option<f64>,
    pub alternative: Alternative,
    /// The column and, of labels, the one that counts.
    pub column: Option<(&'f Column, Option<String>)>,
    /// A column that was to part it in two and has another number of labels.
    pub many: Option<(&'f Column, usize)>,
}
