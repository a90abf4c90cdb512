//! Reading a window of rows and editing cells.

use std::collections::BTreeMap;

use acorn_core::frame::{Kind, Values};
use acorn_formats::{CellValue, parse_value};
use serde::Deserialize;

use crate::chunks::{self, cell_width, read_chunk};
use crate::datasets::{Touched, advance, get, touch};
use crate::formulas::{self, Changed};
use crate::history::{self, Change};
use crate::labels::Labels;
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
            let values = chunks::read_rows(&mut connection, column.id, column.kind, window.clone(), skip..skip + count).await?;
            cells.push((0..values.len()).map(|row| values.text(row)).collect());
        }
        Ok(RowWindow { dataset, first, row_ids, cells })
    }

    /// Reads the rows at some positions, in that order.
    ///
    /// # Errors
    /// [`StoreError::NotFound`], also for a position that no row has, or the database's own.
    pub async fn rows_at(&self, dataset_id: i64, positions: &[u32]) -> Result<RowWindow> {
        let mut connection = self.readers.begin().await?;
        let dataset = get(&mut connection, dataset_id).await?;
        let layout = Layout::read(&mut connection, dataset_id).await?;
        let holding = |position: &u32| {
            let lacking = || StoreError::NotFound { what: "row", id: i64::from(*position) + 1 };
            layout.holding(*position as usize).ok_or_else(lacking)
        };
        let places = positions.iter().map(holding).collect::<Result<Vec<_>>>()?;
        // Where the cells of each chunk begin among those that are read.
        let mut begins: BTreeMap<i64, (usize, usize)> = places.iter().map(|place| (place.no, (0, place.rows))).collect();
        let mut first = 0;
        for (begin, rows) in begins.values_mut() {
            *begin = first;
            first += *rows;
        }
        let chunks: Vec<i64> = begins.keys().copied().collect();
        let within: Vec<usize> =
            positions.iter().zip(&places).map(|(position, place)| begins[&place.no].0 + *position as usize - place.first).collect();
        let ids = chunks::read_picked(&mut connection, layout.ids_column, Kind::DateTime, &chunks, &within).await?;
        let row_ids = if let Values::Time(ids) = ids { ids.to_vec() } else { Vec::new() };
        let mut cells = Vec::with_capacity(dataset.columns.len());
        for column in &dataset.columns {
            let values = chunks::read_picked(&mut connection, column.id, column.kind, &chunks, &within).await?;
            cells.push((0..values.len()).map(|row| values.text(row)).collect());
        }
        Ok(RowWindow { dataset, first: 0, row_ids, cells })
    }

    /// Where rows stand by now, as stretches of positions, from stretches of row ids. Rows that are gone have no place.
    ///
    /// # Errors
    /// [`StoreError::NotFound`], or the database's own.
    pub async fn places(&self, dataset_id: i64, ids: &[[i64; 2]]) -> Result<Vec<[usize; 2]>> {
        let mut connection = self.readers.begin().await?;
        get(&mut connection, dataset_id).await?;
        let layout = Layout::read(&mut connection, dataset_id).await?;
        let all = chunks::read_row_ids(&mut connection, layout.ids_column, chunks::WHOLE).await?;
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
        let mut columns_hit = BTreeMap::<i64, BTreeMap<i64, BTreeMap<usize, CellValue>>>::new();
        for edit in edits {
            let column = dataset.column(edit.column_id)?;
            formulas::not_typed(column)?;
            let place = layout.holding(edit.row).ok_or(StoreError::NotFound { what: "row", id: (edit.row as i64).saturating_add(1) })?;
            let value = parse_value(column.kind, &edit.text)?;
            let chunk = columns_hit.entry(column.id).or_default().entry(place.no).or_default();
            if chunk.insert(edit.row - place.first, value).is_some() {
                return Err(StoreError::BadRows { problem: "one cell is edited twice".into() });
            }
        }
        let Some(first) = edits.first() else { return Err(StoreError::BadRows { problem: "no cell is named".into() }) };
        advance(&mut transaction, dataset_id, Some(revision)).await?;
        let column = dataset.column(first.column_id)?;
        let (window, skip) = layout.window(first.row, 1);
        let row_id = chunks::read_row_ids(&mut transaction, layout.ids_column, window.clone()).await?[skip];
        let had = chunks::read_rows(&mut transaction, column.id, column.kind, window, skip..skip + 1).await?.text(0).unwrap_or_default();
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
        let chunks = columns_hit.values().flat_map(BTreeMap::keys).copied().collect();
        let changed = Changed { columns: Some(columns_hit.keys().copied().collect()), chunks: Some(chunks) };
        for (column_id, chunks_hit) in columns_hit {
            let kind = dataset.column(column_id)?.kind;
            let width = cell_width(kind);
            let labels = Labels::of(&mut transaction, column_id, chunks_hit.values().flat_map(BTreeMap::values)).await?;
            for (chunk_no, values) in chunks_hit {
                let lacks = || StoreError::Corrupt(format!("column {column_id} lacks chunk {chunk_no}"));
                let mut chunk = read_chunk(&mut transaction, column_id, chunk_no).await?.ok_or_else(lacks)?;
                for (row, value) in values {
                    chunk.cells[row * width..(row + 1) * width].copy_from_slice(&labels.cell(kind, &value));
                }
                images::replace(&mut transaction, line, column_id, chunk_no, Some(&chunk)).await?;
            }
        }
        let mut touched = formulas::refresh(&mut transaction, line, &dataset, &changed).await?;
        touched.extend(changed.columns.into_iter().flatten());
        touch(&mut transaction, dataset_id, Touched::Columns(&touched)).await?;
        transaction.commit().await?;
        self.dataset(dataset_id).await
    }
}
