//! `gaps`.

use acorn_formats::gaps::*;

#[test]
fn blocks_are_told_from_sparse_values() {
    let in_blocks = |cells: &[&str]| {
        let mut gaps = Gaps::default();
        cells.iter().for_each(|cell| gaps.see(cell));
        gaps.in_blocks()
    };
    assert!(in_blocks(&["A", "", "", "B", "", ""]));
    assert!(in_blocks(&["04.05.2026", "", "05.05.2026", ""]));
    for cells in [&["", "A", "", "B"][..], &["A", "", "", ""], &["A", "B", "", "C"], &["2.41", "", "2.43", ""], &["ok", "", "ok", ""]] {
        assert!(!in_blocks(cells), "{cells:?}");
    }
}
