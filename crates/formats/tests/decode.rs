//! `decode`.

use acorn_formats::decode::*;
use encoding_rs::{Encoding, UTF_8, UTF_16LE};

#[test]
fn encodings_are_told_apart() {
    let utf16: Vec<u8> = "flux;größe\n".encode_utf16().flat_map(u16::to_le_bytes).collect();
    assert_eq!(nature(&utf16), Nature::Text);
    assert_eq!((text(&utf16).encoding, &*text(&utf16).text), (UTF_16LE, "flux;größe\n"));
    assert_eq!(text(b"\xEF\xBB\xBFflux").text, "flux");
    // One broken byte among good ones is a slip; else the language of the words tells the encoding.
    let mut bytes = "größe;flux\nÜbergang;1\n".as_bytes().to_vec();
    bytes.extend(b"k\xFCrze;2\n");
    let slip = text(&bytes);
    assert!(slip.encoding == UTF_8 && slip.doubt.unwrap().sentence.contains("the first in line 3"));
    for (label, words) in [
        ("windows-1252", "Größe;Übergang;Maß\nhäufig;1;2\n"),
        ("windows-1251", "толщина;партия;линза\nпервая;1;2\n"),
        ("Shift_JIS", "厚さ;ロット;レンズ\nひらがな;1;2\n"),
    ] {
        let encoding = Encoding::for_label(label.as_bytes()).unwrap();
        let bytes = encoding.encode(words).0;
        let found = text(&bytes);
        assert_eq!((found.encoding.name(), &*found.text), (label, words));
        assert!(found.doubt.is_some());
    }
}

#[test]
fn pictures_and_programs_are_not_tables() {
    assert_eq!(nature(b"\x89PNG\r\n\x1a\n"), Nature::Other("a picture"));
    assert_eq!(nature(b"a\0\x01\x02b"), Nature::Other("a binary file"));
    assert_eq!(nature(b"BM;flux\n1;2\n"), Nature::Text);
}
