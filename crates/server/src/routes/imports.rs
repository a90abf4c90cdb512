//! Bringing data in: a file is looked at, corrected, and only then stored.

use std::sync::Arc;

use acorn_formats::{Misfit, RawLine, ReadAs, ReadColumn, ReadNote, ReadOptions, Reading, Source, WideSheet, unfold, wide_sheet};
use acorn_store::{Dataset, NewDataset, Recipe};
use axum::body::Bytes;
use axum::extract::State;
use axum::extract::rejection::BytesRejection;
use axum::http::StatusCode;
use serde::{Deserialize, Serialize};
use utoipa::{IntoParams, ToSchema};

use crate::error::{ApiError, HttpProblem};
use crate::extract::{By, Json, Path, Query};
use crate::service::App;
use crate::service::imports::{Understood, Waiting};

type Answer<T> = Result<Json<T>, ApiError>;

/// The name of a file.
#[derive(Deserialize, IntoParams)]
#[into_params(parameter_in = Query)]
pub struct Named {
    /// As the person knows it.
    pub name: String,
}

/// A file as understood. Nothing is stored yet.
#[derive(Serialize, ToSchema)]
pub struct Preview {
    /// The number of this import.
    pub id: u64,
    /// The name of the file.
    pub name: String,
    /// The corrections with which it was read.
    pub read_options: ReadOptions,
    /// Who made them for the last file of this layout, and when; absent where they are for this one.
    #[serde(skip_serializing_if = "Option::is_none")]
    pub recipe: Option<Recipe>,
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
    /// How several readings stand in a row, as the trials of operators or the pieces of a subgroup; absent when none do.
    pub wide: Option<WideSheet>,
}

/// The name that a dataset gets.
#[derive(Deserialize, ToSchema)]
pub struct StoreAs {
    /// Its name.
    pub name: String,
    /// Whether a sheet with several readings in a row is unfolded into a row a reading.
    #[serde(default)]
    pub unfold: bool,
}

fn preview(id: u64, name: &str, understood: Understood) -> Json<Preview> {
    let Understood { reading, read_options, recipe, .. } = understood;
    Json(Preview {
        read_options,
        recipe,
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

/// Reads away from the threads that answer.
pub async fn blocking<T: Send + 'static>(
    work: impl FnOnce() -> Result<T, acorn_formats::FormatError> + Send + 'static,
) -> Result<T, ApiError> {
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
    let (source, understood) = blocking(move || {
        let source = Source::open(&name, bytes.into())?;
        let understood = Understood::plain(&source)?;
        Ok((source, understood))
    })
    .await?;
    let recipe = match &understood.layout {
        Some(layout) => app.store.recipe(layout).await?,
        None => None,
    };
    let (source, understood) = blocking(move || {
        let understood = understood.with(&source, recipe);
        Ok((source, understood))
    })
    .await?;
    let id = app.imports.add(source, understood.clone());
    Ok(preview(id, &named.name, understood))
}

/// A file as it is understood so far.
#[utoipa::path(get, path = "/api/imports/{id}", tag = "imports", operation_id = "look_at_import", params(("id" = u64, Path)), responses((status = 200, body = Preview), (status = 404, body = HttpProblem)))]
pub async fn look(State(app): State<App>, Path(id): Path<u64>) -> Answer<Preview> {
    let waiting = app.imports.get(id)?;
    Ok(preview(id, &waiting.name, waiting.understood()))
}

/// Reads the file again, as wished.
#[utoipa::path(put, path = "/api/imports/{id}", tag = "imports", operation_id = "correct_import", params(("id" = u64, Path)), request_body = ReadOptions, responses((status = 200, body = Preview), (status = 404, body = HttpProblem), (status = 422, body = HttpProblem)))]
pub async fn correct(State(app): State<App>, Path(id): Path<u64>, Json(read_options): Json<ReadOptions>) -> Answer<Preview> {
    let waiting = app.imports.get(id)?;
    let again = waiting.clone();
    let understood = blocking(move || again.correct(read_options)).await?;
    Ok(preview(id, &waiting.name, understood))
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
    let understood = blocking(move || again.add(&named.name, bytes.into())).await?;
    Ok(preview(id, &waiting.name, understood))
}

/// The table as last understood, when each of its values has an answer.
fn complete(waiting: &Waiting) -> Result<Arc<Reading>, ApiError> {
    let reading = waiting.understood().reading;
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
    let Understood { layout, read_options, .. } = waiting.understood();
    // First, so that nothing is refused once the dataset is there.
    if let Some(layout) = layout {
        app.store.keep_recipe(&layout, &read_options, &change).await?;
    }
    let dataset = app.store.create_dataset(new, &change).await?;
    app.imports.remove(id);
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
    let known = app.store.dataset(to.dataset_id).await?;
    let only_signs = reading.adds_only_signs(|name| known.columns.iter().any(|own| own.name == name));
    let dataset = app.store.append(to.dataset_id, &reading.table, to.new_columns || only_signs, &change).await?;
    app.imports.remove(id);
    Ok(Json(dataset))
}
