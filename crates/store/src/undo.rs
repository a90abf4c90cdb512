//! Undoing and redoing, one mechanism for every kind of change: the images of the line are put back, then what else the line
//! names. The newest line that stands is undone first, the one undone last is redone first.

use sqlx::SqliteConnection;

use crate::columns::{self, ColumnChange, ColumnTarget, OneColumn};
use crate::datasets::{self, Touched};
use crate::history::{self, Change, Entry, HistoryRow, Stage};
use crate::{Dataset, Result, Store, StoreError, Study, arrange, findings, images, studies};

/// Which way.
#[derive(Clone, Copy, Debug, PartialEq, Eq)]
pub enum UndoDirection {
    /// Back to what was before.
    Undo,
    /// Forward again to what was undone.
    Redo,
}

impl Store {
    /// Undoes the newest change of a dataset that stands, or redoes the one undone last.
    ///
    /// # Errors
    /// [`StoreError::NothingToUndo`], [`StoreError::NothingToRedo`], [`StoreError::Conflict`] on another revision.
    pub async fn turn_dataset(&self, dataset_id: i64, turn: UndoDirection, revision: i64, change: &Change<'_>) -> Result<Dataset> {
        let mut transaction = self.begin().await?;
        let dataset = datasets::get(&mut transaction, dataset_id).await?;
        datasets::advance(&mut transaction, dataset_id, Some(revision)).await?;
        let line = next(&mut transaction, turn, "dataset_id = ? AND study_id IS NULL", dataset_id).await?;
        let mut touched = turned(&mut transaction, turn, &line, change, Some(dataset_id), None).await?;
        let wanted = line.wanted(turn);
        match line.what.as_str() {
            "cell" | "cells" | "rows-deleted" | "rows-ordered" => {}
            // Columns may have come with them.
            "rows-added" if wanted == "null" => {}
            "column" => {
                let ColumnTarget { column_id } = serde_json::from_str(&line.target)?;
                let wanted: ColumnChange = serde_json::from_str(wanted)?;
                columns::write(&mut transaction, &dataset, column_id, &wanted).await?;
                touched.push(column_id);
            }
            "columns" => {
                let mut columns: Vec<OneColumn> = serde_json::from_str(wanted)?;
                if turn == UndoDirection::Undo {
                    columns.reverse();
                }
                for OneColumn { column_id, wanted } in columns {
                    let now = datasets::get(&mut transaction, dataset_id).await?;
                    columns::write(&mut transaction, &now, column_id, &wanted).await?;
                    touched.push(column_id);
                }
            }
            "column-added" | "column-deleted" | "columns-arranged" | "rows-added" => {
                touched.extend(arrange::restore(&mut transaction, &dataset, wanted).await?);
            }
            "dataset-name" => datasets::set_name(&mut transaction, dataset_id, &serde_json::from_str::<String>(wanted)?).await?,
            other => return Err(StoreError::Corrupt(format!("a history line of the kind {other}"))),
        }
        datasets::recount(&mut transaction, dataset_id).await?;
        datasets::touch(&mut transaction, dataset_id, Touched::Columns(&touched)).await?;
        transaction.commit().await?;
        self.dataset(dataset_id).await
    }

    /// Undoes the newest change of a study that stands, or redoes the one undone last.
    ///
    /// # Errors
    /// [`StoreError::NothingToUndo`], [`StoreError::NothingToRedo`], [`StoreError::Conflict`] on another revision.
    pub async fn turn_study(&self, study_id: i64, turn: UndoDirection, revision: i64, change: &Change<'_>) -> Result<Study> {
        let mut transaction = self.begin().await?;
        let study = studies::get_at(&mut transaction, study_id, revision).await?;
        let line = next(&mut transaction, turn, "study_id = ?", study_id).await?;
        turned(&mut transaction, turn, &line, change, study.dataset_id, Some(study_id)).await?;
        let wanted = line.wanted(turn);
        match line.what.as_str() {
            "statement" => studies::set_statement(&mut transaction, study_id, wanted).await?,
            "finding" => findings::restore(&mut transaction, study_id, &line.target, wanted).await?,
            "shown" => studies::set_shown(&mut transaction, study_id, wanted).await?,
            "study-name" => studies::set_name(&mut transaction, study_id, serde_json::from_str(wanted)?).await?,
            other => return Err(StoreError::Corrupt(format!("a history line of the kind {other}"))),
        }
        studies::advance(&mut transaction, study_id, change).await?;
        transaction.commit().await?;
        self.study(study_id).await
    }
}

impl HistoryRow {
    fn wanted(&self, turn: UndoDirection) -> &str {
        let state = if turn == UndoDirection::Undo { &self.before } else { &self.after };
        state.as_deref().unwrap_or("null")
    }
}

/// The line that is undone or redone next.
async fn next(connection: &mut SqliteConnection, turn: UndoDirection, of: &str, id: i64) -> Result<HistoryRow> {
    let (stage, order, none) = match turn {
        UndoDirection::Undo => (Stage::Stands, "DESC", StoreError::NothingToUndo),
        UndoDirection::Redo => (Stage::Undone, "ASC", StoreError::NothingToRedo),
    };
    let query = sqlx::AssertSqlSafe(format!("{} WHERE {of} AND stage = ? ORDER BY id {order} LIMIT 1", history::FIELDS));
    sqlx::query_as(query).bind(id).bind(stage).fetch_optional(connection).await?.ok_or(none)
}

/// Puts the images of a line back and writes who did so. Gives the columns touched.
async fn turned(
    connection: &mut SqliteConnection,
    turn: UndoDirection,
    line: &HistoryRow,
    change: &Change<'_>,
    dataset_id: Option<i64>,
    study_id: Option<i64>,
) -> Result<Vec<i64>> {
    let target = serde_json::json!({ "line": line.id, "what": line.what, "target": line.target });
    let (what, before, after, stage) = match turn {
        UndoDirection::Undo => ("undo", line.after.clone(), line.before.clone(), Stage::Undone),
        UndoDirection::Redo => ("redo", line.before.clone(), line.after.clone(), Stage::Stands),
    };
    let entry = Entry { dataset_id, study_id, what, target, before, after, stage: Stage::Fixed };
    let own = history::record(connection, change, entry).await?;
    let (touched, undone_by) = match turn {
        UndoDirection::Undo => (images::restore(connection, line.id, Some(own)).await?, Some(own)),
        UndoDirection::Redo => {
            let undone_by = line.undone_by.ok_or_else(|| StoreError::Corrupt("what was undone does not say by what".into()))?;
            let touched = images::restore(connection, undone_by, None).await?;
            images::forget(connection, undone_by).await?;
            (touched, None)
        }
    };
    let update = sqlx::query("UPDATE history SET stage = ?, undone_by = ? WHERE id = ?");
    update.bind(stage).bind(undone_by).bind(line.id).execute(connection).await?;
    Ok(touched)
}
