//! Which rows a view of a table shows, worked out once for a revision and shared by everyone who scrolls.

use std::sync::Arc;

use acorn_store::{RowWindow, Store, StoredColumn};
use acorn_study::TableView;
use moka::future::Cache;

use crate::bounds::TABLE_VIEW_BYTES;
use crate::service::ServiceError;
use crate::service::answers::compute;

/// A dataset at a revision, and the view in JSON.
type Key = (i64, i64, String);

/// The rows of views, newest use first.
#[derive(Clone)]
pub struct TableViews {
    store: Store,
    rows: Cache<Key, Arc<Vec<u32>>>,
}

/// A window of a view.
pub struct ViewWindow {
    pub window: RowWindow,
    /// Where each of its rows stands in the table, from 0.
    pub places: Vec<u32>,
    /// Rows of the whole view.
    pub count: usize,
}

impl TableViews {
    pub fn new(store: Store) -> TableViews {
        let weight = |(_, _, words): &Key, rows: &Arc<Vec<u32>>| u32::try_from(words.len() + 4 * rows.len()).unwrap_or(u32::MAX);
        TableViews { store, rows: Cache::builder().max_capacity(TABLE_VIEW_BYTES).weigher(weight).build() }
    }

    /// Where the rows of a view stand, in its order, and the revision of the table at which that holds.
    pub async fn rows(&self, dataset_id: i64, view: &TableView) -> Result<(i64, Arc<Vec<u32>>), ServiceError> {
        let words = serde_json::to_string(view).unwrap_or_default();
        let dataset = self.store.dataset(dataset_id).await?;
        if let Some(rows) = self.rows.get(&(dataset_id, dataset.revision, words.clone())).await {
            return Ok((dataset.revision, rows));
        }
        // One column at least, by which rows are counted.
        let first = dataset.columns.first().map(|column| column.id);
        let wanted = |column: &StoredColumn| Some(column.id) == first || view.columns().any(|name| *name == column.name);
        let (read, frame) = self.store.frame(dataset_id, wanted).await?;
        let view = view.clone();
        let rows = Arc::new(compute(move |_| view.rows(&frame)).await?);
        self.rows.insert((dataset_id, read.revision, words), rows.clone()).await;
        Ok((read.revision, rows))
    }

    /// A window of the rows of a view.
    pub async fn window(&self, dataset_id: i64, view: &TableView, first: usize, count: usize) -> Result<ViewWindow, ServiceError> {
        loop {
            let (revision, rows) = self.rows(dataset_id, view).await?;
            let places: Vec<u32> = rows.iter().skip(first).take(count).copied().collect();
            let window = self.store.rows_at(dataset_id, &places).await;
            // Rows may have gone, or come, between the two.
            let moved = || async { Ok::<bool, ServiceError>(self.store.dataset(dataset_id).await?.revision != revision) };
            match window {
                Ok(window) if window.dataset.revision == revision => {
                    return Ok(ViewWindow { window, places, count: rows.len() });
                }
                Err(error) if !moved().await? => return Err(error.into()),
                _ => {}
            }
        }
    }
}
