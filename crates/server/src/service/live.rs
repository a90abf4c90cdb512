//! Live events: what changed, so that every open page can read it anew. The store says what each transaction changed; only computations
//! under way are told of by themselves.

use std::time::Duration;

use acorn_store::{Changed, Store};
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
    /// The named views of a dataset.
    Views {
        /// The number of the dataset.
        dataset_id: i64,
    },
    /// A study: its statement, name or causes.
    Study {
        /// Its number.
        id: i64,
        /// Its new revision; 0 when it was deleted.
        revision: i64,
    },
    /// Which computations are under way.
    Jobs,
    /// Plans, stations, lists, entries, alerts, or the order of the Wall.
    Floor,
    /// Gauges or their studies.
    Gauges,
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

impl From<Changed> for LiveEvent {
    fn from(changed: Changed) -> LiveEvent {
        match changed {
            Changed::Dataset { id, revision } => LiveEvent::Dataset { id, revision },
            Changed::Views { dataset_id } => LiveEvent::Views { dataset_id },
            Changed::Study { id, revision } => LiveEvent::Study { id, revision },
            Changed::Floor => LiveEvent::Floor,
            Changed::Gauges => LiveEvent::Gauges,
        }
    }
}

impl Live {
    /// Tells of everything that a store changes from now on.
    pub fn of(store: &Store) -> Live {
        let live = Live::default();
        let (teller, mut changes) = (live.clone(), store.changes());
        tokio::spawn(async move {
            loop {
                match changes.recv().await {
                    Ok(changed) => changed.iter().for_each(|&changed| teller.tell(changed.into())),
                    Err(broadcast::error::RecvError::Lagged(_)) => teller.tell(LiveEvent::Everything),
                    Err(broadcast::error::RecvError::Closed) => return,
                }
            }
        });
        live
    }

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
    use LiveEvent::{Dataset, Everything, Study};
    let same = |other: &LiveEvent| match (other, &event) {
        (Dataset { id, .. }, Dataset { id: newer, .. }) | (Study { id, .. }, Study { id: newer, .. }) => id == newer,
        (_, Everything) => true,
        (other, event) => other == event,
    };
    if gathered.contains(&Everything) {
        return;
    }
    gathered.retain(|other| !same(other));
    gathered.push(event);
}
