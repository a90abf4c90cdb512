//! The labels of a column and their codes, read for what is asked: a column may have a million of them. Labels are never taken away:
//! what is undone may need them again.

use std::collections::{BTreeSet, HashMap};
use std::sync::Arc;

use acorn_data::frame::{Kind, NO_CODE, NO_TIME, Values};
use acorn_formats::CellValue;
use sqlx::{QueryBuilder, SqliteConnection};

use crate::{Result, StoreError};

/// Labels of one statement: of 32,766 places that SQLite allows.
const AT_ONCE: usize = 10_000;

/// The codes of some labels of a column.
#[derive(Default)]
pub struct Labels(pub HashMap<String, u32>);

impl Labels {
    /// The codes of the labels among some values; new ones are stored.
    pub async fn of(connection: &mut SqliteConnection, column_id: i64, values: impl IntoIterator<Item = &CellValue>) -> Result<Labels> {
        let mut seen = BTreeSet::new();
        let wanted: Vec<&str> = values.into_iter().filter_map(label_of).filter(|label| seen.insert(*label)).collect();
        Labels::coded(connection, column_id, &wanted).await
    }

    /// The codes of different labels; new ones are stored, in their order.
    async fn coded(connection: &mut SqliteConnection, column_id: i64, wanted: &[&str]) -> Result<Labels> {
        let mut known = HashMap::with_capacity(wanted.len());
        for labels in wanted.chunks(AT_ONCE) {
            let mut query = QueryBuilder::new("SELECT label, code FROM label_code WHERE column_id = ");
            query.push_bind(column_id).push(" AND label IN (");
            let mut places = query.separated(", ");
            for label in labels {
                places.push_bind(*label);
            }
            query.push(")");
            known.extend(query.build_query_as::<(String, u32)>().persistent(labels.len() == 1).fetch_all(&mut *connection).await?);
        }
        let new: Vec<&str> = wanted.iter().copied().filter(|label| !known.contains_key(*label)).collect();
        let first = insert(connection, column_id, &new).await?;
        known.extend((first..).zip(new).map(|(code, label)| (label.to_owned(), code)));
        Ok(Labels(known))
    }

    /// One value as it is stored in a column of a kind.
    pub fn cell(&self, kind: Kind, value: &CellValue) -> Vec<u8> {
        match (kind, value) {
            (Kind::Category | Kind::Text, CellValue::Label(label)) => self.code(label).to_le_bytes().to_vec(),
            (Kind::Category | Kind::Text, _) => NO_CODE.to_le_bytes().to_vec(),
            (Kind::Number | Kind::WholeNumber, CellValue::Number(number)) => number.to_le_bytes().to_vec(),
            (Kind::Number | Kind::WholeNumber, _) => f64::NAN.to_le_bytes().to_vec(),
            (Kind::DateTime, CellValue::Time(time)) => time.to_le_bytes().to_vec(),
            (Kind::DateTime, _) => NO_TIME.to_le_bytes().to_vec(),
        }
    }

    fn code(&self, label: &str) -> u32 {
        self.0.get(label).copied().unwrap_or(NO_CODE)
    }
}

fn label_of(value: &CellValue) -> Option<&str> {
    match value {
        CellValue::Label(label) => Some(label),
        _ => None,
    }
}

/// Stores labels that the column does not have; the code of the first.
///
/// They go in as lists, and from one table into the other in its order: a statement for each label takes three times as long.
async fn insert(connection: &mut SqliteConnection, column_id: i64, new: &[&str]) -> Result<u32> {
    let next = sqlx::query_scalar("SELECT coalesce(max(code) + 1, 0) FROM category WHERE column_id = ?");
    let first: u32 = next.bind(column_id).fetch_one(&mut *connection).await?;
    if new.is_empty() {
        return Ok(first);
    }
    for (labels, code) in new.chunks(AT_ONCE).zip((first..).step_by(AT_ONCE)) {
        let query = sqlx::query("INSERT INTO category (column_id, code, label) SELECT ?, ? + key, value FROM json_each(?)");
        query.bind(column_id).bind(code).bind(serde_json::to_string(labels)?).execute(&mut *connection).await?;
    }
    let sorted = "INSERT INTO label_code (column_id, label, code) \
         SELECT column_id, label, code FROM category WHERE column_id = ? AND code >= ? ORDER BY label";
    sqlx::query(sorted).bind(column_id).bind(first).execute(&mut *connection).await?;
    Ok(first)
}

/// Values whose codes are those of the column.
pub async fn adopt(connection: &mut SqliteConnection, column_id: i64, values: Values) -> Result<Values> {
    let Values::Label { codes, labels } = &values else { return Ok(values) };
    let texts: Vec<&str> = labels.iter().map(String::as_str).collect();
    let known = Labels::coded(connection, column_id, &texts).await?;
    let known: Vec<u32> = texts.iter().map(|label| known.code(label)).collect();
    let codes = codes.iter().map(|&code| known.get(code as usize).copied().unwrap_or(NO_CODE)).collect();
    Ok(Values::Label { codes, labels: labels.clone() })
}

/// Stores the labels of a column that has none yet; their codes are their places.
pub async fn begin(connection: &mut SqliteConnection, column_id: i64, labels: &[String]) -> Result<()> {
    let texts: Vec<&str> = labels.iter().map(String::as_str).collect();
    insert(connection, column_id, &texts).await.map(drop)
}

/// All labels of a column, by code.
pub async fn all(connection: &mut SqliteConnection, column_id: i64) -> Result<Arc<[String]>> {
    let rows: Vec<(String,)> =
        sqlx::query_as("SELECT label FROM category WHERE column_id = ? ORDER BY code").bind(column_id).fetch_all(connection).await?;
    Ok(rows.into_iter().map(|(label,)| label).collect())
}

/// The labels of some cells, which are their codes, and no others.
pub async fn of_cells(connection: &mut SqliteConnection, column_id: i64, cells: &[u32]) -> Result<Values> {
    let wanted: BTreeSet<u32> = cells.iter().copied().filter(|code| *code != NO_CODE).collect();
    let query = "SELECT label FROM json_each(?) AS wanted CROSS JOIN category ON column_id = ? AND code = wanted.value ORDER BY wanted.key";
    let wanted: Vec<u32> = wanted.into_iter().collect();
    let rows: Vec<(String,)> = sqlx::query_as(query).bind(serde_json::to_string(&wanted)?).bind(column_id).fetch_all(connection).await?;
    if rows.len() != wanted.len() {
        return Err(StoreError::Corrupt(format!("column {column_id} lacks labels")));
    }
    let codes = cells.iter().map(|code| wanted.binary_search(code).map_or(NO_CODE, |place| place as u32)).collect();
    Ok(Values::Label { codes, labels: rows.into_iter().map(|(label,)| label).collect() })
}
