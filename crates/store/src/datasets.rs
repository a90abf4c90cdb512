//! Datasets: a name, rows, columns with their properties.

use acorn_data::frame::{Column, ColumnInfo, Frame, Kind, RowLimits, Values};
use acorn_formats::Table;
use acorn_study::gauge::plan::Plan;
use serde::{Deserialize, Serialize};
use sqlx::{FromRow, SqliteConnection};

use crate::chunks::{self, ROW_ID_KIND, kind_name, kind_of};
use crate::history::{self, About, Change, Created, HistoryEvent};
use crate::layout::Layout;
use crate::{Result, Store, StoreError, formula_names, measuring};

/// A dataset with its columns.
#[derive(Clone, Debug, PartialEq, Serialize, utoipa::ToSchema)]
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
    /// Whether it is the table of one study, which is not listed among the datasets.
    pub owned: bool,
    /// Columns in order.
    pub columns: Vec<StoredColumn>,
    /// Of a sheet to fill: what was planned.
    #[serde(skip_serializing_if = "Option::is_none")]
    pub plan: Option<SheetPlan>,
    /// The tables that it is made of and follows; its values are nobody's to type then.
    #[serde(skip_serializing_if = "Option::is_none")]
    pub follows: Option<Follows>,
}

/// What a sheet was planned for.
#[derive(Clone, Debug, PartialEq, Serialize, Deserialize, utoipa::ToSchema)]
pub struct SheetPlan {
    /// The column to fill.
    pub column_id: i64,
    /// The plan.
    pub plan: Plan,
}

/// A column of a dataset.
#[derive(Clone, Debug, PartialEq, Serialize, utoipa::ToSchema)]
pub struct StoredColumn {
    /// Its number.
    pub id: i64,
    /// Its name.
    pub name: String,
    /// What it holds.
    pub kind: Kind,
    /// The revision of the dataset at which its cells or properties last changed.
    pub revision: i64,
    /// Unit, decimals and limits.
    #[serde(flatten)]
    pub info: ColumnInfo,
    /// The gauge that it is measured with.
    pub gauge_id: Option<i64>,
    /// Whether the table does not show it.
    pub hidden: bool,
    /// What it is worked out by; its cells are then nobody's to type.
    #[serde(skip_serializing_if = "Option::is_none")]
    pub formula: Option<String>,
}

/// What a table follows, as its page tells it.
#[derive(Clone, Debug, PartialEq, Serialize, Deserialize, utoipa::ToSchema)]
pub struct Follows {
    /// The table that it is made of.
    pub from: i64,
    /// The table that is joined to it.
    #[serde(default, skip_serializing_if = "Option::is_none")]
    pub with: Option<i64>,
    /// Why it does not follow any more; what it holds is as old as that.
    #[serde(default, skip_serializing_if = "Option::is_none")]
    pub problem: Option<String>,
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
    /// Gauges by column name.
    pub gauges: &'t [(String, i64)],
}

#[derive(FromRow)]
struct DatasetRow {
    id: i64,
    name: String,
    source: String,
    created_at: i64,
    revision: i64,
    row_count: i64,
    owned: bool,
    ids_are_places: bool,
    plan: Option<String>,
    follows: Option<String>,
}

#[derive(FromRow)]
struct ColumnRow {
    id: i64,
    dataset_id: i64,
    name: String,
    kind: String,
    revision: i64,
    unit: Option<String>,
    decimals: Option<u8>,
    lsl: Option<f64>,
    target: Option<f64>,
    usl: Option<f64>,
    gauge_id: Option<i64>,
    hidden: bool,
    formula: Option<String>,
    rules: Option<String>,
    limit_table: Option<String>,
}

impl ColumnRow {
    fn into_column(self) -> Result<StoredColumn> {
        let rules = self.rules.map(|rules| serde_json::from_str(&rules)).transpose()?.unwrap_or_default();
        let limit_table = self.limit_table.map(|table| serde_json::from_str(&table)).transpose()?;
        let ColumnRow { unit, decimals, lsl, target, usl, .. } = self;
        let info = ColumnInfo { unit, decimals, lsl, target, usl, limit_table, rules };
        Ok(StoredColumn {
            id: self.id,
            name: self.name,
            kind: kind_of(&self.kind)?,
            revision: self.revision,
            info,
            gauge_id: self.gauge_id,
            hidden: self.hidden,
            formula: self.formula,
        })
    }
}

