//! What stations enter: stored once however often it is sent, in the order in which it is sent, many at a time in one transaction.

use acorn_data::frame::{Limits, moments_named};
use acorn_study::collect::{Beyond, CollectionPlan, Entry};
use serde::{Deserialize, Serialize};
use sqlx::{FromRow, SqliteConnection};

use crate::history::Change;
use crate::rows::{self, NewRows};
use crate::{Result, Store, StoreError, StoredColumn, datasets, plans};

/// An entry that is stored.
#[derive(Clone, Debug, PartialEq, Serialize, utoipa::ToSchema)]
pub struct StoredEntry {
    /// Its number.
    pub id: i64,
    /// The station.
    pub station_id: i64,
    /// By which the station tells it from its others.
    pub key: String,
    /// The version of the plan that it followed.
    pub version: i64,
    /// When it was made by the clock of the station, in milliseconds since 1970.
    pub at: i64,
    /// When it arrived.
    pub arrived_at: i64,
    /// The number of its subgroup.
    pub subgroup: i64,
    /// The ids of its rows.
    pub row_ids: Vec<i64>,
    /// Its remark.
    pub remark: String,
    /// Whether values beyond belief were confirmed.
    pub confirmed: bool,
    /// Its values beyond specification.
    pub beyond: Vec<Beyond>,
    /// What was said about them.
    pub reaction: Option<EntryReaction>,
    /// Whether it was taken back.
    pub taken_back: bool,
}

/// What was said about values beyond specification.
#[derive(Clone, Debug, PartialEq, Serialize, Deserialize, utoipa::ToSchema)]
#[serde(deny_unknown_fields)]
pub struct EntryReaction {
    /// The cause.
    pub cause: String,
    /// What was done.
    #[serde(default)]
    pub action: String,
    /// Who did it.
    #[serde(default)]
    pub who: String,
}

/// When an entry was made.
#[derive(Clone, Copy, Debug, PartialEq, Eq, FromRow)]
pub struct EntryTime {
    /// The station.
    pub station_id: i64,
    /// When, in milliseconds since 1970.
    pub at: i64,
    /// Pieces that were made by then.
    pub made: i64,
}

/// Entries of one station, in their order.
#[derive(Clone, Debug)]
pub struct Sent {
    /// The station.
    pub station_id: i64,
    /// Its entries.
    pub entries: Vec<Entry>,
}

/// What became of what a station sent: of each entry, stored or refused, and the dataset that it went into.
#[derive(Debug)]
pub struct Taken {
    /// The dataset.
    pub dataset_id: i64,
    /// The revision that it has come to.
    pub revision: i64,
    /// Of each entry.
    pub entries: Vec<Result<StoredEntry>>,
}

#[derive(FromRow)]
struct EntryRow {
    id: i64,
    station_id: i64,
    key: String,
    version: i64,
    at: i64,
    arrived_at: i64,
    subgroup: i64,
    first_row: i64,
    row_count: i64,
    remark: String,
    confirmed: bool,
    beyond: String,
    reaction: Option<String>,
    taken_back: bool,
}

const FIELDS: &str = "SELECT id, station_id, key, version, at, arrived_at, subgroup, first_row, row_count, remark, confirmed, beyond, reaction, \
    taken_back FROM entry";

impl EntryRow {
    fn into_entry(self) -> Result<StoredEntry> {
        Ok(StoredEntry {
            id: self.id,
            station_id: self.station_id,
            key: self.key,
            version: self.version,
            at: self.at,
            arrived_at: self.arrived_at,
            subgroup: self.subgroup,
            row_ids: (self.first_row..self.first_row + self.row_count).collect(),
            remark: self.remark,
            confirmed: self.confirmed,
            beyond: serde_json::from_str(&self.beyond)?,
            reaction: self.reaction.as_deref().map(serde_json::from_str).transpose()?,
            taken_back: self.taken_back,
        })
    }
}

/// A plan while entries of it are taken.
struct Following {
    plan_id: i64,
    dataset_id: i64,
    version: i64,
    plan: CollectionPlan,
    columns: Vec<StoredColumn>,
    column_ids: Vec<i64>,
    next_subgroup: i64,
    /// Rows of entries that are taken, to be added at once.
    rows: Vec<Vec<String>>,
    /// Of each of those entries its number and how many rows it has.
    waiting: Vec<(i64, i64)>,
}

