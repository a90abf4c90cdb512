//! Which columns a table has, in which order, and which of them it shows. Columns come, go and move by one mechanism: the
//! arrangement before and after, from which undoing and redoing bring it back. What is deleted stays out of sight.

use acorn_data::frame::{ColumnInfo, Kind, Values};
use acorn_formats::{TableColumn, bounds, convert};
use serde::{Deserialize, Serialize};
use sqlx::SqliteConnection;

use crate::chunks::{self, encode, kind_name};
use crate::datasets::{Touched, advance, checked_name, get, insert_column, touch};
use crate::formulas::{self, Changed};
use crate::history::{self, About, Arranged, Change, HistoryEvent};
use crate::layout::Layout;
use crate::{Dataset, Result, Store, StoreError, StoredColumn};

/// A column at its place.
#[derive(Clone, Debug, PartialEq, Serialize, Deserialize, utoipa::ToSchema)]
#[schema(as = PlacedColumn)]
pub struct Placed {
    /// The column.
    pub id: i64,
    /// Whether the table does not show it.
    #[serde(default)]
    pub hidden: bool,
}

/// A column to be added.
#[derive(Clone, Debug, Default, Deserialize, utoipa::ToSchema)]
#[schema(as = NewTableColumn)]
pub struct NewColumn {
    /// Its name.
    pub name: String,
    /// What it holds; of a copy, what is copied; of a formula, what that gives.
    #[serde(default)]
    pub kind: Option<Kind>,
    /// What it is worked out by.
    #[serde(default)]
    pub formula: Option<String>,
    /// The column that it is a copy of.
    #[serde(default)]
    pub copy_of: Option<i64>,
    /// The position that it comes to stand at, from 0; absent for the end.
    #[serde(default)]
    pub at: Option<usize>,
}

/// A column of an arrangement, as the history keeps it.
#[derive(Clone, Debug, PartialEq, Serialize, Deserialize)]
pub struct Stood {
    /// Its number.
    pub id: i64,
    /// Its name.
    pub name: String,
    /// Whether the table hides it.
    pub hidden: bool,
}

impl From<&StoredColumn> for Stood {
    fn from(column: &StoredColumn) -> Self {
        Stood { id: column.id, name: column.name.clone(), hidden: column.hidden }
    }
}

impl Store {
    /// Adds a column: empty, a copy, or worked out by a formula. Gives the dataset and the new column's id.
    ///
    /// # Errors
    /// [`StoreError::NotFound`], [`StoreError::Conflict`], [`StoreError::BadName`] for a name that is taken,
    /// [`StoreError::BadColumn`] for one column too many, or a formula that cannot be read.
    pub async fn add_column(&self, dataset_id: i64, revision: i64, new: &NewColumn, change: &Change<'_>) -> Result<(Dataset, i64)> {
        let name = checked_name(&new.name)?;
        let mut transaction = self.begin().await?;
        let dataset = get(&mut transaction, dataset_id).await?;
        free(&dataset, &name)?;
        if dataset.columns.len() >= bounds::COLUMNS {
            return Err(StoreError::BadColumn { problem: format!("a table has {} columns at most", bounds::COLUMNS) });
        }
        advance(&mut transaction, dataset_id, Some(revision)).await?;
        let original = new.copy_of.map(|id| dataset.column(id)).transpose()?;
        let typed = new.formula.as_ref().or(original.and_then(|column| column.formula.as_ref()));
        let formula = typed.map(|text| formulas::read(text, None, &dataset.columns)).transpose()?;
        let kind = match (&formula, original) {
            (Some(formula), _) => formula.kind(),
            (None, Some(original)) => original.kind,
            (None, None) => new.kind.unwrap_or(Kind::Number),
        };
        let info = original.map_or_else(ColumnInfo::default, |column| column.info.clone());
        let id = add_behind(&mut transaction, dataset_id, &name, kind, &info).await?;
        match original {
            Some(original) => copy_cells(&mut transaction, original.id, id).await?,
            None => empty_cells(&mut transaction, dataset_id, id, kind).await?,
        }
        let mut after: Vec<Stood> = dataset.columns.iter().map(Stood::from).collect();
        after.insert(new.at.unwrap_or(after.len()).min(after.len()), Stood { id, name: name.clone(), hidden: false });
        let line = record(&mut transaction, &dataset, HistoryEvent::ColumnAdded, &name, &after, change).await?;
        place(&mut transaction, dataset_id, &after).await?;
        if let Some(text) = typed {
            formulas::keep(&mut transaction, id, Some(text), &dataset.columns).await?;
            let all = get(&mut transaction, dataset_id).await?;
            let changed = Changed { columns: Some(vec![id]), chunks: None };
            formulas::refresh(&mut transaction, line, &all, &changed).await?;
        }
        touch(&mut transaction, dataset_id, Touched::Columns(&[id])).await?;
        transaction.commit().await?;
        Ok((self.dataset(dataset_id).await?, id))
    }

