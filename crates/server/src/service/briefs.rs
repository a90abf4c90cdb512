//! Answers in brief: what the Wall and the list of signals show of them, also right after a restart.

use std::collections::{HashMap, HashSet};
use std::sync::{Arc, Mutex, MutexGuard, PoisonError};
use std::time::Duration;

use acorn_core::methods::Computed;
use acorn_store::{Finding, KeptBrief, Store};
use acorn_study::dial::Dial;
use acorn_study::{FoundSignal, Verdict};
use serde::{Deserialize, Serialize};

use crate::bounds::{BRIEFS_KEPT_MS, SIGNALS_LISTED};
use crate::service::live::Live;
use crate::service::now;

/// What is shown of an answer without its figure.
#[derive(Clone, Debug, Serialize, Deserialize)]
pub struct Brief {
    pub verdict: Verdict,
    pub dial: Option<Dial>,
    /// Its signals, up to as many as are listed.
    pub signals: Vec<BriefSignal>,
    /// How many there are in all.
    pub total: usize,
}

/// A signal with rows by which findings are known to be about it.
#[derive(Clone, Debug, Serialize, Deserialize)]
pub struct BriefSignal {
    pub signal: FoundSignal,
    pub rows: Vec<i64>,
}

/// Rows of a signal that are kept: more are not needed to tell it from another.
const ROWS_KEPT: usize = 100;

impl Brief {
    pub fn of(computed: &Computed) -> Brief {
        let (signals, total) = computed.answer.signals(SIGNALS_LISTED);
        let with_rows = |signal: FoundSignal| {
            let mut rows = computed.answer.rows(signal.first, signal.last);
            rows.truncate(ROWS_KEPT);
            BriefSignal { signal, rows }
        };
        let signals = signals.into_iter().map(with_rows).collect();
        Brief { verdict: computed.verdict.clone(), dial: computed.dial.clone(), signals, total }
    }
}

impl BriefSignal {
    /// Whether a finding about some rows is about it: the same panel and pattern, and rows in common.
    pub fn is_of(&self, finding: &Finding, rows: &HashSet<i64>) -> bool {
        finding.panel == self.signal.panel_name && finding.pattern == self.signal.pattern && self.rows.iter().any(|row| rows.contains(row))
    }
}

/// An answer in brief, with what it rests on.
#[derive(Clone)]
struct Known {
    rests_on: String,
    brief: Arc<Brief>,
}

#[derive(Default)]
struct Table {
    /// Of the last run, until they are asked for.
    left: HashMap<String, Known>,
    /// Worked out since, and not kept yet.
    new: HashMap<String, (String, Arc<Computed>)>,
}

/// The briefs of the last run, and those to be left for the next.
#[derive(Clone, Default)]
pub struct Briefs(Arc<Mutex<Table>>);

impl Briefs {
    fn table(&self) -> MutexGuard<'_, Table> {
        self.0.lock().unwrap_or_else(PoisonError::into_inner)
    }

    /// What the last run left of a question, and whether it still holds.
    pub fn left(&self, question: &str, rests_on: &str) -> Option<(Arc<Brief>, bool)> {
        let table = self.table();
        let known = table.left.get(question)?;
        Some((known.brief.clone(), known.rests_on == rests_on))
    }

    /// Notes an answer, to be kept in a while. What the last run left of its question is no longer needed.
    pub fn note(&self, question: String, rests_on: String, computed: Arc<Computed>) {
        let mut table = self.table();
        table.left.remove(&question);
        table.new.insert(question, (rests_on, computed));
    }

    /// Reads what the last run left.
    pub async fn read(&self, store: &Store) {
        let left = match store.briefs().await {
            Ok(left) => left,
            // Without them the start is a cold one.
            Err(error) => return tracing::warn!(%error, "the last answers were not read"),
        };
        let known = left.into_iter().filter_map(|KeptBrief { question, rests_on, brief }| {
            let brief = Arc::new(serde_json::from_str(&brief).ok()?);
            Some((question, Known { rests_on, brief }))
        });
        self.table().left = known.collect();
    }

    async fn keep(&self, store: &Store) {
        let new = std::mem::take(&mut self.table().new);
        if new.is_empty() {
            return;
        }
        let written = tokio::task::spawn_blocking(move || {
            let kept = new.into_iter().filter_map(|(question, (rests_on, computed))| {
                let brief = serde_json::to_string(&Brief::of(&computed)).ok()?;
                Some(KeptBrief { question, rests_on, brief })
            });
            kept.collect::<Vec<_>>()
        });
        let kept = written.await.unwrap_or_default();
        if let Err(error) = store.keep_briefs(&kept, now()).await {
            tracing::warn!(%error, "the last answers were not kept");
        }
    }

    /// Keeps what is new every few seconds until the service ends, and then once more.
    pub async fn keep_on(self, store: Store, live: Live) {
        let mut listener = live.listen();
        loop {
            let pause = tokio::time::sleep(Duration::from_millis(BRIEFS_KEPT_MS));
            tokio::select! {
                () = pause => self.keep(&store).await,
                () = listener.closed() => return self.keep(&store).await,
            }
        }
    }
}
