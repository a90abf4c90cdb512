//! Computed answers, each worked out once for a revision of the data and shared by everyone who asks.

use std::sync::Arc;

use acorn_core::frame::Frame;
use acorn_core::methods;
use acorn_core::study::{Cancel, Computed, DataSource, RoleColumns, Spec, StudyError};
use acorn_core::summary::{ColumnSummary, summarise};
use acorn_store::{Dataset, Store};
use axum::http::StatusCode;
use moka::future::Cache;

use crate::bounds::{ANSWER_BYTES, SUMMARIES_KEPT};
use crate::error::ApiError;

type Key = (i64, i64, String);

/// The answers kept, newest use first.
#[derive(Clone)]
pub struct Answers {
    store: Store,
    computed: Cache<Key, Arc<Computed>>,
    summaries: Cache<(i64, i64), Arc<Vec<ColumnSummary>>>,
}

/// Stops a computation when nobody waits for it any more.
struct StopOnDrop(Cancel);

impl Drop for StopOnDrop {
    fn drop(&mut self) {
        self.0.stop();
    }
}

/// Runs a computation off the async threads; dropping the future stops it.
pub async fn compute<T: Send + 'static>(work: impl FnOnce(&Cancel) -> Result<T, StudyError> + Send + 'static) -> Result<T, ApiError> {
    let cancel = Cancel::default();
    let _stop = StopOnDrop(cancel.clone());
    let done = tokio::task::spawn_blocking(move || work(&cancel)).await;
    let failed = |_| {
        ApiError::new(
            StatusCode::INTERNAL_SERVER_ERROR,
            "computation-failed",
            "the computation failed unexpectedly",
            "Change the statement or the data, and report this.",
        )
    };
    Ok(done.map_err(failed)??)
}

impl Answers {
    pub fn new(store: Store) -> Answers {
        // An answer about a million values weighs megabytes, one about a hundred next to nothing.
        let weigh = |_: &Key, computed: &Arc<Computed>| u32::try_from(computed.numbers.bytes() + 1024).unwrap_or(u32::MAX);
        let computed = Cache::builder().max_capacity(ANSWER_BYTES).weigher(weigh).build();
        Answers { store, computed, summaries: Cache::new(SUMMARIES_KEPT) }
    }

    /// The answer to a specification about a stored dataset or typed columns.
    pub async fn answer(&self, spec: &Spec) -> Result<Arc<Computed>, ApiError> {
        match &spec.data {
            Some(DataSource { dataset: Some(id), columns: None, file: None }) => self.of_dataset(*id, spec).await,
            Some(DataSource { columns: Some(columns), dataset: None, file: None }) => {
                let (columns, spec) = (columns.clone(), spec.clone());
                let work = move |cancel: &Cancel| methods::compute(&Frame::from_json(&columns)?, &spec, cancel);
                compute(work).await.map(Arc::new)
            }
            // Everything is typed in the options.
            None => {
                let spec = spec.clone();
                compute(move |cancel| methods::compute(&Frame::empty(), &spec, cancel)).await.map(Arc::new)
            }
            Some(DataSource { file: Some(_), .. }) => Err(StudyError::NoData { problem: "the server reads no files".into() }.into()),
            _ => Err(StudyError::NoData { problem: "the specification names no source of data, or more than one".into() }.into()),
        }
    }

    async fn of_dataset(&self, id: i64, spec: &Spec) -> Result<Arc<Computed>, ApiError> {
        let revision = self.store.dataset(id).await?.revision;
        let bare = Spec { data: None, ..spec.clone() };
        let key = (id, revision, serde_json::to_string(&bare).unwrap_or_default());
        let work = async {
            let wanted: Vec<String> = bare.roles.values().flat_map(names).collect();
            let (_, frame) = self.store.frame(id, |column| wanted.contains(&column.name)).await?;
            compute(move |cancel| methods::compute(&frame, &bare, cancel)).await.map(Arc::new)
        };
        self.computed.try_get_with(key, work).await.map_err(|error: Arc<ApiError>| (*error).clone())
    }

    /// What stands in each column of a dataset.
    pub async fn summaries(&self, dataset: &Dataset) -> Result<Arc<Vec<ColumnSummary>>, ApiError> {
        let id = dataset.id;
        let work = async {
            let (_, frame) = self.store.frame(id, |_| true).await?;
            compute(move |_| Ok(Arc::new(frame.columns().iter().map(summarise).collect::<Vec<_>>()))).await
        };
        self.summaries.try_get_with((id, dataset.revision), work).await.map_err(|error: Arc<ApiError>| (*error).clone())
    }
}

fn names(columns: &RoleColumns) -> Vec<String> {
    match columns {
        RoleColumns::One(name) => vec![name.clone()],
        RoleColumns::Many(names) => names.clone(),
    }
}
