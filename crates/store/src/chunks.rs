//! Columns as chunks of cells: how they are encoded, written and read.

use std::sync::Arc;

use acorn_data::frame::{Kind, Values};
use sqlx::SqliteConnection;

use crate::{Result, StoreError, labels};

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
pub fn decode<const N: usize, T>(blob: &[u8], from: impl Fn([u8; N]) -> T, cells: &mut Vec<T>) -> Result<()> {
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

/// Writes all cells of a column that has none yet, and its labels.
pub async fn write_column(connection: &mut SqliteConnection, column_id: i64, values: Values) -> Result<()> {
    if let Values::Label { labels, .. } = &values {
        labels::begin(connection, column_id, labels).await?;
    }
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

/// All chunks of a column.
pub const WHOLE: std::ops::Range<i64> = i64::MIN..i64::MAX;

/// Reads all cells of a column.
pub async fn read_column(connection: &mut SqliteConnection, column_id: i64, kind: Kind) -> Result<Values> {
    let blobs = read_chunks(connection, column_id, WHOLE).await?;
    Ok(match kind {
        Kind::Number | Kind::WholeNumber => Values::Number(joined(&blobs, f64::from_le_bytes)?),
        Kind::DateTime => Values::Time(joined(&blobs, i64::from_le_bytes)?),
        Kind::Category | Kind::Text => {
            Values::Label { codes: joined(&blobs, u32::from_le_bytes)?, labels: labels::all(connection, column_id).await? }
        }
    })
}

/// Reads some rows of a column, counted from the first of the chunks in which they stand.
pub async fn read_rows(
    connection: &mut SqliteConnection,
    column_id: i64,
    kind: Kind,
    chunks: std::ops::Range<i64>,
    rows: std::ops::Range<usize>,
) -> Result<Values> {
    let blobs = read_chunks(connection, column_id, chunks).await?;
    fn cut<T: Clone>(cells: &[T], rows: std::ops::Range<usize>) -> Arc<[T]> {
        cells[rows.start.min(cells.len())..rows.end.min(cells.len())].into()
    }
    Ok(match kind {
        Kind::Number | Kind::WholeNumber => Values::Number(cut(&joined(&blobs, f64::from_le_bytes)?, rows)),
        Kind::DateTime => Values::Time(cut(&joined(&blobs, i64::from_le_bytes)?, rows)),
        Kind::Category | Kind::Text => {
            let cells = joined(&blobs, u32::from_le_bytes)?;
            labels::of_cells(connection, column_id, &cut(&cells, rows)).await?
        }
    })
}

/// Reads the cells at some places of a column, counted from the first of the chunks in which they stand.
pub async fn read_picked(
    connection: &mut SqliteConnection,
    column_id: i64,
    kind: Kind,
    chunks: &[i64],
    places: &[usize],
) -> Result<Values> {
    let query =
        "SELECT cells FROM json_each(?) AS wanted CROSS JOIN column_chunk ON column_id = ? AND chunk_no = wanted.value ORDER BY wanted.key";
    let query = sqlx::query_as(query).bind(serde_json::to_string(chunks)?).bind(column_id);
    let blobs: Vec<(Vec<u8>,)> = query.fetch_all(&mut *connection).await?;
    fn pick<T: Copy>(cells: &[T], places: &[usize]) -> Result<Vec<T>> {
        let lacking = || StoreError::Corrupt("a chunk is shorter than its rows".into());
        places.iter().map(|place| cells.get(*place).copied().ok_or_else(lacking)).collect()
    }
    Ok(match kind {
        Kind::Number | Kind::WholeNumber => Values::Number(pick(&joined(&blobs, f64::from_le_bytes)?, places)?.into()),
        Kind::DateTime => Values::Time(pick(&joined(&blobs, i64::from_le_bytes)?, places)?.into()),
        Kind::Category | Kind::Text => {
            let cells = pick(&joined(&blobs, u32::from_le_bytes)?, places)?;
            labels::of_cells(connection, column_id, &cells).await?
        }
    })
}

async fn read_chunks(connection: &mut SqliteConnection, column_id: i64, chunks: std::ops::Range<i64>) -> Result<Vec<(Vec<u8>,)>> {
    let query = sqlx::query_as("SELECT cells FROM column_chunk WHERE column_id = ? AND chunk_no >= ? AND chunk_no < ? ORDER BY chunk_no");
    Ok(query.bind(column_id).bind(chunks.start).bind(chunks.end).fetch_all(&mut *connection).await?)
}

/// The row ids of the chunks in a range of numbers; a column of moments and one of ids are stored alike.
pub async fn read_row_ids(connection: &mut SqliteConnection, ids_column: i64, chunks: std::ops::Range<i64>) -> Result<Arc<[i64]>> {
    joined(&read_chunks(connection, ids_column, chunks).await?, i64::from_le_bytes)
}

fn joined<const N: usize, T>(blobs: &[(Vec<u8>,)], from: impl Fn([u8; N]) -> T + Copy) -> Result<Arc<[T]>> {
    let mut cells = Vec::with_capacity(blobs.iter().map(|(blob,)| blob.len() / N).sum());
    for (blob,) in blobs {
        decode(blob, from, &mut cells)?;
    }
    Ok(cells.into())
}
