//! Before-images: what a change replaced, from which undoing and redoing put it back bit by bit.
//!
//! An image keeps the bytes between what stayed in front and what stayed behind. Changes are undone in the order opposite to
//! that in which they were made, so that what stayed is still there.

use sqlx::{FromRow, SqliteConnection};

use crate::chunks::{Chunk, read_chunk, write_chunk};
use crate::{Result, StoreError};

#[derive(Debug, PartialEq, FromRow)]
pub struct Image {
    column_id: i64,
    chunk_no: i64,
    row_count: Option<i64>,
    front: i64,
    back: i64,
    pub cells: Vec<u8>,
}

impl Image {
    pub fn between(column_id: i64, chunk_no: i64, before: Option<&Chunk>, after: Option<&Chunk>) -> Image {
        let (old, new) = (before.map_or(&[][..], |chunk| &chunk.cells), after.map_or(&[][..], |chunk| &chunk.cells));
        let front = old.iter().zip(new).take_while(|(a, b)| a == b).count();
        let back = old[front..].iter().rev().zip(new[front..].iter().rev()).take_while(|(a, b)| a == b).count();
        Image {
            column_id,
            chunk_no,
            row_count: before.map(|chunk| chunk.rows as i64),
            front: front as i64,
            back: back as i64,
            cells: old[front..old.len() - back].to_vec(),
        }
    }

    /// The chunk as it was, from what it became.
    pub fn before(&self, after: Option<&Chunk>) -> Result<Option<Chunk>> {
        let Some(rows) = self.row_count else { return Ok(None) };
        let now = after.map_or(&[][..], |chunk| &chunk.cells);
        let (front, back) = (self.front as usize, self.back as usize);
        if front + back > now.len() {
            return Err(StoreError::Corrupt("a chunk is not what its image says".into()));
        }
        let cells = [&now[..front], &self.cells, &now[now.len() - back..]].concat();
        Ok(Some(Chunk { rows: rows as usize, cells }))
    }
}

/// Writes a chunk and keeps what it replaced with a line of the history.
pub(crate) async fn replace(
    connection: &mut SqliteConnection,
    line: i64,
    column_id: i64,
    chunk_no: i64,
    after: Option<&Chunk>,
) -> Result<()> {
    let before = read_chunk(connection, column_id, chunk_no).await?;
    if before.as_ref() == after {
        return Ok(());
    }
    // What one change replaces twice is kept as it was before the first time.
    let original = match kept(connection, line, column_id, chunk_no).await? {
        Some(image) => image.before(before.as_ref())?,
        None => before,
    };
    let image = Image::between(column_id, chunk_no, original.as_ref(), after);
    write_chunk(connection, column_id, chunk_no, after).await?;
    let insert = sqlx::query(
        "INSERT OR REPLACE INTO before_image (history_id, column_id, chunk_no, row_count, front, back, cells) VALUES (?, ?, ?, ?, ?, ?, ?)",
    );
    let insert = insert.bind(line).bind(column_id).bind(chunk_no).bind(image.row_count).bind(image.front).bind(image.back);
    insert.bind(image.cells).execute(connection).await?;
    Ok(())
}

/// What a line of the history keeps of a chunk.
async fn kept(connection: &mut SqliteConnection, line: i64, column_id: i64, chunk_no: i64) -> Result<Option<Image>> {
    let query = "SELECT column_id, chunk_no, row_count, front, back, cells FROM before_image WHERE history_id = ? AND column_id = ? \
        AND chunk_no = ?";
    Ok(sqlx::query_as(query).bind(line).bind(column_id).bind(chunk_no).fetch_optional(connection).await?)
}

/// Puts back what a line of the history replaced; what that replaces in turn is kept with another line, if one is given.
/// Gives the columns touched.
pub(crate) async fn restore(connection: &mut SqliteConnection, line: i64, kept_with: Option<i64>) -> Result<Vec<i64>> {
    let query = "SELECT column_id, chunk_no, row_count, front, back, cells FROM before_image WHERE history_id = ?";
    let images: Vec<Image> = sqlx::query_as(query).bind(line).fetch_all(&mut *connection).await?;
    let mut touched: Vec<i64> = Vec::new();
    for image in images {
        let now = read_chunk(connection, image.column_id, image.chunk_no).await?;
        let before = image.before(now.as_ref())?;
        match kept_with {
            Some(other) => replace(connection, other, image.column_id, image.chunk_no, before.as_ref()).await?,
            None => write_chunk(connection, image.column_id, image.chunk_no, before.as_ref()).await?,
        }
        if touched.last() != Some(&image.column_id) {
            touched.push(image.column_id);
        }
    }
    Ok(touched)
}

/// Forgets the images of a line.
pub(crate) async fn forget(connection: &mut SqliteConnection, line: i64) -> Result<()> {
    sqlx::query("DELETE FROM before_image WHERE history_id = ?").bind(line).execute(connection).await?;
    Ok(())
}
