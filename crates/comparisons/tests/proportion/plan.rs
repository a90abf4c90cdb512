//! `proportion::plan`.

use acorn_comparisons::proportion::plan::*;
use acorn_comparisons::proportion::sample::Alternative;

#[test]
fn a_region_moved_piece_by_piece_is_the_one_found_at_once() {
    for alternative in [Alternative::NotEqual, Alternative::Less, Alternative::Greater] {
        for claim in [0.02, 0.3, 0.97] {
            let mut region = Region::of(200.0, claim, alternative);
            for n in (20..200).rev().map(f64::from) {
                region = region.moved(n, claim, alternative);
                let at_once = Region::of(n, claim, alternative);
                assert_eq!([region.low, region.high], [at_once.low, at_once.high], "{alternative:?} {claim} {n}");
            }
        }
    }
}
