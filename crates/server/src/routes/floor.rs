//! The floor: plans, lists, alerts, and how it all stands.

use acorn_core::methods::control_chart::collected;
use acorn_store::{Alert, ChoiceList, Collection, CollectionChange, CollectionVersion, ListChange, NewCollection, StoredEntry};
use acorn_study::collect::{Due, SUBGROUPS_ENOUGH};
use axum::extract::State;
use axum::http::StatusCode;
use serde::{Deserialize, Serialize};
use utoipa::ToSchema;

use crate::bounds::ENTRIES_LISTED;
use crate::error::{ApiError, HttpProblem};
use crate::extract::{By, Json, Path};
use crate::service::App;
use crate::service::now;
use crate::service::standing::due;

type Answer<T> = Result<Json<T>, ApiError>;

/// How a plan stands.
#[derive(Serialize, ToSchema)]
pub struct Standing {
    /// The plan.
    pub plan: Collection,
    /// The name of its dataset.
    pub dataset: String,
    /// When each station is due, in their order; null for one that is closed, and for all where nothing says how often.
    pub due: Vec<Option<Due>>,
    /// Entries with values beyond specification about which nothing was said.
    pub waiting: i64,
    /// What somebody is to know, the oldest first.
    pub alerts: Vec<Alert>,
    /// Subgroups until limits hold.
    pub enough: usize,
}

/// How every plan stands.
#[utoipa::path(get, path = "/api/floor", tag = "floor", operation_id = "floor", responses((status = 200, body = Vec<Standing>)))]
pub async fn standing(State(app): State<App>) -> Answer<Vec<Standing>> {
    let datasets = app.store.datasets().await?;
    let alerts = app.store.alerts(None).await?;
    let moment = now();
    let mut all = Vec::new();
    for plan in app.store.collections().await? {
        let dataset = datasets.iter().find(|dataset| dataset.id == plan.dataset_id).map(|dataset| dataset.name.clone()).unwrap_or_default();
        let due = due(&app, &plan, moment).await?;
        let waiting = app.store.entries_waiting(plan.id).await?;
        let alerts = alerts.iter().filter(|alert| alert.plan_id == plan.id).cloned().collect();
        all.push(Standing { plan, dataset, due, waiting, alerts, enough: SUBGROUPS_ENOUGH });
    }
    Ok(Json(all))
}

/// All collection plans.
#[utoipa::path(get, path = "/api/floor/plans", tag = "floor", operation_id = "list_plans", responses((status = 200, body = Vec<Collection>)))]
pub async fn plans(State(app): State<App>) -> Answer<Vec<Collection>> {
    Ok(Json(app.store.collections().await?))
}

/// Makes a collection plan, with its dataset and its chart where they are new.
#[utoipa::path(post, path = "/api/floor/plans", tag = "floor", operation_id = "create_plan", request_body = NewCollection, responses((status = 200, body = Collection), (status = 404, body = HttpProblem), (status = 422, body = HttpProblem)))]
pub async fn create(State(app): State<App>, By(change): By, Json(new): Json<NewCollection>) -> Answer<Collection> {
    Ok(Json(app.store.create_collection(&new, collected::charts, &change).await?))
}

/// One collection plan.
#[utoipa::path(get, path = "/api/floor/plans/{id}", tag = "floor", operation_id = "get_plan", params(("id" = i64, Path)), responses((status = 200, body = Collection), (status = 404, body = HttpProblem)))]
pub async fn plan(State(app): State<App>, Path(id): Path<i64>) -> Answer<Collection> {
    Ok(Json(app.store.collection(id).await?))
}

/// Follows another version of a plan from now on.
#[utoipa::path(put, path = "/api/floor/plans/{id}", tag = "floor", operation_id = "change_plan", params(("id" = i64, Path)), request_body = CollectionChange, responses((status = 200, body = Collection), (status = 404, body = HttpProblem), (status = 412, body = HttpProblem), (status = 422, body = HttpProblem)))]
pub async fn change(
    State(app): State<App>,
    By(change): By,
    Path(id): Path<i64>,
    Json(wanted): Json<CollectionChange>,
) -> Answer<Collection> {
    Ok(Json(app.store.change_collection(id, &wanted, &change).await?))
}

