//! The floor: plans, stations, what they enter, and how it stands.

use std::convert::Infallible;
use std::time::Duration;

use acorn_core::collect::{Due, Entry, SUBGROUPS_ENOUGH, standing as due};
use acorn_store::{
    ChoiceList, Collection, CollectionChange, CollectionVersion, EntryReaction, ListChange, NewCollection, NewStation, Station, StoredEntry,
};
use axum::extract::State;
use axum::http::StatusCode;
use axum::response::sse::{Event, KeepAlive, Sse};
use futures::Stream;
use jiff::Zoned;
use serde::{Deserialize, Serialize};
use utoipa::ToSchema;

use crate::bounds::{DAYS_BACK, ENTRIES_LISTED, ENTRIES_SENT};
use crate::error::{ApiError, HttpProblem};
use crate::extract::{By, Json, Path, now};
use crate::live::LiveEvent;
use crate::readings::{Became, ColumnReading, OnItsWay};
use crate::state::App;

const DAY_MS: i64 = 24 * 3_600_000;

type Answer<T> = Result<Json<T>, ApiError>;

/// How a plan stands.
#[derive(Serialize, ToSchema)]
pub struct Standing {
    /// The plan.
    pub plan: Collection,
    /// The name of its dataset.
    pub dataset: String,
    /// When each station is due, in their order; empty when nothing says how often.
    pub due: Vec<Due>,
    /// Entries with values beyond specification about which nothing was said.
    pub waiting: i64,
    /// Subgroups until limits hold.
    pub enough: usize,
}

/// Entries of a station, in their order.
#[derive(Deserialize, ToSchema)]
pub struct Entries {
    /// The entries.
    pub entries: Vec<Entry>,
}

/// What became of an entry: one of both is there.
#[derive(Serialize, ToSchema)]
pub struct Entered {
    /// The entry, when it is stored.
    pub entry: Option<StoredEntry>,
    /// Why it is not.
    pub problem: Option<HttpProblem>,
}

/// Readings of a gauge.
#[derive(Deserialize, ToSchema)]
pub struct Sending {
    /// The key of the station.
    pub station: String,
    /// The lines, in their order.
    pub readings: Vec<SentReading>,
}

/// A reading as a gauge sends it.
#[derive(Deserialize, ToSchema)]
pub struct SentReading {
    /// By which the gauge tells it from its others; sent twice under one key it is stored once.
    #[serde(default)]
    pub key: Option<String>,
    /// The line.
    pub line: String,
}

/// What became of a reading: one of both is there.
#[derive(Serialize, ToSchema)]
pub struct ReadingAnswer {
    /// What became of it.
    pub became: Option<Became>,
    /// Why it was refused.
    pub problem: Option<HttpProblem>,
}

