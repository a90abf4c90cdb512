//! Computed answers, each worked out once for a revision of the data and shared by everyone who asks.

use std::collections::{BTreeSet, HashMap};
use std::sync::Arc;
use std::time::{Duration, Instant};

use acorn_core::methods::{self, Computed};
use acorn_data::frame::Frame;
use acorn_data::summary::{ColumnSummary, summarise};
use acorn_store::{Dataset, Store, StoreError, StoredColumn};
use acorn_study::dial::Dial;
use acorn_study::{Cancel, DataSource, Spec, StudyError, Verdict};
use moka::future::Cache;

use crate::bounds::{ANSWER_BYTES, QUICK_MS, SUMMARIES_KEPT};
use crate::service::briefs::{Brief, Briefs};
use crate::service::jobs::{Job, JobSubject, Jobs};
use crate::service::live::Live;
use crate::service::recompute_queue::RecomputeQueue;
use crate::service::{ErrorKind, ServiceError};

/// What is asked: the dataset, and the specification in JSON.
#[derive(Clone, Debug, PartialEq, Eq, Hash)]
pub struct Question {
    dataset: Option<i64>,
    words: String,
}

/// What an answer depends on: the question, and the columns that it reads with their revisions.
#[derive(Clone, Debug, PartialEq, Eq, Hash)]
pub struct Key {
    question: Question,
    columns: Vec<(i64, i64)>,
}

impl Question {
    /// By which it is known over a restart.
    fn text(&self) -> String {
        format!("{} {}", self.dataset.unwrap_or_default(), self.words)
    }
}

impl Key {
    /// The columns that it reads with their revisions, and the version that reads them: another may answer otherwise.
    fn rests_on(&self) -> String {
        format!("{} {:?}", env!("CARGO_PKG_VERSION"), self.columns)
    }
}

/// The answers kept, newest use first.
#[derive(Clone)]
pub struct Answers {
    pub store: Store,
    pub computed: Cache<Key, Arc<Computed>>,
    /// The last answer to each question, whatever became of its columns since.
    last: Cache<Question, Arc<Last>>,
    /// Questions to be answered anew though nobody waits for it.
    pub queue: RecomputeQueue<Question, Spec>,
    /// What is being worked out just now.
    pub jobs: Jobs<Key>,
    /// What the Wall and the list of signals show, over a restart.
    pub briefs: Briefs,
    summaries: Cache<(i64, i64), Arc<ColumnSummary>>,
}

/// The last answer to a question.
struct Last {
    columns: Vec<(i64, i64)>,
    found: Result<Arc<Computed>, ServiceError>,
    took: Duration,
}

/// What is shown of an answer without its figure.
pub struct Glance {
    pub found: Result<Seen, ServiceError>,
    /// Whether its columns have changed since; it is being worked out anew.
    pub stale: bool,
}

/// An answer, or what the last run left of it.
pub enum Seen {
    Answer(Arc<Computed>),
    Brief(Arc<Brief>),
}

impl Seen {
    pub fn verdict(&self) -> &Verdict {
        match self {
            Seen::Answer(computed) => &computed.verdict,
            Seen::Brief(brief) => &brief.verdict,
        }
    }

    pub fn dial(&self) -> Option<&Dial> {
        match self {
            Seen::Answer(computed) => computed.dial.as_ref(),
            Seen::Brief(brief) => brief.dial.as_ref(),
        }
    }
}

/// An answer that is at hand.
pub struct CachedAnswer {
    pub found: Result<Arc<Computed>, ServiceError>,
    /// Whether its columns have changed since; it is being worked out anew.
    pub stale: bool,
}

/// Who asks for what is at hand.
#[derive(Clone, Copy, Debug, PartialEq, Eq)]
pub enum For {
    /// A page about one study: it waits unless others are in line.
    One,
    /// A page about many: it waits for what is quick, and for nothing when others are in line.
    Many,
}

/// Why an answer did not come about.
#[derive(Clone)]
enum Failed {
    /// The columns were changed after their revisions had been read.
    Moved,
    Refused(ServiceError),
}

