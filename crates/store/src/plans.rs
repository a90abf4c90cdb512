//! Collection plans with their versions.

use std::collections::BTreeMap;

use acorn_data::frame::{ColumnInfo, Kind, Values};
use acorn_formats::{Table, TableColumn};
use acorn_study::Spec;
use acorn_study::collect::{Asked, CollectionPlan};
use serde::{Deserialize, Serialize};
use sqlx::{FromRow, SqliteConnection};

use crate::datasets::{self, NewDataset, checked_name};
use crate::history::Change;
use crate::stations::{self, NewStation, Station};
use crate::watching;
use crate::{Dataset, Result, Store, StoreError, chunks};

/// A plan about to be made.
#[derive(Clone, Debug, Deserialize, utoipa::ToSchema)]
#[serde(deny_unknown_fields)]
pub struct NewCollection {
    /// The plan.
    pub plan: CollectionPlan,
    /// The dataset that it fills; absent for a new one, called as the plan is.
    #[serde(default)]
    pub dataset_id: Option<i64>,
    /// Of a new dataset: unit, decimals and limits by column.
    #[serde(default)]
    pub infos: BTreeMap<String, ColumnInfo>,
    /// The charts that watch it; absent for new ones of all that is measured or counted.
    #[serde(default)]
    pub study_ids: Option<Vec<i64>>,
    /// Its first station.
    #[serde(default)]
    pub station: Option<String>,
}

/// Another version of a plan.
#[derive(Clone, Debug, Deserialize, utoipa::ToSchema)]
#[serde(deny_unknown_fields)]
pub struct CollectionChange {
    /// The version that the person saw.
    pub version: i64,
    /// The plan.
    pub plan: CollectionPlan,
    /// The charts that watch it, in their order; absent to leave them.
    #[serde(default)]
    pub study_ids: Option<Vec<i64>>,
}

/// A plan as it is followed.
#[derive(Clone, Debug, PartialEq, Serialize, utoipa::ToSchema)]
pub struct Collection {
    /// Its number.
    pub id: i64,
    /// The dataset that it fills.
    pub dataset_id: i64,
    /// The charts that watch it, in their order.
    pub study_ids: Vec<i64>,
    /// Its version, which grows with every change.
    pub version: i64,
    /// When it was made, in milliseconds since 1970.
    pub created_at: i64,
    /// The plan, its columns by the names that they have now.
    pub plan: CollectionPlan,
    /// Where it is followed.
    pub stations: Vec<Station>,
    /// Subgroups so far.
    pub subgroups: i64,
}

/// A version of a plan.
#[derive(Clone, Debug, PartialEq, Serialize, utoipa::ToSchema)]
pub struct CollectionVersion {
    /// Its number.
    pub version: i64,
    /// The plan as it was.
    pub plan: CollectionPlan,
    /// Who made it.
    pub actor: String,
    /// When, in milliseconds since 1970.
    pub at: i64,
}

#[derive(FromRow)]
struct PlanRow {
    id: i64,
    dataset_id: i64,
    version: i64,
    created_at: i64,
    subgroups: i64,
    stated: String,
    column_ids: String,
}

const FIELDS: &str = "SELECT p.id, p.dataset_id, p.version, p.created_at, p.entries AS subgroups, v.stated, v.column_ids \
    FROM collection_plan AS p JOIN collection_version AS v ON v.plan_id = p.id AND v.version = p.version";

impl Store {
    /// Makes a plan, with its dataset and its charts where they are new: those that `charts` gives. All or nothing.
    ///
    /// # Errors
    /// [`StoreError::BadCollection`], [`StoreError::NotFound`], and what a new dataset or chart is refused for.
    pub async fn create_collection(
        &self,
        new: &NewCollection,
        charts: fn(&CollectionPlan) -> Vec<Spec>,
        change: &Change<'_>,
    ) -> Result<Collection> {
        let plan = checked(&new.plan)?;
        let mut transaction = self.begin().await?;
        let dataset_id = match new.dataset_id {
            Some(id) => id,
            None => insert_dataset(&mut transaction, &plan, &new.infos, change).await?,
        };
        let dataset = datasets::get(&mut transaction, dataset_id).await?;
        let ids = ids_of(&mut transaction, &dataset, &plan).await?;
        let study_ids = match &new.study_ids {
            Some(ids) => ids.clone(),
            None => watching::new_charts(&mut transaction, charts(&plan), dataset_id, change).await?,
        };
        let next = next_subgroup(&mut transaction, &dataset, &plan).await?;
        let insert = sqlx::query("INSERT INTO collection_plan (dataset_id, next_subgroup, created_at) VALUES (?, ?, ?)");
        let insert = insert.bind(dataset_id).bind(next).bind(change.at);
        let id = insert.execute(&mut *transaction).await?.last_insert_rowid();
        watching::set(&mut transaction, id, dataset_id, &study_ids).await?;
        insert_version(&mut transaction, id, 1, &plan, &ids, change).await?;
        if let Some(name) = &new.station {
            stations::insert(&mut transaction, id, &NewStation { name: name.clone(), pattern: None }).await?;
        }
        transaction.commit().await?;
        self.collection(id).await
    }

