//! What a transaction changed, told once to everyone who listens as soon as it is on disk. Triggers of the writing connection note it,
//! so that no function has to remember to.

use std::ops::{Deref, DerefMut};
use std::sync::Arc;

use sqlx::{Sqlite, SqliteConnection, Transaction};
use tokio::sync::broadcast;

use crate::Result;

/// One thing that changed.
#[derive(Clone, Copy, Debug, PartialEq, Eq, Hash)]
pub enum Changed {
    /// A dataset: its values, columns or name. Statements that name its columns may read differently.
    Dataset {
        /// Its number.
        id: i64,
        /// Its new revision; 0 when it was deleted.
        revision: i64,
    },
    /// The named views of a dataset.
    Views {
        /// The number of the dataset.
        dataset_id: i64,
    },
    /// A study: its statement, name or causes.
    Study {
        /// Its number.
        id: i64,
        /// Its new revision; 0 when it was deleted.
        revision: i64,
    },
    /// Plans, stations, lists, entries, alerts, or the order of the Wall.
    Floor,
    /// Gauges or their studies.
    Gauges,
}

/// Everything that one transaction changed.
pub type ChangeSet = Arc<[Changed]>;

/// Change sets that a slow listener may lag behind.
pub(crate) const CHANGES_WAITING: usize = 256;

/// Which tables are watched: the table, what changes with it, and the column that says which.
const WATCHED: [(&str, &str, &str); 14] = [
    ("dataset", "dataset", "id"),
    ("dataset_link", "dataset", "dataset_id"),
    ("dataset_view", "views", "dataset_id"),
    ("study", "study", "id"),
    ("choice_list", "floor", "0"),
    ("collection_plan", "floor", "0"),
    ("collection_study", "floor", "0"),
    ("station", "floor", "0"),
    ("entry", "floor", "0"),
    ("alert", "floor", "0"),
    ("alert_told", "floor", "0"),
    ("wall_place", "floor", "0"),
    ("gauge", "gauges", "0"),
    ("gauge_record", "gauges", "0"),
];

/// Starts to note what a connection changes. The notes are part of each transaction: what is rolled back leaves none.
pub(crate) async fn watch(connection: &mut SqliteConnection) -> sqlx::Result<()> {
    let mut script =
        "PRAGMA temp_store = MEMORY; CREATE TEMP TABLE changed (kind TEXT, id INTEGER, PRIMARY KEY (kind, id)) WITHOUT ROWID;".to_owned();
    for (table, kind, id) in WATCHED {
        for (operation, row) in [("INSERT", "NEW"), ("UPDATE", "NEW"), ("DELETE", "OLD")] {
            let id = if id == "0" { id.to_owned() } else { format!("{row}.{id}") };
            // Not `INSERT OR IGNORE`: an upsert that fires the trigger would put its own way of handling conflicts in its place.
            script += &format!(
                "CREATE TEMP TRIGGER {table}_{operation} AFTER {operation} ON main.{table} \
                 WHEN NOT EXISTS (SELECT 1 FROM changed AS known WHERE known.kind = '{kind}' AND known.id = {id}) \
                 BEGIN INSERT INTO changed VALUES ('{kind}', {id}); END;"
            );
        }
    }
    sqlx::raw_sql(sqlx::AssertSqlSafe(script)).execute(connection).await.map(drop)
}

/// What the transaction of a connection has changed so far.
async fn take(connection: &mut SqliteConnection) -> Result<Vec<Changed>> {
    let query = sqlx::query_as(
        "SELECT kind, id, coalesce((SELECT revision FROM dataset WHERE kind = 'dataset' AND dataset.id = changed.id), \
         (SELECT revision FROM study WHERE kind = 'study' AND study.id = changed.id), 0) FROM changed",
    );
    let noted: Vec<(String, i64, i64)> = query.fetch_all(&mut *connection).await?;
    if !noted.is_empty() {
        sqlx::query("DELETE FROM changed").execute(connection).await?;
    }
    let changed = |(kind, id, revision): (String, i64, i64)| match kind.as_str() {
        "dataset" => Changed::Dataset { id, revision },
        "study" => Changed::Study { id, revision },
        "views" => Changed::Views { dataset_id: id },
        "gauges" => Changed::Gauges,
        _ => Changed::Floor,
    };
    Ok(noted.into_iter().map(changed).collect())
}

/// A transaction that writes. It is rolled back unless it is committed.
#[doc(hidden)]
pub struct Writing {
    pub(crate) transaction: Transaction<'static, Sqlite>,
    pub(crate) listeners: broadcast::Sender<ChangeSet>,
}

impl Deref for Writing {
    type Target = SqliteConnection;

    fn deref(&self) -> &SqliteConnection {
        &self.transaction
    }
}

impl DerefMut for Writing {
    fn deref_mut(&mut self) -> &mut SqliteConnection {
        &mut self.transaction
    }
}

impl Writing {
    /// Puts everything on disk, then tells what changed.
    #[doc(hidden)]
    pub async fn commit(mut self) -> Result<()> {
        let changed = take(&mut self).await?;
        self.transaction.commit().await?;
        if !changed.is_empty() {
            // An error only means that nobody listens.
            let _ = self.listeners.send(changed.into());
        }
        Ok(())
    }
}