/// Deletes a plan; the rows that it collected stay.
#[utoipa::path(delete, path = "/api/floor/plans/{id}", tag = "floor", operation_id = "delete_plan", params(("id" = i64, Path)), responses((status = 204), (status = 404, body = HttpProblem)))]
pub async fn delete(State(app): State<App>, Path(id): Path<i64>) -> Result<StatusCode, ApiError> {
    app.store.delete_collection(id).await?;
    Ok(StatusCode::NO_CONTENT)
}

/// The versions of a plan, the newest first.
#[utoipa::path(get, path = "/api/floor/plans/{id}/versions", tag = "floor", operation_id = "plan_versions", params(("id" = i64, Path)), responses((status = 200, body = Vec<CollectionVersion>), (status = 404, body = HttpProblem)))]
pub async fn versions(State(app): State<App>, Path(id): Path<i64>) -> Answer<Vec<CollectionVersion>> {
    app.store.collection(id).await?;
    Ok(Json(app.store.collection_versions(id).await?))
}

/// The newest entries of a plan.
#[utoipa::path(get, path = "/api/floor/plans/{id}/entries", tag = "floor", operation_id = "plan_entries", params(("id" = i64, Path)), responses((status = 200, body = Vec<StoredEntry>), (status = 404, body = HttpProblem)))]
pub async fn entries(State(app): State<App>, Path(id): Path<i64>) -> Answer<Vec<StoredEntry>> {
    app.store.collection(id).await?;
    Ok(Json(app.store.entries(id, ENTRIES_LISTED).await?))
}

/// The lists that identifiers are chosen from.
#[utoipa::path(get, path = "/api/floor/lists", tag = "floor", operation_id = "choice_lists", responses((status = 200, body = Vec<ChoiceList>)))]
pub async fn lists(State(app): State<App>) -> Answer<Vec<ChoiceList>> {
    Ok(Json(app.store.choice_lists().await?))
}

/// Makes a list.
#[utoipa::path(post, path = "/api/floor/lists", tag = "floor", operation_id = "create_list", request_body = ListChange, responses((status = 200, body = ChoiceList), (status = 422, body = HttpProblem)))]
pub async fn create_list(State(app): State<App>, Json(wanted): Json<ListChange>) -> Answer<ChoiceList> {
    put_list(app, None, &wanted).await
}

/// Changes a list.
#[utoipa::path(put, path = "/api/floor/lists/{id}", tag = "floor", operation_id = "change_list", params(("id" = i64, Path)), request_body = ListChange, responses((status = 200, body = ChoiceList), (status = 404, body = HttpProblem), (status = 412, body = HttpProblem), (status = 422, body = HttpProblem)))]
pub async fn change_list(State(app): State<App>, Path(id): Path<i64>, Json(wanted): Json<ListChange>) -> Answer<ChoiceList> {
    put_list(app, Some(id), &wanted).await
}

async fn put_list(app: App, id: Option<i64>, wanted: &ListChange) -> Answer<ChoiceList> {
    Ok(Json(app.store.put_choice_list(id, wanted).await?))
}

/// Who takes an alert on.
#[derive(Deserialize, ToSchema)]
pub struct TakingOn {
    /// A name.
    pub who: String,
}

/// Takes an alert on: nobody is told of it any more.
#[utoipa::path(post, path = "/api/floor/alerts/{id}/take-on", tag = "floor", operation_id = "take_on", params(("id" = i64, Path)), request_body = TakingOn, responses((status = 200, body = Alert), (status = 404, body = HttpProblem), (status = 422, body = HttpProblem)))]
pub async fn take_on(State(app): State<App>, Path(id): Path<i64>, Json(TakingOn { who }): Json<TakingOn>) -> Answer<Alert> {
    Ok(Json(app.store.take_on(id, &who, now()).await?))
}