    /// All plans, in the order in which they were made.
    ///
    /// # Errors
    /// The database's own.
    pub async fn collections(&self) -> Result<Vec<Collection>> {
        let mut connection = self.readers.begin().await?;
        let query = sqlx::AssertSqlSafe(format!("{FIELDS} ORDER BY p.id"));
        let rows: Vec<PlanRow> = sqlx::query_as(query).fetch_all(&mut *connection).await?;
        let mut all = Vec::with_capacity(rows.len());
        for row in rows {
            all.push(collected(&mut connection, row).await?);
        }
        Ok(all)
    }

    /// One plan.
    ///
    /// # Errors
    /// [`StoreError::NotFound`].
    pub async fn collection(&self, id: i64) -> Result<Collection> {
        let mut connection = self.readers.begin().await?;
        get(&mut connection, id).await
    }

    /// Follows another version of a plan from now on.
    ///
    /// # Errors
    /// [`StoreError::Conflict`] on another version, [`StoreError::BadCollection`], [`StoreError::NotFound`].
    pub async fn change_collection(&self, id: i64, wanted: &CollectionChange, change: &Change<'_>) -> Result<Collection> {
        let plan = checked(&wanted.plan)?;
        let mut transaction = self.begin().await?;
        let before = get(&mut transaction, id).await?;
        if before.version != wanted.version {
            return Err(StoreError::Conflict { what: "plan", current: before.version, given: wanted.version });
        }
        let dataset = datasets::get(&mut transaction, before.dataset_id).await?;
        let ids = ids_of(&mut transaction, &dataset, &plan).await?;
        if let Some(study_ids) = &wanted.study_ids {
            watching::set(&mut transaction, id, before.dataset_id, study_ids).await?;
        }
        if plan != before.plan {
            let version = before.version + 1;
            sqlx::query("UPDATE collection_plan SET version = ? WHERE id = ?").bind(version).bind(id).execute(&mut *transaction).await?;
            insert_version(&mut transaction, id, version, &plan, &ids, change).await?;
        }
        transaction.commit().await?;
        self.collection(id).await
    }

    /// Deletes a plan with its stations and what is known of its entries. Their rows stay in the dataset.
    ///
    /// # Errors
    /// [`StoreError::NotFound`].
    pub async fn delete_collection(&self, id: i64) -> Result<()> {
        let mut transaction = self.begin().await?;
        let done = sqlx::query("DELETE FROM collection_plan WHERE id = ?").bind(id).execute(&mut *transaction).await?;
        if done.rows_affected() == 0 {
            return Err(StoreError::NotFound { what: "plan", id });
        }
        transaction.commit().await
    }

    /// The versions of a plan, the newest first.
    ///
    /// # Errors
    /// The database's own.
    pub async fn collection_versions(&self, id: i64) -> Result<Vec<CollectionVersion>> {
        let query = "SELECT version, stated, actor, at FROM collection_version WHERE plan_id = ? ORDER BY version DESC";
        let rows: Vec<(i64, String, String, i64)> = sqlx::query_as(query).bind(id).fetch_all(&self.readers).await?;
        let version = |(version, stated, actor, at): (i64, String, String, i64)| {
            Ok(CollectionVersion { version, plan: serde_json::from_str(&stated)?, actor, at })
        };
        rows.into_iter().map(version).collect()
    }
}

fn checked(plan: &CollectionPlan) -> Result<CollectionPlan> {
    plan.check().map_err(|problem| StoreError::bad_collection(problem.to_string()))?;
    Ok(CollectionPlan { name: checked_name(&plan.name)?, ..plan.clone() })
}

/// What a column must hold to take an identifier.
fn kinds(asked: Asked) -> &'static [Kind] {
    match asked {
        Asked::Time => &[Kind::DateTime],
        Asked::Subgroup | Asked::Piece => &[Kind::WholeNumber, Kind::Number],
        Asked::Choice => &[Kind::Category, Kind::Text],
        Asked::Text | Asked::Remark => &[Kind::Text, Kind::Category],
    }
}

/// The ids of the columns that a plan fills, each of a kind that can take what comes.
async fn ids_of(connection: &mut SqliteConnection, dataset: &Dataset, plan: &CollectionPlan) -> Result<BTreeMap<String, i64>> {
    let lists: Vec<i64> = sqlx::query_scalar("SELECT id FROM choice_list").fetch_all(connection).await?;
    if let Some(one) = plan.identifiers.iter().find(|one| one.list.is_some_and(|list| !lists.contains(&list))) {
        return Err(StoreError::bad_collection(format!("the list of “{}” is not there", one.column)));
    }
    let mut ids = BTreeMap::new();
    let numbers: &[Kind] = &[Kind::Number, Kind::WholeNumber];
    for name in plan.columns() {
        let column = dataset.columns.iter().find(|column| column.name == name);
        let column = column.ok_or_else(|| StoreError::bad_collection(format!("“{}” has no column “{name}”", dataset.name)))?;
        let takes = plan.identifiers.iter().find(|one| one.column == name).map_or(numbers, |one| kinds(one.asked));
        if !takes.contains(&column.kind) {
            return Err(StoreError::bad_collection(format!(
                "“{name}” holds {}, which does not take what comes",
                column.kind.display_text()
            )));
        }
        ids.insert(name.to_owned(), column.id);
    }
    Ok(ids)
}

