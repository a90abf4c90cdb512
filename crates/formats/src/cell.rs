//! The text of one cell as a value.

use acorn_data::frame::Kind;

use crate::bounds;
use crate::dates::{DateOrder, parse_time};
use crate::error::FormatError;
use crate::table::CellValue;

/// How numbers and dates are written in a file.
#[derive(Clone, Copy, Debug, PartialEq, Eq)]
pub(crate) struct ParseStyle {
    /// `.` or `,`.
    pub decimal: u8,
    /// Day or month first in dates such as 04.05.2026.
    pub dates: DateOrder,
    /// Whether thousands may be grouped, as in 1,234.5.
    pub grouped: bool,
}

impl ParseStyle {
    /// What a person types into the application: either decimal sign, no grouping, so that 2,401 is never 2401.
    pub const TYPED: ParseStyle = ParseStyle { decimal: b'.', dates: DateOrder::DayFirst, grouped: false };

    /// A number that a workbook stores as one: nothing about it is to be found out.
    pub const STORED: ParseStyle = ParseStyle::TYPED;
}

/// Reads what a person typed into a cell of a kind. Empty text is a missing value; a comma is a decimal sign.
///
/// # Errors
/// [`FormatError::NotA`], [`FormatError::TooMuch`].
///
/// # Examples
/// ```
/// use acorn_data::frame::Kind;
/// use acorn_formats::{CellValue, parse_value};
/// assert_eq!(parse_value(Kind::Number, "2,401"), Ok(CellValue::Number(2.401))); // not 2401
/// assert!(parse_value(Kind::Number, "2,4O9").is_err()); // a letter O
/// assert_eq!(parse_value(Kind::WholeNumber, " "), Ok(CellValue::Missing));
/// ```
pub fn parse_value(kind: Kind, text: &str) -> Result<CellValue, FormatError> {
    FormatError::bound("characters in a cell", text.trim().chars().count(), bounds::CELL_CHARS)?;
    let comma = ParseStyle { decimal: b',', ..ParseStyle::TYPED };
    let value = value_of(kind, text, ParseStyle::TYPED).or_else(|| value_of(kind, text, comma));
    value.ok_or_else(|| FormatError::NotA { text: text.trim().chars().take(bounds::SHOWN_CHARS).collect(), kind: kind.display_text() })
}

/// The value of a cell, `None` when it does not fit the kind.
pub(crate) fn value_of(kind: Kind, text: &str, style: ParseStyle) -> Option<CellValue> {
    let text = text.trim();
    if text.is_empty() {
        return Some(CellValue::Missing);
    }
    match kind {
        // A text that is too long is told, not cut.
        Kind::Category | Kind::Text => (text.chars().nth(bounds::CELL_CHARS).is_none()).then(|| CellValue::Label(text.to_owned())),
        _ if is_missing(text) => Some(CellValue::Missing),
        Kind::Number => parse_in(text, style).map(CellValue::Number),
        Kind::WholeNumber => parse_in(text, style).filter(|value| value.fract() == 0.0).map(CellValue::Number),
        Kind::DateTime => parse_time(text, style.dates).map(CellValue::Time),
    }
}

fn parse_in(text: &str, style: ParseStyle) -> Option<f64> {
    let signs = text.bytes().filter(|byte| matches!(byte, b'.' | b',' | b' ' | b'\'') || !byte.is_ascii()).count();
    if !style.grouped && (signs > 1 || text.contains(['.', ',']) && !text.contains(char::from(style.decimal))) {
        return None;
    }
    parse_number(text, style.decimal)
}

/// Words that stand for a missing number or date.
pub fn is_missing(text: &str) -> bool {
    const WORDS: [&str; 8] = ["na", "n/a", "#n/a", "nan", "null", "missing", "-", "--"];
    text.len() <= 7 && WORDS.iter().any(|word| text.eq_ignore_ascii_case(word))
}