impl DatasetRow {
    fn with_columns(self, mut columns: Vec<StoredColumn>) -> Result<Dataset> {
        let names: Vec<(i64, String)> = columns.iter().map(|column| (column.id, column.name.clone())).collect();
        for formula in columns.iter_mut().filter_map(|column| column.formula.as_mut()) {
            *formula = formula_names::by_name(formula, &names);
        }
        let DatasetRow { id, name, source, created_at, revision, row_count, owned, plan, follows, .. } = self;
        let plan = plan.map(|plan| serde_json::from_str(&plan)).transpose()?;
        let follows = follows.map(|follows| serde_json::from_str(&follows)).transpose()?;
        Ok(Dataset { id, name, source, created_at, revision, row_count, owned, columns, plan, follows })
    }
}

const FIELDS: &str = "SELECT id, name, source, created_at, revision, row_count, owned, ids_are_places, plan, \
     (SELECT json_object('from', from_id, 'with', with_id, 'problem', problem) FROM dataset_link WHERE dataset_id = dataset.id) AS follows \
     FROM dataset";

const COLUMNS: &str = "SELECT id, dataset_id, name, kind, revision, unit, decimals, lsl, target, usl, gauge_id, hidden, formula, rules, limit_table FROM dataset_column \
     WHERE kind <> 'row-id' AND NOT gone";

impl Dataset {
    /// Refuses changes of the values and rows of a table that follows another.
    pub(crate) fn stands_alone(&self) -> Result<()> {
        match self.follows {
            None => Ok(()),
            Some(_) => Err(StoreError::Follows { dataset: self.name.clone() }),
        }
    }

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
        let id = insert(&mut transaction, &new, false, change).await?;
        transaction.commit().await?;
        self.dataset(id).await
    }

    /// All datasets, by name; tables of studies aside.
    ///
    /// # Errors
    /// The database's own.
    pub async fn datasets(&self) -> Result<Vec<Dataset>> {
        let mut connection = self.readers.begin().await?;
        let query = sqlx::AssertSqlSafe(format!("{FIELDS} WHERE NOT owned ORDER BY name COLLATE NOCASE, id"));
        let datasets: Vec<DatasetRow> = sqlx::query_as(query).fetch_all(&mut *connection).await?;
        let query = sqlx::AssertSqlSafe(format!("{COLUMNS} ORDER BY dataset_id, position"));
        let mut columns = std::collections::HashMap::<i64, Vec<StoredColumn>>::new();
        for row in sqlx::query_as::<_, ColumnRow>(query).fetch_all(&mut *connection).await? {
            columns.entry(row.dataset_id).or_default().push(row.into_column()?);
        }
        let whole = |row: DatasetRow| {
            let own = columns.remove(&row.id).unwrap_or_default();
            row.with_columns(own)
        };
        datasets.into_iter().map(whole).collect()
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
        advance(&mut transaction, id, Some(revision)).await?;
        set_name(&mut transaction, id, &name).await?;
        let event = HistoryEvent::DatasetName { before: before.name, after: name };
        history::record(&mut transaction, change, About::Dataset(id), &event).await?;
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
        transaction.commit().await
    }

    /// Some columns of a dataset as a frame with row ids, at the dataset's revision.
    ///
    /// # Errors
    /// [`StoreError::NotFound`], or the database's own.
    pub async fn frame(&self, dataset_id: i64, wanted: impl Fn(&StoredColumn) -> bool) -> Result<(Dataset, Frame)> {
        let mut connection = self.readers.begin().await?;
        let (dataset, ids_are_places) = read(&mut connection, dataset_id).await?;
        let gauges = measuring::of_dataset(&mut connection, dataset_id).await?;
        let mut columns = Vec::new();
        for column in dataset.columns.iter().filter(|column| wanted(column)) {
            let values = chunks::read_column(&mut connection, column.id, column.kind).await?;
            let measuring = gauges.iter().find(|(id, _)| column.gauge_id == Some(*id)).map(|(_, measuring)| measuring.clone());
            let held = held(&mut connection, &dataset, column, values.len()).await?;
            columns.push(Column { name: column.name.clone(), kind: column.kind, info: column.info.clone(), measuring, held, values });
        }
        // Rows are counted by their columns: where none is read there are none to tell apart.
        let row_ids = match ids_are_places || columns.is_empty() {
            true => None,
            false => {
                let layout = Layout::read(&mut connection, dataset_id).await?;
                Some(chunks::read_row_ids(&mut connection, layout.ids_column, chunks::WHOLE).await?)
            }
        };
        let frame = Frame::new(columns, row_ids).map_err(|error| StoreError::Corrupt(error.to_string()))?;
        Ok((dataset, frame))
    }

    /// Claims a demo item: true the first time, false ever after.
    ///
    /// # Errors
    /// The database's own.
    pub async fn claim_demo_item(&self, name: &str) -> Result<bool> {
        let claim = sqlx::query("INSERT INTO demo_item (name) VALUES (?) ON CONFLICT DO NOTHING");
        let mut transaction = self.begin().await?;
        let is_new = claim.bind(name).execute(&mut *transaction).await?.rows_affected() > 0;
        transaction.commit().await?;
        Ok(is_new)
    }
}

