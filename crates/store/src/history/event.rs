//! What happened, one variant for each kind of change.

use serde::{Deserialize, Serialize};
use serde_json::{Map, Value};

use crate::arrange::Stood;
use crate::columns::{ColumnChange, OneColumn};
use crate::studies::Shown;
use crate::{EditKind, Finding, Result, StoreError, UndoDirection};

/// What happened to a dataset or a study. Statements stand in the form in which they are stored, columns named by their numbers.
#[derive(Clone, Debug, PartialEq, Serialize, Deserialize)]
#[serde(tag = "what", rename_all = "kebab-case")]
pub enum HistoryEvent {
    /// One cell was changed.
    Cell(CellsChanged),
    /// A block of cells was changed; before and after are those of the first.
    Cells(CellsChanged),
    /// Rows were added; columns may have come with them.
    RowsAdded {
        /// The first of them.
        row_id: Option<i64>,
        /// How many.
        count: usize,
        /// The columns before, when some came.
        before: Option<Vec<Stood>>,
        /// The columns after.
        after: Option<Vec<Stood>>,
    },
    /// Rows were deleted.
    RowsDeleted {
        /// Some of them.
        row_ids: Vec<i64>,
        /// How many.
        count: usize,
    },
    /// Rows were put in another order.
    RowsOrdered {
        /// The columns by which.
        by: Vec<String>,
        /// How many.
        count: usize,
    },
    /// The properties of a column were changed.
    Column {
        /// Its number.
        column_id: i64,
        /// What they were.
        before: Box<ColumnChange>,
        /// What they are.
        after: Box<ColumnChange>,
    },
    /// The properties of several columns were changed.
    Columns {
        /// What they were.
        before: Vec<OneColumn>,
        /// What they are.
        after: Vec<OneColumn>,
    },
    /// A column was added.
    ColumnAdded(Arranged),
    /// A column was deleted.
    ColumnDeleted(Arranged),
    /// Columns were moved, hidden or shown.
    ColumnsArranged(Arranged),
    /// A dataset was brought in.
    DatasetCreated {
        /// What it was made of.
        after: Created,
    },
    /// A dataset was renamed.
    DatasetName {
        /// From.
        before: String,
        /// To.
        after: String,
    },
    /// A table was made anew of those that it follows.
    Followed {
        /// How many rows it has.
        count: usize,
    },
    /// A table stands by itself from now on.
    Unlinked,
    /// A question was asked.
    StudyCreated {
        /// Its statement.
        after: Value,
    },
    /// A statement was changed.
    Statement {
        /// What it was.
        before: Value,
        /// What it is.
        after: Value,
    },
    /// A study was renamed.
    StudyName {
        /// From; without one it goes by its question.
        before: Option<String>,
        /// To.
        after: Option<String>,
    },
    /// Marks of a figure came or went.
    Shown {
        /// Which showed.
        before: Shown,
        /// Which show.
        after: Shown,
    },
    /// Something was said about a signal.
    Finding {
        /// The number of what was said.
        id: i64,
        /// The column whose causes it takes.
        column_id: i64,
        /// What was said before.
        before: Option<Box<Finding>>,
        /// What is said.
        after: Option<Box<Finding>>,
    },
    /// A change was undone or redone.
    #[serde(skip)]
    Turned {
        /// Which way.
        way: UndoDirection,
        /// The line of the change.
        line: i64,
        /// The change.
        event: Box<HistoryEvent>,
    },
}

/// Cells that were changed in one step.
#[derive(Clone, Debug, PartialEq, Serialize, Deserialize)]
pub struct CellsChanged {
    /// The column of the first.
    pub column_id: i64,
    /// Its name at that time.
    pub column: String,
    /// The row of the first; absent when it was new.
    #[serde(default, skip_serializing_if = "Option::is_none")]
    pub row_id: Option<i64>,
    /// How many cells.
    #[serde(default = "one")]
    pub count: usize,
    /// By which kind of edit.
    #[serde(default)]
    pub how: EditKind,
    /// In how many rows they stand.
    #[serde(default = "one")]
    pub down: usize,
    /// In how many columns.
    #[serde(default = "one")]
    pub across: usize,
    /// The text of the first as it was; empty when it was missing.
    pub before: String,
    /// What it is.
    pub after: String,
}

