//! An opened file: text with its encoding, or the sheets of a workbook.

use std::sync::Mutex;

use encoding_rs::Encoding;

use crate::decode::{self, Nature};
use crate::error::{FormatError, check_size};
use crate::lines::Lines;
use crate::sheet::Workbook;

/// A file whose nature is known.
pub struct Source {
    name: String,
    content: Content,
}

enum Content {
    Text(Vec<u8>),
    Workbook(Box<Mutex<Workbook>>),
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
            Nature::Zip => Content::Workbook(Box::new(Mutex::new(Workbook::open(&name, bytes)?))),
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
            Content::Text(_) => Vec::new(),
            Content::Workbook(book) => book.lock().unwrap_or_else(std::sync::PoisonError::into_inner).sheets(),
        }
    }

    /// The lines to read, of a sheet or in an encoding when one is wished for.
    pub(crate) fn lines(&self, encoding: Option<&str>, sheet: Option<&str>) -> Result<Lines, FormatError> {
        match &self.content {
            Content::Text(bytes) => {
                let decoded = match encoding {
                    Some(label) => {
                        let unknown = || FormatError::NoSuch { what: "encoding", given: label.to_owned() };
                        decode::in_encoding(bytes, Encoding::for_label(label.as_bytes()).ok_or_else(unknown)?)
                    }
                    None => decode::text(bytes),
                };
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
                    return book.lines(sheet);
                }
                // The first sheet with anything in it.
                for sheet in book.sheets() {
                    let lines = book.lines(&sheet)?;
                    if matches!(&lines, Lines::Sheet { rows, .. } if !rows.is_empty()) {
                        return Ok(lines);
                    }
                }
                Err(FormatError::Empty { name: self.name.clone() })
            }
        }
    }
}
