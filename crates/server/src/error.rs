//! One JSON shape for everything that can go wrong: RFC 9457 problem details with a sentence on what to do.

use acorn_formats::FormatError;
use acorn_store::StoreError;
use acorn_study::StudyError;
use acorn_study::problem::Problem;
use axum::Json;
use axum::extract::rejection::{BytesRejection, JsonRejection, PathRejection, QueryRejection};
use axum::http::{StatusCode, header};
use axum::response::{IntoResponse, Response};
use serde::Serialize;
use utoipa::ToSchema;

use crate::service::{ErrorKind, ServiceError};

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
        ApiError(HttpProblem { problem: Problem::new(code, detail, advice), status: status.as_u16(), current_revision: None })
    }
}

impl IntoResponse for ApiError {
    fn into_response(self) -> Response {
        let status = StatusCode::from_u16(self.0.status).unwrap_or(StatusCode::INTERNAL_SERVER_ERROR);
        (status, [(header::CONTENT_TYPE, "application/problem+json")], Json(self.0)).into_response()
    }
}

impl From<ServiceError> for ApiError {
    fn from(ServiceError { kind, problem }: ServiceError) -> Self {
        let status = match kind {
            ErrorKind::Invalid => StatusCode::UNPROCESSABLE_ENTITY,
            ErrorKind::NotFound => StatusCode::NOT_FOUND,
            ErrorKind::Conflict { .. } => StatusCode::PRECONDITION_FAILED,
            ErrorKind::NotNow => StatusCode::CONFLICT,
            ErrorKind::TooMuch => StatusCode::PAYLOAD_TOO_LARGE,
            ErrorKind::Full => StatusCode::INSUFFICIENT_STORAGE,
            ErrorKind::Stopping => StatusCode::SERVICE_UNAVAILABLE,
            ErrorKind::Failed => StatusCode::INTERNAL_SERVER_ERROR,
        };
        let current_revision = if let ErrorKind::Conflict { current } = kind { Some(current) } else { None };
        ApiError(HttpProblem { problem, status: status.as_u16(), current_revision })
    }
}

macro_rules! through_service {
    ($($error:ty),*) => {
        $(impl From<$error> for ApiError {
            fn from(error: $error) -> Self {
                ServiceError::from(error).into()
            }
        })*
    };
}
through_service!(StudyError, FormatError, StoreError);

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
