//! Rows put in another order for good. A row keeps its id, so that what points to it still does.

use sqlx::SqliteConnection;

use crate::chunks::{Chunk, cell_width};
use crate::datasets::{Touched, advance, get, touch};
use crate::formulas::{self, Changed};
use crate::history::{self, About, Change, HistoryEvent};
use crate::images::replace;
use crate::layout::Layout;
use crate::{Dataset, Result, Store, StoreError};

impl Store {
    /// Puts all rows in another order: at each place the row that stands now at the position given for it.
    ///
    /// # Errors
    /// [`StoreError::NotFound`], [`StoreError::Conflict`], [`StoreError::BadRows`] for a sheet, whose rows stand as they were planned,
    /// or when a row is named twice or not at all.
    pub async fn order_rows(&self, dataset_id: i64, rows: &[u32], by: &[String], revision: i64, change: &Change<'_>) -> Result<Dataset> {
        let mut transaction = self.begin().await?;
        let dataset = get(&mut transaction, dataset_id).await?;
        dataset.stands_alone()?;
        if dataset.plan.is_some() {
            return Err(StoreError::BadRows {
                problem: format!("the rows of “{}” stand in the order in which they were planned", dataset.name),
            });
        }
        let mut seen = vec![false; dataset.row_count as usize];
        let each_once = rows.iter().all(|row| seen.get_mut(*row as usize).is_some_and(|seen| !std::mem::replace(seen, true)));
        if !each_once || rows.len() != seen.len() {
            return Err(StoreError::BadRows { problem: "an order names every row once".into() });
        }
        if rows.iter().zip(0..).any(|(row, place)| *row != place) {
            advance(&mut transaction, dataset_id, Some(revision)).await?;
            let event = HistoryEvent::RowsOrdered { by: by.to_vec(), count: rows.len() };
            let line = history::record(&mut transaction, change, About::Dataset(dataset_id), &event).await?;
            let layout = Layout::read(&mut transaction, dataset_id).await?;
            let columns =
                dataset.columns.iter().filter(|column| column.formula.is_none()).map(|column| (column.id, cell_width(column.kind)));
            for (column_id, width) in columns.chain([(layout.ids_column, 8)]) {
                permute(&mut transaction, line, &layout, column_id, width, rows).await?;
            }
            sqlx::query("UPDATE dataset SET ids_are_places = 0 WHERE id = ?").bind(dataset_id).execute(&mut *transaction).await?;
            // A column that is worked out may look at the rows around.
            formulas::refresh(&mut transaction, line, &dataset, &Changed { columns: None, chunks: None }).await?;
            touch(&mut transaction, dataset_id, Touched::All).await?;
        }
        transaction.commit().await?;
        self.dataset(dataset_id).await
    }
}

async fn permute(connection: &mut SqliteConnection, line: i64, layout: &Layout, column_id: i64, width: usize, rows: &[u32]) -> Result<()> {
    let query = sqlx::query_scalar("SELECT cells FROM column_chunk WHERE column_id = ? ORDER BY chunk_no").bind(column_id);
    let cells: Vec<Vec<u8>> = query.fetch_all(&mut *connection).await?;
    let cells = cells.concat();
    if cells.len() != rows.len() * width {
        return Err(StoreError::Corrupt(format!("column {column_id} is not as long as its table")));
    }
    for place in &layout.places {
        let of_chunk = &rows[place.first..place.first + place.rows];
        let ordered = of_chunk.iter().flat_map(|row| &cells[*row as usize * width..][..width]).copied().collect();
        replace(connection, line, column_id, place.no, Some(&Chunk { rows: place.rows, cells: ordered })).await?;
    }
    Ok(())
}
