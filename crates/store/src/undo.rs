//! Undoing and redoing, one mechanism for every kind of change: the images of the line are put back, then what else the line
//! names. The newest line that stands is undone first, the one undone last is redone first.

use sqlx::SqliteConnection;

use crate::columns::{self, OneColumn};
use crate::datasets::{self, Touched};
use crate::history::{self, About, Change, HistoryEvent, HistoryRow, Stage};
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
        let event = line.event()?;
        let mut touched = turned(&mut transaction, turn, &line, &event, change, About::Dataset(dataset_id)).await?;
        match &event {
            HistoryEvent::Cell(_) | HistoryEvent::Cells(_) | HistoryEvent::RowsDeleted { .. } | HistoryEvent::RowsOrdered { .. } => {}
            HistoryEvent::Column { column_id, before, after } => {
                columns::write(&mut transaction, &dataset, *column_id, turn.wanted(before, after)).await?;
                touched.push(*column_id);
            }
            HistoryEvent::Columns { before, after } => {
                let mut columns: Vec<&OneColumn> = turn.wanted(before, after).iter().collect();
                if turn == UndoDirection::Undo {
                    columns.reverse();
                }
                for OneColumn { column_id, wanted } in columns {
                    let now = datasets::get(&mut transaction, dataset_id).await?;
                    columns::write(&mut transaction, &now, *column_id, wanted).await?;
                    touched.push(*column_id);
                }
            }
            HistoryEvent::ColumnAdded(columns) | HistoryEvent::ColumnDeleted(columns) | HistoryEvent::ColumnsArranged(columns) => {
                let wanted = turn.wanted(&columns.before, &columns.after);
                touched.extend(arrange::restore(&mut transaction, &dataset, wanted).await?);
            }
            // Columns may have come with them.
            HistoryEvent::RowsAdded { before, after, .. } => {
                if let Some(wanted) = turn.wanted(before, after) {
                    touched.extend(arrange::restore(&mut transaction, &dataset, wanted).await?);
                }
            }
            HistoryEvent::DatasetName { before, after } => {
                datasets::set_name(&mut transaction, dataset_id, turn.wanted(before, after)).await?;
            }
            other => return Err(cannot(other)),
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
        let event = line.event()?;
        turned(&mut transaction, turn, &line, &event, change, About::Study(study_id, study.dataset_id)).await?;
        match &event {
            HistoryEvent::Statement { before, after } => {
                studies::set_statement(&mut transaction, study_id, &turn.wanted(before, after).to_string()).await?;
            }
            HistoryEvent::Finding { id, column_id, before, after } => {
                let wanted = turn.wanted(before, after).as_deref();
                findings::restore(&mut transaction, study_id, (*id, *column_id), wanted).await?;
            }
            HistoryEvent::Shown { before, after } => {
                studies::set_shown(&mut transaction, study_id, turn.wanted(before, after)).await?;
            }
            HistoryEvent::StudyName { before, after } => {
                studies::set_name(&mut transaction, study_id, turn.wanted(before, after).as_deref()).await?;
            }
            other => return Err(cannot(other)),
        }
        studies::advance(&mut transaction, study_id, None, change).await?;
        transaction.commit().await?;
        self.study(study_id).await
    }
}

impl UndoDirection {
    /// The state that is wanted of two.
    fn wanted<T>(self, before: T, after: T) -> T {
        if self == UndoDirection::Undo { before } else { after }
    }
}

/// What is never undone has no line that stands.
fn cannot(event: &HistoryEvent) -> StoreError {
    StoreError::Corrupt(format!("a history line that cannot be undone: {event:?}"))
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
    event: &HistoryEvent,
    change: &Change<'_>,
    about: About,
) -> Result<Vec<i64>> {
    let turning = HistoryEvent::Turned { way: turn, line: line.id, event: Box::new(event.clone()) };
    let own = history::record(connection, change, about, &turning).await?;
    let stage = if turn == UndoDirection::Undo { Stage::Undone } else { Stage::Stands };
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
