//! Bringing data in: a file is looked at, corrected, and only then stored.

use std::sync::Arc;

use acorn_formats::{Misfit, RawLine, ReadAs, ReadColumn, ReadNote, Reading, Source, WideSheet, Wish, read, unfold, wide_sheet};
use acorn_store::{Dataset, NewDataset};
use axum::body::Bytes;
use axum::extract::State;
use axum::extract::rejection::BytesRejection;
use axum::http::StatusCode;
use serde::{Deserialize, Serialize};
use utoipa::{IntoParams, ToSchema};

use crate::error::{ApiError, HttpProblem};
use crate::extract::{By, Json, Path, Query};
use crate::imports::Waiting;
use crate::live::LiveEvent;
use crate::state::App;

type Answer<T> = Result<Json<T>, ApiError>;

/// The name of a file.
#[derive(Deserialize, IntoParams)]
#[into_params(parameter_in = Query)]
pub struct Named {
    /// As the person knows it.
    name: String,
}

/// A file as understood. Nothing is stored yet.
#[derive(Serialize, ToSchema)]
pub struct Preview {
    /// The number of this import.
    pub id: u64,
    /// The name of the file.
    pub name: String,
    /// How it was read.
    pub read_as: ReadAs,
    /// Its columns with their first values.
    pub columns: Vec<ReadColumn>,
    /// The first lines as they stand, and the last.
    pub lines: Vec<RawLine>,
    /// Lines between the last two shown.
    pub lines_between: u64,
    /// Rows of the table.
    pub rows: usize,
    /// What was understood.
    pub notes: Vec<ReadNote>,
    /// Values that do not fit, the first ones.
    pub problems: Vec<Misfit>,
    /// How many values do not fit.
    pub problem_count: usize,
    /// The sheet that it is, with a row a part and a column for each operator's trial; absent when it is none.
    pub wide: Option<WideSheet>,
}

/// The name that a dataset gets.
#[derive(Deserialize, ToSchema)]
pub struct StoreAs {
    /// Its name.
    pub name: String,
    /// Whether a sheet with a row a part is unfolded into a row a reading.
    #[serde(default)]
    pub unfold: bool,
}

fn preview(id: u64, name: &str, reading: &Reading) -> Json<Preview> {
    Json(Preview {
        id,
        name: name.to_owned(),
        read_as: reading.read_as.clone(),
        columns: reading.columns.clone(),
        lines: reading.lines.clone(),
        lines_between: reading.lines_between,
        rows: reading.table.rows,
        notes: reading.notes.clone(),
        problems: reading.problems.clone(),
        problem_count: reading.problem_count,
        wide: wide_sheet(&reading.table),
    })
}

async fn blocking<T: Send + 'static>(work: impl FnOnce() -> Result<T, acorn_formats::FormatError> + Send + 'static) -> Result<T, ApiError> {
    let failed = |_| {
        ApiError::new(
            StatusCode::INTERNAL_SERVER_ERROR,
            "reading-failed",
            "the file could not be read",
            "Save it as CSV and bring that in.",
        )
    };
    Ok(tokio::task::spawn_blocking(work).await.map_err(failed)??)
}

/// Looks at a file or at pasted text.
#[utoipa::path(post, path = "/api/imports", tag = "imports", operation_id = "bring_in", params(Named), request_body(content = Vec<u8>, content_type = "application/octet-stream"), responses((status = 200, body = Preview), (status = 413, body = HttpProblem), (status = 422, body = HttpProblem)))]
pub async fn bring(State(app): State<App>, Query(named): Query<Named>, bytes: Result<Bytes, BytesRejection>) -> Answer<Preview> {
    let (name, bytes) = (named.name.clone(), bytes?);
    let (source, reading) = blocking(move || {
        let source = Source::open(&name, bytes.into())?;
        let reading = Arc::new(read(&source, &Wish::default())?);
        Ok((source, reading))
    })
    .await?;
    let id = app.imports.add(source, reading.clone());
    Ok(preview(id, &named.name, &reading))
}

/// Reads the file again, as wished.
#[utoipa::path(put, path = "/api/imports/{id}", tag = "imports", operation_id = "correct_import", params(("id" = u64, Path)), request_body = Wish, responses((status = 200, body = Preview), (status = 404, body = HttpProblem), (status = 422, body = HttpProblem)))]
pub async fn correct(State(app): State<App>, Path(id): Path<u64>, Json(wish): Json<Wish>) -> Answer<Preview> {
    let waiting = app.imports.get(id)?;
    let again = waiting.clone();
    let reading = blocking(move || Ok(Arc::new(again.read(&wish)?))).await?;
    waiting.set_reading(reading.clone());
    Ok(preview(id, &waiting.name, &reading))
}

