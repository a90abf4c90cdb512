//! Computations under way.

use axum::extract::State;
use axum::http::StatusCode;

use crate::error::{ApiError, HttpProblem};
use crate::extract::{Json, Path};
use crate::service::App;
use crate::service::jobs::Job;

/// Computations that have gone on for a while, the oldest first.
#[utoipa::path(get, path = "/api/jobs", tag = "jobs", operation_id = "list_jobs", responses((status = 200, body = Vec<Job>)))]
pub async fn list(State(app): State<App>) -> Json<Vec<Job>> {
    Json(app.answers.jobs.list())
}

/// Stops one; everyone who waits for its answer is told so.
#[utoipa::path(delete, path = "/api/jobs/{id}", tag = "jobs", operation_id = "stop_job", params(("id" = u64, Path)), responses((status = 204), (status = 404, body = HttpProblem)))]
pub async fn stop(State(app): State<App>, Path(id): Path<u64>) -> Result<StatusCode, ApiError> {
    if app.answers.jobs.stop(id) {
        return Ok(StatusCode::NO_CONTENT);
    }
    let advice = "It may be done by now; look at the answer it was for.";
    Err(ApiError::new(StatusCode::NOT_FOUND, "not-found", format!("no computation {id} is under way"), advice))
}
