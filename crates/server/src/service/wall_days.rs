//! How the Wall stands from day to day, so that it can say what changed since the day before.

use std::collections::HashMap;
use std::sync::{Mutex, PoisonError};
use std::time::{Duration, Instant};

use acorn_store::{DayStanding, Store};

use crate::bounds::WALL_KEPT_MS;

/// What was kept last.
#[derive(Default)]
pub struct WallDays(Mutex<CachedDays>);

#[derive(Default)]
struct CachedDays {
    at: Option<Instant>,
    standings: HashMap<i64, DayStanding>,
}

impl WallDays {
    /// Keeps how the Wall stands today, where that has changed; not at every look, because values may come by the second. When it
    /// cannot be kept, such as on a full disk, the Wall is shown all the same.
    pub async fn keep(&self, store: &Store, now: Vec<DayStanding>) {
        let changed = self.changed(now);
        if changed.is_empty() {
            return;
        }
        if let Err(error) = store.keep_wall_day(&changed).await {
            tracing::warn!(%error, "how the Wall stands today was not kept");
        }
    }

    fn changed(&self, mut now: Vec<DayStanding>) -> Vec<DayStanding> {
        let mut kept = self.0.lock().unwrap_or_else(PoisonError::into_inner);
        if kept.at.is_some_and(|at| at.elapsed() < Duration::from_millis(WALL_KEPT_MS)) {
            return Vec::new();
        }
        now.retain(|standing| kept.standings.get(&standing.study_id) != Some(standing));
        kept.at = Some(Instant::now());
        kept.standings.extend(now.iter().map(|standing| (standing.study_id, standing.clone())));
        now
    }
}
