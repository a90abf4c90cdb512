//! What was understood of a file, and what a person may correct.

use acorn_data::frame::Kind;
use serde::{Deserialize, Serialize};

use crate::dates::DateOrder;
use crate::table::Table;

/// Corrections to how a file is read; whatever is absent is found from the file.
#[derive(Clone, Debug, Default, Serialize, Deserialize, utoipa::ToSchema)]
#[serde(default, deny_unknown_fields)]
pub struct ReadOptions {
    /// Encoding label, such as `windows-1252`.
    pub encoding: Option<String>,
    /// `,`, `;`, tab, `|`, or a space for columns of fixed width.
    pub delimiter: Option<char>,
    /// `.` or `,`.
    pub decimal: Option<char>,
    /// The line with the column names, from 1; 0 for none.
    pub header_line: Option<u64>,
    /// How many lines have the column names, 1 or 2.
    pub header_lines: Option<u8>,
    /// Which number of a date such as 04.05.2026 or 26-05-04 comes first.
    pub date_order: Option<DateOrder>,
    /// Sheet of a workbook.
    pub sheet: Option<String>,
    /// Keep a line that looks like units as a row.
    pub keep_units: bool,
    /// Keep totals, and what stands under the table, as rows.
    pub keep_total: bool,
    /// Read the cells of a merged range as missing, beside the first.
    pub keep_merged: bool,
    /// Corrections to columns.
    pub columns: Vec<ColumnReadOptions>,
    /// Answers to values that do not fit.
    pub fixes: Vec<Fix>,
    /// Take every value that does not fit as missing.
    pub unfit_as_missing: bool,
}

/// A correction to one column, by its place in the file.
#[derive(Clone, Debug, Default, Serialize, Deserialize, utoipa::ToSchema)]
#[serde(default)]
pub struct ColumnReadOptions {
    /// Place in the file, from 0.
    pub index: usize,
    /// Another name.
    pub name: Option<String>,
    /// Another kind.
    pub kind: Option<Kind>,
    /// Leave the column out.
    pub leave_out: bool,
    /// Its decimal sign, `.` or `,`.
    pub decimal: Option<char>,
    /// Whether an empty cell has the value of the one above it.
    pub fill_down: bool,
    /// Values such as "<0.5" are left to be answered, instead of taken as numbers whose sign stands in a column beside.
    pub no_signs: bool,
}

/// The answer to one value that does not fit.
#[derive(Clone, Debug, Serialize, Deserialize, utoipa::ToSchema)]
pub struct Fix {
    /// Row, from 1.
    pub row: usize,
    /// Place of the column in the file, from 0.
    pub column: usize,
    /// What it should read; null for missing.
    pub text: Option<String>,
}

/// How the file was read.
#[derive(Clone, Debug, PartialEq, Serialize, utoipa::ToSchema)]
pub struct ReadAs {
    /// Encoding of text; absent for a workbook.
    pub encoding: Option<String>,
    /// Delimiter of text; absent for a workbook.
    pub delimiter: Option<char>,
    /// Decimal sign.
    pub decimal: char,
    /// Line of the column names, from 1; 0 for none.
    pub header_line: u64,
    /// Which number of an all-number date comes first.
    pub date_order: DateOrder,
    /// Sheet of a workbook.
    pub sheet: Option<String>,
    /// All sheets of a workbook.
    pub sheets: Vec<String>,
}

/// One column as read.
#[derive(Clone, Debug, PartialEq, Serialize, utoipa::ToSchema)]
pub struct ReadColumn {
    /// Place in the file, from 0.
    pub index: usize,
    /// Name in the dataset.
    pub name: String,
    /// Kind.
    pub kind: Kind,
    /// Its unit, from a line under the header.
    pub unit: Option<String>,
    /// Its decimal sign.
    pub decimal: char,
    /// Left out on request.
    pub left_out: bool,
    /// Whether an empty cell has the value of the one above it.
    pub fill_down: bool,
    /// The column that keeps the signs of its values such as "<0.5".
    pub sign_column: Option<String>,
    /// The first values as they will stand in the table; null when missing.
    pub sample: Vec<Option<String>>,
}

/// What a line of the file is taken for.
#[derive(Clone, Copy, Debug, PartialEq, Eq, Serialize, utoipa::ToSchema)]
#[serde(rename_all = "kebab-case")]
pub enum LineRole {
    /// Above the header, or a total or another line that is no row.
    LeftOut,
    /// The column names.
    Header,
    /// The units of the columns.
    Units,
    /// A row.
    Row,
}

