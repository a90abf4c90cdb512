//! Gauges, what their studies said, and sheets for new studies.

use acorn_core::methods;
use acorn_maths::words::counted;
use acorn_store::{Change, Gauge, GaugeChange, NewRecord, NewSheet, StoredSheet};
use acorn_study::Tone;
use acorn_study::card::Subject;
use acorn_study::gauge::due::{self, Due};
use acorn_study::gauge::plan::{Plan, Tells};
use axum::extract::State;
use axum::http::StatusCode;
use jiff::Timestamp;
use jiff::civil::Date;
use jiff::tz::TimeZone;
use serde::{Deserialize, Serialize};
use utoipa::ToSchema;

use crate::error::{ApiError, HttpProblem};
use crate::extract::{By, Json, Path};
use crate::service::App;

type Answer<T> = Result<Json<T>, ApiError>;

/// A gauge with its next study.
#[derive(Serialize, ToSchema)]
pub struct KnownGauge {
    /// The gauge.
    #[serde(flatten)]
    pub gauge: Gauge,
    /// How near its next study is.
    pub due: Due,
    /// The day of it, as `2026-05-04`; absent when none is asked for.
    pub next: Option<String>,
}

/// A gauge as it should be, on the revision that the person saw.
#[derive(Deserialize, ToSchema)]
pub struct GaugeEdit {
    /// The revision.
    pub revision: i64,
    /// The gauge as it should be.
    #[serde(flatten)]
    pub gauge: GaugeChange,
}

/// A finished study, to be kept with a gauge.
#[derive(Deserialize, ToSchema)]
pub struct RecordStudy {
    /// The study.
    pub study_id: i64,
}

fn day_of(change: &Change<'_>) -> Date {
    Timestamp::from_millisecond(change.at).unwrap_or_default().to_zoned(TimeZone::UTC).date()
}

fn known(gauge: Gauge, today: Date) -> KnownGauge {
    let last = gauge.records.first().and_then(|record| record.day.parse().ok());
    let months = gauge.is.months;
    KnownGauge { due: due::due(last, months, today), next: due::next(last, months).map(|day| day.to_string()), gauge }
}

/// All gauges by name, with what their studies said.
#[utoipa::path(get, path = "/api/gauges", tag = "gauges", operation_id = "list_gauges", responses((status = 200, body = Vec<KnownGauge>)))]
pub async fn list(State(app): State<App>, By(change): By) -> Answer<Vec<KnownGauge>> {
    let today = day_of(&change);
    Ok(Json(app.store.gauges().await?.into_iter().map(|gauge| known(gauge, today)).collect()))
}

/// Enters a gauge.
#[utoipa::path(post, path = "/api/gauges", tag = "gauges", operation_id = "create_gauge", request_body = GaugeChange, responses((status = 200, body = KnownGauge), (status = 422, body = HttpProblem)))]
pub async fn create(State(app): State<App>, By(change): By, Json(new): Json<GaugeChange>) -> Answer<KnownGauge> {
    Ok(Json(known(app.store.create_gauge(new, &change).await?, day_of(&change))))
}

/// One gauge.
#[utoipa::path(get, path = "/api/gauges/{id}", tag = "gauges", operation_id = "get_gauge", params(("id" = i64, Path)), responses((status = 200, body = KnownGauge), (status = 404, body = HttpProblem)))]
pub async fn get(State(app): State<App>, By(change): By, Path(id): Path<i64>) -> Answer<KnownGauge> {
    Ok(Json(known(app.store.gauge(id).await?, day_of(&change))))
}

/// Changes what is said of a gauge.
#[utoipa::path(put, path = "/api/gauges/{id}", tag = "gauges", operation_id = "change_gauge", params(("id" = i64, Path)), request_body = GaugeEdit, responses((status = 200, body = KnownGauge), (status = 412, body = HttpProblem), (status = 422, body = HttpProblem)))]
pub async fn change(State(app): State<App>, By(change): By, Path(id): Path<i64>, Json(edit): Json<GaugeEdit>) -> Answer<KnownGauge> {
    Ok(Json(known(app.store.change_gauge(id, edit.revision, edit.gauge).await?, day_of(&change))))
}

