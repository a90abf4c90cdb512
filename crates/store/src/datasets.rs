//! Datasets: a name, rows, columns with their properties.

use std::sync::Arc;

use acorn_core::frame::{Column, ColumnInfo, Frame, Kind, Values};
use acorn_formats::Table;
use serde::Serialize;
use sqlx::{FromRow, SqliteConnection};

use crate::chunks::{self, CHUNK_ROWS, ROW_ID_KIND, kind_name, kind_of};
use crate::history::{self, Change};
use crate::{Result, Store, StoreError};

/// A dataset with its columns.
#[derive(Clone, Debug, PartialEq, Serialize)]
#[cfg_attr(feature = "openapi", derive(utoipa::ToSchema))]
pub struct Dataset {
    /// Its number.
    pub id: i64,
    /// Its name.
    pub name: String,
    /// The file or paste it came from.
    pub source: String,
    /// When it was brought in, in milliseconds since 1970.
    pub created_at: i64,
    /// Grows with every change.
    pub revision: i64,
    /// Rows.
    pub row_count: i64,
    /// Columns in order.
    pub columns: Vec<StoredColumn>,
}

/// A column of a dataset.
#[derive(Clone, Debug, PartialEq, Serialize)]
#[cfg_attr(feature = "openapi", derive(utoipa::ToSchema))]
pub struct StoredColumn {
    /// Its number.
    pub id: i64,
    /// Its name.
    pub name: String,
    /// What it holds.
    pub kind: Kind,
    /// Unit, decimals and limits.
    #[serde(flatten)]
    pub info: ColumnInfo,
}

/// A table about to be stored.
pub struct NewDataset<'t> {
    /// Its name.
    pub name: &'t str,
    /// The file or paste it came from.
    pub source: &'t str,
    /// Its values.
    pub table: &'t Table,
    /// Unit, decimals and limits by column name.
    pub infos: &'t [(String, ColumnInfo)],
}

#[derive(FromRow)]
struct DatasetRow {
    id: i64,
    name: String,
    source: String,
    created_at: i64,
    revision: i64,
    row_count: i64,
}

#[derive(FromRow)]
struct ColumnRow {
    id: i64,
    dataset_id: i64,
    name: String,
    kind: String,
    unit: Option<String>,
    decimals: Option<u8>,
    lsl: Option<f64>,
    target: Option<f64>,
    usl: Option<f64>,
}

impl ColumnRow {
    fn into_column(self) -> Result<StoredColumn> {
        let info = ColumnInfo { unit: self.unit, decimals: self.decimals, lsl: self.lsl, target: self.target, usl: self.usl };
        Ok(StoredColumn { id: self.id, name: self.name, kind: kind_of(&self.kind)?, info })
    }
}

impl DatasetRow {
    fn with_columns(self, columns: Vec<StoredColumn>) -> Dataset {
        let DatasetRow { id, name, source, created_at, revision, row_count } = self;
        Dataset { id, name, source, created_at, revision, row_count, columns }
    }
}

const COLUMNS: &str = "SELECT id, dataset_id, name, kind, unit, decimals, lsl, target, usl FROM dataset_column WHERE kind <> 'row-id'";

impl Dataset {
    /// The column of a number.
    ///
    /// # Errors
    /// [`StoreError::NotFound`].
    pub fn column(&self, id: i64) -> Result<&StoredColumn> {
        self.columns.iter().find(|column| column.id == id).ok_or(StoreError::NotFound { what: "column", id })
    }
}

impl Store {
    /// Stores a table. All of it or nothing.
    ///
    /// # Errors
    /// [`StoreError::BadName`] for an empty name, or the database's own.
    pub async fn create_dataset(&self, new: NewDataset<'_>, change: &Change<'_>) -> Result<Dataset> {
        let mut transaction = self.begin().await?;
        let id = insert(&mut transaction, &new, change).await?;
        transaction.commit().await?;
        self.dataset(id).await
    }

    /// All datasets, by name.
    ///
    /// # Errors
    /// The database's own.
    pub async fn datasets(&self) -> Result<Vec<Dataset>> {
        let mut connection = self.readers.begin().await?;
        let datasets: Vec<DatasetRow> =
            sqlx::query_as("SELECT id, name, source, created_at, revision, row_count FROM dataset ORDER BY name COLLATE NOCASE, id")
                .fetch_all(&mut *connection)
                .await?;
        let query = sqlx::AssertSqlSafe(format!("{COLUMNS} ORDER BY dataset_id, position"));
        let mut columns = std::collections::HashMap::<i64, Vec<StoredColumn>>::new();
        for row in sqlx::query_as::<_, ColumnRow>(query).fetch_all(&mut *connection).await? {
            columns.entry(row.dataset_id).or_default().push(row.into_column()?);
        }
        Ok(datasets
            .into_iter()
            .map(|row| {
                let own = columns.remove(&row.id).unwrap_or_default();
                row.with_columns(own)
            })
            .collect())
    }

