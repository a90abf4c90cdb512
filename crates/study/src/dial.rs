//! The dial: one characteristic at a glance.

use serde::{Deserialize, Serialize};

use crate::outcome::Tone;
use acorn_data::frame::Limits;

/// What a dial is about.
#[derive(Clone, Copy, Debug, Default, PartialEq, Eq, Serialize, Deserialize, utoipa::ToSchema)]
#[serde(rename_all = "kebab-case")]
pub enum DialOf {
    /// Measured values, in their unit.
    #[default]
    Values,
    /// The share of those inspected, from 0 to 1.
    Share,
    /// Events per unit.
    Rate,
    /// Events or pieces, counted.
    Count,
}

/// What a dial shows.
#[derive(Clone, Debug, Default, PartialEq, Serialize, Deserialize, utoipa::ToSchema)]
pub struct Dial {
    /// What it is about.
    pub of: DialOf,
    /// The specification limits that its values are held against.
    pub limits: Limits,
    /// Mean of all values, or the centre line of counts; null without values.
    pub mean: Option<f64>,
    /// Lower control limit of the newest point of counts; null for values and where there is none.
    pub lcl: Option<f64>,
    /// Upper control limit of the newest point of counts.
    pub ucl: Option<f64>,
    /// Short-term sd; null when it cannot be told.
    pub sd_within: Option<f64>,
    /// Ppk: the distance from the mean to the nearer limit in units of three sample sds. Null without
    /// limits or spread.
    pub ppk: Option<f64>,
    /// The newest value.
    pub last: Option<f64>,
    /// The newest values in order; null where missing.
    pub recent: Vec<Option<f64>>,
    /// Which of the recent values lie beyond a limit or complete a pattern.
    pub recent_signals: Vec<usize>,
    /// Signals on all panels.
    pub signals: usize,
    /// Whether nothing moves the process: no more signals than a steady one shows, or what brings them is not a change in time.
    pub steady: bool,
    /// The tone of the chart's verdict; null where nothing was charted.
    #[serde(default)]
    pub tone: Option<Tone>,
    /// Its title.
    #[serde(default)]
    pub title: String,
}
