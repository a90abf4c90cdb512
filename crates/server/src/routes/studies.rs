//! Studies: saved questions and their answers.

use std::sync::Arc;

use acorn_core::methods::{self, Computed, Outcome, named};
use acorn_formats::{Sheet, Texts, write_book, write_csv, write_parquet, write_xlsx};
use acorn_store::{NewStudy, StudyChange, UndoDirection};
use acorn_study::statement::Statement;
use acorn_study::{Spec, StudyError, Table, View};
use axum::extract::State;
use axum::http::StatusCode;
use axum::response::IntoResponse;
use serde::{Deserialize, Serialize};
use utoipa::{IntoParams, ToSchema};

use super::attachment;
use super::datasets::AtRevision;
use super::exports::AsWritten;
use crate::bounds::{HISTORY_LINES, VIEW_POINTS, VIEW_POINTS_MAX};
use crate::error::{ApiError, HttpProblem};
use crate::extract::{By, Json, Path, Query};
use crate::service::App;
use crate::service::answers::compute;
use crate::service::history::{self, ToldChange};
use crate::service::jobs::Job;
use crate::service::stated::{self, StatedStudy};

type Answer<T> = Result<Json<T>, ApiError>;

/// All studies, the last changed first.
#[utoipa::path(get, path = "/api/studies", tag = "studies", operation_id = "list_studies", responses((status = 200, body = Vec<StatedStudy>)))]
pub async fn list(State(app): State<App>) -> Answer<Vec<StatedStudy>> {
    Ok(Json(stated::all(&app).await?))
}

/// Saves a question about a dataset, about typed columns that become a table of its own, or about nothing but its options. It
/// need not be complete.
#[utoipa::path(post, path = "/api/studies", tag = "studies", operation_id = "create_study", request_body = NewStudy, responses((status = 200, body = StatedStudy), (status = 404, body = HttpProblem), (status = 422, body = HttpProblem)))]
pub async fn create(State(app): State<App>, By(change): By, Json(new): Json<NewStudy>) -> Answer<StatedStudy> {
    if new.spec.data.is_none() && named(&new.spec.method)?.card().needs_columns(&new.spec) {
        return Err(StudyError::NoData { problem: "this question is about columns, and no dataset is named".into() }.into());
    }
    Ok(Json(stated::one(&app, app.store.create_study(&new, &change).await?).await?))
}

/// One study.
#[utoipa::path(get, path = "/api/studies/{id}", tag = "studies", operation_id = "get_study", params(("id" = i64, Path)), responses((status = 200, body = StatedStudy), (status = 404, body = HttpProblem)))]
pub async fn get(State(app): State<App>, Path(id): Path<i64>) -> Answer<StatedStudy> {
    Ok(Json(stated::one(&app, app.store.study(id).await?).await?))
}

/// A change of a study.
#[derive(Deserialize, ToSchema)]
pub struct StudyEdit {
    /// The change.
    #[serde(flatten)]
    pub change: StudyChange,
    /// Whether choices that no longer fit the new statement are dropped, as when another role takes the place of the one that offered
    /// them; else they are kept, and refused when it is answered.
    #[serde(default)]
    pub fit: bool,
}

/// Changes the name or the statement of a study.
#[utoipa::path(patch, path = "/api/studies/{id}", tag = "studies", operation_id = "change_study", params(("id" = i64, Path)), request_body = StudyEdit, responses((status = 200, body = StatedStudy), (status = 412, body = HttpProblem)))]
pub async fn change(State(app): State<App>, By(change): By, Path(id): Path<i64>, Json(edit): Json<StudyEdit>) -> Answer<StatedStudy> {
    let StudyEdit { change: mut wanted, fit } = edit;
    if fit {
        wanted.spec = wanted.spec.map(methods::fitted);
    }
    Ok(Json(stated::one(&app, app.store.change_study(id, &wanted, &change).await?).await?))
}

/// How a specification that is not saved reads, with what waits to be filled.
#[utoipa::path(post, path = "/api/statements", tag = "studies", operation_id = "read_statement", request_body = Spec, responses((status = 200, body = Statement), (status = 404, body = HttpProblem)))]
pub async fn statement(State(app): State<App>, Json(spec): Json<Spec>) -> Answer<Statement> {
    let dataset = stated::dataset_of(&app, &spec).await?;
    Ok(Json(stated::statement(&spec, dataset.as_ref())))
}

/// Deletes a study.
#[utoipa::path(delete, path = "/api/studies/{id}", tag = "studies", operation_id = "delete_study", params(("id" = i64, Path)), responses((status = 204), (status = 404, body = HttpProblem)))]
pub async fn delete(State(app): State<App>, Path(id): Path<i64>) -> Result<StatusCode, ApiError> {
    app.store.delete_study(id).await?;
    Ok(StatusCode::NO_CONTENT)
}