    /// One dataset.
    ///
    /// # Errors
    /// [`StoreError::NotFound`], or the database's own.
    pub async fn dataset(&self, id: i64) -> Result<Dataset> {
        let mut connection = self.readers.begin().await?;
        get(&mut connection, id).await
    }

    /// Renames a dataset.
    ///
    /// # Errors
    /// [`StoreError::NotFound`], [`StoreError::Conflict`], [`StoreError::BadName`].
    pub async fn rename_dataset(&self, id: i64, revision: i64, name: &str, change: &Change<'_>) -> Result<Dataset> {
        let name = checked_name(name)?;
        let mut transaction = self.begin().await?;
        let before = get(&mut transaction, id).await?;
        advance(&mut transaction, id, revision).await?;
        set_name(&mut transaction, id, &name).await?;
        let (from, to) = (serde_json::to_string(&before.name)?, serde_json::to_string(&name)?);
        history::record(
            &mut transaction,
            change,
            history::Entry {
                dataset_id: Some(id),
                what: "dataset-name",
                target: "{}".into(),
                before: Some(from),
                after: Some(to),
                ..Default::default()
            },
        )
        .await?;
        transaction.commit().await?;
        self.dataset(id).await
    }

    /// Deletes a dataset with its studies and history.
    ///
    /// # Errors
    /// [`StoreError::NotFound`].
    pub async fn delete_dataset(&self, id: i64) -> Result<()> {
        let mut transaction = self.begin().await?;
        let done = sqlx::query("DELETE FROM dataset WHERE id = ?").bind(id).execute(&mut *transaction).await?;
        if done.rows_affected() == 0 {
            return Err(StoreError::NotFound { what: "dataset", id });
        }
        Ok(transaction.commit().await?)
    }

    /// Some columns of a dataset as a frame with row ids, at the dataset's revision.
    ///
    /// # Errors
    /// [`StoreError::NotFound`], or the database's own.
    pub async fn frame(&self, dataset_id: i64, wanted: impl Fn(&StoredColumn) -> bool) -> Result<(Dataset, Frame)> {
        let mut connection = self.readers.begin().await?;
        let dataset = get(&mut connection, dataset_id).await?;
        let mut columns = Vec::new();
        for column in dataset.columns.iter().filter(|column| wanted(column)) {
            let values = chunks::read_column(&mut connection, column.id, column.kind, 0..i64::MAX).await?;
            columns.push(Column { name: column.name.clone(), kind: column.kind, info: column.info.clone(), values });
        }
        let row_ids = row_ids(&mut connection, &dataset).await?;
        let frame = Frame::new(columns, row_ids).map_err(|error| StoreError::Corrupt(error.to_string()))?;
        Ok((dataset, frame))
    }

    /// Claims a demo item: true the first time, false ever after.
    ///
    /// # Errors
    /// The database's own.
    pub async fn claim_demo_item(&self, name: &str) -> Result<bool> {
        let claim = sqlx::query("INSERT INTO demo_item (name) VALUES (?) ON CONFLICT DO NOTHING");
        Ok(claim.bind(name).execute(&self.writer).await?.rows_affected() > 0)
    }
}

/// The row ids of a dataset; `None` while every id is its position, which spares reading them.
async fn row_ids(connection: &mut SqliteConnection, dataset: &Dataset) -> Result<Option<Arc<[i64]>>> {
    let query = sqlx::query_as("SELECT next_row_id FROM dataset WHERE id = ?");
    let (next,): (i64,) = query.bind(dataset.id).fetch_one(&mut *connection).await?;
    if next == dataset.row_count {
        return Ok(None);
    }
    chunks::read_row_ids(connection, dataset.id, 0..i64::MAX).await.map(Some)
}

