//! Tables out: all of one, what a view shows, or what is chosen in it.

use acorn_data::frame::{Column, Frame, Values};
use acorn_formats::{FormatError, Texts, write_csv, write_json, write_json_lines, write_parquet, write_table_xlsx};
use acorn_study::{StudyError, TableView};
use axum::body::{Body, Bytes};
use axum::extract::State;
use axum::http::{HeaderName, HeaderValue, StatusCode};
use axum::response::{IntoResponse, Response};
use serde::Deserialize;
use utoipa::IntoParams;

use super::attachment;
use crate::error::{ApiError, HttpProblem};
use crate::extract::{Path, Query};
use crate::service::App;
use crate::service::answers::compute;

/// How texts are to stand in a CSV.
#[derive(Deserialize, IntoParams)]
#[into_params(parameter_in = Query)]
pub struct AsWritten {
    /// Leave texts as they are, also those that a spreadsheet would run as a formula; else an apostrophe stands before them.
    #[serde(default)]
    as_written: bool,
}

impl AsWritten {
    pub fn texts(&self) -> Texts {
        if self.as_written { Texts::AsWritten } else { Texts::Harmless }
    }
}

/// What of a table goes out; all of it when nothing is said.
#[derive(Clone, Deserialize, IntoParams)]
#[into_params(parameter_in = Query)]
pub struct Wanted {
    /// The view whose rows go out, in its order, as JSON.
    view: Option<String>,
    /// The first of them, from 0.
    first: Option<usize>,
    /// How many.
    count: Option<usize>,
    /// The columns by their numbers, such as `3.4.9`; those that are hidden go out too unless they are left out here.
    columns: Option<String>,
}

/// Rows of a stream that are written at once.
const LINES_AT_ONCE: usize = 5_000;

/// A file and its headers.
type Sent = Result<([(HeaderName, HeaderValue); 2], Vec<u8>), ApiError>;

fn unreadable(what: &str) -> ApiError {
    let detail = format!("{what} cannot be read");
    ApiError::new(StatusCode::UNPROCESSABLE_ENTITY, "bad-export", detail, "Leave it out to have the whole table.")
}

