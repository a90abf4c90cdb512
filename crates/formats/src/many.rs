//! Text files of one layout as one table, with a column for the file that a row comes from.

use std::collections::HashMap;
use std::io::{Cursor, Read};

use crate::body::Body;
use crate::bounds;
use crate::decode;
use crate::error::FormatError;
use crate::export::as_meant;
use crate::layout;
use crate::lines::Lines;
use crate::reading::{ReadNote, ReadOptions};
use crate::records::Records;
use crate::stretches::Stretch;
use crate::table::free_name;

/// A file with its name.
pub(crate) type File = (String, Vec<u8>);

/// The column of files.
const FILE: &str = "file";
/// Endings of the files in an archive that are read.
const ENDINGS: [&str; 3] = ["csv", "tsv", "txt"];
/// Files told of by name.
const TOLD: usize = 3;

/// The text files of an archive; nothing of its other parts is unpacked.
///
/// # Errors
/// [`FormatError::BrokenFile`], [`FormatError::TooMuch`], [`FormatError::NotATable`] where it has none.
pub(crate) fn unpack(name: &str, bytes: &[u8]) -> Result<Vec<File>, FormatError> {
    let broken = |problem: String| FormatError::BrokenFile { name: name.to_owned(), problem };
    let mut archive = zip::ZipArchive::new(Cursor::new(bytes)).map_err(|error| broken(error.to_string()))?;
    let (mut files, mut left) = (Vec::new(), bounds::UNPACKED_BYTES);
    for part in 0..archive.len() {
        let part = archive.by_index(part).map_err(|error| broken(error.to_string()))?;
        let path = part.name().map(|name| name.into_owned()).unwrap_or_default();
        let own = path.rsplit('/').next().unwrap_or_default();
        let ending = own.rsplit_once('.').map(|(_, ending)| ending.to_lowercase());
        let is_text = ending.is_some_and(|ending| ENDINGS.contains(&ending.as_str()));
        if !is_text || own.starts_with('.') || path.starts_with("__") {
            continue;
        }
        let mut text = Vec::new();
        let read = part.take(left + 1).read_to_end(&mut text).map_err(|error| broken(error.to_string()))? as u64;
        if read > left {
            let (have, limit) = (bounds::UNPACKED_BYTES + 1, bounds::UNPACKED_BYTES);
            return Err(FormatError::TooMuch { what: "unpacked size in bytes", have, limit });
        }
        left -= read;
        FormatError::bound("files", files.len() + 1, bounds::FILES)?;
        files.push((own.to_owned(), text));
    }
    files.sort();
    if files.is_empty() {
        return Err(FormatError::NotATable { name: name.to_owned(), found: "an archive without CSV or text files" });
    }
    Ok(files)
}

/// The rows of all files, columns matched by name.
///
/// # Errors
/// [`FormatError::OtherLayout`] for a file that shares no column with those before it, or why one cannot be read.
pub(crate) fn lines(files: &[File], read_options: &ReadOptions) -> Result<Lines<'static>, FormatError> {
    let mut records = Records::default();
    let mut files_column = None;
    let (mut told, mut doubts) = (Vec::new(), Vec::new());
    let (mut lacking, mut added) = (Vec::new(), Vec::new());
    let mut known: HashMap<String, usize> = HashMap::new();
    let mut with_units = false;
    for (name, bytes) in files {
        let decoded = decode::text(bytes);
        if let Some(found) = decode::no_table(&decoded.text) {
            return Err(FormatError::NotATable { name: name.clone(), found });
        }
        doubts.extend(decoded.doubt.map(|doubt| ReadNote { sentence: format!("{name}: {}", doubt.sentence), ..doubt }));
        let delimiter = layout::delimiter(&decoded.text);
        if let Some(line) = layout::open_quote(&decoded.text, delimiter) {
            return Err(FormatError::OpenQuote { name: name.clone(), line });
        }
        let text = Lines::Text { text: decoded.text, encoding: decoded.encoding, doubts: Vec::new() };
        let plain = ReadOptions { keep_units: read_options.keep_units, keep_total: read_options.keep_total, ..ReadOptions::default() };
        let body = Body::find(name, &text, Some(delimiter), &plain)?;
        let named = |(place, header): (usize, &String)| {
            let header = as_meant(header).split_whitespace().collect::<Vec<_>>().join(" ");
            if header.is_empty() { format!("column {}", place + 1) } else { header }
        };
        let header: Vec<String> = body.header.iter().enumerate().map(named).collect();
        if !known.is_empty() {
            if !header.iter().any(|column| known.contains_key(column)) {
                return Err(FormatError::OtherLayout { name: name.clone(), first: files[0].0.clone() });
            }
            lacking.extend(known.keys().filter(|column| !header.contains(column)).map(|column| format!("{name} lacks {column}")));
            added.extend(header.iter().filter(|column| !known.contains_key(*column)).map(|column| format!("{name} has {column}")));
        }
        let mut places = Vec::with_capacity(header.len());
        for column in &header {
            let place = records.place(column)?;
            known.insert(column.clone(), place);
            places.push(place);
        }
        let file = match files_column {
            Some(place) => place,
            None => records.place(&free_name(FILE, |name| header.iter().any(|other| other == name)))?,
        };
        files_column = Some(file);
        if let Some((line, _)) = body.units.as_ref().filter(|_| !with_units && told.is_empty()) {
            with_units = true;
            records.row()?;
            let mut put = Ok(());
            Stretch::whole(&text).each_record(&text, Some(delimiter), |at, record| {
                if at == *line {
                    put = places.iter().zip(record.iter()).try_for_each(|(place, cell)| records.put(*place, cell, false));
                }
                at < *line
            });
            put?;
        }
        let mut put = Ok(());
        body.each_row(|_, _, record| {
            if put.is_ok() {
                let cells = || places.iter().zip(record.iter());
                put = records.row().and_then(|()| {
                    cells().filter(|(_, cell)| !cell.trim().is_empty()).try_for_each(|(place, cell)| records.put(*place, cell, false))
                });
                put = put.clone().and_then(|()| records.put(file, name, false));
            }
        });
        put?;
        told.push(format!("{name} ({})", if body.rows == 1 { "1 row".to_owned() } else { format!("{} rows", body.rows) }));
    }
    doubts.insert(0, ReadNote::fact("files", format!("{} files, one after the other: {}.", files.len(), listed(&told))));
    lacking.sort();
    doubts.extend((!lacking.is_empty()).then(|| ReadNote::doubt("files", format!("{}: missing there.", listed(&lacking)))));
    doubts.extend(
        (!added.is_empty())
            .then(|| ReadNote::doubt("files", format!("{}, which those before it have not: missing there.", listed(&added)))),
    );
    Ok(records.lines(doubts))
}

fn listed(parts: &[String]) -> String {
    let more = parts.len().saturating_sub(TOLD);
    let shown = parts[..parts.len().min(TOLD)].join(", ");
    if more > 0 { format!("{shown} and {more} more") } else { shown }
}
