//! Steps that narrow a statement or a view, as they are stored: columns by id, so that a new name costs nothing.

use acorn_study::{FilterStep, Predicate};
use serde::{Deserialize, Serialize};

use crate::Result;

/// A step.
#[derive(Serialize, Deserialize)]
#[serde(untagged)]
pub enum Step {
    Column {
        column: i64,
        #[serde(flatten)]
        is: Predicate,
        #[serde(default)]
        role: Option<String>,
    },
    Rows {
        rows: Vec<[i64; 2]>,
        from: String,
    },
}

impl Step {
    /// A step with the ids of its columns.
    ///
    /// # Errors
    /// Those of `id`.
    pub fn of(only: &FilterStep, id: impl Fn(&String) -> Result<i64>) -> Result<Step> {
        Ok(match only.clone() {
            FilterStep::Column { column, is, role } => Step::Column { column: id(&column)?, is, role },
            FilterStep::Rows { rows, from } => Step::Rows { rows, from },
        })
    }

    /// A step with the names that its columns have now; `None` when one is gone.
    pub fn named(self, name: impl Fn(i64) -> Option<String>) -> Option<FilterStep> {
        Some(match self {
            Step::Column { column, is, role } => FilterStep::Column { column: name(column)?, is, role },
            Step::Rows { rows, from } => FilterStep::Rows { rows, from },
        })
    }
}
