//! Computed answers, each worked out once for a revision of the data and shared by everyone who asks.

use std::sync::Arc;

use acorn_core::frame::Frame;
use acorn_core::methods::{self, Computed};
use acorn_core::study::{Cancel, DataSource, RoleColumns, Spec, StudyError};
use acorn_core::summary::{ColumnSummary, summarise};
use acorn_store::{Dataset, Store, StoredColumn};
use axum::http::StatusCode;
use moka::future::Cache;

use crate::bounds::{ANSWER_BYTES, SUMMARIES_KEPT};
use crate::error::ApiError;

/// What an answer depends on: the dataset, the revisions of the columns that it reads, and the question.
type Key = (Option<i64>, Vec<(i64, i64)>, String);

/// The answers kept, newest use first.
#[derive(Clone)]
pub struct Answers {
    store: Store,
    computed: Cache<Key, Arc<Computed>>,
    summaries: Cache<(i64, i64), Arc<ColumnSummary>>,
}

/// Why an answer did not come about.
#[derive(Clone)]
enum Failed {
    /// The columns were changed after their revisions had been read.
    Moved,
    Refused(ApiError),
}

impl<E: Into<ApiError>> From<E> for Failed {
    fn from(error: E) -> Failed {
        Failed::Refused(error.into())
    }
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
        let weigh = |(_, columns, question): &Key, computed: &Arc<Computed>| {
            u32::try_from(computed.bytes() + 16 * columns.len() + question.len()).unwrap_or(u32::MAX)
        };
        let computed = Cache::builder().max_capacity(ANSWER_BYTES).weigher(weigh).build();
        Answers { store, computed, summaries: Cache::new(SUMMARIES_KEPT) }
    }

    /// The answer to a specification about a stored dataset, typed columns or nothing but its options. However many ask, it is
    /// computed once.
    pub async fn answer(&self, spec: &Spec) -> Result<Arc<Computed>, ApiError> {
        match &spec.data {
            Some(DataSource { dataset: Some(id), columns: None, file: None }) => self.of_dataset(*id, spec).await,
            None | Some(DataSource { columns: Some(_), dataset: None, file: None }) => self.typed(spec).await,
            Some(DataSource { file: Some(_), .. }) => Err(StudyError::NoData { problem: "the server reads no files".into() }.into()),
            _ => Err(StudyError::NoData { problem: "the specification names no source of data, or more than one".into() }.into()),
        }
    }

    async fn typed(&self, spec: &Spec) -> Result<Arc<Computed>, ApiError> {
        let key = (None, Vec::new(), serde_json::to_string(spec).unwrap_or_default());
        let spec = spec.clone();
        let work = compute(move |cancel| {
            let columns = spec.data.as_ref().and_then(|data| data.columns.as_ref());
            let frame = columns.map_or_else(|| Ok(Frame::empty()), Frame::from_json)?;
            methods::compute(&frame, &spec, cancel).map(Arc::new)
        });
        self.computed.try_get_with(key, work).await.map_err(|error: Arc<ApiError>| (*error).clone())
    }

    async fn of_dataset(&self, id: i64, spec: &Spec) -> Result<Arc<Computed>, ApiError> {
        let bare = Spec { data: None, ..spec.clone() };
        let wanted: Vec<String> = bare.roles.values().flat_map(RoleColumns::names).cloned().collect();
        let reads = |column: &StoredColumn| wanted.contains(&column.name);
        let revisions =
            |dataset: &Dataset| dataset.columns.iter().filter(|column| reads(column)).map(|column| (column.id, column.revision)).collect();
        loop {
            let columns: Vec<(i64, i64)> = revisions(&self.store.dataset(id).await?);
            let key = (Some(id), columns.clone(), serde_json::to_string(&bare).unwrap_or_default());
            let question = bare.clone();
            let work = async {
                let (dataset, frame) = self.store.frame(id, reads).await?;
                // The revisions that count are those of the data read.
                if revisions(&dataset) != columns {
                    return Err(Failed::Moved);
                }
                Ok(compute(move |cancel| methods::compute(&frame, &question, cancel)).await.map(Arc::new)?)
            };
            match self.computed.try_get_with(key, work).await.map_err(|failed: Arc<Failed>| (*failed).clone()) {
                Ok(computed) => return Ok(computed),
                Err(Failed::Refused(error)) => return Err(error),
                Err(Failed::Moved) => {}
            }
        }
    }

    /// What stands in each column of a dataset; only what changed is looked at anew.
    pub async fn summaries(&self, dataset: &Dataset) -> Result<Vec<Arc<ColumnSummary>>, ApiError> {
        let mut all = Vec::with_capacity(dataset.columns.len());
        for column in &dataset.columns {
            all.push(self.summary(dataset.id, column).await?);
        }
        Ok(all)
    }

    /// What stands in a column.
    pub async fn summary(&self, dataset_id: i64, column: &StoredColumn) -> Result<Arc<ColumnSummary>, ApiError> {
        let work = async {
            let (_, frame) = self.store.frame(dataset_id, |other| other.id == column.id).await?;
            compute(move |_| Ok(Arc::new(frame.columns().first().map(summarise).unwrap_or_default()))).await
        };
        self.summaries.try_get_with((column.id, column.revision), work).await.map_err(|error: Arc<ApiError>| (*error).clone())
    }
}
