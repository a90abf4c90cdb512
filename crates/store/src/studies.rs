//! Studies: saved questions about a dataset.

use std::collections::BTreeSet;

use acorn_core::study::{DataSource, Spec};
use serde::{Deserialize, Serialize};
use sqlx::{FromRow, SqliteConnection};

use crate::datasets::checked_name;
use crate::history::{self, Change};
use crate::{Result, Store, StoreError};

/// A saved question.
#[derive(Clone, Debug, PartialEq, Serialize)]
#[cfg_attr(feature = "openapi", derive(utoipa::ToSchema))]
pub struct Study {
    /// Its number.
    pub id: i64,
    /// The dataset it is about.
    pub dataset_id: i64,
    /// The name a person gave it; else it goes by its question.
    pub name: Option<String>,
    /// The question.
    pub spec: Spec,
    /// Grows with every change.
    pub revision: i64,
    /// When it was first asked, in milliseconds since 1970.
    pub created_at: i64,
    /// When it was last changed.
    pub updated_at: i64,
}

/// A question about to be saved.
#[derive(Clone, Debug, Deserialize)]
#[cfg_attr(feature = "openapi", derive(utoipa::ToSchema))]
pub struct NewStudy {
    /// The name, if it has one.
    #[serde(default)]
    pub name: Option<String>,
    /// The question; its data name a dataset.
    pub spec: Spec,
}

/// Changes to a study; what is absent stays.
#[derive(Clone, Debug, Default, Deserialize)]
#[cfg_attr(feature = "openapi", derive(utoipa::ToSchema))]
pub struct StudyChange {
    /// The revision that the person saw.
    pub revision: i64,
    /// Another name; empty to go by the question again.
    #[serde(default)]
    pub name: Option<String>,
    /// Another statement.
    #[serde(default)]
    pub spec: Option<Spec>,
}

#[derive(FromRow)]
struct StudyRow {
    id: i64,
    dataset_id: i64,
    name: Option<String>,
    spec: String,
    revision: i64,
    created_at: i64,
    updated_at: i64,
    /// The rows left out by findings, as a JSON list.
    omitted: String,
}

impl StudyRow {
    fn into_study(self) -> Result<Study> {
        let StudyRow { id, dataset_id, name, spec, revision, created_at, updated_at, omitted } = self;
        let mut spec: Spec = serde_json::from_str(&spec)?;
        let omitted: Vec<i64> = serde_json::from_str(&omitted)?;
        if !omitted.is_empty() {
            spec.options.insert(OMIT.to_owned(), omitted.into());
        }
        spec.data = Some(DataSource { dataset: Some(dataset_id), ..DataSource::default() });
        Ok(Study { id, dataset_id, name, spec, revision, created_at, updated_at })
    }
}

/// The option that findings alone decide: rows are left out of the limits only with a cause.
const OMIT: &str = "omit";

const FIELDS: &str = "SELECT id, dataset_id, name, spec, revision, created_at, updated_at, (SELECT json_group_array(DISTINCT value) FROM \
    finding, json_each(finding.row_ids) WHERE study_id = study.id AND left_out) AS omitted FROM study";

/// Refuses a statement that leaves out other rows than the findings of its study do.
fn check_omitted(spec: &Spec, found: Option<&Spec>) -> Result<()> {
    let rows = |spec: &Spec| -> BTreeSet<i64> {
        let listed = spec.options.get(OMIT).and_then(|value| value.as_array());
        listed.into_iter().flatten().filter_map(|row| row.as_i64()).collect()
    };
    if rows(spec) == found.map(rows).unwrap_or_default() {
        return Ok(());
    }
    Err(StoreError::BadFinding { problem: "rows are left out of the limits on a signal, with its cause, not in the statement".into() })
}

