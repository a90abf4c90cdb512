//! Columns as chunks of cells: how they are encoded, written and read.

use std::collections::HashMap;
use std::sync::Arc;

use acorn_core::frame::{Kind, NO_CODE, NO_TIME, Values};
use acorn_formats::CellValue;
use sqlx::SqliteConnection;

use crate::{Result, StoreError};

/// Rows of one chunk: small enough to rewrite for one edit, large enough to read a column in milliseconds.
pub const CHUNK_ROWS: usize = 2048;

/// Between the numbers of neighbouring chunks, so that rows can be put in between without moving what follows.
pub const CHUNK_GAP: i64 = 1 << 20;

/// The kind of the hidden column that gives rows their identity.
pub const ROW_ID_KIND: &str = "row-id";

/// The cells of one chunk as they are stored.
#[derive(Clone, Debug, PartialEq)]
pub struct Chunk {
    /// Rows.
    pub rows: usize,
    /// Their cells, little-endian.
    pub cells: Vec<u8>,
}

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

/// The cells of some rows as they are stored.
pub fn encode(values: &Values, rows: std::ops::Range<usize>) -> Vec<u8> {
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

/// Bytes of one cell.
pub fn cell_width(kind: Kind) -> usize {
    match kind {
        Kind::Category | Kind::Text => 4,
        Kind::Number | Kind::WholeNumber | Kind::DateTime => 8,
    }
}

/// The labels of a column and their codes. Labels are never taken away: what is undone may need them again.
#[derive(Default)]
pub struct Labels {
    column_id: i64,
    codes: HashMap<String, u32>,
}

impl Labels {
    /// Those of a column; of one without labels, none.
    pub async fn read(connection: &mut SqliteConnection, column_id: i64) -> Result<Labels> {
        let rows: Vec<(String, u32)> =
            sqlx::query_as("SELECT label, code FROM category WHERE column_id = ?").bind(column_id).fetch_all(connection).await?;
        Ok(Labels { column_id, codes: rows.into_iter().collect() })
    }

    /// The code of a label; a new one is stored.
    pub async fn code(&mut self, connection: &mut SqliteConnection, label: &str) -> Result<u32> {
        if let Some(&code) = self.codes.get(label) {
            return Ok(code);
        }
        let code = self.codes.len() as u32;
        let insert = sqlx::query("INSERT INTO category (column_id, code, label) VALUES (?, ?, ?)");
        insert.bind(self.column_id).bind(code).bind(label).execute(connection).await?;
        self.codes.insert(label.to_owned(), code);
        Ok(code)
    }

    /// One value as it is stored in a column of a kind.
    pub async fn cell(&mut self, connection: &mut SqliteConnection, kind: Kind, value: CellValue) -> Result<Vec<u8>> {
        Ok(match (kind, value) {
            (Kind::Category | Kind::Text, CellValue::Label(label)) => self.code(connection, &label).await?.to_le_bytes().to_vec(),
            (Kind::Category | Kind::Text, _) => NO_CODE.to_le_bytes().to_vec(),
            (Kind::Number | Kind::WholeNumber, CellValue::Number(number)) => number.to_le_bytes().to_vec(),
            (Kind::Number | Kind::WholeNumber, _) => f64::NAN.to_le_bytes().to_vec(),
            (Kind::DateTime, CellValue::Time(time)) => time.to_le_bytes().to_vec(),
            (Kind::DateTime, _) => NO_TIME.to_le_bytes().to_vec(),
        })
    }

    /// Values whose codes are those of the column.
    pub async fn adopt(&mut self, connection: &mut SqliteConnection, values: Values) -> Result<Values> {
        let Values::Label { codes, labels } = &values else { return Ok(values) };
        let mut known = Vec::with_capacity(labels.len());
        for label in labels.iter() {
            known.push(self.code(connection, label).await?);
        }
        let codes = codes.iter().map(|&code| known.get(code as usize).copied().unwrap_or(NO_CODE)).collect();
        Ok(Values::Label { codes, labels: labels.clone() })
    }
}

/// Writes all cells of a column that has none yet, and its labels.
pub async fn write_column(connection: &mut SqliteConnection, column_id: i64, values: Values) -> Result<()> {
    let mut labels = Labels { column_id, ..Labels::default() };
    let values = labels.adopt(connection, values).await?;
    for (place, start) in (0..values.len()).step_by(CHUNK_ROWS).enumerate() {
        let end = (start + CHUNK_ROWS).min(values.len());
        let chunk = Chunk { rows: end - start, cells: encode(&values, start..end) };
        write_chunk(connection, column_id, place as i64 * CHUNK_GAP, Some(&chunk)).await?;
    }
    Ok(())
}

/// Writes a chunk in place of what was there, or takes it away.
pub async fn write_chunk(connection: &mut SqliteConnection, column_id: i64, chunk_no: i64, chunk: Option<&Chunk>) -> Result<()> {
    match chunk {
        Some(Chunk { rows, cells }) => {
            let write = sqlx::query(
                "INSERT INTO column_chunk (column_id, chunk_no, row_count, cells) VALUES (?, ?, ?, ?) ON CONFLICT (column_id, chunk_no) \
                 DO UPDATE SET row_count = excluded.row_count, cells = excluded.cells",
            );
            write.bind(column_id).bind(chunk_no).bind(*rows as i64).bind(cells).execute(connection).await?;
        }
        None => {
            let delete = sqlx::query("DELETE FROM column_chunk WHERE column_id = ? AND chunk_no = ?");
            delete.bind(column_id).bind(chunk_no).execute(connection).await?;
        }
    }
    Ok(())
}

/// Reads a chunk as it is stored.
pub async fn read_chunk(connection: &mut SqliteConnection, column_id: i64, chunk_no: i64) -> Result<Option<Chunk>> {
    let query = sqlx::query_as("SELECT row_count, cells FROM column_chunk WHERE column_id = ? AND chunk_no = ?");
    let row: Option<(i64, Vec<u8>)> = query.bind(column_id).bind(chunk_no).fetch_optional(connection).await?;
    Ok(row.map(|(rows, cells)| Chunk { rows: rows as usize, cells }))
}

async fn labels(connection: &mut SqliteConnection, column_id: i64) -> Result<Arc<[String]>> {
    let rows: Vec<(String,)> =
        sqlx::query_as("SELECT label FROM category WHERE column_id = ? ORDER BY code").bind(column_id).fetch_all(connection).await?;
    Ok(rows.into_iter().map(|(label,)| label).collect())
}

/// Reads the cells of the chunks in a range of numbers.
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

/// The row ids of the chunks in a range of numbers; a column of moments and one of ids are stored alike.
pub async fn read_row_ids(connection: &mut SqliteConnection, ids_column: i64, chunks: std::ops::Range<i64>) -> Result<Arc<[i64]>> {
    match read_column(connection, ids_column, Kind::DateTime, chunks).await? {
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
