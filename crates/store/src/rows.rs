//! Adding and deleting rows. A row's id is never given to another.

use std::collections::{BTreeMap, HashSet};

use acorn_data::frame::Values;
use acorn_formats::{CellValue, Table, TableColumn, convert, parse_value};
use serde::Deserialize;
use sqlx::SqliteConnection;

use crate::chunks::{Chunk, cell_width, encode, read_chunk};
use crate::datasets::{Touched, advance, get, recount, touch};
use crate::formulas::{self, Changed};
use crate::history::{self, About, Change, HistoryEvent};
use crate::images::replace;
use crate::labels::Labels;
use crate::layout::{Insertion, Layout, Place};
use crate::{Dataset, Result, Stood, Store, StoreError, StoredColumn, allowed, arrange, labels};

/// Rows to be added.
#[derive(Clone, Debug, Deserialize, utoipa::ToSchema)]
pub struct NewRows {
    /// The revision of the dataset that the person saw. May be absent for rows added at the end, which disturb nobody.
    #[serde(default)]
    pub revision: Option<i64>,
    /// The position that the first of them comes to stand at, from 0; absent for the end.
    #[serde(default)]
    pub at: Option<usize>,
    /// The columns that are given; what is not given is missing.
    pub column_ids: Vec<i64>,
    /// The text of each cell by row and column; empty for missing.
    pub rows: Vec<Vec<String>>,
}

/// Rows to be deleted.
#[derive(Clone, Debug, Deserialize, utoipa::ToSchema)]
pub struct GoneRows {
    /// The revision of the dataset that the person saw.
    pub revision: i64,
    /// Their ids.
    pub row_ids: Vec<i64>,
}

/// Most ids that a line of the history lists.
const IDS_LISTED: usize = 50;

impl Store {
    /// Adds rows, all or none. Gives the dataset and the ids of the new rows.
    ///
    /// # Errors
    /// [`StoreError::NotFound`], [`StoreError::Conflict`], [`StoreError::BadRows`] for rows of another shape, or
    /// [`StoreError::Value`] when a text does not fit its column.
    pub async fn add_rows(&self, dataset_id: i64, new: &NewRows, change: &Change<'_>) -> Result<(Dataset, Vec<i64>)> {
        let mut transaction = self.begin().await?;
        let ids = add(&mut transaction, dataset_id, new, change).await?;
        transaction.commit().await?;
        Ok((self.dataset(dataset_id).await?, ids))
    }

    /// Adds the rows of a table at the end, all or none: its columns matched by name, missing where it has none. Columns that the dataset
    /// has not come with them where they are wanted, and go with them when that is undone.
    ///
    /// # Errors
    /// [`StoreError::NotFound`], [`StoreError::BadRows`] for no row, too many, or a column that the dataset has not and is not to get,
    /// [`StoreError::BadColumn`] for cells that a formula works out or too many columns, or [`StoreError::Value`] when values do not fit
    /// the kind of their column.
    pub async fn append(&self, dataset_id: i64, table: &Table, new_columns: bool, change: &Change<'_>) -> Result<Dataset> {
        let mut transaction = self.begin().await?;
        let mut dataset = get(&mut transaction, dataset_id).await?;
        dataset.stands_alone()?;
        check_count(&dataset, table.rows)?;
        let given = |own: &&StoredColumn| table.columns.iter().any(|column| column.name == own.name);
        dataset.columns.iter().filter(given).try_for_each(formulas::not_typed)?;
        let is_new = |column: &&TableColumn| !dataset.columns.iter().any(|own| own.name == column.name);
        let new: Vec<&TableColumn> = table.columns.iter().filter(is_new).collect();
        if let Some(new) = new.first().filter(|_| !new_columns) {
            return Err(StoreError::BadRows { problem: format!("“{}” has no column “{}”; leave it out", dataset.name, new.name) });
        }
        advance(&mut transaction, dataset_id, None).await?;
        let arranged = match new.is_empty() {
            true => None,
            false => Some(arrange::add_empty(&mut transaction, &dataset, &new).await?),
        };
        dataset = get(&mut transaction, dataset_id).await?;
        let columns = dataset.columns.iter().map(|own| match table.columns.iter().find(|column| column.name == own.name) {
            Some(column) if column.kind == own.kind => Ok(column.values.clone()),
            Some(column) => Ok(convert(&column.values, own.kind)?),
            None => Ok(convert(&Values::Number(vec![f64::NAN; table.rows].into()), own.kind)?),
        });
        let columns = columns.collect::<Result<Vec<Values>>>()?;
        dataset.columns.iter().zip(&columns).try_for_each(|(column, values)| allowed::all(column, values))?;
        let layout = Layout::read(&mut transaction, dataset_id).await?;
        let opening = Opening { dataset: &dataset, layout: &layout, at: layout.rows(), count: table.rows };
        let (line, _, plan) = opening.open(&mut transaction, arranged, change).await?;
        for (column, values) in dataset.columns.iter().zip(columns) {
            let values = labels::adopt(&mut transaction, column.id, values).await?;
            insert(&mut transaction, line, column.id, cell_width(column.kind), &plan, encode(&values, 0..table.rows)).await?;
        }
        formulas::refresh(&mut transaction, line, &dataset, &plan.changed()).await?;
        recount(&mut transaction, dataset_id).await?;
        touch(&mut transaction, dataset_id, Touched::All).await?;
        transaction.commit().await?;
        self.dataset(dataset_id).await
    }

