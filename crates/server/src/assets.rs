//! The front end, embedded in the binary.

use axum::http::{StatusCode, Uri, header};
use axum::response::{IntoResponse, Response};
use rust_embed::RustEmbed;

use crate::error::ApiError;

#[derive(RustEmbed)]
#[folder = "../../web/dist"]
struct Assets;

/// Serves a file of the front end; any other address outside the API is a page of the application.
pub async fn serve(uri: Uri) -> Response {
    let path = uri.path().trim_start_matches('/');
    if path.starts_with("api/") && path != "api/docs" {
        return ApiError::new(
            StatusCode::NOT_FOUND,
            "not-found",
            format!("there is no {}", uri.path()),
            "See /api/openapi.json for what there is.",
        )
        .into_response();
    }
    let path = match path {
        "api/docs" => "api.html",
        _ if Assets::get(path).is_some() => path,
        // A missing script must not answer with a page.
        _ if path.starts_with("assets/") => return StatusCode::NOT_FOUND.into_response(),
        _ => "index.html",
    };
    let Some(file) = Assets::get(path) else {
        return StatusCode::NOT_FOUND.into_response();
    };
    let kept = if path.starts_with("assets/") { "public, max-age=31536000, immutable" } else { "no-cache" };
    let kind = file.metadata.mimetype().to_owned();
    ([(header::CONTENT_TYPE, kind), (header::CACHE_CONTROL, kept.to_owned())], file.data).into_response()
}
