//! What a screening consists of.

use serde::Serialize;

pub use super::strength::Kind;
use acorn_maths::words::ValueFormat;
use acorn_study::NextQuestion;

/// What a screening consists of.
#[derive(Clone, Debug, PartialEq, Serialize, utoipa::ToSchema)]
#[schema(as = ScreeningNumbers)]
pub struct Numbers {
    /// What is to be explained.
    pub subject: String,
    /// Rows that have it.
    pub n: usize,
    /// Its labels with their rows; empty of a measurement.
    pub labels: Vec<LabelCount>,
    /// Of two labels the one whose rows are looked for.
    pub marked: Option<String>,
    /// Every column that was tried, the one that explains most first.
    pub results: Vec<Found>,
    /// Columns that could not be tried.
    pub skipped: Vec<Skipped>,
    /// How often the rows were shuffled.
    pub shuffles: usize,
    /// Rows that were shuffled: all, or a sample of them.
    pub shuffled: usize,
    /// Columns found beyond chance that go with each other.
    pub entangled: Vec<Entangled>,
    /// How the measurement is written; null of labels.
    pub writer: Option<ValueFormat>,
}

/// A label with its rows.
#[derive(Clone, Debug, PartialEq, Serialize, utoipa::ToSchema)]
#[schema(as = ScreeningLabelCount)]
pub struct LabelCount {
    /// The label.
    pub label: String,
    /// Its rows.
    pub n: usize,
}

/// A column that was tried.
#[derive(Clone, Debug, PartialEq, Serialize, utoipa::ToSchema)]
#[schema(as = ScreeningFound)]
pub struct Found {
    /// The column.
    pub column: String,
    /// Which measure fits; null when nothing could be measured.
    pub kind: Option<Kind>,
    /// Rows with both.
    pub n: usize,
    /// The part explained; null when either does not vary over these rows.
    pub explained: Option<f64>,
    /// The same without what chance adds for each label.
    pub adjusted: Option<f64>,
    /// The chance of as much, of this column alone.
    pub p: Option<f64>,
    /// The chance that the best of all columns does as well.
    pub p_screen: Option<f64>,
    /// Whether that is beyond chance.
    pub beyond: bool,
    /// The label that holds too many of the rows in question.
    pub over: Option<Over>,
    /// A small picture.
    pub picture: Picture,
    /// The full study; null where there is none.
    pub study: Option<NextQuestion>,
}

/// A label that is over-represented.
#[derive(Clone, Debug, PartialEq, Serialize, utoipa::ToSchema)]
#[schema(as = ScreeningOver)]
pub struct Over {
    /// The label.
    pub label: String,
    /// Rows in question that have it.
    pub count: usize,
    /// All rows that have it.
    pub of: usize,
    /// Its share of the rows in question.
    pub share: f64,
    /// Its share of all rows.
    pub share_of_all: f64,
    /// The exact chance of so many, adjusted for the number of labels.
    pub p: f64,
}

/// A small picture of how two columns go together, on scales from 0 to 1.
#[derive(Clone, Debug, PartialEq, Serialize, utoipa::ToSchema)]
#[schema(as = ScreeningPicture)]
#[serde(tag = "picture", rename_all = "kebab-case")]
pub enum Picture {
    /// Some of the points.
    Points {
        /// Along the column, and up what is to be explained.
        points: Vec<[f64; 2]>,
    },
    /// A mean or a share for each of the largest labels.
    Levels {
        /// Where the whole lies.
        all: f64,
        /// The labels.
        levels: Vec<Level>,
    },
    /// Nothing to draw.
    None,
}

/// A label in a picture.
#[derive(Clone, Debug, PartialEq, Serialize, utoipa::ToSchema)]
#[schema(as = ScreeningLevel)]
pub struct Level {
    /// The label.
    pub label: String,
    /// Rows.
    pub n: usize,
    /// Its mean or share.
    pub at: f64,
}

/// A column that could not be tried.
#[derive(Clone, Debug, PartialEq, Serialize, utoipa::ToSchema)]
#[schema(as = ScreeningSkipped)]
pub struct Skipped {
    /// The column.
    pub column: String,
    /// Why.
    pub why: String,
}

/// Two columns that go with each other.
#[derive(Clone, Debug, PartialEq, Serialize, utoipa::ToSchema)]
#[schema(as = ScreeningEntangled)]
pub struct Entangled {
    /// One.
    pub a: String,
    /// The other.
    pub b: String,
    /// How much of one the other explains.
    pub explained: f64,
}
