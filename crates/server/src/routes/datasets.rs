//! Datasets: their columns, rows, edits and history.

use std::sync::Arc;

use acorn_core::summary::ColumnSummary;
use acorn_formats::write_csv;
use acorn_store::{CellEdit, ColumnChange, Dataset, HistoryRow};
use axum::extract::State;
use axum::http::StatusCode;
use axum::response::IntoResponse;
use serde::{Deserialize, Serialize};
use utoipa::{IntoParams, ToSchema};

use super::attachment;
use crate::answers::compute;
use crate::bounds::ROWS_AT_ONCE;
use crate::error::{ApiError, HttpProblem};
use crate::extract::{Json, Path, Query};
use crate::live::LiveEvent;
use crate::state::{App, change};

type Answer<T> = Result<Json<T>, ApiError>;

/// Another name for a dataset.
#[derive(Deserialize, ToSchema)]
pub struct Rename {
    /// The revision that the person saw.
    pub revision: i64,
    /// The new name.
    pub name: String,
}

/// A column as it should be, on the revision that the person saw.
#[derive(Deserialize, ToSchema)]
pub struct ColumnEdit {
    /// The revision of the dataset.
    pub revision: i64,
    /// The column as it should be.
    pub column: ColumnChange,
}

/// Which rows.
#[derive(Deserialize, IntoParams)]
#[into_params(parameter_in = Query)]
pub struct Window {
    /// First row, from 0.
    #[serde(default)]
    first: usize,
    /// How many.
    count: usize,
}

/// A window of rows.
#[derive(Serialize, ToSchema)]
pub struct Rows {
    /// The revision they were read at.
    pub revision: i64,
    /// First row, from 0.
    pub first: usize,
    /// Row ids.
    pub row_ids: Vec<i64>,
    /// The text of each cell by column and row; null when missing.
    pub cells: Vec<Vec<Option<String>>>,
}

fn changed(app: &App, dataset: Dataset) -> Json<Dataset> {
    app.live.tell(LiveEvent::Dataset { id: dataset.id, revision: dataset.revision });
    Json(dataset)
}

/// All datasets, by name.
#[utoipa::path(get, path = "/api/datasets", tag = "datasets", operation_id = "list_datasets", responses((status = 200, body = Vec<Dataset>)))]
pub async fn list(State(app): State<App>) -> Answer<Vec<Dataset>> {
    Ok(Json(app.store.datasets().await?))
}

/// One dataset.
#[utoipa::path(get, path = "/api/datasets/{id}", tag = "datasets", operation_id = "get_dataset", params(("id" = i64, Path)), responses((status = 200, body = Dataset), (status = 404, body = HttpProblem)))]
pub async fn get(State(app): State<App>, Path(id): Path<i64>) -> Answer<Dataset> {
    Ok(Json(app.store.dataset(id).await?))
}

/// Renames a dataset.
#[utoipa::path(patch, path = "/api/datasets/{id}", tag = "datasets", operation_id = "rename_dataset", params(("id" = i64, Path)), request_body = Rename, responses((status = 200, body = Dataset), (status = 412, body = HttpProblem)))]
pub async fn rename(State(app): State<App>, Path(id): Path<i64>, Json(wanted): Json<Rename>) -> Answer<Dataset> {
    let dataset = app.store.rename_dataset(id, wanted.revision, &wanted.name, &change()).await?;
    Ok(changed(&app, dataset))
}

/// Deletes a dataset with its studies.
#[utoipa::path(delete, path = "/api/datasets/{id}", tag = "datasets", operation_id = "delete_dataset", params(("id" = i64, Path)), responses((status = 204), (status = 404, body = HttpProblem)))]
pub async fn delete(State(app): State<App>, Path(id): Path<i64>) -> Result<StatusCode, ApiError> {
    app.store.delete_dataset(id).await?;
    app.live.tell(LiveEvent::Dataset { id, revision: 0 });
    Ok(StatusCode::NO_CONTENT)
}

/// What stands in each column, in order.
#[utoipa::path(get, path = "/api/datasets/{id}/summary", tag = "datasets", operation_id = "summarise_dataset", params(("id" = i64, Path)), responses((status = 200, body = Vec<ColumnSummary>)))]
pub async fn summary(State(app): State<App>, Path(id): Path<i64>) -> Answer<Arc<Vec<ColumnSummary>>> {
    let dataset = app.store.dataset(id).await?;
    Ok(Json(app.answers.summaries(&dataset).await?))
}