impl Store {
    /// Stores what stations sent, all in one transaction. An entry whose key is known is that one; one that is refused stores nothing
    /// and lets the others pass.
    ///
    /// # Errors
    /// The database's own; then nothing is stored. Each [`Taken`] holds what its entries are refused for.
    pub async fn add_entries(&self, sent: &[Sent], change: &Change<'_>) -> Result<Vec<Result<Taken>>> {
        let mut transaction = self.begin().await?;
        let mut plans: Vec<Following> = Vec::new();
        let mut outcome = Vec::with_capacity(sent.len());
        for Sent { station_id, entries } in sent {
            let plan_id: Option<i64> =
                sqlx::query_scalar("SELECT plan_id FROM station WHERE id = ?").bind(station_id).fetch_optional(&mut *transaction).await?;
            let Some(plan_id) = plan_id else {
                outcome.push(Err(StoreError::NotFound { what: "station", id: *station_id }));
                continue;
            };
            let place = match plans.iter().position(|plan| plan.plan_id == plan_id) {
                Some(place) => place,
                None => {
                    plans.push(following(&mut transaction, plan_id).await?);
                    plans.len() - 1
                }
            };
            let mut taken = Vec::with_capacity(entries.len());
            for entry in entries {
                taken.push(take(&mut transaction, &mut plans[place], *station_id, entry, change).await?);
            }
            outcome.push(Ok((plans[place].dataset_id, taken)));
        }
        for plan in &plans {
            settle(&mut transaction, plan, change).await?;
        }
        let mut all = Vec::with_capacity(outcome.len());
        for one in outcome {
            all.push(match one {
                Ok((dataset_id, taken)) => {
                    let mut entries = Vec::with_capacity(taken.len());
                    for one in taken {
                        entries.push(match one {
                            Ok(id) => Ok(get(&mut transaction, id).await?),
                            Err(refused) => Err(refused),
                        });
                    }
                    let revision = sqlx::query_scalar("SELECT revision FROM dataset WHERE id = ?").bind(dataset_id);
                    Ok(Taken { dataset_id, revision: revision.fetch_one(&mut *transaction).await?, entries })
                }
                Err(error) => Err(error),
            });
        }
        transaction.commit().await?;
        Ok(all)
    }

    /// The newest entries of a plan.
    ///
    /// # Errors
    /// The database's own.
    pub async fn entries(&self, plan_id: i64, count: i64) -> Result<Vec<StoredEntry>> {
        let query = sqlx::AssertSqlSafe(format!("{FIELDS} WHERE plan_id = ? ORDER BY id DESC LIMIT ?"));
        let rows: Vec<EntryRow> = sqlx::query_as(query).bind(plan_id).bind(count).fetch_all(&self.readers).await?;
        rows.into_iter().map(EntryRow::into_entry).collect()
    }

    /// Entries of a plan that stand, made from a moment to another: when, and how many pieces there were by then, in that order. A
    /// station whose clock is wrong by years answers no due time.
    ///
    /// # Errors
    /// The database's own.
    pub async fn entry_times(&self, plan_id: i64, since: i64, until: i64) -> Result<Vec<EntryTime>> {
        let query = "SELECT station_id, at, made FROM entry WHERE plan_id = ? AND at BETWEEN ? AND ? AND NOT taken_back ORDER BY made, at";
        Ok(sqlx::query_as(query).bind(plan_id).bind(since).bind(until).fetch_all(&self.readers).await?)
    }

    /// How many pieces a station had made at its last entry before a moment; 0 when there is none.
    ///
    /// # Errors
    /// The database's own.
    pub async fn made_before(&self, station_id: i64, moment: i64) -> Result<i64> {
        let query = sqlx::query_scalar("SELECT coalesce(max(made), 0) FROM entry WHERE station_id = ? AND at < ? AND NOT taken_back");
        Ok(query.bind(station_id).bind(moment).fetch_one(&self.readers).await?)
    }

    /// The first row that was entered by a plan; absent before the first entry.
    ///
    /// # Errors
    /// The database's own.
    pub async fn first_entered_row(&self, plan_id: i64) -> Result<Option<i64>> {
        let query = sqlx::query_scalar("SELECT first_row FROM entry WHERE plan_id = ? ORDER BY id LIMIT 1");
        Ok(query.bind(plan_id).fetch_optional(&self.readers).await?)
    }

