//! What a gauge sends, read from a line of text.

use regex::{Regex, RegexBuilder};
use serde::Serialize;

/// A reading of a gauge.
#[derive(Clone, Debug, PartialEq, Serialize, utoipa::ToSchema)]
#[schema(as = GaugeReading)]
pub struct Reading {
    /// The value, with its sign.
    pub value: f64,
    /// The unit, when the line says it.
    pub unit: Option<String>,
    /// The channel, when the line says it.
    pub channel: Option<String>,
}

/// Why a line is no reading.
#[derive(Clone, Debug, PartialEq, Eq, thiserror::Error)]
pub enum Unread {
    /// The pattern cannot be read.
    #[error("the pattern cannot be read: {0}")]
    BadPattern(String),
    /// No group for the value.
    #[error("the pattern names no group “value”")]
    NoValue,
    /// It does not fit.
    #[error("“{0}” does not look like a reading")]
    NoReading(String),
    /// Another unit than that of the column.
    #[error("the gauge reads in {have}, and “{column}” is in {need}")]
    WrongUnit {
        /// The unit of the reading.
        have: String,
        /// The unit of the column.
        need: String,
        /// The column.
        column: String,
    },
}

/// The shape of a line: a regular expression with the groups `value` and, where there are such, `sign`, `unit` and `channel`.
#[derive(Clone, Debug)]
pub struct LinePattern(Regex);

/// Characters of a pattern or a line at most.
pub const LINE_MOST: usize = 500;

/// Shapes that gauges usually send, with what each is for.
pub fn ready_made() -> [(&'static str, &'static str); 3] {
    [
        ("value and unit: +2.401 mm", r"^\s*(?<sign>[+-])?\s*(?<value>\d+(?:[.,]\d*)?(?:[eE][+-]?\d+)?)\s*(?<unit>[A-Za-zµμ°%/]+)?\s*$"),
        (
            "channel, value and unit: 2: +1.25 mm",
            r"^\s*(?<channel>[A-Za-z0-9]+)\s*[:;=,]\s*(?<sign>[+-])?\s*(?<value>\d+(?:[.,]\d*)?)\s*(?<unit>[A-Za-zµμ°%/]+)?\s*$",
        ),
        (
            "letters before the value: 01A+002.401",
            r"^\s*(?<channel>\d{2})?[A-Za-z]\s*(?<sign>[+-])(?<value>\d+(?:[.,]\d*)?)\s*(?<unit>[A-Za-zµμ°%/]+)?\s*$",
        ),
    ]
}

impl LinePattern {
    /// Reads a pattern.
    ///
    /// # Errors
    /// [`Unread::BadPattern`], [`Unread::NoValue`].
    pub fn read(pattern: &str) -> Result<LinePattern, Unread> {
        if pattern.chars().count() > LINE_MOST {
            return Err(Unread::BadPattern(format!("it has more than {LINE_MOST} characters")));
        }
        let built = RegexBuilder::new(pattern).size_limit(1 << 18).build();
        let regex = built.map_err(|error| Unread::BadPattern(error.to_string().lines().last().unwrap_or_default().trim().to_owned()))?;
        if regex.capture_names().any(|name| name == Some("value")) { Ok(LinePattern(regex)) } else { Err(Unread::NoValue) }
    }

    /// Reads a line. A decimal comma is one.
    ///
    /// # Errors
    /// [`Unread::NoReading`].
    pub fn reading(&self, line: &str) -> Result<Reading, Unread> {
        let none = || Unread::NoReading(line.chars().take(40).collect());
        let line = line.trim_end_matches(['\r', '\n']);
        let found = self.0.captures(line).filter(|_| line.len() <= LINE_MOST).ok_or_else(none)?;
        let text = |name: &str| found.name(name).map(|part| part.as_str().trim()).filter(|part| !part.is_empty());
        let size: f64 = text("value").and_then(|value| value.replace(',', ".").parse().ok()).ok_or_else(none)?;
        let value = if text("sign") == Some("-") { -size } else { size };
        if value.abs() > 1e100 {
            return Err(none());
        }
        Ok(Reading { value, unit: text("unit").map(str::to_owned), channel: text("channel").map(str::to_owned) })
    }
}

impl Reading {
    /// Refuses a reading in another unit than that of the column that it goes into. Without a unit on either side it is taken.
    ///
    /// # Errors
    /// [`Unread::WrongUnit`].
    pub fn check_unit(&self, column: &str, unit: Option<&str>) -> Result<(), Unread> {
        match (&self.unit, unit.map(str::trim).filter(|unit| !unit.is_empty())) {
            (Some(have), Some(need)) if plain(have) != plain(need) => {
                Err(Unread::WrongUnit { have: have.clone(), need: need.to_owned(), column: column.to_owned() })
            }
            _ => Ok(()),
        }
    }
}

/// A unit as it is compared: both micro signs are one, and gauges that know capital letters only mean what they mean by them.
fn plain(unit: &str) -> String {
    match unit.trim() {
        "MM" => "mm".to_owned(),
        "IN" => "in".to_owned(),
        unit => unit.replace('\u{3bc}', "\u{b5}"),
    }
}