    /// Deletes a column that nothing is worked out from and no plan fills.
    ///
    /// # Errors
    /// [`StoreError::NotFound`], [`StoreError::Conflict`], [`StoreError::BadColumn`] when it is needed.
    pub async fn delete_column(&self, dataset_id: i64, column_id: i64, revision: i64, change: &Change<'_>) -> Result<Dataset> {
        let mut transaction = self.begin().await?;
        let dataset = get(&mut transaction, dataset_id).await?;
        let column = dataset.column(column_id)?;
        let needed = |by: String| Err(StoreError::BadColumn { problem: format!("“{}” is needed {by}", column.name) });
        if dataset.columns.len() == 1 {
            return needed("as the only column of its table".to_owned());
        }
        let uses = |other: &&StoredColumn| {
            let formula = other.formula.as_deref().and_then(|text| formulas::read(text, Some(other.id), &dataset.columns).ok());
            formula.is_some_and(|formula| formula.formula().uses().iter().any(|used| used.name == column.name))
        };
        if let Some(other) = dataset.columns.iter().find(uses) {
            return needed(format!("by the formula of “{}”; change that first", other.name));
        }
        let chooses = |other: &&StoredColumn| {
            let table = other.info.limit_table.as_ref();
            table.is_some_and(|table| [table.by, table.since].contains(&Some(column_id)))
        };
        if let Some(other) = dataset.columns.iter().find(chooses) {
            return needed(format!("by the limits of “{}”; change these first", other.name));
        }
        if dataset.plan.as_ref().is_some_and(|plan| plan.column_id == column_id) {
            return needed("as the column that the sheet is filled in".to_owned());
        }
        if let Some(plan) = filled_by(&mut transaction, dataset_id, column_id).await? {
            return needed(format!("by the collection plan “{plan}”"));
        }
        advance(&mut transaction, dataset_id, Some(revision)).await?;
        let after: Vec<Stood> = dataset.columns.iter().filter(|other| other.id != column_id).map(Stood::from).collect();
        record(&mut transaction, &dataset, HistoryEvent::ColumnDeleted, &column.name, &after, change).await?;
        place(&mut transaction, dataset_id, &after).await?;
        transaction.commit().await?;
        self.dataset(dataset_id).await
    }

    /// Puts the columns in another order, hides and shows them. Every column is named once.
    ///
    /// # Errors
    /// [`StoreError::NotFound`], [`StoreError::Conflict`], [`StoreError::BadColumn`] when one is missing, named twice, or none is left to see.
    pub async fn arrange_columns(&self, dataset_id: i64, revision: i64, wanted: &[Placed], change: &Change<'_>) -> Result<Dataset> {
        let mut transaction = self.begin().await?;
        let dataset = get(&mut transaction, dataset_id).await?;
        let after: Vec<Stood> =
            wanted.iter().map(|to| Ok(Stood { hidden: to.hidden, ..dataset.column(to.id)?.into() })).collect::<Result<_>>()?;
        let named: std::collections::BTreeSet<i64> = wanted.iter().map(|to| to.id).collect();
        if named.len() != dataset.columns.len() || wanted.len() != named.len() {
            return Err(StoreError::BadColumn { problem: "every column has to be named once".into() });
        }
        if after.iter().all(|column| column.hidden) {
            return Err(StoreError::BadColumn { problem: "a table shows one column at least".into() });
        }
        if dataset.columns.iter().map(Stood::from).eq(after.iter().cloned()) {
            return Ok(dataset);
        }
        advance(&mut transaction, dataset_id, Some(revision)).await?;
        record(&mut transaction, &dataset, HistoryEvent::ColumnsArranged, "", &after, change).await?;
        place(&mut transaction, dataset_id, &after).await?;
        transaction.commit().await?;
        self.dataset(dataset_id).await
    }
}

/// Refuses a name that a column has.
pub(crate) fn free(dataset: &Dataset, name: &str) -> Result<()> {
    match dataset.columns.iter().any(|other| other.name == name) {
        true => Err(StoreError::BadName { problem: format!("there is already a column “{name}”") }),
        false => Ok(()),
    }
}

async fn record(
    connection: &mut SqliteConnection,
    dataset: &Dataset,
    event: fn(Arranged) -> HistoryEvent,
    column: &str,
    after: &[Stood],
    change: &Change<'_>,
) -> Result<i64> {
    let before = dataset.columns.iter().map(Stood::from).collect();
    let arranged = Arranged { column: column.to_owned(), before, after: after.to_vec() };
    history::record(connection, change, About::Dataset(dataset.id), &event(arranged)).await
}

