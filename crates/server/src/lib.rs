//! The HTTP service: JSON described by OpenAPI, live events, and the embedded front end.

#[doc(hidden)]
pub mod assets;
#[doc(hidden)]
pub mod bounds;
mod connections;
#[doc(hidden)]
pub mod contract;
#[doc(hidden)]
pub mod error;
mod extract;
#[doc(hidden)]
pub mod guard;
#[doc(hidden)]
pub mod router;
#[doc(hidden)]
pub mod routes;
#[doc(hidden)]
pub mod service;

use std::future::Future;

use acorn_store::Store;
use tokio::net::TcpListener;

pub use acorn_study::collect::Patience;
pub use router::open_api;
pub use service::alerts::{AlertSettings, MailServer, Secrecy};

/// Serves until `shutdown` completes, then lets running requests finish; gauges that speak lines are listened to where there is a
/// listener for them. Those who are to know of trouble are told of it.
/// `names` are those by which other machines may call it.
///
/// # Errors
/// Those of the listener.
pub async fn serve(
    listener: TcpListener,
    gauges: Option<TcpListener>,
    store: Store,
    alerts: AlertSettings,
    names: Vec<String>,
    shutdown: impl Future<Output = ()> + Send + 'static,
) -> std::io::Result<()> {
    let state = service::App::new(store.clone());
    state.answers.briefs.read(&store).await;
    let keeping = tokio::spawn(state.answers.briefs.clone().keep_on(store.clone(), state.live.clone()));
    let live = state.live.clone();
    let gauges = gauges.map(|gauges| tokio::spawn(service::gauge_lines::listen(gauges, state.readings.clone())));
    let watching = tokio::spawn(service::alerts::watch(state.clone(), alerts));
    let following = tokio::spawn(service::following::follow(state.clone()));
    let stopping = async move {
        shutdown.await;
        // Open event streams would keep the server from ever stopping.
        live.close();
    };
    connections::serve(listener, router::router(state, names.into()), stopping).await;
    gauges.inspect(tokio::task::JoinHandle::abort);
    watching.abort();
    following.abort();
    // What is new of the last answers is kept before the store closes.
    let _ = keeping.await;
    store.close().await;
    Ok(())
}
