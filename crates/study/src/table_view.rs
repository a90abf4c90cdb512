//! What a table shows: rows that meet some steps, in some order.

use serde::{Deserialize, Serialize};

use super::{FilterStep, StudyError, narrowed};
use acorn_data::frame::Frame;

/// Rows that meet every step, in the order of some columns; all rows as they stand when both are empty.
#[derive(Clone, Debug, Default, PartialEq, Serialize, Deserialize, utoipa::ToSchema)]
pub struct TableView {
    /// What the rows have to meet.
    #[serde(default)]
    pub only: Vec<FilterStep>,
    /// The columns that order them, the weightiest first.
    #[serde(default)]
    pub order: Vec<OrderBy>,
}

/// A column that orders rows.
#[derive(Clone, Debug, PartialEq, Serialize, Deserialize, utoipa::ToSchema)]
pub struct OrderBy {
    /// The column.
    pub column: String,
    /// The largest, latest or last first.
    #[serde(default)]
    pub descending: bool,
}

impl TableView {
    /// The columns that it reads, some maybe more than once.
    pub fn columns(&self) -> impl Iterator<Item = &String> {
        let narrowing = self.only.iter().filter_map(|one| if let FilterStep::Column { column, .. } = one { Some(column) } else { None });
        narrowing.chain(self.order.iter().map(|by| &by.column))
    }

    /// The positions of its rows, in its order: rows that are equal in it stay as they stand, missing values come last.
    ///
    /// # Errors
    /// Those of narrowing a question; [`StudyError::UnknownColumn`].
    pub fn rows(&self, frame: &Frame) -> Result<Vec<u32>, StudyError> {
        let kept = narrowed::row_mask(frame, &self.only)?;
        let mut rows: Vec<u32> = (0..).zip(kept).filter(|(_, kept)| *kept).map(|(row, _)| row).collect();
        for by in self.order.iter().rev() {
            let unknown = || StudyError::UnknownColumn { role: "order".to_owned(), column: by.column.clone() };
            frame.column(&by.column).ok_or_else(unknown)?.values.order(&mut rows, by.descending);
        }
        Ok(rows)
    }
}