    /// Deletes rows, all or none.
    ///
    /// # Errors
    /// [`StoreError::NotFound`] when there is no such row, [`StoreError::Conflict`].
    pub async fn delete_rows(&self, dataset_id: i64, gone: &GoneRows, change: &Change<'_>) -> Result<Dataset> {
        let mut transaction = self.begin().await?;
        remove(&mut transaction, dataset_id, &gone.row_ids, Some(gone.revision), change).await?;
        transaction.commit().await?;
        self.dataset(dataset_id).await
    }
}

/// Adds rows within a transaction; their ids.
pub(crate) async fn add(connection: &mut SqliteConnection, dataset_id: i64, new: &NewRows, change: &Change<'_>) -> Result<Vec<i64>> {
    let dataset = get(connection, dataset_id).await?;
    dataset.stands_alone()?;
    let values = parsed(&dataset, new)?;
    let count = new.rows.len();
    let layout = Layout::read(connection, dataset_id).await?;
    let at = new.at.unwrap_or(layout.rows());
    if at > layout.rows() {
        return Err(StoreError::BadRows { problem: format!("row {} lies beyond the end of the table", at + 1) });
    }
    if at < layout.rows() && new.revision.is_none() {
        return Err(StoreError::BadRows { problem: "rows put in between others need the revision they were seen at".into() });
    }
    advance(connection, dataset_id, new.revision).await?;
    let opening = Opening { dataset: &dataset, layout: &layout, at, count };
    let (line, ids, plan) = opening.open(connection, None, change).await?;
    for (column, values) in dataset.columns.iter().zip(values) {
        let labels = Labels::of(connection, column.id, &values).await?;
        let cells = values.iter().flat_map(|value| labels.cell(column.kind, value)).collect();
        insert(connection, line, column.id, cell_width(column.kind), &plan, cells).await?;
    }
    formulas::refresh(connection, line, &dataset, &plan.changed()).await?;
    recount(connection, dataset_id).await?;
    touch(connection, dataset_id, Touched::All).await?;
    Ok(ids)
}

/// Where so many rows are put into a dataset.
struct Opening<'d> {
    dataset: &'d Dataset,
    layout: &'d Layout,
    at: usize,
    count: usize,
}

