//! Values that are bounds: "<0.5" where a gauge reads no less, ">200" where it reads no more.

use crate::reading::{ReadColumn, ReadNote};

/// The sign of a cell that is a bound, and what stands behind it.
pub fn split(text: &str) -> Option<(&'static str, &str)> {
    let text = text.trim_start();
    // Asked of every number.
    if !matches!(text.as_bytes().first(), Some(b'<' | b'>' | 0xE2)) {
        return None;
    }
    let (sign, rest) = [("<=", "≤"), (">=", "≥"), ("<", "<"), (">", ">"), ("≤", "≤"), ("≥", "≥")]
        .into_iter()
        .find_map(|(written, sign)| Some((sign, text.strip_prefix(written)?)))?;
    let rest = rest.trim_start();
    rest.starts_with(|letter: char| letter.is_ascii_digit() || matches!(letter, '.' | ',' | '-' | '€' | '$' | '£')).then_some((sign, rest))
}

/// What is said of a column with such values.
pub(crate) fn note(column: &ReadColumn, sign_column: &str, count: usize, first: &str) -> ReadNote {
    let number = split(first).map_or(first, |(_, number)| number);
    let values = if count == 1 { "one value is a bound".to_owned() } else { format!("{count} values are bounds such as") };
    let sentence = format!("{}: {values} “{first}”, kept as {number} with the sign in a column of its own, “{sign_column}”.", column.name);
    let detail = Some("Studies take the numbers as they stand; leave the signed rows out where that misleads.".to_owned());
    ReadNote { column: Some(column.index), detail, ..ReadNote::doubt("signs", sentence) }
}
