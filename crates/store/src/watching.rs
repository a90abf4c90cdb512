//! The charts that watch a plan.

use std::collections::BTreeMap;

use acorn_study::collect::{Asked, CollectionPlan};
use acorn_study::{DataSource, RoleColumns, Spec};
use serde_json::{Map, json};
use sqlx::SqliteConnection;

use crate::history::Change;
use crate::studies::{self, NewStudy};
use crate::{Result, StoreError};

/// Charts that watch one plan at most.
const CHARTS_MOST: usize = 40;

/// The charts of a new plan: each measurement in its subgroups, and what is counted.
pub(crate) async fn new_charts(
    connection: &mut SqliteConnection,
    plan: &CollectionPlan,
    dataset_id: i64,
    change: &Change<'_>,
) -> Result<Vec<i64>> {
    let mut ids = Vec::new();
    for (mut roles, options) in measured(plan).chain(counted(plan)) {
        roles.extend(column_of(plan, Asked::Time).map(|time| ("order", time)));
        let roles = roles.into_iter().map(|(role, column)| (role.to_owned(), RoleColumns::One(column))).collect();
        let data = Some(DataSource::of_dataset(dataset_id));
        let spec = Spec { method: "control-chart".to_owned(), roles, options, data, ..Spec::default() };
        ids.push(studies::insert(connection, &NewStudy { name: None, spec }, change).await?);
    }
    Ok(ids)
}

type Chart = (BTreeMap<&'static str, String>, Map<String, serde_json::Value>);

fn column_of(plan: &CollectionPlan, asked: Asked) -> Option<String> {
    plan.identifiers.iter().find(|one| one.asked == asked).map(|one| one.column.clone())
}

fn measured(plan: &CollectionPlan) -> impl Iterator<Item = Chart> {
    plan.measurements.iter().map(|one| {
        let (mut roles, mut options) = (BTreeMap::from([("measure", one.column.clone())]), Map::new());
        if plan.pieces > 1 {
            options.insert("chart".to_owned(), json!(if plan.pieces < 9 { "xbar-r" } else { "xbar-s" }));
            match column_of(plan, Asked::Subgroup) {
                Some(column) => drop(roles.insert("subgroup", column)),
                None => drop(options.insert("subgroup_size".to_owned(), json!(plan.pieces))),
            }
        }
        (roles, options)
    })
}

/// What is defective, or else the first kind of defects; by those inspected where they are counted.
fn counted(plan: &CollectionPlan) -> Option<Chart> {
    let counts = &plan.counts;
    let (count, of_inspected) = match (&counts.defectives, counts.defects.first()) {
        (Some(count), _) => (count, "p"),
        (None, Some(count)) => (count, "u"),
        (None, None) => return None,
    };
    let mut roles = BTreeMap::from([("count", count.clone())]);
    roles.extend(counts.inspected.clone().map(|inspected| ("size", inspected)));
    let chart = if counts.inspected.is_some() { of_inspected } else { "c" };
    Some((roles, Map::from_iter([("chart".to_owned(), json!(chart))])))
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