/// A trimmed name, not empty and not endless.
pub(crate) fn checked_name(name: &str) -> Result<String> {
    let name = name.split_whitespace().collect::<Vec<_>>().join(" ");
    if name.is_empty() {
        return Err(StoreError::BadName { problem: "the name is empty".into() });
    }
    if name.chars().count() > acorn_formats::bounds::NAME_CHARS {
        return Err(StoreError::BadName { problem: format!("the name is longer than {} characters", acorn_formats::bounds::NAME_CHARS) });
    }
    Ok(name)
}

async fn insert(connection: &mut SqliteConnection, new: &NewDataset<'_>, change: &Change<'_>) -> Result<i64> {
    let name = checked_name(new.name)?;
    let insert = sqlx::query("INSERT INTO dataset (name, source, created_at, row_count, next_row_id) VALUES (?, ?, ?, ?, ?)");
    let id = insert
        .bind(&name)
        .bind(new.source)
        .bind(change.at)
        .bind(new.table.rows as i64)
        .bind(new.table.rows as i64)
        .execute(&mut *connection)
        .await?
        .last_insert_rowid();
    let row_ids = Values::Time((0..new.table.rows as i64).collect());
    let none = ColumnInfo::default();
    insert_column(connection, id, -1, "(row id)", ROW_ID_KIND, &none, &row_ids).await?;
    for (position, column) in new.table.columns.iter().enumerate() {
        let info = new.infos.iter().find(|(name, _)| *name == column.name).map_or(&none, |(_, info)| info);
        insert_column(connection, id, position as i64, &column.name, kind_name(column.kind), info, &column.values).await?;
    }
    let after = serde_json::json!({"name": name, "rows": new.table.rows, "source": new.source}).to_string();
    let entry = history::Entry {
        dataset_id: Some(id),
        what: "dataset-created",
        target: "{}".into(),
        after: Some(after),
        undone: true,
        ..Default::default()
    };
    history::record(connection, change, entry).await?;
    Ok(id)
}

async fn insert_column(
    connection: &mut SqliteConnection,
    dataset_id: i64,
    position: i64,
    name: &str,
    kind: &str,
    info: &ColumnInfo,
    values: &Values,
) -> Result<()> {
    let insert = sqlx::query(
        "INSERT INTO dataset_column (dataset_id, position, name, kind, unit, decimals, lsl, target, usl) VALUES (?, ?, ?, ?, ?, ?, ?, ?, ?)",
    );
    let insert = insert.bind(dataset_id).bind(position).bind(name).bind(kind).bind(&info.unit).bind(info.decimals);
    let id = insert.bind(info.lsl).bind(info.target).bind(info.usl).execute(&mut *connection).await?.last_insert_rowid();
    chunks::write_column(connection, id, values).await
}

/// Reads a dataset within a transaction.
pub(crate) async fn get(connection: &mut SqliteConnection, id: i64) -> Result<Dataset> {
    let query = sqlx::query_as("SELECT id, name, source, created_at, revision, row_count FROM dataset WHERE id = ?");
    let row: DatasetRow = query.bind(id).fetch_optional(&mut *connection).await?.ok_or(StoreError::NotFound { what: "dataset", id })?;
    let query = sqlx::AssertSqlSafe(format!("{COLUMNS} AND dataset_id = ? ORDER BY position"));
    let columns: Vec<ColumnRow> = sqlx::query_as(query).bind(id).fetch_all(connection).await?;
    Ok(row.with_columns(columns.into_iter().map(ColumnRow::into_column).collect::<Result<_>>()?))
}

/// Moves a dataset from a revision to the next.
pub(crate) async fn advance(connection: &mut SqliteConnection, id: i64, revision: i64) -> Result<()> {
    let update = sqlx::query("UPDATE dataset SET revision = revision + 1 WHERE id = ? AND revision = ?");
    if update.bind(id).bind(revision).execute(&mut *connection).await?.rows_affected() == 1 {
        return Ok(());
    }
    let current = get(connection, id).await?.revision;
    Err(StoreError::Conflict { what: "dataset", current, given: revision })
}

pub(crate) async fn set_name(connection: &mut SqliteConnection, id: i64, name: &str) -> Result<()> {
    sqlx::query("UPDATE dataset SET name = ? WHERE id = ?").bind(name).bind(id).execute(connection).await?;
    Ok(())
}

/// The chunks that hold a window of rows, and where the window starts within them.
pub(crate) fn chunk_window(first: usize, count: usize) -> (std::ops::Range<i64>, usize) {
    let start = first / CHUNK_ROWS;
    ((start as i64)..(first + count).div_ceil(CHUNK_ROWS) as i64, first - start * CHUNK_ROWS)
}
