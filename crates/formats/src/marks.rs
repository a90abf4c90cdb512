//! What a workbook says beside its cells: how large it really is, what is hidden, what was never calculated.

use std::collections::HashMap;
use std::io::{Cursor, Read};

use crate::bounds;
use crate::error::FormatError;
use crate::reading::ReadNote;

/// Marks of the sheets of a workbook, by the name of the sheet.
#[derive(Default)]
pub(crate) struct Marks {
    sheets: HashMap<String, SheetMarks>,
}

/// What is marked in one sheet.
#[derive(Clone, Copy, Default)]
struct SheetMarks {
    hidden_rows: usize,
    hidden_columns: usize,
    uncalculated: usize,
}

impl Marks {
    /// Unpacks every part once, because the sizes that a file states need not be true, and stops at the bound.
    ///
    /// # Errors
    /// [`FormatError::TooMuch`] beyond it, [`FormatError::BrokenWorkbook`].
    pub fn of(name: &str, bytes: &[u8]) -> Result<Marks, FormatError> {
        let broken = |problem: String| FormatError::BrokenWorkbook { name: name.to_owned(), problem };
        let mut archive = zip::ZipArchive::new(Cursor::new(bytes)).map_err(|error| broken(error.to_string()))?;
        let mut left = bounds::UNPACKED_BYTES;
        let (mut marks, mut book, mut links) = (HashMap::new(), String::new(), String::new());
        for part in 0..archive.len() {
            let part = archive.by_index(part).map_err(|error| broken(error.to_string()))?;
            let path = part.name().map(|name| name.into_owned()).unwrap_or_default();
            let mut counted = part.take(left + 1);
            let read = match path.as_str() {
                "xl/workbook.xml" => counted.read_to_string(&mut book).map(|read| read as u64),
                "xl/_rels/workbook.xml.rels" => counted.read_to_string(&mut links).map(|read| read as u64),
                path if path.starts_with("xl/worksheets/") => SheetMarks::of(counted).map(|(sheet, read)| {
                    marks.insert(path.to_owned(), sheet);
                    read
                }),
                _ => std::io::copy(&mut counted, &mut std::io::sink()),
            };
            let read = read.map_err(|error| broken(error.to_string()))?;
            if read > left {
                let (have, limit) = (bounds::UNPACKED_BYTES + 1, bounds::UNPACKED_BYTES);
                return Err(FormatError::TooMuch { what: "unpacked size in bytes", have, limit });
            }
            left -= read;
        }
        let targets: HashMap<&str, &str> =
            tags(&links, "Relationship").filter_map(|tag| Some((attribute(tag, "Id")?, attribute(tag, "Target")?))).collect();
        let of_sheet = |tag| {
            let target = targets.get(attribute(tag, "r:id")?)?.trim_start_matches("/xl/").trim_start_matches("./");
            Some((attribute(tag, "name")?.to_owned(), *marks.get(&format!("xl/{target}"))?))
        };
        Ok(Marks { sheets: tags(&book, "sheet").filter_map(of_sheet).collect() })
    }

    /// What is to be said of a sheet.
    pub fn doubts(&self, sheet: &str) -> Vec<ReadNote> {
        let SheetMarks { hidden_rows, hidden_columns, uncalculated } = self.sheets.get(sheet).copied().unwrap_or_default();
        let said = |count: usize, one: &str, many: &str, what: &str| {
            let cells = if count == 1 { format!("One {one}") } else { format!("{count} {many}") };
            (count > 0).then(|| ReadNote::doubt("cells", format!("{cells} {what}")))
        };
        [
            said(hidden_rows, "row is", "rows are", "hidden in the workbook and taken in all the same."),
            said(
                hidden_columns,
                "column is",
                "columns are",
                "hidden in the workbook and taken in all the same; leave out what is not wanted.",
            ),
            said(
                uncalculated,
                "formula was",
                "formulas were",
                "never calculated and read as missing: open the workbook, save it, and bring it in again.",
            ),
        ]
        .into_iter()
        .flatten()
        .collect()
    }
}

/// Bytes of a sheet looked at together.
const PIECE: usize = 1 << 20;

impl SheetMarks {
    /// Reads a sheet piece by piece, each up to where a cell, a row or a column begins; with how many bytes there were.
    fn of(mut xml: impl Read) -> std::io::Result<(SheetMarks, u64)> {
        let (mut marks, mut kept, mut all) = (SheetMarks::default(), Vec::new(), 0);
        let mut piece = vec![0; PIECE];
        loop {
            let read = xml.read(&mut piece)?;
            all += read as u64;
            kept.extend_from_slice(&piece[..read]);
            let begins = |at: &usize| kept[*at] == b'<' && matches!(kept.get(at + 1), Some(b'c' | b'r'));
            let whole = match read {
                0 => kept.len(),
                _ => (0..kept.len()).rev().take(PIECE).find(begins).unwrap_or(0),
            };
            marks.see(&String::from_utf8_lossy(&kept[..whole]));
            kept.drain(..whole);
            // Nothing of a sheet that is one is so long.
            if kept.len() > 4 * PIECE {
                kept.clear();
            }
            if read == 0 {
                return Ok((marks, all));
            }
        }
    }

    fn see(&mut self, text: &str) {
        let hidden = |tag: &&str| matches!(attribute(tag, "hidden"), Some("1" | "true"));
        let columns = tags(text, "col").filter(hidden).filter_map(|tag| {
            let place = |name| attribute(tag, name)?.parse::<usize>().ok();
            Some(place("max")?.saturating_sub(place("min")?) + 1)
        });
        // A formula with nothing after it before its cell ends has no value.
        let without_value = |after: &str| after.starts_with("</c>");
        let written = text.match_indices("</f>").filter(|(at, end)| without_value(&text[at + end.len()..]));
        let shared = tags(text, "f").filter(|tag| tag.ends_with('/')).filter(|tag| {
            let end = tag.as_ptr() as usize - text.as_ptr() as usize + tag.len() + 1;
            without_value(&text[end.min(text.len())..])
        });
        self.uncalculated += written.count() + shared.count();
        self.hidden_rows += tags(text, "row").filter(hidden).count();
        self.hidden_columns += columns.sum::<usize>();
    }
}

/// The opening tags of a name, without their brackets.
fn tags<'t>(text: &'t str, name: &'t str) -> impl Iterator<Item = &'t str> {
    text.match_indices('<').filter_map(move |(at, _)| {
        let rest = text[at + 1..].strip_prefix(name)?;
        rest.starts_with([' ', '\n', '\r', '\t']).then(|| &rest[..rest.find('>').unwrap_or(0)])
    })
}

/// The value of an attribute of a tag.
fn attribute<'t>(tag: &'t str, name: &str) -> Option<&'t str> {
    let at = tag.match_indices(name).map(|(at, _)| at).find(|at| {
        let before = at.checked_sub(1).and_then(|before| tag.as_bytes().get(before));
        before.is_none_or(u8::is_ascii_whitespace) && tag[at + name.len()..].starts_with('=')
    })?;
    let value = &tag[at + name.len() + 1..];
    let quote = value.chars().next().filter(|quote| matches!(quote, '"' | '\''))?;
    value[1..].split(quote).next()
}