impl<E: Into<ServiceError>> From<E> for Failed {
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
pub async fn compute<T: Send + 'static>(work: impl FnOnce(&Cancel) -> Result<T, StudyError> + Send + 'static) -> Result<T, ServiceError> {
    stoppable(Cancel::default(), work).await
}

async fn stoppable<T: Send + 'static>(
    cancel: Cancel,
    work: impl FnOnce(&Cancel) -> Result<T, StudyError> + Send + 'static,
) -> Result<T, ServiceError> {
    let _stop = StopOnDrop(cancel.clone());
    let done = tokio::task::spawn_blocking(move || work(&cancel)).await;
    let failed = |_| {
        ServiceError::new(
            ErrorKind::Failed,
            "computation-failed",
            "the computation failed unexpectedly",
            "Change the statement or the data, and report this.",
        )
    };
    Ok(done.map_err(failed)??)
}

/// The stored dataset that a question is about; `None` when its columns or numbers are typed.
fn own(spec: &Spec) -> Result<Option<i64>, StudyError> {
    match &spec.data {
        Some(DataSource::Dataset(id)) => Ok(Some(*id)),
        None | Some(DataSource::Columns(_)) => Ok(None),
        Some(DataSource::File(_)) => Err(StudyError::NoData { problem: "the server reads no files".into() }),
    }
}

/// The other datasets that pieces of a question are taken from.
fn foreign_datasets(spec: &Spec) -> BTreeSet<i64> {
    spec.foreign_columns().map(|(dataset, _)| dataset).collect()
}

/// The datasets that a question reads, of those that are there.
fn read_by<'d>(spec: &Spec, datasets: &HashMap<i64, &'d Dataset>) -> impl Iterator<Item = &'d Dataset> {
    let own = spec.data.as_ref().and_then(DataSource::dataset);
    let found: Vec<&'d Dataset> = own.into_iter().chain(foreign_datasets(spec)).filter_map(|id| datasets.get(&id).copied()).collect();
    found.into_iter()
}

/// What was found, or nothing when it is gone.
fn there<T>(found: Result<T, StoreError>) -> Result<Option<T>, StoreError> {
    match found {
        Err(StoreError::NotFound { .. }) => Ok(None),
        found => found.map(Some),
    }
}

/// What an answer depends on, the datasets being as they are given.
pub fn key<'d>(spec: &Spec, datasets: impl IntoIterator<Item = &'d Dataset>) -> Key {
    let own = spec.data.as_ref().and_then(DataSource::dataset);
    let reads = |dataset: &Dataset, column: &StoredColumn| match own == Some(dataset.id) {
        true => methods::reads(spec, &column.name, column.kind, dataset.row_count as usize),
        false => spec.foreign_columns().any(|(id, name)| id == dataset.id && *name == column.name),
    };
    let of_dataset = |dataset: &Dataset| {
        dataset.columns.iter().filter(|column| reads(dataset, column)).map(|one| (one.id, one.revision)).collect::<Vec<_>>()
    };
    let words = match own {
        Some(_) => serde_json::to_string(&Spec { data: None, ..spec.clone() }),
        None => serde_json::to_string(spec),
    };
    let question = Question { dataset: own, words: words.unwrap_or_default() };
    Key { question, columns: datasets.into_iter().flat_map(of_dataset).collect() }
}

impl Answers {
    pub fn new(store: Store, live: Live) -> Answers {
        // An answer about a million values weighs megabytes, one about a hundred next to nothing.
        let weight = |question: &Question, columns: &[(i64, i64)], computed: Option<&Arc<Computed>>| {
            let bytes = computed.map_or(0, |computed| computed.bytes()) + 16 * columns.len() + question.words.len();
            u32::try_from(bytes).unwrap_or(u32::MAX)
        };
        let computed = Cache::builder().max_capacity(ANSWER_BYTES);
        let computed = computed.weigher(move |key: &Key, computed| weight(&key.question, &key.columns, Some(computed))).build();
        let last = Cache::builder().max_capacity(ANSWER_BYTES);
        let last = last.weigher(move |question, last: &Arc<Last>| weight(question, &last.columns, last.found.as_ref().ok())).build();
        // Half of the machine is left to those who wait.
        let at_once = std::thread::available_parallelism().map_or(1, |cores| (cores.get() / 2).max(1));
        Answers {
            store,
            computed,
            last,
            queue: RecomputeQueue::new(at_once),
            jobs: Jobs::new(live),
            summaries: Cache::new(SUMMARIES_KEPT),
            briefs: Briefs::default(),
        }
    }

