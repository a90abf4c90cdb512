//! What is being computed just now: what it is about, how far it is, the seed of its draws, and a way to stop it.

use std::sync::{Arc, Mutex, MutexGuard, PoisonError};
use std::time::{Duration, Instant};

use acorn_study::Cancel;
use serde::Serialize;
use utoipa::ToSchema;

use crate::bounds::JOB_SHOWS_MS;
use crate::service::live::{Live, LiveEvent};

/// A computation under way.
#[derive(Clone, Debug, PartialEq, Serialize, ToSchema)]
pub struct Job {
    /// Its number, never given to another.
    pub id: u64,
    /// The method that is asked.
    pub method: String,
    /// The dataset it is about; absent for typed values.
    pub dataset_id: Option<i64>,
    /// How long it has been going on, in seconds.
    pub seconds: f64,
    /// The share done of what is known to be done; absent while nothing is known.
    pub share: Option<f64>,
    /// What its draws start from; absent when it draws nothing.
    pub seed: Option<u64>,
    /// What it found so far, in words; absent where there is nothing to tell before the end.
    pub so_far: Option<String>,
}

/// What a computation is about.
pub struct JobSubject {
    pub method: String,
    pub dataset_id: Option<i64>,
}

/// A computation and what it answers.
struct Running<K> {
    id: u64,
    key: K,
    about: JobSubject,
    since: Instant,
    cancel: Cancel,
}

impl<K> Running<K> {
    fn job(&self) -> Job {
        Job {
            id: self.id,
            method: self.about.method.clone(),
            dataset_id: self.about.dataset_id,
            seconds: self.since.elapsed().as_secs_f64(),
            share: self.cancel.share(),
            seed: self.cancel.seed(),
            so_far: self.cancel.so_far(),
        }
    }
}

struct Table<K> {
    /// The number given last.
    last: u64,
    running: Vec<Running<K>>,
}

/// All computations under way, by what they answer.
pub struct Jobs<K> {
    table: Arc<Mutex<Table<K>>>,
    live: Live,
}

impl<K> Clone for Jobs<K> {
    fn clone(&self) -> Jobs<K> {
        Jobs { table: self.table.clone(), live: self.live.clone() }
    }
}

/// Takes a computation off the list when it ends, however it ends.
pub struct Listed<K> {
    jobs: Jobs<K>,
    id: u64,
    since: Instant,
}

impl<K> Drop for Listed<K> {
    fn drop(&mut self) {
        self.jobs.table().running.retain(|one| one.id != self.id);
        if self.since.elapsed() >= Duration::from_millis(JOB_SHOWS_MS) {
            self.jobs.live.tell(LiveEvent::Jobs);
        }
    }
}

impl<K> Jobs<K> {
    pub fn new(live: Live) -> Jobs<K> {
        Jobs { table: Arc::new(Mutex::new(Table { last: 0, running: Vec::new() })), live }
    }

    fn table(&self) -> MutexGuard<'_, Table<K>> {
        self.table.lock().unwrap_or_else(PoisonError::into_inner)
    }

    /// Those that have gone on for a while, the oldest first: the others are gone before anyone can read about them.
    pub fn list(&self) -> Vec<Job> {
        let long = |one: &&Running<K>| one.since.elapsed() >= Duration::from_millis(JOB_SHOWS_MS);
        self.table().running.iter().filter(long).map(Running::job).collect()
    }

    /// Whether nothing is being computed.
    pub fn is_idle(&self) -> bool {
        self.table().running.is_empty()
    }

    /// Asks one to stop; whether there was one.
    pub fn stop(&self, id: u64) -> bool {
        let table = self.table();
        let found = table.running.iter().find(|one| one.id == id);
        found.inspect(|one| one.cancel.stop()).is_some()
    }
}

impl<K: Clone + PartialEq + Send + 'static> Jobs<K> {
    /// Lists a computation until what is returned is dropped.
    pub fn start(&self, key: &K, about: JobSubject) -> (Listed<K>, Cancel) {
        let (cancel, since) = (Cancel::default(), Instant::now());
        let id = {
            let mut table = self.table();
            table.last += 1;
            let id = table.last;
            table.running.push(Running { id, key: key.clone(), about, since, cancel: cancel.clone() });
            id
        };
        let (table, live) = (self.table.clone(), self.live.clone());
        tokio::spawn(async move {
            tokio::time::sleep(Duration::from_millis(JOB_SHOWS_MS)).await;
            if table.lock().unwrap_or_else(PoisonError::into_inner).running.iter().any(|one| one.id == id) {
                live.tell(LiveEvent::Jobs);
            }
        });
        (Listed { jobs: self.clone(), id, since }, cancel)
    }

    /// The one that works on an answer.
    pub fn of(&self, key: &K) -> Option<Job> {
        self.table().running.iter().find(|one| one.key == *key).map(Running::job)
    }
}
