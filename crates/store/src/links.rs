//! Tables that follow the tables they were made of.

use std::collections::{HashMap, HashSet};

use acorn_core::frame::Values;
use acorn_core::reshape::Reshape;
use acorn_core::study::{OrderBy, TableView};
use acorn_formats::{Table, TableColumn};
use sqlx::{FromRow, SqliteConnection};

use crate::chunks::{self, kind_name};
use crate::datasets::{self, NewDataset, Touched, advance, get, insert_column, touch};
use crate::formulas::{self, Changed};
use crate::history::{self, Change, Stage};
use crate::layout::Layout;
use crate::steps::Step;
use crate::{Dataset, Result, Store, StoreError, images};

/// How a table is made of others; columns by the names that they have now.
#[derive(Clone, Debug, PartialEq)]
pub struct Link {
    /// The table that it is made of.
    pub from: i64,
    /// The table that is joined to it.
    pub with: Option<i64>,
    /// How.
    pub how: Reshape,
    /// Of which rows, in which order.
    pub view: TableView,
}

#[derive(FromRow)]
struct LinkRow {
    from_id: i64,
    with_id: Option<i64>,
    how: String,
    only: String,
    ordered: String,
    made: String,
}

/// The revisions of the tables that something is made of.
pub type Seen = (i64, Option<i64>);

impl Store {
    /// Stores a table that follows those it is made of, as they are at some revisions. All of it or nothing.
    ///
    /// # Errors
    /// [`StoreError::BadName`], [`StoreError::BadColumn`] for a column that is not there, or the database's own.
    pub async fn create_linked(&self, new: NewDataset<'_>, link: &Link, seen: Seen, change: &Change<'_>) -> Result<Dataset> {
        let mut transaction = self.begin().await?;
        let from = get(&mut transaction, link.from).await?;
        let with = match link.with {
            Some(with) => Some(get(&mut transaction, with).await?),
            None => None,
        };
        let id_of = |dataset: &Dataset, name: &str| {
            let column = dataset.columns.iter().find(|column| column.name == name);
            column.map(|column| column.id).ok_or_else(|| StoreError::BadColumn { problem: format!("there is no column “{name}”") })
        };
        let here = |name: String| id_of(&from, &name).map(|id| id.to_string());
        let there = |name: String| id_of(with.as_ref().unwrap_or(&from), &name).map(|id| id.to_string());
        let how = link.how.clone().renamed(here, there)?;
        let only = link.view.only.iter().map(|only| Step::of(only, |name| id_of(&from, name))).collect::<Result<Vec<_>>>()?;
        let ordered = link.view.order.iter().map(|by| Ok((id_of(&from, &by.column)?, by.descending))).collect::<Result<Vec<_>>>()?;
        let id = datasets::insert(&mut transaction, &new, false, change).await?;
        let made: Vec<(String, i64)> =
            get(&mut transaction, id).await?.columns.into_iter().map(|column| (column.name, column.id)).collect();
        let insert = sqlx::query(
            "INSERT INTO dataset_link (dataset_id, from_id, with_id, how, only, ordered, made, seen) VALUES (?, ?, ?, ?, ?, ?, ?, ?)",
        );
        let insert = insert.bind(id).bind(link.from).bind(link.with).bind(serde_json::to_string(&how)?).bind(serde_json::to_string(&only)?);
        let insert = insert.bind(serde_json::to_string(&ordered)?).bind(serde_json::to_string(&made)?).bind(serde_json::to_string(&seen)?);
        insert.execute(&mut *transaction).await?;
        transaction.commit().await?;
        self.dataset(id).await
    }

    /// The tables that follow others which have changed, or are gone, since.
    ///
    /// # Errors
    /// The database's own.
    pub async fn links_behind(&self) -> Result<Vec<i64>> {
        let query = "SELECT dataset_id FROM dataset_link WHERE seen IS NOT json_array((SELECT revision FROM dataset WHERE id = from_id), \
                     (SELECT revision FROM dataset WHERE id = with_id)) ORDER BY dataset_id";
        Ok(sqlx::query_scalar(query).fetch_all(&self.readers).await?)
    }

