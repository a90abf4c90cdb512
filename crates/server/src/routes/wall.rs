//! The Wall: one dial for each column that has limits and a study.

use std::collections::HashSet;

use acorn_core::dial::Dial;
use acorn_core::study::Verdict;
use acorn_store::{Dataset, StoredColumn, Study};
use axum::extract::State;
use serde::Serialize;
use utoipa::ToSchema;

use crate::error::ApiError;
use crate::extract::Json;
use crate::state::App;

/// One characteristic on the Wall.
#[derive(Serialize, ToSchema)]
pub struct Watched {
    /// The study behind it.
    pub study_id: i64,
    /// The dataset.
    pub dataset_id: i64,
    /// Its name.
    pub dataset: String,
    /// The column with its limits.
    pub column: StoredColumn,
    /// Decimals that its values carry.
    pub decimals: u8,
    /// The dial; absent when the study cannot be answered.
    pub dial: Option<Dial>,
    /// The answer; absent when the study cannot be answered.
    pub verdict: Option<Verdict>,
    /// Why it cannot be answered.
    pub problem: Option<String>,
}

/// All watched characteristics, by dataset and column. Of several studies of one column the last changed with a dial counts.
#[utoipa::path(get, path = "/api/wall", tag = "wall", responses((status = 200, body = Vec<Watched>)))]
pub async fn wall(State(app): State<App>) -> Result<Json<Vec<Watched>>, ApiError> {
    let datasets = app.store.datasets().await?;
    let studies = app.store.studies().await?;
    let mut seen = HashSet::new();
    let mut watched = Vec::new();
    for study in &studies {
        let Some((dataset, column)) = subject(&datasets, study) else {
            continue;
        };
        if (column.info.lsl.is_none() && column.info.usl.is_none()) || seen.contains(&column.id) {
            continue;
        }
        if let Some(entry) = watch(&app, dataset, column, study).await? {
            seen.insert(column.id);
            watched.push(entry);
        }
    }
    watched.sort_by_key(|entry| (entry.dataset.to_lowercase(), entry.column.id));
    Ok(Json(watched))
}

fn subject<'d>(datasets: &'d [Dataset], study: &Study) -> Option<(&'d Dataset, &'d StoredColumn)> {
    let dataset = datasets.iter().find(|dataset| Some(dataset.id) == study.dataset_id)?;
    let [name] = study.spec.roles.get("measure")?.names() else { return None };
    Some((dataset, dataset.columns.iter().find(|column| column.name == *name)?))
}

/// The entry of a study; `None` when its method has no dial.
async fn watch(app: &App, dataset: &Dataset, column: &StoredColumn, study: &Study) -> Result<Option<Watched>, ApiError> {
    let found = app.answers.summary(dataset.id, column).await?.decimals;
    let answer = app.answers.answer(&study.spec).await;
    let problem = answer.as_ref().err().map(|error| error.0.problem.detail.clone());
    let computed = answer.ok();
    if computed.as_ref().is_some_and(|computed| computed.dial.is_none()) {
        return Ok(None);
    }
    Ok(Some(Watched {
        study_id: study.id,
        dataset_id: dataset.id,
        dataset: dataset.name.clone(),
        column: column.clone(),
        decimals: column.info.decimals.unwrap_or(found),
        dial: computed.as_ref().and_then(|computed| computed.dial.clone()),
        verdict: computed.map(|computed| computed.verdict.clone()),
        problem,
    }))
}
