//! Connections: how many there may be, and how long each may take to say what it wants.

use std::sync::Arc;
use std::time::Duration;

use axum::Router;
use axum::extract::Request;
use hyper::body::Incoming;
use hyper::server::conn::http1;
use hyper::service::service_fn;
use hyper_util::rt::{TokioIo, TokioTimer};
use hyper_util::server::graceful::GracefulShutdown;
use tokio::net::TcpListener;
use tokio::sync::Semaphore;
use tower::Service;

use crate::bounds::{CONNECTIONS_MOST, HEAD_MS};

/// Serves until `stopping` completes, then lets running requests finish. Beyond the bound a connection waits to be taken.
pub async fn serve(listener: TcpListener, router: Router, stopping: impl Future<Output = ()>) {
    let places = Arc::new(Semaphore::new(CONNECTIONS_MOST));
    let mut http = http1::Builder::new();
    http.timer(TokioTimer::new()).header_read_timeout(Duration::from_millis(HEAD_MS));
    let graceful = GracefulShutdown::new();
    let mut stopping = std::pin::pin!(stopping);
    loop {
        let taken = async {
            let place = places.clone().acquire_owned().await.expect("the semaphore is never closed");
            (listener.accept().await, place)
        };
        let (accepted, place) = tokio::select! {
            taken = taken => taken,
            () = &mut stopping => break,
        };
        let Ok((stream, _)) = accepted else {
            // Such as no file left to open; it passes when others close.
            tokio::time::sleep(Duration::from_millis(100)).await;
            continue;
        };
        // An answer is not kept back for more to send with it; where that cannot be said it is only slower.
        stream.set_nodelay(true).ok();
        let router = router.clone();
        let answer = service_fn(move |request: Request<Incoming>| router.clone().call(request));
        let connection = graceful.watch(http.serve_connection(TokioIo::new(stream), answer));
        tokio::spawn(async move {
            // A connection that breaks is the other side's matter.
            connection.await.ok();
            drop(place);
        });
    }
    drop(listener);
    graceful.shutdown().await;
}
