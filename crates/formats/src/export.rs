//! CSV out: comma, decimal point, UTF-8, missing values empty.

use std::io::Write;

use acorn_core::frame::Values;

/// Writes named columns as CSV (RFC 4180), one block of rows at a time. Numbers take the fewest digits
/// that read back the same.
///
/// # Errors
/// Those of the writer.
pub fn write_csv(columns: &[(&str, &Values)], out: &mut impl Write) -> std::io::Result<()> {
    let mut writer = csv::WriterBuilder::new().from_writer(out);
    writer.write_record(columns.iter().map(|(name, _)| *name))?;
    let rows = columns.first().map_or(0, |(_, values)| values.len());
    for row in 0..rows {
        for (_, values) in columns {
            writer.write_field(values.text(row).unwrap_or_default())?;
        }
        writer.write_record(None::<&[u8]>)?;
    }
    writer.flush()
}
