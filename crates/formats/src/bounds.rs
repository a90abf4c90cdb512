//! Every bound on what may be brought in, in one place.

/// Largest file, in bytes.
pub const FILE_BYTES: usize = 256 * 1024 * 1024;
/// Largest workbook once unpacked, in bytes.
pub const UNPACKED_BYTES: u64 = 1024 * 1024 * 1024;
/// Most files brought in together.
pub const FILES: usize = 1000;
/// Most rows of one dataset.
pub const ROWS: usize = 5_000_000;
/// Most columns of one dataset.
pub const COLUMNS: usize = 500;
/// Longest text of one cell, in characters.
pub const CELL_CHARS: usize = 10_000;
/// Characters shown of a text that does not fit.
pub const SHOWN_CHARS: usize = 80;
/// Longest unit of a column, in characters.
pub const UNIT_CHARS: usize = 40;
/// Longest column name, in characters.
pub const NAME_CHARS: usize = 120;
/// Problems listed one by one; the rest is only counted.
pub const PROBLEMS_LISTED: usize = 200;
/// Most rows of values that a workbook's sheet holds under its head.
pub const SHEET_ROWS: usize = 1_048_575;