/// A number as machines write it: up to 15 digits with one decimal sign, which a division gives exactly. `None` says nothing about
/// the text but that [`parse_number`] has to look at it; where there is a number, it is the same.
pub fn quick_number(text: &str, decimal: u8) -> Option<f64> {
    const POWERS: [f64; 16] = [1e0, 1e1, 1e2, 1e3, 1e4, 1e5, 1e6, 1e7, 1e8, 1e9, 1e10, 1e11, 1e12, 1e13, 1e14, 1e15];
    let (negative, digits) = match text.as_bytes() {
        [b'-', digits @ ..] => (true, digits),
        digits => (false, digits),
    };
    if digits.is_empty() || digits.len() > 16 {
        return None;
    }
    let (mut whole, mut count, mut point) = (0_u64, 0, None);
    for byte in digits {
        match byte {
            b'0'..=b'9' => {
                whole = whole * 10 + u64::from(byte - b'0');
                count += 1;
            }
            _ if *byte == decimal && point.is_none() && count > 0 => point = Some(count),
            _ => return None,
        }
    }
    let after = point.map_or(0, |before| count - before);
    let value = whole as f64 / POWERS.get(after)?;
    (count <= 15).then_some(if negative { -value } else { value })
}

/// A finite number with the given decimal sign. Thousands may be grouped by the other sign, a space or an
/// apostrophe, in threes.
pub fn parse_number(text: &str, decimal: u8) -> Option<f64> {
    let plain = |byte: u8| matches!(byte, b'0'..=b'9' | b'+' | b'-' | b'.' | b'e' | b'E');
    if decimal == b'.' && text.bytes().all(plain) {
        return text.parse().ok().filter(|value| is_kept(*value, text));
    }
    let mut cleaned = String::with_capacity(text.len());
    let mut group: Option<usize> = None;
    let mut seen_decimal = false;
    for letter in text.chars() {
        match letter {
            '0'..='9' => {
                cleaned.push(letter);
                group = group.map(|digits| digits + 1);
            }
            '+' | '-' | 'e' | 'E' => cleaned.push(letter),
            '\u{2212}' => cleaned.push('-'),
            _ if letter == char::from(decimal) && !seen_decimal && group.is_none_or(|digits| digits == 3) => {
                cleaned.push('.');
                (seen_decimal, group) = (true, None);
            }
            '.' | ',' | ' ' | '\u{a0}' | '\u{202f}' | '\'' if !seen_decimal && group.is_none_or(|digits| digits == 3) => {
                let before = cleaned.trim_start_matches(['+', '-']);
                // Nobody groups the thousands of a number that begins with 0.
                if group.is_none() && (!(1..=3).contains(&before.len()) || before.starts_with('0')) {
                    return None;
                }
                group = Some(0);
            }
            _ => return None,
        }
    }
    if group.is_some_and(|digits| digits != 3) {
        return None;
    }
    cleaned.parse().ok().filter(|value| is_kept(*value, &cleaned))
}

/// Whether a number can be held: not infinite, and 0 only where it says 0.
fn is_kept(value: f64, text: &str) -> bool {
    let says_more = || text.split(['e', 'E']).next().is_some_and(|digits| digits.contains(|digit| matches!(digit, '1'..='9')));
    value.is_finite() && (value != 0.0 || !says_more())
}

/// Whether a number is a name that only looks like one: zeros in front, as of a serial 00123, or more digits than a number holds.
pub(crate) fn is_name(text: &str) -> bool {
    let digits = text.strip_prefix(['-', '+']).unwrap_or(text);
    let whole = !digits.is_empty() && digits.bytes().all(|byte| byte.is_ascii_digit());
    whole
        && (digits.len() > 1 && digits.starts_with('0')
            || digits.len() > 15 && digits.parse().is_ok_and(|value: f64| format!("{value:.0}") != digits))
}

/// What an unreadable number may have been meant to be: letters that look like digits, a unit behind it.
pub fn guess_number(text: &str, decimal: u8) -> Option<f64> {
    let digits: String = text
        .trim()
        .trim_end_matches(|letter: char| letter.is_alphabetic() && !matches!(letter, 'O' | 'o' | 'l' | 'I'))
        .trim_end_matches(['%', '°', 'µ', ' '])
        .chars()
        .map(|letter| match letter {
            'O' | 'o' => '0',
            'l' | 'I' => '1',
            other => other,
        })
        .collect();
    parse_number(&digits, decimal)
}
