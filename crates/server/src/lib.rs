//! The HTTP service: JSON described by OpenAPI, live events, and the embedded front end.

mod answers;
mod assets;
mod bounds;
mod error;
mod extract;
mod guard;
mod imports;
mod jobs;
mod live;
mod router;
mod routes;
mod state;

use std::future::Future;

use acorn_store::Store;
use tokio::net::TcpListener;

pub use router::open_api;

/// Serves until `shutdown` completes, then lets running requests finish.
///
/// # Errors
/// Those of the listener.
pub async fn serve(listener: TcpListener, store: Store, shutdown: impl Future<Output = ()> + Send + 'static) -> std::io::Result<()> {
    let loopback = listener.local_addr()?.ip().is_loopback();
    let state = state::App::new(store.clone());
    let live = state.live.clone();
    let stopping = async move {
        shutdown.await;
        // Open event streams would keep the server from ever stopping.
        live.close();
    };
    axum::serve(listener, router::router(state, loopback)).with_graceful_shutdown(stopping).await?;
    store.close().await;
    Ok(())
}
