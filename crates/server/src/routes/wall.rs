//! The Wall: one dial for each characteristic that is watched.

use std::collections::HashMap;

use acorn_core::methods;
use acorn_store::{Dataset, DayStanding, StoredColumn, Study, WallPlace};
use acorn_study::Verdict;
use acorn_study::card::SubjectKind;
use acorn_study::dial::{Dial, DialOf};
use axum::extract::State;
use axum::http::StatusCode;
use futures::{StreamExt, TryStreamExt};
use jiff::Zoned;
use serde::{Deserialize, Serialize};
use utoipa::ToSchema;

use crate::bounds::WALL_AT_ONCE;
use crate::error::{ApiError, HttpProblem};
use crate::extract::Json;
use crate::service::App;
use crate::service::answers::Glance;

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
    /// Why it cannot be answered; absent while there is no row.
    pub problem: Option<String>,
    /// Whether the data have changed since: this is the last answer, and being worked out anew.
    pub stale: bool,
    /// Where somebody hung it.
    pub place: Option<WallPlace>,
    /// How it stood on the last day before today on which somebody looked; absent when nobody did.
    pub before: Option<DayStanding>,
}

impl Watched {
    /// How it stands on a day; unknown while it is being worked out anew.
    fn on(&self, day: &str) -> Option<DayStanding> {
        if self.stale {
            return None;
        }
        let Dial { steady, signals, ppk, .. } = *self.dial.as_ref()?;
        Some(DayStanding { study_id: self.study_id, day: day.to_owned(), steady, signals: signals as i64, ppk })
    }
}

/// Where characteristics are to hang.
#[derive(Deserialize, ToSchema)]
pub struct Hanging {
    /// Of each column.
    pub places: Vec<WallPlace>,
}

/// All watched characteristics, by dataset and column: measured ones with limits, and counted ones. Of several studies of one column the
/// last changed with a dial counts. What changed a moment ago may still be the last answer, and is marked.
#[utoipa::path(get, path = "/api/wall", tag = "wall", responses((status = 200, body = Vec<Watched>)))]
pub async fn wall(State(app): State<App>) -> Result<Json<Vec<Watched>>, ApiError> {
    let datasets = app.store.datasets().await?;
    let by_id: Datasets<'_> = datasets.iter().map(|dataset| (dataset.id, dataset)).collect();
    let studies = app.store.studies().await?;
    let mut places = app.store.wall_places().await?;
    let today = Zoned::now().date().to_string();
    let mut before = app.store.wall_before(&today).await?;
    // Columns in the order in which their first study comes, each with its studies.
    let mut columns: Vec<Candidate<'_>> = Vec::new();
    let mut known: HashMap<i64, usize> = HashMap::new();
    for study in &studies {
        let Some((dataset, column)) = subject(&by_id, study) else { continue };
        let at = *known.entry(column.id).or_insert_with(|| {
            columns.push((dataset, column, Vec::new()));
            columns.len() - 1
        });
        columns[at].2.push(study);
    }
    // By their place: a closure over what is borrowed is not general enough for the router.
    let answered = futures::stream::iter(0..columns.len()).map(|at| first_with_dial(&app, &by_id, &columns[at]));
    let mut watched: Vec<Watched> = answered.buffered(WALL_AT_ONCE).try_filter_map(async |entry| Ok(entry)).try_collect().await?;
    for entry in &mut watched {
        entry.place = places.remove(&entry.column.id);
        entry.before = before.remove(&entry.study_id);
    }
    watched.sort_by_key(|entry| (entry.dataset.to_lowercase(), entry.column.id));
    app.wall_days.keep(&app.store, watched.iter().filter_map(|entry| entry.on(&today)).collect()).await;
    Ok(Json(watched))
}

/// Hangs characteristics: which line and product they belong to, and in which order they hang by hand.
#[utoipa::path(put, path = "/api/wall/places", tag = "wall", operation_id = "hang", request_body = Hanging, responses((status = 204), (status = 422, body = HttpProblem)))]
pub async fn hang(State(app): State<App>, Json(Hanging { places }): Json<Hanging>) -> Result<StatusCode, ApiError> {
    app.store.hang(&places).await?;
    Ok(StatusCode::NO_CONTENT)
}

fn subject<'d>(datasets: &Datasets<'d>, study: &Study) -> Option<(&'d Dataset, &'d StoredColumn)> {
    let dataset = datasets.get(&study.dataset_id?)?;
    let subject = methods::subject(&study.spec)?;
    let column = dataset.columns.iter().find(|column| Some(&column.name) == subject.column())?;
    (subject.kind == SubjectKind::Count || column.info.is_limited()).then_some((dataset, column))
}

/// A column that may be watched, and the studies of it.
type Candidate<'d> = (&'d Dataset, &'d StoredColumn, Vec<&'d Study>);

type Datasets<'d> = HashMap<i64, &'d Dataset>;

async fn first_with_dial(
    app: &App,
    datasets: &Datasets<'_>,
    (dataset, column, studies): &Candidate<'_>,
) -> Result<Option<Watched>, ApiError> {
    for study in studies {
        if let Some(entry) = watch(app, datasets, dataset, column, study).await? {
            return Ok(Some(entry));
        }
    }
    Ok(None)
}

/// The entry of a study; `None` when its method has no dial, or one of values that have no limits.
async fn watch(
    app: &App,
    datasets: &Datasets<'_>,
    dataset: &Dataset,
    column: &StoredColumn,
    study: &Study,
) -> Result<Option<Watched>, ApiError> {
    let found = app.answers.summary(dataset.id, column).await?.decimals;
    let Glance { found: answer, stale } = app.answers.glance(&study.spec, datasets).await;
    // A plan that nobody has followed yet is no trouble.
    let problem = answer.as_ref().err().filter(|_| dataset.row_count > 0).map(|error| error.problem.detail.clone());
    let seen = answer.ok();
    let counted = methods::subject(&study.spec).is_some_and(|subject| subject.kind == SubjectKind::Count);
    let has_dial = |dial: &Dial| !counted || dial.of != DialOf::Values;
    if seen.as_ref().is_some_and(|seen| !seen.dial().is_some_and(has_dial)) {
        return Ok(None);
    }
    Ok(Some(Watched {
        study_id: study.id,
        dataset_id: dataset.id,
        dataset: dataset.name.clone(),
        column: column.clone(),
        decimals: column.info.decimals.unwrap_or(found),
        dial: seen.as_ref().and_then(|seen| seen.dial().cloned()),
        verdict: seen.map(|seen| seen.verdict().clone()),
        problem,
        stale,
        place: None,
        before: None,
    }))
}
