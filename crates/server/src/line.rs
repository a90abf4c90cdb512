//! Who waits to be worked out anew behind the pages: the newest wish first, none more often than a few times a second.

use std::collections::{HashMap, VecDeque};
use std::hash::Hash;
use std::sync::{Arc, Mutex, MutexGuard, PoisonError};
use std::time::{Duration, Instant};

use crate::bounds::{ANEW_AGAIN_MS, ANEW_WAITING};

struct Table<Q, W> {
    /// Newest first.
    waiting: VecDeque<(Q, W)>,
    /// What was begun a moment ago.
    begun: HashMap<Q, Instant>,
    at_work: usize,
}

/// Wishes by the question that they are about.
pub struct Line<Q, W> {
    table: Arc<Mutex<Table<Q, W>>>,
    at_once: usize,
}

impl<Q, W> Clone for Line<Q, W> {
    fn clone(&self) -> Line<Q, W> {
        Line { table: self.table.clone(), at_once: self.at_once }
    }
}

impl<Q: Clone + Eq + Hash, W> Line<Q, W> {
    /// A line that so many work at.
    pub fn new(at_once: usize) -> Line<Q, W> {
        Line { table: Arc::new(Mutex::new(Table { waiting: VecDeque::new(), begun: HashMap::new(), at_work: 0 })), at_once }
    }

    fn table(&self) -> MutexGuard<'_, Table<Q, W>> {
        self.table.lock().unwrap_or_else(PoisonError::into_inner)
    }

    /// Puts a wish in front; an older one about the same question goes, and so does the oldest of too many. Whether one more has to
    /// begin to work.
    pub fn wish(&self, question: Q, wish: W) -> bool {
        let mut table = self.table();
        table.waiting.retain(|(other, _)| *other != question);
        table.waiting.push_front((question, wish));
        table.waiting.truncate(ANEW_WAITING);
        let more = table.at_work < self.at_once;
        table.at_work += usize::from(more);
        more
    }

    /// Whether nobody waits or is worked for.
    pub fn is_idle(&self) -> bool {
        self.table().at_work == 0
    }

    /// The next wish for one who works, as soon as there is one whose turn it is; `None` ends the work.
    pub async fn next(&self) -> Option<W> {
        let again = Duration::from_millis(ANEW_AGAIN_MS);
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
                    let (question, wish) = waiting.remove(at)?;
                    begun.insert(question, Instant::now());
                    return Some(wish);
                }
                waiting.iter().filter_map(|(question, _)| begun.get(question)).map(|begun| again.saturating_sub(begun.elapsed())).min()
            };
            tokio::time::sleep(wait.unwrap_or(again)).await;
        }
    }
}
