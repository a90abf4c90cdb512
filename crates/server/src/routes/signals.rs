//! Signals: where they are, what caused them, what is done about them.

use std::collections::{BTreeSet, HashMap};

use acorn_store::{Dataset, Finding, Said, SignalRef};
use acorn_study::StudyError;
use axum::extract::State;
use serde::{Deserialize, Serialize};
use utoipa::ToSchema;

use crate::bounds::SIGNALS_LISTED;
use crate::error::{ApiError, HttpProblem};
use crate::extract::{By, Json, Path};
use crate::service::App;
use crate::service::answers::{Glance, Seen, compute};
use crate::service::signals::{KnownSignal, PastSignal, causes_of, charted, dataset_of, has_cause, join, join_brief};
use crate::service::stated::{self, StatedStudy};

/// The signals of a study.
#[derive(Serialize, ToSchema)]
pub struct StudySignals {
    /// Those that are there, in the order of the points, up to a bound.
    pub signals: Vec<KnownSignal>,
    /// How many there are in all.
    pub total: usize,
    /// Findings whose signal is no longer there.
    pub past: Vec<PastSignal>,
    /// The causes of the column.
    pub causes: Vec<String>,
}

/// A signal without a cause, somewhere.
#[derive(Serialize, ToSchema)]
pub struct OpenSignal {
    /// The study.
    pub study_id: i64,
    /// Its name, if it has one.
    pub study: Option<String>,
    /// The dataset.
    pub dataset: String,
    /// The charted column.
    pub column: String,
    /// The signal.
    #[serde(flatten)]
    pub known: KnownSignal,
}

/// An action that is not done.
#[derive(Serialize, ToSchema)]
pub struct OpenAction {
    /// The study.
    pub study_id: i64,
    /// The dataset.
    pub dataset: String,
    /// The charted column.
    pub column: String,
    /// The address of the signal in the study.
    pub address: String,
    /// What was said about it.
    pub finding: Finding,
}

/// What still asks for somebody, over all studies.
#[derive(Default, Serialize, ToSchema)]
pub struct OpenWork {
    /// Signals without a cause, up to a bound.
    pub signals: Vec<OpenSignal>,
    /// How many there are in all.
    pub total: usize,
    /// Actions that are not done, the soonest due first.
    pub actions: Vec<OpenAction>,
    /// Whether the data of some have changed since: those are of the last answer, and being worked out anew.
    pub stale: bool,
}

/// Something said about a signal.
#[derive(Deserialize, ToSchema)]
pub struct Saying {
    /// The revision of the study that the person saw.
    pub revision: i64,
    /// What is said.
    #[serde(flatten)]
    pub said: Said,
}

/// The rows of the points of the signals of a study: stretches of row ids, ends included.
#[utoipa::path(get, path = "/api/studies/{id}/signals/rows", tag = "signals", operation_id = "signal_rows", params(("id" = i64, Path)), responses((status = 200, body = Vec<[i64; 2]>), (status = 422, body = HttpProblem)))]
pub async fn rows(State(app): State<App>, Path(id): Path<i64>) -> Result<Json<Vec<[i64; 2]>>, ApiError> {
    let study = app.store.study(id).await?;
    let computed = app.answers.answer(&study.spec).await?;
    let rows = compute(move |_| {
        let (signals, _) = computed.answer.signals(usize::MAX);
        let ids: BTreeSet<i64> = signals.iter().flat_map(|signal| computed.answer.rows(signal.first, signal.last)).collect();
        let mut stretches: Vec<[i64; 2]> = Vec::new();
        for id in ids {
            match stretches.last_mut() {
                Some(stretch) if stretch[1] + 1 == id => stretch[1] = id,
                _ => stretches.push([id; 2]),
            }
        }
        Ok(stretches)
    });
    Ok(Json(rows.await?))
}

/// The signals of a study, with their causes.
#[utoipa::path(get, path = "/api/studies/{id}/signals", tag = "signals", operation_id = "study_signals", params(("id" = i64, Path)), responses((status = 200, body = StudySignals), (status = 422, body = HttpProblem)))]
pub async fn of_study(State(app): State<App>, Path(id): Path<i64>) -> Result<Json<StudySignals>, ApiError> {
    let study = app.store.study(id).await?;
    let dataset = dataset_of(&app, &study).await?;
    let computed = app.answers.answer(&study.spec).await?;
    let (signals, past, total) = join(&computed, app.store.findings(id).await?);
    let causes = causes_of(&app, &study, &dataset).await?;
    Ok(Json(StudySignals { signals, total, past, causes }))
}

