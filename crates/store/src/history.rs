//! What was changed, by whom and when.

use std::collections::{HashMap, HashSet};

use serde::{Deserialize, Serialize};
use sqlx::{FromRow, SqliteConnection};

use crate::layout::Layout;
use crate::{Result, Store, images, statement};

/// Who makes a change, and when.
#[derive(Clone, Copy, Debug)]
pub struct Change<'c> {
    /// Who.
    pub actor: &'c str,
    /// When, in milliseconds since 1970.
    pub at: i64,
}

/// What can still be done about a line of the history.
#[derive(Clone, Copy, Debug, PartialEq, Eq, Serialize, sqlx::Type, utoipa::ToSchema)]
#[serde(rename_all = "kebab-case")]
#[sqlx(rename_all = "kebab-case")]
pub enum Stage {
    /// It holds and can be undone.
    Stands,
    /// It was undone and can be redone.
    Undone,
    /// It was undone, and something else was changed since.
    Dropped,
    /// It can be neither undone nor redone.
    Fixed,
}

/// One line of the history.
#[derive(Clone, Debug, Serialize, FromRow, utoipa::ToSchema)]
pub struct HistoryRow {
    /// Its number.
    pub id: i64,
    /// What kind of change: `cell`, `cells`, `rows-added`, `rows-deleted`, `rows-ordered`, `column`, `columns`, `column-added`,
    /// `column-deleted`, `columns-arranged`, `dataset-name`, `dataset-created`, `followed`, `unlinked`,
    /// `statement`, `study-name`, `shown`, `study-created`, `finding`, `undo`, `redo`.
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
    /// What can still be done about it.
    pub stage: Stage,
    /// The position by now of the row that it is about; absent when it is about none, or the row is gone.
    #[sqlx(default)]
    pub place: Option<i64>,
    /// The line that undid it.
    #[serde(skip)]
    pub(crate) undone_by: Option<i64>,
}

pub(crate) struct Entry {
    pub dataset_id: Option<i64>,
    pub study_id: Option<i64>,
    pub what: &'static str,
    pub target: serde_json::Value,
    pub before: Option<String>,
    pub after: Option<String>,
    pub stage: Stage,
}

impl Default for Entry {
    fn default() -> Self {
        let target = serde_json::json!({});
        Entry { dataset_id: None, study_id: None, what: "", target, before: None, after: None, stage: Stage::Stands }
    }
}

/// Writes a line and gives its number. What was undone before it can no longer be redone.
pub(crate) async fn record(connection: &mut SqliteConnection, change: &Change<'_>, entry: Entry) -> Result<i64> {
    if entry.stage == Stage::Stands {
        let query = sqlx::query_as(
            "UPDATE history SET stage = 'dropped' WHERE stage = 'undone' AND dataset_id IS ? AND study_id IS ? RETURNING id, undone_by",
        );
        let dropped: Vec<(i64, Option<i64>)> = query.bind(entry.dataset_id).bind(entry.study_id).fetch_all(&mut *connection).await?;
        for line in dropped.into_iter().flat_map(|(line, undone_by)| [Some(line), undone_by]).flatten() {
            images::forget(connection, line).await?;
        }
    }
    let insert = sqlx::query(
        "INSERT INTO history (dataset_id, study_id, what, target, before, after, actor, at, stage) VALUES (?, ?, ?, ?, ?, ?, ?, ?, ?)",
    );
    let insert = insert.bind(entry.dataset_id).bind(entry.study_id).bind(entry.what).bind(entry.target.to_string());
    let insert = insert.bind(entry.before).bind(entry.after).bind(change.actor).bind(change.at).bind(entry.stage);
    Ok(insert.execute(connection).await?.last_insert_rowid())
}

/// The row that a line is about, when it is about one.
#[derive(Deserialize)]
struct AboutRow {
    row_id: i64,
}

pub(crate) const FIELDS: &str = "SELECT id, what, target, before, after, actor, at, stage, undone_by FROM history";

impl Store {
    /// The newest lines of a dataset's history.
    ///
    /// # Errors
    /// The database's own.
    pub async fn history(&self, dataset_id: i64, count: i64) -> Result<Vec<HistoryRow>> {
        let mut connection = self.readers.begin().await?;
        let query = sqlx::AssertSqlSafe(format!("{FIELDS} WHERE dataset_id = ? AND study_id IS NULL ORDER BY id DESC LIMIT ?"));
        let mut lines: Vec<HistoryRow> = sqlx::query_as(query).bind(dataset_id).bind(count).fetch_all(&mut *connection).await?;
        let about = |line: &HistoryRow| serde_json::from_str::<AboutRow>(&line.target).ok().map(|about| about.row_id);
        let ids: HashSet<i64> = lines.iter().filter_map(about).collect();
        let positions = match lines.is_empty() {
            true => HashMap::new(),
            false => Layout::read(&mut connection, dataset_id).await?.positions(&mut connection, &ids).await?,
        };
        for line in &mut lines {
            line.place = about(line).and_then(|id| positions.get(&id)).map(|position| *position as i64);
        }
        Ok(lines)
    }

    /// The newest lines of a study's history; its statements name columns as they are called by now.
    ///
    /// # Errors
    /// The database's own.
    pub async fn study_history(&self, study_id: i64, count: i64) -> Result<Vec<HistoryRow>> {
        let mut connection = self.readers.begin().await?;
        let query = sqlx::AssertSqlSafe(format!("{FIELDS} WHERE study_id = ? ORDER BY id DESC LIMIT ?"));
        let mut lines: Vec<HistoryRow> = sqlx::query_as(query).bind(study_id).bind(count).fetch_all(&mut *connection).await?;
        let mut statements: Vec<&mut String> = lines
            .iter_mut()
            .filter(|line| matches!(line.what.as_str(), "statement" | "study-created"))
            .flat_map(|line| [&mut line.before, &mut line.after].into_iter().flatten())
            .collect();
        let own: Option<i64> = sqlx::query_scalar("SELECT dataset_id FROM study WHERE id = ?")
            .bind(study_id)
            .fetch_optional(&mut *connection)
            .await?
            .flatten();
        let beside = statement::foreign_datasets(statements.iter().map(|text| &**text))?;
        let columns = statement::columns_of(&mut connection, own.into_iter().chain(beside)).await?;
        for text in &mut statements {
            **text = serde_json::to_string(&statement::read(text, &columns)?)?;
        }
        Ok(lines)
    }
}
