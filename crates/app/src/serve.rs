//! `acorn-dial serve`: opens the store, listens, stops gracefully.

use std::net::SocketAddr;
use std::path::Path;

use acorn_store::Store;
use anyhow::Context;
use tokio::net::TcpListener;
use tokio::signal::unix::{SignalKind, signal};
use tracing_subscriber::EnvFilter;

use crate::demo;

/// Serves until SIGTERM or Ctrl C.
pub fn serve(data: &Path, listen: SocketAddr, gauges: Option<SocketAddr>, with_demo: bool) -> anyhow::Result<()> {
    let filter = EnvFilter::try_from_default_env().unwrap_or_else(|_| EnvFilter::new("warn"));
    tracing_subscriber::fmt().with_env_filter(filter).with_writer(std::io::stderr).init();
    std::fs::create_dir_all(data).with_context(|| format!("the folder {} cannot be made", data.display()))?;
    let runtime = tokio::runtime::Builder::new_multi_thread().enable_all().build()?;
    runtime.block_on(async {
        let file = data.join("acorn.sqlite");
        let store = Store::open(&file).await.with_context(|| format!("{} cannot be opened", file.display()))?;
        if with_demo {
            demo::load(&store).await.context("the demo data cannot be loaded")?;
        }
        let listener = TcpListener::bind(listen)
            .await
            .with_context(|| format!("{listen} cannot be listened on; is it in use? Choose another with --listen"))?;
        let gauges = match gauges {
            Some(address) => {
                let bound = TcpListener::bind(address).await;
                Some(bound.with_context(|| format!("{address} cannot be listened on; is it in use? Choose another with --gauges"))?)
            }
            None => None,
        };
        let kept = data.canonicalize().unwrap_or_else(|_| data.to_owned());
        println!("Acorn Dial is at http://{}", listener.local_addr()?);
        println!("Data are kept in {}", kept.display());
        if let Some(gauges) = &gauges {
            println!("Gauges are heard at {}", gauges.local_addr()?);
        }
        acorn_server::serve(listener, gauges, store, asked_to_stop()).await?;
        Ok(())
    })
}

async fn asked_to_stop() {
    let terminate = async {
        match signal(SignalKind::terminate()) {
            Ok(mut stream) => drop(stream.recv().await),
            Err(_) => std::future::pending().await,
        }
    };
    tokio::select! {
        () = terminate => {}
        _ = tokio::signal::ctrl_c() => {}
    }
}