    /// Of each station with values beyond specification about which nothing was said: how many entries, and the newest of them.
    ///
    /// # Errors
    /// The database's own.
    pub async fn newest_waiting(&self, plan_id: i64) -> Result<Vec<(i64, StoredEntry)>> {
        let query = "SELECT count(*), max(id) FROM entry WHERE plan_id = ? AND beyond <> '[]' AND reaction IS NULL AND NOT taken_back \
            GROUP BY station_id ORDER BY station_id";
        let found: Vec<(i64, i64)> = sqlx::query_as(query).bind(plan_id).fetch_all(&self.readers).await?;
        let mut connection = self.readers.acquire().await?;
        let mut all = Vec::with_capacity(found.len());
        for (count, newest) in found {
            all.push((count, get(&mut connection, newest).await?));
        }
        Ok(all)
    }

    /// How many entries of a plan have values beyond specification about which nothing was said.
    ///
    /// # Errors
    /// The database's own.
    pub async fn entries_waiting(&self, plan_id: i64) -> Result<i64> {
        let query =
            sqlx::query_scalar("SELECT count(*) FROM entry WHERE plan_id = ? AND beyond <> '[]' AND reaction IS NULL AND NOT taken_back");
        Ok(query.bind(plan_id).fetch_one(&self.readers).await?)
    }

    /// Takes an entry back: its rows are deleted. Taken back twice it is taken back once.
    ///
    /// # Errors
    /// [`StoreError::NotFound`], also for rows that were deleted meanwhile.
    pub async fn take_back(&self, id: i64, change: &Change<'_>) -> Result<StoredEntry> {
        let mut transaction = self.begin().await?;
        let entry = get(&mut transaction, id).await?;
        let query = "SELECT p.dataset_id FROM entry AS e JOIN collection_plan AS p ON p.id = e.plan_id WHERE e.id = ?";
        let dataset_id: i64 = sqlx::query_scalar(query).bind(id).fetch_one(&mut *transaction).await?;
        if !entry.taken_back {
            rows::remove(&mut transaction, dataset_id, &entry.row_ids, None, change).await?;
            sqlx::query("UPDATE entry SET taken_back = 1 WHERE id = ?").bind(id).execute(&mut *transaction).await?;
            let fewer = "UPDATE collection_plan SET entries = entries - 1 WHERE id = (SELECT plan_id FROM entry WHERE id = ?)";
            sqlx::query(fewer).bind(id).execute(&mut *transaction).await?;
        }
        let entry = get(&mut transaction, id).await?;
        transaction.commit().await?;
        Ok(entry)
    }

    /// Keeps what was said about values of an entry beyond specification.
    ///
    /// # Errors
    /// [`StoreError::NotFound`], [`StoreError::BadCollection`] without a cause or with too long a text.
    pub async fn react(&self, id: i64, reaction: &EntryReaction) -> Result<StoredEntry> {
        let texts = [&reaction.cause, &reaction.action, &reaction.who];
        if reaction.cause.trim().is_empty() || texts.iter().any(|text| text.chars().count() > 500) {
            return Err(StoreError::BadCollection { problem: "a reaction names its cause, in 500 characters at most".into() });
        }
        let update = sqlx::query("UPDATE entry SET reaction = ? WHERE id = ?").bind(serde_json::to_string(reaction)?).bind(id);
        let mut transaction = self.begin().await?;
        if update.execute(&mut *transaction).await?.rows_affected() == 0 {
            return Err(StoreError::NotFound { what: "entry", id });
        }
        transaction.commit().await?;
        let mut connection = self.readers.acquire().await?;
        get(&mut connection, id).await
    }
}

async fn get(connection: &mut SqliteConnection, id: i64) -> Result<StoredEntry> {
    let query = sqlx::AssertSqlSafe(format!("{FIELDS} WHERE id = ?"));
    let row: Option<EntryRow> = sqlx::query_as(query).bind(id).fetch_optional(connection).await?;
    row.ok_or(StoreError::NotFound { what: "entry", id })?.into_entry()
}

