//! The values of a chart in their order, with the rows they come from.

use crate::control_chart::answer::Chart;
use acorn_data::frame::Frame;
use acorn_study::labelled::{Labelled, labelled};

/// Fewer values explain nothing.
pub const LEAST: usize = 16;

/// Values in the order of the points; missing ones are left out.
pub struct Series {
    /// The values.
    pub values: Vec<f64>,
    /// The row of each.
    pub rows: Vec<usize>,
    /// The point of each.
    pub points: Vec<usize>,
    /// The charted column of each.
    pub columns: Vec<usize>,
}

impl Series {
    pub fn of(chart: &Chart) -> Series {
        let mut series = Series { values: Vec::new(), rows: Vec::new(), points: Vec::new(), columns: Vec::new() };
        for point in 0..chart.len() {
            if chart.points.is_omitted(point) {
                continue;
            }
            for &row in chart.points.rows(point).iter() {
                for (column, values) in chart.raw.iter().enumerate().filter(|(_, values)| !values[row].is_nan()) {
                    series.values.push(values[row]);
                    series.rows.push(row);
                    series.points.push(point);
                    series.columns.push(column);
                }
            }
        }
        series
    }

    /// The columns of labels beside the charted ones, with the group of each value.
    pub fn labelled<'f>(&self, chart: &Chart, frame: &'f Frame) -> Vec<Labelled<'f>> {
        labelled(frame, &self.rows, &chart.side_names)
    }
}
