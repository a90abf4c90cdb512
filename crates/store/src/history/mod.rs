//! What was changed, by whom and when.

use std::collections::{HashMap, HashSet};

use acorn_study::Spec;
use serde::Serialize;
use sqlx::{FromRow, SqliteConnection};

use crate::layout::Layout;
use crate::{Result, Store, images, statement};

mod event;

use event::Parts;
pub use event::{Arranged, CellsChanged, Created, HistoryEvent};

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
#[derive(Clone, Debug, PartialEq)]
pub struct HistoryLine {
    /// Its number.
    pub id: i64,
    /// What happened.
    pub event: HistoryEvent,
    /// Who.
    pub actor: String,
    /// When, in milliseconds since 1970.
    pub at: i64,
    /// What can still be done about it.
    pub stage: Stage,
    /// The position by now of the row that it is about; absent when it is about none, or the row is gone.
    pub place: Option<i64>,
}

/// A line as it is stored.
#[derive(FromRow)]
pub(crate) struct HistoryRow {
    pub id: i64,
    what: String,
    target: String,
    before: Option<String>,
    after: Option<String>,
    actor: String,
    at: i64,
    stage: Stage,
    /// The line that undid it.
    pub undone_by: Option<i64>,
}

impl HistoryRow {
    /// What happened.
    pub fn event(&self) -> Result<HistoryEvent> {
        HistoryEvent::read(&self.what, &self.target, self.before.as_deref(), self.after.as_deref())
    }

    fn into_line(self) -> Result<HistoryLine> {
        let event = self.event()?;
        let HistoryRow { id, actor, at, stage, .. } = self;
        Ok(HistoryLine { id, event, actor, at, stage, place: None })
    }
}

/// What a line is about: a dataset, or a study and the dataset that it is about, if there is one.
#[derive(Clone, Copy, Debug)]
pub(crate) enum About {
    Dataset(i64),
    Study(i64, Option<i64>),
}

impl About {
    fn ids(self) -> (Option<i64>, Option<i64>) {
        match self {
            About::Dataset(id) => (Some(id), None),
            About::Study(id, dataset) => (dataset, Some(id)),
        }
    }
}

/// Writes a line and gives its number. What was undone before it can no longer be redone.
pub(crate) async fn record(connection: &mut SqliteConnection, change: &Change<'_>, about: About, event: &HistoryEvent) -> Result<i64> {
    let (dataset_id, study_id) = about.ids();
    let stage = if event.can_be_undone() { Stage::Stands } else { Stage::Fixed };
    if stage == Stage::Stands {
        let query = sqlx::query_as(
            "UPDATE history SET stage = 'dropped' WHERE stage = 'undone' AND dataset_id IS ? AND study_id IS ? RETURNING id, undone_by",
        );
        let dropped: Vec<(i64, Option<i64>)> = query.bind(dataset_id).bind(study_id).fetch_all(&mut *connection).await?;
        for line in dropped.into_iter().flat_map(|(line, undone_by)| [Some(line), undone_by]).flatten() {
            images::forget(connection, line).await?;
        }
    }
    let Parts { what, target, before, after } = event.parts()?;
    let insert = sqlx::query(
        "INSERT INTO history (dataset_id, study_id, what, target, before, after, actor, at, stage) VALUES (?, ?, ?, ?, ?, ?, ?, ?, ?)",
    );
    let insert = insert.bind(dataset_id).bind(study_id).bind(what).bind(target).bind(before).bind(after);
    Ok(insert.bind(change.actor).bind(change.at).bind(stage).execute(connection).await?.last_insert_rowid())
}

pub(crate) const FIELDS: &str = "SELECT id, what, target, before, after, actor, at, stage, undone_by FROM history";

impl Store {
    /// The newest lines of a dataset's history.
    ///
    /// # Errors
    /// The database's own.
    pub async fn history(&self, dataset_id: i64, count: i64) -> Result<Vec<HistoryLine>> {
        let mut connection = self.readers.begin().await?;
        let query = sqlx::AssertSqlSafe(format!("{FIELDS} WHERE dataset_id = ? AND study_id IS NULL ORDER BY id DESC LIMIT ?"));
        let rows: Vec<HistoryRow> = sqlx::query_as(query).bind(dataset_id).bind(count).fetch_all(&mut *connection).await?;
        let mut lines: Vec<HistoryLine> = rows.into_iter().map(HistoryRow::into_line).collect::<Result<_>>()?;
        let ids: HashSet<i64> = lines.iter().filter_map(|line| line.event.row_id()).collect();
        let positions = match lines.is_empty() {
            true => HashMap::new(),
            false => Layout::read(&mut connection, dataset_id).await?.positions(&mut connection, &ids).await?,
        };
        for line in &mut lines {
            line.place = line.event.row_id().and_then(|id| positions.get(&id)).map(|position| *position as i64);
        }
        Ok(lines)
    }

    /// The newest lines of a study's history, each statement with columns as they are called by now.
    ///
    /// # Errors
    /// The database's own.
    pub async fn study_history(&self, study_id: i64, count: i64) -> Result<Vec<(HistoryLine, Option<Spec>)>> {
        let mut connection = self.readers.begin().await?;
        let query = sqlx::AssertSqlSafe(format!("{FIELDS} WHERE study_id = ? ORDER BY id DESC LIMIT ?"));
        let rows: Vec<HistoryRow> = sqlx::query_as(query).bind(study_id).bind(count).fetch_all(&mut *connection).await?;
        let lines: Vec<HistoryLine> = rows.into_iter().map(HistoryRow::into_line).collect::<Result<_>>()?;
        let asked = |line: &HistoryLine| match &line.event {
            HistoryEvent::Statement { after, .. } | HistoryEvent::StudyCreated { after } => Some(after.to_string()),
            _ => None,
        };
        let statements: Vec<Option<String>> = lines.iter().map(asked).collect();
        let own: Option<i64> = sqlx::query_scalar("SELECT dataset_id FROM study WHERE id = ?")
            .bind(study_id)
            .fetch_optional(&mut *connection)
            .await?
            .flatten();
        let beside = statement::foreign_datasets(statements.iter().flatten())?;
        let columns = statement::columns_of(&mut connection, own.into_iter().chain(beside)).await?;
        let spec = |text: Option<String>| text.map(|text| statement::read(&text, &columns)).transpose();
        lines.into_iter().zip(statements).map(|(line, text)| Ok((line, spec(text)?))).collect()
    }
}
