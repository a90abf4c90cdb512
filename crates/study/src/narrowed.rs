//! The rows that a question is narrowed to.

use std::borrow::Cow;

use super::{FilterStep, Predicate, Spec, StudyError};
use acorn_data::frame::{Column, Frame, NO_CODE, NO_TIME, Values, moments_named};

/// Most labels of a column that a question is narrowed by.
const LABELS_MOST: usize = 1_000_000;
/// What narrowing is called where its column is named.
const NARROWING: &str = "narrowing";

/// The rows of a frame that meet every step of a question, with the columns that it `reads`.
///
/// # Errors
/// Those of [`kept`].
pub fn narrowed<'f>(frame: &'f Frame, spec: &Spec, reads: impl Fn(&Column) -> bool) -> Result<Cow<'f, Frame>, StudyError> {
    if spec.only.is_empty() {
        return Ok(Cow::Borrowed(frame));
    }
    let kept = row_mask(frame, &spec.only)?;
    let read: Vec<_> = frame.columns().iter().filter(|column| reads(column)).collect();
    let rows: Vec<usize> = (0..frame.rows()).filter(|&row| kept[row]).collect();
    Ok(Cow::Owned(frame.pick(&read, &rows)))
}

/// Whether each row of a frame meets every step. A value that is missing meets none but the one that asks for it.
///
/// # Errors
/// [`StudyError::UnknownColumn`]; [`StudyError::TooManyGroups`]; [`StudyError::WrongKind`] for numbers, moments or words asked of
/// a column that has none; [`StudyError::BadOption`] for a moment that cannot be read.
pub fn row_mask(frame: &Frame, only: &[FilterStep]) -> Result<Vec<bool>, StudyError> {
    let mut kept = vec![true; frame.rows()];
    for step in only {
        match step {
            FilterStep::Column { column: name, is, .. } => {
                let unknown = || StudyError::UnknownColumn { role: NARROWING.to_owned(), column: name.clone() };
                narrow(&mut kept, frame, frame.column(name).ok_or_else(unknown)?, is)?;
            }
            FilterStep::Rows { rows, .. } => {
                let rows = apart(rows);
                let inside = |id: i64| {
                    let behind = rows.partition_point(|[first, _]| *first <= id);
                    behind > 0 && id <= rows[behind - 1][1]
                };
                kept.iter_mut().enumerate().for_each(|(row, kept)| *kept = *kept && inside(frame.row_id(row)));
            }
        }
    }
    Ok(kept)
}

/// Stretches in order, those that touch joined, so that one is found among many at once.
fn apart(stretches: &[[i64; 2]]) -> Vec<[i64; 2]> {
    let mut sorted = stretches.to_vec();
    sorted.sort_unstable();
    let mut apart: Vec<[i64; 2]> = Vec::with_capacity(sorted.len());
    for [first, last] in sorted.into_iter().filter(|[first, last]| first <= last) {
        match apart.last_mut() {
            Some(before) if first <= before[1] => before[1] = before[1].max(last),
            _ => apart.push([first, last]),
        }
    }
    apart
}

fn narrow(kept: &mut [bool], frame: &Frame, column: &Column, is: &Predicate) -> Result<(), StudyError> {
    let needs = |needed: &'static str| StudyError::WrongKind {
        role: NARROWING,
        column: column.name.clone(),
        found: column.kind.display_text(),
        needed,
    };
    let numbers = || if let Values::Number(values) = &column.values { Ok(values) } else { Err(needs("numbers")) };
    match is {
        Predicate::Labels(labels) => {
            let coded = frame.coded(column, LABELS_MOST)?;
            let meant: Vec<bool> = coded.labels.iter().map(|label| labels.contains(label)).collect();
            by_code(kept, &coded.codes, &meant);
        }
        Predicate::Contains(words) => {
            let Values::Label { codes, labels } = &column.values else { return Err(needs("words")) };
            let words = words.to_lowercase();
            let meant: Vec<bool> = labels.iter().map(|label| label.to_lowercase().contains(&words)).collect();
            by_code(kept, codes, &meant);
        }
        Predicate::Between([from, to]) => {
            let (from, to) = (from.unwrap_or(f64::NEG_INFINITY), to.unwrap_or(f64::INFINITY));
            by_value(kept, numbers()?, |value| (from..=to).contains(&value));
        }
        Predicate::BeyondLimits(beyond) => {
            let is_meant = |(row, value): (usize, &f64)| !value.is_nan() && column.limits(row).are_passed_by(*value) == *beyond;
            kept.iter_mut().zip(numbers()?.iter().enumerate()).for_each(|(kept, value)| *kept = *kept && is_meant(value));
        }
        Predicate::During([from, to]) => {
            let Values::Time(values) = &column.values else { return Err(needs("moments")) };
            let named = |text: &Option<String>| text.as_deref().map(moment).transpose();
            let from = named(from)?.map_or(i64::MIN, |[first, _]| first);
            let to = named(to)?.map_or(i64::MAX, |[_, last]| last);
            by_value(kept, values, |value| value != NO_TIME && (from..=to).contains(&value));
        }
        Predicate::Missing(missing) => {
            kept.iter_mut().enumerate().for_each(|(row, kept)| *kept = *kept && column.values.is_missing(row) == *missing);
        }
    }
    Ok(())
}

fn by_value<T: Copy>(kept: &mut [bool], values: &[T], is_meant: impl Fn(T) -> bool) {
    kept.iter_mut().zip(values).for_each(|(kept, value)| *kept &= is_meant(*value));
}

fn by_code(kept: &mut [bool], codes: &[u32], meant: &[bool]) {
    by_value(kept, codes, |code| code != NO_CODE && meant.get(code as usize).copied().unwrap_or(false));
}

fn moment(text: &str) -> Result<[i64; 2], StudyError> {
    let unclear = || StudyError::BadOption {
        option: NARROWING.to_owned(),
        problem: format!("“{text}” is no moment; write it as 2026-05-04 or 2026-05-04 06:10"),
    };
    moments_named(text).ok_or_else(unclear)
}
