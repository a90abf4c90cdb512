//! Stations: where plans are followed, and how many pieces were made there.

use acorn_study::collect::{LinePattern, ready_made};
use serde::{Deserialize, Serialize};
use sqlx::{FromRow, SqliteConnection};

use crate::datasets::checked_name;
use crate::{Result, Store, StoreError};

/// Where a plan is followed.
#[derive(Clone, Debug, PartialEq, Serialize, FromRow, utoipa::ToSchema)]
pub struct Station {
    /// Its number.
    pub id: i64,
    /// Its plan.
    pub plan_id: i64,
    /// What it is called.
    pub name: String,
    /// With which its gauge names it.
    pub key: String,
    /// The shape of the lines that its gauge sends.
    pub pattern: String,
    /// Pieces that its machine has made.
    pub made: i64,
    /// What the counter of the machine said last.
    pub counter: i64,
    /// Whether nobody measures there any more.
    pub closed: bool,
}

/// A station about to be made.
#[derive(Clone, Debug, Deserialize, utoipa::ToSchema)]
#[serde(deny_unknown_fields)]
pub struct NewStation {
    /// What it is called.
    pub name: String,
    /// The shape of the lines that its gauge sends; absent for a value with its unit.
    #[serde(default)]
    pub pattern: Option<String>,
}

/// What becomes of a station; what is absent stays as it is.
#[derive(Clone, Debug, Deserialize, utoipa::ToSchema)]
#[serde(deny_unknown_fields)]
pub struct StationChange {
    /// What it is called.
    #[serde(default)]
    pub name: Option<String>,
    /// The shape of the lines that its gauge sends.
    #[serde(default)]
    pub pattern: Option<String>,
    /// Whether nobody measures there any more.
    #[serde(default)]
    pub closed: Option<bool>,
}

/// Most that a counter says.
const COUNTER_MOST: i64 = 1_000_000_000_000;

const FIELDS: &str = "SELECT id, plan_id, name, key, pattern, made, counter, closed FROM station";

impl Store {
    /// Makes a station of a plan.
    ///
    /// # Errors
    /// [`StoreError::NotFound`], [`StoreError::BadCollection`] for a name that is taken or a pattern that cannot be read.
    pub async fn create_station(&self, plan_id: i64, new: &NewStation) -> Result<Station> {
        let mut transaction = self.begin().await?;
        let plan = sqlx::query_scalar::<_, i64>("SELECT 1 FROM collection_plan WHERE id = ?").bind(plan_id);
        plan.fetch_optional(&mut *transaction).await?.ok_or(StoreError::NotFound { what: "plan", id: plan_id })?;
        let id = insert(&mut transaction, plan_id, new).await?;
        transaction.commit().await?;
        self.station(id).await
    }

    /// One station.
    ///
    /// # Errors
    /// [`StoreError::NotFound`].
    pub async fn station(&self, id: i64) -> Result<Station> {
        let query = sqlx::query_as(sqlx::AssertSqlSafe(format!("{FIELDS} WHERE id = ?")));
        query.bind(id).fetch_optional(&self.readers).await?.ok_or(StoreError::NotFound { what: "station", id })
    }

    /// The station that a gauge names by its key.
    ///
    /// # Errors
    /// The database's own.
    pub async fn station_of_key(&self, key: &str) -> Result<Option<Station>> {
        let query = sqlx::query_as(sqlx::AssertSqlSafe(format!("{FIELDS} WHERE key = ?")));
        Ok(query.bind(key).fetch_optional(&self.readers).await?)
    }

    /// Renames a station, changes the shape of its lines, closes it or opens it again.
    ///
    /// # Errors
    /// [`StoreError::NotFound`], [`StoreError::BadCollection`] for a name that is taken or a pattern that cannot be read.
    pub async fn change_station(&self, id: i64, wanted: &StationChange) -> Result<Station> {
        let mut transaction = self.begin().await?;
        let before = get(&mut transaction, id).await?;
        let name = wanted.name.as_deref().map_or_else(|| Ok(before.name.clone()), checked_name)?;
        let pattern = wanted.pattern.as_deref().unwrap_or(&before.pattern);
        LinePattern::read(pattern).map_err(|problem| StoreError::bad_collection(problem.to_string()))?;
        if name != before.name {
            check_free(&mut transaction, before.plan_id, &name).await?;
        }
        let update = sqlx::query("UPDATE station SET name = ?, pattern = ?, closed = ? WHERE id = ?").bind(name).bind(pattern);
        update.bind(wanted.closed.unwrap_or(before.closed)).bind(id).execute(&mut *transaction).await?;
        transaction.commit().await?;
        self.station(id).await
    }

    /// Takes what the counter of a station's machine says. Said twice it counts once; a counter that says less than before has begun
    /// anew.
    ///
    /// # Errors
    /// [`StoreError::NotFound`], [`StoreError::BadCollection`] for what no counter says.
    pub async fn count_pieces(&self, id: i64, counter: i64) -> Result<Station> {
        if !(0..=COUNTER_MOST).contains(&counter) {
            return Err(StoreError::bad_collection(format!("a counter says 0 to {COUNTER_MOST}")));
        }
        let query = "UPDATE station SET made = made + CASE WHEN ?1 >= counter THEN ?1 - counter ELSE ?1 END, counter = ?1 WHERE id = ?2";
        let mut transaction = self.begin().await?;
        sqlx::query(query).bind(counter).bind(id).execute(&mut *transaction).await?;
        transaction.commit().await?;
        self.station(id).await
    }
}

async fn check_free(connection: &mut SqliteConnection, plan_id: i64, name: &str) -> Result<()> {
    let query = sqlx::query_scalar::<_, i64>("SELECT 1 FROM station WHERE plan_id = ? AND name = ?");
    match query.bind(plan_id).bind(name).fetch_optional(connection).await? {
        Some(_) => Err(StoreError::bad_collection(format!("this plan has a station “{name}” already"))),
        None => Ok(()),
    }
}

/// A new station within a transaction.
pub(crate) async fn insert(connection: &mut SqliteConnection, plan_id: i64, new: &NewStation) -> Result<i64> {
    let name = checked_name(&new.name)?;
    let pattern = new.pattern.as_deref().unwrap_or(ready_made()[0].1);
    LinePattern::read(pattern).map_err(|problem| StoreError::bad_collection(problem.to_string()))?;
    check_free(connection, plan_id, &name).await?;
    // Made by the database: its random numbers come from the system.
    let insert = sqlx::query("INSERT INTO station (plan_id, name, key, pattern) VALUES (?, ?, lower(hex(randomblob(12))), ?)");
    Ok(insert.bind(plan_id).bind(&name).bind(pattern).execute(connection).await?.last_insert_rowid())
}

async fn get(connection: &mut SqliteConnection, id: i64) -> Result<Station> {
    let query = sqlx::query_as(sqlx::AssertSqlSafe(format!("{FIELDS} WHERE id = ?")));
    query.bind(id).fetch_optional(connection).await?.ok_or(StoreError::NotFound { what: "station", id })
}

/// The stations of a plan, in the order in which they were made.
pub(crate) async fn of_plan(connection: &mut SqliteConnection, plan_id: i64) -> Result<Vec<Station>> {
    let query = sqlx::query_as(sqlx::AssertSqlSafe(format!("{FIELDS} WHERE plan_id = ? ORDER BY id")));
    Ok(query.bind(plan_id).fetch_all(connection).await?)
}
