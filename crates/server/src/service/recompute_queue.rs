//! Questions to recompute behind the pages: the newest first, none more often than a few times a second.

use std::collections::{HashMap, VecDeque};
use std::hash::Hash;
use std::sync::{Arc, Mutex, MutexGuard, PoisonError};
use std::time::{Duration, Instant};

use crate::bounds::{RECOMPUTE_AGAIN_MS, RECOMPUTE_WAITING};

struct Table<Q, W> {
    /// Newest first.
    waiting: VecDeque<(Q, W)>,
    /// What was begun a moment ago.
    begun: HashMap<Q, Instant>,
    at_work: usize,
}

/// Work by the question that it answers.
pub struct RecomputeQueue<Q, W> {
    table: Arc<Mutex<Table<Q, W>>>,
    at_once: usize,
}

impl<Q, W> Clone for RecomputeQueue<Q, W> {
    fn clone(&self) -> RecomputeQueue<Q, W> {
        RecomputeQueue { table: self.table.clone(), at_once: self.at_once }
    }
}

impl<Q: Clone + Eq + Hash, W> RecomputeQueue<Q, W> {
    /// A queue with at most so many workers.
    pub fn new(at_once: usize) -> RecomputeQueue<Q, W> {
        RecomputeQueue { table: Arc::new(Mutex::new(Table { waiting: VecDeque::new(), begun: HashMap::new(), at_work: 0 })), at_once }
    }

    fn table(&self) -> MutexGuard<'_, Table<Q, W>> {
        self.table.lock().unwrap_or_else(PoisonError::into_inner)
    }

    /// Puts work at the front, in place of older work on the same question; drops the oldest of too many. Tells whether one more worker
    /// has to start.
    pub fn enqueue(&self, question: Q, work: W) -> bool {
        let mut table = self.table();
        table.waiting.retain(|(other, _)| *other != question);
        table.waiting.push_front((question, work));
        table.waiting.truncate(RECOMPUTE_WAITING);
        let more = table.at_work < self.at_once;
        table.at_work += usize::from(more);
        more
    }

    /// Whether nothing waits and no worker is busy.
    pub fn is_idle(&self) -> bool {
        self.table().at_work == 0
    }

    /// The next work for a worker, as soon as its turn comes; `None` ends the worker.
    pub async fn next(&self) -> Option<W> {
        let again = Duration::from_millis(RECOMPUTE_AGAIN_MS);
        loop {
            let wait = {
                let mut table = self.table();
                table.begun.retain(|_, begun| begun.elapsed() < again);
                let Table { waiting, begun, at_work } = &mut *table;
                if waiting.is_empty() {
                    *at_work -= 1;
                    return None;
                }
                if let Some(at) = waiting.iter().position(|(question, _)| !begun.contains_key(question)) {
                    let (question, work) = waiting.remove(at)?;
                    begun.insert(question, Instant::now());
                    return Some(work);
                }
                waiting.iter().filter_map(|(question, _)| begun.get(question)).map(|begun| again.saturating_sub(begun.elapsed())).min()
            };
            tokio::time::sleep(wait.unwrap_or(again)).await;
        }
    }
}