/// Adds empty columns behind the others, as a part of a change that is recorded with the arrangement before and after.
pub(crate) async fn add_empty(connection: &mut SqliteConnection, dataset: &Dataset, new: &[&TableColumn]) -> Result<[Vec<Stood>; 2]> {
    if dataset.columns.len() + new.len() > bounds::COLUMNS {
        return Err(StoreError::BadColumn { problem: format!("a table has {} columns at most", bounds::COLUMNS) });
    }
    let before: Vec<Stood> = dataset.columns.iter().map(Stood::from).collect();
    let mut after = before.clone();
    for column in new {
        let name = checked_name(&column.name)?;
        free(dataset, &name)?;
        let info = ColumnInfo { unit: column.unit.clone(), ..ColumnInfo::default() };
        let id = add_behind(connection, dataset.id, &name, column.kind, &info).await?;
        empty_cells(connection, dataset.id, id, column.kind).await?;
        after.push(Stood { id, name, hidden: false });
    }
    place(connection, dataset.id, &after).await?;
    Ok([before, after])
}

/// Adds a column without cells behind all others, until it is put where it belongs.
async fn add_behind(connection: &mut SqliteConnection, dataset_id: i64, name: &str, kind: Kind, info: &ColumnInfo) -> Result<i64> {
    let last: i64 = sqlx::query_scalar("SELECT coalesce(max(position), 0) + 1 FROM dataset_column WHERE dataset_id = ?")
        .bind(dataset_id)
        .fetch_one(&mut *connection)
        .await?;
    let no_cells = convert(&Values::Number([].into()), kind)?;
    insert_column(connection, dataset_id, last, name, kind_name(kind), info, no_cells).await
}

/// Puts back an arrangement that the history kept; the columns that it brings back.
pub(crate) async fn restore(connection: &mut SqliteConnection, dataset: &Dataset, wanted: &[Stood]) -> Result<Vec<i64>> {
    place(connection, dataset.id, wanted).await?;
    let is_back = |column: &&Stood| !dataset.columns.iter().any(|other| other.id == column.id);
    Ok(wanted.iter().filter(is_back).map(|column| column.id).collect())
}

/// Makes the columns those of an arrangement; all others are gone.
async fn place(connection: &mut SqliteConnection, dataset_id: i64, columns: &[Stood]) -> Result<()> {
    // First all out of the way, each under a name and at a place that nothing else has.
    let away =
        "UPDATE dataset_column SET gone = 1, name = char(1) || 'gone ' || id, position = -2 - id WHERE dataset_id = ? AND kind <> 'row-id'";
    sqlx::query(away).bind(dataset_id).execute(&mut *connection).await?;
    for (position, column) in (0_i64..).zip(columns) {
        let back = sqlx::query("UPDATE dataset_column SET gone = 0, name = ?, position = ?, hidden = ? WHERE id = ?");
        back.bind(&column.name).bind(position).bind(column.hidden).bind(column.id).execute(&mut *connection).await?;
    }
    Ok(())
}

async fn copy_cells(connection: &mut SqliteConnection, from: i64, to: i64) -> Result<()> {
    for copy in [
        "INSERT INTO column_chunk (column_id, chunk_no, row_count, cells) SELECT ?2, chunk_no, row_count, cells FROM column_chunk WHERE column_id = ?1",
        "INSERT INTO category (column_id, code, label) SELECT ?2, code, label FROM category WHERE column_id = ?1",
        "INSERT INTO label_code (column_id, code, label) SELECT ?2, code, label FROM label_code WHERE column_id = ?1",
    ] {
        sqlx::query(copy).bind(from).bind(to).execute(&mut *connection).await?;
    }
    Ok(())
}

async fn empty_cells(connection: &mut SqliteConnection, dataset_id: i64, column_id: i64, kind: Kind) -> Result<()> {
    for place in Layout::read(connection, dataset_id).await?.places {
        let missing = convert(&Values::Number(vec![f64::NAN; place.rows].into()), kind)?;
        let chunk = chunks::Chunk { rows: place.rows, cells: encode(&missing, 0..place.rows) };
        chunks::write_chunk(connection, column_id, place.no, Some(&chunk)).await?;
    }
    Ok(())
}

/// The collection plan whose entries fill a column.
async fn filled_by(connection: &mut SqliteConnection, dataset_id: i64, column_id: i64) -> Result<Option<String>> {
    let query = "SELECT json_extract(v.stated, '$.name') FROM collection_plan AS p JOIN collection_version AS v ON v.plan_id = p.id AND v.version = p.version, \
        json_each(v.column_ids) AS named WHERE p.dataset_id = ? AND named.value = ? LIMIT 1";
    Ok(sqlx::query_scalar(query).bind(dataset_id).bind(column_id).fetch_optional(connection).await?)
}
