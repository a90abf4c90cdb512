//! `judgement`.

use acorn_maths::judgement::*;

#[test]
fn among_many_values_only_a_large_departure_counts() {
    assert!(misfits(100, Some(0.01), Some(1.2)) && !misfits(100, Some(0.06), Some(1.2)) && !misfits(100, None, None));
    assert!(!misfits(100_000, Some(1e-9), Some(9.0)) && misfits(100_000, Some(1e-9), Some(101.0)));
}

#[test]
fn ten_steps_are_fine_and_nine_are_coarse() {
    let steps = |n: u32| (0..40).map(|i| f64::from(i % n)).collect::<Vec<_>>();
    assert_eq!((coarse(&steps(9)), coarse(&steps(10)), coarse(&steps(1))), (Some(9), None, None));
    assert_eq!(coarse(&steps(5)[..19]), None);
}
