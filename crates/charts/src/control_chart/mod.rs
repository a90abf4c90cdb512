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
#[doc(hidden)]
pub mod answer;
#[doc(hidden)]
pub mod bits;
mod build;
mod card;
#[doc(hidden)]
pub mod chance;
mod checks;
pub mod collected;
mod compare;
mod compute;
#[doc(hidden)]
pub mod counting;
mod counts;
pub mod decisions;
mod deviation;
mod dial;
mod explanation;
#[doc(hidden)]
pub mod false_alarm;
#[doc(hidden)]
pub mod individuals;
#[doc(hidden)]
pub mod kind;
mod lineup;
mod memory;
#[doc(hidden)]
pub mod neighbours;
mod notes;
mod numbers;
#[doc(hidden)]
pub mod panel;
#[doc(hidden)]
pub mod params;
#[doc(hidden)]
pub mod parts;
#[doc(hidden)]
pub mod patterns;
#[doc(hidden)]
pub mod plotted;
#[doc(hidden)]
pub mod points;
#[doc(hidden)]
pub mod process;
#[doc(hidden)]
pub mod rare;
#[doc(hidden)]
pub mod run;
mod samples;
#[doc(hidden)]
pub mod search;
mod strength;
mod tables;
mod terms;
mod verdict;
#[doc(hidden)]
pub mod wide;

pub use alarms::Alarms;
pub use answer::Chart;
pub use card::{FORMULAS, SEVERAL, SIDE_BY_SIDE_MOST, pattern_slot};
pub use compute::compute;
pub use explanation::Explanation;
pub use kind::ChartKind;
pub use numbers::{FalseAlarm, Numbers, PanelNumbers, PointNumbers};
pub use panel::{Panel, PhaseNumbers};
pub use params::{Inspected, Params, PatternChoice, Sampling, SigmaFrom, run_rules};
pub use patterns::{Pattern, RunRule, Signal};
pub use plotted::Plotted;

use std::collections::BTreeMap;

use acorn_data::frame::Frame;
use acorn_study::advice::Advice;
use acorn_study::gauge::share::GaugeShare;
use acorn_study::{Cancel, Computed, Method, MethodCard, StudyError, ValidatedSpec, letter_notes};

/// The method.
#[derive(Clone, Copy, Debug)]
pub struct ControlChart;

impl Method for ControlChart {
    type Answer = Chart;

    fn card(&self) -> &'static MethodCard {
        &card::CARD
    }

    fn keeps_omitted(&self) -> bool {
        true
    }

    fn looks_at_labels(&self) -> bool {
        true
    }

    fn compute(&self, asked: &ValidatedSpec<'_>, cancel: &Cancel) -> Result<Computed<Chart>, StudyError> {
        let params = Params::read(asked)?;
        let mut chart = compute::compute(&params, cancel)?;
        chart.gauge = chart.in_its_unit().then(|| GaugeShare::of(params.column().measuring.as_ref(), chart.sigma_within)).flatten();
        let dial = chart.dial(&params.column().info);
        let (verdict, mut notes, next) = verdict::read(&chart);
        if let Some(gauge) = &chart.gauge {
            notes.push(gauge.note("the short-term spread", &chart.panels[0].writer, None));
            letter_notes(&mut notes);
        }
        Ok(Computed { verdict, notes, next, dial: Some(dial), answer: chart })
    }

    fn advise(&self, frame: &Frame, answers: &BTreeMap<String, String>) -> Advice {
        advise::advise(frame, answers)
    }
}
