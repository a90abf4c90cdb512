//! `model::slices`.

use acorn_models::model::slices::*;

#[test]
fn every_slice_is_taken_once() {
    for all in [1, 2, 3, 1000, 4096, 100_003] {
        let slices = Slices::new(all, 17);
        let mut taken: Vec<u64> = (0..all).map(|draw| slices.of(draw)).collect();
        taken.sort_unstable();
        assert!(taken.into_iter().eq(0..all), "{all}");
    }
}