    /// How a table is made, with the columns as they are called now, and the revisions of what it is made of.
    ///
    /// # Errors
    /// [`StoreError::NotFound`] when it follows nothing, [`StoreError::BadColumn`] when what it is made of is gone.
    pub async fn link(&self, dataset_id: i64) -> Result<Link> {
        let mut connection = self.readers.begin().await?;
        let LinkRow { from_id, with_id, how, only, ordered, .. } = row(&mut connection, dataset_id).await?;
        let mut names = HashMap::new();
        for id in [Some(from_id), with_id].into_iter().flatten() {
            let gone = |_| StoreError::BadColumn { problem: "the table that it was made of was deleted".to_owned() };
            let dataset = get(&mut connection, id).await.map_err(gone)?;
            names.extend(dataset.columns.into_iter().map(|column| (column.id, column.name)));
        }
        let gone = || StoreError::BadColumn { problem: "a column that it was made of was deleted".to_owned() };
        let name = |id: i64| names.get(&id).cloned();
        let named = |id: String| id.parse().ok().and_then(name).ok_or_else(gone);
        let only: Vec<Step> = serde_json::from_str(&only)?;
        let ordered: Vec<(i64, bool)> = serde_json::from_str(&ordered)?;
        let by = |(id, descending)| Ok(OrderBy { column: name(id).ok_or_else(gone)?, descending });
        let view = TableView {
            only: only.into_iter().map(|step| step.named(name).ok_or_else(gone)).collect::<Result<_>>()?,
            order: ordered.into_iter().map(by).collect::<Result<_>>()?,
        };
        let how = serde_json::from_str::<Reshape>(&how)?.renamed(named, named)?;
        Ok(Link { from: from_id, with: with_id, how, view })
    }

    /// Puts what a table was made anew of in place of what it holds, at some revisions of what it follows. Rows are known by what stands
    /// in the first `keys` columns, or by their places where these are none. `None` when nothing is another.
    ///
    /// # Errors
    /// [`StoreError::NotFound`] when it follows nothing by now, or the database's own.
    pub async fn follow(&self, dataset_id: i64, table: &Table, keys: usize, seen: Seen, change: &Change<'_>) -> Result<Option<Dataset>> {
        let mut transaction = self.begin().await?;
        let link = row(&mut transaction, dataset_id).await?;
        let dataset = get(&mut transaction, dataset_id).await?;
        let known: Vec<(String, i64)> = serde_json::from_str(&link.made)?;
        let mut made = Vec::new();
        // Those of a fixed number may be called otherwise now; others are told apart by their names.
        let by_place = known.len() == table.columns.len() && !matches!(serde_json::from_str(&link.how)?, Reshape::Unstack { .. });
        for (place, column) in table.columns.iter().enumerate() {
            let of_name = known.iter().find(|(name, _)| *name == column.name);
            let id = of_name.or(known.get(place).filter(|_| by_place)).map(|(_, id)| *id);
            made.push((column, id));
        }
        let is_same = same(&mut transaction, &dataset, &made).await?;
        let update = sqlx::query("UPDATE dataset_link SET seen = ?, problem = NULL WHERE dataset_id = ?");
        update.bind(serde_json::to_string(&seen)?).bind(dataset_id).execute(&mut *transaction).await?;
        if is_same && dataset.follows.as_ref().is_some_and(|follows| follows.problem.is_none()) {
            transaction.commit().await?;
            return Ok(None);
        }
        advance(&mut transaction, dataset_id, None).await?;
        if !is_same {
            fill(&mut transaction, &dataset, &made, &known, keys, change).await?;
        }
        touch(&mut transaction, dataset_id, Touched::All).await?;
        transaction.commit().await?;
        self.dataset(dataset_id).await.map(Some)
    }

    /// Keeps why a table cannot be made anew; what it holds stays.
    ///
    /// # Errors
    /// The database's own.
    pub async fn cannot_follow(&self, dataset_id: i64, problem: &str) -> Result<Dataset> {
        let mut transaction = self.begin().await?;
        let update = "UPDATE dataset_link SET problem = ?1, seen = json_array((SELECT revision FROM dataset WHERE id = from_id), \
                      (SELECT revision FROM dataset WHERE id = with_id)) WHERE dataset_id = ?2";
        sqlx::query(update).bind(problem).bind(dataset_id).execute(&mut *transaction).await?;
        advance(&mut transaction, dataset_id, None).await?;
        transaction.commit().await?;
        self.dataset(dataset_id).await
    }

