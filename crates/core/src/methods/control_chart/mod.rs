//! "Is it steady?": values against the limits that a process in control keeps.
//!
//! Rows become points (`points`), a kind of chart builds panels with lines (`individuals`, `samples`, `counts`,
//! `memory`, `run`, `rare`, `deviation`), a search finds patterns (`patterns`), and words tell them (`verdict`, `notes`,
//! `checks`). A process is judged by its own short-term variation, because the spread of all values would hide the very
//! shifts that are sought.
//!
//! Sources: Shewhart (1931); Western Electric (1956), Statistical Quality Control Handbook; Nelson (1984),
//! J. Quality Technology 16(4); ISO 7870-2.

mod advise;
mod alarms;
mod answer;
mod bits;
mod built;
mod card;
mod checks;
mod compare;
mod compute;
mod counts;
mod deviation;
mod false_alarm;
mod individuals;
mod kind;
mod lineup;
mod memory;
mod notes;
mod numbers;
mod panel;
mod params;
mod patterns;
mod points;
mod process;
mod rare;
mod run;
mod samples;
mod verdict;

pub use alarms::Alarms;
pub use answer::Chart;
pub use kind::ChartKind;
pub use numbers::{FalseAlarm, Numbers, PanelNumbers, PointNumbers};
pub use panel::{Panel, PhaseLimits};
pub use params::SigmaFrom;
pub use patterns::{Pattern, Signal, Watch};

use std::collections::BTreeMap;

use crate::dial::Dial;
use crate::frame::Frame;
use crate::methods::Method;
use crate::study::advice::Advice;
use crate::study::{Cancel, Computed, MethodCard, Spec, StudyError};

/// The method.
pub struct ControlChart;

/// The chart of a specification, for other methods that judge steadiness.
///
/// # Errors
/// As [`Method::compute`].
pub fn chart(frame: &Frame, spec: &Spec, cancel: &Cancel) -> Result<Chart, StudyError> {
    compute::compute(&params::Params::check(frame, spec)?, cancel)
}

impl Method for ControlChart {
    fn name(&self) -> &'static str {
        "control-chart"
    }

    fn card(&self) -> MethodCard {
        card::card()
    }

    fn compute(&self, frame: &Frame, spec: &Spec, cancel: &Cancel) -> Result<Computed, StudyError> {
        let params = params::Params::check(frame, spec)?;
        let chart = compute::compute(&params, cancel)?;
        let dial = Dial::of(&chart, &params.column().info);
        let (verdict, notes, next) = verdict::read(&chart);
        Ok(Computed { verdict, notes, next, dial: Some(dial), numbers: Box::new(chart) })
    }

    fn advise(&self, frame: &Frame, answers: &BTreeMap<String, String>) -> Advice {
        advise::advise(frame, answers)
    }
}
