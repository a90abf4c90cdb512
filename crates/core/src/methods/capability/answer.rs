//! A finished study, and the views of it.

use std::mem::size_of_val;

use super::numbers::Numbers;
use super::params::Params;
use super::taken::Taken;
use crate::dial::Dial;
use crate::frame::Values;
use crate::methods::Numbers as MethodNumbers;
use crate::methods::control_chart::{self, Chart};
use crate::study::{View, ViewNumbers};

/// A finished study.
pub struct Answer {
    pub(super) params: Params,
    pub(super) taken: Taken,
    pub(super) numbers: Numbers,
    /// The smallest value.
    pub(super) lowest: f64,
    /// Different values, when they are few.
    pub(super) distinct: Option<usize>,
    /// On the scale on which the shape is normal.
    pub(super) chart: Chart,
}

impl Answer {
    /// The characteristic at a glance.
    pub fn dial(&self) -> Dial {
        self.numbers.dial.clone()
    }

    /// What was computed, without the points.
    pub fn numbers(&self) -> &Numbers {
        &self.numbers
    }

    /// The chart on the scale of the values.
    fn chart_of(&self, view: &View) -> control_chart::Numbers {
        let mut chart = self.chart.of_view(view);
        if self.taken.is_plain() {
            return chart;
        }
        let value = |y: Option<f64>| y.map(|y| self.taken.value_at(y)).filter(|value| value.is_finite());
        let location = &mut chart.panels[0];
        location.writer = self.numbers.writer.clone();
        for phase in &mut location.phases {
            (phase.center, phase.lcl, phase.ucl, phase.sigma) = (value(phase.center), value(phase.lcl), value(phase.ucl), None);
        }
        for point in &mut location.points {
            (point.value, point.center, point.lcl, point.ucl) =
                (value(point.value), value(point.center), value(point.lcl), value(point.ucl));
            point.sigma = None;
            point.contents.iter_mut().for_each(|content| *content = self.taken.value_at(*content));
        }
        location.span = location.span.and_then(|[low, high]| Some([value(Some(low))?, value(Some(high))?]));
        chart
    }
}

impl ViewNumbers for Answer {
    fn numbers(&self, view: &View) -> MethodNumbers {
        MethodNumbers::Capability(Box::new(Numbers { chart: Some(self.chart_of(view)), ..self.numbers.clone() }))
    }

    fn bytes(&self) -> usize {
        let kept = size_of_val(&self.numbers.plot[..]) + size_of_val(&self.numbers.bins[..]) + size_of_val(&self.numbers.shapes[..]);
        ViewNumbers::bytes(&self.chart) + kept
    }

    fn point_columns(&self) -> Vec<(String, Values)> {
        let mut columns = ViewNumbers::point_columns(&self.chart);
        if self.taken.is_plain() {
            return columns;
        }
        // The location panel stands in a file as in the figure, on the scale of the values; to twelve digits, which the way
        // there and back leaves.
        let back = |y: f64| {
            let value = format!("{:.11e}", self.taken.value_at(y)).parse().unwrap_or(f64::NAN);
            if f64::is_finite(value) { value } else { f64::NAN }
        };
        let (location, spread) = (self.chart.panels[0].name, self.chart.panels.get(1).map(|panel| panel.name.replace('-', " ")));
        for (name, values) in &mut columns {
            if let (true, Values::Number(scores)) = (name.starts_with(location), &*values) {
                *values = Values::Number(scores.iter().map(|&y| back(y)).collect());
            } else if spread.as_ref().is_some_and(|spread| name.starts_with(spread.as_str())) {
                name.push_str(", normal scale");
            }
        }
        columns
    }
}