impl Store {
    /// Saves a question about a dataset.
    ///
    /// # Errors
    /// [`StoreError::NotFound`] when the dataset is gone, [`StoreError::BadFinding`] when rows are left out without a cause.
    pub async fn create_study(&self, dataset_id: i64, new: &NewStudy, change: &Change<'_>) -> Result<Study> {
        check_omitted(&new.spec, None)?;
        let mut transaction = self.begin().await?;
        crate::datasets::get(&mut transaction, dataset_id).await?;
        let name = new.name.as_deref().map(checked_name).transpose()?;
        let insert = sqlx::query("INSERT INTO study (dataset_id, name, spec, created_at, updated_at) VALUES (?, ?, ?, ?, ?)");
        let insert = insert.bind(dataset_id).bind(&name).bind(bare(&new.spec)?).bind(change.at).bind(change.at);
        let id = insert.execute(&mut *transaction).await?.last_insert_rowid();
        let entry = history::Entry {
            dataset_id: Some(dataset_id),
            study_id: Some(id),
            what: "study-created",
            target: "{}".into(),
            after: Some(bare(&new.spec)?),
            undone: true,
            ..Default::default()
        };
        history::record(&mut transaction, change, entry).await?;
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

    /// Changes the name or the statement of a study.
    ///
    /// # Errors
    /// [`StoreError::NotFound`], [`StoreError::Conflict`], [`StoreError::BadName`], [`StoreError::BadFinding`].
    pub async fn change_study(&self, id: i64, wanted: &StudyChange, change: &Change<'_>) -> Result<Study> {
        let mut transaction = self.begin().await?;
        let before = get(&mut transaction, id).await?;
        if before.revision != wanted.revision {
            return Err(StoreError::Conflict { what: "study", current: before.revision, given: wanted.revision });
        }
        let mut after = before.clone();
        if let Some(name) = &wanted.name {
            after.name = if name.trim().is_empty() { None } else { Some(checked_name(name)?) };
        }
        if let Some(spec) = &wanted.spec {
            check_omitted(spec, Some(&before.spec))?;
            after.spec = spec.clone();
        }
        after.spec.data = before.spec.data.clone();
        let mut entries = Vec::new();
        if after.name != before.name {
            entries.push(("study-name", serde_json::to_string(&before.name)?, serde_json::to_string(&after.name)?));
        }
        if after.spec != before.spec {
            entries.push(("statement", bare(&before.spec)?, bare(&after.spec)?));
        }
        if !entries.is_empty() {
            write(&mut transaction, &after, change).await?;
        }
        for (what, was, is) in entries {
            let entry = history::Entry {
                dataset_id: Some(before.dataset_id),
                study_id: Some(id),
                what,
                target: "{}".into(),
                before: Some(was),
                after: Some(is),
                undone: false,
            };
            history::record(&mut transaction, change, entry).await?;
        }
        transaction.commit().await?;
        self.study(id).await
    }

    /// Deletes a study.
    ///
    /// # Errors
    /// [`StoreError::NotFound`].
    pub async fn delete_study(&self, id: i64) -> Result<()> {
        let done = sqlx::query("DELETE FROM study WHERE id = ?").bind(id).execute(&self.writer).await?;
        if done.rows_affected() == 0 { Err(StoreError::NotFound { what: "study", id }) } else { Ok(()) }
    }
}

/// The specification in JSON without its data, which the study's dataset says, and without what findings decide.
fn bare(spec: &Spec) -> Result<String> {
    let mut options = spec.options.clone();
    options.shift_remove(OMIT);
    Ok(serde_json::to_string(&Spec { data: None, options, ..spec.clone() })?)
}

pub(crate) async fn get(connection: &mut SqliteConnection, id: i64) -> Result<Study> {
    let query = sqlx::AssertSqlSafe(format!("{FIELDS} WHERE id = ?"));
    let row: Option<StudyRow> = sqlx::query_as(query).bind(id).fetch_optional(connection).await?;
    row.ok_or(StoreError::NotFound { what: "study", id })?.into_study()
}

/// Writes the name and statement of a study at its next revision.
pub(crate) async fn write(connection: &mut SqliteConnection, study: &Study, change: &Change<'_>) -> Result<()> {
    let update = sqlx::query("UPDATE study SET name = ?, spec = ?, revision = revision + 1, updated_at = ? WHERE id = ?");
    update.bind(&study.name).bind(bare(&study.spec)?).bind(change.at).bind(study.id).execute(connection).await?;
    Ok(())
}
