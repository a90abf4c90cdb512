//! Studies: saved questions about a dataset, about a table of their own, or about nothing but typed numbers.

use std::collections::{BTreeMap, BTreeSet};

use acorn_data::frame::Frame;
use acorn_formats::{Table, TableColumn};
use acorn_study::{DataSource, Spec, StudyError, TypedColumns};
use serde::{Deserialize, Serialize};
use sqlx::{FromRow, SqliteConnection};

use crate::datasets::{self, NewDataset, checked_name};
use crate::history::{self, About, Change, HistoryEvent};
use crate::{Result, Store, StoreError, statement};

/// Marks of a figure by name, and whether they show.
pub type Shown = BTreeMap<String, bool>;

/// Most marks of a figure that come and go.
const SHOWN_MOST: usize = 100;
/// Longest id of a change, in characters.
const CHANGE_ID_CHARS: usize = 64;

/// A saved question.
#[derive(Clone, Debug, PartialEq, Serialize, utoipa::ToSchema)]
pub struct Study {
    /// Its number.
    pub id: i64,
    /// The dataset it is about, which may be a table of its own; absent when it is about typed numbers.
    pub dataset_id: Option<i64>,
    /// The name a person gave it; else it goes by its question.
    pub name: Option<String>,
    /// The question.
    pub spec: Spec,
    /// Marks of its figure that come and go, where they are not as usual.
    pub shown: Shown,
    /// Grows with every change.
    pub revision: i64,
    /// When it was first asked, in milliseconds since 1970.
    pub created_at: i64,
    /// When it was last changed.
    pub updated_at: i64,
    /// The id that its last change was sent with; absent when that had none.
    pub last_change: Option<String>,
}

/// A question about to be saved.
#[derive(Clone, Debug, Deserialize, utoipa::ToSchema)]
pub struct NewStudy {
    /// The name, if it has one.
    #[serde(default)]
    pub name: Option<String>,
    /// The question. Its data name a dataset, or are columns that become a table of the study's own, or are absent.
    pub spec: Spec,
}

/// Changes to a study; what is absent stays.
#[derive(Clone, Debug, Default, Deserialize, utoipa::ToSchema)]
pub struct StudyChange {
    /// The revision that the person saw.
    pub revision: i64,
    /// Another name; empty to go by the question again.
    #[serde(default)]
    pub name: Option<String>,
    /// Another statement.
    #[serde(default)]
    pub spec: Option<Spec>,
    /// Other marks that show.
    #[serde(default)]
    pub shown: Option<Shown>,
    /// An id for this change, of at most 64 characters, by which its sender knows it again in `last_change`.
    #[serde(default)]
    pub change_id: Option<String>,
}

#[derive(FromRow)]
struct StudyRow {
    id: i64,
    dataset_id: Option<i64>,
    name: Option<String>,
    spec: String,
    shown: String,
    revision: i64,
    created_at: i64,
    updated_at: i64,
    last_change: Option<String>,
    /// The rows left out by findings, as a JSON list.
    omitted: String,
    /// The columns that it can name, as a JSON list.
    columns: String,
}

impl StudyRow {
    fn into_study(self) -> Result<Study> {
        let StudyRow { id, dataset_id, name, spec, shown, revision, created_at, updated_at, last_change, omitted, columns } = self;
        let mut spec = statement::read(&spec, &serde_json::from_str(&columns)?)?;
        spec.omit = serde_json::from_str(&omitted)?;
        spec.data = dataset_id.map(DataSource::Dataset);
        Ok(Study { id, dataset_id, name, spec, shown: serde_json::from_str(&shown)?, revision, created_at, updated_at, last_change })
    }
}

const FIELDS: &str = "SELECT id, dataset_id, name, spec, shown, revision, created_at, updated_at, last_change, (SELECT json_group_array(DISTINCT value) FROM \
    finding, json_each(finding.row_ids) WHERE study_id = study.id AND left_out) AS omitted, (SELECT json_group_array(json_array(\
    c.dataset_id, c.id, c.name)) FROM dataset_column AS c WHERE NOT c.gone AND c.dataset_id IN (SELECT study.dataset_id UNION SELECT value FROM json_tree(\
    iif(instr(study.spec, '\"dataset\":'), study.spec, NULL), '$.options') WHERE key = 'dataset')) AS columns FROM study";

/// Refuses a statement that leaves out other rows than the findings of its study do.
fn check_omitted(spec: &Spec, found: &[i64]) -> Result<()> {
    let set = |rows: &[i64]| rows.iter().copied().collect::<BTreeSet<i64>>();
    if set(&spec.omit) == set(found) {
        return Ok(());
    }
    Err(StoreError::BadFinding { problem: "rows are left out of the limits on a signal, with its cause, not in the statement".into() })
}

