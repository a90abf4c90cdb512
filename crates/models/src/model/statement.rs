//! A model as it stands in a statement.

use serde::{Deserialize, Serialize};
use serde_json::{Map, Value};

use acorn_study::StudyError;
use acorn_study::reading::bad;

/// Something that varies and that the plant cannot set.
#[derive(Clone, Debug, PartialEq, Serialize, Deserialize)]
#[serde(deny_unknown_fields)]
pub struct Input {
    /// Its name, unique in the model.
    pub name: String,
    /// Its unit.
    #[serde(default)]
    pub unit: String,
    /// The part of the model that it belongs to.
    #[serde(default)]
    pub part: String,
    /// How it is distributed, by name.
    pub distribution: String,
    /// The parameters of that distribution; absent to take them from the column.
    #[serde(default)]
    pub parameters: Map<String, Value>,
    /// The column that it is taken from.
    #[serde(default)]
    pub column: Option<String>,
    /// The dataset of that column; absent for the one that the model is about.
    #[serde(default)]
    pub dataset: Option<i64>,
    /// Only so many of the newest values of the column.
    #[serde(default)]
    pub newest: Option<usize>,
    /// What its spread about its mean is multiplied by.
    #[serde(default)]
    pub spread: Option<f64>,
    /// What one step of tightening costs, a tenth of its spread.
    #[serde(default)]
    pub cost: Option<f64>,
}

/// Something that the plant sets.
#[derive(Clone, Debug, PartialEq, Serialize, Deserialize)]
#[serde(deny_unknown_fields)]
pub struct Control {
    /// Its name, unique in the model.
    pub name: String,
    /// Its unit.
    #[serde(default)]
    pub unit: String,
    /// The part of the model that it belongs to.
    #[serde(default)]
    pub part: String,
    /// What it is set to.
    pub value: f64,
    /// The sd with which the setting is held; absent for exactly.
    #[serde(default)]
    pub sd: Option<f64>,
    /// The lowest setting.
    #[serde(default)]
    pub low: Option<f64>,
    /// The highest setting.
    #[serde(default)]
    pub high: Option<f64>,
    /// The step between settings, counted from the lowest; absent for any.
    #[serde(default)]
    pub step: Option<f64>,
}

/// Something that follows from the others.
#[derive(Clone, Debug, PartialEq, Serialize, Deserialize)]
#[serde(deny_unknown_fields)]
pub struct Response {
    /// Its name, unique in the model.
    pub name: String,
    /// Its unit.
    #[serde(default)]
    pub unit: String,
    /// The part of the model that it belongs to.
    #[serde(default)]
    pub part: String,
    /// How it follows.
    pub formula: String,
    /// Lower specification limit.
    #[serde(default)]
    pub lsl: Option<f64>,
    /// Target.
    #[serde(default)]
    pub target: Option<f64>,
    /// Upper specification limit.
    #[serde(default)]
    pub usl: Option<f64>,
}

/// Two inputs that go together.
#[derive(Clone, Debug, PartialEq, Serialize, Deserialize)]
#[serde(deny_unknown_fields)]
pub struct Correlation {
    /// The one.
    pub a: String,
    /// The other.
    pub b: String,
    /// Pearson's r of the normals behind them.
    pub r: f64,
}

/// What a search of settings aims at.
#[derive(Clone, Copy, Debug, PartialEq, Eq, Serialize, Deserialize, utoipa::ToSchema)]
#[serde(rename_all = "kebab-case")]
pub enum Goal {
    /// The least share out of the limits.
    LeastOut,
    /// The largest Ppk; of several responses, of the worst.
    LargestPpk,
    /// The least mean squared distance from the target.
    Target,
}

/// A response that counts in a search.
#[derive(Clone, Debug, PartialEq, Serialize, Deserialize)]
#[serde(deny_unknown_fields)]
pub struct Weighed {
    /// Its name.
    pub name: String,
    /// How much it counts.
    #[serde(default = "one")]
    pub weight: f64,
    /// Its target, when not its own.
    #[serde(default)]
    pub target: Option<f64>,
}

fn one() -> f64 {
    1.0
}

/// The range of a setting to be searched.
#[derive(Clone, Debug, PartialEq, Serialize, Deserialize)]
#[serde(deny_unknown_fields)]
pub struct Range {
    /// The control.
    pub name: String,
    /// The lowest setting.
    pub low: f64,
    /// The highest setting.
    pub high: f64,
    /// The step between settings, counted from the lowest; absent for any.
    #[serde(default)]
    pub step: Option<f64>,
}

/// A search of settings.
#[derive(Clone, Debug, PartialEq, Serialize, Deserialize)]
#[serde(deny_unknown_fields)]
pub struct Search {
    /// What it aims at.
    pub goal: Goal,
    /// The response it is about, when it is one.
    #[serde(default)]
    pub response: Option<String>,
    /// Its target, when not its own.
    #[serde(default)]
    pub target: Option<f64>,
    /// The responses it is about, when they are several.
    #[serde(default)]
    pub responses: Vec<Weighed>,
    /// The ranges to search; absent for those of the controls themselves.
    #[serde(default)]
    pub controls: Vec<Range>,
}

/// What tightening pays.
#[derive(Clone, Debug, PartialEq, Serialize, Deserialize)]
#[serde(deny_unknown_fields)]
pub struct Tightening {
    /// What the spread of an input is multiplied by, one after another.
    #[serde(default = "scales")]
    pub scales: Vec<f64>,
    /// The share out to be reached at the least cost.
    #[serde(default)]
    pub goal: Option<f64>,
}

fn scales() -> Vec<f64> {
    (0..=8).map(|step| f64::from(step) * 0.25).collect()
}

/// Most inputs, controls and responses each.
pub const MANY: usize = 200;
/// Most correlations.
pub const CORRELATIONS_MOST: usize = 1000;
/// Most scales of tightening.
pub const SCALES_MOST: usize = 41;
/// Most characters of a name.
pub const NAME_MOST: usize = 100;

/// What of the statement an option is; an error in words when it cannot be read.
pub fn read<T: for<'d> Deserialize<'d>>(option: &str, given: &Value) -> Result<T, StudyError> {
    T::deserialize(given).map_err(|error| bad(option, said(&error.to_string())))
}

/// As the reader of JSON says it, without its places in a text that nobody sees.
fn said(problem: &str) -> String {
    problem.split(" at line ").next().unwrap_or(problem).replace('`', "“").replacen("“,", "”,", 1)
}
