//! What the values of each group come to.

use serde::{Deserialize, Serialize};

use super::{ReshapeError, Result, all_named, made, picked};
use crate::frame::{Column, ColumnInfo, Frame, Kind, Missing, Values};
use acorn_maths::describe::{median, moments};

/// Most groups.
const GROUPS_MOST: usize = 1_000_000;

/// What is told of the values of a group; missing values count for nothing but their own number.
#[derive(Clone, Copy, Debug, PartialEq, Eq, Serialize, Deserialize, utoipa::ToSchema)]
#[serde(rename_all = "kebab-case")]
pub enum Statistic {
    /// How many values.
    Count,
    /// How many are missing.
    Missing,
    /// Their mean; none without a value.
    Mean,
    /// Their sample sd; none of a single value.
    Sd,
    /// The smallest.
    Min,
    /// The largest.
    Max,
    /// Largest less smallest.
    Range,
    /// The one in the middle.
    Median,
    /// Their sum.
    Sum,
}

impl Statistic {
    fn word(self) -> &'static str {
        match self {
            Statistic::Count => "count",
            Statistic::Missing => "missing",
            Statistic::Mean => "mean",
            Statistic::Sd => "sd",
            Statistic::Min => "min",
            Statistic::Max => "max",
            Statistic::Range => "range",
            Statistic::Median => "median",
            Statistic::Sum => "sum",
        }
    }

    fn is_count(self) -> bool {
        matches!(self, Statistic::Count | Statistic::Missing)
    }

    fn of(self, values: &[f64], missing: usize) -> f64 {
        let moments = moments(values);
        let told = match self {
            Statistic::Count => Some(values.len() as f64),
            Statistic::Missing => Some(missing as f64),
            Statistic::Mean => moments.mean,
            Statistic::Sd => moments.sd,
            Statistic::Min => moments.min,
            Statistic::Max => moments.max,
            Statistic::Range => moments.max.zip(moments.min).map(|(max, min)| max - min),
            Statistic::Median => median(values),
            Statistic::Sum => moments.mean.map(|mean| mean * values.len() as f64),
        };
        // What no number holds is none.
        told.filter(|value| value.is_finite()).unwrap_or(f64::NAN)
    }
}

pub(super) fn summary(frame: &Frame, by: &[String], of: &[String], numbers: &[Statistic]) -> Result<Vec<Column>> {
    let by = all_named(frame, by, "the columns that make the groups")?;
    let of = all_named(frame, of, "the columns to sum up")?;
    if numbers.is_empty() {
        return Err(ReshapeError("choose what is told of each group".to_owned()));
    }
    let groups = frame.groups(&by, None, Missing::Apart, GROUPS_MOST).map_err(|error| ReshapeError(error.to_string()))?;
    let mut columns: Vec<Column> =
        by.iter().map(|column| picked(column, (0..groups.len()).map(|group| groups.rows(group).first().copied()))).collect();
    for column in of {
        let told: Vec<Statistic> = numbers.iter().copied().filter(|number| number.is_count() || column.kind.is_numeric()).collect();
        let mut values = vec![Vec::with_capacity(groups.len()); told.len()];
        let mut own = Vec::new();
        for group in 0..groups.len() {
            let rows = groups.rows(group);
            own.clear();
            match &column.values {
                Values::Number(numbers) => own.extend(rows.iter().map(|row| numbers[*row]).filter(|value| !value.is_nan())),
                // Labels and moments are only counted.
                _ => own.extend(rows.iter().filter(|row| !column.values.is_missing(**row)).map(|_| 0.0)),
            }
            for (number, values) in told.iter().zip(&mut values) {
                values.push(number.of(&own, rows.len() - own.len()));
            }
        }
        for (number, values) in told.into_iter().zip(values) {
            let kind = if number.is_count() { Kind::WholeNumber } else { Kind::Number };
            let unit = column.info.unit.clone().filter(|_| !number.is_count());
            let name = format!("{} {}", column.name, number.word());
            columns.push(Column { info: ColumnInfo { unit, ..ColumnInfo::default() }, ..made(&name, kind, Values::Number(values.into())) });
        }
    }
    Ok(columns)
}
