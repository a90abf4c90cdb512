//! What was changed, by whom and when, and how it is undone.

use acorn_formats::parse_value;
use serde::{Deserialize, Serialize};
use sqlx::{FromRow, SqliteConnection};

use crate::columns::ColumnChange;
use crate::{Dataset, Result, Store, StoreError, Study, chunks, columns, datasets, findings, studies};

/// Who makes a change, and when.
#[derive(Clone, Copy, Debug)]
pub struct Change<'c> {
    /// Who.
    pub actor: &'c str,
    /// When, in milliseconds since 1970.
    pub at: i64,
}

/// One line of the history.
#[derive(Clone, Debug, Serialize, FromRow)]
#[cfg_attr(feature = "openapi", derive(utoipa::ToSchema))]
pub struct HistoryRow {
    /// Its number.
    pub id: i64,
    /// What kind of change: `cell`, `column`, `dataset-name`, `dataset-created`, `statement`, `study-name`, `finding`, `undo`.
    pub what: String,
    /// What was changed, in JSON.
    pub target: String,
    /// What it was, in JSON.
    pub before: Option<String>,
    /// What it became, in JSON.
    pub after: Option<String>,
    /// Who.
    pub actor: String,
    /// When, in milliseconds since 1970.
    pub at: i64,
    /// Undone since, or not to be undone.
    pub undone: bool,
}

#[derive(Default)]
pub(crate) struct Entry {
    pub dataset_id: Option<i64>,
    pub study_id: Option<i64>,
    pub what: &'static str,
    pub target: String,
    pub before: Option<String>,
    pub after: Option<String>,
    /// Not to be undone.
    pub undone: bool,
}

pub(crate) async fn record(connection: &mut SqliteConnection, change: &Change<'_>, entry: Entry) -> Result<()> {
    let insert = sqlx::query(
        "INSERT INTO history (dataset_id, study_id, what, target, before, after, actor, at, undone) VALUES (?, ?, ?, ?, ?, ?, ?, ?, ?)",
    );
    let insert =
        insert.bind(entry.dataset_id).bind(entry.study_id).bind(entry.what).bind(entry.target).bind(entry.before).bind(entry.after);
    insert.bind(change.actor).bind(change.at).bind(entry.undone).execute(connection).await?;
    Ok(())
}

#[derive(Deserialize)]
struct CellTarget {
    column_id: i64,
    row: usize,
}

#[derive(Deserialize)]
struct ColumnTarget {
    column_id: i64,
}

const FIELDS: &str = "SELECT id, what, target, before, after, actor, at, undone FROM history";

impl Store {
    /// The newest lines of a dataset's history.
    ///
    /// # Errors
    /// The database's own.
    pub async fn history(&self, dataset_id: i64, count: i64) -> Result<Vec<HistoryRow>> {
        let query = sqlx::AssertSqlSafe(format!("{FIELDS} WHERE dataset_id = ? AND study_id IS NULL ORDER BY id DESC LIMIT ?"));
        Ok(sqlx::query_as(query).bind(dataset_id).bind(count).fetch_all(&self.readers).await?)
    }

    /// The newest lines of a study's history.
    ///
    /// # Errors
    /// The database's own.
    pub async fn study_history(&self, study_id: i64, count: i64) -> Result<Vec<HistoryRow>> {
        let query = sqlx::AssertSqlSafe(format!("{FIELDS} WHERE study_id = ? ORDER BY id DESC LIMIT ?"));
        Ok(sqlx::query_as(query).bind(study_id).bind(count).fetch_all(&self.readers).await?)
    }

    /// Undoes the newest change of a dataset that still stands.
    ///
    /// # Errors
    /// [`StoreError::NothingToUndo`], or whatever keeps the old state from being restored.
    pub async fn undo_dataset(&self, dataset_id: i64, change: &Change<'_>) -> Result<Dataset> {
        let mut transaction = self.begin().await?;
        let dataset = datasets::get(&mut transaction, dataset_id).await?;
        let row = newest(&mut transaction, "dataset_id = ? AND study_id IS NULL", dataset_id).await?;
        let before = row.before.as_deref().unwrap_or("null");
        match row.what.as_str() {
            "cell" => {
                let target: CellTarget = serde_json::from_str(&row.target)?;
                let column = dataset.column(target.column_id)?;
                let text: String = serde_json::from_str(before)?;
                chunks::replace_cell(&mut transaction, column.id, column.kind, target.row, parse_value(column.kind, &text)?).await?;
            }
            "column" => {
                let target: ColumnTarget = serde_json::from_str(&row.target)?;
                let wanted: ColumnChange = serde_json::from_str(before)?;
                columns::apply(&mut transaction, &dataset, target.column_id, &wanted).await?;
            }
            _ => datasets::set_name(&mut transaction, dataset_id, &serde_json::from_str::<String>(before)?).await?,
        }
        datasets::advance(&mut transaction, dataset_id, dataset.revision).await?;
        mark_undone(&mut transaction, change, row, Some(dataset_id), None).await?;
        transaction.commit().await?;
        self.dataset(dataset_id).await
    }

    /// Undoes the newest change of a study that still stands.
    ///
    /// # Errors
    /// [`StoreError::NothingToUndo`], or the database's own.
    pub async fn undo_study(&self, study_id: i64, change: &Change<'_>) -> Result<Study> {
        let mut transaction = self.begin().await?;
        let study = studies::get(&mut transaction, study_id).await?;
        let row = newest(&mut transaction, "study_id = ?", study_id).await?;
        let before = row.before.as_deref().unwrap_or("null");
        let mut wanted = study.clone();
        match row.what.as_str() {
            "statement" => wanted.spec = serde_json::from_str(before)?,
            "finding" => findings::restore(&mut transaction, study_id, &row.target, before).await?,
            _ => wanted.name = serde_json::from_str(before)?,
        }
        studies::write(&mut transaction, &wanted, change).await?;
        mark_undone(&mut transaction, change, row, Some(study.dataset_id), Some(study_id)).await?;
        transaction.commit().await?;
        self.study(study_id).await
    }
}

async fn newest(connection: &mut SqliteConnection, of: &str, id: i64) -> Result<HistoryRow> {
    let query = sqlx::AssertSqlSafe(format!("{FIELDS} WHERE {of} AND undone = 0 ORDER BY id DESC LIMIT 1"));
    sqlx::query_as(query).bind(id).fetch_optional(connection).await?.ok_or(StoreError::NothingToUndo)
}

async fn mark_undone(
    connection: &mut SqliteConnection,
    change: &Change<'_>,
    row: HistoryRow,
    dataset_id: Option<i64>,
    study_id: Option<i64>,
) -> Result<()> {
    sqlx::query("UPDATE history SET undone = 1 WHERE id = ?").bind(row.id).execute(&mut *connection).await?;
    let target = serde_json::json!({ "undid": row.id, "what": row.what, "target": row.target }).to_string();
    record(connection, change, Entry { dataset_id, study_id, what: "undo", target, before: row.after, after: row.before, undone: true })
        .await
}
