//! An opened file: text with its encoding, or the sheets of a workbook.

use std::sync::Mutex;

use encoding_rs::Encoding;

use crate::decode::{self, Archive, Nature};
use crate::error::{FormatError, check_size};
use crate::lines::Lines;
use crate::many::{self, File};
use crate::ods::OpenDocument;
use crate::reading::ReadOptions;
use crate::sheet::Workbook;
use crate::{bounds, json, parquet_in};

/// A file whose nature is known.
pub struct Source {
    name: String,
    content: Content,
}

enum Content {
    Text(Vec<u8>),
    Workbook(Box<Mutex<Workbook>>),
    OpenDocument(OpenDocument),
    Parquet(Vec<u8>),
    Many(Vec<File>),
}

impl Source {
    /// Tells what the bytes of a file are.
    ///
    /// # Errors
    /// [`FormatError`] for an empty file, a picture, a broken workbook or one that is too large.
    pub fn open(name: &str, bytes: Vec<u8>) -> Result<Source, FormatError> {
        check_size(&bytes)?;
        let name = name.to_owned();
        if bytes.iter().all(|byte| byte.is_ascii_whitespace() || [0xEF, 0xBB, 0xBF, 0xFE, 0xFF, 0].contains(byte)) {
            return Err(FormatError::Empty { name });
        }
        let content = match decode::nature(&bytes) {
            Nature::Text => Content::Text(bytes),
            Nature::Parquet => Content::Parquet(bytes),
            Nature::Zip => match decode::archive(&bytes) {
                Archive::OpenDocument => Content::OpenDocument(OpenDocument::open(&name, &bytes)?),
                Archive::Workbook => Content::Workbook(Box::new(Mutex::new(Workbook::open(&name, bytes)?))),
                Archive::Files => Content::Many(many::unpack(&name, &bytes)?),
            },
            Nature::Other(found) => return Err(FormatError::NotATable { name, found }),
        };
        Ok(Source { name, content })
    }

    /// The name of the file.
    pub fn name(&self) -> &str {
        &self.name
    }

    /// The sheets of a workbook; none for text.
    pub fn sheets(&self) -> Vec<String> {
        match &self.content {
            Content::Text(_) | Content::Parquet(_) | Content::Many(_) => Vec::new(),
            Content::OpenDocument(book) => book.sheets(),
            Content::Workbook(book) => book.lock().unwrap_or_else(std::sync::PoisonError::into_inner).sheets(),
        }
    }

    /// Adds another text file of the same layout, or an archive of some; its rows come behind the others. How many were added.
    ///
    /// # Errors
    /// [`FormatError::NotATable`] where either is no text, [`FormatError::TooMuch`].
    pub fn add(&mut self, name: &str, bytes: Vec<u8>) -> Result<usize, FormatError> {
        check_size(&bytes)?;
        let other = Source::open(name, bytes)?;
        let texts = |content: Content, name: String| match content {
            Content::Text(bytes) => Ok(vec![(name, bytes)]),
            Content::Many(files) => Ok(files),
            _ => Err(FormatError::NotATable { name, found: "no text, and only text files are put together" }),
        };
        let added = texts(other.content, other.name)?;
        if !matches!(self.content, Content::Text(_) | Content::Many(_)) {
            return Err(FormatError::NotATable { name: self.name.clone(), found: "no text, and only text files are put together" });
        }
        let own = std::mem::replace(&mut self.content, Content::Many(Vec::new()));
        let mut files = texts(own, self.name.clone())?;
        let count = added.len();
        files.extend(added);
        let bytes = files.iter().map(|(_, bytes)| bytes.len()).sum();
        let within = FormatError::bound("files", files.len(), bounds::FILES)
            .and_then(|()| FormatError::bound("file size in bytes", bytes, bounds::FILE_BYTES));
        self.content = Content::Many(files);
        if within.is_err() {
            self.take_back(count);
        }
        within.map(|()| count)
    }

    /// Takes back so many files that were added last.
    pub fn take_back(&mut self, added: usize) {
        if let Content::Many(files) = &mut self.content {
            files.truncate(files.len().saturating_sub(added));
            if let [(_, bytes)] = &mut files[..] {
                self.content = Content::Text(std::mem::take(bytes));
            }
        }
    }

    /// The lines to read, of a sheet or in an encoding when one is wished for; and whether the first of them has the names for sure.
    pub(crate) fn lines(&self, read_options: &ReadOptions) -> Result<(Lines<'_>, Head), FormatError> {
        let (encoding, sheet) = (read_options.encoding.as_deref(), read_options.sheet.as_deref());
        let found = match &self.content {
            Content::Parquet(bytes) => return Ok((parquet_in::lines(&self.name, bytes.clone())?, Head::Names)),
            Content::Many(files) => return Ok((many::lines(files, read_options)?, Head::NamesAndUnits)),
            Content::OpenDocument(book) => match sheet {
                Some(sheet) => book
                    .lines(sheet, read_options.keep_merged)
                    .ok_or_else(|| FormatError::NoSuch { what: "sheet", given: sheet.to_owned() }),
                None => {
                    let lines = || book.sheets().into_iter().filter_map(|sheet| book.lines(&sheet, read_options.keep_merged));
                    let found = lines().find(Lines::has_table).or_else(|| lines().find(Lines::has_rows));
                    found.ok_or_else(|| FormatError::Empty { name: self.name.clone() })
                }
            },
            Content::Text(bytes) => {
                let decoded = match encoding {
                    Some(label) => {
                        let unknown = || FormatError::NoSuch { what: "encoding", given: label.to_owned() };
                        decode::in_encoding(bytes, Encoding::for_label(label.as_bytes()).ok_or_else(unknown)?)
                    }
                    None => decode::text(bytes),
                };
                if json::is_json(&decoded.text) {
                    return Ok((json::lines(&self.name, &decoded.text)?, Head::Names));
                }
                if let Some(found) = decode::no_table(&decoded.text) {
                    return Err(FormatError::NotATable { name: self.name.clone(), found });
                }
                Ok(Lines::Text { text: decoded.text, encoding: decoded.encoding, doubts: decoded.doubt.into_iter().collect() })
            }
            Content::Workbook(book) => {
                let mut book = book.lock().unwrap_or_else(std::sync::PoisonError::into_inner);
                if let Some(sheet) = sheet {
                    if !book.sheets().iter().any(|name| name == sheet) {
                        return Err(FormatError::NoSuch { what: "sheet", given: sheet.to_owned() });
                    }
                    return Ok((book.lines(sheet, read_options.keep_merged)?, Head::Unknown));
                }
                // The first sheet with a table, else the first with anything in it.
                let mut first = None;
                for sheet in book.sheets() {
                    let lines = book.lines(&sheet, read_options.keep_merged)?;
                    if lines.has_table() {
                        return Ok((lines, Head::Unknown));
                    }
                    first = first.or(Some(lines).filter(Lines::has_rows));
                }
                first.ok_or_else(|| FormatError::Empty { name: self.name.clone() })
            }
        };
        Ok((found?, Head::Unknown))
    }
}

/// What is known of the first lines.
#[derive(Clone, Copy, Debug, PartialEq, Eq)]
pub(crate) enum Head {
    /// Nothing.
    Unknown,
    /// The first has the names, and every other is a row.
    Names,
    /// The first has the names; the second may have the units.
    NamesAndUnits,
}
