//! Components of variance and what they are held against.

use serde::Serialize;

use super::against::Against;
use super::analysis::display_text;
use crate::Table;
use acorn_maths::words::ValueFormat;

/// A component of the variance.
#[derive(Clone, Debug, PartialEq, Serialize, utoipa::ToSchema)]
#[schema(as = GaugeComponent)]
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

/// A spread in the unit of the measurement.
#[derive(Clone, Copy, Debug, PartialEq, Serialize, utoipa::ToSchema)]
#[schema(as = GaugeSpread)]
pub struct Spread {
    /// `repeatability`, `operators`, `gauge` or `parts`.
    pub source: &'static str,
    /// So many sds.
    pub wide: f64,
    /// Its share of the basis.
    pub share: Option<f64>,
}

/// The spreads of repeatability, operators, gauge and parts.
pub fn spreads([repeat, operators, gauge, part]: [f64; 4], against: &Against, room: Option<f64>) -> Vec<Spread> {
    let of = [("repeatability", repeat), ("operators", operators), ("gauge", gauge), ("parts", part)];
    let spread = |(source, variance): (&'static str, f64)| Spread {
        source,
        wide: against.multiplier * variance.sqrt(),
        share: against.share(room, variance, gauge + part),
    };
    of.map(spread).to_vec()
}

/// The components as a person reads them; numbers are explained by the formulas `components`, `study-variation`, `tolerance`.
pub fn table(components: &[Component], writer: &ValueFormat) -> Table {
    let (fine, percent) = (writer.finer(), ValueFormat::percent(1));
    let each = || components.iter();
    let any = |of: fn(&Component) -> Option<f64>| components.iter().any(|one| of(one).is_some());
    let mut table = Table::new("components", "Components")
        .texts("source", each().map(|one| Some(display_text(one.source).to_owned())))
        .numbers("contribution", Some(&percent), Some("components"), each().map(|one| one.contribution))
        .numbers("sd", Some(&fine), Some("components"), each().map(|one| Some(one.sd)))
        .numbers("% study", Some(&percent), Some("study-variation"), each().map(|one| one.pct_study));
    if any(|one| one.pct_tolerance) {
        table = table.numbers("% tolerance", Some(&percent), Some("tolerance"), each().map(|one| one.pct_tolerance));
    }
    if any(|one| one.pct_process) {
        table = table.numbers("% process", Some(&percent), Some("study-variation"), each().map(|one| one.pct_process));
    }
    table
}
