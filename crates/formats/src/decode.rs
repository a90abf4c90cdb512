//! What the bytes are, and text out of them.

use std::borrow::Cow;

use chardetng::{EncodingDetector, Iso2022JpDetection, Utf8Detection};
use encoding_rs::{Encoding, UTF_8, UTF_16BE, UTF_16LE};

use crate::reading::ReadNote;

/// What the first bytes say.
#[derive(Debug, PartialEq, Eq)]
pub enum Nature {
    Text,
    Zip,
    Parquet,
    Other(&'static str),
}

/// Tells text and workbooks from what cannot be a table.
pub fn nature(bytes: &[u8]) -> Nature {
    const SIGNATURES: [(&[u8], &str); 11] = [
        (b"\xFF\xFE\0\0", "text in UTF-32"),
        (b"\0\0\xFE\xFF", "text in UTF-32"),
        (b"\x89PNG", "a picture"),
        (b"\xFF\xD8\xFF", "a picture"),
        (b"GIF8", "a picture"),
        (b"RIFF", "a picture or a sound"),
        (b"BM", "a picture"),
        (b"%PDF", "a PDF document"),
        (b"\xD0\xCF\x11\xE0", "a workbook in an old binary format"),
        (b"\x1F\x8B", "a packed file"),
        (b"\x7FELF", "a program"),
    ];
    if bytes.starts_with(b"PK\x03\x04") {
        return Nature::Zip;
    }
    if bytes.starts_with(b"PAR1") && bytes.ends_with(b"PAR1") {
        return Nature::Parquet;
    }
    // "BM" may well start a text; a bitmap has zero bytes soon after.
    let binary = |signature: &[u8]| signature.len() > 2 || bytes.iter().take(64).any(|byte| *byte == 0);
    let signed = SIGNATURES.iter().find(|(signature, _)| bytes.starts_with(signature) && binary(signature));
    match signed {
        Some((_, what)) => Nature::Other(what),
        None if wide(bytes).is_none() && bytes.iter().take(4096).any(|byte| *byte == 0) => Nature::Other("a binary file"),
        None => Nature::Text,
    }
}

/// What an archive holds.
#[derive(Debug, PartialEq, Eq)]
pub enum Archive {
    Workbook,
    OpenDocument,
    Files,
}

/// Tells spreadsheets from files that were only packed together.
pub fn archive(bytes: &[u8]) -> Archive {
    let Ok(archive) = zip::ZipArchive::new(std::io::Cursor::new(bytes)) else { return Archive::Workbook };
    let has = |name: &str| archive.index_for_name(name).is_some();
    if has("content.xml") {
        Archive::OpenDocument
    } else if has("[Content_Types].xml") || archive.file_names().flatten().any(|name| name.starts_with("xl/")) {
        Archive::Workbook
    } else {
        Archive::Files
    }
}

/// UTF-16 by its mark, or by every other byte of the start being zero.
fn wide(bytes: &[u8]) -> Option<&'static Encoding> {
    match bytes {
        [0xFF, 0xFE, ..] => return Some(UTF_16LE),
        [0xFE, 0xFF, ..] => return Some(UTF_16BE),
        _ => {}
    }
    let start = &bytes[..bytes.len().min(256) & !1];
    let zeros = |offset: usize| start.iter().skip(offset).step_by(2).filter(|byte| **byte == 0).count();
    let pairs = start.len() / 2;
    if pairs >= 4 && zeros(1) * 10 >= pairs * 8 && zeros(0) == 0 {
        Some(UTF_16LE)
    } else if pairs >= 4 && zeros(0) * 10 >= pairs * 8 && zeros(1) == 0 {
        Some(UTF_16BE)
    } else {
        None
    }
}

/// Text out of bytes, and what is doubtful about it.
pub struct Decoded<'b> {
    pub text: Cow<'b, str>,
    pub encoding: &'static Encoding,
    pub doubt: Option<ReadNote>,
}

