//! Tables out as Parquet: numbers as doubles, moments in UTC, everything else as text; missing values null.

use std::sync::Arc;

use acorn_data::frame::Values;
use parquet::basic::{LogicalType, Repetition, TimeUnit, Type as Physical};
use parquet::data_type::{ByteArray, ByteArrayType, DoubleType, Int64Type};
use parquet::errors::ParquetError;
use parquet::file::properties::WriterProperties;
use parquet::file::writer::{SerializedColumnWriter, SerializedFileWriter};
use parquet::schema::types::Type;

use crate::error::FormatError;
use crate::export::rows_of;

/// Rows of a group: few enough to hold, many enough to be read fast.
const GROUP: usize = 1 << 17;

/// Writes named columns as a Parquet file.
///
/// # Errors
/// [`FormatError::Unwritable`] for what it cannot hold, such as two columns of one name.
pub fn write_parquet(columns: &[(&str, &Values)]) -> Result<Vec<u8>, FormatError> {
    file(columns).map_err(|error| FormatError::Unwritable { problem: error.to_string() })
}

fn file(columns: &[(&str, &Values)]) -> Result<Vec<u8>, ParquetError> {
    let fields = columns.iter().map(|(name, values)| Ok(Arc::new(field(name, values)?))).collect::<Result<Vec<_>, ParquetError>>()?;
    let schema = Arc::new(Type::group_type_builder("table").with_fields(fields).build()?);
    let mut out = Vec::new();
    let mut writer = SerializedFileWriter::new(&mut out, schema, Arc::new(WriterProperties::builder().build()))?;
    let rows = rows_of(columns);
    for from in (0..rows).step_by(GROUP) {
        let upto = (from + GROUP).min(rows);
        let mut group = writer.next_row_group()?;
        for (_, values) in columns {
            if let Some(mut column) = group.next_column()? {
                write(&mut column, values, from..upto)?;
                column.close()?;
            }
        }
        group.close()?;
    }
    writer.close()?;
    Ok(out)
}

fn field(name: &str, values: &Values) -> Result<Type, ParquetError> {
    let (physical, logical) = match values {
        Values::Number(_) => (Physical::DOUBLE, None),
        Values::Time(_) => (Physical::INT64, Some(LogicalType::timestamp(true, TimeUnit::MICROS))),
        Values::Label { .. } => (Physical::BYTE_ARRAY, Some(LogicalType::String)),
    };
    Type::primitive_type_builder(name, physical).with_repetition(Repetition::OPTIONAL).with_logical_type(logical).build()
}

fn write(column: &mut SerializedColumnWriter, values: &Values, rows: std::ops::Range<usize>) -> Result<(), ParquetError> {
    // 1 where there is a value, of which only those that are there are written.
    let there: Vec<i16> = rows.clone().map(|row| i16::from(!values.is_missing(row))).collect();
    let present = rows.filter(|row| !values.is_missing(*row));
    match values {
        Values::Number(numbers) => {
            let numbers: Vec<f64> = present.map(|row| numbers[row]).collect();
            column.typed::<DoubleType>().write_batch(&numbers, Some(&there), None)?;
        }
        Values::Time(moments) => {
            let moments: Vec<i64> = present.map(|row| moments[row]).collect();
            column.typed::<Int64Type>().write_batch(&moments, Some(&there), None)?;
        }
        Values::Label { .. } => {
            let texts: Vec<ByteArray> =
                present.map(|row| ByteArray::from(values.text(row).unwrap_or_default().to_string().as_str())).collect();
            column.typed::<ByteArrayType>().write_batch(&texts, Some(&there), None)?;
        }
    }
    Ok(())
}