/// The limits of each row of a column, where a table of them is kept with it.
async fn held(connection: &mut SqliteConnection, dataset: &Dataset, column: &StoredColumn, rows: usize) -> Result<Option<RowLimits>> {
    let Some(table) = &column.info.limit_table else { return Ok(None) };
    let mut choosing = [None, None];
    for (values, id) in choosing.iter_mut().zip([table.by, table.since]) {
        if let Some(chooser) = dataset.columns.iter().find(|other| Some(other.id) == id) {
            *values = Some((chooser.name.as_str(), chunks::read_column(connection, chooser.id, chooser.kind).await?));
        }
    }
    let [by, since] = choosing.each_ref().map(|chooser| chooser.as_ref().map(|(name, values)| (*name, values)));
    Ok(Some(table.held(&column.info, by, since, rows)))
}

/// What the hidden column of row ids is called: nothing that a person can call a column.
const ROW_ID_NAME: &str = "\u{1}row id";

/// A trimmed name, not empty, not endless and without signs that cannot be seen.
pub(crate) fn checked_name(name: &str) -> Result<String> {
    let name: String = name.split_whitespace().collect::<Vec<_>>().join(" ").chars().filter(|letter| !letter.is_control()).collect();
    if name.is_empty() {
        return Err(StoreError::BadName { problem: "the name is empty".into() });
    }
    if name.chars().count() > acorn_formats::bounds::NAME_CHARS {
        return Err(StoreError::BadName { problem: format!("the name is longer than {} characters", acorn_formats::bounds::NAME_CHARS) });
    }
    Ok(name)
}

/// Stores a table, as a dataset or as the own one of a study.
pub(crate) async fn insert(connection: &mut SqliteConnection, new: &NewDataset<'_>, owned: bool, change: &Change<'_>) -> Result<i64> {
    let name = checked_name(new.name)?;
    let insert = sqlx::query("INSERT INTO dataset (name, source, created_at, row_count, next_row_id, owned) VALUES (?, ?, ?, ?, ?, ?)");
    let id = insert
        .bind(&name)
        .bind(new.source)
        .bind(change.at)
        .bind(new.table.rows as i64)
        .bind(new.table.rows as i64)
        .bind(owned)
        .execute(&mut *connection)
        .await?
        .last_insert_rowid();
    let row_ids = Values::Time((0..new.table.rows as i64).collect());
    insert_column(connection, id, -1, ROW_ID_NAME, ROW_ID_KIND, &ColumnInfo::default(), row_ids).await?;
    for (position, column) in new.table.columns.iter().enumerate() {
        let info = new.infos.iter().find(|(name, _)| *name == column.name).map(|(_, info)| info.clone());
        let info = info.unwrap_or_else(|| ColumnInfo { unit: column.unit.clone(), ..ColumnInfo::default() });
        // A table of limits names columns of the dataset that it was made for.
        let info = ColumnInfo { limit_table: None, ..info };
        let column_id =
            insert_column(connection, id, position as i64, &column.name, kind_name(column.kind), &info, column.values.clone()).await?;
        if let Some((_, gauge)) = new.gauges.iter().find(|(name, _)| *name == column.name) {
            sqlx::query("UPDATE dataset_column SET gauge_id = ? WHERE id = ?")
                .bind(gauge)
                .bind(column_id)
                .execute(&mut *connection)
                .await?;
        }
    }
    let after = Created { name, rows: new.table.rows, source: new.source.to_owned() };
    history::record(connection, change, About::Dataset(id), &HistoryEvent::DatasetCreated { after }).await?;
    Ok(id)
}

/// Rules and the table of limits as they are stored.
pub(crate) fn kept(info: &ColumnInfo) -> Result<[Option<String>; 2]> {
    let rules = (!info.rules.are_none()).then(|| serde_json::to_string(&info.rules)).transpose()?;
    Ok([rules, info.limit_table.as_ref().map(serde_json::to_string).transpose()?])
}

