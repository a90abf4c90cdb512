//! Tables made of tables: looked at first, then stored as a dataset of their own.

use acorn_data::frame::{Column, Kind};
use acorn_data::reshape::Reshape;
use acorn_store::{Dataset, Link, NewDataset};
use acorn_study::TableView;
use axum::extract::State;
use serde::{Deserialize, Serialize};
use utoipa::ToSchema;

use super::datasets::AtRevision;
use crate::error::{ApiError, HttpProblem};
use crate::extract::{By, Json, Path};
use crate::service::App;
use crate::service::reshaping::{Made, made_of, table_of};

/// Rows shown of a table before it is stored.
const SHOWN: usize = 8;

/// A table to be made of another.
#[derive(Deserialize, ToSchema)]
pub struct WantedTable {
    /// What the new dataset is called; without a name it is only shown.
    #[serde(default)]
    name: Option<String>,
    /// The rows that it is made of, in their order; all when absent.
    #[serde(default)]
    view: TableView,
    /// Of a join: the dataset that columns come from.
    #[serde(default)]
    with: Option<i64>,
    /// How it is made.
    shape: Reshape,
    /// Whether it follows what it is made of: made anew whenever that changes, and nobody's to type.
    #[serde(default)]
    follows: bool,
}

/// A table that was made.
#[derive(Serialize, ToSchema)]
pub struct MadeTable {
    /// Its rows.
    rows: usize,
    /// Of a join: how many rows found no such key.
    unmatched: usize,
    /// Its columns, each with its first values.
    columns: Vec<MadeColumn>,
    /// The dataset, where it was stored.
    #[serde(skip_serializing_if = "Option::is_none")]
    dataset: Option<Dataset>,
}

/// A column of it.
#[derive(Serialize, ToSchema)]
pub struct MadeColumn {
    /// Its name.
    name: String,
    /// What it holds.
    kind: Kind,
    /// The text of its first values; null when missing.
    first: Vec<Option<String>>,
}

/// Makes a table of a dataset: its values stacked, unstacked, joined with another by a key, or summed up by group.
#[utoipa::path(post, path = "/api/datasets/{id}/reshaped", tag = "datasets", operation_id = "reshape_dataset", params(("id" = i64, Path)), request_body = WantedTable, responses((status = 200, body = MadeTable), (status = 422, body = HttpProblem)))]
pub async fn make(
    State(app): State<App>,
    By(change): By,
    Path(id): Path<i64>,
    Json(wanted): Json<WantedTable>,
) -> Result<Json<MadeTable>, ApiError> {
    let WantedTable { name, view, with, shape, follows } = wanted;
    let link = Link { from: id, with, how: shape, view };
    let Made { from, with, made } = made_of(&app, &link).await?;
    let rows = made.columns.first().map_or(0, |column| column.values.len());
    let shown = |column: &Column| MadeColumn {
        name: column.name.clone(),
        kind: column.kind,
        first: (0..rows.min(SHOWN)).map(|row| column.values.text(row)).collect(),
    };
    let columns = made.columns.iter().map(shown).collect();
    let stored = match name {
        None => None,
        Some(name) => {
            let infos: Vec<_> = made.columns.iter().map(|column| (column.name.clone(), column.info.clone())).collect();
            let table = table_of(made.columns);
            let source = source(&link.how, &from.name, with.as_ref().map(|with| with.name.as_str()));
            let new = NewDataset { name: &name, source: &source, table: &table, infos: &infos, gauges: &[] };
            let seen = (from.revision, with.map(|with| with.revision));
            let stored = match follows {
                true => app.store.create_linked(new, &link, seen, &change).await?,
                false => app.store.create_dataset(new, &change).await?,
            };
            Some(stored)
        }
    };
    Ok(Json(MadeTable { rows, unmatched: made.unmatched, columns, dataset: stored }))
}

/// Lets a table that follows another stand by itself; it stays as it is.
#[utoipa::path(delete, path = "/api/datasets/{id}/link", tag = "datasets", operation_id = "unlink_dataset", params(("id" = i64, Path)), request_body = AtRevision, responses((status = 200, body = Dataset), (status = 412, body = HttpProblem)))]
pub async fn unlink(
    State(app): State<App>,
    By(change): By,
    Path(id): Path<i64>,
    Json(AtRevision { revision }): Json<AtRevision>,
) -> Result<Json<Dataset>, ApiError> {
    Ok(Json(app.store.unlink(id, revision, &change).await?))
}

/// Where the new table comes from, in words.
fn source(shape: &Reshape, name: &str, with: Option<&str>) -> String {
    match shape {
        Reshape::Stack { .. } => format!("{name}, stacked"),
        Reshape::Unstack { .. } => format!("{name}, unstacked"),
        Reshape::Join { .. } => format!("{name}, joined with {}", with.unwrap_or_default()),
        Reshape::Summary { by, .. } => format!("{name}, summed up by {}", by.join(" and ")),
    }
}
