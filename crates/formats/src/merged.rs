//! Merged cells of a workbook: only the first of a range has the value, which is meant for all of its rows.

use crate::lines::SheetRow;
use crate::reading::ReadNote;

/// A merged range: its first and last line, its first and last column. What stands to the right of the first column is left alone,
/// because a title over a table is merged too.
#[derive(Clone, Copy, Debug)]
pub(crate) struct Range {
    pub lines: (u64, u64),
    pub columns: (usize, usize),
}

/// How a spreadsheet calls a cell: "B4".
pub(crate) fn place(line: u64, column: usize) -> String {
    let mut letters = Vec::new();
    let mut left = column + 1;
    while left > 0 {
        letters.push(char::from(b'A' + ((left - 1) % 26) as u8));
        left = (left - 1) / 26;
    }
    format!("{}{line}", letters.iter().rev().collect::<String>())
}

/// Gives the rows of each range the value of its first cell, where they have anything else in them.
pub(crate) fn fill_down(rows: &mut [SheetRow], ranges: &[Range]) {
    for &Range { lines: (first, last), columns: (column, _) } in ranges {
        let Ok(at) = rows.binary_search_by_key(&first, |row| row.line) else { continue };
        let text = rows[at].record.get(column).unwrap_or_default().to_owned();
        let stored = rows[at].stored.get(column) == Some(&true);
        if text.trim().is_empty() {
            continue;
        }
        for row in rows[at + 1..].iter_mut().take_while(|row| row.line <= last) {
            row.put(column, &text, stored);
        }
    }
}

/// What is said of merged cells.
pub(crate) fn note(ranges: &[Range], kept: bool) -> Option<ReadNote> {
    let first = ranges.iter().min_by_key(|range| (range.lines, range.columns))?;
    let many = if ranges.len() == 1 { "One range of cells is".to_owned() } else { format!("{} ranges of cells are", ranges.len()) };
    let read =
        if kept { "only its first cell has the value, the others are missing" } else { "each of its rows has the value of the first" };
    let (from, to) = (place(first.lines.0, first.columns.0), place(first.lines.1, first.columns.1));
    Some(ReadNote::doubt("merged", format!("{many} merged, the first from {from} to {to}: {read}.")))
}
