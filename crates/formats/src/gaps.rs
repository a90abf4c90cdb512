//! Columns in which only the first row of a block has a value, the cells under it empty.

use crate::layout::is_value;
use crate::reading::ReadNote;

/// What is said of such a column.
pub(crate) fn note(name: &str, column: usize, fills: bool) -> ReadNote {
    let note = match fills {
        true => ReadNote::fact("gaps", format!("{name}: an empty cell has the value of the one above it.")),
        false => ReadNote::doubt(
            "gaps",
            format!("{name} seems to stand only at the first row of each block: the empty cells below it are missing."),
        ),
    };
    ReadNote { column: Some(column), ..note }
}

/// Counts that tell whether a column is so.
#[derive(Default)]
pub struct Gaps {
    rows: usize,
    filled: usize,
    /// Whether the first row has a value.
    begins: bool,
    /// Whether a value is the same as the one above it, as in columns that were never meant so.
    repeats: bool,
    measured: bool,
    last: String,
}

impl Gaps {
    /// Looks at the next cell.
    pub fn see(&mut self, cell: &str) {
        let cell = cell.trim();
        self.begins |= self.rows == 0 && !cell.is_empty();
        self.rows += 1;
        if !cell.is_empty() {
            self.filled += 1;
            self.repeats |= self.last == cell;
            // A measured value belongs to its row alone.
            self.measured |=
                cell.contains(['.', ',']) && is_value(cell) && !cell.contains([':', '-', '/']) && cell.matches('.').count() < 2;
            self.last.clear();
            self.last.push_str(cell);
        }
    }

    /// Whether the column seems to say each value once for a block of rows: half of its cells or more are empty, it begins with
    /// a value, several follow, and none is said twice in a row.
    pub fn in_blocks(&self) -> bool {
        self.begins && !self.repeats && !self.measured && self.filled > 1 && self.filled * 2 <= self.rows
    }
}