impl Store {
    /// Saves a question. Typed columns become a table of its own.
    ///
    /// # Errors
    /// [`StoreError::NotFound`] when the dataset is gone, [`StoreError::BadFinding`] when rows are left out without a cause,
    /// [`StoreError::BadStatement`] when its data or columns are not there.
    pub async fn create_study(&self, new: &NewStudy, change: &Change<'_>) -> Result<Study> {
        let mut transaction = self.begin().await?;
        let id = insert(&mut transaction, new, change).await?;
        transaction.commit().await?;
        self.study(id).await
    }

    /// All studies, the newest change first.
    ///
    /// # Errors
    /// The database's own.
    pub async fn studies(&self) -> Result<Vec<Study>> {
        let query = sqlx::AssertSqlSafe(format!("{FIELDS} ORDER BY updated_at DESC, id DESC"));
        let rows: Vec<StudyRow> = sqlx::query_as(query).fetch_all(&self.readers).await?;
        rows.into_iter().map(StudyRow::into_study).collect()
    }

    /// One study.
    ///
    /// # Errors
    /// [`StoreError::NotFound`].
    pub async fn study(&self, id: i64) -> Result<Study> {
        let mut connection = self.readers.acquire().await?;
        get(&mut connection, id).await
    }

    /// Changes the name or the statement of a study, or what its figure shows.
    ///
    /// # Errors
    /// [`StoreError::NotFound`], [`StoreError::Conflict`], [`StoreError::BadName`], [`StoreError::BadFinding`],
    /// [`StoreError::BadStatement`].
    pub async fn change_study(&self, id: i64, wanted: &StudyChange, change: &Change<'_>) -> Result<Study> {
        if wanted.change_id.as_ref().is_some_and(|id| id.chars().count() > CHANGE_ID_CHARS) {
            return Err(StoreError::BadStatement { problem: format!("the id of a change has {CHANGE_ID_CHARS} characters at most") });
        }
        let mut transaction = self.begin().await?;
        let before = get_at(&mut transaction, id, wanted.revision).await?;
        let own = before.dataset_id;
        let name = match &wanted.name {
            Some(name) if name.trim().is_empty() => None,
            Some(name) => Some(checked_name(name)?),
            None => before.name.clone(),
        };
        let columns = statement::columns_for(&mut transaction, own, &before.spec).await?;
        let was = statement::write(&before.spec, own, &columns)?;
        let is = match &wanted.spec {
            Some(spec) => {
                check_omitted(spec, &before.spec.omit)?;
                let columns = statement::columns_for(&mut transaction, own, spec).await?;
                statement::write(spec, own, &columns)?
            }
            None => was.clone(),
        };
        let mut events = Vec::new();
        if name != before.name {
            set_name(&mut transaction, id, name.as_deref()).await?;
            events.push(HistoryEvent::StudyName { before: before.name, after: name });
        }
        if is != was {
            set_statement(&mut transaction, id, &is).await?;
            events.push(HistoryEvent::Statement { before: serde_json::from_str(&was)?, after: serde_json::from_str(&is)? });
        }
        if let Some(shown) = wanted.shown.as_ref().filter(|shown| **shown != before.shown) {
            set_shown(&mut transaction, id, checked_shown(shown)?).await?;
            events.push(HistoryEvent::Shown { before: before.shown.clone(), after: shown.clone() });
        }
        if !events.is_empty() {
            advance(&mut transaction, id, wanted.change_id.as_deref(), change).await?;
        }
        for event in &events {
            history::record(&mut transaction, change, About::Study(id, own), event).await?;
        }
        transaction.commit().await?;
        self.study(id).await
    }

    /// Deletes a study, and its table when that is its own.
    ///
    /// # Errors
    /// [`StoreError::NotFound`].
    pub async fn delete_study(&self, id: i64) -> Result<()> {
        let mut transaction = self.begin().await?;
        let table = sqlx::query("DELETE FROM dataset WHERE owned AND id = (SELECT dataset_id FROM study WHERE id = ?)");
        let with_table = table.bind(id).execute(&mut *transaction).await?.rows_affected() > 0;
        let done = sqlx::query("DELETE FROM study WHERE id = ?").bind(id).execute(&mut *transaction).await?;
        if !with_table && done.rows_affected() == 0 {
            return Err(StoreError::NotFound { what: "study", id });
        }
        transaction.commit().await
    }
}