/// Undoes the newest change of a study that stands.
#[utoipa::path(post, path = "/api/studies/{id}/undo", tag = "studies", operation_id = "undo_study", params(("id" = i64, Path)), request_body = AtRevision, responses((status = 200, body = StatedStudy), (status = 409, body = HttpProblem), (status = 412, body = HttpProblem)))]
pub async fn undo(State(app): State<App>, By(change): By, Path(id): Path<i64>, Json(at): Json<AtRevision>) -> Answer<StatedStudy> {
    Ok(Json(stated::one(&app, app.store.turn_study(id, UndoDirection::Undo, at.revision, &change).await?).await?))
}

/// Redoes the change of a study that was undone last.
#[utoipa::path(post, path = "/api/studies/{id}/redo", tag = "studies", operation_id = "redo_study", params(("id" = i64, Path)), request_body = AtRevision, responses((status = 200, body = StatedStudy), (status = 409, body = HttpProblem), (status = 412, body = HttpProblem)))]
pub async fn redo(State(app): State<App>, By(change): By, Path(id): Path<i64>, Json(at): Json<AtRevision>) -> Answer<StatedStudy> {
    Ok(Json(stated::one(&app, app.store.turn_study(id, UndoDirection::Redo, at.revision, &change).await?).await?))
}

/// What was changed about a study, newest first.
#[utoipa::path(get, path = "/api/studies/{id}/history", tag = "studies", operation_id = "study_history", params(("id" = i64, Path)), responses((status = 200, body = Vec<ToldChange>)))]
pub async fn history(State(app): State<App>, Path(id): Path<i64>) -> Answer<Vec<ToldChange>> {
    Ok(Json(history::of_study(&app, id, HISTORY_LINES).await?))
}

async fn shown(computed: Arc<Computed>, view: View) -> Result<Outcome, ApiError> {
    Ok(compute(move |_| Ok(computed.outcome(&bounded(view)))).await?)
}

/// Whether to wait for the newest.
#[derive(Deserialize, IntoParams)]
#[into_params(parameter_in = Query)]
pub struct Fresh {
    /// Waits for the answer about the data as they are now, however many others are in line.
    #[serde(default)]
    pub fresh: bool,
}

/// The answer of a study.
#[derive(Serialize, ToSchema)]
pub struct StudyOutcome {
    /// The answer.
    #[serde(flatten)]
    outcome: Outcome,
    /// Whether its data have changed since: it is the last answer, and being worked out anew. Ask again, or with `fresh`.
    stale: bool,
}

/// The answer of a study, with the points of a view: a stretch, thinned to so many buckets. While others are in line it may be the last
/// one, marked as being worked out anew.
#[utoipa::path(get, path = "/api/studies/{id}/outcome", tag = "studies", operation_id = "answer_study", params(("id" = i64, Path), View, Fresh), responses((status = 200, body = StudyOutcome), (status = 422, body = HttpProblem)))]
pub async fn outcome(
    State(app): State<App>,
    Path(id): Path<i64>,
    Query(view): Query<View>,
    Query(wanted): Query<Fresh>,
) -> Answer<StudyOutcome> {
    let study = app.store.study(id).await?;
    let (computed, stale) = app.answers.of_one(&study.spec, wanted.fresh).await?;
    Ok(Json(StudyOutcome { outcome: shown(computed, view).await?, stale }))
}

/// Whether choices that no longer fit are dropped.
#[derive(Deserialize, IntoParams)]
#[into_params(parameter_in = Query)]
pub struct Fit {
    /// Drops them; else they are refused.
    #[serde(default)]
    pub fit: bool,
}

/// The answer of a specification that is not saved: the same shape as on the command line.
#[utoipa::path(post, path = "/api/outcomes", tag = "studies", operation_id = "answer_spec", params(View, Fit), request_body = Spec, responses((status = 200, body = Outcome), (status = 422, body = HttpProblem)))]
pub async fn answer(
    State(app): State<App>,
    Query(view): Query<View>,
    Query(Fit { fit }): Query<Fit>,
    Json(spec): Json<Spec>,
) -> Answer<Outcome> {
    let spec = if fit { methods::fitted(spec) } else { spec };
    Ok(Json(shown(app.answers.answer(&spec).await?, view).await?))
}

fn bounded(view: View) -> View {
    View { points: Some(view.points.unwrap_or(VIEW_POINTS).clamp(1, VIEW_POINTS_MAX)), ..view }
}

/// The job that works on the answer of a study, or nothing. Dropping every request for the answer stops it too.
#[utoipa::path(get, path = "/api/studies/{id}/progress", tag = "studies", operation_id = "progress_of_answer", params(("id" = i64, Path)), responses((status = 200, body = Option<Job>), (status = 404, body = HttpProblem)))]
pub async fn progress(State(app): State<App>, Path(id): Path<i64>) -> Answer<Option<Job>> {
    let study = app.store.study(id).await?;
    Ok(Json(app.answers.job_of(&study.spec).await?))
}

/// The long table of a study, of a view: a stretch, thinned to so many buckets.
#[utoipa::path(get, path = "/api/studies/{id}/points", tag = "studies", operation_id = "study_points", params(("id" = i64, Path), View), responses((status = 200, body = Table), (status = 422, body = HttpProblem)))]
pub async fn points(State(app): State<App>, Path(id): Path<i64>, Query(view): Query<View>) -> Answer<Table> {
    let study = app.store.study(id).await?;
    let computed = app.answers.answer(&study.spec).await?;
    Ok(Json(compute(move |_| Ok(computed.answer.points(&bounded(view)))).await?))
}

