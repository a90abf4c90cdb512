//! `frame::find`.

use acorn_data::frame::Values;
use acorn_data::frame::find::*;

#[test]
fn a_text_is_found_and_replaced_where_it_stands() {
    let replaced = |text: &str, find: &str, whole, case| TextPattern::new(find, whole, case).replaced(text, "x");
    assert_eq!(replaced("Bench B, bench b", "bench", false, false).as_deref(), Some("x B, x b"));
    assert_eq!(replaced("Bench B, bench b", "bench", false, true).as_deref(), Some("Bench B, x b"));
    assert_eq!(replaced("bench", "BENCH", true, false).as_deref(), Some("x"));
    assert_eq!(replaced("bench 1", "bench", true, false), None);
    assert_eq!(replaced("aaaa", "aa", false, true).as_deref(), Some("xx"));
    assert_eq!(replaced("aaaa", "aa", true, true), None);
    assert_eq!(replaced("anything", "", false, true), None);
    // Signs whose small form is longer than they are.
    assert_eq!(replaced("İx Straße É", "é", false, false).as_deref(), Some("İx Straße x"));
    let values = Values::Number([2.5, f64::NAN, 12.0, 0.25].into());
    let rows = TextPattern::rows(&values, |text| TextPattern::new("2", false, true).replaced(text, "7"));
    assert_eq!(rows, [(0, "7.5".into()), (2, "17".into()), (3, "0.75".into())]);
}