    /// The answer to a specification about a stored dataset, typed columns or nothing but its options. However many ask, it is
    /// computed once.
    pub async fn answer(&self, spec: &Spec) -> Result<Arc<Computed>, ServiceError> {
        loop {
            let key = key(spec, &self.datasets(spec).await?);
            let work = async {
                let (listed, cancel) = self.jobs.start(&key, JobSubject { method: spec.method.clone(), dataset_id: key.question.dataset });
                let began = Instant::now();
                let (datasets, frame) = self.data(spec).await?;
                // The revisions that count are those of the data read.
                if self::key(spec, &datasets) != key {
                    return Err(Failed::Moved);
                }
                let question = Spec { data: None, ..spec.clone() };
                let found = stoppable(cancel, move |cancel| methods::compute(&frame, &question, cancel)).await.map(Arc::new);
                drop(listed);
                self.keep(&key, &found, began.elapsed()).await;
                Ok(found?)
            };
            match self.computed.try_get_with(key.clone(), work).await.map_err(|failed: Arc<Failed>| (*failed).clone()) {
                Ok(computed) => return Ok(computed),
                Err(Failed::Refused(error)) => return Err(error),
                Err(Failed::Moved) => {}
            }
        }
    }

    /// Keeps the last answer to a question in place of the one before; what says nothing of the question itself, such as that
    /// somebody stopped it, is none.
    async fn keep(&self, key: &Key, found: &Result<Arc<Computed>, ServiceError>, took: Duration) {
        if found.as_ref().is_err_and(|error| !error.is_about_the_question()) {
            return;
        }
        if let Some(last) = self.last.get(&key.question).await.filter(|last| last.columns != key.columns) {
            self.computed.invalidate(&Key { question: key.question.clone(), columns: last.columns.clone() }).await;
        }
        if let Ok(computed) = found
            && key.question.dataset.is_some()
        {
            self.briefs.note(key.question.text(), key.rests_on(), computed.clone());
        }
        let last = Last { columns: key.columns.clone(), found: found.clone(), took };
        self.last.insert(key.question.clone(), Arc::new(last)).await;
    }

    /// The answer at hand where the datasets have just been read: the last one, worked out anew behind the page where its columns have
    /// changed and waiting is not worth while. The first answer to a question is waited for.
    pub async fn at_hand(&self, spec: &Spec, datasets: &HashMap<i64, &Dataset>, waiting: For) -> CachedAnswer {
        let key = key(spec, read_by(spec, datasets));
        let fresh = async || CachedAnswer { found: self.answer(spec).await, stale: false };
        let Some(last) = self.last.get(&key.question).await else { return fresh().await };
        let stale = last.columns != key.columns;
        let others = || !self.queue.is_idle() || !self.jobs.is_idle();
        let waits = match waiting {
            For::One => last.found.is_err() || !others(),
            For::Many => last.took < Duration::from_millis(QUICK_MS) && !others(),
        };
        if stale && waits {
            return fresh().await;
        }
        if stale {
            self.work_out(key.question, spec);
        }
        CachedAnswer { found: last.found.clone(), stale }
    }

    /// What the Wall and the list of signals show of a question: the answer at hand, or right after a restart what the last run left of
    /// it, which is worked out anew behind the page.
    pub async fn glance(&self, spec: &Spec, datasets: &HashMap<i64, &Dataset>) -> Glance {
        let key = self::key(spec, read_by(spec, datasets));
        if self.last.get(&key.question).await.is_none()
            && let Some((brief, holds)) = self.briefs.left(&key.question.text(), &key.rests_on())
        {
            self.work_out(key.question, spec);
            return Glance { found: Ok(Seen::Brief(brief)), stale: !holds };
        }
        let CachedAnswer { found, stale } = self.at_hand(spec, datasets, For::Many).await;
        Glance { found: found.map(Seen::Answer), stale }
    }

