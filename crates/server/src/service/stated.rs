//! Studies with their statements as they read.

use std::collections::HashMap;

use acorn_core::methods;
use acorn_store::{Dataset, Study};
use acorn_study::card::Subject;
use acorn_study::statement::{NamedColumn, Statement};
use acorn_study::{DataSource, Spec};
use serde::Serialize;
use utoipa::ToSchema;

use crate::service::App;
use crate::service::ServiceError;

/// A study with its statement as it reads.
#[derive(Serialize, ToSchema)]
pub struct StatedStudy {
    /// The study.
    #[serde(flatten)]
    pub study: Study,
    /// Its statement.
    pub statement: Statement,
    /// What it is about; absent while nothing is chosen.
    pub subject: Option<Subject>,
}

/// How a specification about a dataset reads. Of an unknown method there is nothing to read.
pub fn statement(spec: &Spec, dataset: Option<&Dataset>) -> Statement {
    let columns = dataset.map_or(&[][..], |dataset| &dataset.columns);
    let named = columns.iter().map(|column| NamedColumn { id: column.id, name: &column.name, info: &column.info });
    let columns: Vec<NamedColumn> = named.collect();
    match methods::named(&spec.method) {
        Ok(method) => method.card().statement(spec, &columns),
        Err(_) => Statement { parts: Vec::new(), slots: Vec::new(), complete: false },
    }
}

fn stated(study: Study, dataset: Option<&Dataset>) -> StatedStudy {
    StatedStudy { statement: statement(&study.spec, dataset), subject: methods::subject(&study.spec), study }
}

/// The dataset of a specification, where it is about one that is there.
pub async fn dataset_of(app: &App, spec: &Spec) -> Result<Option<Dataset>, ServiceError> {
    match spec.data.as_ref().and_then(DataSource::dataset) {
        Some(id) => Ok(Some(app.store.dataset(id).await?)),
        None => Ok(None),
    }
}

/// One study as it reads by now.
pub async fn one(app: &App, study: Study) -> Result<StatedStudy, ServiceError> {
    let dataset = dataset_of(app, &study.spec).await?;
    Ok(stated(study, dataset.as_ref()))
}

/// All studies, the last changed first.
pub async fn all(app: &App) -> Result<Vec<StatedStudy>, ServiceError> {
    let datasets: HashMap<i64, Dataset> = app.store.datasets().await?.into_iter().map(|dataset| (dataset.id, dataset)).collect();
    let of = |study: &Study| study.dataset_id.and_then(|id| datasets.get(&id));
    Ok(app.store.studies().await?.into_iter().map(|study| (of(&study), study)).map(|(dataset, study)| stated(study, dataset)).collect())
}