/// The dataset of a new plan: a column for all that it fills.
async fn insert_dataset(
    connection: &mut SqliteConnection,
    plan: &CollectionPlan,
    infos: &BTreeMap<String, ColumnInfo>,
    change: &Change<'_>,
) -> Result<i64> {
    let column = |name: &str| {
        let identifier = plan.identifiers.iter().find(|one| one.column == name);
        let measured = plan.measurements.iter().any(|one| one.column == name);
        let kind = identifier.map_or(if measured { Kind::Number } else { Kind::WholeNumber }, |one| kinds(one.asked)[0]);
        let values = match kind {
            Kind::Number | Kind::WholeNumber => Values::Number([].into()),
            Kind::DateTime => Values::Time([].into()),
            Kind::Category | Kind::Text => Values::Label { codes: [].into(), labels: [].into() },
        };
        TableColumn { name: name.to_owned(), kind, unit: None, values }
    };
    let mut columns = Vec::new();
    for name in plan.columns() {
        columns.push(column(&checked_name(name)?));
    }
    let infos: Vec<(String, ColumnInfo)> = infos.iter().map(|(name, info)| (name.clone(), info.clone())).collect();
    for (name, info) in &infos {
        if matches!((info.lsl, info.usl), (Some(lsl), Some(usl)) if lsl >= usl) {
            return Err(StoreError::bad_collection(format!("LSL of “{name}” must lie below USL")));
        }
    }
    let table = Table { columns, rows: 0 };
    datasets::insert(connection, &NewDataset { name: &plan.name, source: "plan", table: &table, infos: &infos, gauges: &[] }, false, change)
        .await
}

/// The number of the first subgroup: behind those that are there.
async fn next_subgroup(connection: &mut SqliteConnection, dataset: &Dataset, plan: &CollectionPlan) -> Result<i64> {
    let name = plan.identifiers.iter().find(|one| one.asked == Asked::Subgroup).map(|one| &one.column);
    let Some(column) = dataset.columns.iter().find(|column| Some(&column.name) == name) else { return Ok(1) };
    match chunks::read_column(connection, column.id, column.kind).await? {
        Values::Number(values) => {
            let most = values.iter().copied().filter(|value| value.abs() < 1e15).fold(0.0, f64::max);
            Ok(most.floor() as i64 + 1)
        }
        _ => Ok(1),
    }
}

async fn insert_version(
    connection: &mut SqliteConnection,
    plan_id: i64,
    version: i64,
    plan: &CollectionPlan,
    ids: &BTreeMap<String, i64>,
    change: &Change<'_>,
) -> Result<()> {
    let insert = sqlx::query("INSERT INTO collection_version (plan_id, version, stated, column_ids, actor, at) VALUES (?, ?, ?, ?, ?, ?)");
    let insert = insert.bind(plan_id).bind(version).bind(serde_json::to_string(plan)?).bind(serde_json::to_string(ids)?);
    insert.bind(change.actor).bind(change.at).execute(connection).await?;
    Ok(())
}

/// A plan within a transaction.
pub(crate) async fn get(connection: &mut SqliteConnection, id: i64) -> Result<Collection> {
    let query = sqlx::AssertSqlSafe(format!("{FIELDS} WHERE p.id = ?"));
    let row: Option<PlanRow> = sqlx::query_as(query).bind(id).fetch_optional(&mut *connection).await?;
    collected(connection, row.ok_or(StoreError::NotFound { what: "plan", id })?).await
}

async fn collected(connection: &mut SqliteConnection, row: PlanRow) -> Result<Collection> {
    let PlanRow { id, dataset_id, version, created_at, subgroups, stated, column_ids } = row;
    let ids: BTreeMap<String, i64> = serde_json::from_str(&column_ids)?;
    let query = "SELECT id, name FROM dataset_column WHERE dataset_id = ? AND NOT gone";
    let names: Vec<(i64, String)> = sqlx::query_as(query).bind(dataset_id).fetch_all(&mut *connection).await?;
    let called = |name: &str| {
        let now = ids.get(name).and_then(|id| names.iter().find(|(other, _)| other == id));
        now.map_or_else(|| name.to_owned(), |(_, name)| name.clone())
    };
    let plan = serde_json::from_str::<CollectionPlan>(&stated)?.renamed(called);
    let study_ids = watching::of_plan(connection, id).await?;
    let stations = stations::of_plan(connection, id).await?;
    Ok(Collection { id, dataset_id, study_ids, version, created_at, plan, stations, subgroups })
}
