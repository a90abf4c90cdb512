//! The text of one cell as a value.

use acorn_data::frame::Kind;

use crate::bounds;
use crate::dates::{DateOrder, parse_time};
use crate::error::FormatError;
use crate::table::CellValue;

/// How numbers and dates are written in a file.
#[derive(Clone, Copy, Debug, PartialEq, Eq)]
pub(crate) struct Dress {
    /// `.` or `,`.
    pub decimal: u8,
    /// Day or month first in dates such as 04.05.2026.
    pub dates: DateOrder,
    /// Whether thousands may be grouped, as in 1,234.5.
    pub grouped: bool,
}

impl Dress {
    /// What a person types into the application: either decimal sign, no grouping, so that 2,401 is never 2401.
    pub const TYPED: Dress = Dress { decimal: b'.', dates: DateOrder::DayFirst, grouped: false };

    /// A number that a workbook stores as one: nothing about it is to be found out.
    pub const STORED: Dress = Dress::TYPED;
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
    let comma = Dress { decimal: b',', ..Dress::TYPED };
    let value = value_of(kind, text, Dress::TYPED).or_else(|| value_of(kind, text, comma));
    value.ok_or_else(|| FormatError::NotA { text: text.trim().chars().take(bounds::SHOWN_CHARS).collect(), kind: kind.words() })
}

/// The value of a cell, `None` when it does not fit the kind.
pub(crate) fn value_of(kind: Kind, text: &str, dress: Dress) -> Option<CellValue> {
    let text = text.trim();
    if text.is_empty() {
        return Some(CellValue::Missing);
    }
    match kind {
        // A text that is too long is told, not cut.
        Kind::Category | Kind::Text => (text.chars().nth(bounds::CELL_CHARS).is_none()).then(|| CellValue::Label(text.to_owned())),
        _ if is_missing(text) => Some(CellValue::Missing),
        Kind::Number => parse_in(text, dress).map(CellValue::Number),
        Kind::WholeNumber => parse_in(text, dress).filter(|value| value.fract() == 0.0).map(CellValue::Number),
        Kind::DateTime => parse_time(text, dress.dates).map(CellValue::Time),
    }
}

fn parse_in(text: &str, dress: Dress) -> Option<f64> {
    let signs = text.bytes().filter(|byte| matches!(byte, b'.' | b',' | b' ' | b'\'') || !byte.is_ascii()).count();
    if !dress.grouped && (signs > 1 || text.contains(['.', ',']) && !text.contains(char::from(dress.decimal))) {
        return None;
    }
    parse_number(text, dress.decimal)
}

/// Words that stand for a missing number or date.
pub(crate) fn is_missing(text: &str) -> bool {
    const WORDS: [&str; 8] = ["na", "n/a", "#n/a", "nan", "null", "missing", "-", "--"];
    text.len() <= 7 && WORDS.iter().any(|word| text.eq_ignore_ascii_case(word))
}

/// A number as machines write it: up to 15 digits with one decimal sign, which a division gives exactly. `None` says nothing about
/// the text but that [`parse_number`] has to look at it; where there is a number, it is the same.
pub(crate) fn quick_number(text: &str, decimal: u8) -> Option<f64> {
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
pub(crate) fn parse_number(text: &str, decimal: u8) -> Option<f64> {
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
pub(crate) fn guess_number(text: &str, decimal: u8) -> Option<f64> {
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

#[cfg(test)]
mod tests {
    use super::*;

    #[test]
    fn numbers_are_read_in_both_dresses() {
        let rows = [
            ("2.401", b'.', Some(2.401)),
            ("2,401", b',', Some(2.401)),
            ("1,234.5", b'.', Some(1234.5)),
            ("1.234,5", b',', Some(1234.5)),
            ("12 345", b'.', Some(12345.0)),
            ("-1'234'567", b'.', Some(-1_234_567.0)),
            ("1,23,456", b'.', None),
            ("1234,567.0", b'.', None),
            ("2,4O9", b',', None),
            ("1e999", b'.', None),
            ("1e-400", b'.', None),
            ("0,0e-400", b',', Some(0.0)),
            ("inf", b'.', None),
            ("04.05.2026", b'.', None),
            (".5", b'.', Some(0.5)),
            ("0,401", b'.', None),
            ("0,401", b',', Some(0.401)),
            ("3e-3", b',', Some(0.003)),
            ("--3", b'.', None),
        ];
        for (text, decimal, want) in rows {
            assert_eq!(parse_number(text, decimal), want, "{text}");
        }
    }

    #[test]
    fn a_number_read_quickly_is_the_same() {
        let mut state = 7_u64;
        for _ in 0..20_000 {
            state = state.wrapping_mul(6_364_136_223_846_793_005).wrapping_add(1_442_695_040_888_963_407);
            let digits = (state >> 11) % 10_u64.pow(1 + (state >> 60) as u32 % 15);
            let decimals = (state >> 56) as usize % 12;
            let text = if decimals == 0 { digits.to_string() } else { format!("{:.*}", decimals, digits as f64 / 1e6) };
            let text = if state & 1 == 0 { text } else { format!("-{text}") };
            if let Some(quick) = quick_number(&text, b'.') {
                assert_eq!(Some(quick.to_bits()), parse_number(&text, b'.').map(f64::to_bits), "{text}");
            }
        }
        assert_eq!([quick_number("2,401", b','), quick_number("-0", b'.')], [Some(2.401), Some(-0.0)]);
        for text in ["", "-", ".5", "1.2.3", "1e5", " 1", "1234567890123456", "2,401", "+1", "00123456789012345678"] {
            assert_eq!(quick_number(text, b'.'), None, "{text}");
        }
    }

    #[test]
    fn slips_have_a_guess() {
        assert_eq!(guess_number("2,4O9", b','), Some(2.409));
        assert_eq!(guess_number("2.41 mm", b'.'), Some(2.41));
        assert_eq!(guess_number("cracked", b'.'), None);
    }
}
