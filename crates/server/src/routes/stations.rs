//! Stations: what they enter, what their gauges and machines say.

use std::collections::HashSet;
use std::convert::Infallible;
use std::time::Duration;

use acorn_store::{Collection, EntryReaction, NewStation, Station, StationChange, StoredEntry};
use acorn_study::collect::{Entry, Happened};
use axum::extract::State;
use axum::http::StatusCode;
use axum::response::sse::{Event, KeepAlive, Sse};
use futures::Stream;
use serde::{Deserialize, Serialize};
use utoipa::ToSchema;

use crate::bounds::ENTRIES_SENT;
use crate::error::{ApiError, HttpProblem};
use crate::extract::{By, Json, Path};
use crate::service::readings::{Became, ColumnReading, OnItsWay};
use crate::service::{App, ServiceError, signals as found};

type Answer<T> = Result<Json<T>, ApiError>;

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
    /// Of a stored one with values beyond specification: what asks for its cause.
    pub happened: Option<Happened>,
}

/// Signals that end at the newest point of a chart that watches a station, about which nothing was said.
#[derive(Serialize, ToSchema)]
pub struct NewestSignals {
    /// The chart.
    pub study_id: i64,
    /// Their addresses in it.
    pub addresses: Vec<String>,
    /// What asks for its cause.
    #[serde(flatten)]
    pub happened: Happened,
}

