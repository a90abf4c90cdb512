//! Signals with what was said about them.

use std::collections::HashSet;
use std::sync::Arc;

use acorn_core::methods::{self, Computed};
use acorn_store::{Dataset, Finding, Study};
use acorn_study::{FoundSignal, StudyError};
use serde::Serialize;
use utoipa::ToSchema;

use crate::bounds::SIGNALS_A_STUDY;
use crate::service::briefs::Brief;
use crate::service::{App, ServiceError};

/// A signal with what is known about it.
#[derive(Clone, Serialize, ToSchema)]
pub struct KnownSignal {
    /// Its address in the study, such as `individuals.beyond-limits.47`.
    pub address: String,
    /// The signal itself.
    #[serde(flatten)]
    pub signal: FoundSignal,
    /// What was said about it.
    pub finding: Option<Finding>,
}

/// A finding whose signal is no longer there: its points are left out, or the limits moved.
#[derive(Clone, Serialize, ToSchema)]
pub struct PastSignal {
    /// Its address in the study.
    pub address: String,
    /// First of its points; absent when its rows are gone.
    pub first: Option<usize>,
    /// Last of its points.
    pub last: Option<usize>,
    /// What was said.
    pub finding: Finding,
}

pub fn address(panel: &str, pattern: &str, row: i64) -> String {
    format!("{panel}.{pattern}.{row}")
}

/// Puts the findings of a study to its signals: the same panel and pattern, and rows in common.
pub fn join(computed: &Computed, findings: Vec<Finding>) -> (Vec<KnownSignal>, Vec<PastSignal>, usize) {
    let (signals, total) = computed.answer.signals(SIGNALS_A_STUDY);
    let sets: Vec<HashSet<i64>> = findings.iter().map(|finding| finding.row_ids.iter().copied().collect()).collect();
    let mut met = vec![false; findings.len()];
    let known = signals.into_iter().map(|signal| {
        let rows = if findings.is_empty() { Vec::new() } else { computed.answer.rows(signal.first, signal.last) };
        let is_about = |place: &usize| {
            let finding = &findings[*place];
            finding.panel == signal.panel_name && finding.pattern == signal.pattern && rows.iter().any(|row| sets[*place].contains(row))
        };
        let place = (0..findings.len()).find(is_about);
        place.into_iter().for_each(|place| met[place] = true);
        KnownSignal {
            address: address(&signal.panel_name, &signal.pattern, signal.first_row),
            finding: place.map(|place| findings[place].clone()),
            signal,
        }
    });
    let known: Vec<KnownSignal> = known.collect();
    let past = findings.iter().zip(&met).filter(|(_, met)| !**met).map(|(finding, _)| {
        let stretch = computed.answer.stretch_of(&finding.row_ids);
        PastSignal {
            address: address(&finding.panel, &finding.pattern, finding.row_ids.first().copied().unwrap_or_default()),
            first: stretch.map(|[first, _]| first),
            last: stretch.map(|[_, last]| last),
            finding: finding.clone(),
        }
    });
    (known, past.collect(), total)
}

/// Puts the findings of a study to what the last run left of its signals.
pub fn join_brief(brief: &Brief, findings: Vec<Finding>) -> (Vec<KnownSignal>, Vec<PastSignal>, usize) {
    let sets: Vec<HashSet<i64>> = findings.iter().map(|finding| finding.row_ids.iter().copied().collect()).collect();
    let mut met = vec![false; findings.len()];
    let known = brief.signals.iter().map(|one| {
        let place = (0..findings.len()).find(|place| one.is_of(&findings[*place], &sets[*place]));
        place.into_iter().for_each(|place| met[place] = true);
        let FoundSignal { panel_name, pattern, first_row, .. } = &one.signal;
        KnownSignal {
            address: address(panel_name, pattern, *first_row),
            finding: place.map(|place| findings[place].clone()),
            signal: one.signal.clone(),
        }
    });
    let known: Vec<KnownSignal> = known.collect();
    let past = findings.iter().zip(&met).filter(|(_, met)| !**met).map(|(finding, _)| PastSignal {
        address: address(&finding.panel, &finding.pattern, finding.row_ids.first().copied().unwrap_or_default()),
        first: None,
        last: None,
        finding: finding.clone(),
    });
    (known, past.collect(), brief.total)
}

/// The dataset that a study is about.
pub async fn dataset_of(app: &App, study: &Study) -> Result<Dataset, ServiceError> {
    let id = study.dataset_id.ok_or_else(|| StudyError::NoData { problem: "this study is about no dataset".into() })?;
    Ok(app.store.dataset(id).await?)
}

/// The column that a study charts.
pub fn charted<'d>(study: &Study, dataset: &'d Dataset) -> Option<&'d acorn_store::StoredColumn> {
    let subject = methods::subject(&study.spec)?;
    dataset.columns.iter().find(|column| Some(&column.name) == subject.columns.first())
}

/// The causes that the column of a study lists, and behind them those that were found besides.
pub async fn causes_of(app: &App, study: &Study, dataset: &Dataset) -> Result<Vec<String>, ServiceError> {
    let Some(column) = charted(study, dataset) else { return Ok(Vec::new()) };
    let mut causes = column.info.rules.causes.clone();
    let found = app.store.causes(column.id).await?;
    causes.extend(found.into_iter().filter(|cause| !column.info.rules.causes.contains(cause)));
    Ok(causes)
}

/// The answer of a study, and those of its signals about which nothing was said.
pub async fn without_cause(app: &App, study: &Study) -> Result<(Arc<Computed>, Vec<KnownSignal>), ServiceError> {
    let computed = app.answers.answer(&study.spec).await?;
    let (mut signals, _, _) = join(&computed, app.store.findings(study.id).await?);
    signals.retain(|known| !has_cause(known));
    Ok((computed, signals))
}

/// The signals of a study that end at its newest point, about which nothing was said, and the causes of its column.
pub async fn at_newest_point(app: &App, study_id: i64) -> Result<(Vec<KnownSignal>, Vec<String>), ServiceError> {
    let study = app.store.study(study_id).await?;
    let dataset = dataset_of(app, &study).await?;
    let computed = app.answers.answer(&study.spec).await?;
    let (mut signals, _, _) = join(&computed, app.store.findings(study_id).await?);
    signals.retain(|known| known.finding.is_none() && computed.answer.rows(known.signal.last + 1, usize::MAX - 1).is_empty());
    Ok((signals, causes_of(app, &study, &dataset).await?))
}

pub fn has_cause(known: &KnownSignal) -> bool {
    known.finding.as_ref().is_some_and(|finding| finding.cause.is_some())
}