impl Opening<'_> {
    /// Gives the rows their ids and records that they come: the line of the history, the ids, and how cells are put in.
    /// Columns that come with them are told by the arrangement before and after.
    async fn open(
        &self,
        connection: &mut SqliteConnection,
        arranged: Option<[Vec<Stood>; 2]>,
        change: &Change<'_>,
    ) -> Result<(i64, Vec<i64>, Insertion)> {
        let ids = self.ids(connection).await?;
        let (before, after) = arranged.map(|[before, after]| (before, after)).unzip();
        let event = HistoryEvent::RowsAdded { row_id: ids.first().copied(), count: self.count, before, after };
        let line = history::record(connection, change, About::Dataset(self.dataset.id), &event).await?;
        Ok((line, ids.clone(), self.put_ids(connection, line, &ids).await?))
    }

    async fn ids(&self, connection: &mut SqliteConnection) -> Result<Vec<i64>> {
        let first = take_ids(connection, self.dataset.id, self.count, self.at == self.layout.rows()).await?;
        Ok((first..).take(self.count).collect())
    }

    /// Puts the ids in, as a part of the change of a line; how the cells are to be put in.
    async fn put_ids(&self, connection: &mut SqliteConnection, line: i64, ids: &[i64]) -> Result<Insertion> {
        let plan = self.layout.insertion(self.at, self.count);
        insert(connection, line, self.layout.ids_column, 8, &plan, ids.iter().flat_map(|id| id.to_le_bytes()).collect()).await?;
        Ok(plan)
    }
}

/// Adds empty rows at the end as a part of the change of a line. Gives what changed.
pub(crate) async fn grow(
    connection: &mut SqliteConnection,
    line: i64,
    dataset: &Dataset,
    layout: &Layout,
    count: usize,
) -> Result<Changed> {
    check_count(dataset, count)?;
    let opening = Opening { dataset, layout, at: layout.rows(), count };
    let ids = opening.ids(connection).await?;
    let plan = opening.put_ids(connection, line, &ids).await?;
    for column in &dataset.columns {
        let missing = convert(&Values::Number(vec![f64::NAN; count].into()), column.kind)?;
        insert(connection, line, column.id, cell_width(column.kind), &plan, encode(&missing, 0..count)).await?;
    }
    recount(connection, dataset.id).await?;
    Ok(plan.changed())
}

/// Fails for no row, and for more than a dataset holds.
fn check_count(dataset: &Dataset, count: usize) -> Result<()> {
    if count == 0 {
        return Err(StoreError::BadRows { problem: "there is no row to add".into() });
    }
    if dataset.row_count as usize + count > acorn_formats::bounds::ROWS {
        return Err(StoreError::BadRows { problem: format!("the table would have more than {} rows", acorn_formats::bounds::ROWS) });
    }
    Ok(())
}

/// Deletes rows within a transaction.
pub(crate) async fn remove(
    connection: &mut SqliteConnection,
    dataset_id: i64,
    gone: &[i64],
    revision: Option<i64>,
    change: &Change<'_>,
) -> Result<()> {
    let dataset = get(connection, dataset_id).await?;
    dataset.stands_alone()?;
    let ids: HashSet<i64> = gone.iter().copied().collect();
    let layout = Layout::read(connection, dataset_id).await?;
    let positions = layout.positions(connection, &ids).await?;
    if let Some(&id) = gone.iter().find(|id| !positions.contains_key(id)) {
        return Err(StoreError::NotFound { what: "row", id });
    }
    if ids.is_empty() {
        return Err(StoreError::BadRows { problem: "no row is named".into() });
    }
    advance(connection, dataset_id, revision).await?;
    let mut listed = gone.to_vec();
    listed.truncate(IDS_LISTED);
    let event = HistoryEvent::RowsDeleted { row_ids: listed, count: ids.len() };
    let line = history::record(connection, change, About::Dataset(dataset_id), &event).await?;
    let mut places: BTreeMap<i64, (Place, HashSet<usize>)> = BTreeMap::new();
    for position in positions.into_values() {
        let place = layout.holding(position).expect("the layout gave the position");
        places.entry(place.no).or_insert((place, HashSet::new())).1.insert(position - place.first);
    }
    let columns = dataset.columns.iter().map(|column| (column.id, cell_width(column.kind)));
    for (column_id, width) in columns.chain([(layout.ids_column, 8)]) {
        for (place, gone) in places.values() {
            let chunk = stored(connection, column_id, place.no).await?;
            let cells = chunk.cells.chunks(width).enumerate().filter(|(row, _)| !gone.contains(row)).flat_map(|(_, cell)| cell);
            let left = Chunk { rows: place.rows - gone.len(), cells: cells.copied().collect() };
            replace(connection, line, column_id, place.no, Some(&left).filter(|left| left.rows > 0)).await?;
        }
    }
    let changed = Changed { columns: None, chunks: Some(places.into_keys().collect()) };
    formulas::refresh(connection, line, &dataset, &changed).await?;
    sqlx::query("UPDATE dataset SET ids_are_places = 0 WHERE id = ?").bind(dataset_id).execute(&mut *connection).await?;
    recount(connection, dataset_id).await?;
    touch(connection, dataset_id, Touched::All).await?;
    Ok(())
}