async fn following(connection: &mut SqliteConnection, plan_id: i64) -> Result<Following> {
    let found = plans::get(connection, plan_id).await?;
    let dataset = datasets::get(connection, found.dataset_id).await?;
    let next_subgroup: i64 =
        sqlx::query_scalar("SELECT next_subgroup FROM collection_plan WHERE id = ?").bind(plan_id).fetch_one(&mut *connection).await?;
    let column = |name: &str| dataset.columns.iter().find(|column| column.name == name);
    let missing = |name: &str| StoreError::BadCollection { problem: format!("“{}” has no column “{name}”", dataset.name) };
    let mut column_ids = Vec::new();
    for name in found.plan.columns() {
        column_ids.push(column(name).ok_or_else(|| missing(name))?.id);
    }
    Ok(Following {
        plan_id,
        dataset_id: found.dataset_id,
        version: found.version,
        columns: dataset.columns,
        plan: found.plan,
        column_ids,
        next_subgroup,
        rows: Vec::new(),
        waiting: Vec::new(),
    })
}

impl Following {
    /// The specification limits that hold for what an entry says of a column.
    fn limits(&self, column: &str, entry: &Entry) -> Option<Limits> {
        let info = &self.columns.iter().find(|one| one.name == column)?.info;
        let by = info.limit_table.as_ref().and_then(|table| table.by);
        let by = self.columns.iter().find(|column| Some(column.id) == by);
        let product = by.and_then(|by| entry.identifiers.get(&by.name)).map(String::as_str);
        Some(info.limits_of(product, moments_named(&entry.time).map(|[at, _]| at)))
    }
}

/// Takes an entry: its number, the one that it has already when its key is known.
async fn take(
    connection: &mut SqliteConnection,
    following: &mut Following,
    station_id: i64,
    entry: &Entry,
    change: &Change<'_>,
) -> Result<Result<i64>> {
    let known: Option<i64> = sqlx::query_scalar("SELECT id FROM entry WHERE station_id = ? AND key = ?")
        .bind(station_id)
        .bind(&entry.key)
        .fetch_optional(&mut *connection)
        .await?;
    if let Some(id) = known {
        return Ok(Ok(id));
    }
    let rules = |name: &str| following.columns.iter().find(|column| column.name == name).map(|column| &column.info.rules);
    if let Err(refused) = entry.check(&following.plan, rules) {
        return Ok(Err(refused.into()));
    }
    let subgroup = following.next_subgroup;
    let rows = entry.rows(&following.plan, subgroup);
    let beyond = entry.beyond(|column| following.limits(column, entry));
    let insert = sqlx::query(
        "INSERT INTO entry (plan_id, station_id, key, version, at, arrived_at, subgroup, first_row, row_count, remark, confirmed, beyond, \
         made) VALUES (?, ?, ?, ?, ?, ?, ?, 0, ?, ?, ?, ?, (SELECT made FROM station WHERE id = ?))",
    );
    let insert = insert.bind(following.plan_id).bind(station_id).bind(&entry.key).bind(following.version).bind(entry.at).bind(change.at);
    let insert = insert.bind(subgroup).bind(rows.len() as i64).bind(entry.remark.trim()).bind(entry.confirmed);
    let id = insert.bind(serde_json::to_string(&beyond)?).bind(station_id).execute(connection).await?.last_insert_rowid();
    following.next_subgroup += 1;
    following.waiting.push((id, rows.len() as i64));
    following.rows.extend(rows);
    Ok(Ok(id))
}

/// Adds the rows of the entries that were taken, all at once.
async fn settle(connection: &mut SqliteConnection, plan: &Following, change: &Change<'_>) -> Result<()> {
    if plan.rows.is_empty() {
        return Ok(());
    }
    let new = NewRows { revision: None, at: None, column_ids: plan.column_ids.clone(), rows: plan.rows.clone() };
    let ids = rows::add(connection, plan.dataset_id, &new, change).await?;
    let mut first = ids.first().copied().unwrap_or_default();
    for (id, count) in &plan.waiting {
        sqlx::query("UPDATE entry SET first_row = ? WHERE id = ?").bind(first).bind(id).execute(&mut *connection).await?;
        first += count;
    }
    let update = sqlx::query("UPDATE collection_plan SET next_subgroup = ?, entries = entries + ? WHERE id = ?");
    let update = update.bind(plan.next_subgroup).bind(plan.waiting.len() as i64).bind(plan.plan_id);
    update.execute(connection).await?;
    Ok(())
}
