//! Datasets: their columns, rows, edits and history.

use std::sync::Arc;

use acorn_data::summary::ColumnSummary;
use acorn_store::{CellEdit, ColumnChange, Dataset, EditKind, GoneRows, NewRows, Put, UndoDirection};
use axum::extract::State;
use axum::http::StatusCode;
use serde::{Deserialize, Serialize};
use utoipa::{IntoParams, ToSchema};

use crate::bounds::{HISTORY_LINES, ROWS_AT_ONCE};
use crate::error::{ApiError, HttpProblem};
use crate::extract::{By, Json, Path, Query};
use crate::service::App;
use crate::service::answers::compute;
use crate::service::history::{self, ToldChange};

type Answer<T> = Result<Json<T>, ApiError>;

/// Another name for a dataset.
#[derive(Deserialize, ToSchema)]
pub struct Rename {
    /// The revision that the person saw.
    pub revision: i64,
    /// The new name.
    pub name: String,
}

/// The revision that the person saw.
#[derive(Deserialize, ToSchema)]
pub struct AtRevision {
    /// The revision.
    pub revision: i64,
}

/// A new text for one cell.
#[derive(Deserialize, ToSchema)]
pub struct OneCell {
    /// The revision of the dataset that the person saw.
    pub revision: i64,
    /// The cell and its text.
    #[serde(flatten)]
    pub edit: CellEdit,
}

/// New texts for cells, such as a pasted block.
#[derive(Deserialize, ToSchema)]
#[schema(as = CellEdits)]
pub struct Cells {
    /// The revision of the dataset that the person saw.
    pub revision: i64,
    /// The cells and their texts.
    pub edits: Vec<CellEdit>,
    /// By what they come.
    #[serde(default)]
    pub how: EditKind,
    /// Whether rows are added behind the last one where there are too few.
    #[serde(default)]
    pub grow: bool,
}

