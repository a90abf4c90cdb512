//! One JSON shape for everything that can go wrong: RFC 9457 problem details with a sentence on what to do.

use acorn_formats::FormatError;
use acorn_store::StoreError;
use acorn_study::StudyError;
use acorn_study::collect::Refusal;
use acorn_study::problem::Problem;
use axum::Json;
use axum::extract::rejection::{BytesRejection, JsonRejection, PathRejection, QueryRejection};
use axum::http::{StatusCode, header};
use axum::response::{IntoResponse, Response};
use serde::Serialize;
use utoipa::ToSchema;

/// A problem as an HTTP answer.
#[derive(Clone, Debug, Serialize, ToSchema)]
pub struct HttpProblem {
    /// The problem itself.
    #[serde(flatten)]
    pub problem: Problem,
    /// The HTTP status.
    pub status: u16,
    /// The revision a conflicting thing has by now.
    #[serde(skip_serializing_if = "Option::is_none")]
    pub current_revision: Option<i64>,
}

/// What handlers return instead of an answer.
#[derive(Clone, Debug)]
pub struct ApiError(pub HttpProblem);

impl ApiError {
    pub fn new(status: StatusCode, code: &str, detail: impl Into<String>, advice: impl Into<String>) -> ApiError {
        ApiError::of(status, Problem::new(code, detail, advice))
    }

    fn of(status: StatusCode, problem: Problem) -> ApiError {
        ApiError(HttpProblem { problem, status: status.as_u16(), current_revision: None })
    }

    /// Whether asking the same again gives the same.
    pub fn is_about_the_question(&self) -> bool {
        self.0.status == StatusCode::UNPROCESSABLE_ENTITY.as_u16() && self.0.problem.r#type != "/problems/stopped"
    }
}

impl IntoResponse for ApiError {
    fn into_response(self) -> Response {
        let status = StatusCode::from_u16(self.0.status).unwrap_or(StatusCode::INTERNAL_SERVER_ERROR);
        (status, [(header::CONTENT_TYPE, "application/problem+json")], Json(self.0)).into_response()
    }
}

impl From<StudyError> for ApiError {
    fn from(error: StudyError) -> Self {
        ApiError::of(StatusCode::UNPROCESSABLE_ENTITY, error.into())
    }
}

impl From<FormatError> for ApiError {
    fn from(error: FormatError) -> Self {
        let status =
            if matches!(error, FormatError::TooMuch { .. }) { StatusCode::PAYLOAD_TOO_LARGE } else { StatusCode::UNPROCESSABLE_ENTITY };
        ApiError::of(status, error.into())
    }
}

impl From<StoreError> for ApiError {
    fn from(error: StoreError) -> Self {
        let detail = error.to_string();
        let is_full = error.is_full();
        match error {
            _ if is_full => ApiError::new(
                StatusCode::INSUFFICIENT_STORAGE,
                "disk-full",
                "the disk that holds the data is full",
                "Nothing was changed, and nothing is lost. Make room on it, then try again.",
            ),
            StoreError::Value(error) => error.into(),
            StoreError::NotFound { .. } => {
                ApiError::new(StatusCode::NOT_FOUND, "not-found", detail, "It may have been deleted; go back and choose another.")
            }
            StoreError::Conflict { current, .. } => {
                let mut error = ApiError::new(
                    StatusCode::PRECONDITION_FAILED,
                    "changed-meanwhile",
                    detail,
                    "Look at the new state and apply your change again.",
                );
                error.0.current_revision = Some(current);
                error
            }
            StoreError::BadName { .. } => ApiError::new(StatusCode::UNPROCESSABLE_ENTITY, "bad-name", detail, "Choose another name."),
            StoreError::BadColumn { .. } => ApiError::new(
                StatusCode::UNPROCESSABLE_ENTITY,
                "bad-column",
                detail,
                "Nothing was changed; correct what is said and try again.",
            ),
            StoreError::BadLimits { .. } => ApiError::new(
                StatusCode::UNPROCESSABLE_ENTITY,
                "bad-limits",
                detail,
                "Correct the limits; the lower one must lie below the upper one.",
            ),
            StoreError::Follows { .. } => ApiError::new(
                StatusCode::UNPROCESSABLE_ENTITY,
                "follows-another",
                detail,
                "Change that one, or let this table stand by itself first; nothing was changed.",
            ),
            StoreError::NotAllowed { .. } => ApiError::new(
                StatusCode::UNPROCESSABLE_ENTITY,
                "value-not-allowed",
                detail,
                "Correct the value, or change what the column takes in its properties; nothing was changed.",
            ),
            StoreError::BadFinding { .. } => ApiError::new(
                StatusCode::UNPROCESSABLE_ENTITY,
                "bad-finding",
                detail,
                "Give the signal a cause first, then leave its points out; correct what is wrong and try again.",
            ),
            StoreError::BadRows { .. } => ApiError::new(
                StatusCode::UNPROCESSABLE_ENTITY,
                "bad-rows",
                detail,
                "Correct the rows and send them again; nothing was changed.",
            ),
            StoreError::BadPlan(error) => error.into(),
            StoreError::BadCollection { .. } => ApiError::new(
                StatusCode::UNPROCESSABLE_ENTITY,
                "bad-collection",
                detail,
                "Correct the plan and try again; nothing was changed.",
            ),
            StoreError::Refused(refusal) => {
                let advice = match refusal {
                    Refusal::BeyondBelief { .. } => "Measure again; if it is so, confirm it with a remark.",
                    Refusal::Remark => "Say in the remark why it is so.",
                    _ => "Correct the entry and send it again.",
                };
                ApiError::new(StatusCode::UNPROCESSABLE_ENTITY, "entry-refused", detail, advice)
            }
            StoreError::BadGauge { .. } => {
                ApiError::new(StatusCode::UNPROCESSABLE_ENTITY, "bad-gauge", detail, "Correct what is said of the gauge and try again.")
            }
            StoreError::BadStatement { .. } => ApiError::new(
                StatusCode::UNPROCESSABLE_ENTITY,
                "bad-statement",
                detail,
                "Choose a column that is there, and data of one kind.",
            ),
            StoreError::NothingToRedo => {
                ApiError::new(StatusCode::CONFLICT, "nothing-to-redo", detail, "Only what was undone last can be redone.")
            }
            StoreError::NothingToUndo => {
                ApiError::new(StatusCode::CONFLICT, "nothing-to-undo", detail, "Every change so far has been undone.")
            }
            StoreError::Corrupt(_) | StoreError::Database(_) => {
                tracing::error!(%detail, "the store failed");
                ApiError::new(
                    StatusCode::INTERNAL_SERVER_ERROR,
                    "store-failed",
                    detail,
                    "Nothing was changed. Check the disk that holds the data, then try again.",
                )
            }
        }
    }
}

fn refused(status: StatusCode, detail: String) -> ApiError {
    let too_large = status == StatusCode::PAYLOAD_TOO_LARGE;
    let advice = if too_large {
        "Send less at once; bring large tables in as a file."
    } else {
        "Compare the request with the description at /api/openapi.json."
    };
    ApiError::new(status, if too_large { "too-much" } else { "bad-request" }, detail, advice)
}

macro_rules! from_rejection {
    ($($rejection:ty),*) => {
        $(impl From<$rejection> for ApiError {
            fn from(rejection: $rejection) -> Self {
                refused(rejection.status(), rejection.body_text())
            }
        })*
    };
}
from_rejection!(JsonRejection, QueryRejection, PathRejection, BytesRejection);
