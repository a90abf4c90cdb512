//! Components of variance and what they are held against.

use serde::Serialize;

use super::params::Against;

/// A component of the variance.
#[derive(Clone, Debug, PartialEq, Serialize)]
#[cfg_attr(feature = "openapi", derive(utoipa::ToSchema))]
#[cfg_attr(feature = "openapi", schema(as = GaugeComponent))]
pub struct Component {
    /// What it comes from.
    pub source: &'static str,
    /// Its variance.
    pub variance: f64,
    /// Its part of the whole variance; null when nothing varies.
    pub contribution: Option<f64>,
    /// Its sd.
    pub sd: f64,
    /// So many sds.
    pub study_variation: f64,
    /// Its sd over that of the whole; null when nothing varies.
    pub pct_study: Option<f64>,
    /// So many sds over the tolerance; null without limits.
    pub pct_tolerance: Option<f64>,
    /// Its sd over that of the process; null when that is not known.
    pub pct_process: Option<f64>,
}

impl Component {
    /// A component beside the whole variance, with the room that so many sds may take.
    pub fn new(source: &'static str, variance: f64, total: f64, against: &Against, room: Option<f64>) -> Component {
        let sd = variance.sqrt();
        let varies = total > 0.0;
        Component {
            source,
            variance,
            contribution: varies.then(|| variance / total),
            sd,
            study_variation: against.multiplier * sd,
            pct_study: varies.then(|| sd / total.sqrt()),
            pct_tolerance: room.map(|room| against.multiplier * sd / room),
            pct_process: against.process_sd.map(|process| sd / process),
        }
    }
}

/// Groups of parts that a gauge tells apart: 1.41 sds of the parts over one of the gauge, rounded down, at least 1; null
/// when the gauge does not vary.
pub fn ndc(part_sd: f64, gauge_sd: f64) -> Option<f64> {
    (gauge_sd > 0.0).then(|| (1.41 * part_sd / gauge_sd).floor().max(1.0))
}