/// A line of the file as it stands.
#[derive(Clone, Debug, PartialEq, Serialize, utoipa::ToSchema)]
pub struct RawLine {
    /// Its number, from 1.
    pub line: u64,
    /// Its text.
    pub text: String,
    /// What it is taken for.
    pub role: LineRole,
}

/// Why the decimal sign of a column is a guess.
#[derive(Clone, Debug, PartialEq)]
pub(crate) struct Doubt {
    /// A value that could be either.
    pub text: String,
    /// What it is read as.
    pub read_as: String,
    /// What it could be.
    pub instead: String,
    /// What speaks against.
    pub reason: &'static str,
}

/// Something understood that may be worth a second look.
#[derive(Clone, Debug, PartialEq, Serialize, utoipa::ToSchema)]
pub struct ReadNote {
    /// The setting it is about: `encoding`, `delimiter`, `decimal`, `header`, `header-lines`, `total`, `gaps`, `signs`, `merged`, `dates`, `names`, `rows`, `form`,
    /// `files`, `sheet`, `sheets`, `units`, `affix`, `labels`, `cells`.
    pub about: &'static str,
    /// The column it is about, by its place in the file.
    pub column: Option<usize>,
    /// What a value is read as, and what it could be instead, or the lines it is about; empty where there is no such choice.
    pub readings: Vec<String>,
    /// Worth a second look.
    pub doubt: bool,
    /// What was understood.
    pub sentence: String,
    /// A second line.
    pub detail: Option<String>,
}

impl ReadNote {
    /// Something that is as it should be.
    pub(crate) fn fact(about: &'static str, sentence: String) -> ReadNote {
        ReadNote { doubt: false, ..ReadNote::doubt(about, sentence) }
    }

    /// Something that is worth a second look.
    pub(crate) fn doubt(about: &'static str, sentence: String) -> ReadNote {
        ReadNote { about, column: None, readings: Vec::new(), doubt: true, sentence, detail: None }
    }

    /// What a value of a column is read as, and what it could be instead.
    pub(crate) fn either(about: &'static str, column: usize, sentence: String, readings: [String; 2]) -> ReadNote {
        ReadNote { column: Some(column), readings: readings.into(), ..ReadNote::doubt(about, sentence) }
    }
}

/// A value that does not fit its column.
#[derive(Clone, Debug, PartialEq, Serialize, utoipa::ToSchema)]
pub struct Misfit {
    /// Row, from 1.
    pub row: usize,
    /// Place of the column in the file, from 0.
    pub column: usize,
    /// Name of the column.
    pub name: String,
    /// The text found.
    pub text: String,
    /// What the column holds.
    pub kind: Kind,
    /// What it may have been meant to be.
    pub guess: Option<String>,
}

impl Reading {
    /// What files of one layout have in common: the names of their columns in their order, as they stand in the file. Asked of a file
    /// read as it seems; `None` where it has no names.
    pub fn layout(&self) -> Option<String> {
        let names: Vec<&str> = self.columns.iter().map(|column| column.name.as_str()).collect();
        (self.read_as.header_line > 0).then(|| names.join("\u{1f}"))
    }

    /// Whether the columns of the table that are not known are all such as keep the signs of another, which no file has a column for:
    /// they come with their values, whether there is a place for them or not.
    pub fn adds_only_signs(&self, is_known: impl Fn(&str) -> bool) -> bool {
        let keeps_signs = |name: &str| self.columns.iter().any(|column| column.sign_column.as_deref() == Some(name));
        self.table.columns.iter().all(|column| is_known(&column.name) || keeps_signs(&column.name))
    }
}

/// A file as understood: enough to show, to correct and to store.
#[derive(Clone, Debug)]
pub struct Reading {
    /// How it was read.
    pub read_as: ReadAs,
    /// Its columns.
    pub columns: Vec<ReadColumn>,
    /// The first lines, and the last one.
    pub lines: Vec<RawLine>,
    /// Lines not shown between them.
    pub lines_between: u64,
    /// What was understood.
    pub notes: Vec<ReadNote>,
    /// Values that do not fit, the first ones.
    pub problems: Vec<Misfit>,
    /// How many values do not fit.
    pub problem_count: usize,
    /// The table, values that do not fit missing.
    pub table: Table,
}
