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

#[cfg(test)]
mod tests {
    use super::*;

    #[tokio::test]
    async fn the_newest_wish_comes_first_and_none_again_at_once() {
        let line: Line<&str, u32> = Line::new(1);
        assert!(line.is_idle() && line.wish("flux", 1));
        assert!(!line.wish("gap", 2) && !line.wish("flux", 3), "one is at work already");
        assert_eq!((line.next().await, line.next().await), (Some(3), Some(2)));
        let since = Instant::now();
        line.wish("flux", 4);
        line.wish("seal", 5);
        assert_eq!(line.next().await, Some(5), "flux has had its turn a moment ago");
        assert_eq!(line.next().await, Some(4));
        assert!(since.elapsed() >= Duration::from_millis(ANEW_AGAIN_MS) / 2);
        assert!(!line.is_idle() && line.next().await.is_none() && line.is_idle());
        assert!(line.wish("gap", 6), "work begins anew");
    }

    #[tokio::test]
    async fn the_oldest_of_too_many_wishes_go() {
        let line: Line<usize, usize> = Line::new(1);
        for one in 0..ANEW_WAITING + 2 {
            line.wish(one, one);
        }
        let mut found = Vec::new();
        while let Some(one) = line.next().await {
            found.push(one);
        }
        assert!(found.is_sorted_by(|a, b| a > b) && (found.len(), found.last()) == (ANEW_WAITING, Some(&2)));
    }
}
