//! `root`.

use acorn_maths::root::*;

#[test]
fn roots_are_found_to_the_last_bits_and_never_without_end() {
    assert!((between(-745.0, 745.0, |x| x.exp() < 3.0) - 3_f64.ln()).abs() < 1e-15);
    assert_eq!(between(2.0, 2.0, |_| true), 2.0);
    assert!(upward(0.0, 1e300, |_| true) >= 1e300);
    assert!(between(f64::MIN, f64::MAX, |x| x < 5.0) - 5.0 < 1e-12);
    assert!((upward(0.0, 10.0, |x| x < 1e-9) - 1e-9).abs() < 1e-20);
}
