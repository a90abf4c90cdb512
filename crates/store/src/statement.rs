//! Statements as they are stored: roles name columns by id, so that a new name costs nothing.

use std::collections::BTreeMap;

use acorn_core::study::{COLUMN_OF_PIECE, Only, RoleColumns, Spec};
use serde::{Deserialize, Serialize};
use serde_json::{Map, Value};
use sqlx::SqliteConnection;

use crate::{Result, StoreError};

/// Ids and names of the columns of a dataset.
pub(crate) type Columns = Vec<(i64, String)>;

#[derive(Serialize, Deserialize)]
struct Stored {
    method: String,
    #[serde(default)]
    roles: BTreeMap<String, Ids>,
    #[serde(default)]
    options: Map<String, Value>,
    #[serde(default, skip_serializing_if = "Vec::is_empty")]
    only: Vec<Step>,
}

/// A step by which it is narrowed.
#[derive(Serialize, Deserialize)]
#[serde(untagged)]
enum Step {
    Label { column: i64, labels: Vec<String>, role: Option<String> },
    Rows { rows: Vec<[i64; 2]>, from: String },
}

#[derive(Serialize, Deserialize)]
#[serde(untagged)]
enum Ids {
    One(Option<i64>),
    Many(Vec<i64>),
}

/// A statement as it is stored.
///
/// # Errors
/// [`StoreError::BadStatement`] when a role names a column that the dataset lacks.
pub(crate) fn write(spec: &Spec, columns: &Columns) -> Result<String> {
    let id = |role: &str, name: &String| {
        let found = columns.iter().find(|(_, other)| other == name).map(|(id, _)| *id);
        found.ok_or_else(|| StoreError::BadStatement { problem: format!("there is no column “{name}” for the {role}") })
    };
    let ids = |(role, named): (&String, &RoleColumns)| {
        let ids = match named {
            RoleColumns::One(name) => Ids::One(Some(id(role, name)?)),
            RoleColumns::Many(names) => Ids::Many(names.iter().map(|name| id(role, name)).collect::<Result<_>>()?),
        };
        Ok((role.clone(), ids))
    };
    let step = |step: &Only| match step.clone() {
        Only::Label { column, labels, role } => Ok(Step::Label { column: id("narrowing", &column)?, labels, role }),
        Only::Rows { rows, from } => Ok(Step::Rows { rows, from }),
    };
    let roles = spec.roles.iter().map(ids).collect::<Result<_>>()?;
    let only = spec.only.iter().map(step).collect::<Result<_>>()?;
    let mut options = spec.options.clone();
    for column in columns_of_pieces(&mut options) {
        // A piece from elsewhere may name a column that is not here; it is kept, and said when it is answered.
        if let Value::String(name) = column
            && let Some((id, _)) = columns.iter().find(|(_, other)| other == name)
        {
            *column = (*id).into();
        }
    }
    Ok(serde_json::to_string(&Stored { method: spec.method.clone(), roles, options, only })?)
}

/// Where pieces of options say from which column they are taken.
fn columns_of_pieces(options: &mut Map<String, Value>) -> impl Iterator<Item = &mut Value> {
    options.values_mut().filter_map(Value::as_array_mut).flatten().filter_map(|piece| piece.get_mut(COLUMN_OF_PIECE))
}

/// A stored statement with its columns as they are called by now; one that is gone leaves its role, and no longer narrows.
pub(crate) fn read(text: &str, columns: &Columns) -> Result<Spec> {
    let Stored { method, roles, mut options, only } = serde_json::from_str(text)?;
    let name = |id: i64| columns.iter().find(|(other, _)| *other == id).map(|(_, name)| name.clone());
    let names = |ids: Ids| match ids {
        Ids::One(id) => id.and_then(name).map(RoleColumns::One),
        Ids::Many(ids) => Some(RoleColumns::Many(ids.into_iter().filter_map(name).collect())),
    };
    let roles = roles.into_iter().filter_map(|(role, ids)| Some((role, names(ids)?))).collect();
    let step = |step: Step| match step {
        Step::Label { column, labels, role } => Some(Only::Label { column: name(column)?, labels, role }),
        Step::Rows { rows, from } => Some(Only::Rows { rows, from }),
    };
    let only = only.into_iter().filter_map(step).collect();
    for column in columns_of_pieces(&mut options) {
        if let Some(id) = column.as_i64() {
            *column = name(id).into();
        }
    }
    Ok(Spec { method, roles, options, only, ..Spec::default() })
}

/// The columns that the statements of a study can name.
pub(crate) async fn columns_of_study(connection: &mut SqliteConnection, study_id: i64) -> Result<Columns> {
    let query = "SELECT c.id, c.name FROM dataset_column AS c JOIN study ON study.dataset_id = c.dataset_id WHERE study.id = ?";
    Ok(sqlx::query_as(query).bind(study_id).fetch_all(connection).await?)
}
