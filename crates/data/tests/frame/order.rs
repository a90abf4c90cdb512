//! `frame::order`.

use acorn_data::frame::{NO_TIME, Values};

#[test]
fn rows_are_ordered_stably_with_missing_ones_last() {
    let ordered = |values: &Values, descending| {
        let mut rows: Vec<u32> = (0..values.len() as u32).collect();
        values.order(&mut rows, descending);
        rows
    };
    let numbers = Values::Number([2.0, f64::NAN, -1.0, 2.0, 1e300].into());
    assert_eq!((ordered(&numbers, false), ordered(&numbers, true)), (vec![2, 0, 3, 4, 1], vec![4, 0, 3, 2, 1]));
    let times = Values::Time([5, NO_TIME, -5].into());
    assert_eq!((ordered(&times, false), ordered(&times, true)), (vec![2, 0, 1], vec![0, 2, 1]));
    let labels = ["bench 10", "Bench 2", "bench 2", "annex", "bench 02"].map(str::to_owned);
    let labels = Values::Label { codes: [0, 1, u32::MAX, 2, 3, 4].into(), labels: labels.into() };
    assert_eq!(ordered(&labels, false), [4, 1, 5, 3, 0, 2], "as people sort");
}