    /// Lets a table stand by itself: it stays as it is and can be typed into.
    ///
    /// # Errors
    /// [`StoreError::NotFound`], [`StoreError::Conflict`].
    pub async fn unlink(&self, dataset_id: i64, revision: i64, change: &Change<'_>) -> Result<Dataset> {
        let mut transaction = self.begin().await?;
        row(&mut transaction, dataset_id).await?;
        advance(&mut transaction, dataset_id, Some(revision)).await?;
        sqlx::query("DELETE FROM dataset_link WHERE dataset_id = ?").bind(dataset_id).execute(&mut *transaction).await?;
        let entry = history::Entry { dataset_id: Some(dataset_id), what: "unlinked", stage: Stage::Fixed, ..Default::default() };
        history::record(&mut transaction, change, entry).await?;
        transaction.commit().await?;
        self.dataset(dataset_id).await
    }
}

async fn row(connection: &mut SqliteConnection, dataset_id: i64) -> Result<LinkRow> {
    let query = sqlx::query_as("SELECT from_id, with_id, how, only, ordered, made FROM dataset_link WHERE dataset_id = ?");
    let row: Option<LinkRow> = query.bind(dataset_id).fetch_optional(connection).await?;
    row.ok_or(StoreError::NotFound { what: "link", id: dataset_id })
}

type Made<'t> = [(&'t TableColumn, Option<i64>)];

/// Whether a table holds already what was made.
async fn same(connection: &mut SqliteConnection, dataset: &Dataset, made: &Made<'_>) -> Result<bool> {
    for (column, id) in made {
        let Some(id) = id else { return Ok(false) };
        // A column that was deleted here does not count.
        let Ok(own) = dataset.column(*id) else { continue };
        if own.kind != column.kind || dataset.row_count as usize != column.values.len() {
            return Ok(false);
        }
        let values = chunks::read_column(connection, *id, own.kind).await?;
        if !(0..values.len()).all(|row| is_same(&values, &column.values, row)) {
            return Ok(false);
        }
    }
    Ok(true)
}

fn is_same(a: &Values, b: &Values, row: usize) -> bool {
    match (a, b) {
        (Values::Label { codes: one, labels: ones }, Values::Label { codes: other, labels: others }) => {
            ones.get(one[row] as usize) == others.get(other[row] as usize)
        }
        _ => a.key(row) == b.key(row),
    }
}

/// Writes the columns of a table anew; those that are not made any more are emptied, what is worked out beside them follows. What was
/// changed before cannot be undone after that.
async fn fill(
    connection: &mut SqliteConnection,
    dataset: &Dataset,
    made: &Made<'_>,
    known: &[(String, i64)],
    keys: usize,
    change: &Change<'_>,
) -> Result<()> {
    let rows = made.first().map_or(0, |(column, _)| column.values.len());
    let ids = row_ids(connection, dataset, made, keys, rows).await?;
    let fixed = "UPDATE history SET stage = 'fixed' WHERE dataset_id = ? AND study_id IS NULL AND stage <> 'fixed' RETURNING id";
    for line in sqlx::query_scalar(fixed).bind(dataset.id).fetch_all(&mut *connection).await? {
        images::forget(connection, line).await?;
    }
    let layout = Layout::read(connection, dataset.id).await?;
    empty(connection, layout.ids_column).await?;
    let are_places = ids.iter().zip(0..).all(|(id, place)| *id == place);
    let next = ids.iter().max().map_or(0, |last| last + 1);
    chunks::write_column(connection, layout.ids_column, Values::Time(ids.into())).await?;
    let mut kept = Vec::new();
    for (column, id) in made {
        let id = match id {
            Some(id) => *id,
            None => {
                let last: i64 = sqlx::query_scalar("SELECT coalesce(max(position), 0) + 1 FROM dataset_column WHERE dataset_id = ?")
                    .bind(dataset.id)
                    .fetch_one(&mut *connection)
                    .await?;
                let info = acorn_core::frame::ColumnInfo { unit: column.unit.clone(), ..Default::default() };
                let none = acorn_formats::convert(&Values::Number(Vec::new().into()), column.kind)?;
                insert_column(connection, dataset.id, last, &column.name, kind_name(column.kind), &info, none).await?
            }
        };
        empty(connection, id).await?;
        chunks::write_column(connection, id, column.values.clone()).await?;
        let kind = sqlx::query("UPDATE dataset_column SET kind = ? WHERE id = ?").bind(kind_name(column.kind)).bind(id);
        kind.execute(&mut *connection).await?;
        kept.push((column.name.clone(), id));
    }
    let here: HashSet<i64> = kept.iter().map(|(_, id)| *id).collect();
    for column in dataset.columns.iter().filter(|column| column.formula.is_none() && !here.contains(&column.id)) {
        let none = acorn_formats::convert(&Values::Number(vec![f64::NAN; rows].into()), column.kind)?;
        empty(connection, column.id).await?;
        chunks::write_column(connection, column.id, none).await?;
    }
    // A label that comes again finds its column again.
    kept.extend(known.iter().filter(|(name, id)| !here.contains(id) && made.iter().all(|(column, _)| column.name != *name)).cloned());
    for column in dataset.columns.iter().filter(|column| column.formula.is_some()) {
        empty(connection, column.id).await?;
    }
    let update = sqlx::query("UPDATE dataset SET next_row_id = max(next_row_id, ?), ids_are_places = ?, row_count = ? WHERE id = ?");
    update.bind(next).bind(are_places && next == rows as i64).bind(rows as i64).bind(dataset.id).execute(&mut *connection).await?;
    let update = sqlx::query("UPDATE dataset_link SET made = ? WHERE dataset_id = ?");
    update.bind(serde_json::to_string(&kept)?).bind(dataset.id).execute(&mut *connection).await?;
    let line = record(connection, dataset.id, rows, change).await?;
    let now = get(connection, dataset.id).await?;
    formulas::refresh(connection, line, &now, &Changed { columns: None, chunks: None }).await?;
    images::forget(connection, line).await
}

