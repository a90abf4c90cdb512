//! What reading a statement has in common: numbers of a column, and options with something wrong about them.

use std::sync::Arc;

use super::StudyError;
use acorn_data::frame::{Column, Kind, Values};

/// The numbers of a column.
///
/// # Errors
/// [`StudyError::WrongKind`].
pub fn numbers<'f>(column: &'f Column, role: &'static str) -> Result<&'f Arc<[f64]>, StudyError> {
    match &column.values {
        Values::Number(values) => Ok(values),
        _ => Err(StudyError::WrongKind {
            role,
            column: column.name.clone(),
            found: column.kind.display_text(),
            needed: Kind::Number.display_text(),
        }),
    }
}

/// An option with something wrong about it.
pub fn bad(option: &str, problem: impl Into<String>) -> StudyError {
    StudyError::BadOption { option: option.to_owned(), problem: problem.into() }
}