/// The values of new rows, by column of the dataset.
fn parsed(dataset: &Dataset, new: &NewRows) -> Result<Vec<Vec<CellValue>>> {
    let bad = |problem: String| Err(StoreError::BadRows { problem });
    check_count(dataset, new.rows.len())?;
    if let Some(row) = new.rows.iter().position(|row| row.len() != new.column_ids.len()) {
        return bad(format!("new row {} has {} cells for {} columns", row + 1, new.rows[row].len(), new.column_ids.len()));
    }
    for (place, id) in new.column_ids.iter().enumerate() {
        let column = dataset.column(*id)?;
        if new.rows.iter().any(|row| !row[place].trim().is_empty()) {
            formulas::not_typed(column)?;
        }
        if new.column_ids[..place].contains(id) {
            return bad(format!("column “{}” is given twice", column.name));
        }
    }
    let values = |column: &StoredColumn| match new.column_ids.iter().position(|other| *other == column.id) {
        Some(place) => {
            let value = |row: &Vec<String>| {
                let value = parse_value(column.kind, &row[place])?;
                allowed::one(column, &value).map(|()| value)
            };
            new.rows.iter().map(value).collect()
        }
        None => Ok(vec![CellValue::Missing; new.rows.len()]),
    };
    dataset.columns.iter().map(values).collect()
}

/// Takes new row ids; the first of them.
async fn take_ids(connection: &mut SqliteConnection, dataset_id: i64, count: usize, at_the_end: bool) -> Result<i64> {
    let query = sqlx::query_scalar(
        "UPDATE dataset SET next_row_id = next_row_id + ?1, ids_are_places = ids_are_places AND ?2 AND next_row_id = row_count \
         WHERE id = ?3 RETURNING next_row_id",
    );
    let next: i64 = query.bind(count as i64).bind(at_the_end).bind(dataset_id).fetch_one(connection).await?;
    Ok(next - count as i64)
}

async fn stored(connection: &mut SqliteConnection, column_id: i64, chunk_no: i64) -> Result<Chunk> {
    let chunk = read_chunk(connection, column_id, chunk_no).await?;
    chunk.ok_or_else(|| StoreError::Corrupt(format!("column {column_id} lacks chunk {chunk_no}")))
}

impl Insertion {
    /// Every column, in the chunks that it writes.
    fn changed(&self) -> Changed {
        Changed { columns: None, chunks: Some(self.pieces.iter().map(|(no, _)| *no).collect()) }
    }
}

/// Puts cells into a column as planned.
async fn insert(connection: &mut SqliteConnection, line: i64, column_id: i64, width: usize, plan: &Insertion, new: Vec<u8>) -> Result<()> {
    let mut cells = match plan.opened {
        Some(place) => stored(connection, column_id, place.no).await?.cells,
        None => Vec::new(),
    };
    let offset = plan.offset * width;
    cells.splice(offset..offset, new);
    let mut start = 0;
    for &(no, rows) in &plan.pieces {
        let end = start + rows * width;
        replace(connection, line, column_id, no, Some(&Chunk { rows, cells: cells[start..end].to_vec() })).await?;
        start = end;
    }
    Ok(())
}
