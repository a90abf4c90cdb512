//! `layout`.

use acorn_store::chunks::CHUNK_GAP;
use acorn_store::layout::*;

#[test]
fn rows_are_put_at_the_end_or_in_between_without_moving_other_chunks() {
    let layout = Layout::of(1, [(0, 2048), (CHUNK_GAP, 100)]);
    assert_eq!(layout.insertion(2148, 3).pieces, [(CHUNK_GAP, 103)]);
    assert_eq!(layout.insertion(2148, 2048).pieces, [(CHUNK_GAP, 2048), (2 * CHUNK_GAP, 100)]);
    let between = layout.insertion(5, 4096);
    assert_eq!((between.opened, between.offset), (Some(layout.places[0]), 5));
    assert_eq!(between.pieces, [(0, 2048), (CHUNK_GAP / 3, 2048), (CHUNK_GAP / 3 * 2, 2048)]);
    assert_eq!(Layout::of(1, [(0, 2048)]).insertion(2048, 1), Insertion { opened: None, offset: 0, pieces: vec![(CHUNK_GAP, 1)] });
    assert_eq!(Layout::of(1, []).insertion(9, 2).pieces, [(0, 2)]);
    // No number is left between 7 and 8: the chunk grows.
    assert_eq!(Layout::of(1, [(7, 2048), (8, 1)]).insertion(0, 5000).pieces, [(7, 7048)]);
}

#[test]
fn a_window_names_the_chunks_that_hold_it() {
    let layout = Layout::of(1, [(0, 10), (5, 1), (9, 20)]);
    assert_eq!(layout.window(10, 5), (5..10, 0));
    assert_eq!(layout.window(3, 2), (0..1, 3));
    assert_eq!((layout.window(31, 2), layout.window(0, 0)), ((0..0, 0), (0..0, 0)));
    assert_eq!(layout.holding(31), None);
}
