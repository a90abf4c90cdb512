//! Which cells of a window of rows lie beyond their specification limits.

use acorn_data::frame::Values;

use crate::StoredColumn;

/// Cells beyond their limits, each as its column, its row in the window, and -1 below or 1 above.
pub(crate) fn beyond(columns: &[StoredColumn], cells: &[Values]) -> Vec<[i64; 3]> {
    let chooser = |id: Option<i64>| {
        let place = columns.iter().position(|column| Some(column.id) == id)?;
        Some((columns[place].name.as_str(), &cells[place]))
    };
    let mut found = Vec::new();
    for (place, (column, values)) in columns.iter().zip(cells).enumerate() {
        let Values::Number(numbers) = values else { continue };
        let table = column.info.limit_table.as_ref();
        let held = table.map(|table| table.held(&column.info, chooser(table.by), chooser(table.since), numbers.len()));
        let limits = |row: usize| held.as_ref().map_or_else(|| column.info.limits(), |held| held.limits(row));
        let side = |(row, value): (usize, &f64)| (row, limits(row).side(*value));
        let sides = numbers.iter().enumerate().map(side).filter(|(_, side)| *side != 0);
        found.extend(sides.map(|(row, side)| [place as i64, row as i64, side.into()]));
    }
    found
}
