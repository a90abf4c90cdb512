//! Why bytes cannot be read as a table.

use acorn_maths::words::counted;
use acorn_study::problem::Problem;

use crate::bounds;

/// Every way a file or a value can be unreadable. The text says what is wrong, [`FormatError::advice`] what to do.
#[derive(Debug, Clone, PartialEq, thiserror::Error)]
pub enum FormatError {
    /// Nothing in it.
    #[error("“{name}” is empty")]
    Empty {
        /// The file.
        name: String,
    },
    /// Not a table at all.
    #[error("“{name}” is {found}, not a table")]
    NotATable {
        /// The file.
        name: String,
        /// What it is.
        found: &'static str,
    },
    /// A table, but no specification list.
    #[error("“{name}” is no specification list")]
    NotASpecification {
        /// The file.
        name: String,
    },
    /// A quotation mark that swallows the rest.
    #[error("line {line} of “{name}” opens a quotation mark that is never closed")]
    OpenQuote {
        /// The file.
        name: String,
        /// The line, from 1.
        line: usize,
    },
    /// A workbook that cannot be opened.
    #[error("the workbook “{name}” cannot be read: {problem}")]
    BrokenWorkbook {
        /// The file.
        name: String,
        /// What the reader said.
        problem: String,
    },
    /// A file that does not hold what its form says.
    #[error("“{name}” is broken: {problem}")]
    BrokenFile {
        /// The file.
        name: String,
        /// What the reader said.
        problem: String,
    },
    /// A file that is nothing like those before it.
    #[error("“{name}” has none of the columns of “{first}”")]
    OtherLayout {
        /// The file.
        name: String,
        /// The first one.
        first: String,
    },
    /// A setting that the file does not have.
    #[error("there is no {what} “{given}” here")]
    NoSuch {
        /// Such as "sheet".
        what: &'static str,
        /// As given.
        given: String,
    },
    /// Beyond a bound.
    #[error("{what}: {have} is more than {limit}")]
    TooMuch {
        /// What there is too much of.
        what: &'static str,
        /// How much.
        have: u64,
        /// How much is allowed.
        limit: u64,
    },
    /// A header but no row under it, or nothing but left-out lines.
    #[error("“{name}” has no rows of values")]
    NoRows {
        /// The file.
        name: String,
    },
    /// A table that a file of this kind cannot hold.
    #[error("the table cannot be written: {problem}")]
    Unwritable {
        /// What the writer said.
        problem: String,
    },
    /// A value that its column cannot hold.
    #[error("“{text}” is not a {kind}")]
    NotA {
        /// The text.
        text: String,
        /// The kind in words.
        kind: &'static str,
    },
    /// Values that a new kind cannot hold.
    #[error("{}, the first in row {row}: “{text}”", misfits(*count, kind))]
    DoNotFit {
        /// How many.
        count: usize,
        /// The first row, from 1.
        row: usize,
        /// Its text.
        text: String,
        /// The kind in words.
        kind: &'static str,
    },
}

impl FormatError {
    /// A short name for machines, stable between versions.
    pub fn code(&self) -> &'static str {
        match self {
            FormatError::Empty { .. } => "empty-file",
            FormatError::NotATable { .. } => "not-a-table",
            FormatError::NotASpecification { .. } => "not-a-specification-list",
            FormatError::OpenQuote { .. } => "open-quotation-mark",
            FormatError::BrokenWorkbook { .. } => "broken-workbook",
            FormatError::BrokenFile { .. } => "broken-file",
            FormatError::OtherLayout { .. } => "other-layout",
            FormatError::NoSuch { .. } => "no-such-part",
            FormatError::TooMuch { .. } => "too-much",
            FormatError::NoRows { .. } => "no-rows",
            FormatError::Unwritable { .. } => "unwritable",
            FormatError::NotA { .. } => "not-a-value",
            FormatError::DoNotFit { .. } => "values-do-not-fit",
        }
    }

    /// What the person can do about it.
    pub fn advice(&self) -> String {
        match self {
            FormatError::Empty { .. } => "Check that the export finished, and bring in the file again.".into(),
            FormatError::NotATable { .. } => {
                "Bring in a CSV, TSV, XLSX, ODS, JSON or Parquet file, or paste the cells from a spreadsheet.".into()
            }
            FormatError::NotASpecification { .. } => {
                "It needs a row a characteristic, a column “name”, and one of LSL, target, USL, tolerance or unit.".into()
            }
            FormatError::OpenQuote { .. } => "Close it, or delete it, and bring in the file again.".into(),
            FormatError::BrokenWorkbook { .. } => {
                "Open it in a spreadsheet program, save it again as XLSX or CSV, and bring that in.".into()
            }
            FormatError::BrokenFile { .. } => "Write it anew, or bring in the same table as CSV.".into(),
            FormatError::OtherLayout { .. } => "Bring it in by itself, as a dataset of its own.".into(),
            FormatError::NoSuch { .. } => "Choose one of those offered.".into(),
            FormatError::TooMuch { .. } => "Split the data, or leave out what the question does not need.".into(),
            FormatError::NoRows { .. } => "Check which line is the header, or add rows under it.".into(),
            FormatError::Unwritable { .. } => "Take it as CSV, which holds every table.".into(),
            FormatError::NotA { .. } => "Correct the text, or leave the cell empty for a missing value.".into(),
            FormatError::DoNotFit { .. } => "Correct these cells first, or keep the kind.".into(),
        }
    }

    /// Fails when there is more of something than a bound allows.
    pub fn bound(what: &'static str, have: usize, limit: usize) -> Result<(), FormatError> {
        if have > limit { Err(FormatError::TooMuch { what, have: have as u64, limit: limit as u64 }) } else { Ok(()) }
    }
}

impl From<FormatError> for Problem {
    fn from(error: FormatError) -> Self {
        Problem::new(error.code(), error.to_string(), error.advice())
    }
}

/// "1 value is no number", "2 values are no numbers".
fn misfits(count: usize, kind: &str) -> String {
    let plural = if kind == "category" { "categories".to_owned() } else { format!("{kind}s") };
    format!("{} no {}", counted(count, "value is", "values are"), if count == 1 { kind } else { &plural })
}

pub(crate) fn check_size(bytes: &[u8]) -> Result<(), FormatError> {
    FormatError::bound("file size in bytes", bytes.len(), bounds::FILE_BYTES)
}
