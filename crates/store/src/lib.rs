//! Datasets, studies and their history in one SQLite file.
//!
//! One writer connection, a pool of readers. Every change is one transaction that also writes its history
//! row; it names the revision it was made on, and fails with [`StoreError::Conflict`] on any other.
//! Acknowledged changes are on disk (`synchronous=FULL`).

mod cells;
mod chunks;
mod columns;
mod datasets;
mod error;
mod findings;
mod history;
mod studies;

use std::path::Path;
use std::time::Duration;

use sqlx::sqlite::{SqliteConnectOptions, SqliteJournalMode, SqlitePool, SqlitePoolOptions, SqliteSynchronous};
use sqlx::{Sqlite, Transaction};

pub use cells::{CellEdit, RowWindow};
pub use chunks::CHUNK_ROWS;
pub use columns::ColumnChange;
pub use datasets::{Dataset, NewDataset, StoredColumn};
pub use error::StoreError;
pub use findings::{About, Finding, Said};
pub use history::{Change, HistoryRow};
pub use studies::{NewStudy, Study, StudyChange};

type Result<T> = std::result::Result<T, StoreError>;

/// The store of one application.
#[derive(Clone, Debug)]
pub struct Store {
    writer: SqlitePool,
    readers: SqlitePool,
}

impl Store {
    /// Opens or creates the store in a file, bringing its tables up to date.
    ///
    /// # Errors
    /// [`StoreError::Database`] when the file cannot be opened or migrated.
    pub async fn open(file: &Path) -> Result<Store> {
        let options = SqliteConnectOptions::new()
            .filename(file)
            .create_if_missing(true)
            .journal_mode(SqliteJournalMode::Wal)
            .synchronous(SqliteSynchronous::Full)
            .foreign_keys(true)
            .busy_timeout(Duration::from_secs(10));
        let writer = SqlitePoolOptions::new().max_connections(1).connect_with(options.clone()).await?;
        sqlx::migrate!().run(&writer).await?;
        let readers = SqlitePoolOptions::new().max_connections(4).connect_with(options.read_only(true)).await?;
        Ok(Store { writer, readers })
    }

    /// Closes all connections; pending writes are finished.
    pub async fn close(&self) {
        self.readers.close().await;
        self.writer.close().await;
    }

    async fn begin(&self) -> Result<Transaction<'static, Sqlite>> {
        Ok(self.writer.begin_with("BEGIN IMMEDIATE").await?)
    }
}
