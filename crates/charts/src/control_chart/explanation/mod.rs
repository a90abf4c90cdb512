//! What explains the signals of a chart, or makes it blind: the thing to say before any signal.
//!
//! Streams that are mixed (by turns, within subgroups, by a label, or as two peaks) are looked for on every chart, because they hide
//! signals. Wear, batches, cycles, likeness of neighbours, the shape of the values and counts that scatter unlike counts are looked for
//! where the signals are more than chance; a gauge that reads too coarsely where the order shows nothing.

mod counted;
pub mod found;
mod order;
mod segments;
mod series;
mod shape;
mod streams;
mod words;

pub use counted::{explained_by_order, scores};
pub use found::Explanation;

use super::answer::Chart;
use super::kind::ChartKind;
use acorn_data::frame::Frame;
use acorn_maths::judgement::{BEYOND_CHANCE, too_coarse};
use acorn_study::{Cancel, StudyError};
use series::Series;

impl Explanation {
    /// Finds what explains a chart of the rows of a frame; `None` when nothing does, or nothing has to be.
    ///
    /// # Errors
    /// [`StudyError::Stopped`].
    pub fn of(chart: &Chart, frame: &Frame, cancel: &Cancel) -> Result<Option<Explanation>, StudyError> {
        if chart.len() > super::parts::POINTS_MOST || chart.points.phases.len() > 1 {
            return Ok(None);
        }
        if chart.kind.counts() {
            return Ok(counted::of(chart));
        }
        if !matches!(chart.kind, ChartKind::Individuals | ChartKind::XbarR | ChartKind::XbarS | ChartKind::XbarBetween) {
            return Ok(None);
        }
        let series = Series::of(chart);
        if series.values.len() < series::LEAST {
            return Ok(None);
        }
        // Wear within subgroups widens the limits that it would cross.
        if chart.sampled()
            && let Some(found) = order::wear(&series, &series.labelled(chart, frame))
        {
            return Ok(Some(found));
        }
        if let Some(found) = streams::of(chart, &series, frame) {
            return Ok(Some(found));
        }
        let (by_chance, p_order) = (chart.alarms().by_chance, chart.chance.and_then(|chance| chance.p_order));
        let order_is_chance = by_chance || p_order.is_some_and(|p| p >= BEYOND_CHANCE);
        if order_is_chance && let Some((step, sds)) = too_coarse(&series.values) {
            return Ok(Some(Explanation::Coarse { step, sds }));
        }
        if by_chance {
            return Ok(None);
        }
        if order_is_chance {
            return shape::of(&series.values, cancel);
        }
        Ok(order::of(chart, &series, frame))
    }

    /// Whether the process moves: what was found is about its values in time, and no index holds.
    pub fn is_movement(&self) -> bool {
        use Explanation::{Autocorrelated, Batches, Cycle, Wear};
        matches!(self, Wear { .. } | Batches { .. } | Cycle { .. } | Autocorrelated { .. })
    }

    /// Whether several streams are judged as one.
    pub fn is_mixture(&self) -> bool {
        use Explanation::{Alternating, Stratified, Streams, TwoGroups};
        matches!(self, Alternating { .. } | Stratified { .. } | Streams { .. } | TwoGroups { .. })
    }

    /// Whether the shape of the values makes the signals.
    pub fn is_shape(&self) -> bool {
        matches!(self, Explanation::Skewed(_) | Explanation::HeavyTails)
    }
}
