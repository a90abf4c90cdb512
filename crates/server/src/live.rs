//! Live events: what changed, so that every open page can read it anew.

use std::convert::Infallible;
use std::time::Duration;

use axum::extract::State;
use axum::response::sse::{Event, KeepAlive, Sse};
use futures::Stream;
use serde::Serialize;
use tokio::sync::{broadcast, watch};
use utoipa::ToSchema;

use crate::bounds::EVENTS_WAITING;
use crate::state::App;

/// What changed.
#[derive(Clone, Copy, Debug, Serialize, ToSchema)]
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
    /// Events were missed: everything may have changed.
    Everything,
}

/// Where events are told and heard.
#[derive(Clone)]
pub struct Live {
    sender: broadcast::Sender<LiveEvent>,
    open: watch::Sender<bool>,
}

impl Live {
    pub fn new() -> Live {
        Live { sender: broadcast::channel(EVENTS_WAITING).0, open: watch::channel(true).0 }
    }

    /// Tells everyone who listens.
    pub fn tell(&self, event: LiveEvent) {
        // An error only means that nobody listens.
        let _ = self.sender.send(event);
    }

    /// Ends all streams.
    pub fn close(&self) {
        self.open.send_replace(false);
    }
}

/// Live events, as server-sent events named `change`.
#[utoipa::path(get, path = "/api/events", tag = "live", responses((status = 200, description = "A stream of changes", body = LiveEvent, content_type = "text/event-stream")))]
pub async fn events(State(app): State<App>) -> Sse<impl Stream<Item = Result<Event, Infallible>>> {
    let mut changes = app.live.sender.subscribe();
    let mut open = app.live.open.subscribe();
    let stream = async_stream::stream! {
        // The first event tells the page that the stream stands, and after a break that it may have missed some.
        yield Ok(event(LiveEvent::Everything));
        loop {
            tokio::select! {
                change = changes.recv() => match change {
                    Ok(change) => yield Ok(event(change)),
                    Err(broadcast::error::RecvError::Lagged(_)) => yield Ok(event(LiveEvent::Everything)),
                    Err(broadcast::error::RecvError::Closed) => break,
                },
                () = closed(&mut open) => break,
            }
        }
    };
    Sse::new(stream).keep_alive(KeepAlive::new().interval(Duration::from_secs(20)))
}

async fn closed(open: &mut watch::Receiver<bool>) {
    drop(open.wait_for(|open| !open).await);
}

fn event(change: LiveEvent) -> Event {
    Event::default().event("change").data(serde_json::to_string(&change).expect("a change is plain data"))
}