/// Text in the encoding that the bytes are most likely in, byte order mark removed and every line ended alike.
pub fn text(bytes: &[u8]) -> Decoded<'_> {
    if let Some(encoding) = wide(bytes) {
        return in_encoding(bytes, encoding);
    }
    let Err(error) = std::str::from_utf8(bytes) else { return in_encoding(bytes, UTF_8) };
    let utf8 = in_encoding(bytes, UTF_8);
    let bad = utf8.text.matches(REPLACED).count();
    let foreign = utf8.text.chars().filter(|letter| !letter.is_ascii() && *letter != REPLACED).count();
    // Where letters of several bytes are right nearly everywhere, a few that are not are slips and no other encoding.
    if foreign > 0 && bad <= 1 + foreign / 10 {
        let line = 1 + memchr::memchr_iter(b'\n', &bytes[..error.valid_up_to()]).count();
        let places = if bad == 1 { "One letter is".to_owned() } else { format!("{bad} letters are") };
        let sentence = format!("{places} broken and read as “{REPLACED}”, the first in line {line}; all else is UTF-8.");
        return Decoded { doubt: Some(ReadNote::doubt("encoding", sentence)), ..utf8 };
    }
    let mut detector = EncodingDetector::new(Iso2022JpDetection::Allow);
    detector.feed(bytes, true);
    let encoding = detector.guess(None, Utf8Detection::Deny);
    let guessed = in_encoding(bytes, encoding);
    let shown = guessed.text.lines().find(|line| !line.is_ascii()).unwrap_or_default();
    let shown: String = shown.chars().take(SHOWN).collect();
    let sentence = format!("The text is not UTF-8; {} was guessed, which reads “{shown}”.", encoding.name());
    Decoded { doubt: Some(ReadNote::doubt("encoding", sentence)), ..guessed }
}

/// Text in a given encoding.
pub fn in_encoding<'b>(bytes: &'b [u8], encoding: &'static Encoding) -> Decoded<'b> {
    let text = encoding.decode_with_bom_removal(bytes).0;
    // A carriage return by itself ends a line too, also beside others that end differently.
    let returns = text.contains('\r') && text.as_bytes().windows(2).any(|two| two[0] == b'\r' && two[1] != b'\n') || text.ends_with('\r');
    let text = if returns { text.replace("\r\n", "\n").replace('\r', "\n").into() } else { text };
    Decoded { text, encoding, doubt: None }
}

const REPLACED: char = '\u{fffd}';
/// Letters shown of a line that was guessed at.
const SHOWN: usize = 60;
/// Letters looked at to tell text from noise, and one in how many may be no letter.
const NOISE_IN: usize = 10_000;
const NOISE_MOST: usize = 200;

/// What a text is that is no table: a page, a document or noise.
pub fn no_table(text: &str) -> Option<&'static str> {
    let start: String = text.trim_start().chars().take(200).collect::<String>().to_lowercase();
    let begins = |words: &[&str]| words.iter().any(|word| start.starts_with(word));
    let noise =
        text.chars().take(NOISE_IN).filter(|letter| letter.is_control() && !matches!(letter, '\t' | '\r' | '\n' | '\u{c}' | '\u{1a}'));
    if begins(&["<!doctype html", "<html", "<head", "<body", "<table"]) {
        Some("a web page")
    } else if begins(&["<?xml", "<svg", "<!--"]) || start.starts_with('<') && start.contains("xmlns") {
        Some("an XML document")
    } else if begins(&["[{", "{\"", "[ {", "{ \""]) || start.starts_with(['[', '{']) && start[1..].trim_start().starts_with(['{', '"', '['])
    {
        Some("a JSON document")
    } else if noise.count() > text.chars().take(NOISE_IN).count() / NOISE_MOST {
        Some("a binary file")
    } else {
        None
    }
}
