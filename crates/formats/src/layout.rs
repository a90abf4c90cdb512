//! Where the table stands in a file: delimiter, header, lines above it, a total under it.

use csv::{ReaderBuilder, StringRecord};

use crate::cell::{is_missing, parse_number};
use crate::dates::{DateOrder, parse_time};

const DELIMITERS: [u8; 4] = [b',', b';', b'\t', b'|'];
/// Lines looked at to find the delimiter and the header.
const LOOK: usize = 60;

/// A reader of records that takes rows as they come.
pub(crate) fn records(text: &str, delimiter: u8) -> csv::Reader<&[u8]> {
    ReaderBuilder::new().delimiter(delimiter).has_headers(false).flexible(true).from_reader(text.as_bytes())
}

/// The delimiter that gives the most lines of the same number of cells, more than one of them.
pub(crate) fn delimiter(text: &str) -> u8 {
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
pub(crate) const ONE_COLUMN: u8 = b';';

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
pub(crate) fn open_quote(text: &str, delimiter: u8) -> Option<usize> {
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

fn mode(widths: &[usize]) -> usize {
    widths.iter().copied().max_by_key(|width| (widths.iter().filter(|other| *other == width).count(), *width)).unwrap_or(0)
}

fn filled(record: &StringRecord) -> usize {
    record.iter().filter(|cell| !cell.trim().is_empty()).count()
}

fn is_value(cell: &str) -> bool {
    let cell = cell.trim();
    parse_number(cell, b'.').is_some()
        || parse_number(cell, b',').is_some()
        || parse_time(cell, DateOrder::DayFirst).is_some()
        || parse_time(cell, DateOrder::MonthFirst).is_some()
}

/// The header among the first records: its index in `head`, or `None` when the rows start at once, with the
/// number of lines above the table.
pub(crate) struct Top {
    pub header: Option<usize>,
    pub above: usize,
    /// Whether the rows under it are unlike it, so that it is no row itself.
    pub sure: bool,
}

/// Whether a line has as many cells as the row under it and words over some of its values.
fn names_some(line: &StringRecord, row: &StringRecord) -> bool {
    let named = line.iter().zip(row).filter(|(name, _)| !name.trim().is_empty());
    line.len() == row.len() && named.clone().count() > 0 && named.into_iter().all(|(name, cell)| !is_value(name) && is_value(cell))
}

/// Finds the header: the first record nearly as full as the fullest, made of words, with values under it.
pub(crate) fn top(head: &[StringRecord]) -> Top {
    let usual = mode(&head.iter().map(filled).collect::<Vec<_>>());
    let full_enough = |record: &StringRecord| filled(record) * 4 >= usual * 3 && filled(record) > 0;
    let Some(first) = head.iter().position(full_enough) else {
        return Top { header: None, above: 0, sure: true };
    };
    let candidate = &head[first];
    let words = candidate.iter().all(|cell| cell.trim().is_empty() || !(is_value(cell) || is_missing(cell.trim())));
    let under = head.get(first + 1..).unwrap_or_default();
    let values_under = under.iter().any(|record| record.iter().any(is_value));
    let distinct = candidate.iter().collect::<std::collections::HashSet<_>>().len() == candidate.len();
    let header = words && (values_under || distinct) && !under.is_empty();
    // A row of values under a line as long that names only some of its columns.
    let above = first.checked_sub(1).filter(|above| !header && names_some(&head[*above], candidate));
    match above {
        Some(above) => Top { header: Some(above), above, sure: true },
        None => Top { header: header.then_some(first), above: first, sure: values_under || !header },
    }
}

/// Longest unit.
const UNIT_CHARS: usize = 12;

/// The unit of each column when the first of these records is a line of units: every cell that has something in it is short,
/// no value and no number, in brackets or not, and stands above nothing but values. `None` when it is a row.
pub(crate) fn units(rows: &[StringRecord]) -> Option<Vec<Option<String>>> {
    let (first, below) = rows.split_first()?;
    let values_below = |column: usize| {
        let mut cells = below.iter().filter_map(|row| row.get(column)).filter(|cell| !cell.trim().is_empty() && !is_missing(cell.trim()));
        let mut any = false;
        cells.all(|cell| {
            any = true;
            is_value(cell)
        }) && any
    };
    let unit = |cell: &str| cell.trim().trim_start_matches(['[', '(']).trim_end_matches([']', ')']).trim().to_owned();
    let like_a_unit = |cell: &str| {
        let bare = unit(cell);
        let begins = bare.chars().next().is_some_and(|letter| letter.is_alphabetic() || matches!(letter, '%' | '°' | 'µ' | '‰'));
        begins && bare.chars().count() <= UNIT_CHARS && !is_value(&bare) && bare.chars().filter(char::is_ascii_digit).count() <= 1
    };
    let filled = || first.iter().enumerate().filter(|(_, cell)| !cell.trim().is_empty() && !is_missing(cell.trim()));
    let all = filled().count() > 0 && filled().all(|(column, cell)| like_a_unit(cell) && values_below(column));
    all.then(|| first.iter().map(|cell| Some(unit(cell)).filter(|unit| !unit.is_empty() && !is_missing(unit))).collect())
}

/// Whether a last record is a total and not a row.
pub(crate) fn is_total(record: &StringRecord) -> bool {
    const WORDS: [&str; 8] = ["total", "totals", "sum", "average", "mean", "grand total", "end of export", "end of file"];
    let first = record.iter().map(str::trim).find(|cell| !cell.is_empty()).unwrap_or_default().trim_end_matches(':').to_lowercase();
    WORDS.contains(&first.as_str())
}

#[cfg(test)]
mod tests {
    use super::*;

    fn top_of(text: &str, delimiter: u8) -> (Option<usize>, usize) {
        let head: Vec<_> = records(text, delimiter).records().flatten().collect();
        let top = top(&head);
        (top.header, top.above)
    }

    #[test]
    fn delimiters_are_told_from_decimal_commas() {
        assert_eq!(delimiter("a;b\n1,5;2,5\n1,6;2,6\n"), b';');
        assert_eq!(delimiter("a\tb c\n1\t2,5\n"), b'\t');
        assert_eq!(delimiter("a,b\n\"1;5\",2\n"), b',');
        assert_eq!(delimiter("flux\n812.0\n"), b',');
        assert_eq!(delimiter("flux\n812,5\n-3,25\n7\n"), ONE_COLUMN);
        assert_eq!(delimiter("812,5\n3,25\n"), b',');
    }

    #[test]
    fn a_quotation_mark_that_nothing_closes_is_found_in_its_line() {
        let quotes = |text| open_quote(text, b',');
        assert_eq!(quotes("a,b\n1,\"open\n2,x\n"), Some(2));
        assert_eq!(quotes("a,b\n1,\"two \"\"marks\"\"\nand a line\"\n2,5\" wide\n"), None);
    }

    #[test]
    fn the_header_is_the_first_full_line_of_words() {
        assert_eq!(top_of("Fennel Hollow;;;;\nExport press 2;;;;printed\nat;n;x;y;remark\n1;2;3;4;\n2;3;4;5;\n", b';'), (Some(2), 2));
        assert_eq!(top_of("1,2\n3,4\n", b','), (None, 0));
        assert_eq!(top_of("bench,kind\nA,crack\nB,scratch\n", b','), (Some(0), 0));
        assert_eq!(top_of("flux\n812\n", b','), (Some(0), 0));
        assert_eq!(top_of(",,y\n1,2,3\n4,5,6\n", b','), (Some(0), 0));
    }
}
