//! Tables made of tables: looked at first, then stored as a dataset of their own.

use acorn_data::frame::{Column, Frame, Kind};
use acorn_data::reshape::{Reshape, Reshaped, reshape};
use acorn_formats::{Table, TableColumn};
use acorn_store::{Dataset, Link, NewDataset};
use acorn_study::TableView;
use axum::extract::State;
use axum::http::StatusCode;
use serde::{Deserialize, Serialize};
use utoipa::ToSchema;

use super::datasets::AtRevision;
use crate::answers::compute;
use crate::error::{ApiError, HttpProblem};
use crate::extract::{By, Json, Path};
use crate::state::App;

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

/// A table that was made, and what of.
pub struct Made {
    pub from: Dataset,
    pub with: Option<Dataset>,
    pub made: Reshaped,
}

/// Makes a table of what it is linked to, as that is now.
pub async fn made_of(app: &App, link: &Link) -> Result<Made, ApiError> {
    let (from, frame) = app.store.frame(link.from, |_| true).await?;
    let (with, other) = match link.with {
        Some(with) => app.store.frame(with, |_| true).await.map(|(with, frame)| (Some(with), Some(frame)))?,
        None => (None, None),
    };
    let Link { how, view, .. } = link.clone();
    let made = compute(move |_| {
        let frame = if view == TableView::default() { frame } else { rows_of(&frame, &view)? };
        Ok(reshape(&frame, other.as_ref(), &how))
    });
    let refused = |error: acorn_data::reshape::ReshapeError| {
        let advice = "Choose the columns anew; nothing was stored.";
        ApiError::new(StatusCode::UNPROCESSABLE_ENTITY, "cannot-reshape", error.to_string(), advice)
    };
    Ok(Made { from, with, made: made.await?.map_err(refused)? })
}

/// Columns as a table to be stored.
pub fn table_of(columns: Vec<Column>) -> Table {
    let rows = columns.first().map_or(0, |column| column.values.len());
    let column = |Column { name, kind, info, values, .. }: Column| TableColumn { name, kind, unit: info.unit, values };
    Table { columns: columns.into_iter().map(column).collect(), rows }
}

fn rows_of(frame: &Frame, view: &TableView) -> Result<Frame, acorn_study::StudyError> {
    let rows: Vec<usize> = view.rows(frame)?.into_iter().map(|row| row as usize).collect();
    Ok(frame.pick(&frame.columns().iter().collect::<Vec<_>>(), &rows))
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
