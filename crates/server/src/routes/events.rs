//! Live events.

use std::convert::Infallible;
use std::time::Duration;

use axum::extract::State;
use axum::response::sse::{Event, KeepAlive, Sse};
use futures::Stream;

use crate::service::App;
use crate::service::live::LiveEvent;

/// Live events, as server-sent events named `change`, each a list of what changed in a short while.
#[utoipa::path(get, path = "/api/events", tag = "live", operation_id = "events", responses((status = 200, description = "A stream of changes", body = Vec<LiveEvent>, content_type = "text/event-stream")))]
pub async fn events(State(app): State<App>) -> Sse<impl Stream<Item = Result<Event, Infallible>>> {
    let mut listener = app.live.listen();
    let stream = async_stream::stream! {
        // The first event tells the page that the stream stands, and after a break that it may have missed some.
        yield Ok(event(&[LiveEvent::Everything]));
        while let Some(changes) = listener.next().await {
            yield Ok(event(&changes));
        }
    };
    Sse::new(stream).keep_alive(KeepAlive::new().interval(Duration::from_secs(20)))
}

fn event(changes: &[LiveEvent]) -> Event {
    Event::default().event("change").data(serde_json::to_string(changes).expect("a change is plain data"))
}