/// The rows that a stretch of points is made of: stretches of row ids, ends included.
#[utoipa::path(get, path = "/api/studies/{id}/rows", tag = "studies", operation_id = "rows_of_points", params(("id" = i64, Path), View), responses((status = 200, body = Vec<[i64; 2]>), (status = 422, body = HttpProblem)))]
pub async fn rows(State(app): State<App>, Path(id): Path<i64>, Query(view): Query<View>) -> Answer<Vec<[i64; 2]>> {
    let study = app.store.study(id).await?;
    let computed = app.answers.answer(&study.spec).await?;
    Ok(Json(compute(move |_| Ok(computed.row_stretches(view.first, view.last))).await?))
}

/// A table of a study, every row of it: `points`, or one of those sent with the answer; as CSV, or by its ending as `.parquet` or `.xlsx`.
#[utoipa::path(get, path = "/api/studies/{id}/tables/{table}", tag = "studies", operation_id = "export_table", params(("id" = i64, Path), ("table" = String, Path), AsWritten), responses((status = 200, content_type = "text/csv", body = String), (status = 404, body = HttpProblem)))]
pub async fn table(
    State(app): State<App>,
    Path((id, wanted)): Path<(i64, String)>,
    Query(texts): Query<AsWritten>,
) -> Result<impl IntoResponse, ApiError> {
    let (name, form) = wanted.rsplit_once('.').unwrap_or((&wanted, "csv"));
    let form = FORMS.iter().find(|(ending, _)| *ending == form).ok_or_else(no_such_table)?;
    written(&app, id, name.to_owned(), *form, texts.texts()).await
}

/// Endings of files with what they hold.
const FORMS: [(&str, &str); 3] = [
    ("csv", "text/csv; charset=utf-8"),
    ("parquet", "application/vnd.apache.parquet"),
    ("xlsx", "application/vnd.openxmlformats-officedocument.spreadsheetml.sheet"),
];

/// All points of a study as CSV.
#[utoipa::path(get, path = "/api/studies/{id}/points.csv", tag = "studies", operation_id = "export_points", params(("id" = i64, Path), AsWritten), responses((status = 200, content_type = "text/csv", body = String)))]
pub async fn points_csv(
    State(app): State<App>,
    Path(id): Path<i64>,
    Query(texts): Query<AsWritten>,
) -> Result<impl IntoResponse, ApiError> {
    written(&app, id, "points".to_owned(), FORMS[0], texts.texts()).await
}

/// All tables that a study is answered with as one workbook, a sheet each.
#[utoipa::path(get, path = "/api/studies/{id}/summary.xlsx", tag = "studies", operation_id = "export_summary", params(("id" = i64, Path)), responses((status = 200, content_type = "application/vnd.openxmlformats-officedocument.spreadsheetml.sheet", body = Vec<u8>), (status = 422, body = HttpProblem)))]
pub async fn summary(State(app): State<App>, Path(id): Path<i64>) -> Result<impl IntoResponse, ApiError> {
    let study = app.store.study(id).await?;
    let computed = app.answers.answer(&study.spec).await?;
    let file = format!("{} summary.xlsx", study.name.unwrap_or_else(|| format!("study {id}")));
    let book = compute(move |_| {
        let tables: Vec<_> = computed.answer.tables().into_iter().map(|table| (table.title.clone(), table.for_file())).collect();
        let sheets: Vec<Sheet> = tables
            .iter()
            .map(|(title, columns)| (title.as_str(), columns.iter().map(|(name, values)| (name.as_str(), values)).collect()))
            .collect();
        Ok(write_book(&sheets))
    });
    Ok((attachment(&file, FORMS[2].1), book.await??))
}

fn no_such_table() -> ApiError {
    ApiError::new(
        StatusCode::NOT_FOUND,
        "not-found",
        "this answer has no such table",
        "Its tables are named in the answer; they come as csv, parquet or xlsx.",
    )
}

async fn written(
    app: &App,
    id: i64,
    wanted: String,
    (ending, kind): (&'static str, &'static str),
    texts: Texts,
) -> Result<impl IntoResponse + use<>, ApiError> {
    let study = app.store.study(id).await?;
    let computed = app.answers.answer(&study.spec).await?;
    let file = format!("{} {wanted}.{ending}", study.name.unwrap_or_else(|| format!("study {id}")));
    let written = compute(move |_| {
        let Some(table) = computed.table(&wanted) else { return Ok(None) };
        let columns = table.for_file();
        let columns: Vec<_> = columns.iter().map(|(name, values)| (name.as_str(), values)).collect();
        Ok(Some(match ending {
            "parquet" => write_parquet(&columns),
            "xlsx" => write_xlsx(&columns),
            _ => {
                let mut out = Vec::new();
                write_csv(&columns, texts, &mut out).expect("writing to memory cannot fail");
                Ok(out)
            }
        }))
    });
    Ok((attachment(&file, kind), written.await?.ok_or_else(no_such_table)??))
}
