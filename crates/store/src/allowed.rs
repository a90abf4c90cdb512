//! Values that a column takes, by what is said of it.

use acorn_data::frame::{Kind, Values};
use acorn_formats::CellValue;

use crate::{Result, StoreError, StoredColumn};

/// Refuses a value that a column cannot have.
pub(crate) fn one(column: &StoredColumn, value: &CellValue) -> Result<()> {
    let rules = &column.info.rules;
    let refusal = match value {
        CellValue::Number(number) => rules.refuses(&column.name, *number),
        CellValue::Label(label) if column.kind == Kind::Category => rules.refuses_label(&column.name, label),
        CellValue::Label(_) | CellValue::Time(_) | CellValue::Missing => None,
    };
    refusal.map_or(Ok(()), |problem| Err(StoreError::NotAllowed { problem }))
}

/// Refuses values among which is one that a column cannot have.
pub(crate) fn all(column: &StoredColumn, values: &Values) -> Result<()> {
    let rules = &column.info.rules;
    let refusal = match values {
        Values::Number(numbers) => numbers.iter().find_map(|number| rules.refuses(&column.name, *number)),
        Values::Label { labels, .. } if column.kind == Kind::Category => {
            labels.iter().find_map(|label| rules.refuses_label(&column.name, label))
        }
        Values::Label { .. } | Values::Time(_) => None,
    };
    refusal.map_or(Ok(()), |problem| Err(StoreError::NotAllowed { problem }))
}
