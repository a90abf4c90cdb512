//! What stands in a column, for the head of a table: counts, range, shape.

use serde::Serialize;

use crate::figure::histogram::{Bin, round_bins};
use crate::frame::{Column, Limits, NO_CODE, NO_TIME, Values};
use acorn_maths::describe::{decimals, moments};

const BINS: usize = 14;
const LABELS: usize = 3;

/// A column at a glance.
#[derive(Clone, Debug, Default, PartialEq, Serialize, utoipa::ToSchema)]
pub struct ColumnSummary {
    /// Values that are there.
    pub n: usize,
    /// Values that are missing.
    pub missing: usize,
    /// Mean of a number column.
    pub mean: Option<f64>,
    /// Sample sd of a number column.
    pub sd: Option<f64>,
    /// Smallest number, or first moment in microseconds.
    pub min: Option<f64>,
    /// Largest number, or last moment in microseconds.
    pub max: Option<f64>,
    /// Decimals that the values carry.
    pub decimals: u8,
    /// Values below the lower specification limit.
    pub below: usize,
    /// Values above the upper specification limit.
    pub above: usize,
    /// The histogram of a number column.
    pub bins: Vec<Bin>,
    /// The most frequent labels.
    pub labels: Vec<LabelCount>,
    /// How many different labels there are.
    pub distinct: usize,
}

/// A label and how often it occurs.
#[derive(Clone, Debug, PartialEq, Serialize, utoipa::ToSchema)]
pub struct LabelCount {
    /// The label.
    pub label: String,
    /// How often.
    pub count: usize,
}

/// Summarises a column.
pub fn summarise(column: &Column) -> ColumnSummary {
    match &column.values {
        Values::Number(values) => {
            let moments = moments(values);
            let outside = |is_out: &dyn Fn(f64, Limits) -> bool| {
                values.iter().enumerate().filter(|(row, value)| is_out(**value, column.limits(*row))).count()
            };
            ColumnSummary {
                n: moments.n,
                missing: values.len() - moments.n,
                mean: moments.mean,
                sd: moments.sd,
                min: moments.min,
                max: moments.max,
                decimals: decimals(values),
                below: outside(&|value, limits| limits.lsl.is_some_and(|lsl| value < lsl)),
                above: outside(&|value, limits| limits.usl.is_some_and(|usl| value > usl)),
                bins: round_bins(values, BINS),
                ..ColumnSummary::default()
            }
        }
        Values::Label { codes, labels } => {
            let mut counts = vec![0usize; labels.len()];
            codes.iter().filter(|code| **code != NO_CODE).for_each(|code| counts[*code as usize] += 1);
            let n = counts.iter().sum();
            let mut used: Vec<LabelCount> = labels
                .iter()
                .zip(&counts)
                .filter(|(_, count)| **count > 0)
                .map(|(label, &count)| LabelCount { label: label.clone(), count })
                .collect();
            used.sort_by_key(|label| std::cmp::Reverse(label.count));
            let distinct = used.len();
            used.truncate(LABELS);
            ColumnSummary { n, missing: codes.len() - n, distinct, labels: used, ..ColumnSummary::default() }
        }
        Values::Time(values) => {
            let present = || values.iter().copied().filter(|time| *time != NO_TIME);
            let n = present().count();
            let micros = |time: i64| time as f64;
            ColumnSummary {
                n,
                missing: values.len() - n,
                min: present().min().map(micros),
                max: present().max().map(micros),
                ..ColumnSummary::default()
            }
        }
    }
}
