//! Bytes to typed tables and back: text in any common dress, workbooks, JSON, Parquet and archives of text in; CSV, XLSX and Parquet out.
//!
//! Nothing here touches disk or network. [`Source::open`] tells what the bytes are, [`read`] reads them as
//! they seem or as the person corrects, and says what it understood.

pub mod affix;
mod body;
pub mod bounds;
pub mod cell;
pub mod columnar;
mod columns;
mod convert;
pub mod dates;
pub mod decode;
pub mod error;
pub mod export;
pub mod export_table;
mod fill;
pub mod fixed;
pub mod gaps;
pub mod head;
mod infer;
mod json;
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
pub mod reading;
mod records;
mod sheet;
pub mod signs;
mod source;
pub mod spec_list;
mod stretches;
pub mod table;
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
pub use reading::{ColumnWish, Fix, LineRole, Misfit, RawLine, ReadAs, ReadColumn, ReadNote, Reading, Wish};
pub use source::Source;
pub use spec_list::{Specification, specifications};
pub use table::{CellValue, Table, TableColumn};
pub use unfold::{WideSheet, unfold, wide_sheet};
