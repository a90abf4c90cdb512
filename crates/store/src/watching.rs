//! The charts that watch a plan.

use acorn_study::{DataSource, Spec};
use sqlx::SqliteConnection;

use crate::history::Change;
use crate::studies::{self, NewStudy};
use crate::{Result, StoreError};

/// Charts that watch one plan at most.
const CHARTS_MOST: usize = 40;

/// Asks the charts of a new plan of its dataset.
pub(crate) async fn new_charts(
    connection: &mut SqliteConnection,
    charts: Vec<Spec>,
    dataset_id: i64,
    change: &Change<'_>,
) -> Result<Vec<i64>> {
    let mut ids = Vec::new();
    for chart in charts {
        let spec = Spec { data: Some(DataSource::Dataset(dataset_id)), ..chart };
        ids.push(studies::insert(connection, &NewStudy { name: None, spec }, change).await?);
    }
    Ok(ids)
}

/// Lets charts of its dataset watch a plan, instead of those that did.
///
/// # Errors
/// [`StoreError::BadCollection`] for a chart of another dataset, one twice, or too many; [`StoreError::NotFound`].
pub(crate) async fn set(connection: &mut SqliteConnection, plan_id: i64, dataset_id: i64, study_ids: &[i64]) -> Result<()> {
    if study_ids.len() > CHARTS_MOST {
        return Err(StoreError::bad_collection(format!("{CHARTS_MOST} charts watch a plan at most")));
    }
    sqlx::query("DELETE FROM collection_study WHERE plan_id = ?").bind(plan_id).execute(&mut *connection).await?;
    for (place, id) in study_ids.iter().enumerate() {
        if studies::get(connection, *id).await?.dataset_id != Some(dataset_id) {
            return Err(StoreError::bad_collection("this chart is about another dataset"));
        }
        if study_ids[..place].contains(id) {
            return Err(StoreError::bad_collection("a chart watches a plan once"));
        }
        let insert = sqlx::query("INSERT INTO collection_study (plan_id, study_id, place) VALUES (?, ?, ?)").bind(plan_id).bind(id);
        insert.bind(place as i64).execute(&mut *connection).await?;
    }
    Ok(())
}

/// The charts that watch a plan, in their order.
pub(crate) async fn of_plan(connection: &mut SqliteConnection, plan_id: i64) -> Result<Vec<i64>> {
    let query = sqlx::query_scalar("SELECT study_id FROM collection_study WHERE plan_id = ? ORDER BY place");
    Ok(query.bind(plan_id).fetch_all(connection).await?)
}
