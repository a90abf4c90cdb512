//! "Is it steady?": values against the limits that a process in control keeps.
//!
//! Individuals with moving range. A process is judged by its own short-term variation, taken from the
//! differences of neighbours, because the spread of all values would hide the very shifts that are sought.
//!
//! Sources: Shewhart (1931); Western Electric (1956), Statistical Quality Control Handbook; Nelson (1984),
//! J. Quality Technology 16(4); ISO 7870-2.

mod answer;
mod bits;
mod card;
mod compute;
mod false_alarm;
mod limits;
mod numbers;
mod params;
mod patterns;
mod verdict;

pub use answer::{Chart, Panel, PhaseLimits};
pub use numbers::{FalseAlarm, Numbers, PanelNumbers, PointNumbers};
pub use patterns::{Pattern, Signal, Watch};

use crate::dial::Dial;
use crate::frame::Frame;
use crate::methods::Method;
use crate::study::{Cancel, Computed, MethodCard, Spec, StudyError};

/// The method.
pub struct ControlChart;

impl Method for ControlChart {
    fn name(&self) -> &'static str {
        "control-chart"
    }

    fn card(&self) -> MethodCard {
        card::card()
    }

    fn compute(&self, frame: &Frame, spec: &Spec, cancel: &Cancel) -> Result<Computed, StudyError> {
        let params = params::Params::check(frame, spec)?;
        let chart = compute::individuals(&params, cancel)?;
        let dial = Dial::of(&chart, &params.measure.info);
        let (verdict, notes, next) = verdict::read(&chart);
        Ok(Computed { verdict, notes, next, dial: Some(dial), numbers: Box::new(chart) })
    }
}
