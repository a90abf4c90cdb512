//! Stretches of a file that are read beside each other, each on its own.

use std::ops::Range;

use csv::StringRecord;
use memchr::{memchr, memchr_iter};

use crate::layout;
use crate::lines::Lines;

/// Bytes of a text below which it is read in one piece.
const LEAST_BYTES: usize = 1 << 20;

/// Lines that follow each other.
#[derive(Clone, Debug)]
pub(crate) struct Stretch {
    /// Their place: bytes of a text, rows of a sheet.
    at: Range<usize>,
    /// Whether no quotation mark stands in the text, so that a line is a record and a delimiter ends a cell.
    plain: bool,
    /// The number of the first of them.
    pub first_line: u64,
}

impl Stretch {
    /// All lines of a file.
    pub fn whole(lines: &Lines) -> Stretch {
        let (end, plain) = match lines {
            Lines::Text { text, .. } => (text.len(), !text.contains('"')),
            Lines::Sheet { rows, .. } => (rows.len(), false),
        };
        Stretch { at: 0..end, plain, first_line: 1 }
    }

    /// Stretches that together are all lines. A line may end a stretch where no quotation mark can have a line end within it.
    pub fn all(lines: &Lines) -> Vec<Stretch> {
        let whole = Stretch::whole(lines);
        let Lines::Text { text, .. } = lines else { return vec![whole] };
        let wanted = rayon::current_num_threads() * 2;
        let size = (text.len() / wanted).max(LEAST_BYTES);
        if text.len() < 2 * size || !whole.plain {
            return vec![whole];
        }
        let bytes = text.as_bytes();
        let mut all: Vec<Stretch> = Vec::with_capacity(wanted + 1);
        let (mut start, mut first_line) = (0, 1);
        while start < bytes.len() {
            let least = (start + size).min(bytes.len());
            let end = memchr(b'\n', &bytes[least..]).map_or(bytes.len(), |more| least + more + 1);
            all.push(Stretch { at: start..end, plain: true, first_line });
            first_line += memchr_iter(b'\n', &bytes[start..end]).count() as u64;
            start = end;
        }
        all
    }

    /// Calls back with each record that has anything in it and its line, until told to stop.
    pub fn each_record(&self, lines: &Lines, delimiter: Option<u8>, mut see: impl FnMut(u64, &mut StringRecord) -> bool) {
        let mut record = StringRecord::new();
        match lines {
            Lines::Sheet { rows, .. } => {
                for row in &rows[self.at.clone()] {
                    record.clone_from(&row.record);
                    if !see(row.line, &mut record) {
                        return;
                    }
                }
            }
            Lines::Text { text, .. } if self.plain => {
                let (text, delimiter) = (&text[self.at.clone()], delimiter.unwrap_or(b','));
                for (line, text) in (self.first_line..).zip(text.split('\n')) {
                    let text = text.strip_suffix('\r').unwrap_or(text);
                    record.clear();
                    let mut start = 0;
                    for end in memchr_iter(delimiter, text.as_bytes()) {
                        record.push_field(&text[start..end]);
                        start = end + 1;
                    }
                    record.push_field(&text[start..]);
                    if !is_blank(&record) && !see(line, &mut record) {
                        return;
                    }
                }
            }
            Lines::Text { text, .. } => {
                let text = &text[self.at.clone()];
                let mut reader = layout::records(text, delimiter.unwrap_or(b','));
                // The text is valid UTF-8 and rows may have any length, so no record can fail.
                while reader.read_record(&mut record).unwrap_or(false) {
                    let line = record.position().map_or(0, |position| line_of(text, position)) + self.first_line - 1;
                    if !is_blank(&record) && !see(line, &mut record) {
                        return;
                    }
                }
            }
        }
    }
}

fn is_blank(record: &StringRecord) -> bool {
    record.iter().all(|cell| cell.trim().is_empty())
}

/// The line that a record stands on: its position is taken before the empty lines above it are passed over.
fn line_of(text: &str, position: &csv::Position) -> u64 {
    let rest = &text.as_bytes()[position.byte() as usize..];
    let passed = rest.iter().take_while(|byte| matches!(byte, b'\r' | b'\n')).filter(|byte| **byte == b'\n').count();
    position.line() + passed as u64
}
