//! A table as a workbook: numbers with their decimals, moments as dates, and a sheet that tells of each column what it holds.

use acorn_data::frame::{Column, NO_TIME, RowLimits, Values};
use rust_xlsxwriter::{Format, Workbook, Worksheet, XlsxError};

use crate::bounds::SHEET_ROWS;
use crate::error::FormatError;

/// Microseconds of a day, and the day 1970-01-01 as workbooks count them.
const DAY: f64 = 86_400e6;
const EPOCH: f64 = 25_569.0;
/// The first day that every workbook counts alike, 1900-03-01, and the first that none does, 10000-01-01.
const COUNTED: std::ops::Range<f64> = 61.0..2_958_466.0;

/// Writes columns as a workbook: the table, and of each column its kind, unit, decimals, limits and what it can be, with limits that differ
/// between rows on a sheet of their own; both read as specification lists.
///
/// # Errors
/// [`FormatError::TooMuch`] beyond what a sheet holds; [`FormatError::Unwritable`] for what a workbook cannot hold.
pub fn write_table_xlsx(columns: &[Column]) -> Result<Vec<u8>, FormatError> {
    let rows = columns.first().map_or(0, |column| column.values.len());
    FormatError::bound("rows of a sheet", rows, SHEET_ROWS)?;
    workbook(columns).map_err(|error| FormatError::Unwritable { problem: error.to_string() })
}

fn workbook(columns: &[Column]) -> Result<Vec<u8>, XlsxError> {
    let mut book = Workbook::new();
    let head = Format::new().set_bold();
    let table = book.add_worksheet();
    table.set_name("Table")?;
    for (place, column) in columns.iter().enumerate() {
        let at = u16::try_from(place).map_err(|_| XlsxError::RowColumnLimitError)?;
        table.write_with_format(0, at, &column.name, &head)?;
        write_column(table, at, column)?;
    }
    table.set_freeze_panes(1, 0)?;
    table.autofit();
    let told = book.add_worksheet();
    told.set_name("Columns")?;
    const TOLD: [&str; 13] = [
        "column",
        "kind",
        "unit",
        "decimals",
        "LSL",
        "target",
        "USL",
        "lower bound",
        "upper bound",
        "lowest believed",
        "highest believed",
        "choices",
        "causes",
    ];
    for (place, words) in TOLD.into_iter().enumerate() {
        told.write_with_format(0, place as u16, words, &head)?;
    }
    for (row, column) in (1..).zip(columns) {
        told.write(row, 0, &column.name)?;
        told.write(row, 1, column.kind.display_text())?;
        told.write(row, 2, column.info.unit.as_deref().unwrap_or_default())?;
        let (info, rules) = (&column.info, &column.info.rules);
        let limits = [info.decimals.map(f64::from), info.lsl, info.target, info.usl];
        let bounds = [rules.lower_bound, rules.upper_bound, rules.lowest, rules.highest];
        for (place, number) in (3..).zip(limits.into_iter().chain(bounds)) {
            if let Some(number) = number {
                told.write(row, place, number)?;
            }
        }
        told.write(row, 11, rules.choices.join(", "))?;
        told.write(row, 12, rules.causes.join("; "))?;
    }
    told.set_freeze_panes(1, 0)?;
    told.autofit();
    if columns.iter().any(|column| column.info.limit_table.is_some()) {
        write_limits(book.add_worksheet(), columns, &head)?;
    }
    book.save_to_buffer()
}

/// The limits that differ between rows, a line each.
fn write_limits(sheet: &mut Worksheet, columns: &[Column], head: &Format) -> Result<(), XlsxError> {
    sheet.set_name("Limits")?;
    for (place, words) in ["column", "limits by", "product", "dates in", "from", "LSL", "target", "USL"].into_iter().enumerate() {
        sheet.write_with_format(0, place as u16, words, head)?;
    }
    let lines = columns.iter().flat_map(|column| {
        let lines = column.info.limit_table.iter().flat_map(|table| &table.rows);
        lines.map(move |line| (column, line))
    });
    for (row, (column, line)) in (1..).zip(lines) {
        let chooser = |name: fn(&RowLimits) -> Option<&str>| column.held.as_ref().and_then(name);
        let by = chooser(|held| held.by.as_deref());
        let texts = [Some(column.name.as_str()), by, line.of.as_deref(), chooser(|held| held.since.as_deref()), line.from.as_deref()];
        for (place, text) in (0..).zip(texts) {
            sheet.write(row, place, text.unwrap_or_default())?;
        }
        for (place, number) in (5..).zip([line.limits.lsl, line.limits.target, line.limits.usl]) {
            if let Some(number) = number {
                sheet.write(row, place, number)?;
            }
        }
    }
    sheet.set_freeze_panes(1, 0)?;
    sheet.autofit();
    Ok(())
}

fn write_column(sheet: &mut Worksheet, at: u16, column: &Column) -> Result<(), XlsxError> {
    let there = || (0..column.values.len()).filter(|row| !column.values.is_missing(*row));
    match &column.values {
        Values::Number(numbers) => {
            let format = match column.info.decimals {
                Some(0) => Format::new().set_num_format("0"),
                Some(decimals) => Format::new().set_num_format(format!("0.{}", "0".repeat(decimals.into()))),
                None => Format::new(),
            };
            for row in there() {
                sheet.write_with_format(row as u32 + 1, at, numbers[row], &format)?;
            }
        }
        Values::Time(times) if times.iter().all(|time| *time == NO_TIME || is_counted(*time)) => {
            let format = Format::new().set_num_format("yyyy-mm-dd hh:mm:ss");
            for row in there() {
                sheet.write_with_format(row as u32 + 1, at, day(times[row]), &format)?;
            }
        }
        values => {
            for row in there() {
                sheet.write(row as u32 + 1, at, values.text(row).unwrap_or_default())?;
            }
        }
    }
    Ok(())
}

fn day(micros: i64) -> f64 {
    micros as f64 / DAY + EPOCH
}

/// Whether a workbook can tell a moment by its day, to the millisecond.
fn is_counted(micros: i64) -> bool {
    micros % 1000 == 0 && COUNTED.contains(&day(micros))
}