/// Says something about a signal, on top of what was said before; what is empty is taken back.
#[utoipa::path(put, path = "/api/studies/{id}/signals/{address}", tag = "signals", operation_id = "say_of_signal", params(("id" = i64, Path), ("address" = String, Path)), request_body = Saying, responses((status = 200, body = StatedStudy), (status = 404, body = HttpProblem), (status = 412, body = HttpProblem), (status = 422, body = HttpProblem)))]
pub async fn say(
    State(app): State<App>,
    By(change): By,
    Path((id, wanted)): Path<(i64, String)>,
    Json(saying): Json<Saying>,
) -> Result<Json<StatedStudy>, ApiError> {
    let study = app.store.study(id).await?;
    let dataset = dataset_of(&app, &study).await?;
    let computed = app.answers.answer(&study.spec).await?;
    let (signals, past, _) = join(&computed, app.store.findings(id).await?);
    let charted = charted(&study, &dataset).ok_or_else(|| StudyError::NoData { problem: "this study charts no column".into() })?;
    let column_id = charted.id;
    let about = if let Some(KnownSignal { signal, finding, .. }) = signals.into_iter().find(|known| known.address == wanted) {
        SignalRef {
            finding: finding.map(|finding| finding.id),
            row_ids: computed.answer.rows(signal.first, signal.last),
            panel: signal.panel_name,
            pattern: signal.pattern,
            sentence: signal.sentence,
            column_id,
        }
    } else if let Some(PastSignal { finding, .. }) = past.into_iter().find(|past| past.address == wanted) {
        let Finding { id, panel, pattern, row_ids, sentence, .. } = finding;
        SignalRef { finding: Some(id), panel, pattern, row_ids, sentence, column_id }
    } else {
        let detail = format!("there is no signal “{wanted}” in this study");
        return Err(ApiError::new(
            axum::http::StatusCode::NOT_FOUND,
            "not-found",
            detail,
            "Limits or data may have changed; look at the chart again.",
        ));
    };
    Ok(Json(stated::one(&app, app.store.say(id, saying.revision, about, saying.said, &change).await?).await?))
}

/// Signals without a cause and actions not done, over all studies.
#[utoipa::path(get, path = "/api/signals", tag = "signals", operation_id = "open_signals", responses((status = 200, body = OpenWork)))]
pub async fn open(State(app): State<App>) -> Result<Json<OpenWork>, ApiError> {
    let datasets = app.store.datasets().await?;
    let datasets: HashMap<i64, &Dataset> = datasets.iter().map(|dataset| (dataset.id, dataset)).collect();
    let mut findings = app.store.all_findings().await?;
    let mut work = OpenWork::default();
    for study in app.store.studies().await? {
        let Some(dataset) = study.dataset_id.and_then(|id| datasets.get(&id)) else { continue };
        let Some(column) = charted(&study, dataset) else { continue };
        // A study that cannot be answered says so itself, on the Wall and on its own page.
        let Glance { found, stale } = app.answers.glance(&study.spec, &datasets).await;
        work.stale |= stale;
        let Ok(seen) = found else { continue };
        let findings = findings.remove(&study.id).unwrap_or_default();
        let (signals, past, total) = match &seen {
            Seen::Answer(computed) => join(computed, findings),
            Seen::Brief(brief) => join_brief(brief, findings),
        };
        let (name, column) = (dataset.name.clone(), column.name.clone());
        let done = signals.iter().filter(|known| has_cause(known)).count();
        work.total += total - done;
        let findings = signals.iter().filter_map(|known| known.finding.as_ref().map(|finding| (&known.address, finding)));
        let findings = findings.chain(past.iter().map(|past| (&past.address, &past.finding)));
        let open = findings.filter(|(_, finding)| !finding.action.is_empty() && !finding.done).map(|(address, finding)| OpenAction {
            study_id: study.id,
            dataset: name.clone(),
            column: column.clone(),
            address: address.clone(),
            finding: finding.clone(),
        });
        work.actions.extend(open);
        let room = SIGNALS_LISTED.saturating_sub(work.signals.len());
        let without = signals.into_iter().filter(|known| !has_cause(known)).take(room);
        let listed = without.map(|known| OpenSignal {
            study_id: study.id,
            study: study.name.clone(),
            dataset: name.clone(),
            column: column.clone(),
            known,
        });
        work.signals.extend(listed);
    }
    // Actions without a day come last.
    work.actions.sort_by_key(|action| action.finding.due.clone().unwrap_or_else(|| "9999".to_owned()));
    Ok(Json(work))
}