/// Deletes a gauge with its records; what it measured stays.
#[utoipa::path(delete, path = "/api/gauges/{id}", tag = "gauges", operation_id = "delete_gauge", params(("id" = i64, Path)), responses((status = 204), (status = 404, body = HttpProblem)))]
pub async fn delete(State(app): State<App>, Path(id): Path<i64>) -> Result<StatusCode, ApiError> {
    app.store.delete_gauge(id).await?;
    Ok(StatusCode::NO_CONTENT)
}

/// Keeps what a study says of a gauge by now; it stays so when the study changes.
#[utoipa::path(post, path = "/api/gauges/{id}/records", tag = "gauges", operation_id = "record_study", params(("id" = i64, Path)), request_body = RecordStudy, responses((status = 200, body = KnownGauge), (status = 404, body = HttpProblem), (status = 422, body = HttpProblem)))]
pub async fn record(State(app): State<App>, By(change): By, Path(id): Path<i64>, Json(of): Json<RecordStudy>) -> Answer<KnownGauge> {
    let study = app.store.study(of.study_id).await?;
    let computed = app.answers.answer(&study.spec).await?;
    let refused = |detail: &str, advice: &str| ApiError::new(StatusCode::UNPROCESSABLE_ENTITY, "no-gauge-study", detail, advice);
    let found = computed.answer.gauge().ok_or_else(|| refused("this study is not about a gauge", "Record a gauge study."))?;
    if computed.verdict.tone == Tone::Unsure {
        return Err(refused("this study says nothing of its gauge yet", "Read what is missing first."));
    }
    let (dataset, is_sheet) = match study.dataset_id {
        Some(id) => app.store.dataset(id).await.map(|dataset| (dataset.name, dataset.plan.is_some()))?,
        None => (String::new(), false),
    };
    if is_sheet && found.waiting > 0 {
        let detail = format!("{} still to come", counted(found.waiting, "reading is", "readings are"));
        return Err(refused(&detail, "Fill the sheet first."));
    }
    let subject = methods::subject(&study.spec);
    let tone = computed.verdict.tone.word();
    let new = NewRecord {
        study_id: study.id,
        method: &study.spec.method,
        characteristic: subject.as_ref().and_then(Subject::column).map_or("", String::as_str),
        dataset: &dataset,
        day: day_of(&change),
        sd: found.sd,
        share: found.share,
        verdict: [tone, &computed.verdict.title, &computed.verdict.sentence],
    };
    Ok(Json(known(app.store.record_gauge(id, &new, &change).await?, day_of(&change))))
}

/// Takes a record back.
#[utoipa::path(delete, path = "/api/gauges/{id}/records/{record}", tag = "gauges", operation_id = "forget_record", params(("id" = i64, Path), ("record" = i64, Path)), responses((status = 200, body = KnownGauge), (status = 404, body = HttpProblem)))]
pub async fn forget(State(app): State<App>, By(change): By, Path((id, record)): Path<(i64, i64)>) -> Answer<KnownGauge> {
    Ok(Json(known(app.store.forget_record(id, record).await?, day_of(&change))))
}

/// What a planned gauge study could tell. Nothing is stored.
#[utoipa::path(post, path = "/api/gauge-plans", tag = "gauges", operation_id = "weigh_plan", request_body = Plan, responses((status = 200, body = Tells), (status = 422, body = HttpProblem)))]
pub async fn weigh(Json(plan): Json<Plan>) -> Answer<Tells> {
    Ok(Json(crate::service::answers::compute(move |_| plan.tells()).await?))
}

/// Makes the sheet of a planned gauge study, with its question and, where it is new, its gauge.
#[utoipa::path(post, path = "/api/sheets", tag = "gauges", operation_id = "create_sheet", request_body = NewSheet, responses((status = 200, body = StoredSheet), (status = 404, body = HttpProblem), (status = 422, body = HttpProblem)))]
pub async fn create_sheet(State(app): State<App>, By(change): By, Json(new): Json<NewSheet>) -> Answer<StoredSheet> {
    Ok(Json(app.store.create_sheet(&new, &change).await?))
}
