//! Dates and times as people write them, to microseconds in UTC.

use jiff::civil::{Date, Time};
use jiff::tz::TimeZone;
use serde::{Deserialize, Serialize};

/// Which number of 04.05.2026 or 26-05-04 comes first.
#[derive(Clone, Copy, Debug, PartialEq, Eq, Serialize, Deserialize, utoipa::ToSchema)]
#[serde(rename_all = "kebab-case")]
pub enum DateOrder {
    /// The day.
    DayFirst,
    /// The month.
    MonthFirst,
    /// Only of three numbers of two digits; with four the year tells itself.
    YearFirst,
}

impl DateOrder {
    pub(crate) fn display_text(self) -> &'static str {
        match self {
            DateOrder::DayFirst => "day first",
            DateOrder::MonthFirst => "month first",
            DateOrder::YearFirst => "year first",
        }
    }
}

const MONTHS: [&str; 12] =
    ["january", "february", "march", "april", "may", "june", "july", "august", "september", "october", "november", "december"];

/// Reads `2026-05-04 06:10:30.5`, with `T` or a zone; `04.05.2026 06:10`; `5/4/26 6:10 PM`; `4 May 2026`.
/// A time without zone is taken as it stands.
pub fn parse_time(text: &str, order: DateOrder) -> Option<i64> {
    if !text.as_bytes().first().is_some_and(u8::is_ascii_alphanumeric) || text.len() < 6 || text.len() > 40 {
        return None;
    }
    if let Some(time) = quick_time(text.as_bytes()) {
        return Some(time);
    }
    if text.len() > 19
        && let Ok(stamp) = text.parse::<jiff::Timestamp>()
    {
        return Some(stamp.as_microsecond());
    }
    let (date, time) = split(text);
    let date = parse_date(date, order)?;
    let time = if time.is_empty() { Time::midnight() } else { parse_clock(time)? };
    TimeZone::UTC.to_timestamp(date.to_datetime(time)).ok().map(|stamp| stamp.as_microsecond())
}

/// `2026-05-04 06:10:30` and without the seconds, as machines write them.
fn quick_time(text: &[u8]) -> Option<i64> {
    let shape = matches!(text.len(), 16 | 19) && text[4] == b'-' && text[7] == b'-' && matches!(text[10], b' ' | b'T') && text[13] == b':';
    if !shape || text.len() == 19 && text[16] != b':' {
        return None;
    }
    let number = |at: std::ops::Range<usize>| {
        text[at].iter().try_fold(0_i16, |number, byte| byte.is_ascii_digit().then(|| number * 10 + i16::from(byte - b'0')))
    };
    let two = |at: usize| number(at..at + 2).and_then(|number| i8::try_from(number).ok());
    let date = Date::new(number(0..4)?, two(5)?, two(8)?).ok()?;
    let time = Time::new(two(11)?, two(14)?, if text.len() == 19 { two(17)? } else { 0 }, 0).ok()?;
    TimeZone::UTC.to_timestamp(date.to_datetime(time)).ok().map(|stamp| stamp.as_microsecond())
}

/// The first two numbers of an all-number date with the year last, for telling day from month.
pub(crate) fn leading_numbers(text: &str) -> Option<(u8, u8, u8)> {
    let (date, _) = split(text);
    let parts = date_parts(date)?;
    if parts[0].len() > 2 || parts[1].parse::<u8>().is_err() {
        return None;
    }
    let separator = date.bytes().find(|byte| !byte.is_ascii_digit())?;
    Some((parts[0].parse().ok()?, parts[1].parse().ok()?, separator))
}

/// The three numbers of a date such as 26-05-04, whose year may stand at either end.
pub(crate) fn short_date(text: &str) -> Option<[u8; 3]> {
    let (date, _) = split(text);
    let parts = date_parts(date)?;
    let two = |part: &str| part.len() == 2 && part.bytes().all(|byte| byte.is_ascii_digit());
    parts.iter().all(|part| two(part)).then(|| parts.map(|part| part.parse().unwrap_or(0)))
}

/// Whether a time says where on earth it holds.
pub(crate) fn has_zone(text: &str) -> bool {
    text.len() > 19 && text.parse::<jiff::Timestamp>().is_ok()
}

/// Splits at the first blank or T that is followed by a clock time.
fn split(text: &str) -> (&str, &str) {
    let clock = text.find(':').unwrap_or(text.len());
    match text[..clock].rfind([' ', 'T', ',']) {
        Some(at) if clock < text.len() => (text[..at].trim_end_matches([',', ' ']), text[at + 1..].trim()),
        _ => (text, ""),
    }
}

fn date_parts(date: &str) -> Option<[&str; 3]> {
    let mut parts = date.split(['-', '.', '/', ' ']).map(|part| part.trim_end_matches(',')).filter(|part| !part.is_empty());
    let three = [parts.next()?, parts.next()?, parts.next()?];
    parts.next().is_none().then_some(three)
}

fn parse_date(date: &str, order: DateOrder) -> Option<Date> {
    let [a, b, c] = date_parts(date)?;
    let number = |text: &str| text.bytes().all(|byte| byte.is_ascii_digit()).then(|| text.parse::<i16>().ok()).flatten();
    let named = |text: &str| {
        let name = text.trim_end_matches(['.', ',']).to_ascii_lowercase();
        // Three letters or more of the name, so that a word that only begins alike is none.
        let is = |month: &&str| name.len() >= 3 && (month.starts_with(&name) || name == "sept" && month.starts_with("sept"));
        MONTHS.iter().position(is).map(|month| month as i16 + 1)
    };
    let year = |text: &str| match text.len() {
        4 => number(text),
        2 => number(text).map(|short| if short < 70 { 2000 + short } else { 1900 + short }),
        _ => None,
    };
    let (year, month, day) = if a.len() == 4 && number(a).is_some() {
        (number(a)?, number(b).or_else(|| named(b))?, number(c)?)
    } else if let Some(month) = named(b) {
        (year(c)?, month, number(a)?)
    } else if let Some(month) = named(a) {
        (year(c)?, month, number(b)?)
    } else if order == DateOrder::YearFirst && a.len() == 2 && c.len() <= 2 {
        (year(a)?, number(b)?, number(c)?)
    } else {
        let (first, second) = (number(a)?, number(b)?);
        let (day, month) = if order == DateOrder::MonthFirst { (second, first) } else { (first, second) };
        (year(c)?, month, day)
    };
    Date::new(year, i8::try_from(month).ok()?, i8::try_from(day).ok()?).ok()
}

fn parse_clock(clock: &str) -> Option<Time> {
    let lower = clock.to_ascii_lowercase();
    let (clock, half) = match lower.strip_suffix("am").or_else(|| lower.strip_suffix("pm")) {
        Some(rest) => (rest.trim(), Some(lower.ends_with("pm"))),
        None => (lower.as_str(), None),
    };
    let (whole, fraction) = clock.split_once(['.', ',']).unwrap_or((clock, ""));
    let mut parts = whole.split(':').map(|part| part.parse::<i8>().ok());
    let (mut hour, minute, second) = (parts.next()??, parts.next()??, parts.next().unwrap_or(Some(0))?);
    if let Some(afternoon) = half {
        if !(1..=12).contains(&hour) {
            return None;
        }
        hour = hour % 12 + if afternoon { 12 } else { 0 };
    }
    let digits: String = fraction.chars().chain(std::iter::repeat('0')).take(6).collect();
    let micros: i32 = digits.parse().ok()?;
    Time::new(hour, minute, second, micros * 1000).ok().filter(|_| parts.next().is_none())
}
