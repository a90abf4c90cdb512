//! Every route on one screen.

use std::sync::Arc;
use std::time::Duration;

use axum::body::{Body, Bytes};
use axum::extract::DefaultBodyLimit;
use axum::http::StatusCode;
use axum::http::header::CONTENT_TYPE;
use axum::response::{IntoResponse, Response};
use axum::routing::get;
use axum::{Router, middleware};
use tower_http::catch_panic::CatchPanicLayer;
use tower_http::compression::CompressionLayer;
use tower_http::map_request_body::MapRequestBodyLayer;
use tower_http::timeout::RequestBodyTimeoutLayer;
use utoipa::OpenApi;
use utoipa::openapi::OpenApi as Document;
use utoipa_axum::router::OpenApiRouter;
use utoipa_axum::routes;

use crate::bounds::{BODY_PAUSE_MS, JSON_BYTES};
use crate::error::ApiError;
use crate::routes::{
    datasets, events, exports, floor, formulas, gauges, imports, jobs, labels, methods, properties, reshape, signals, stations, studies,
    table, wall,
};
use crate::service::App;
use crate::{assets, contract, error, guard};

#[derive(OpenApi)]
#[openapi(
    info(title = "Acorn Dial", description = "Process data on control charts: datasets, studies and their live answers."),
    components(schemas(error::HttpProblem))
)]
struct Description;

fn api() -> OpenApiRouter<App> {
    OpenApiRouter::with_openapi(Description::openapi())
        .routes(routes!(methods::list))
        .routes(routes!(methods::advise))
        .routes(routes!(methods::glossary))
        .routes(routes!(formulas::read))
        .routes(routes!(wall::wall))
        .routes(routes!(wall::hang))
        .routes(routes!(datasets::list))
        .routes(routes!(datasets::get, datasets::rename, datasets::delete))
        .routes(routes!(datasets::summary))
        .routes(routes!(datasets::rows, datasets::add_rows, datasets::delete_rows))
        .routes(routes!(datasets::places))
        .routes(routes!(datasets::edit_cell, datasets::edit_cells))
        .routes(routes!(datasets::change_column, table::delete_column))
        .routes(routes!(table::add_column, table::arrange))
        .routes(routes!(table::why))
        .routes(routes!(table::read_formula))
        .routes(routes!(table::functions))
        .routes(routes!(table::view))
        .routes(routes!(table::views, table::keep_view))
        .routes(routes!(table::forget_view))
        .routes(routes!(table::order))
        .routes(routes!(reshape::make))
        .routes(routes!(reshape::unlink))
        .routes(routes!(properties::change))
        .routes(routes!(properties::specification_list))
        .routes(routes!(table::find))
        .routes(routes!(table::replace))
        .routes(routes!(table::health))
        .routes(routes!(labels::labels))
        .routes(routes!(labels::sums))
        .routes(routes!(datasets::history))
        .routes(routes!(datasets::undo))
        .routes(routes!(datasets::redo))
        .routes(routes!(exports::csv))
        .routes(routes!(exports::workbook))
        .routes(routes!(exports::json))
        .routes(routes!(exports::parquet))
        .routes(routes!(exports::lines))
        .routes(routes!(gauges::list, gauges::create))
        .routes(routes!(gauges::get, gauges::change, gauges::delete))
        .routes(routes!(gauges::record))
        .routes(routes!(gauges::forget))
        .routes(routes!(gauges::weigh))
        .routes(routes!(gauges::create_sheet))
        .routes(routes!(floor::standing))
        .routes(routes!(floor::plans, floor::create))
        .routes(routes!(floor::plan, floor::change, floor::delete))
        .routes(routes!(floor::versions))
        .routes(routes!(floor::entries))
        .routes(routes!(stations::create_station))
        .routes(routes!(stations::change_station))
        .routes(routes!(stations::count_pieces))
        .routes(routes!(stations::enter))
        .routes(routes!(stations::signals))
        .routes(routes!(stations::take_back))
        .routes(routes!(stations::react))
        .routes(routes!(floor::take_on))
        .routes(routes!(floor::lists, floor::create_list))
        .routes(routes!(floor::change_list))
        .routes(routes!(stations::readings))
        .routes(routes!(stations::hear))
        .routes(routes!(studies::list, studies::create))
        .routes(routes!(studies::get, studies::change, studies::delete))
        .routes(routes!(studies::undo))
        .routes(routes!(studies::redo))
        .routes(routes!(studies::outcome))
        .routes(routes!(studies::progress))
        .routes(routes!(studies::points))
        .routes(routes!(studies::rows))
        .routes(routes!(studies::table))
        .routes(routes!(studies::points_csv))
        .routes(routes!(studies::summary))
        .routes(routes!(studies::answer))
        .routes(routes!(studies::statement))
        .routes(routes!(studies::history))
        .routes(routes!(signals::of_study))
        .routes(routes!(signals::rows))
        .routes(routes!(signals::say))
        .routes(routes!(signals::open))
        .routes(routes!(imports::look, imports::correct, imports::leave))
        .routes(routes!(imports::store))
        .routes(routes!(imports::append))
        .routes(routes!(events::events))
        .routes(routes!(jobs::list))
        .routes(routes!(jobs::stop))
        .layer(DefaultBodyLimit::max(JSON_BYTES))
        .merge(
            OpenApiRouter::new()
                .routes(routes!(imports::bring))
                .routes(routes!(imports::add))
                .layer(DefaultBodyLimit::max(acorn_formats::bounds::FILE_BYTES)),
        )
}

/// The OpenAPI document, generated from the handlers.
pub fn open_api() -> Document {
    let mut document = api().split_for_parts().1;
    document.info.version = env!("CARGO_PKG_VERSION").to_owned();
    document.info.license = None;
    document.info.contact = None;
    contract::complete(&mut document);
    document
}

/// What a request gets that something broke over: an answer like every other.
fn panicked(_: Box<dyn std::any::Any + Send>) -> Response {
    let advice = "Nothing was changed. Try it another way, and tell the makers what you did.";
    ApiError::new(StatusCode::INTERNAL_SERVER_ERROR, "broken", "something here broke over this request", advice).into_response()
}

/// The whole service.
pub fn router(app: App, names: Arc<[String]>) -> Router {
    // Written once: routes are cloned for every connection.
    let document = Bytes::from(serde_json::to_vec(&open_api()).unwrap_or_default());
    let (api, _) = api().split_for_parts();
    let routes = api.route("/api/openapi.json", get(async move || ([(CONTENT_TYPE, "application/json")], document)));
    around(routes.fallback(assets::serve), names).with_state(app)
}

/// What every request passes through.
pub fn around<S: Clone + Send + Sync + 'static>(routes: Router<S>, names: Arc<[String]>) -> Router<S> {
    routes
        .layer(CatchPanicLayer::custom(panicked))
        .layer(MapRequestBodyLayer::new(Body::new))
        .layer(RequestBodyTimeoutLayer::new(Duration::from_millis(BODY_PAUSE_MS)))
        .layer(CompressionLayer::new())
        .layer(middleware::from_fn_with_state(names, guard::guard))
}
