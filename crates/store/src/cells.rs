//! Reading a window of rows and editing one cell.

use acorn_core::frame::Values;
use acorn_formats::parse_value;
use serde::Deserialize;

use crate::chunks;
use crate::datasets::{advance, chunk_window, get};
use crate::history::{self, Change};
use crate::{Dataset, Result, Store, StoreError};

/// A window of rows, column by column.
pub struct RowWindow {
    /// The dataset at the revision read.
    pub dataset: Dataset,
    /// First row, from 0.
    pub first: usize,
    /// Row ids.
    pub row_ids: Vec<i64>,
    /// The text of each cell by column and row; `None` when missing.
    pub cells: Vec<Vec<Option<String>>>,
}

/// A new text for one cell.
#[derive(Clone, Debug, Deserialize)]
#[cfg_attr(feature = "openapi", derive(utoipa::ToSchema))]
pub struct CellEdit {
    /// The revision of the dataset that the person saw.
    pub revision: i64,
    /// The column.
    pub column_id: i64,
    /// The row, from 0.
    pub row: usize,
    /// What was typed; empty for missing.
    pub text: String,
}

impl Store {
    /// Reads a window of rows.
    ///
    /// # Errors
    /// [`StoreError::NotFound`], or the database's own.
    pub async fn rows(&self, dataset_id: i64, first: usize, count: usize) -> Result<RowWindow> {
        let mut connection = self.readers.begin().await?;
        let dataset = get(&mut connection, dataset_id).await?;
        let first = first.min(dataset.row_count as usize);
        let count = count.min(dataset.row_count as usize - first);
        let (window, skip) = chunk_window(first, count);
        let row_ids = chunks::read_row_ids(&mut connection, dataset_id, window.clone()).await?;
        let row_ids = row_ids.iter().skip(skip).take(count).copied().collect();
        let mut cells = Vec::with_capacity(dataset.columns.len());
        for column in &dataset.columns {
            let values: Values = chunks::read_column(&mut connection, column.id, column.kind, window.clone()).await?;
            cells.push((skip..(skip + count).min(values.len())).map(|row| values.text(row)).collect());
        }
        Ok(RowWindow { dataset, first, row_ids, cells })
    }

    /// Edits one cell.
    ///
    /// # Errors
    /// [`StoreError::NotFound`], [`StoreError::Conflict`], or [`StoreError::Value`] when the text does not fit.
    pub async fn edit_cell(&self, dataset_id: i64, edit: &CellEdit, change: &Change<'_>) -> Result<Dataset> {
        let mut transaction = self.begin().await?;
        let dataset = get(&mut transaction, dataset_id).await?;
        let column = dataset.column(edit.column_id)?;
        if edit.row >= dataset.row_count as usize {
            return Err(StoreError::NotFound { what: "row", id: edit.row as i64 + 1 });
        }
        let value = parse_value(column.kind, &edit.text)?;
        advance(&mut transaction, dataset_id, edit.revision).await?;
        let before = chunks::replace_cell(&mut transaction, column.id, column.kind, edit.row, value).await?;
        let entry = history::Entry {
            dataset_id: Some(dataset_id),
            what: "cell",
            target: serde_json::json!({"column_id": column.id, "column": column.name, "row": edit.row}).to_string(),
            before: Some(serde_json::to_string(&before.unwrap_or_default())?),
            after: Some(serde_json::to_string(edit.text.trim())?),
            ..Default::default()
        };
        history::record(&mut transaction, change, entry).await?;
        transaction.commit().await?;
        self.dataset(dataset_id).await
    }
}
