//! What a table shows under a name: rows that meet some steps, in some order.

use acorn_study::{OrderBy, TableView};
use serde::{Deserialize, Serialize};

use crate::datasets::{checked_name, get};
use crate::steps::Step;
use crate::{Dataset, Result, Store, StoreError};

/// A view of a table.
#[derive(Clone, Debug, PartialEq, Serialize, utoipa::ToSchema)]
pub struct NamedView {
    /// Its number.
    pub id: i64,
    /// Its name.
    pub name: String,
    /// Its steps and order, columns by the names that they have now; what rests on a column that is gone is left out.
    pub view: TableView,
}

/// Most views of one table.
const VIEWS: i64 = 100;

/// A view with its columns by id.
#[derive(Serialize, Deserialize)]
struct Stored {
    only: Vec<Step>,
    order: Vec<(i64, bool)>,
}

fn stored(view: &TableView, dataset: &Dataset) -> Result<String> {
    let id = |name: &String| {
        let column = dataset.columns.iter().find(|column| column.name == *name);
        column.map(|column| column.id).ok_or_else(|| StoreError::BadName { problem: format!("there is no column “{name}”") })
    };
    let only = view.only.iter().map(|only| Step::of(only, id)).collect::<Result<_>>()?;
    let order = view.order.iter().map(|by| Ok((id(&by.column)?, by.descending))).collect::<Result<_>>()?;
    Ok(serde_json::to_string(&Stored { only, order })?)
}

fn named(text: &str, dataset: &Dataset) -> Result<TableView> {
    let Stored { only, order } = serde_json::from_str(text)?;
    let name = |id: i64| dataset.columns.iter().find(|column| column.id == id).map(|column| column.name.clone());
    let only = only.into_iter().filter_map(|step: Step| step.named(name)).collect();
    let order = order.into_iter().filter_map(|(id, descending)| Some(OrderBy { column: name(id)?, descending })).collect();
    Ok(TableView { only, order })
}

impl Store {
    /// The views of a table, by name.
    ///
    /// # Errors
    /// [`StoreError::NotFound`], or the database's own.
    pub async fn views(&self, dataset_id: i64) -> Result<Vec<NamedView>> {
        let mut connection = self.readers.begin().await?;
        let dataset = get(&mut connection, dataset_id).await?;
        let query = "SELECT id, name, view FROM dataset_view WHERE dataset_id = ? ORDER BY name COLLATE NOCASE, id";
        let rows: Vec<(i64, String, String)> = sqlx::query_as(query).bind(dataset_id).fetch_all(&mut *connection).await?;
        rows.into_iter().map(|(id, name, text)| Ok(NamedView { id, name, view: named(&text, &dataset)? })).collect()
    }

    /// Keeps a view under a name, in place of the one that has it.
    ///
    /// # Errors
    /// [`StoreError::NotFound`], [`StoreError::BadName`] for a name that is none, a column that is not there, or one view too many.
    pub async fn keep_view(&self, dataset_id: i64, name: &str, view: &TableView) -> Result<Vec<NamedView>> {
        let name = checked_name(name)?;
        let mut transaction = self.begin().await?;
        let dataset = get(&mut transaction, dataset_id).await?;
        let text = stored(view, &dataset)?;
        let keep = "INSERT INTO dataset_view (dataset_id, name, view) VALUES (?, ?, ?) ON CONFLICT (dataset_id, name) DO UPDATE SET view = excluded.view";
        sqlx::query(keep).bind(dataset_id).bind(&name).bind(text).execute(&mut *transaction).await?;
        let many: i64 = sqlx::query_scalar("SELECT count(*) FROM dataset_view WHERE dataset_id = ?")
            .bind(dataset_id)
            .fetch_one(&mut *transaction)
            .await?;
        if many > VIEWS {
            return Err(StoreError::BadName { problem: format!("a table has {VIEWS} views at most; give one up first") });
        }
        transaction.commit().await?;
        self.views(dataset_id).await
    }

    /// Gives a view up.
    ///
    /// # Errors
    /// [`StoreError::NotFound`].
    pub async fn forget_view(&self, dataset_id: i64, view_id: i64) -> Result<Vec<NamedView>> {
        let gone = sqlx::query("DELETE FROM dataset_view WHERE id = ? AND dataset_id = ?");
        let mut transaction = self.begin().await?;
        if gone.bind(view_id).bind(dataset_id).execute(&mut *transaction).await?.rows_affected() == 0 {
            return Err(StoreError::NotFound { what: "view", id: view_id });
        }
        transaction.commit().await?;
        self.views(dataset_id).await
    }
}
