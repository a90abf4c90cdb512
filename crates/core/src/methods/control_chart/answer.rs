//! A computed chart in compact form: one number a point and panel, limits by phase.

use std::sync::Arc;

use serde::Serialize;

use super::params::ChartKind;
use super::patterns::{Signal, Watch};
use crate::frame::Values;
use crate::numeric::describe::Moments;
use crate::study::words::{Writer, grouped};

/// A computed chart.
pub struct Chart {
    pub(super) kind: ChartKind,
    /// The plotted panels: location first, then spread.
    pub panels: Vec<Panel>,
    /// Points left out of the limits.
    pub(super) omitted: Option<Vec<bool>>,
    /// Point number to row position, when the points are not in the order of the rows.
    pub(super) order: Option<Vec<usize>>,
    pub(super) row_ids: Option<Arc<[i64]>>,
    pub(super) labels: Option<Values>,
    /// Whether the labels are names to call a point by; moments are not.
    pub(super) named: bool,
    /// The process sd: the known one, or that of the newest phase; `None` when it cannot be told.
    pub sigma_within: Option<f64>,
    pub(super) width: f64,
    pub(super) watches: Vec<Watch>,
    /// Average points between false alarms; `None` when too rare to tell.
    pub points_between: Option<f64>,
    pub(super) writer: Writer,
    pub(super) column: String,
    pub(super) unordered: usize,
    /// Points whose differences the limits rest on.
    pub(super) basis: usize,
    /// Whether the limits are known values rather than estimates.
    pub(super) limits_known: bool,
    pub(super) lag_one: Option<f64>,
    /// Of all plotted values, omitted ones included.
    pub(crate) moments: Moments,
}

/// One panel of a chart.
pub struct Panel {
    /// What is plotted, such as `individuals`.
    pub name: &'static str,
    /// One value a point; NaN where there is none.
    pub values: Arc<[f64]>,
    /// How many points have a value.
    pub present: usize,
    /// The smallest and the largest value; `None` without values.
    pub extent: Option<[f64; 2]>,
    /// Stretches with limits of their own.
    pub phases: Vec<PhaseLimits>,
    /// What was found, in order of first point.
    pub signals: Vec<Signal>,
}

/// The limits of one stretch of points.
#[derive(Clone, Debug, PartialEq, Serialize)]
#[cfg_attr(feature = "openapi", derive(utoipa::ToSchema))]
pub struct PhaseLimits {
    /// The name of the phase; `None` when there is one only.
    pub label: Option<String>,
    /// First point.
    pub first: usize,
    /// Last point, included.
    pub last: usize,
    /// Centre line; `None` without values.
    pub center: Option<f64>,
    /// Lower control limit; `None` when the spread cannot be told.
    pub lcl: Option<f64>,
    /// Upper control limit; `None` when the spread cannot be told.
    pub ucl: Option<f64>,
    /// Sd of the plotted statistic.
    pub sigma: Option<f64>,
}

impl Chart {
    /// Whether no panel shows a signal.
    pub fn steady(&self) -> bool {
        self.panels.iter().all(|panel| panel.signals.is_empty())
    }

    /// The number of points.
    pub fn len(&self) -> usize {
        self.panels[0].values.len()
    }

    /// Whether there is no point.
    pub fn is_empty(&self) -> bool {
        self.len() == 0
    }

    /// The row position of a point.
    pub(super) fn row(&self, point: usize) -> usize {
        self.order.as_ref().map_or(point, |order| order[point])
    }

    /// The lasting identity of the row of a point.
    pub(super) fn row_id(&self, point: usize) -> i64 {
        let row = self.row(point);
        self.row_ids.as_ref().map_or(row as i64, |ids| ids[row])
    }

    /// What a point is called: its label, or its number from 1.
    pub(super) fn label(&self, point: usize) -> String {
        let named = self.labels.as_ref().and_then(|labels| labels.text(self.row(point)));
        named.unwrap_or_else(|| (point + 1).to_string())
    }

    /// How sentences call a point: by its name, or by its number from 1.
    pub(super) fn name(&self, point: usize) -> String {
        if self.named { self.label(point) } else { grouped(point + 1) }
    }

    /// Whether a point is left out of the limits.
    pub(super) fn is_omitted(&self, point: usize) -> bool {
        self.omitted.as_ref().is_some_and(|omitted| omitted[point])
    }
}
