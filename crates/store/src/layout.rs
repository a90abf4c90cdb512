//! Where rows stand: the chunks of a dataset, alike in each of its columns.

use std::collections::{HashMap, HashSet};

use sqlx::SqliteConnection;

use crate::Result;
use crate::chunks::{CHUNK_GAP, CHUNK_ROWS, ROW_ID_KIND, WHOLE, read_row_ids};

/// One chunk in the order of the rows.
#[derive(Clone, Copy, Debug, PartialEq)]
pub struct Place {
    /// Its number.
    pub no: i64,
    /// The position of its first row.
    pub first: usize,
    /// How many rows it holds.
    pub rows: usize,
}

/// The chunks of a dataset.
#[derive(Debug)]
pub struct Layout {
    /// The hidden column of row ids.
    pub ids_column: i64,
    /// In the order of the rows.
    pub places: Vec<Place>,
}

/// How rows are put in between others: the cells of a chunk up to `offset`, the new ones, the rest of the chunk, all that cut
/// into pieces.
#[derive(Debug, PartialEq)]
pub struct Insertion {
    /// The chunk that is opened; absent when new ones are added behind all.
    pub opened: Option<Place>,
    /// Rows of that chunk that stay in front.
    pub offset: usize,
    /// Number and rows of each piece.
    pub pieces: Vec<(i64, usize)>,
}

impl Layout {
    /// Reads the chunks of a dataset.
    pub async fn read(connection: &mut SqliteConnection, dataset_id: i64) -> Result<Layout> {
        let query = sqlx::query_scalar("SELECT id FROM dataset_column WHERE dataset_id = ? AND kind = ?");
        let ids_column: i64 = query.bind(dataset_id).bind(ROW_ID_KIND).fetch_one(&mut *connection).await?;
        let query = sqlx::query_as("SELECT chunk_no, row_count FROM column_chunk WHERE column_id = ? ORDER BY chunk_no");
        let chunks: Vec<(i64, i64)> = query.bind(ids_column).fetch_all(connection).await?;
        Ok(Layout::of(ids_column, chunks.into_iter().map(|(no, rows)| (no, rows as usize))))
    }

    pub fn of(ids_column: i64, chunks: impl IntoIterator<Item = (i64, usize)>) -> Layout {
        let mut first = 0;
        let place = |(no, rows)| {
            first += rows;
            Place { no, first: first - rows, rows }
        };
        Layout { ids_column, places: chunks.into_iter().map(place).collect() }
    }

    /// Rows in all.
    pub fn rows(&self) -> usize {
        self.places.last().map_or(0, |place| place.first + place.rows)
    }

    /// The chunk that holds a row, by its position.
    pub fn holding(&self, position: usize) -> Option<Place> {
        let after = self.places.partition_point(|place| place.first <= position);
        after.checked_sub(1).map(|i| self.places[i]).filter(|place| position < place.first + place.rows)
    }

    /// The numbers of the chunks that hold a window of rows, and where the window starts within them.
    pub fn window(&self, first: usize, count: usize) -> (std::ops::Range<i64>, usize) {
        let Some(start) = self.holding(first).filter(|_| count > 0) else { return (0..0, 0) };
        let end = self.holding(first + count - 1).or(self.places.last().copied()).unwrap_or(start);
        (start.no..end.no + 1, first - start.first)
    }

    /// The id of the row at a position.
    pub async fn id_at(&self, connection: &mut SqliteConnection, position: usize) -> Result<Option<i64>> {
        let (window, skip) = self.window(position, 1);
        Ok(read_row_ids(connection, self.ids_column, window).await?.get(skip).copied())
    }

    /// Where each of some rows stands now, by its id.
    pub async fn positions(&self, connection: &mut SqliteConnection, ids: &HashSet<i64>) -> Result<HashMap<i64, usize>> {
        if ids.is_empty() {
            return Ok(HashMap::new());
        }
        let all = read_row_ids(connection, self.ids_column, WHOLE).await?;
        Ok(all.iter().enumerate().filter(|(_, id)| ids.contains(id)).map(|(position, &id)| (id, position)).collect())
    }

    /// How `count` rows are put in so that the first of them comes to stand at a position.
    pub fn insertion(&self, position: usize, count: usize) -> Insertion {
        let last = self.places.last().copied();
        let Some(last) = last else { return Insertion { opened: None, offset: 0, pieces: pieces(0, None, count) } };
        if position >= self.rows() {
            if last.rows >= CHUNK_ROWS {
                return Insertion { opened: None, offset: 0, pieces: pieces(last.no + CHUNK_GAP, None, count) };
            }
            return Insertion { opened: Some(last), offset: last.rows, pieces: pieces(last.no, None, last.rows + count) };
        }
        let opened = self.holding(position).unwrap_or(last);
        let next = self.places.iter().find(|place| place.no > opened.no).map(|place| place.no);
        Insertion { opened: Some(opened), offset: position - opened.first, pieces: pieces(opened.no, next, opened.rows + count) }
    }
}

/// Cuts rows into chunks numbered from `no` on and below `next`. Where no number is left between two, chunks grow instead.
fn pieces(no: i64, next: Option<i64>, rows: usize) -> Vec<(i64, usize)> {
    let wanted = rows.div_ceil(CHUNK_ROWS).max(1);
    match next {
        None => (0..wanted).map(|i| (no + i as i64 * CHUNK_GAP, (rows - i * CHUNK_ROWS).min(CHUNK_ROWS))).collect(),
        Some(next) => {
            let count = wanted.min((next - no) as usize);
            let step = (next - no) / count as i64;
            (0..count).map(|i| (no + i as i64 * step, rows * (i + 1) / count - rows * i / count)).collect()
        }
    }
}