/// A window of rows.
#[utoipa::path(get, path = "/api/datasets/{id}/rows", tag = "datasets", operation_id = "read_rows", params(("id" = i64, Path), Window), responses((status = 200, body = Rows)))]
pub async fn rows(State(app): State<App>, Path(id): Path<i64>, Query(window): Query<Window>) -> Answer<Rows> {
    let rows = app.store.rows(id, window.first, window.count.min(ROWS_AT_ONCE)).await?;
    Ok(Json(Rows { revision: rows.dataset.revision, first: rows.first, row_ids: rows.row_ids, cells: rows.cells }))
}

/// Edits one cell.
#[utoipa::path(patch, path = "/api/datasets/{id}/cells", tag = "datasets", operation_id = "edit_cell", params(("id" = i64, Path)), request_body = CellEdit, responses((status = 200, body = Dataset), (status = 412, body = HttpProblem), (status = 422, body = HttpProblem)))]
pub async fn edit_cell(State(app): State<App>, Path(id): Path<i64>, Json(edit): Json<CellEdit>) -> Answer<Dataset> {
    let dataset = app.store.edit_cell(id, &edit, &change()).await?;
    Ok(changed(&app, dataset))
}

/// Changes the properties of a column.
#[utoipa::path(put, path = "/api/datasets/{id}/columns/{column_id}", tag = "datasets", operation_id = "change_column", params(("id" = i64, Path), ("column_id" = i64, Path)), request_body = ColumnEdit, responses((status = 200, body = Dataset), (status = 412, body = HttpProblem), (status = 422, body = HttpProblem)))]
pub async fn change_column(
    State(app): State<App>,
    Path((id, column_id)): Path<(i64, i64)>,
    Json(edit): Json<ColumnEdit>,
) -> Answer<Dataset> {
    let before = app.store.dataset(id).await?;
    let dataset = app.store.change_column(id, column_id, edit.revision, edit.column, &change()).await?;
    let renamed = before.column(column_id)?.name != dataset.column(column_id)?.name;
    if renamed {
        // Statements that name the column follow it.
        app.live.tell(LiveEvent::Everything);
    }
    Ok(changed(&app, dataset))
}

/// The newest changes of a dataset.
#[utoipa::path(get, path = "/api/datasets/{id}/history", tag = "datasets", operation_id = "read_history", params(("id" = i64, Path)), responses((status = 200, body = Vec<HistoryRow>)))]
pub async fn history(State(app): State<App>, Path(id): Path<i64>) -> Answer<Vec<HistoryRow>> {
    Ok(Json(app.store.history(id, 100).await?))
}

/// Undoes the newest change of a dataset.
#[utoipa::path(post, path = "/api/datasets/{id}/undo", tag = "datasets", operation_id = "undo_dataset", params(("id" = i64, Path)), responses((status = 200, body = Dataset), (status = 409, body = HttpProblem)))]
pub async fn undo(State(app): State<App>, Path(id): Path<i64>) -> Answer<Dataset> {
    let dataset = app.store.undo_dataset(id, &change()).await?;
    app.live.tell(LiveEvent::Everything);
    Ok(changed(&app, dataset))
}

/// The whole dataset as CSV.
#[utoipa::path(get, path = "/api/datasets/{id}/export.csv", tag = "datasets", operation_id = "export_dataset", params(("id" = i64, Path)), responses((status = 200, content_type = "text/csv", body = String)))]
pub async fn export(State(app): State<App>, Path(id): Path<i64>) -> Result<impl IntoResponse, ApiError> {
    let (dataset, frame) = app.store.frame(id, |_| true).await?;
    let csv = compute(move |_| {
        let columns: Vec<_> = frame.columns().iter().map(|column| (column.name.as_str(), &column.values)).collect();
        let mut out = Vec::new();
        write_csv(&columns, &mut out).expect("writing to memory cannot fail");
        Ok(out)
    });
    Ok((attachment(&format!("{}.csv", dataset.name), "text/csv; charset=utf-8"), csv.await?))
}
