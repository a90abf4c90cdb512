//! A simulated model, in the shape of its contract.

use serde::Serialize;

use crate::model::stack::Stack;
use crate::model::{Goal, Sampling};
use acorn_data::figure::histogram::Bin;
use acorn_data::formula::Notation;
use acorn_maths::words::ValueFormat;
use acorn_study::Tone;
use acorn_study::dial::Dial;

/// What a simulation tells.
#[derive(Clone, Debug, Serialize, utoipa::ToSchema)]
#[schema(as = SimulationNumbers)]
pub struct Numbers {
    /// Draws.
    pub draws: usize,
    /// What they start from.
    pub seed: u64,
    /// How they are spread.
    pub sampling: Sampling,
    /// What is drawn: the inputs in their order, then the controls that are not held exactly.
    pub inputs: Vec<InputNumbers>,
    /// The settings.
    pub controls: Vec<ControlNumbers>,
    /// The responses in their order.
    pub responses: Vec<ResponseNumbers>,
    /// The named parts of the model, in the order in which they first appear.
    pub parts: Vec<String>,
    /// What the spread of each input is multiplied by in the lines of `tightening`; empty when not asked for.
    pub scales: Vec<f64>,
    /// The cheapest tightening found that reaches a goal.
    pub cheapest: Option<CheapestNumbers>,
    /// Settings that do better.
    pub search: Option<SearchNumbers>,
}

/// Something that is drawn.
#[derive(Clone, Debug, Serialize, utoipa::ToSchema)]
#[schema(as = SimulationInput)]
pub struct InputNumbers {
    /// Its name.
    pub name: String,
    /// Its unit.
    pub unit: String,
    /// Its part of the model.
    pub part: String,
    /// How it is distributed, in words.
    pub words: String,
    /// Mean of the distribution; null where there is none.
    pub mean: Option<f64>,
    /// Its sd; null where there is none.
    pub sd: Option<f64>,
    /// Values below which shares of it lie.
    pub percentiles: Vec<Percentile>,
    /// Its density; empty for data and constants.
    pub curve: Vec<DensityPoint>,
    /// Bars of data.
    pub bars: Vec<Bin>,
    /// The column behind it.
    pub column: Option<String>,
    /// Values that it rests on.
    pub n: Option<usize>,
    /// The control whose setting it is.
    pub control: Option<String>,
    /// What its spread was multiplied by.
    pub spread: f64,
    /// How its values are written.
    pub writer: ValueFormat,
}

/// A setting.
#[derive(Clone, Debug, Serialize, utoipa::ToSchema)]
#[schema(as = SimulationControl)]
pub struct ControlNumbers {
    /// Its name.
    pub name: String,
    /// Its unit.
    pub unit: String,
    /// Its part of the model.
    pub part: String,
    /// What it is set to.
    pub value: f64,
    /// How it is set, in words.
    pub words: String,
}

/// A value below which a share lies.
#[derive(Clone, Copy, Debug, Serialize, utoipa::ToSchema)]
pub struct Percentile {
    /// The share.
    pub share: f64,
    /// The value.
    pub value: f64,
}

/// A point of a density.
#[derive(Clone, Copy, Debug, Serialize, utoipa::ToSchema)]
pub struct DensityPoint {
    /// The value.
    pub value: f64,
    /// The density there.
    pub density: f64,
}

/// Draws out of the limits.
#[derive(Clone, Copy, Debug, Serialize, utoipa::ToSchema)]
#[schema(as = SimulatedOut)]
pub struct Out {
    /// The share below LSL; null without one.
    pub below: Option<f64>,
    /// The share above USL; null without one.
    pub above: Option<f64>,
    /// Both together.
    pub total: f64,
    /// The standard error of the total, which more draws make smaller.
    pub error: f64,
    /// The 95 % interval of the total.
    pub ci95: [f64; 2],
}

/// What share of a response's variance an input makes.
#[derive(Clone, Debug, Serialize, utoipa::ToSchema)]
#[schema(as = VarianceShare)]
pub struct ShareNumbers {
    /// The input.
    pub name: String,
    /// By itself.
    pub first: f64,
    /// Its standard error.
    pub first_error: f64,
    /// With all it does together with others.
    pub total: f64,
    /// Its standard error.
    pub total_error: f64,
}

/// What scaling the spread of an input does.
#[derive(Clone, Debug, Serialize, utoipa::ToSchema)]
#[schema(as = TighteningLine)]
pub struct LineNumbers {
    /// The input.
    pub name: String,
    /// The sd of the response at each scale.
    pub sd: Vec<f64>,
    /// Its share out at each scale; null without limits.
    pub out: Option<Vec<f64>>,
}

