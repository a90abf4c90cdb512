//! A finished study, and the views of it.

use std::mem::size_of_val;

use super::agreement::Agreement;
use super::assumed::AssumedDistribution;
use super::numbers::Numbers;
use super::params::Params;
use super::tables;
use crate::control_chart::{self, Chart};
use acorn_maths::cut_off::CutOff;
use acorn_maths::words::grouped;
use acorn_study::dial::Dial;
use acorn_study::{Brief, Cells, StoredAnswer, Table, ToNumbers, View};

/// A finished study.
pub struct Answer {
    pub(super) params: Params,
    pub(super) assumed: AssumedDistribution,
    pub(super) numbers: Numbers,
    /// The smallest value.
    pub(super) lowest: f64,
    /// What all shapes that fit say, where the assumed one does not.
    pub(super) agreement: Option<Agreement>,
    /// Values of exactly 0, where they are many.
    pub(super) zeros: Option<usize>,
    /// A limit at which the values end.
    pub(super) cut_off: Option<CutOff>,
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
        if self.assumed.is_plain() {
            return chart;
        }
        let value = |y: Option<f64>| y.map(|y| self.assumed.value_at(y)).filter(|value| value.is_finite());
        let location = &mut chart.panels[0];
        location.writer = self.numbers.writer.clone();
        for phase in &mut location.phases {
            (phase.center, phase.lcl, phase.ucl, phase.sigma) = (value(phase.center), value(phase.lcl), value(phase.ucl), None);
        }
        for point in &mut location.points {
            (point.value, point.center, point.lcl, point.ucl) =
                (value(point.value), value(point.center), value(point.lcl), value(point.ucl));
            point.sigma = None;
            point.contents.iter_mut().for_each(|content| *content = self.assumed.value_at(*content));
        }
        location.span = location.span.and_then(|[low, high]| Some([value(Some(low))?, value(Some(high))?]));
        chart
    }
}

impl ToNumbers for Answer {
    type Numbers = Numbers;

    fn numbers(&self, view: &View) -> Numbers {
        Numbers { chart: Some(self.chart_of(view)), ..self.numbers.clone() }
    }
}

impl StoredAnswer for Answer {
    fn bytes(&self) -> usize {
        let of = &self.numbers;
        let curves = size_of_val(&of.short_term[..]) + size_of_val(&of.long_term[..]);
        let shapes: usize = of.shapes.iter().map(|shape| size_of_val(shape) + size_of_val(&shape.curve[..])).sum();
        StoredAnswer::bytes(&self.chart) + size_of_val(&of.plot[..]) + size_of_val(&of.bins[..]) + curves + shapes
    }

    fn brief(&self) -> Vec<Brief> {
        let computed = |term, value: Option<f64>| value.map(|value| Brief { term, words: self.numbers.writer.computed(value) });
        let of = &self.numbers;
        let known = [computed("mean", of.mean), computed("sd short", of.sd_within), computed("sd long", of.sd_overall)];
        known.into_iter().flatten().chain([Brief { term: "values", words: grouped(of.n) }]).collect()
    }

    fn tables(&self) -> Vec<Table> {
        tables::all(&self.numbers)
    }

    fn points(&self, view: &View) -> Table {
        let mut table = self.chart.points(view);
        if self.assumed.is_plain() {
            return table;
        }
        // The location panel stands in a table as in the figure, on the scale of the values; to twelve digits, which the way
        // there and back leaves.
        let back = |y: f64| format!("{:.11e}", self.assumed.value_at(y)).parse().ok().filter(|value: &f64| value.is_finite());
        let (location, spread) =
            (self.chart.panels[0].plotted.display_text(), self.chart.panels.get(1).map(|panel| panel.plotted.display_text()));
        for column in &mut table.columns {
            if let (true, Cells::Numbers(scores)) = (column.label.starts_with(&location), &mut column.cells) {
                scores.iter_mut().for_each(|cell| *cell = cell.and_then(back));
                column.format = Some(self.numbers.writer.clone());
            } else if spread.as_ref().is_some_and(|spread| column.label.starts_with(spread.as_str())) {
                column.label.push_str(", normal scale");
            }
        }
        table
    }

    fn rows(&self, first: usize, last: usize) -> Vec<i64> {
        self.chart.rows(first, last)
    }
}
