//! Putting a table that was made anew in place of the one before.

use std::collections::{HashMap, HashSet};

use acorn_data::frame::{ColumnInfo, Values};
use acorn_formats::{TableColumn, convert};
use sqlx::SqliteConnection;

use crate::chunks::{self, kind_name};
use crate::datasets::{get, insert_column};
use crate::formulas::{self, Changed};
use crate::history::{self, About, Change, HistoryEvent};
use crate::layout::Layout;
use crate::{Dataset, Result, images};

/// Columns that were made, each with the one that it takes the place of; it is new where there is none.
pub(crate) type Made<'t> = [(&'t TableColumn, Option<i64>)];

/// Whether a table holds already what was made.
pub(crate) async fn same(connection: &mut SqliteConnection, dataset: &Dataset, made: &Made<'_>) -> Result<bool> {
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
pub(crate) async fn fill(
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
                let name = free_name(connection, dataset.id, &column.name).await?;
                let last: i64 = sqlx::query_scalar("SELECT coalesce(max(position), 0) + 1 FROM dataset_column WHERE dataset_id = ?")
                    .bind(dataset.id)
                    .fetch_one(&mut *connection)
                    .await?;
                let info = ColumnInfo { unit: column.unit.clone(), ..ColumnInfo::default() };
                let none = convert(&Values::Number(Vec::new().into()), column.kind)?;
                insert_column(connection, dataset.id, last, &name, kind_name(column.kind), &info, none).await?
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
        let none = convert(&Values::Number(vec![f64::NAN; rows].into()), column.kind)?;
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

/// A name that no column of a table has, also none that was deleted.
async fn free_name(connection: &mut SqliteConnection, dataset_id: i64, wanted: &str) -> Result<String> {
    let query = sqlx::query_scalar("SELECT name FROM dataset_column WHERE dataset_id = ?").bind(dataset_id);
    let taken: HashSet<String> = query.fetch_all(connection).await?.into_iter().collect();
    let numbered = (2..).map(|number| format!("{wanted} {number}"));
    let mut names = std::iter::once(wanted.to_owned()).chain(numbered);
    Ok(names.find(|name| !taken.contains(name)).unwrap_or_else(|| wanted.to_owned()))
}

/// The line of the history that tells it; one after another is one line.
async fn record(connection: &mut SqliteConnection, dataset_id: i64, rows: usize, change: &Change<'_>) -> Result<i64> {
    let event = HistoryEvent::Followed { count: rows };
    let query = "UPDATE history SET at = ?1, target = ?2 WHERE id = (SELECT max(id) FROM history WHERE dataset_id = ?3 AND study_id IS NULL) \
                 AND what = 'followed' RETURNING id";
    let last =
        sqlx::query_scalar(query).bind(change.at).bind(event.parts()?.target).bind(dataset_id).fetch_optional(&mut *connection).await?;
    match last {
        Some(line) => Ok(line),
        None => history::record(connection, change, About::Dataset(dataset_id), &event).await,
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
