//! Reading a window of rows and editing cells.

use std::collections::{BTreeMap, BTreeSet};

use acorn_data::frame::{Kind, Values};
use acorn_formats::{CellValue, parse_value};
use serde::{Deserialize, Serialize};

use crate::beyond::beyond;
use crate::chunks::{self, cell_width, read_chunk};
use crate::datasets::{Touched, advance, get, touch};
use crate::formulas::{self, Changed};
use crate::history::{self, About, CellsChanged, Change, HistoryEvent};
use crate::labels::Labels;
use crate::layout::Layout;
use crate::{Dataset, Result, Store, StoreError, allowed, images, rows};

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
    /// The cells beyond their specification limits: column, row in the window, -1 below or 1 above.
    pub beyond: Vec<[i64; 3]>,
}

impl RowWindow {
    fn new(dataset: Dataset, first: usize, row_ids: Vec<i64>, cells: &[Values]) -> RowWindow {
        let texts = |values: &Values| (0..values.len()).map(|row| values.text(row)).collect();
        RowWindow { beyond: beyond(&dataset.columns, cells), cells: cells.iter().map(texts).collect(), dataset, first, row_ids }
    }
}

/// A new text for one cell.
#[derive(Clone, Debug, Deserialize, utoipa::ToSchema)]
pub struct CellEdit {
    /// The column.
    pub column_id: i64,
    /// The position of the row at the revision of the change, from 0.
    pub row: usize,
    /// What was typed; empty for missing.
    pub text: String,
}

/// By what cells come to be what they are.
#[derive(Clone, Copy, Debug, Default, PartialEq, Eq, Serialize, Deserialize, utoipa::ToSchema)]
#[serde(rename_all = "kebab-case")]
pub enum EditKind {
    /// They were typed.
    #[default]
    Typed,
    /// A block was pasted.
    Pasted,
    /// What stands above was filled down.
    Filled,
    /// They were cleared.
    Cleared,
    /// A text was replaced by another wherever it stood.
    Replaced,
}

/// Texts for cells.
#[derive(Clone, Copy, Debug)]
pub struct Put<'e> {
    /// The cells and their texts.
    pub edits: &'e [CellEdit],
    /// By what they come.
    pub how: EditKind,
    /// Whether rows are added where there are too few.
    pub grow: bool,
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
            cells.push(chunks::read_rows(&mut connection, column.id, column.kind, window.clone(), skip..skip + count).await?);
        }
        Ok(RowWindow::new(dataset, first, row_ids, &cells))
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
            cells.push(chunks::read_picked(&mut connection, column.id, column.kind, &chunks, &within).await?);
        }
        Ok(RowWindow::new(dataset, 0, row_ids, &cells))
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
    /// Those of [`Store::put_cells`].
    pub async fn edit_cells(&self, dataset_id: i64, revision: i64, edits: &[CellEdit], change: &Change<'_>) -> Result<Dataset> {
        self.put_cells(dataset_id, revision, &Put { edits, how: EditKind::Typed, grow: false }, change).await
    }

    /// Puts texts into cells, all or none; they are undone together. What grows gets the rows that it needs behind the last one.
    ///
    /// # Errors
    /// [`StoreError::NotFound`], [`StoreError::Conflict`], [`StoreError::Value`] when a text does not fit, [`StoreError::BadColumn`] for
    /// cells that a formula works out, or [`StoreError::BadRows`] when nothing is edited, one cell twice, or too many rows would come.
    pub async fn put_cells(&self, dataset_id: i64, revision: i64, put: &Put<'_>, change: &Change<'_>) -> Result<Dataset> {
        let Put { edits, how, grow } = *put;
        let mut transaction = self.begin().await?;
        let dataset = get(&mut transaction, dataset_id).await?;
        dataset.stands_alone()?;
        let mut layout = Layout::read(&mut transaction, dataset_id).await?;
        let Some(first) = edits.first() else { return Err(StoreError::BadRows { problem: "no cell is named".into() }) };
        let rows: BTreeSet<usize> = edits.iter().map(|edit| edit.row).collect();
        let beyond = rows.last().map_or(0, |last| last.saturating_add(1).saturating_sub(layout.rows()));
        // The rows of a sheet are planned.
        if let Some(row) = rows.last().filter(|_| beyond > 0 && !(grow && dataset.plan.is_none())) {
            return Err(StoreError::NotFound { what: "row", id: (*row as i64).saturating_add(1) });
        }
        let columns: BTreeSet<i64> = edits.iter().map(|edit| edit.column_id).collect();
        for id in &columns {
            formulas::not_typed(dataset.column(*id)?)?;
        }
        advance(&mut transaction, dataset_id, Some(revision)).await?;
        let column = dataset.column(first.column_id)?;
        let had = match layout.window(first.row, 1) {
            (window, _) if window.is_empty() => None,
            (window, skip) => chunks::read_rows(&mut transaction, column.id, column.kind, window, skip..skip + 1).await?.text(0),
        };
        let row_id = layout.id_at(&mut transaction, first.row).await?;
        let changed = CellsChanged {
            column_id: column.id,
            column: column.name.clone(),
            row_id,
            count: edits.len(),
            how,
            down: rows.len(),
            across: columns.len(),
            before: had.unwrap_or_default(),
            after: first.text.trim().to_owned(),
        };
        let event = if edits.len() == 1 { HistoryEvent::Cell(changed) } else { HistoryEvent::Cells(changed) };
        let line = history::record(&mut transaction, change, About::Dataset(dataset_id), &event).await?;
        let grown = match beyond {
            0 => None,
            count => {
                let changed = rows::grow(&mut transaction, line, &dataset, &layout, count).await?;
                layout = Layout::read(&mut transaction, dataset_id).await?;
                Some(changed)
            }
        };
        // The cells of each chunk: where in it, and the new value.
        let mut columns_hit = BTreeMap::<i64, BTreeMap<i64, BTreeMap<usize, CellValue>>>::new();
        for edit in edits {
            let place = layout.holding(edit.row).ok_or(StoreError::NotFound { what: "row", id: (edit.row as i64).saturating_add(1) })?;
            let column = dataset.column(edit.column_id)?;
            let value = parse_value(column.kind, &edit.text)?;
            allowed::one(column, &value)?;
            let chunk = columns_hit.entry(edit.column_id).or_default().entry(place.no).or_default();
            if chunk.insert(edit.row - place.first, value).is_some() {
                return Err(StoreError::BadRows { problem: "one cell is edited twice".into() });
            }
        }
        let mut hit: BTreeSet<i64> = columns_hit.values().flat_map(BTreeMap::keys).copied().collect();
        let changed = match grown {
            // New rows are everybody's.
            Some(Changed { chunks, .. }) => {
                hit.extend(chunks.into_iter().flatten());
                Changed { columns: None, chunks: Some(hit) }
            }
            None => Changed { columns: Some(columns.into_iter().collect()), chunks: Some(hit) },
        };
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
        let touched = match &changed.columns {
            None => Touched::All,
            Some(columns) => {
                touched.extend(columns);
                Touched::Columns(&touched)
            }
        };
        touch(&mut transaction, dataset_id, touched).await?;
        transaction.commit().await?;
        self.dataset(dataset_id).await
    }
}
