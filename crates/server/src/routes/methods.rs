//! The questions that the core can answer, and its help in filling their statements.

use std::collections::BTreeMap;

use acorn_core::glossary::terms;
use acorn_core::methods::{cards, named};
use acorn_study::advice::Advice;
use acorn_study::{Entry, MethodCard};
use axum::extract::State;
use serde::Deserialize;
use utoipa::ToSchema;

use crate::error::{ApiError, HttpProblem};
use crate::extract::{Json, Path};
use crate::service::App;
use crate::service::answers::compute;

/// All questions, in the order of the work, as the core describes them.
#[utoipa::path(get, path = "/api/methods", tag = "methods", responses((status = 200, body = Vec<MethodCard>)))]
pub async fn list() -> Json<Vec<&'static MethodCard>> {
    Json(cards().collect())
}

/// Every term of statements, verdicts, notes and tables, with its meaning, formula and source.
#[utoipa::path(get, path = "/api/glossary", tag = "methods", operation_id = "glossary", responses((status = 200, body = Vec<Entry>)))]
pub async fn glossary() -> Json<Vec<&'static Entry>> {
    Json(terms().collect())
}

/// What is known so far.
#[derive(Deserialize, ToSchema)]
pub struct AskAdvice {
    /// The dataset.
    dataset: i64,
    /// Answers to the method's questions, by their keys.
    #[serde(default)]
    answers: BTreeMap<String, String>,
}

/// Proposes a statement for a dataset, and asks what the columns do not tell.
#[utoipa::path(post, path = "/api/methods/{method}/advice", tag = "methods", operation_id = "advise", params(("method" = String, Path)), request_body = AskAdvice, responses((status = 200, body = Advice), (status = 404, body = HttpProblem), (status = 422, body = HttpProblem)))]
pub async fn advise(State(app): State<App>, Path(method): Path<String>, Json(asked): Json<AskAdvice>) -> Result<Json<Advice>, ApiError> {
    let method = named(&method)?;
    let (_, frame) = app.store.frame(asked.dataset, |_| true).await?;
    Ok(Json(compute(move |_| Ok(method.advise(&frame, &asked.answers))).await?))
}
