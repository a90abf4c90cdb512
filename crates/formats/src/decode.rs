//! What the bytes are, and text out of them.

use encoding_rs::{Encoding, UTF_8, UTF_16BE, UTF_16LE, WINDOWS_1252};

/// What the first bytes say.
#[derive(Debug, PartialEq, Eq)]
pub(crate) enum Nature {
    Text,
    Zip,
    Other(&'static str),
}

/// Tells text and workbooks from what cannot be a table.
pub(crate) fn nature(bytes: &[u8]) -> Nature {
    const SIGNATURES: [(&[u8], &str); 9] = [
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
    // "BM" may well start a text; a bitmap has zero bytes soon after.
    let binary = |signature: &[u8]| signature.len() > 2 || bytes.iter().take(64).any(|byte| *byte == 0);
    let signed = SIGNATURES.iter().find(|(signature, _)| bytes.starts_with(signature) && binary(signature));
    match signed {
        Some((_, what)) => Nature::Other(what),
        None if wide(bytes).is_none() && bytes.iter().take(4096).any(|byte| *byte == 0) => Nature::Other("a binary file"),
        None => Nature::Text,
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

/// The encoding that the bytes are most likely in.
pub(crate) fn encoding(bytes: &[u8]) -> &'static Encoding {
    wide(bytes).unwrap_or_else(|| if std::str::from_utf8(bytes).is_ok() { UTF_8 } else { WINDOWS_1252 })
}

/// Text in an encoding, byte order mark removed.
pub(crate) fn text(bytes: &[u8], encoding: &'static Encoding) -> String {
    encoding.decode_with_bom_removal(bytes).0.into_owned()
}

#[cfg(test)]
mod tests {
    use super::*;

    #[test]
    fn encodings_are_told_apart() {
        let utf16: Vec<u8> = "flux;größe\n".encode_utf16().flat_map(u16::to_le_bytes).collect();
        assert_eq!(encoding(&utf16), UTF_16LE);
        assert_eq!(nature(&utf16), Nature::Text);
        assert_eq!(text(&utf16, UTF_16LE), "flux;größe\n");
        assert_eq!(encoding(b"gr\xF6\xDFe"), WINDOWS_1252);
        assert_eq!(text(b"\xEF\xBB\xBFflux", UTF_8), "flux");
    }

    #[test]
    fn pictures_and_programs_are_not_tables() {
        assert_eq!(nature(b"\x89PNG\r\n\x1a\n"), Nature::Other("a picture"));
        assert_eq!(nature(b"a\0\x01\x02b"), Nature::Other("a binary file"));
        assert_eq!(nature(b"BM;flux\n1;2\n"), Nature::Text);
    }
}