/// How every plan stands.
#[utoipa::path(get, path = "/api/floor", tag = "floor", operation_id = "floor", responses((status = 200, body = Vec<Standing>)))]
pub async fn standing(State(app): State<App>) -> Answer<Vec<Standing>> {
    let datasets = app.store.datasets().await?;
    let (moment, at) = (Zoned::now(), now());
    let midnight = moment.start_of_day().map_or(0, |midnight| midnight.timestamp().as_millisecond());
    let back = at - DAYS_BACK * DAY_MS;
    let mut all = Vec::new();
    for plan in app.store.collections().await? {
        let dataset = datasets.iter().find(|dataset| dataset.id == plan.dataset_id).map(|dataset| dataset.name.clone()).unwrap_or_default();
        let mut stations = Vec::new();
        if let Some(every) = plan.plan.every {
            let times = app.store.entry_times(plan.id, back, at + DAY_MS).await?;
            for station in &plan.stations {
                let own: Vec<i64> = times.iter().filter(|(id, _)| *id == station.id).map(|(_, at)| *at).collect();
                stations.push(due(every, midnight, plan.created_at.max(back), &own, at));
            }
        }
        let waiting = app.store.entries_waiting(plan.id).await?;
        all.push(Standing { plan, dataset, due: stations, waiting, enough: SUBGROUPS_ENOUGH });
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
    let plan = app.store.create_collection(&new, &change).await?;
    let dataset = app.store.dataset(plan.dataset_id).await?;
    app.live.tell(LiveEvent::Dataset { id: dataset.id, revision: dataset.revision });
    if let Some(id) = plan.study_id {
        app.live.tell(LiveEvent::Study { id, revision: 1 });
    }
    app.live.tell(LiveEvent::Floor);
    Ok(Json(plan))
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
    let plan = app.store.change_collection(id, &wanted, &change).await?;
    app.live.tell(LiveEvent::Floor);
    Ok(Json(plan))
}

/// Deletes a plan; the rows that it collected stay.
#[utoipa::path(delete, path = "/api/floor/plans/{id}", tag = "floor", operation_id = "delete_plan", params(("id" = i64, Path)), responses((status = 204), (status = 404, body = HttpProblem)))]
pub async fn delete(State(app): State<App>, Path(id): Path<i64>) -> Result<StatusCode, ApiError> {
    app.store.delete_collection(id).await?;
    app.live.tell(LiveEvent::Floor);
    Ok(StatusCode::NO_CONTENT)
}

/// The versions of a plan, the newest first.
#[utoipa::path(get, path = "/api/floor/plans/{id}/versions", tag = "floor", operation_id = "plan_versions", params(("id" = i64, Path)), responses((status = 200, body = Vec<CollectionVersion>)))]
pub async fn versions(State(app): State<App>, Path(id): Path<i64>) -> Answer<Vec<CollectionVersion>> {
    Ok(Json(app.store.collection_versions(id).await?))
}

/// The newest entries of a plan.
#[utoipa::path(get, path = "/api/floor/plans/{id}/entries", tag = "floor", operation_id = "plan_entries", params(("id" = i64, Path)), responses((status = 200, body = Vec<StoredEntry>)))]
pub async fn entries(State(app): State<App>, Path(id): Path<i64>) -> Answer<Vec<StoredEntry>> {
    Ok(Json(app.store.entries(id, ENTRIES_LISTED).await?))
}

/// Makes a station of a plan.
#[utoipa::path(post, path = "/api/floor/plans/{id}/stations", tag = "floor", operation_id = "create_station", params(("id" = i64, Path)), request_body = NewStation, responses((status = 200, body = Station), (status = 404, body = HttpProblem), (status = 422, body = HttpProblem)))]
pub async fn create_station(State(app): State<App>, Path(id): Path<i64>, Json(new): Json<NewStation>) -> Answer<Station> {
    let station = app.store.create_station(id, &new).await?;
    app.live.tell(LiveEvent::Floor);
    Ok(Json(station))
}

/// Stores what a station enters. Each entry is answered by itself; when it is answered it is on disk.
#[utoipa::path(post, path = "/api/floor/stations/{id}/entries", tag = "floor", operation_id = "enter", params(("id" = i64, Path)), request_body = Entries, responses((status = 200, body = Vec<Entered>), (status = 404, body = HttpProblem), (status = 413, body = HttpProblem)))]
pub async fn enter(State(app): State<App>, Path(id): Path<i64>, Json(Entries { entries }): Json<Entries>) -> Answer<Vec<Entered>> {
    if entries.len() > ENTRIES_SENT {
        let advice = format!("Send {ENTRIES_SENT} at once at most.");
        return Err(ApiError::new(StatusCode::PAYLOAD_TOO_LARGE, "too-many-entries", "too many entries were sent at once", advice));
    }
    let taken = app.entering.send(id, entries).await?;
    let entered = taken.entries.into_iter().map(|one| match one {
        Ok(entry) => Entered { entry: Some(entry), problem: None },
        Err(error) => Entered { entry: None, problem: Some(ApiError::from(error).0) },
    });
    Ok(Json(entered.collect()))
}

/// Takes an entry back.
#[utoipa::path(post, path = "/api/floor/entries/{id}/take-back", tag = "floor", operation_id = "take_back", params(("id" = i64, Path)), responses((status = 200, body = StoredEntry), (status = 404, body = HttpProblem)))]
pub async fn take_back(State(app): State<App>, By(change): By, Path(id): Path<i64>) -> Answer<StoredEntry> {
    let (dataset_id, entry) = app.store.take_back(id, &change).await?;
    let dataset = app.store.dataset(dataset_id).await?;
    app.live.tell(LiveEvent::Dataset { id: dataset.id, revision: dataset.revision });
    Ok(Json(entry))
}

/// Says what caused values beyond specification, and what was done.
#[utoipa::path(post, path = "/api/floor/entries/{id}/reaction", tag = "floor", operation_id = "react", params(("id" = i64, Path)), request_body = EntryReaction, responses((status = 200, body = StoredEntry), (status = 404, body = HttpProblem), (status = 422, body = HttpProblem)))]
pub async fn react(State(app): State<App>, Path(id): Path<i64>, Json(reaction): Json<EntryReaction>) -> Answer<StoredEntry> {
    let entry = app.store.react(id, &reaction).await?;
    app.live.tell(LiveEvent::Floor);
    Ok(Json(entry))
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
    let list = app.store.put_choice_list(id, wanted).await?;
    app.live.tell(LiveEvent::Floor);
    Ok(Json(list))
}

/// Takes readings of a gauge. Each is answered by itself.
#[utoipa::path(post, path = "/api/readings", tag = "floor", operation_id = "send_readings", request_body = Sending, responses((status = 200, body = Vec<ReadingAnswer>), (status = 413, body = HttpProblem)))]
pub async fn readings(State(app): State<App>, Json(Sending { station, readings }): Json<Sending>) -> Answer<Vec<ReadingAnswer>> {
    if readings.len() > ENTRIES_SENT {
        let advice = format!("Send {ENTRIES_SENT} at once at most.");
        return Err(ApiError::new(StatusCode::PAYLOAD_TOO_LARGE, "too-many-readings", "too many readings were sent at once", advice));
    }
    // All are begun before the first is waited for, so that they are stored together.
    let mut begun = Vec::with_capacity(readings.len());
    for SentReading { key, line } in &readings {
        begun.push(app.readings.begin(&station, key.as_deref(), line).await);
    }
    let end = async |one: Result<OnItsWay, ApiError>| one?.end().await;
    let taken = futures::future::join_all(begun.into_iter().map(end)).await;
    let answers = taken.into_iter().map(|one| match one {
        Ok(became) => ReadingAnswer { became: Some(became), problem: None },
        Err(error) => ReadingAnswer { became: None, problem: Some(error.0) },
    });
    Ok(Json(answers.collect()))
}

/// The readings of the gauge of a station, as server-sent events named `reading`.
#[utoipa::path(get, path = "/api/floor/stations/{id}/readings", tag = "floor", operation_id = "hear_readings", params(("id" = i64, Path)), responses((status = 200, description = "A stream of readings", body = ColumnReading, content_type = "text/event-stream"), (status = 404, body = HttpProblem)))]
pub async fn hear(State(app): State<App>, Path(id): Path<i64>) -> Result<Sse<impl Stream<Item = Result<Event, Infallible>>>, ApiError> {
    app.store.station(id).await?;
    let mut readings = app.readings.hear(id);
    let mut stopping = app.live.listen();
    let stream = async_stream::stream! {
        yield Ok(Event::default().event("open").data(""));
        loop {
            tokio::select! {
                reading = readings.recv() => match reading {
                    Ok(reading) => yield Ok(Event::default().event("reading").json_data(reading).expect("a reading is plain data")),
                    // One that lagged behind goes on with the newest.
                    Err(tokio::sync::broadcast::error::RecvError::Lagged(_)) => {}
                    Err(_) => break,
                },
                () = stopping.closed() => break,
            }
        }
    };
    Ok(Sse::new(stream).keep_alive(KeepAlive::new().interval(Duration::from_secs(20))))
}