/// Adds another text file of the same layout to one that waits; its rows come behind, and a column names the file of each row.
#[utoipa::path(post, path = "/api/imports/{id}/files", tag = "imports", operation_id = "add_file", params(("id" = u64, Path), Named), request_body(content = Vec<u8>, content_type = "application/octet-stream"), responses((status = 200, body = Preview), (status = 422, body = HttpProblem)))]
pub async fn add(
    State(app): State<App>,
    Path(id): Path<u64>,
    Query(named): Query<Named>,
    bytes: Result<Bytes, BytesRejection>,
) -> Answer<Preview> {
    let (waiting, bytes) = (app.imports.get(id)?, bytes?);
    let again = waiting.clone();
    let reading = blocking(move || Ok(Arc::new(again.add(&named.name, bytes.into())?))).await?;
    waiting.set_reading(reading.clone());
    Ok(preview(id, &waiting.name, &reading))
}

/// The table as last understood, when each of its values has an answer.
fn complete(waiting: &Waiting) -> Result<Arc<Reading>, ApiError> {
    let reading = waiting.reading();
    let refused = |code: &str, detail: String, advice: &str| Err(ApiError::new(StatusCode::UNPROCESSABLE_ENTITY, code, detail, advice));
    if reading.problem_count > 0 {
        let detail = format!("{} values do not fit their columns", reading.problem_count);
        return refused("values-do-not-fit", detail, "Answer each of them, or take them all as missing.");
    }
    if reading.table.columns.is_empty() {
        return refused("no-columns", "every column is left out".into(), "Keep at least one column.");
    }
    Ok(reading)
}

/// Forgets the file.
#[utoipa::path(delete, path = "/api/imports/{id}", tag = "imports", operation_id = "leave_import", params(("id" = u64, Path)), responses((status = 204)))]
pub async fn leave(State(app): State<App>, Path(id): Path<u64>) -> StatusCode {
    app.imports.remove(id);
    StatusCode::NO_CONTENT
}

/// Stores the table as last understood. Values that do not fit must have an answer first.
#[utoipa::path(post, path = "/api/imports/{id}/dataset", tag = "imports", operation_id = "store_import", params(("id" = u64, Path)), request_body = StoreAs, responses((status = 200, body = Dataset), (status = 422, body = HttpProblem)))]
pub async fn store(State(app): State<App>, By(change): By, Path(id): Path<u64>, Json(wanted): Json<StoreAs>) -> Answer<Dataset> {
    let waiting = app.imports.get(id)?;
    let reading = complete(&waiting)?;
    let unfolded = if wanted.unfold { unfold(&reading.table) } else { None };
    let table = unfolded.as_ref().unwrap_or(&reading.table);
    let new = NewDataset { name: &wanted.name, source: &waiting.name, table, infos: &[], gauges: &[] };
    let dataset = app.store.create_dataset(new, &change).await?;
    app.imports.remove(id);
    app.live.tell(LiveEvent::Dataset { id: dataset.id, revision: dataset.revision });
    Ok(Json(dataset))
}

/// The dataset that rows are added to.
#[derive(Deserialize, ToSchema)]
pub struct AddTo {
    /// Its number.
    pub dataset_id: i64,
    /// Whether columns that it has not are added to it; else they must be left out first.
    #[serde(default)]
    pub new_columns: bool,
}

/// Adds the rows of the table as last understood at the end of a dataset: columns matched by name, missing where the table has none.
/// Columns that the dataset has not are added to it where that is wanted, and gone again when it is undone.
#[utoipa::path(post, path = "/api/imports/{id}/rows", tag = "imports", operation_id = "append_import", params(("id" = u64, Path)), request_body = AddTo, responses((status = 200, body = Dataset), (status = 422, body = HttpProblem)))]
pub async fn append(State(app): State<App>, By(change): By, Path(id): Path<u64>, Json(to): Json<AddTo>) -> Answer<Dataset> {
    let waiting = app.imports.get(id)?;
    let reading = complete(&waiting)?;
    let dataset = app.store.append(to.dataset_id, &reading.table, to.new_columns, &change).await?;
    app.imports.remove(id);
    app.live.tell(LiveEvent::Dataset { id: dataset.id, revision: dataset.revision });
    Ok(Json(dataset))
}
