//! Live events: what changed, so that every open page can read it anew.

use std::time::Duration;

use serde::Serialize;
use tokio::sync::{broadcast, watch};
use utoipa::ToSchema;

use crate::bounds::{EVENTS_GATHERED_MS, EVENTS_WAITING};

/// What changed.
#[derive(Clone, Copy, Debug, PartialEq, Eq, Serialize, ToSchema)]
#[serde(tag = "kind", rename_all = "kebab-case")]
pub enum LiveEvent {
    /// A dataset: its values, columns or name.
    Dataset {
        /// Its number.
        id: i64,
        /// Its new revision; 0 when it was deleted.
        revision: i64,
    },
    /// A study: its statement or name.
    Study {
        /// Its number.
        id: i64,
        /// Its new revision; 0 when it was deleted.
        revision: i64,
    },
    /// Which computations are under way.
    Jobs,
    /// Plans, stations, lists or what was said about entries.
    Floor,
    /// Events were missed: everything may have changed.
    Everything,
}

/// Where events are told and heard.
#[derive(Clone)]
pub struct Live {
    sender: broadcast::Sender<LiveEvent>,
    open: watch::Sender<bool>,
}

impl Default for Live {
    fn default() -> Live {
        Live { sender: broadcast::channel(EVENTS_WAITING).0, open: watch::channel(true).0 }
    }
}

impl Live {
    /// Tells everyone who listens.
    pub fn tell(&self, event: LiveEvent) {
        // An error only means that nobody listens.
        let _ = self.sender.send(event);
    }

    /// Starts to listen.
    pub fn listen(&self) -> Listener {
        Listener { changes: self.sender.subscribe(), open: self.open.subscribe() }
    }

    /// Ends all streams.
    pub fn close(&self) {
        self.open.send_replace(false);
    }
}

/// One who listens.
pub struct Listener {
    changes: broadcast::Receiver<LiveEvent>,
    open: watch::Receiver<bool>,
}

impl Listener {
    /// What changed since the last call, gathered for a moment, the newest of each; `None` when the service stops.
    pub async fn next(&mut self) -> Option<Vec<LiveEvent>> {
        let first = self.one().await?;
        let mut gathered = vec![first];
        let until = tokio::time::sleep(Duration::from_millis(EVENTS_GATHERED_MS));
        tokio::pin!(until);
        loop {
            tokio::select! {
                () = &mut until => return Some(gathered),
                event = self.one() => match event {
                    Some(event) => add(&mut gathered, event),
                    None => return Some(gathered),
                },
            }
        }
    }

    /// Ends when the service stops.
    pub async fn closed(&mut self) {
        let _ = self.open.wait_for(|open| !open).await;
    }

    async fn one(&mut self) -> Option<LiveEvent> {
        tokio::select! {
            change = self.changes.recv() => match change {
                Ok(change) => Some(change),
                Err(broadcast::error::RecvError::Lagged(_)) => Some(LiveEvent::Everything),
                Err(broadcast::error::RecvError::Closed) => None,
            },
            _ = self.open.wait_for(|open| !open) => None,
        }
    }
}

/// Adds an event to what was gathered: a newer one about the same thing takes the place of the older one.
pub fn add(gathered: &mut Vec<LiveEvent>, event: LiveEvent) {
    use LiveEvent::{Dataset, Everything, Floor, Jobs, Study};
    let same = |other: &LiveEvent| match (other, &event) {
        (Dataset { id, .. }, Dataset { id: newer, .. }) | (Study { id, .. }, Study { id: newer, .. }) => id == newer,
        (_, Everything) | (Jobs, Jobs) | (Floor, Floor) => true,
        _ => false,
    };
    if gathered.contains(&Everything) {
        return;
    }
    gathered.retain(|other| !same(other));
    gathered.push(event);
}
