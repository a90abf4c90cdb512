//! Columns as chunks of cells: how they are encoded, written and read.

use std::sync::Arc;

use acorn_core::frame::{Kind, NO_CODE, Values};
use acorn_formats::CellValue;
use sqlx::SqliteConnection;

use crate::{Result, StoreError};

/// Rows of one chunk: small enough to rewrite for one edit, large enough to read a column in milliseconds.
pub const CHUNK_ROWS: usize = 2048;

/// The kind of the hidden column that gives rows their identity.
pub const ROW_ID_KIND: &str = "row-id";

/// The kind as it stands in the database.
pub fn kind_name(kind: Kind) -> &'static str {
    match kind {
        Kind::Number => "number",
        Kind::WholeNumber => "whole-number",
        Kind::Category => "category",
        Kind::DateTime => "date-time",
        Kind::Text => "text",
    }
}

/// The kind of a name in the database.
pub fn kind_of(name: &str) -> Result<Kind> {
    let all = [Kind::Number, Kind::WholeNumber, Kind::Category, Kind::DateTime, Kind::Text];
    all.into_iter().find(|kind| kind_name(*kind) == name).ok_or_else(|| StoreError::Corrupt(format!("column kind {name}")))
}

fn bytes_of<const N: usize, T: Copy>(cells: &[T], to: impl Fn(T) -> [u8; N]) -> Vec<u8> {
    cells.iter().flat_map(|cell| to(*cell)).collect()
}

fn encode(values: &Values, rows: std::ops::Range<usize>) -> Vec<u8> {
    match values {
        Values::Number(cells) => bytes_of(&cells[rows], f64::to_le_bytes),
        Values::Label { codes, .. } => bytes_of(&codes[rows], u32::to_le_bytes),
        Values::Time(cells) => bytes_of(&cells[rows], i64::to_le_bytes),
    }
}

/// Adds the cells of a blob to `cells`.
fn decode<const N: usize, T>(blob: &[u8], from: impl Fn([u8; N]) -> T, cells: &mut Vec<T>) -> Result<()> {
    let (whole, rest) = blob.as_chunks::<N>();
    cells.extend(whole.iter().map(|bytes| from(*bytes)));
    if rest.is_empty() { Ok(()) } else { Err(StoreError::Corrupt("a chunk of uneven length".into())) }
}

/// Writes all cells of a column that has none yet, and its labels.
pub async fn write_column(connection: &mut SqliteConnection, column_id: i64, values: &Values) -> Result<()> {
    for (chunk_no, start) in (0..values.len()).step_by(CHUNK_ROWS).enumerate() {
        let end = (start + CHUNK_ROWS).min(values.len());
        sqlx::query("INSERT INTO column_chunk (column_id, chunk_no, row_count, cells) VALUES (?, ?, ?, ?)")
            .bind(column_id)
            .bind(chunk_no as i64)
            .bind((end - start) as i64)
            .bind(encode(values, start..end))
            .execute(&mut *connection)
            .await?;
    }
    if let Values::Label { labels, .. } = values {
        for (code, label) in labels.iter().enumerate() {
            write_label(connection, column_id, code as u32, label).await?;
        }
    }
    Ok(())
}

/// Removes all cells and labels of a column.
pub async fn clear_column(connection: &mut SqliteConnection, column_id: i64) -> Result<()> {
    sqlx::query("DELETE FROM column_chunk WHERE column_id = ?").bind(column_id).execute(&mut *connection).await?;
    sqlx::query("DELETE FROM category WHERE column_id = ?").bind(column_id).execute(connection).await?;
    Ok(())
}

async fn write_label(connection: &mut SqliteConnection, column_id: i64, code: u32, label: &str) -> Result<()> {
    let insert = sqlx::query("INSERT INTO category (column_id, code, label) VALUES (?, ?, ?)");
    insert.bind(column_id).bind(i64::from(code)).bind(label).execute(connection).await?;
    Ok(())
}

async fn labels(connection: &mut SqliteConnection, column_id: i64) -> Result<Arc<[String]>> {
    let rows: Vec<(String,)> =
        sqlx::query_as("SELECT label FROM category WHERE column_id = ? ORDER BY code").bind(column_id).fetch_all(connection).await?;
    Ok(rows.into_iter().map(|(label,)| label).collect())
}

