//! Tables out: CSV with comma, decimal point, UTF-8, or a workbook; missing values empty.

use std::io::Write;

use acorn_data::frame::Values;
use rust_xlsxwriter::{Format, Workbook, XlsxError};

use crate::bounds::SHEET_ROWS;
use crate::error::FormatError;

/// How texts stand in a CSV.
#[derive(Clone, Copy, Debug, Default, PartialEq, Eq)]
pub enum Texts {
    /// An apostrophe before what a spreadsheet would run as a formula; reading takes it away again.
    #[default]
    Harmless,
    /// As they are.
    AsWritten,
}

/// Signs that a spreadsheet takes for the beginning of a formula.
const FORMULA_SIGNS: [char; 6] = ['=', '+', '-', '@', '\t', '\r'];

fn harmless(text: String, texts: Texts) -> String {
    if texts == Texts::Harmless && text.starts_with(FORMULA_SIGNS) { format!("'{text}") } else { text }
}

/// A text as it was before an apostrophe was put in front of it.
pub(crate) fn as_meant(text: &str) -> &str {
    text.strip_prefix('\'').filter(|rest| rest.starts_with(FORMULA_SIGNS)).unwrap_or(text)
}

/// Writes named columns as CSV (RFC 4180), one block of rows at a time. Numbers take the fewest digits
/// that read back the same.
///
/// # Errors
/// Those of the writer.
pub fn write_csv(columns: &[(&str, &Values)], texts: Texts, out: &mut impl Write) -> std::io::Result<()> {
    let mut writer = csv::WriterBuilder::new().from_writer(out);
    writer.write_record(columns.iter().map(|(name, _)| harmless((*name).to_owned(), texts)))?;
    let rows = columns.first().map_or(0, |(_, values)| values.len());
    for row in 0..rows {
        for (_, values) in columns {
            let text = values.text(row).unwrap_or_default();
            // A number is no text, whatever its sign.
            writer.write_field(if matches!(values, Values::Label { .. }) { harmless(text, texts) } else { text })?;
        }
        writer.write_record(None::<&[u8]>)?;
    }
    writer.flush()
}

/// A sheet of a workbook: its name and its named columns.
pub type Sheet<'a> = (&'a str, Vec<(&'a str, &'a Values)>);

/// Writes named columns as a workbook of one sheet: numbers as numbers, everything else as text, the head bold and in sight.
///
/// # Errors
/// [`FormatError::TooMuch`] beyond what a sheet holds; [`FormatError::Unwritable`] for what a workbook cannot hold.
pub fn write_xlsx(columns: &[(&str, &Values)]) -> Result<Vec<u8>, FormatError> {
    write_book(&[("Sheet1", columns.to_vec())])
}

/// Writes several sheets as one workbook; their names are cut and cleaned as a workbook wants them.
///
/// # Errors
/// As [`write_xlsx`].
pub fn write_book(sheets: &[Sheet]) -> Result<Vec<u8>, FormatError> {
    for (_, columns) in sheets {
        FormatError::bound("rows of a sheet", rows_of(columns), SHEET_ROWS)?;
    }
    workbook(sheets).map_err(|error| FormatError::Unwritable { problem: error.to_string() })
}

pub fn rows_of(columns: &[(&str, &Values)]) -> usize {
    columns.first().map_or(0, |(_, values)| values.len())
}

fn workbook(sheets: &[Sheet]) -> Result<Vec<u8>, XlsxError> {
    let mut book = Workbook::new();
    let head = Format::new().set_bold();
    for (name, columns) in sheets {
        let sheet = book.add_worksheet();
        sheet.set_name(sheet_name(name))?;
        for (place, (name, values)) in columns.iter().enumerate() {
            let column = u16::try_from(place).map_err(|_| XlsxError::RowColumnLimitError)?;
            sheet.write_with_format(0, column, *name, &head)?;
            for row in (0..rows_of(columns)).filter(|row| !values.is_missing(*row)) {
                match values {
                    Values::Number(numbers) => sheet.write(row as u32 + 1, column, numbers[row])?,
                    _ => sheet.write(row as u32 + 1, column, values.text(row).unwrap_or_default())?,
                };
            }
        }
        sheet.set_freeze_panes(1, 0)?;
        sheet.autofit();
    }
    book.save_to_buffer()
}

/// A workbook takes 31 characters of a name, and none of these.
fn sheet_name(name: &str) -> String {
    name.chars().map(|letter| if "[]:*?/\\'".contains(letter) { ' ' } else { letter }).take(31).collect()
}