/// What asks for its cause at a station.
#[derive(Serialize, ToSchema)]
pub struct StationSignals {
    /// The newest signals, a line a chart.
    pub newest: Vec<NewestSignals>,
    /// The causes to choose from: those of the plan, then those of the columns.
    pub causes: Vec<String>,
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

/// What the counter of a machine says.
#[derive(Deserialize, ToSchema)]
pub struct Counted {
    /// Pieces, since the counter began.
    pub counter: i64,
}

/// Makes a station of a plan.
#[utoipa::path(post, path = "/api/floor/plans/{id}/stations", tag = "floor", operation_id = "create_station", params(("id" = i64, Path)), request_body = NewStation, responses((status = 200, body = Station), (status = 404, body = HttpProblem), (status = 422, body = HttpProblem)))]
pub async fn create_station(State(app): State<App>, Path(id): Path<i64>, Json(new): Json<NewStation>) -> Answer<Station> {
    Ok(Json(app.store.create_station(id, &new).await?))
}

/// Renames a station, changes the shape of its lines, closes it or opens it again.
#[utoipa::path(put, path = "/api/floor/stations/{id}", tag = "floor", operation_id = "change_station", params(("id" = i64, Path)), request_body = StationChange, responses((status = 200, body = Station), (status = 404, body = HttpProblem), (status = 422, body = HttpProblem)))]
pub async fn change_station(State(app): State<App>, Path(id): Path<i64>, Json(wanted): Json<StationChange>) -> Answer<Station> {
    Ok(Json(app.store.change_station(id, &wanted).await?))
}

/// Takes what the counter of a station's machine says: pieces since it began. Said twice it counts once.
#[utoipa::path(post, path = "/api/floor/stations/{id}/counter", tag = "floor", operation_id = "count_pieces", params(("id" = i64, Path)), request_body = Counted, responses((status = 200, body = Station), (status = 404, body = HttpProblem), (status = 422, body = HttpProblem)))]
pub async fn count_pieces(State(app): State<App>, Path(id): Path<i64>, Json(Counted { counter }): Json<Counted>) -> Answer<Station> {
    Ok(Json(app.store.count_pieces(id, counter).await?))
}

/// Stores what a station enters. Each entry is answered by itself; when it is answered it is on disk.
#[utoipa::path(post, path = "/api/floor/stations/{id}/entries", tag = "floor", operation_id = "enter", params(("id" = i64, Path)), request_body = Entries, responses((status = 200, body = Vec<Entered>), (status = 404, body = HttpProblem), (status = 413, body = HttpProblem)))]
pub async fn enter(State(app): State<App>, Path(id): Path<i64>, Json(Entries { entries }): Json<Entries>) -> Answer<Vec<Entered>> {
    if entries.len() > ENTRIES_SENT {
        let advice = format!("Send {ENTRIES_SENT} at once at most.");
        return Err(ApiError::new(StatusCode::PAYLOAD_TOO_LARGE, "too-many-entries", "too many entries were sent at once", advice));
    }
    let taken = app.entering.send(id, entries).await?;
    let is_beyond = taken.entries.iter().flatten().any(|entry| !entry.beyond.is_empty());
    let plan = if is_beyond { Some(plan_at(&app, id).await?.plan) } else { None };
    let entered = taken.entries.into_iter().map(|one| match one {
        Ok(entry) => {
            let happened = plan.as_ref().and_then(|plan| Happened::beyond(&entry.beyond, plan));
            Entered { happened, entry: Some(entry), problem: None }
        }
        Err(error) => Entered { happened: None, entry: None, problem: Some(ApiError::from(error).0) },
    });
    Ok(Json(entered.collect()))
}

async fn plan_at(app: &App, station_id: i64) -> Result<Collection, ApiError> {
    Ok(app.store.collection(app.store.station(station_id).await?.plan_id).await?)
}

/// What the charts that watch a station signal at their newest points, with what is to be done about it.
#[utoipa::path(get, path = "/api/floor/stations/{id}/signals", tag = "floor", operation_id = "station_signals", params(("id" = i64, Path)), responses((status = 200, body = StationSignals), (status = 404, body = HttpProblem)))]
pub async fn signals(State(app): State<App>, Path(id): Path<i64>) -> Answer<StationSignals> {
    let Collection { plan, study_ids, .. } = plan_at(&app, id).await?;
    let (mut newest, mut causes) = (Vec::new(), plan.causes.clone());
    for study_id in study_ids {
        // A chart that cannot be answered says so itself, on the Wall and on its own page.
        let Ok((signals, found)) = found::at_newest_point(&app, study_id).await else { continue };
        causes.extend(found);
        let told: Vec<(&str, &str)> = signals.iter().map(|known| (known.signal.pattern.as_str(), known.signal.sentence.as_str())).collect();
        let Some(happened) = Happened::signals(&told, &plan) else { continue };
        newest.push(NewestSignals { study_id, addresses: signals.into_iter().map(|known| known.address).collect(), happened });
    }
    let mut seen = HashSet::new();
    causes.retain(|cause| seen.insert(cause.clone()));
    Ok(Json(StationSignals { newest, causes }))
}

/// Takes an entry back.
#[utoipa::path(post, path = "/api/floor/entries/{id}/take-back", tag = "floor", operation_id = "take_back", params(("id" = i64, Path)), responses((status = 200, body = StoredEntry), (status = 404, body = HttpProblem)))]
pub async fn take_back(State(app): State<App>, By(change): By, Path(id): Path<i64>) -> Answer<StoredEntry> {
    Ok(Json(app.store.take_back(id, &change).await?))
}

/// Says what caused values beyond specification, and what was done.
#[utoipa::path(post, path = "/api/floor/entries/{id}/reaction", tag = "floor", operation_id = "react", params(("id" = i64, Path)), request_body = EntryReaction, responses((status = 200, body = StoredEntry), (status = 404, body = HttpProblem), (status = 422, body = HttpProblem)))]
pub async fn react(State(app): State<App>, Path(id): Path<i64>, Json(reaction): Json<EntryReaction>) -> Answer<StoredEntry> {
    Ok(Json(app.store.react(id, &reaction).await?))
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
    let end = async |one: Result<OnItsWay, ServiceError>| one?.end().await;
    let taken = futures::future::join_all(begun.into_iter().map(end)).await;
    let answers = taken.into_iter().map(|one| match one {
        Ok(became) => ReadingAnswer { became: Some(became), problem: None },
        Err(error) => ReadingAnswer { became: None, problem: Some(ApiError::from(error).0) },
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