/// Something that follows.
#[derive(Clone, Debug, Serialize, utoipa::ToSchema)]
#[schema(as = SimulationResponse)]
pub struct ResponseNumbers {
    /// Its name.
    pub name: String,
    /// Its unit.
    pub unit: String,
    /// Its part of the model.
    pub part: String,
    /// Its formula as a textbook writes it.
    pub notation: Notation,
    /// The names that it takes directly.
    pub takes: Vec<String>,
    /// Mean; null when no draw gives a number.
    pub mean: Option<f64>,
    /// Standard error of the mean.
    pub mean_error: Option<f64>,
    /// Sd.
    pub sd: Option<f64>,
    /// The smallest draw.
    pub low: Option<f64>,
    /// The largest draw.
    pub high: Option<f64>,
    /// Draws that give no finite number.
    pub undefined: usize,
    /// Values below which shares lie.
    pub percentiles: Vec<Percentile>,
    /// Lower limit.
    pub lsl: Option<f64>,
    /// Target.
    pub target: Option<f64>,
    /// Upper limit.
    pub usl: Option<f64>,
    /// Draws out of the limits; null without limits.
    pub out: Option<Out>,
    /// Pp; null without both limits or without spread.
    pub pp: Option<f64>,
    /// Ppk; null without limits or without spread.
    pub ppk: Option<f64>,
    /// Bars over most of the draws.
    pub bars: Vec<Bin>,
    /// Draws beyond the bars, on the left and on the right.
    pub beyond: [usize; 2],
    /// Shares of its variance, in the order of the inputs; null when not asked for or when nothing varies.
    pub shares: Option<Vec<ShareNumbers>>,
    /// What scaling each input does, in the order of the inputs; null when not asked for.
    pub tightening: Option<Vec<LineNumbers>>,
    /// Worst-case and root-sum-square stacks; null where it is no sum.
    pub stack: Option<Stack>,
    /// How good the news is; unsure without limits.
    pub tone: Tone,
    /// What its units make doubtful.
    pub unit_doubts: Vec<String>,
    /// The dial.
    pub dial: Dial,
    /// How its values are written.
    pub writer: ValueFormat,
}

/// The cheapest tightening found that reaches a goal.
#[derive(Clone, Debug, Serialize, utoipa::ToSchema)]
#[schema(as = CheapestTightening)]
pub struct CheapestNumbers {
    /// The share out asked for.
    pub goal: f64,
    /// Whether it is reached.
    pub reached: bool,
    /// The share out of the worst response that is left.
    pub out: f64,
    /// What it costs in all.
    pub cost: f64,
    /// Inputs with what their spread is multiplied by; those that stay are left out.
    pub set: Vec<Scaled>,
}

/// An input with what its spread is multiplied by.
#[derive(Clone, Debug, Serialize, utoipa::ToSchema)]
pub struct Scaled {
    /// The input.
    pub name: String,
    /// The factor.
    pub scale: f64,
}

/// A setting that was found.
#[derive(Clone, Debug, Serialize, utoipa::ToSchema)]
#[schema(as = FoundSetting)]
pub struct Setting {
    /// The control.
    pub name: String,
    /// The setting.
    pub value: f64,
    /// What it was.
    pub was: f64,
    /// The lowest that was searched.
    pub low: f64,
    /// The highest that was searched.
    pub high: f64,
    /// Whether it lies on an end of its range: −1 the lowest, 1 the highest, 0 neither.
    pub border: i8,
    /// Where it may lie, the others as found, giving up at most a tenth of what was gained.
    pub slack: [f64; 2],
    /// How its values are written.
    pub writer: ValueFormat,
}

/// A response before or after a search.
#[derive(Clone, Debug, Serialize, utoipa::ToSchema)]
#[schema(as = SearchedResponse)]
pub struct Judged {
    /// The response.
    pub name: String,
    /// Mean.
    pub mean: f64,
    /// Sd.
    pub sd: f64,
    /// Total share out; null without limits.
    pub out: Option<f64>,
    /// Ppk; null without limits or spread.
    pub ppk: Option<f64>,
}

/// Settings that do better.
#[derive(Clone, Debug, Serialize, utoipa::ToSchema)]
#[schema(as = SettingsSearch)]
pub struct SearchNumbers {
    /// What it aims at.
    pub goal: Goal,
    /// The settings found, in the order of their ranges.
    pub best: Vec<Setting>,
    /// The first response that counts, as it is.
    pub before: Judged,
    /// The same with the settings found.
    pub after: Judged,
    /// Every response as it is.
    pub responses_before: Vec<Judged>,
    /// The same with the settings found.
    pub responses_after: Vec<Judged>,
    /// How many settings were tried.
    pub tried: usize,
    /// Whether they do better than the settings as they are.
    pub better: bool,
}