/// Stores a question.
pub(crate) async fn insert(connection: &mut SqliteConnection, new: &NewStudy, change: &Change<'_>) -> Result<i64> {
    check_omitted(&new.spec, &[])?;
    let name = new.name.as_deref().map(checked_name).transpose()?;
    let dataset_id = data_of(connection, new, change).await?;
    let columns = statement::columns_for(connection, dataset_id, &new.spec).await?;
    let spec = statement::write(&new.spec, dataset_id, &columns)?;
    let insert = sqlx::query("INSERT INTO study (dataset_id, name, spec, created_at, updated_at) VALUES (?, ?, ?, ?, ?)");
    let insert = insert.bind(dataset_id).bind(&name).bind(&spec).bind(change.at).bind(change.at);
    let id = insert.execute(&mut *connection).await?.last_insert_rowid();
    let event = HistoryEvent::StudyCreated { after: serde_json::from_str(&spec)? };
    history::record(connection, change, About::Study(id, dataset_id), &event).await?;
    Ok(id)
}

/// The dataset that a new study is about; typed columns are stored as one of its own.
async fn data_of(connection: &mut SqliteConnection, new: &NewStudy, change: &Change<'_>) -> Result<Option<i64>> {
    match &new.spec.data {
        None => Ok(None),
        Some(DataSource::Dataset(id)) => {
            let dataset = datasets::get(connection, *id).await?;
            if dataset.owned {
                return Err(StoreError::BadStatement { problem: "this table belongs to another study".into() });
            }
            Ok(Some(*id))
        }
        Some(DataSource::Columns(TypedColumns(columns))) => {
            let frame =
                Frame::from_json(columns).map_err(|error| StoreError::BadStatement { problem: StudyError::from(error).to_string() })?;
            let column = |column: &acorn_data::frame::Column| TableColumn {
                name: column.name.clone(),
                kind: column.kind,
                unit: None,
                values: column.values.clone(),
            };
            let table = Table { columns: frame.columns().iter().map(column).collect(), rows: frame.rows() };
            let name = new.name.as_deref().unwrap_or("Table of a study");
            datasets::insert(connection, &NewDataset { name, source: "typed", table: &table, infos: &[], gauges: &[] }, true, change)
                .await
                .map(Some)
        }
        Some(DataSource::File(_)) => {
            Err(StoreError::BadStatement { problem: "a saved study takes a dataset, typed columns or nothing".into() })
        }
    }
}

pub(crate) async fn get(connection: &mut SqliteConnection, id: i64) -> Result<Study> {
    let query = sqlx::AssertSqlSafe(format!("{FIELDS} WHERE id = ?"));
    let row: Option<StudyRow> = sqlx::query_as(query).bind(id).fetch_optional(connection).await?;
    row.ok_or(StoreError::NotFound { what: "study", id })?.into_study()
}

/// A study that is at a revision.
pub(crate) async fn get_at(connection: &mut SqliteConnection, id: i64, revision: i64) -> Result<Study> {
    let study = get(connection, id).await?;
    match study.revision == revision {
        true => Ok(study),
        false => Err(StoreError::Conflict { what: "study", current: study.revision, given: revision }),
    }
}

/// Moves a study to its next revision, through a change that may have an id.
pub(crate) async fn advance(connection: &mut SqliteConnection, id: i64, change_id: Option<&str>, change: &Change<'_>) -> Result<()> {
    let update = sqlx::query("UPDATE study SET revision = revision + 1, updated_at = ?, last_change = ? WHERE id = ?");
    update.bind(change.at).bind(change_id).bind(id).execute(connection).await?;
    Ok(())
}

pub(crate) async fn set_name(connection: &mut SqliteConnection, id: i64, name: Option<&str>) -> Result<()> {
    sqlx::query("UPDATE study SET name = ? WHERE id = ?").bind(name).bind(id).execute(connection).await?;
    Ok(())
}

fn checked_shown(shown: &Shown) -> Result<&Shown> {
    if shown.len() <= SHOWN_MOST && shown.keys().all(|mark| checked_name(mark).is_ok()) {
        return Ok(shown);
    }
    Err(StoreError::BadStatement { problem: format!("a figure shows at most {SHOWN_MOST} marks, each with a name") })
}

/// Writes which marks show.
pub(crate) async fn set_shown(connection: &mut SqliteConnection, id: i64, shown: &Shown) -> Result<()> {
    sqlx::query("UPDATE study SET shown = ? WHERE id = ?").bind(serde_json::to_string(shown)?).bind(id).execute(connection).await?;
    Ok(())
}

/// Writes a statement in the form in which it is stored.
pub(crate) async fn set_statement(connection: &mut SqliteConnection, id: i64, stored: &str) -> Result<()> {
    sqlx::query("UPDATE study SET spec = ? WHERE id = ?").bind(stored).bind(id).execute(connection).await?;
    Ok(())
}
