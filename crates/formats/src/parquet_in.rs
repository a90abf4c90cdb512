//! Rows of a Parquet file.

use acorn_data::frame::time_text;
use bytes::Bytes;
use parquet::file::reader::{FileReader, SerializedFileReader};
use parquet::record::Field;

use crate::bounds;
use crate::error::FormatError;
use crate::lines::Lines;
use crate::records::Records;
use crate::sheet::guarded;

/// Microseconds of a day.
const DAY: i64 = 86_400_000_000;

/// Reads all rows.
///
/// # Errors
/// [`FormatError::BrokenFile`], [`FormatError::TooMuch`].
pub(crate) fn lines(name: &str, bytes: Vec<u8>) -> Result<Lines<'static>, FormatError> {
    let mut records = Records::default();
    let mut too_much = Ok(());
    guarded(name, || {
        let broken = |error: parquet::errors::ParquetError| error.to_string();
        let reader = SerializedFileReader::new(Bytes::from(bytes)).map_err(broken)?;
        let file = reader.metadata().file_metadata();
        let unpacked: i64 = reader.metadata().row_groups().iter().map(|group| group.total_byte_size().max(0)).sum();
        too_much = FormatError::bound("rows", usize::try_from(file.num_rows()).unwrap_or(usize::MAX), bounds::ROWS)
            .and_then(|()| FormatError::bound("unpacked size in bytes", unpacked as usize, bounds::UNPACKED_BYTES as usize));
        if too_much.is_err() {
            return Ok(());
        }
        for row in reader.get_row_iter(None).map_err(broken)? {
            let row = row.map_err(broken)?;
            too_much = put(&mut records, row.get_column_iter());
            if too_much.is_err() {
                break;
            }
        }
        Ok(())
    })?;
    too_much?;
    if records.is_empty() {
        return Err(FormatError::NoRows { name: name.to_owned() });
    }
    Ok(records.lines(Vec::new()))
}

fn put<'r>(records: &mut Records, row: impl Iterator<Item = (&'r String, &'r Field)>) -> Result<(), FormatError> {
    records.row()?;
    for (name, field) in row {
        let place = records.place(name)?;
        if let Some((text, stored)) = cell(field) {
            records.put(place, &text, stored)?;
        }
    }
    Ok(())
}

/// The text of a cell, and whether it is a number; `None` for missing.
fn cell(field: &Field) -> Option<(String, bool)> {
    let moment = |micros: i64| (time_text(micros).unwrap_or_default(), false);
    Some(match field {
        Field::Null => return None,
        Field::Bool(flag) => (if *flag { "yes" } else { "no" }.to_owned(), false),
        Field::Float(value) if value.is_nan() => return None,
        Field::Double(value) if value.is_nan() => return None,
        // As written: 0.1 of four bytes is no 0.10000000149.
        Field::Float(value) => (value.to_string(), true),
        Field::Double(value) => (value.to_string(), true),
        Field::Byte(_) | Field::Short(_) | Field::Int(_) | Field::Long(_) => (field.to_string(), true),
        Field::UByte(_) | Field::UShort(_) | Field::UInt(_) | Field::ULong(_) | Field::Decimal(_) => (field.to_string(), true),
        Field::Str(text) => (text.clone(), false),
        Field::Bytes(bytes) => (String::from_utf8_lossy(bytes.data()).into_owned(), false),
        Field::Date(days) => moment(i64::from(*days).saturating_mul(DAY)),
        Field::TimestampMillis(millis) => moment(millis.saturating_mul(1000)),
        Field::TimestampMicros(micros) => moment(*micros),
        other => (other.to_string().trim_matches('"').to_owned(), false),
    })
}