    /// Answers a question though nobody waits for it.
    fn work_out(&self, question: Question, spec: &Spec) {
        if self.queue.enqueue(question, spec.clone()) {
            let answers = self.clone();
            tokio::spawn(async move {
                while let Some(spec) = answers.queue.next().await {
                    // An error is kept as an answer is.
                    let _ = answers.answer(&spec).await;
                }
            });
        }
    }

    /// The answer at hand of one study; with `fresh` it is always waited for.
    pub async fn of_one(&self, spec: &Spec, fresh: bool) -> Result<(Arc<Computed>, bool), ServiceError> {
        if fresh {
            return Ok((self.answer(spec).await?, false));
        }
        let datasets = self.datasets(spec).await?;
        let by_id = datasets.iter().map(|dataset| (dataset.id, dataset)).collect();
        let CachedAnswer { found, stale } = self.at_hand(spec, &by_id, For::One).await;
        Ok((found?, stale))
    }

    /// The job that works on the answer to a specification; `None` when none does.
    pub async fn job_of(&self, spec: &Spec) -> Result<Option<Job>, ServiceError> {
        Ok(self.jobs.of(&key(spec, &self.datasets(spec).await?)))
    }

    /// The datasets that a question reads, its own first. One beside it that is gone is passed over: the answer says what it misses.
    async fn datasets(&self, spec: &Spec) -> Result<Vec<Dataset>, ServiceError> {
        let mut datasets = Vec::new();
        if let Some(id) = own(spec)? {
            datasets.push(self.store.dataset(id).await?);
        }
        for id in foreign_datasets(spec) {
            datasets.extend(there(self.store.dataset(id).await)?);
        }
        Ok(datasets)
    }

    /// The data that a question reads, with their datasets as they were at that moment.
    async fn data(&self, spec: &Spec) -> Result<(Vec<Dataset>, Frame), ServiceError> {
        let (mut datasets, frame) = match (own(spec)?, spec.data.as_ref().and_then(DataSource::columns).cloned()) {
            (Some(id), _) => {
                let rows = self.store.dataset(id).await?.row_count as usize;
                let reads = |column: &StoredColumn| methods::reads(spec, &column.name, column.kind, rows);
                let (dataset, frame) = self.store.frame(id, reads).await?;
                (vec![dataset], frame)
            }
            (None, Some(columns)) => (Vec::new(), compute(move |_| Ok(Frame::from_json(&columns)?)).await?),
            (None, None) => (Vec::new(), Frame::empty()),
        };
        let mut columns = Vec::new();
        for id in foreign_datasets(spec) {
            let wanted = |column: &StoredColumn| spec.foreign_columns().any(|(dataset, name)| dataset == id && *name == column.name);
            if let Some((dataset, frame)) = there(self.store.frame(id, wanted).await)? {
                columns.extend(frame.columns().iter().map(|column| (id, column.clone())));
                datasets.push(dataset);
            }
        }
        Ok((datasets, frame.with_foreign_columns(columns)))
    }

    /// What stands in each column of a dataset; only what changed is looked at anew.
    pub async fn summaries(&self, dataset: &Dataset) -> Result<Vec<Arc<ColumnSummary>>, ServiceError> {
        let mut all = Vec::with_capacity(dataset.columns.len());
        for column in &dataset.columns {
            all.push(self.summary(dataset.id, column).await?);
        }
        Ok(all)
    }

    /// What stands in a column.
    pub async fn summary(&self, dataset_id: i64, column: &StoredColumn) -> Result<Arc<ColumnSummary>, ServiceError> {
        let work = async {
            let (_, frame) = self.store.frame(dataset_id, |other| other.id == column.id).await?;
            compute(move |_| Ok(Arc::new(frame.columns().first().map(summarise).unwrap_or_default()))).await
        };
        self.summaries.try_get_with((column.id, column.revision), work).await.map_err(|error: Arc<ServiceError>| (*error).clone())
    }
}
