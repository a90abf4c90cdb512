//! `images`.

use acorn_store::chunks::Chunk;
use acorn_store::images::*;

#[test]
fn an_image_gives_back_the_chunk_and_keeps_only_what_changed() {
    let chunk = |cells: &[u8]| Some(Chunk { rows: cells.len(), cells: cells.to_vec() });
    let pairs = [
        (chunk(b"abcdef"), chunk(b"abXdef"), 1),
        (chunk(b"aaa"), chunk(b"aa"), 1),
        (chunk(b"aa"), chunk(b"aaaa"), 0),
        (None, chunk(b"new"), 0),
        (chunk(b"gone"), None, 4),
        (chunk(b""), chunk(b"x"), 0),
    ];
    for (before, after, kept) in pairs {
        let image = Image::between(1, 0, before.as_ref(), after.as_ref());
        assert_eq!(image.before(after.as_ref()).unwrap(), before);
        assert_eq!(image.cells.len(), kept);
    }
    let image = Image::between(1, 0, chunk(b"abcdef").as_ref(), chunk(b"abXdef").as_ref());
    assert!(image.before(chunk(b"ab").as_ref()).is_err());
}
