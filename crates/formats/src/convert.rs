//! A column as another kind.

use acorn_data::frame::{Kind, Values};

use crate::cell::parse_value;
use crate::error::FormatError;
use crate::table::{Builder, CellValue};

/// The values of a column as another kind, each through its text.
///
/// # Errors
/// [`FormatError::DoNotFit`] counts the values that the new kind cannot hold and names the first; nothing
/// is converted then.
pub fn convert(values: &Values, kind: Kind) -> Result<Values, FormatError> {
    let mut builder = Builder::new(kind, values.len());
    let mut misfits = 0;
    let mut first: Option<(usize, String)> = None;
    for row in 0..values.len() {
        let text = values.text(row).unwrap_or_default();
        let value = parse_value(kind, &text).unwrap_or_else(|_| {
            misfits += 1;
            first.get_or_insert((row + 1, text));
            CellValue::Missing
        });
        builder.push(value);
    }
    match first {
        None => Ok(builder.finish()),
        Some((row, text)) => Err(FormatError::DoNotFit { count: misfits, row, text, kind: kind.display_text() }),
    }
}