/// Reads the cells of a stretch of chunks of a column.
pub async fn read_column(connection: &mut SqliteConnection, column_id: i64, kind: Kind, chunks: std::ops::Range<i64>) -> Result<Values> {
    let query = sqlx::query_as("SELECT cells FROM column_chunk WHERE column_id = ? AND chunk_no >= ? AND chunk_no < ? ORDER BY chunk_no");
    let blobs: Vec<(Vec<u8>,)> = query.bind(column_id).bind(chunks.start).bind(chunks.end).fetch_all(&mut *connection).await?;
    Ok(match kind {
        Kind::Number | Kind::WholeNumber => Values::Number(joined(&blobs, f64::from_le_bytes)?),
        Kind::DateTime => Values::Time(joined(&blobs, i64::from_le_bytes)?),
        Kind::Category | Kind::Text => {
            Values::Label { codes: joined(&blobs, u32::from_le_bytes)?, labels: labels(connection, column_id).await? }
        }
    })
}

/// The row ids of a stretch of chunks; a column of moments and one of ids are stored alike.
pub async fn read_row_ids(connection: &mut SqliteConnection, dataset_id: i64, chunks: std::ops::Range<i64>) -> Result<Arc<[i64]>> {
    let query = sqlx::query_as("SELECT id FROM dataset_column WHERE dataset_id = ? AND kind = ?");
    let (column_id,): (i64,) = query.bind(dataset_id).bind(ROW_ID_KIND).fetch_one(&mut *connection).await?;
    match read_column(connection, column_id, Kind::DateTime, chunks).await? {
        Values::Time(ids) => Ok(ids),
        _ => Err(StoreError::Corrupt("row ids are not whole numbers".into())),
    }
}

fn joined<const N: usize, T>(blobs: &[(Vec<u8>,)], from: impl Fn([u8; N]) -> T + Copy) -> Result<Arc<[T]>> {
    let mut cells = Vec::with_capacity(blobs.iter().map(|(blob,)| blob.len() / N).sum());
    for (blob,) in blobs {
        decode(blob, from, &mut cells)?;
    }
    Ok(cells.into())
}

/// Replaces one cell and returns the text it had. A label that is new gets the next code.
pub async fn replace_cell(
    connection: &mut SqliteConnection,
    column_id: i64,
    kind: Kind,
    row: usize,
    value: CellValue,
) -> Result<Option<String>> {
    let (chunk_no, place) = ((row / CHUNK_ROWS) as i64, row % CHUNK_ROWS);
    let before = read_column(connection, column_id, kind, chunk_no..chunk_no + 1).await?;
    let had = before.text(place);
    let cell = match (&before, value) {
        (Values::Label { labels, .. }, CellValue::Label(label)) => {
            let known = labels.iter().position(|other| *other == label);
            let code = known.unwrap_or(labels.len()) as u32;
            if known.is_none() {
                write_label(connection, column_id, code, &label).await?;
            }
            code.to_le_bytes().to_vec()
        }
        (Values::Label { .. }, _) => NO_CODE.to_le_bytes().to_vec(),
        (Values::Number(_), CellValue::Number(number)) => number.to_le_bytes().to_vec(),
        (Values::Number(_), _) => f64::NAN.to_le_bytes().to_vec(),
        (Values::Time(_), CellValue::Time(time)) => time.to_le_bytes().to_vec(),
        (Values::Time(_), _) => acorn_core::frame::NO_TIME.to_le_bytes().to_vec(),
    };
    let mut cells = encode(&before, 0..before.len());
    cells[place * cell.len()..(place + 1) * cell.len()].copy_from_slice(&cell);
    let update = sqlx::query("UPDATE column_chunk SET cells = ? WHERE column_id = ? AND chunk_no = ?");
    update.bind(cells).bind(column_id).bind(chunk_no).execute(connection).await?;
    Ok(had)
}

#[cfg(test)]
mod tests {
    use super::*;

    #[test]
    fn cells_survive_their_encoding() {
        let values = Values::Number([2.4, f64::NAN, -0.0, 1e300].into());
        let mut cells = Vec::new();
        decode(&encode(&values, 0..4), f64::from_le_bytes, &mut cells).unwrap();
        assert!(cells[1].is_nan() && cells[0] == 2.4 && cells[3] == 1e300 && cells[2].is_sign_negative());
        assert!(decode(&[0; 7], f64::from_le_bytes, &mut cells).is_err());
    }

    #[test]
    fn every_kind_has_one_name() {
        let names: std::collections::BTreeMap<_, _> = [Kind::Number, Kind::WholeNumber, Kind::Category, Kind::DateTime, Kind::Text]
            .into_iter()
            .map(|kind| (kind_name(kind), kind))
            .collect();
        assert_eq!(names.len(), 5);
        assert!(names.iter().all(|(name, kind)| kind_of(name).unwrap() == *kind));
        assert!(kind_of("pie").is_err());
    }
}
