//! Statements as they are stored: roles name columns by id, so that a new name costs nothing.

use std::collections::BTreeMap;

use acorn_study::{COLUMN_OF_PIECE, DATASET_OF_PIECE, RoleColumns, Spec};
use serde::{Deserialize, Serialize};
use serde_json::{Map, Value};
use sqlx::SqliteConnection;

use crate::steps::Step;
use crate::{Result, StoreError};

/// Columns that statements may name: dataset, id and name of each.
pub(crate) type Columns = Vec<(i64, i64, String)>;

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

#[derive(Serialize, Deserialize)]
#[serde(untagged)]
enum Ids {
    One(Option<i64>),
    Many(Vec<i64>),
}

/// Longest statement, in bytes of JSON: each change of it is kept in the history.
const STATEMENT_BYTES: usize = 1 << 20;

/// A statement about a dataset as it is stored.
///
/// # Errors
/// [`StoreError::BadStatement`] when a role names a column that the dataset lacks.
pub(crate) fn write(spec: &Spec, own: Option<i64>, columns: &Columns) -> Result<String> {
    let found = |of: Option<i64>, name: &str| {
        columns.iter().find(|(dataset, _, other)| Some(*dataset) == of && other == name).map(|(_, id, _)| *id)
    };
    let id = |role: &str, name: &String| {
        found(own, name).ok_or_else(|| StoreError::BadStatement { problem: format!("there is no column “{name}” for the {role}") })
    };
    let ids = |(role, named): (&String, &RoleColumns)| {
        let ids = match named {
            RoleColumns::One(name) => Ids::One(Some(id(role, name)?)),
            RoleColumns::Many(names) => Ids::Many(names.iter().map(|name| id(role, name)).collect::<Result<_>>()?),
        };
        Ok((role.clone(), ids))
    };
    let roles = spec.roles.iter().map(ids).collect::<Result<_>>()?;
    let only = spec.only.iter().map(|only| Step::of(only, |name| id("narrowing", name))).collect::<Result<_>>()?;
    let mut options = spec.options.clone();
    for (dataset, column) in columns_of_pieces(&mut options) {
        // A piece from elsewhere may name a column that is not here; it is kept, and said when it is answered.
        if let Some(id) = column.as_str().and_then(|name| found(dataset.or(own), name)) {
            *column = id.into();
        }
    }
    let stored = serde_json::to_string(&Stored { method: spec.method.clone(), roles, options, only })?;
    if stored.len() > STATEMENT_BYTES {
        return Err(StoreError::BadStatement {
            problem: format!("it takes {} bytes, and a statement has at most {STATEMENT_BYTES}", stored.len()),
        });
    }
    Ok(stored)
}

/// Where pieces of options say from which column they are taken, with the dataset when it is another.
fn columns_of_pieces(options: &mut Map<String, Value>) -> impl Iterator<Item = (Option<i64>, &mut Value)> {
    let pieces = options.values_mut().filter_map(Value::as_array_mut).flatten();
    pieces.filter_map(|piece| Some((piece.get(DATASET_OF_PIECE).and_then(Value::as_i64), piece.get_mut(COLUMN_OF_PIECE)?)))
}

/// A stored statement with its columns as they are called by now; one that is gone leaves its role, and no longer narrows.
pub(crate) fn read(text: &str, columns: &Columns) -> Result<Spec> {
    let Stored { method, roles, mut options, only } = serde_json::from_str(text)?;
    let name = |id: i64| columns.iter().find(|(_, other, _)| *other == id).map(|(_, _, name)| name.clone());
    let names = |ids: Ids| match ids {
        Ids::One(id) => id.and_then(name).map(RoleColumns::One),
        Ids::Many(ids) => Some(RoleColumns::Many(ids.into_iter().filter_map(name).collect())),
    };
    let roles = roles.into_iter().filter_map(|(role, ids)| Some((role, names(ids)?))).collect();
    let only = only.into_iter().filter_map(|step: Step| step.named(name)).collect();
    for (_, column) in columns_of_pieces(&mut options) {
        if let Some(id) = column.as_i64() {
            *column = name(id).into();
        }
    }
    Ok(Spec { method, roles, options, only, ..Spec::default() })
}

/// The columns of some datasets.
pub(crate) async fn columns_of(connection: &mut SqliteConnection, datasets: impl IntoIterator<Item = i64>) -> Result<Columns> {
    let ids = serde_json::to_string(&datasets.into_iter().collect::<Vec<i64>>())?;
    let query = "SELECT dataset_id, id, name FROM dataset_column WHERE dataset_id IN (SELECT value FROM json_each(?)) AND NOT gone";
    Ok(sqlx::query_as(query).bind(ids).fetch_all(connection).await?)
}

/// The columns that a statement about a dataset can name.
pub(crate) async fn columns_for(connection: &mut SqliteConnection, own: Option<i64>, spec: &Spec) -> Result<Columns> {
    columns_of(connection, own.into_iter().chain(spec.foreign_columns().map(|(dataset, _)| dataset))).await
}

/// The other datasets that stored statements take pieces from.
pub(crate) fn foreign_datasets<'t>(texts: impl Iterator<Item = &'t String>) -> Result<Vec<i64>> {
    let mut all = Vec::new();
    for text in texts {
        let mut stored: Stored = serde_json::from_str(text)?;
        all.extend(columns_of_pieces(&mut stored.options).filter_map(|(dataset, _)| dataset));
    }
    Ok(all)
}
