//! Datasets, studies and their history in one SQLite file.
//!
//! One writer connection, a pool of readers. Every change is one transaction that also writes its history
//! row; it names the revision it was made on, and fails with [`StoreError::Conflict`] on any other.
//! Acknowledged changes are on disk (`synchronous=FULL`), and whoever listens to [`Store::changes`] is told of them.

mod alerts;
mod allowed;
mod arrange;
mod beyond;
mod briefs;
mod cells;
mod changes;
#[doc(hidden)]
pub mod chunks;
mod columns;
mod datasets;
mod entries;
mod error;
mod findings;
mod formula_names;
mod formulas;
mod gauges;
#[doc(hidden)]
pub mod history;
#[doc(hidden)]
pub mod images;
#[doc(hidden)]
pub mod labels;
#[doc(hidden)]
pub mod layout;
mod links;
mod lists;
mod measuring;
mod order;
mod plans;
mod recipes;
mod refill;
mod rows;
mod sheets;
mod statement;
mod stations;
mod steps;
mod studies;
mod undo;
mod views;
mod wall;
mod watching;

use std::path::Path;
use std::time::Duration;

use sqlx::sqlite::{SqliteConnectOptions, SqliteJournalMode, SqlitePool, SqlitePoolOptions, SqliteSynchronous};
use sqlx::{Connection, SqliteConnection};
use tokio::sync::broadcast;

pub use alerts::{Alert, AlertCondition, Told};
pub use arrange::Stood;
pub use arrange::{NewColumn, Placed};
pub use briefs::KeptBrief;
pub use cells::{CellEdit, EditKind, Put, RowWindow};
pub use changes::{ChangeSet, Changed, Writing};
pub use chunks::CHUNK_ROWS;
pub use columns::{ColumnChange, OneColumn};
pub use datasets::{Dataset, Follows, NewDataset, SheetPlan, StoredColumn};
pub use entries::{EntryReaction, EntryTime, Sent, StoredEntry, Taken};
pub use error::StoreError;
pub use findings::{Finding, Said, SignalRef};
pub use gauges::{Gauge, GaugeChange, GaugeRecord, GaugedColumn, NewRecord};
pub use history::{Arranged, CellsChanged, Change, Created, HistoryEvent, HistoryLine, Stage};
pub use links::{Link, Seen};
pub use lists::{ChoiceList, ListChange};
pub use plans::{Collection, CollectionChange, CollectionVersion, NewCollection};
pub use recipes::Recipe;
pub use rows::{GoneRows, NewRows};
pub use sheets::{NewSheet, StoredSheet};
pub use stations::{NewStation, Station, StationChange};
pub use studies::{NewStudy, Study, StudyChange};
pub use undo::UndoDirection;
pub use views::NamedView;
pub use wall::{DayStanding, WallPlace};

/// What the store gives.
pub type Result<T> = std::result::Result<T, StoreError>;

/// The store of one application.
#[derive(Clone, Debug)]
pub struct Store {
    #[doc(hidden)]
    pub writer: SqlitePool,
    readers: SqlitePool,
    listeners: broadcast::Sender<ChangeSet>,
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
        // Migrations build tables anew, which must not delete what refers to them.
        let mut migrating = SqliteConnection::connect_with(&options.clone().foreign_keys(false)).await?;
        sqlx::migrate!().run(&mut migrating).await?;
        migrating.close().await?;
        let writer = SqlitePoolOptions::new()
            .max_connections(1)
            .after_connect(|connection, _| Box::pin(changes::watch(connection)))
            .connect_with(options.clone())
            .await?;
        let readers = SqlitePoolOptions::new().max_connections(4).connect_with(options.read_only(true)).await?;
        Ok(Store { writer, readers, listeners: broadcast::Sender::new(changes::CHANGES_WAITING) })
    }

    /// Copies a database that may be in use into a new file, as it stands at one moment.
    ///
    /// # Errors
    /// The database's own: where there is none, where the new file exists or cannot be written.
    pub async fn back_up(file: &Path, to: &Path) -> Result<()> {
        let options = SqliteConnectOptions::new().filename(file).busy_timeout(Duration::from_secs(10));
        let mut connection = SqliteConnection::connect_with(&options).await?;
        sqlx::query("VACUUM INTO ?").bind(to.to_string_lossy()).execute(&mut connection).await?;
        connection.close().await?;
        Ok(())
    }

    /// Closes all connections; pending writes are finished.
    pub async fn close(&self) {
        self.readers.close().await;
        self.writer.close().await;
    }

    /// Hears what every transaction changes from now on.
    pub fn changes(&self) -> broadcast::Receiver<ChangeSet> {
        self.listeners.subscribe()
    }

    #[doc(hidden)]
    pub async fn begin(&self) -> Result<Writing> {
        let transaction = match self.writer.begin_with("BEGIN IMMEDIATE").await {
            Ok(transaction) => transaction,
            // A full disk ends a transaction behind the back of its connection, which then begins no other; a new connection does.
            Err(_) => {
                self.writer.acquire().await?.close().await?;
                self.writer.begin_with("BEGIN IMMEDIATE").await?
            }
        };
        Ok(Writing { transaction, listeners: self.listeners.clone() })
    }
}
