//! Corrections to how a file is read, as arguments.

use acorn_data::frame::Kind;
use acorn_formats::{ColumnReadOptions, DateOrder, ReadColumn, ReadOptions};
use anyhow::{Context, bail};
use clap::Args;
use serde::de::DeserializeOwned;

/// How a file is read where that is not what it seems; remembered for the next of its layout.
#[derive(Args, Clone, Debug, Default, PartialEq)]
pub struct ImportOverrides {
    /// Encoding of a text, such as windows-1252
    #[arg(long, value_name = "LABEL")]
    encoding: Option<String>,
    /// Sign between columns; a space for columns of fixed width
    #[arg(long, value_name = "SIGN")]
    delimiter: Option<char>,
    /// Decimal sign, . or ,
    #[arg(long, value_name = "SIGN")]
    decimal: Option<char>,
    /// The line with the column names, from 1; 0 for none
    #[arg(long, value_name = "LINE")]
    header_line: Option<u64>,
    /// How many lines have the column names, 1 or 2
    #[arg(long, value_name = "LINES")]
    header_lines: Option<u8>,
    /// What comes first in a date: day-first, month-first or year-first
    #[arg(long, value_name = "ORDER", value_parser = word::<DateOrder>)]
    date_order: Option<DateOrder>,
    /// Sheet of a workbook
    #[arg(long)]
    sheet: Option<String>,
    /// Keep a line that looks like units as a row
    #[arg(long)]
    keep_units: bool,
    /// Keep totals, and what stands under the table, as rows
    #[arg(long)]
    keep_totals: bool,
    /// Read the cells of a merged range as missing, beside the first
    #[arg(long)]
    keep_merged: bool,
    /// Give empty cells of a column the value above them; may be said again
    #[arg(long, value_name = "COLUMN")]
    fill_down: Vec<String>,
    /// Leave a column out; may be said again
    #[arg(long, value_name = "COLUMN")]
    leave_out: Vec<String>,
    /// Call a column otherwise; may be said again
    #[arg(long, value_name = "COLUMN=NAME")]
    rename: Vec<String>,
    /// Take a column as number, whole-number, category, date-time or text; may be said again
    #[arg(long, value_name = "COLUMN=KIND")]
    kind: Vec<String>,
}

fn word<T: DeserializeOwned>(text: &str) -> Result<T, String> {
    serde_json::from_value(serde_json::Value::from(text)).map_err(|error| error.to_string())
}

impl ImportOverrides {
    /// Whether nothing is said.
    pub fn are_none(&self) -> bool {
        *self == ImportOverrides::default()
    }

    /// The corrections to a file as a whole, on top of others.
    pub fn of_file(&self, before: ReadOptions) -> ReadOptions {
        ReadOptions {
            encoding: self.encoding.clone().or(before.encoding),
            delimiter: self.delimiter.or(before.delimiter),
            decimal: self.decimal.or(before.decimal),
            header_line: self.header_line.or(before.header_line),
            header_lines: self.header_lines.or(before.header_lines),
            date_order: self.date_order.or(before.date_order),
            sheet: self.sheet.clone().or(before.sheet),
            keep_units: self.keep_units || before.keep_units,
            keep_total: self.keep_totals || before.keep_total,
            keep_merged: self.keep_merged || before.keep_merged,
            ..before
        }
    }

    /// Those to its columns, which are named as they were read.
    ///
    /// # Errors
    /// A column that is not there, or a kind that is none.
    pub fn of_columns(&self, read: &[ReadColumn], read_options: &mut ReadOptions) -> anyhow::Result<()> {
        let mut mend = |name: &str, change: &dyn Fn(&mut ColumnReadOptions)| -> anyhow::Result<()> {
            let found = read.iter().find(|column| column.name == name);
            let index = found.with_context(|| format!("the file has no column “{name}”"))?.index;
            let place = read_options.columns.iter().rposition(|column| column.index == index).unwrap_or_else(|| {
                read_options.columns.push(ColumnReadOptions { index, ..ColumnReadOptions::default() });
                read_options.columns.len() - 1
            });
            change(&mut read_options.columns[place]);
            Ok(())
        };
        self.fill_down.iter().try_for_each(|name| mend(name, &|column| column.fill_down = true))?;
        self.leave_out.iter().try_for_each(|name| mend(name, &|column| column.leave_out = true))?;
        for text in &self.kind {
            let (name, kind) = parted(text)?;
            let kind: Kind = word(kind).map_err(|problem| anyhow::anyhow!("--kind {text}: {problem}"))?;
            mend(name, &|column| column.kind = Some(kind))?;
        }
        for text in &self.rename {
            let (name, new) = parted(text)?;
            mend(name, &|column| column.name = Some(new.to_owned()))?;
        }
        Ok(())
    }
}

/// What stands before and after the last equals sign.
fn parted(text: &str) -> anyhow::Result<(&str, &str)> {
    match text.rsplit_once('=') {
        Some((name, what)) if !what.trim().is_empty() => Ok((name, what.trim())),
        _ => bail!("“{text}” is not written as COLUMN=WHAT"),
    }
}
