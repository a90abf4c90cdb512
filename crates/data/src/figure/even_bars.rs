//! A small histogram: bars of even width over the range of the values.

use serde::Serialize;

use acorn_maths::describe::extent;

const BARS: usize = 24;

/// How a column is spread.
#[derive(Clone, Debug, PartialEq, Serialize, utoipa::ToSchema)]
pub struct EvenBars {
    /// Smallest.
    pub low: f64,
    /// Largest.
    pub high: f64,
    /// Counts of bars of even width.
    pub counts: Vec<u32>,
}

impl EvenBars {
    /// Of values; missing ones are in no bar.
    pub fn of(values: &[f64]) -> EvenBars {
        let [low, high] = extent(values).unwrap_or([0.0, 0.0]);
        let mut counts = vec![0; BARS];
        let places = Places::new(low, high, BARS);
        values.iter().filter(|value| !value.is_nan()).for_each(|value| counts[places.of(*value)] += 1);
        EvenBars { low, high, counts }
    }
}

/// Even stretches of a range.
#[derive(Clone, Copy)]
pub struct Places {
    low: f64,
    scale: f64,
    many: usize,
}

impl Places {
    /// So many from the smallest to the largest value.
    pub fn new(low: f64, high: f64, many: usize) -> Places {
        Places { low, scale: many as f64 / (high - low), many }
    }

    /// The stretch that a value lies in; the middle one when there is no range.
    pub fn of(&self, value: f64) -> usize {
        let place = (value - self.low) * self.scale;
        if place.is_finite() { (place as usize).min(self.many - 1) } else { self.many / 2 }
    }
}
