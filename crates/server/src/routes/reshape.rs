//! Tables made of tables: looked at first, then stored as a dataset of their own.

use acorn_core::frame::{Column, Frame, Kind};
use acorn_core::reshape::{Reshape, Reshaped, reshape};
use acorn_core::study::TableView;
use acorn_formats::{Table, TableColumn};
use acorn_store::{Dataset, NewDataset};
use axum::extract::State;
use axum::http::StatusCode;
use serde::{Deserialize, Serialize};
use utoipa::ToSchema;

use crate::answers::compute;
use crate::error::{ApiError, HttpProblem};
use crate::extract::{By, Json, Path};
use crate::live::LiveEvent;
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
    let (dataset, frame) = app.store.frame(id, |_| true).await?;
    let (with, other) = match wanted.with {
        Some(with) => app.store.frame(with, |_| true).await.map(|(with, frame)| (Some(with), Some(frame)))?,
        None => (None, None),
    };
    let (shape, view) = (wanted.shape.clone(), wanted.view);
    let made = compute(move |_| {
        let frame = if view == TableView::default() { frame } else { rows_of(&frame, &view)? };
        Ok(reshape(&frame, other.as_ref(), &shape))
    });
    let refused = |error: acorn_core::reshape::ReshapeError| {
        let advice = "Choose the columns anew; nothing was stored.";
        ApiError::new(StatusCode::UNPROCESSABLE_ENTITY, "cannot-reshape", error.to_string(), advice)
    };
    let made: Reshaped = made.await?.map_err(refused)?;
    let rows = made.columns.first().map_or(0, |column| column.values.len());
    let shown = |column: &Column| MadeColumn {
        name: column.name.clone(),
        kind: column.kind,
        first: (0..rows.min(SHOWN)).map(|row| column.values.text(row)).collect(),
    };
    let columns = made.columns.iter().map(shown).collect();
    let stored = match wanted.name {
        None => None,
        Some(name) => {
            let infos: Vec<_> = made.columns.iter().map(|column| (column.name.clone(), column.info.clone())).collect();
            let column = |Column { name, kind, info, values, .. }: Column| TableColumn { name, kind, unit: info.unit, values };
            let table = Table { columns: made.columns.into_iter().map(column).collect(), rows };
            let source = source(&wanted.shape, &dataset.name, with.as_ref().map(|with| with.name.as_str()));
            let new = NewDataset { name: &name, source: &source, table: &table, infos: &infos, gauges: &[] };
            let stored = app.store.create_dataset(new, &change).await?;
            app.live.tell(LiveEvent::Dataset { id: stored.id, revision: stored.revision });
            Some(stored)
        }
    };
    Ok(Json(MadeTable { rows, unmatched: made.unmatched, columns, dataset: stored }))
}

fn rows_of(frame: &Frame, view: &TableView) -> Result<Frame, acorn_core::study::StudyError> {
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