/// Rows that were added.
#[derive(Serialize, ToSchema)]
pub struct AddedRows {
    /// The dataset by now.
    pub dataset: Dataset,
    /// The ids of the new rows.
    pub row_ids: Vec<i64>,
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

/// Rows by their ids, or those of a stretch of points of a study, which may be too many to name.
#[derive(Deserialize, IntoParams)]
#[into_params(parameter_in = Query)]
pub struct WantedRows {
    /// Stretches of row ids, such as `3-5.9`.
    ids: Option<String>,
    /// The study.
    study: Option<i64>,
    /// Its first point; the first of all unless said otherwise.
    first: Option<usize>,
    /// Its last point; the last of all unless said otherwise.
    last: Option<usize>,
}

fn row_stretches(ids: &str) -> Result<Vec<[i64; 2]>, ApiError> {
    let stretch = |text: &str| {
        let (first, last) = text.split_once('-').unwrap_or((text, text));
        Some([first.parse().ok()?, last.parse().ok()?])
    };
    let unreadable = || {
        let detail = format!("“{ids}” is not a list of rows");
        ApiError::new(StatusCode::UNPROCESSABLE_ENTITY, "bad-rows", detail, "Write stretches of row ids such as 3-5.9.")
    };
    ids.split('.').map(stretch).collect::<Option<_>>().ok_or_else(unreadable)
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
    /// The cells beyond their specification limits, each as its column, its row in the window, and -1 below or 1 above.
    pub beyond: Vec<[i64; 3]>,
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
pub async fn rename(State(app): State<App>, By(change): By, Path(id): Path<i64>, Json(wanted): Json<Rename>) -> Answer<Dataset> {
    Ok(Json(app.store.rename_dataset(id, wanted.revision, &wanted.name, &change).await?))
}

/// Deletes a dataset with its studies.
#[utoipa::path(delete, path = "/api/datasets/{id}", tag = "datasets", operation_id = "delete_dataset", params(("id" = i64, Path)), responses((status = 204), (status = 404, body = HttpProblem)))]
pub async fn delete(State(app): State<App>, Path(id): Path<i64>) -> Result<StatusCode, ApiError> {
    app.store.delete_dataset(id).await?;
    Ok(StatusCode::NO_CONTENT)
}

/// What stands in each column, in order.
#[utoipa::path(get, path = "/api/datasets/{id}/summary", tag = "datasets", operation_id = "summarise_dataset", params(("id" = i64, Path)), responses((status = 200, body = Vec<ColumnSummary>)))]
pub async fn summary(State(app): State<App>, Path(id): Path<i64>) -> Answer<Vec<Arc<ColumnSummary>>> {
    let dataset = app.store.dataset(id).await?;
    Ok(Json(app.answers.summaries(&dataset).await?))
}

/// A window of rows.
#[utoipa::path(get, path = "/api/datasets/{id}/rows", tag = "datasets", operation_id = "read_rows", params(("id" = i64, Path), Window), responses((status = 200, body = Rows)))]
pub async fn rows(State(app): State<App>, Path(id): Path<i64>, Query(window): Query<Window>) -> Answer<Rows> {
    let rows = app.store.rows(id, window.first, window.count.min(ROWS_AT_ONCE)).await?;
    Ok(Json(Rows { revision: rows.dataset.revision, first: rows.first, row_ids: rows.row_ids, cells: rows.cells, beyond: rows.beyond }))
}

/// Where rows stand by now: stretches of positions, from 0, ends included. Rows that are gone have no place.
#[utoipa::path(get, path = "/api/datasets/{id}/places", tag = "datasets", operation_id = "places_of_rows", params(("id" = i64, Path), WantedRows), responses((status = 200, body = Vec<[usize; 2]>), (status = 422, body = HttpProblem)))]
pub async fn places(State(app): State<App>, Path(id): Path<i64>, Query(wanted): Query<WantedRows>) -> Answer<Vec<[usize; 2]>> {
    let Some(study) = wanted.study else {
        return Ok(Json(app.store.places(id, &row_stretches(wanted.ids.as_deref().unwrap_or_default())?).await?));
    };
    let study = app.store.study(study).await?;
    if study.dataset_id != Some(id) {
        let detail = format!("study {} is about another dataset", study.id);
        return Err(ApiError::new(StatusCode::UNPROCESSABLE_ENTITY, "other-dataset", detail, "Ask for the rows in its own dataset."));
    }
    let computed = app.answers.answer(&study.spec).await?;
    let rows = compute(move |_| Ok(computed.row_stretches(wanted.first, wanted.last))).await?;
    Ok(Json(app.store.places(id, &rows).await?))
}

/// Edits one cell.
#[utoipa::path(patch, path = "/api/datasets/{id}/cells", tag = "datasets", operation_id = "edit_cell", params(("id" = i64, Path)), request_body = OneCell, responses((status = 200, body = Dataset), (status = 412, body = HttpProblem), (status = 422, body = HttpProblem)))]
pub async fn edit_cell(State(app): State<App>, By(change): By, Path(id): Path<i64>, Json(cell): Json<OneCell>) -> Answer<Dataset> {
    Ok(Json(app.store.edit_cells(id, cell.revision, &[cell.edit], &change).await?))
}

/// Edits cells, all or none; they are undone together.
#[utoipa::path(post, path = "/api/datasets/{id}/cells", tag = "datasets", operation_id = "edit_cells", params(("id" = i64, Path)), request_body = Cells, responses((status = 200, body = Dataset), (status = 412, body = HttpProblem), (status = 422, body = HttpProblem)))]
pub async fn edit_cells(State(app): State<App>, By(change): By, Path(id): Path<i64>, Json(cells): Json<Cells>) -> Answer<Dataset> {
    let put = Put { edits: &cells.edits, how: cells.how, grow: cells.grow };
    Ok(Json(app.store.put_cells(id, cells.revision, &put, &change).await?))
}

/// Adds rows, at the end or in between, all or none.
#[utoipa::path(post, path = "/api/datasets/{id}/rows", tag = "datasets", operation_id = "add_rows", params(("id" = i64, Path)), request_body = NewRows, responses((status = 200, body = AddedRows), (status = 412, body = HttpProblem), (status = 422, body = HttpProblem)))]
pub async fn add_rows(State(app): State<App>, By(change): By, Path(id): Path<i64>, Json(new): Json<NewRows>) -> Answer<AddedRows> {
    let (dataset, row_ids) = app.store.add_rows(id, &new, &change).await?;
    Ok(Json(AddedRows { dataset, row_ids }))
}

/// Deletes rows, all or none.
#[utoipa::path(delete, path = "/api/datasets/{id}/rows", tag = "datasets", operation_id = "delete_rows", params(("id" = i64, Path)), request_body = GoneRows, responses((status = 200, body = Dataset), (status = 404, body = HttpProblem), (status = 412, body = HttpProblem)))]
pub async fn delete_rows(State(app): State<App>, By(change): By, Path(id): Path<i64>, Json(gone): Json<GoneRows>) -> Answer<Dataset> {
    Ok(Json(app.store.delete_rows(id, &gone, &change).await?))
}

/// Changes the properties of a column.
#[utoipa::path(put, path = "/api/datasets/{id}/columns/{column_id}", tag = "datasets", operation_id = "change_column", params(("id" = i64, Path), ("column_id" = i64, Path)), request_body = ColumnEdit, responses((status = 200, body = Dataset), (status = 412, body = HttpProblem), (status = 422, body = HttpProblem)))]
pub async fn change_column(
    State(app): State<App>,
    By(change): By,
    Path((id, column_id)): Path<(i64, i64)>,
    Json(edit): Json<ColumnEdit>,
) -> Answer<Dataset> {
    Ok(Json(app.store.change_column(id, column_id, edit.revision, edit.column, &change).await?))
}

/// The newest changes of a dataset.
#[utoipa::path(get, path = "/api/datasets/{id}/history", tag = "datasets", operation_id = "read_history", params(("id" = i64, Path)), responses((status = 200, body = Vec<ToldChange>)))]
pub async fn history(State(app): State<App>, Path(id): Path<i64>) -> Answer<Vec<ToldChange>> {
    Ok(Json(history::of_dataset(&app, id, HISTORY_LINES).await?))
}

async fn turn(app: &App, turn: UndoDirection, id: i64, revision: i64, By(change): By) -> Answer<Dataset> {
    Ok(Json(app.store.turn_dataset(id, turn, revision, &change).await?))
}

/// Undoes the newest change of a dataset that stands.
#[utoipa::path(post, path = "/api/datasets/{id}/undo", tag = "datasets", operation_id = "undo_dataset", params(("id" = i64, Path)), request_body = AtRevision, responses((status = 200, body = Dataset), (status = 409, body = HttpProblem), (status = 412, body = HttpProblem)))]
pub async fn undo(State(app): State<App>, by: By, Path(id): Path<i64>, Json(at): Json<AtRevision>) -> Answer<Dataset> {
    turn(&app, UndoDirection::Undo, id, at.revision, by).await
}

/// Redoes the change of a dataset that was undone last.
#[utoipa::path(post, path = "/api/datasets/{id}/redo", tag = "datasets", operation_id = "redo_dataset", params(("id" = i64, Path)), request_body = AtRevision, responses((status = 200, body = Dataset), (status = 409, body = HttpProblem), (status = 412, body = HttpProblem)))]
pub async fn redo(State(app): State<App>, by: By, Path(id): Path<i64>, Json(at): Json<AtRevision>) -> Answer<Dataset> {
    turn(&app, UndoDirection::Redo, id, at.revision, by).await
}
