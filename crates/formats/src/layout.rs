//! How a text is laid out: the sign between its columns, quotation marks.

use csv::{ReaderBuilder, StringRecord};

use crate::cell::{is_missing, parse_number};
use crate::dates::{DateOrder, parse_time};

const DELIMITERS: [u8; 4] = [b',', b';', b'\t', b'|'];
/// Lines looked at to find the delimiter and the header.
const LOOK: usize = 60;

/// A reader of records that takes rows as they come.
pub fn records(text: &str, delimiter: u8) -> csv::Reader<&[u8]> {
    ReaderBuilder::new().delimiter(delimiter).has_headers(false).flexible(true).from_reader(text.as_bytes())
}

/// The delimiter that gives the most lines of the same number of cells, more than one of them.
pub fn delimiter(text: &str) -> u8 {
    let score = |delimiter: u8| {
        let widths: Vec<usize> = records(text, delimiter).records().take(LOOK).flatten().map(|record| record.len()).collect();
        let usual = mode(&widths);
        let alike = widths.iter().filter(|width| **width == usual).count();
        if usual < 2 { 0.0 } else { alike as f64 / widths.len() as f64 + (usual as f64).min(40.0) * 0.001 }
    };
    if is_one_column(text) {
        return ONE_COLUMN;
    }
    let best = DELIMITERS.into_iter().map(|delimiter| (score(delimiter), delimiter)).max_by(|a, b| a.0.total_cmp(&b.0));
    best.filter(|(score, _)| *score > 0.0).map_or(b',', |(_, delimiter)| delimiter)
}

/// Stands for no delimiter: no line of such a text has one.
pub const ONE_COLUMN: u8 = b';';

/// Whether every comma of a text stands between digits, one in a line, under a name that has none: decimal commas of one
/// column.
fn is_one_column(text: &str) -> bool {
    let mut lines = text.lines().filter(|line| !line.trim().is_empty());
    let named = lines.next().is_some_and(|first| !first.contains(DELIMITERS.map(char::from)) && !is_value(first));
    named && rows_of_decimals(lines)
}

/// Whether every line is a number with a decimal comma, as a pair of whole numbers could be, or a whole number.
pub(crate) fn rows_of_decimals<'t>(lines: impl Iterator<Item = &'t str>) -> bool {
    let mut decimals = 0;
    let alike = lines.take(LOOK).all(|line| {
        let line = line.trim();
        let bare = line.strip_prefix('-').unwrap_or(line);
        let digits = |part: &str| !part.is_empty() && part.bytes().all(|byte| byte.is_ascii_digit());
        match bare.split_once(',') {
            Some((whole, decimal)) => {
                decimals += 1;
                digits(whole) && digits(decimal)
            }
            None => digits(bare) || is_missing(line),
        }
    });
    alike && decimals > 0
}

/// The line in which a quotation mark opens that nothing closes.
pub fn open_quote(text: &str, delimiter: u8) -> Option<usize> {
    // Without a mark there is nothing to look for.
    if !text.contains('"') {
        return None;
    }
    let (mut line, mut opened, mut fresh) = (1, None, true);
    let mut bytes = text.bytes().peekable();
    while let Some(byte) = bytes.next() {
        match (opened, byte) {
            (Some(_), b'"') if bytes.peek() == Some(&b'"') => drop(bytes.next()),
            (Some(_), b'"') => (opened, fresh) = (None, false),
            (None, b'"') if fresh => opened = Some(line),
            (None, byte) => fresh = byte == delimiter || byte == b'\n',
            _ => {}
        }
        line += usize::from(byte == b'\n');
    }
    opened
}

/// The count that comes most often; the largest of equals.
pub fn mode(widths: &[usize]) -> usize {
    widths.iter().copied().max_by_key(|width| (widths.iter().filter(|other| *other == width).count(), *width)).unwrap_or(0)
}

pub fn filled(record: &StringRecord) -> usize {
    record.iter().filter(|cell| !cell.trim().is_empty()).count()
}

pub fn is_value(cell: &str) -> bool {
    let cell = cell.trim();
    parse_number(cell, b'.').is_some()
        || parse_number(cell, b',').is_some()
        || parse_time(cell, DateOrder::DayFirst).is_some()
        || parse_time(cell, DateOrder::MonthFirst).is_some()
}
