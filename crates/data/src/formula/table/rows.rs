//! Functions along the rows, and across the columns of one.

use std::collections::HashMap;

use super::TableFunction;
use super::part::Part;
use super::words::Words;
use crate::frame::{NO_CODE, NO_TIME, Values};
use acorn_maths::describe::moments;

/// A figure of what is there in one row.
pub fn of_row(function: TableFunction, values: impl Iterator<Item = f64>) -> f64 {
    let there: Vec<f64> = values.filter(|value| value.is_finite()).collect();
    let moments = moments(&there);
    let found = match function {
        TableFunction::RowMean => moments.mean,
        TableFunction::RowSd => moments.sd,
        _ => moments.max.zip(moments.min).map(|(max, min)| max - min),
    };
    found.unwrap_or(f64::NAN)
}

/// The first argument that is there, row by row.
pub fn first_of(arguments: &[&Part], rows: usize) -> Part {
    let first = |row: usize| arguments.iter().find(|part| !part.is_missing(row));
    Part::Each(match arguments[0] {
        Part::Number(_) | Part::Each(Values::Number(_)) => {
            Values::Number((0..rows).map(|row| first(row).map_or(f64::NAN, |part| part.number(row))).collect())
        }
        Part::Each(Values::Time(_)) => Values::Time((0..rows).map(|row| first(row).map_or(NO_TIME, |part| part.moment(row))).collect()),
        _ => {
            let all: Vec<Words> = arguments.iter().map(|part| Words::of(&part.each(rows))).collect();
            let Words { codes, labels } =
                Words::collect((0..rows).map(|row| all.iter().find_map(|words| words.at(row)).map(str::to_owned)));
            Values::Label { codes, labels }
        }
    })
}

/// Functions that look at the rows above.
pub fn along(function: TableFunction, arguments: &[&Part], rows: usize) -> Part {
    use TableFunction::*;
    let number = |row: usize| arguments[0].number(row);
    let numbers = |values: Vec<f64>| Part::Each(Values::Number(values.into()));
    match function {
        Row => numbers((1..=rows).map(|row| row as f64).collect()),
        Difference => numbers((0..rows).map(|row| if row == 0 { f64::NAN } else { number(row) - number(row - 1) }).collect()),
        RunningSum => {
            let mut sum = 0.0;
            let step = |row: usize| {
                let value = number(row);
                sum += if value.is_finite() { value } else { 0.0 };
                sum
            };
            numbers((0..rows).map(step).collect())
        }
        RunningCount => {
            let values = arguments[0].each(rows);
            let mut counts: HashMap<u64, f64> = HashMap::new();
            let step = |row: usize| {
                if values.is_missing(row) {
                    return f64::NAN;
                }
                let count = counts.entry(values.key(row)).or_default();
                *count += 1.0;
                *count
            };
            numbers((0..rows).map(step).collect())
        }
        _ => {
            let steps = arguments.get(1).map_or(1.0, |part| part.number(0)).clamp(0.0, rows as f64) as usize;
            let above = |row: usize| row.checked_sub(steps);
            Part::Each(match arguments[0].each(rows) {
                Values::Number(values) => Values::Number((0..rows).map(|row| above(row).map_or(f64::NAN, |row| values[row])).collect()),
                Values::Time(values) => Values::Time((0..rows).map(|row| above(row).map_or(NO_TIME, |row| values[row])).collect()),
                Values::Label { codes, labels } => {
                    Values::Label { codes: (0..rows).map(|row| above(row).map_or(NO_CODE, |row| codes[row])).collect(), labels }
                }
            })
        }
    }
}
