//! Reading a window of rows and editing cells.

use std::collections::BTreeMap;

use acorn_core::frame::Values;
use acorn_formats::parse_value;
use serde::Deserialize;

use crate::chunks::{self, Labels, cell_width, read_chunk};
use crate::datasets::{Touched, advance, get, touch};
use crate::history::{self, Change};
use crate::layout::Layout;
use crate::{Dataset, Result, Store, StoreError, images};

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
    /// The column.
    pub column_id: i64,
    /// The position of the row at the revision of the change, from 0.
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
        let layout = Layout::read(&mut connection, dataset_id).await?;
        let (window, skip) = layout.window(first, count);
        let row_ids = chunks::read_row_ids(&mut connection, layout.ids_column, window.clone()).await?;
        let row_ids = row_ids.iter().skip(skip).take(count).copied().collect();
        let mut cells = Vec::with_capacity(dataset.columns.len());
        for column in &dataset.columns {
            let values: Values = chunks::read_column(&mut connection, column.id, column.kind, window.clone()).await?;
            cells.push((skip..(skip + count).min(values.len())).map(|row| values.text(row)).collect());
        }
        Ok(RowWindow { dataset, first, row_ids, cells })
    }

    /// Where rows stand by now, as stretches of positions, from stretches of row ids. Rows that are gone have no place.
    ///
    /// # Errors
    /// [`StoreError::NotFound`], or the database's own.
    pub async fn places(&self, dataset_id: i64, ids: &[[i64; 2]]) -> Result<Vec<[usize; 2]>> {
        let mut connection = self.readers.begin().await?;
        get(&mut connection, dataset_id).await?;
        let layout = Layout::read(&mut connection, dataset_id).await?;
        let all = chunks::read_row_ids(&mut connection, layout.ids_column, i64::MIN..i64::MAX).await?;
        let is_meant = |id: &i64| ids.iter().any(|[first, last]| (first..=last).contains(&id));
        let mut places: Vec<[usize; 2]> = Vec::new();
        for position in all.iter().enumerate().filter(|(_, id)| is_meant(id)).map(|(position, _)| position) {
            match places.last_mut() {
                Some(place) if place[1] + 1 == position => place[1] = position,
                _ => places.push([position; 2]),
            }
        }
        Ok(places)
    }

    /// Edits cells, all or none; they are undone together.
    ///
    /// # Errors
    /// [`StoreError::NotFound`], [`StoreError::Conflict`], [`StoreError::Value`] when a text does not fit, or
    /// [`StoreError::BadRows`] when nothing is edited or one cell twice.
    pub async fn edit_cells(&self, dataset_id: i64, revision: i64, edits: &[CellEdit], change: &Change<'_>) -> Result<Dataset> {
        let mut transaction = self.begin().await?;
        let dataset = get(&mut transaction, dataset_id).await?;
        let layout = Layout::read(&mut transaction, dataset_id).await?;
        // The cells of each chunk: where in it, and the new value.
        let mut chunks_hit = BTreeMap::<(i64, i64), BTreeMap<usize, _>>::new();
        for edit in edits {
            let column = dataset.column(edit.column_id)?;
            let place = layout.holding(edit.row).ok_or(StoreError::NotFound { what: "row", id: (edit.row as i64).saturating_add(1) })?;
            let value = parse_value(column.kind, &edit.text)?;
            if chunks_hit.entry((column.id, place.no)).or_default().insert(edit.row - place.first, value).is_some() {
                return Err(StoreError::BadRows { problem: "one cell is edited twice".into() });
            }
        }
        let Some(first) = edits.first() else { return Err(StoreError::BadRows { problem: "no cell is named".into() }) };
        advance(&mut transaction, dataset_id, Some(revision)).await?;
        let column = dataset.column(first.column_id)?;
        let (window, skip) = layout.window(first.row, 1);
        let row_id = chunks::read_row_ids(&mut transaction, layout.ids_column, window.clone()).await?[skip];
        let had = chunks::read_column(&mut transaction, column.id, column.kind, window).await?.text(skip).unwrap_or_default();
        let what = if edits.len() == 1 { "cell" } else { "cells" };
        let entry = history::Entry {
            dataset_id: Some(dataset_id),
            what,
            target: serde_json::json!({"column_id": column.id, "column": column.name, "row_id": row_id, "count": edits.len()}),
            before: Some(serde_json::to_string(&had)?),
            after: Some(serde_json::to_string(first.text.trim())?),
            ..Default::default()
        };
        let line = history::record(&mut transaction, change, entry).await?;
        let mut touched = Vec::new();
        for ((column_id, chunk_no), values) in chunks_hit {
            let column = dataset.column(column_id)?;
            let width = cell_width(column.kind);
            let mut labels = Labels::read(&mut transaction, column_id).await?;
            let lacks = || StoreError::Corrupt(format!("column {column_id} lacks chunk {chunk_no}"));
            let mut chunk = read_chunk(&mut transaction, column_id, chunk_no).await?.ok_or_else(lacks)?;
            for (row, value) in values {
                let cell = labels.cell(&mut transaction, column.kind, value).await?;
                chunk.cells[row * width..(row + 1) * width].copy_from_slice(&cell);
            }
            images::replace(&mut transaction, line, column_id, chunk_no, Some(&chunk)).await?;
            touched.push(column_id);
        }
        touch(&mut transaction, dataset_id, Touched::Columns(&touched)).await?;
        transaction.commit().await?;
        self.dataset(dataset_id).await
    }
}
