//! A computed chart in compact form: one number a point and panel, limits by phase.

use std::sync::Arc;

use super::compare::{Comparison, Freshness};
use super::counting::Counting;
use super::explanation::found::Explanation;
use super::kind::ChartKind;
use super::lineup::LineUp;
use super::panel::Panel;
use super::params::LimitSource;
use super::parts::{Chance, Diagnostics, Dispersion};
use super::patterns::RunRule;
use super::plotted::Plotted;
use super::points::Points;
use acorn_maths::describe::Moments;
use acorn_maths::words::{ValueFormat, grouped};
use acorn_study::gauge::share::GaugeShare;

/// A computed chart.
pub struct Chart {
    pub(super) kind: ChartKind,
    /// The plotted panels: location first, then spread.
    pub panels: Vec<Panel>,
    pub(super) points: Points,
    /// The charted columns, by row; empty for counts.
    pub(super) raw: Vec<Arc<[f64]>>,
    /// The process sd: the known one, or that of the newest phase; `None` when it cannot be told.
    pub sigma_within: Option<f64>,
    /// What the gauge makes of it, where that is known.
    pub(super) gauge: Option<GaugeShare>,
    pub(super) width: f64,
    pub(super) run_rules: Vec<RunRule>,
    /// Average points between false alarms; `None` when too rare to tell.
    pub in_control_arl: Option<f64>,
    /// The signals against those of a steady process; `None` without signals, or where points are too many to draw.
    pub chance: Option<Chance>,
    /// What explains the signals, or makes the chart blind.
    pub explanation: Option<Explanation>,
    /// What chance brings to a usual point, where counts are not as good as normal.
    pub(super) counting: Option<Counting>,
    pub(super) column: String,
    /// The charted columns side by side, by name.
    pub(super) side_names: Vec<String>,
    /// Points that the loosest limits rest on.
    pub(super) limits_sample_size: usize,
    /// The fewest degrees of freedom behind them; `None` where no sd is estimated.
    pub(crate) limits_df: Option<f64>,
    pub(super) limits: LimitSource,
    pub(super) diagnostics: Diagnostics,
    pub(super) comparison: Option<Comparison>,
    pub(super) freshness: Option<Freshness>,
    pub(super) line_up: Option<LineUp>,
    pub(super) lag_one: Option<f64>,
    /// Of all measured values, or of all counts or shares, omitted ones included.
    pub(crate) moments: Moments,
}

/// Most rows and values listed of one point.
pub const ROWS_LISTED: usize = 200;

impl Chart {
    /// Whether no panel shows a signal.
    pub fn steady(&self) -> bool {
        self.panels.iter().all(|panel| panel.signals.is_empty())
    }

    /// Whether its limits rest on so few points that a chart without a signal says little.
    pub fn rests_on_few(&self) -> bool {
        !matches!(self.limits, LimitSource::Known { .. }) && self.limits_sample_size < super::parts::ENOUGH_POINTS
    }

    /// Whether the process sd is in the unit of the measurement.
    pub(super) fn in_its_unit(&self) -> bool {
        !self.kind.counts() && self.panels[0].plotted != Plotted::StandardisedDeviation && !matches!(self.kind, ChartKind::G | ChartKind::T)
    }

    /// Of counts: whether they scatter as counts do.
    pub fn dispersion(&self) -> Option<Dispersion> {
        self.diagnostics.dispersion
    }

    /// The number of points.
    pub fn len(&self) -> usize {
        self.points.len()
    }

    /// Whether there is no point.
    pub fn is_empty(&self) -> bool {
        self.len() == 0
    }

    /// Whether points are samples of several values.
    pub(super) fn sampled(&self) -> bool {
        self.raw.len() > 1 || self.panels[0].plotted == Plotted::Mean || self.points.gathered()
    }

    /// What is to be settled before any index: streams that are mixed, values that move, a shape that is none of a normal, a gauge that reads
    /// too coarsely.
    pub fn settles_first(&self) -> Option<&Explanation> {
        self.explanation
            .as_ref()
            .filter(|one| one.is_mixture() || one.is_movement() || one.is_shape() || matches!(one, Explanation::Coarse { .. }))
    }

    /// How values of the first panel are written.
    pub(super) fn writer(&self) -> &ValueFormat {
        &self.panels[0].writer
    }

    /// What points are: values or samples.
    pub(super) fn noun(&self) -> (&'static str, &'static str) {
        if self.sampled() || self.kind.counts() { ("subgroup", "subgroups") } else { ("value", "values") }
    }

    /// How sentences call a point: by its name, or by its number from 1.
    pub(super) fn name(&self, point: usize) -> String {
        if self.points.named_by.is_some() { self.points.label(point) } else { grouped(point + 1) }
    }

    /// The point with its noun: "value 48", "reel R716".
    pub(super) fn named(&self, point: usize) -> String {
        let noun = self.points.named_by.as_deref().unwrap_or(self.noun().0);
        format!("{noun} {}", self.name(point))
    }

    /// The values behind a point, up to a bound.
    pub(super) fn contents(&self, point: usize) -> Vec<f64> {
        let rows = self.points.rows(point);
        let values = rows.iter().flat_map(|&row| self.raw.iter().map(move |column| column[row]));
        values.filter(|value| !value.is_nan()).take(ROWS_LISTED).collect()
    }

    /// The size of the subgroups, when all that have values share one.
    pub(super) fn subgroup_size(&self) -> Option<usize> {
        let mut sizes = (0..self.len()).filter(|_| self.sampled()).map(|point| self.values_behind(point)).filter(|size| *size > 0);
        let first = sizes.next()?;
        sizes.all(|size| size == first).then_some(first)
    }

    /// How many values a point rests on.
    pub(super) fn values_behind(&self, point: usize) -> usize {
        if self.raw.is_empty() || !self.sampled() {
            return usize::from(!self.panels[0].values[point].is_nan());
        }
        let rows = self.points.rows(point);
        rows.iter().map(|&row| self.raw.iter().filter(|column| !column[row].is_nan()).count()).sum()
    }
}
