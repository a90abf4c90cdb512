//! Tables out: CSV with comma, decimal point, UTF-8, or a workbook of one sheet; missing values empty.

use std::io::Write;

use acorn_core::frame::Values;
use rust_xlsxwriter::{Format, Workbook, XlsxError};

use crate::bounds::SHEET_ROWS;
use crate::error::FormatError;

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

/// Writes named columns as a workbook of one sheet: numbers as numbers, everything else as text, the head bold and in sight.
///
/// # Errors
/// [`FormatError::TooMuch`] beyond what a sheet holds; [`FormatError::Unwritable`] for what a workbook cannot hold.
pub fn write_xlsx(columns: &[(&str, &Values)]) -> Result<Vec<u8>, FormatError> {
    let rows = columns.first().map_or(0, |(_, values)| values.len());
    FormatError::bound("rows of a sheet", rows, SHEET_ROWS)?;
    workbook(columns, rows).map_err(|error| FormatError::Unwritable { problem: error.to_string() })
}

fn workbook(columns: &[(&str, &Values)], rows: usize) -> Result<Vec<u8>, XlsxError> {
    let mut book = Workbook::new();
    let sheet = book.add_worksheet();
    let head = Format::new().set_bold();
    for (place, (name, values)) in columns.iter().enumerate() {
        let column = u16::try_from(place).map_err(|_| XlsxError::RowColumnLimitError)?;
        sheet.write_with_format(0, column, *name, &head)?;
        for row in (0..rows).filter(|row| !values.is_missing(*row)) {
            match values {
                Values::Number(numbers) => sheet.write(row as u32 + 1, column, numbers[row])?,
                _ => sheet.write(row as u32 + 1, column, values.text(row).unwrap_or_default())?,
            };
        }
    }
    sheet.set_freeze_panes(1, 0)?;
    sheet.autofit();
    book.save_to_buffer()
}

#[cfg(test)]
mod tests {
    use acorn_core::frame::{Kind, NO_CODE, NO_TIME};

    use super::*;
    use crate::{Source, Wish, read};

    #[test]
    fn a_workbook_reads_back_as_what_was_written() {
        let labels = vec!["H1".to_owned(), "007".into()];
        // A row without anything is no row to the reader: the first column is never missing.
        let columns = [
            ("place", Values::Number(vec![1.0, 2.0, 3.0].into())),
            ("depth", Values::Number(vec![1.25, f64::NAN, 1e-7].into())),
            ("housing", Values::Label { codes: vec![0, NO_CODE, 1].into(), labels: labels.into() }),
            ("at", Values::Time(vec![1_767_225_600_000_000, NO_TIME, 1_767_225_660_000_000].into())),
        ];
        let named: Vec<(&str, &Values)> = columns.iter().map(|(name, values)| (*name, values)).collect();
        let table = read(&Source::open("out.xlsx", write_xlsx(&named).unwrap()).unwrap(), &Wish::default()).unwrap().table;
        assert_eq!([table.columns[1].kind, table.columns[3].kind], [Kind::Number, Kind::DateTime]);
        for (column, (name, values)) in table.columns.iter().zip(&columns) {
            assert_eq!(&column.name, name);
            assert!((0..3).all(|row| column.values.text(row) == values.text(row)), "{name}: {:?}", column.values);
        }
        assert!(write_xlsx(&[]).is_ok(), "no column is an empty sheet");
    }
}
