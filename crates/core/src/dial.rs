//! The dial: one characteristic at a glance.

use serde::Serialize;

/// What a dial shows.
#[derive(Clone, Debug, PartialEq, Serialize)]
#[cfg_attr(feature = "openapi", derive(utoipa::ToSchema))]
pub struct Dial {
    /// Mean of all values; null without values.
    pub mean: Option<f64>,
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
    /// No signal on any panel.
    pub steady: bool,
}
