//! Bytes to typed tables and back: text in any common dress, workbooks, JSON, Parquet and archives of text in; CSV, XLSX and Parquet out.
//!
//! Nothing here touches disk or network. [`Source::open`] tells what the bytes are, [`read`] reads them as
//! they seem or as the person corrects, and says what it understood.

#[doc(hidden)]
pub mod affix;
mod body;
pub mod bounds;
#[doc(hidden)]
pub mod cell;
#[doc(hidden)]
pub mod columnar;
mod columns;
mod convert;
#[doc(hidden)]
pub mod dates;
#[doc(hidden)]
pub mod decode;
#[doc(hidden)]
pub mod error;
#[doc(hidden)]
pub mod export;
#[doc(hidden)]
pub mod export_table;
mod fill;
#[doc(hidden)]
pub mod fixed;
#[doc(hidden)]
pub mod gaps;
#[doc(hidden)]
pub mod head;
mod infer;
mod json;
#[doc(hidden)]
pub mod layout;
mod left_out;
mod lines;
mod many;
mod marks;
mod merged;
mod notes;
mod ods;
mod parquet_in;
mod read;
#[doc(hidden)]
pub mod reading;
mod records;
mod sheet;
#[doc(hidden)]
pub mod signs;
mod source;
#[doc(hidden)]
pub mod spec_list;
mod stretches;
#[doc(hidden)]
pub mod table;
#[doc(hidden)]
pub mod unfold;

pub use cell::parse_value;
pub use columnar::write_parquet;
pub use convert::convert;
pub use dates::DateOrder;
pub use error::FormatError;
pub use export::{Sheet, Texts, write_book, write_csv, write_xlsx};
pub use export_table::write_table_xlsx;
pub use json::{write_json, write_json_lines};
pub use read::read;
pub use reading::{ColumnReadOptions, Fix, LineRole, Misfit, RawLine, ReadAs, ReadColumn, ReadNote, ReadOptions, Reading};
pub use source::Source;
pub use spec_list::{Specification, specifications};
pub use table::{CellValue, Table, TableColumn};
pub use unfold::{WideSheet, unfold, wide_sheet};