/// The line of the history that tells it; one after another is one line.
async fn record(connection: &mut SqliteConnection, dataset_id: i64, rows: usize, change: &Change<'_>) -> Result<i64> {
    let target = serde_json::json!({ "count": rows });
    let query = "UPDATE history SET at = ?1, target = ?2 WHERE id = (SELECT max(id) FROM history WHERE dataset_id = ?3 AND study_id IS NULL) \
                 AND what = 'followed' RETURNING id";
    let last = sqlx::query_scalar(query).bind(change.at).bind(target.to_string()).bind(dataset_id).fetch_optional(&mut *connection).await?;
    match last {
        Some(line) => Ok(line),
        None => {
            let entry =
                history::Entry { dataset_id: Some(dataset_id), what: "followed", target, stage: Stage::Fixed, ..Default::default() };
            history::record(connection, change, entry).await
        }
    }
}

/// Takes away the cells and labels of a column.
async fn empty(connection: &mut SqliteConnection, column_id: i64) -> Result<()> {
    for query in [
        "DELETE FROM column_chunk WHERE column_id = ?",
        "DELETE FROM label_code WHERE column_id = ?",
        "DELETE FROM category WHERE column_id = ?",
    ] {
        sqlx::query(query).bind(column_id).execute(&mut *connection).await?;
    }
    Ok(())
}

/// The ids of the rows: those that they had, by what stands in the key, and new ones for new rows.
async fn row_ids(connection: &mut SqliteConnection, dataset: &Dataset, made: &Made<'_>, keys: usize, rows: usize) -> Result<Vec<i64>> {
    let layout = Layout::read(connection, dataset.id).await?;
    let before = chunks::read_row_ids(connection, layout.ids_column, chunks::WHOLE).await?;
    let mut next: i64 =
        sqlx::query_scalar("SELECT next_row_id FROM dataset WHERE id = ?").bind(dataset.id).fetch_one(&mut *connection).await?;
    let mut fresh = || {
        next += 1;
        next - 1
    };
    let mut was = Vec::new();
    for (column, id) in &made[..keys.min(made.len())] {
        let own = id.and_then(|id| dataset.column(id).ok());
        let Some(own) = own else { return Ok((0..rows).map(|row| before.get(row).copied().unwrap_or_else(&mut fresh)).collect()) };
        was.push((chunks::read_column(connection, own.id, own.kind).await?, &column.values));
    }
    if was.is_empty() {
        return Ok((0..rows).map(|row| before.get(row).copied().unwrap_or_else(&mut fresh)).collect());
    }
    let old = |row: usize| was.iter().map(|(values, _)| values.text(row)).collect::<Vec<_>>();
    let known: HashMap<_, i64> = before.iter().enumerate().map(|(row, id)| (old(row), *id)).collect();
    let new = |row: usize| was.iter().map(|(_, values)| values.text(row)).collect::<Vec<_>>();
    Ok((0..rows).map(|row| known.get(&new(row)).copied().unwrap_or_else(&mut fresh)).collect())
}
