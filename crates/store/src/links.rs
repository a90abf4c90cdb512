//! Tables that follow the tables they were made of.

use std::collections::HashMap;

use acorn_data::reshape::Reshape;
use acorn_formats::Table;
use acorn_study::{OrderBy, TableView};
use sqlx::{FromRow, SqliteConnection};

use crate::datasets::{self, NewDataset, Touched, advance, get, touch};
use crate::history::{self, About, Change, HistoryEvent};
use crate::refill::{fill, same};
use crate::steps::Step;
use crate::{Dataset, Result, Store, StoreError};

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
        // Columns of a fixed number may be called otherwise by now; others are told apart by their names.
        let by_name = matches!(serde_json::from_str(&link.how)?, Reshape::Unstack { .. });
        for (place, column) in table.columns.iter().enumerate() {
            let own = if by_name { known.iter().find(|(name, _)| *name == column.name) } else { known.get(place) };
            made.push((column, own.map(|(_, id)| *id)));
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
        history::record(&mut transaction, change, About::Dataset(dataset_id), &HistoryEvent::Unlinked).await?;
        transaction.commit().await?;
        self.dataset(dataset_id).await
    }
}

async fn row(connection: &mut SqliteConnection, dataset_id: i64) -> Result<LinkRow> {
    let query = sqlx::query_as("SELECT from_id, with_id, how, only, ordered, made FROM dataset_link WHERE dataset_id = ?");
    let row: Option<LinkRow> = query.bind(dataset_id).fetch_optional(connection).await?;
    row.ok_or(StoreError::NotFound { what: "link", id: dataset_id })
}