/// Writes what is wanted of a table as a file of an ending and a type.
async fn sent(
    app: &App,
    id: i64,
    wanted: Wanted,
    [ending, kind]: [&'static str; 2],
    write: impl FnOnce(&[Column]) -> Result<Vec<u8>, FormatError> + Send + 'static,
) -> Sent {
    let (name, frame) = wanted_of(app, id, wanted).await?;
    let file = compute(move |_| Ok(write(frame.columns()))).await?.map_err(ApiError::from)?;
    Ok((attachment(&format!("{name}.{ending}"), kind), file))
}

/// The name of a dataset and what is wanted of it.
async fn wanted_of(app: &App, id: i64, wanted: Wanted) -> Result<(String, Frame), ApiError> {
    let read = |text: &str| serde_json::from_str::<TableView>(text).map_err(|_| unreadable("the view"));
    let view = wanted.view.as_deref().map(read).transpose()?.unwrap_or_default();
    let ids = |text: &str| text.split('.').map(|id| id.parse::<i64>().ok()).collect::<Option<Vec<_>>>();
    let ids = wanted.columns.as_deref().map(|text| ids(text).ok_or_else(|| unreadable("the list of columns"))).transpose()?;
    let (dataset, frame) = app.store.frame(id, |_| true).await?;
    if let Some(ids) = &ids {
        ids.iter().try_for_each(|id| dataset.column(*id).map(|_| ()))?;
    }
    let names: Option<Vec<String>> =
        ids.map(|ids| dataset.columns.iter().filter(|column| ids.contains(&column.id)).map(|column| column.name.clone()).collect());
    let frame = compute(move |_| picked(&frame, &view, names, &wanted)).await?;
    Ok((dataset.name, frame))
}

fn picked(frame: &Frame, view: &TableView, names: Option<Vec<String>>, wanted: &Wanted) -> Result<Frame, StudyError> {
    let is_whole = *view == TableView::default() && wanted.first.is_none() && wanted.count.is_none();
    if is_whole && names.is_none() {
        return Ok(frame.clone());
    }
    let rows = view.rows(frame)?.into_iter().skip(wanted.first.unwrap_or(0)).take(wanted.count.unwrap_or(usize::MAX));
    let columns: Vec<&Column> =
        frame.columns().iter().filter(|column| names.as_ref().is_none_or(|names| names.contains(&column.name))).collect();
    Ok(frame.pick(&columns, &rows.map(|row| row as usize).collect::<Vec<_>>()))
}

fn named(columns: &[Column]) -> Vec<(&str, &Values)> {
    columns.iter().map(|column| (column.name.as_str(), &column.values)).collect()
}

/// A dataset as CSV.
#[utoipa::path(get, path = "/api/datasets/{id}/export.csv", tag = "datasets", operation_id = "export_dataset", params(("id" = i64, Path), Wanted, AsWritten), responses((status = 200, content_type = "text/csv", body = String), (status = 422, body = HttpProblem)))]
pub async fn csv(State(app): State<App>, Path(id): Path<i64>, Query(wanted): Query<Wanted>, Query(written): Query<AsWritten>) -> Sent {
    let texts = written.texts();
    let write = move |columns: &[Column]| {
        let mut out = Vec::new();
        write_csv(&named(columns), texts, &mut out).expect("writing to memory cannot fail");
        Ok(out)
    };
    sent(&app, id, wanted, ["csv", "text/csv; charset=utf-8"], write).await
}

/// A dataset as a workbook, with a sheet that tells kinds, units and limits of its columns.
#[utoipa::path(get, path = "/api/datasets/{id}/export.xlsx", tag = "datasets", operation_id = "export_workbook", params(("id" = i64, Path), Wanted), responses((status = 200, content_type = "application/vnd.openxmlformats-officedocument.spreadsheetml.sheet", body = Vec<u8>), (status = 413, body = HttpProblem), (status = 422, body = HttpProblem)))]
pub async fn workbook(State(app): State<App>, Path(id): Path<i64>, Query(wanted): Query<Wanted>) -> Sent {
    sent(&app, id, wanted, ["xlsx", "application/vnd.openxmlformats-officedocument.spreadsheetml.sheet"], write_table_xlsx).await
}

/// A dataset as a JSON array of objects.
#[utoipa::path(get, path = "/api/datasets/{id}/export.json", tag = "datasets", operation_id = "export_json", params(("id" = i64, Path), Wanted), responses((status = 200, content_type = "application/json", body = Vec<u8>), (status = 422, body = HttpProblem)))]
pub async fn json(State(app): State<App>, Path(id): Path<i64>, Query(wanted): Query<Wanted>) -> Sent {
    let write = |columns: &[Column]| {
        let mut out = Vec::new();
        write_json(&named(columns), &mut out).expect("writing to memory cannot fail");
        Ok(out)
    };
    sent(&app, id, wanted, ["json", "application/json"], write).await
}

/// A dataset as JSON objects, each a line of its own, sent while they are written: for programs that read on and on.
#[utoipa::path(get, path = "/api/datasets/{id}/rows.jsonl", tag = "datasets", operation_id = "stream_rows", params(("id" = i64, Path), Wanted), responses((status = 200, content_type = "application/x-ndjson", body = String), (status = 422, body = HttpProblem)))]
pub async fn lines(State(app): State<App>, Path(id): Path<i64>, Query(wanted): Query<Wanted>) -> Result<Response, ApiError> {
    let (name, frame) = wanted_of(&app, id, wanted).await?;
    // A change meanwhile changes nothing of what is sent: the frame is of one revision.
    let stream = async_stream::stream! {
        for first in (0..frame.rows()).step_by(LINES_AT_ONCE) {
            let (frame, end) = (frame.clone(), (first + LINES_AT_ONCE).min(frame.rows()));
            let written = tokio::task::spawn_blocking(move || {
                let mut out = Vec::new();
                write_json_lines(&named(frame.columns()), first..end, &mut out).map(|()| Bytes::from(out))
            });
            yield written.await.unwrap_or_else(|error| Err(std::io::Error::other(error)));
        }
    };
    Ok((attachment(&format!("{name}.jsonl"), "application/x-ndjson"), Body::from_stream(stream)).into_response())
}

/// A dataset as Parquet.
#[utoipa::path(get, path = "/api/datasets/{id}/export.parquet", tag = "datasets", operation_id = "export_parquet", params(("id" = i64, Path), Wanted), responses((status = 200, content_type = "application/vnd.apache.parquet", body = Vec<u8>), (status = 422, body = HttpProblem)))]
pub async fn parquet(State(app): State<App>, Path(id): Path<i64>, Query(wanted): Query<Wanted>) -> Sent {
    sent(&app, id, wanted, ["parquet", "application/vnd.apache.parquet"], |columns| write_parquet(&named(columns))).await
}
