//! The value of a part of a formula.

use crate::frame::{NO_TIME, Values, moments_named};

/// The value of a part: one for all rows, or one for each.
#[derive(Clone, Debug)]
pub enum Part {
    Number(f64),
    Words(String),
    Each(Values),
}

/// What has no value.
pub const NOTHING: Part = Part::Number(f64::NAN);

impl Part {
    /// The number of a row.
    pub fn number(&self, row: usize) -> f64 {
        match self {
            Part::Number(number) => *number,
            Part::Each(Values::Number(values)) => values[row],
            Part::Words(_) | Part::Each(_) => f64::NAN,
        }
    }

    /// The moment of a row; words name one.
    pub fn moment(&self, row: usize) -> i64 {
        match self {
            Part::Each(Values::Time(values)) => values[row],
            Part::Words(words) => moments_named(words).map_or(NO_TIME, |[first, _]| first),
            Part::Number(_) | Part::Each(_) => NO_TIME,
        }
    }

    /// The words as typed.
    pub fn typed(&self) -> &str {
        if let Part::Words(words) = self { words } else { "" }
    }

    /// One value a row.
    pub fn each(&self, rows: usize) -> Values {
        match self {
            Part::Number(number) => Values::Number(vec![*number; rows].into()),
            Part::Words(words) => Values::Label { codes: vec![0; rows].into(), labels: [words.clone()].into() },
            Part::Each(values) => values.clone(),
        }
    }

    /// Whether a row has no value, or none that is finite.
    pub fn is_missing(&self, row: usize) -> bool {
        match self {
            Part::Number(number) => !number.is_finite(),
            Part::Words(_) => false,
            Part::Each(Values::Number(values)) => !values[row].is_finite(),
            Part::Each(values) => values.is_missing(row),
        }
    }
}
