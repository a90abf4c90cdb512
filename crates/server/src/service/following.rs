//! Keeps tables in step with the tables they were made of.

use acorn_store::{Change, StoreError};

use crate::service::App;
use crate::service::ServiceError;
use crate::service::now;
use crate::service::reshaping::{Made, made_of, table_of};

/// Makes anew what has fallen behind, from the start on and after each change, until the service stops. What was missed while it was
/// down is found by the revisions that each table was made at.
pub async fn follow(app: App) {
    let mut changes = app.live.listen();
    loop {
        if let Err(error) = catch_up(&app).await {
            // Such as a full disk: the next change tries again.
            tracing::warn!("tables that follow others wait: {error}");
        }
        if changes.next().await.is_none() {
            return;
        }
    }
}

/// Makes every table anew that is behind, and those that follow it.
async fn catch_up(app: &App) -> Result<(), StoreError> {
    loop {
        let behind = app.store.links_behind().await?;
        if behind.is_empty() {
            return Ok(());
        }
        for id in behind {
            let problem = match made_anew(app, id).await {
                // Made, given up or deleted meanwhile.
                Ok(()) | Err(Failed::Store(StoreError::NotFound { .. })) => continue,
                Err(Failed::Store(error @ (StoreError::Database(_) | StoreError::Corrupt(_)))) => return Err(error),
                Err(Failed::Store(error)) => error.to_string(),
                Err(Failed::Made(problem)) => problem,
            };
            app.store.cannot_follow(id, &problem).await?;
        }
    }
}

enum Failed {
    Store(StoreError),
    /// What was made of it cannot be any more, in a sentence.
    Made(String),
}

impl From<StoreError> for Failed {
    fn from(error: StoreError) -> Failed {
        Failed::Store(error)
    }
}

async fn made_anew(app: &App, id: i64) -> Result<(), Failed> {
    let link = app.store.link(id).await?;
    let Made { from, with, made } = made_of(app, &link).await.map_err(|error: ServiceError| Failed::Made(error.problem.detail))?;
    let seen = (from.revision, with.map(|with| with.revision));
    let change = Change { actor: "link", at: now() };
    app.store.follow(id, &table_of(made.columns), link.how.keys(), seen, &change).await?;
    Ok(())
}