/// Columns before and after one was added or deleted, or all were put in another order.
#[derive(Clone, Debug, PartialEq, Serialize, Deserialize)]
pub struct Arranged {
    /// The column that it is about; empty when it is about all.
    pub column: String,
    /// The columns before.
    pub before: Vec<Stood>,
    /// The columns after.
    pub after: Vec<Stood>,
}

/// What a dataset was made of.
#[derive(Clone, Debug, PartialEq, Serialize, Deserialize)]
pub struct Created {
    /// Its name.
    pub name: String,
    /// How many rows it had.
    pub rows: usize,
    /// The file or table.
    pub source: String,
}

fn one() -> usize {
    1
}

/// An event as a line holds it.
pub(crate) struct Parts {
    pub what: String,
    pub target: String,
    pub before: Option<String>,
    pub after: Option<String>,
}

/// What a line of undoing or redoing names: the line of the change, with its kind and target.
#[derive(Serialize, Deserialize)]
struct TurnedTarget {
    line: i64,
    what: String,
    target: String,
}

impl HistoryEvent {
    /// Reads an event from its line.
    ///
    /// # Errors
    /// [`StoreError::Corrupt`].
    pub(crate) fn read(what: &str, target: &str, before: Option<&str>, after: Option<&str>) -> Result<HistoryEvent> {
        let way = match what {
            "undo" => Some(UndoDirection::Undo),
            "redo" => Some(UndoDirection::Redo),
            _ => None,
        };
        if let Some(way) = way {
            let TurnedTarget { line, what, target } = serde_json::from_str(target)?;
            // The states of what was undone stand the other way round.
            let (before, after) = if way == UndoDirection::Undo { (after, before) } else { (before, after) };
            return Ok(HistoryEvent::Turned { way, line, event: Box::new(HistoryEvent::read(&what, &target, before, after)?) });
        }
        let mut whole: Map<String, Value> = serde_json::from_str(target)?;
        whole.insert("what".to_owned(), what.into());
        for (name, state) in [("before", before), ("after", after)] {
            if let Some(state) = state {
                whole.insert(name.to_owned(), serde_json::from_str(state)?);
            }
        }
        Ok(serde_json::from_value(Value::Object(whole))?)
    }

    /// The parts of its line.
    ///
    /// # Errors
    /// [`StoreError::Corrupt`] for what cannot be written.
    pub(crate) fn parts(&self) -> Result<Parts> {
        if let HistoryEvent::Turned { way, line, event } = self {
            let Parts { what, target, before, after } = event.parts()?;
            let target = serde_json::to_string(&TurnedTarget { line: *line, what, target })?;
            return Ok(match way {
                UndoDirection::Undo => Parts { what: "undo".to_owned(), target, before: after, after: before },
                UndoDirection::Redo => Parts { what: "redo".to_owned(), target, before, after },
            });
        }
        let Value::Object(mut whole) = serde_json::to_value(self)? else {
            return Err(StoreError::Corrupt("an event is an object".into()));
        };
        let mut state = |name| whole.remove(name).map(|value| value.to_string());
        let (before, after) = (state("before"), state("after"));
        let what = whole.remove("what").and_then(|what| what.as_str().map(str::to_owned)).unwrap_or_default();
        Ok(Parts { what, target: Value::Object(whole).to_string(), before, after })
    }

    /// The row that it is about, when it is about one.
    pub fn row_id(&self) -> Option<i64> {
        match self {
            HistoryEvent::Cell(cells) | HistoryEvent::Cells(cells) => cells.row_id,
            HistoryEvent::RowsAdded { row_id, .. } => *row_id,
            _ => None,
        }
    }

    /// Whether it can be undone.
    pub(crate) fn can_be_undone(&self) -> bool {
        use HistoryEvent::{DatasetCreated, Followed, StudyCreated, Turned, Unlinked};
        !matches!(self, DatasetCreated { .. } | Followed { .. } | StudyCreated { .. } | Turned { .. } | Unlinked)
    }
}