pub(crate) async fn insert_column(
    connection: &mut SqliteConnection,
    dataset_id: i64,
    position: i64,
    name: &str,
    kind: &str,
    info: &ColumnInfo,
    values: Values,
) -> Result<i64> {
    let insert = sqlx::query(
        "INSERT INTO dataset_column (dataset_id, position, name, kind, unit, decimals, lsl, target, usl, rules, limit_table) \
         VALUES (?, ?, ?, ?, ?, ?, ?, ?, ?, ?, ?)",
    );
    let insert = insert.bind(dataset_id).bind(position).bind(name).bind(kind).bind(&info.unit).bind(info.decimals);
    let [rules, limit_table] = kept(info)?;
    let insert = insert.bind(info.lsl).bind(info.target).bind(info.usl).bind(rules).bind(limit_table);
    let id = insert.execute(&mut *connection).await?.last_insert_rowid();
    chunks::write_column(connection, id, values).await?;
    Ok(id)
}

/// Reads a dataset within a transaction.
pub(crate) async fn get(connection: &mut SqliteConnection, id: i64) -> Result<Dataset> {
    Ok(read(connection, id).await?.0)
}

/// A dataset, and whether the id of each of its rows is still its place.
async fn read(connection: &mut SqliteConnection, id: i64) -> Result<(Dataset, bool)> {
    let query = sqlx::AssertSqlSafe(format!("{FIELDS} WHERE id = ?"));
    let row: Option<DatasetRow> = sqlx::query_as(query).bind(id).fetch_optional(&mut *connection).await?;
    let row = row.ok_or(StoreError::NotFound { what: "dataset", id })?;
    let query = sqlx::AssertSqlSafe(format!("{COLUMNS} AND dataset_id = ? ORDER BY position"));
    let columns: Vec<ColumnRow> = sqlx::query_as(query).bind(id).fetch_all(connection).await?;
    let ids_are_places = row.ids_are_places;
    Ok((row.with_columns(columns.into_iter().map(ColumnRow::into_column).collect::<Result<_>>()?)?, ids_are_places))
}

/// Moves a dataset to its next revision, from the one given or from whatever it is at.
pub(crate) async fn advance(connection: &mut SqliteConnection, id: i64, revision: Option<i64>) -> Result<()> {
    let update = sqlx::query("UPDATE dataset SET revision = revision + 1 WHERE id = ?1 AND revision = coalesce(?2, revision)");
    if update.bind(id).bind(revision).execute(&mut *connection).await?.rows_affected() == 1 {
        return Ok(());
    }
    let current = get(connection, id).await?.revision;
    Err(StoreError::Conflict { what: "dataset", current, given: revision.unwrap_or_default() })
}

/// Columns whose answers a change concerns.
pub(crate) enum Touched<'t> {
    /// Those of these ids.
    Columns(&'t [i64]),
    /// Every one.
    All,
}

/// Gives columns the revision that their dataset has come to, and those whose limits they choose.
pub(crate) async fn touch(connection: &mut SqliteConnection, dataset_id: i64, touched: Touched<'_>) -> Result<()> {
    let ids = match touched {
        Touched::Columns(ids) => Some(serde_json::to_string(ids)?),
        Touched::All => None,
    };
    let update = sqlx::query(
        "UPDATE dataset_column SET revision = (SELECT revision FROM dataset WHERE id = ?1) \
         WHERE dataset_id = ?1 AND (?2 IS NULL OR id IN (SELECT value FROM json_each(?2)) \
         OR limit_table ->> 'by' IN (SELECT value FROM json_each(?2)) OR limit_table ->> 'since' IN (SELECT value FROM json_each(?2)))",
    );
    update.bind(dataset_id).bind(ids).execute(connection).await?;
    Ok(())
}

/// Counts the rows anew.
pub(crate) async fn recount(connection: &mut SqliteConnection, dataset_id: i64) -> Result<()> {
    let update = sqlx::query(
        "UPDATE dataset SET row_count = (SELECT coalesce(sum(c.row_count), 0) FROM column_chunk AS c JOIN dataset_column AS d \
         ON d.id = c.column_id WHERE d.dataset_id = dataset.id AND d.kind = ?1) WHERE id = ?2",
    );
    update.bind(ROW_ID_KIND).bind(dataset_id).execute(connection).await?;
    Ok(())
}

pub(crate) async fn set_name(connection: &mut SqliteConnection, id: i64, name: &str) -> Result<()> {
    sqlx::query("UPDATE dataset SET name = ? WHERE id = ?").bind(name).bind(id).execute(connection).await?;
    Ok(())
}
