//! The rows that a question is narrowed to.

use std::borrow::Cow;

use super::{Only, Spec, StudyError};
use crate::frame::Frame;

/// Most labels of a column that a question is narrowed by.
const LABELS_MOST: usize = 1_000_000;

/// The rows of a frame that meet every step of a question, with the columns that it `reads`.
///
/// # Errors
/// [`StudyError::UnknownColumn`]; [`StudyError::TooManyGroups`].
pub fn narrowed<'f>(frame: &'f Frame, spec: &Spec, reads: impl Fn(&str) -> bool) -> Result<Cow<'f, Frame>, StudyError> {
    if spec.only.is_empty() {
        return Ok(Cow::Borrowed(frame));
    }
    let mut kept = vec![true; frame.rows()];
    for step in &spec.only {
        match step {
            Only::Label { column: name, labels, .. } => {
                let unknown = || StudyError::UnknownColumn { role: "narrowing".to_owned(), column: name.clone() };
                let coded = frame.coded(frame.column(name).ok_or_else(unknown)?, LABELS_MOST)?;
                let is_meant: Vec<bool> = coded.labels.iter().map(|label| labels.contains(label)).collect();
                let meant = |code: u32| is_meant.get(code as usize).copied().unwrap_or(false);
                kept.iter_mut().zip(coded.codes.iter()).for_each(|(kept, code)| *kept &= meant(*code));
            }
            Only::Rows { rows, .. } => {
                let inside = |id: i64| rows.iter().any(|[first, last]| (*first..=*last).contains(&id));
                kept.iter_mut().enumerate().for_each(|(row, kept)| *kept = *kept && inside(frame.row_id(row)));
            }
        }
    }
    let read: Vec<_> = frame.columns().iter().filter(|column| reads(&column.name)).collect();
    let rows: Vec<usize> = (0..frame.rows()).filter(|&row| kept[row]).collect();
    Ok(Cow::Owned(frame.pick(&read, &rows)))
}
