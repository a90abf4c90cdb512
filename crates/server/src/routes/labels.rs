//! Labels of a column, and numbers summed by them.

use std::collections::BTreeMap;

use acorn_data::frame::Missing;
use acorn_study::periods::{Periods, Step};
use acorn_study::reading::numbers;
use axum::extract::State;
use serde::Deserialize;
use utoipa::ToSchema;

use crate::bounds::LABELS_LISTED;
use crate::error::{ApiError, HttpProblem};
use crate::extract::{Json, Path};
use crate::service::App;
use crate::service::answers::compute;

type Answer<T> = Result<Json<T>, ApiError>;

/// The different labels of a column, in order of first appearance, up to a bound.
#[utoipa::path(get, path = "/api/datasets/{id}/columns/{column_id}/labels", tag = "datasets", operation_id = "labels_of_column", params(("id" = i64, Path), ("column_id" = i64, Path)), responses((status = 200, body = Vec<String>), (status = 404, body = HttpProblem), (status = 422, body = HttpProblem)))]
pub async fn labels(State(app): State<App>, Path((id, column_id)): Path<(i64, i64)>) -> Answer<Vec<String>> {
    app.store.dataset(id).await?.column(column_id)?;
    let (_, frame) = app.store.frame(id, |column| column.id == column_id).await?;
    let labels = compute(move |_| {
        let columns: Vec<_> = frame.columns().iter().collect();
        let groups = frame.groups(&columns, None, Missing::Left, LABELS_LISTED)?;
        Ok((0..groups.len()).filter_map(|group| groups.label(group).map(str::to_owned)).collect())
    });
    Ok(Json(labels.await?))
}

/// What is summed, and by what.
#[derive(Deserialize, ToSchema)]
pub struct AskSums {
    /// The column of labels or moments.
    by: i64,
    /// How long a period of moments is.
    #[serde(default)]
    step: Step,
    /// The column of numbers.
    of: i64,
}

/// Sums a number by day, shift or lot: how many were inspected each time, for the chart of a log.
#[utoipa::path(post, path = "/api/datasets/{id}/sums", tag = "datasets", operation_id = "sum_by_label", params(("id" = i64, Path)), request_body = AskSums, responses((status = 200, body = BTreeMap<String, f64>), (status = 404, body = HttpProblem), (status = 422, body = HttpProblem)))]
pub async fn sums(State(app): State<App>, Path(id): Path<i64>, Json(asked): Json<AskSums>) -> Answer<BTreeMap<String, f64>> {
    let dataset = app.store.dataset(id).await?;
    let names = [asked.by, asked.of].map(|column| dataset.column(column).map(|column| column.name.clone()));
    let [by, of] = names;
    let (by, of) = (by?, of?);
    let (_, frame) = app.store.frame(id, |column| column.id == asked.by || column.id == asked.of).await?;
    let sums = compute(move |_| {
        let (Some(by), Some(of)) = (frame.column(&by), frame.column(&of)) else { return Ok(BTreeMap::new()) };
        Ok(Periods::of(&frame, by, asked.step, None)?.sums(numbers(of, "number inspected")?).into_iter().collect())
    });
    Ok(Json(sums.await?))
}
