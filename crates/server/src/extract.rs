//! Extractors that refuse with a problem instead of plain text.

use std::convert::Infallible;

use acorn_store::Change;
use axum::extract::{FromRequest, FromRequestParts};
use axum::http::request::Parts;

use crate::error::ApiError;
use crate::service::now;

/// A JSON body.
#[derive(FromRequest)]
#[from_request(via(axum::Json), rejection(ApiError))]
pub struct Json<T>(pub T);

/// Query parameters.
#[derive(FromRequestParts)]
#[from_request(via(axum::extract::Query), rejection(ApiError))]
pub struct Query<T>(pub T);

/// Path parameters.
#[derive(FromRequestParts)]
#[from_request(via(axum::extract::Path), rejection(ApiError))]
pub struct Path<T>(pub T);

impl<T: serde::Serialize> axum::response::IntoResponse for Json<T> {
    fn into_response(self) -> axum::response::Response {
        axum::Json(self.0).into_response()
    }
}

/// Who makes a change with this request, and when. There is one person as long as the application has no accounts.
pub struct By(pub Change<'static>);

impl<S: Send + Sync> FromRequestParts<S> for By {
    type Rejection = Infallible;

    async fn from_request_parts(_: &mut Parts, _: &S) -> Result<By, Infallible> {
        Ok(By(Change { actor: "local", at: now() }))
    }
}
