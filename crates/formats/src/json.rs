//! Objects of a JSON document as rows: an array of them, one after the other as lines, or the one array within an object; and rows as
//! such an array.

use std::fmt;
use std::io::Write;
use std::ops::Range;

use acorn_data::frame::Values;
use serde::de::{DeserializeSeed, Deserializer, Error, SeqAccess, Visitor};
use serde_json::{Map, Value};

use crate::error::FormatError;
use crate::export::rows_of;
use crate::lines::Lines;
use crate::reading::ReadNote;
use crate::records::Records;

/// Whether a text begins as such a document.
pub(crate) fn is_json(text: &str) -> bool {
    let start = text.trim_start();
    let second = || start[1..].trim_start().chars().next();
    match start.chars().next() {
        Some('{') => matches!(second(), Some('"' | '}')),
        Some('[') => matches!(second(), Some('{' | ']')),
        _ => false,
    }
}

/// Reads such a document.
///
/// # Errors
/// [`FormatError::BrokenFile`] for what is no JSON or no rows, [`FormatError::TooMuch`].
pub(crate) fn lines(name: &str, text: &str) -> Result<Lines<'static>, FormatError> {
    let mut rows = Rows::default();
    let read = match text.trim_start().starts_with('[') {
        true => {
            let mut reader = serde_json::Deserializer::from_str(text);
            rows.deserialize(&mut reader).and_then(|()| reader.end())
        }
        false => objects(text, &mut rows),
    };
    if let Some(refused) = rows.refused {
        return Err(refused);
    }
    read.map_err(|error| FormatError::BrokenFile { name: name.to_owned(), problem: error.to_string() })?;
    if rows.records.is_empty() {
        return Err(FormatError::NoRows { name: name.to_owned() });
    }
    let lists = (rows.lists > 0).then(|| {
        let cells =
            if rows.lists == 1 { "One value is a list and kept".to_owned() } else { format!("{} values are lists and kept", rows.lists) };
        ReadNote::doubt("cells", format!("{cells} as text."))
    });
    Ok(rows.records.lines(lists.into_iter().collect()))
}

/// Writes named columns as an array of objects, one a line; missing is null.
///
/// # Errors
/// Those of `out`.
pub fn write_json(columns: &[(&str, &Values)], out: &mut impl Write) -> std::io::Result<()> {
    out.write_all(b"[")?;
    for row in 0..rows_of(columns) {
        out.write_all(if row == 0 { b"\n" } else { b",\n" })?;
        serde_json::to_writer(&mut *out, &object(columns, row))?;
    }
    out.write_all(b"\n]\n")
}

/// Writes some rows of named columns as objects, each a line of its own; missing is null.
///
/// # Errors
/// Those of `out`.
pub fn write_json_lines(columns: &[(&str, &Values)], rows: Range<usize>, out: &mut impl Write) -> std::io::Result<()> {
    for row in rows {
        serde_json::to_writer(&mut *out, &object(columns, row))?;
        out.write_all(b"\n")?;
    }
    Ok(())
}

fn object(columns: &[(&str, &Values)], row: usize) -> Map<String, Value> {
    let cell = |values: &Values| match values {
        Values::Number(numbers) if numbers[row].fract() == 0.0 && numbers[row].abs() < EXACT => Value::from(numbers[row] as i64),
        Values::Number(numbers) => Value::from(numbers[row]),
        other => other.text(row).map_or(Value::Null, Value::from),
    };
    columns.iter().map(|(name, values)| ((*name).to_owned(), cell(values))).collect()
}

/// Whole numbers below this are the doubles that they are.
const EXACT: f64 = 9_007_199_254_740_992.0;

/// Objects one after the other; one alone may hold the rows as its one array.
fn objects(text: &str, rows: &mut Rows) -> serde_json::Result<()> {
    let mut all = serde_json::Deserializer::from_str(text).into_iter::<Map<String, Value>>();
    let Some(first) = all.next().transpose()? else { return Ok(()) };
    let Some(second) = all.next().transpose()? else {
        let is_rows = |value: &&Value| value.as_array().is_some_and(|items| items.first().is_some_and(Value::is_object));
        let arrays: Vec<&Value> = first.values().filter(is_rows).collect();
        return match arrays[..] {
            [Value::Array(items)] => items.iter().try_for_each(|item| match item {
                Value::Object(object) => rows.add(object),
                _ => Err(serde_json::Error::custom("not every item of its array is an object")),
            }),
            _ => rows.add(&first),
        };
    };
    rows.add(&first)?;
    rows.add(&second)?;
    all.try_for_each(|object| rows.add(&object?))
}

/// Rows taken out of a document as it is read.
#[derive(Default)]
struct Rows {
    records: Records,
    lists: usize,
    refused: Option<FormatError>,
}

impl Rows {
    fn add<E: Error>(&mut self, object: &Map<String, Value>) -> Result<(), E> {
        let added = self.records.row().and_then(|()| self.put("", object));
        added.map_err(|refused| {
            self.refused = Some(refused);
            E::custom("too much")
        })
    }

    /// Objects within objects become columns such as "lamp.maker".
    fn put(&mut self, within: &str, object: &Map<String, Value>) -> Result<(), FormatError> {
        for (key, value) in object {
            let name = if within.is_empty() { key.clone() } else { format!("{within}.{key}") };
            if let Value::Object(inner) = value {
                self.put(&name, inner)?;
                continue;
            }
            let place = self.records.place(&name)?;
            match value {
                Value::Number(number) => self.records.put(place, &number.to_string(), true)?,
                Value::String(text) => self.records.put(place, text, false)?,
                Value::Bool(flag) => self.records.put(place, if *flag { "yes" } else { "no" }, false)?,
                Value::Array(_) => {
                    self.lists += 1;
                    self.records.put(place, &value.to_string(), false)?;
                }
                Value::Null | Value::Object(_) => {}
            }
        }
        Ok(())
    }
}

impl<'de> DeserializeSeed<'de> for &mut Rows {
    type Value = ();

    fn deserialize<D: Deserializer<'de>>(self, from: D) -> Result<(), D::Error> {
        from.deserialize_seq(self)
    }
}

impl<'de> Visitor<'de> for &mut Rows {
    type Value = ();

    fn expecting(&self, words: &mut fmt::Formatter) -> fmt::Result {
        words.write_str("an array of objects")
    }

    fn visit_seq<A: SeqAccess<'de>>(self, mut items: A) -> Result<(), A::Error> {
        while let Some(object) = items.next_element::<Map<String, Value>>()? {
            self.add(&object)?;
        }
        Ok(())
    }
}
