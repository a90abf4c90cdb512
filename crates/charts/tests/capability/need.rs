//! `capability::need`.

use acorn_charts::capability::indices::half_width;
use acorn_charts::capability::need::*;

#[test]
fn a_goal_is_settled_when_the_whole_interval_meets_it() {
    let enough = enough_to_tell(1.6, 1.33).unwrap() as f64;
    let low = |n: f64| 1.6 - half_width(1.6, n, n - 1.0);
    assert!(low(enough) >= 1.33 && low(enough - 1.0) < 1.33, "{enough}");
    assert_eq!((enough_to_tell(1.33, 1.33), enough_to_tell(1.331, 1.33)), (None, None));
    // Half the room takes four times the values; no room, any number.
    assert_eq!((enough_by_root(100, 0.2, 0.1), enough_by_root(100, 0.2, 0.0)), (Some(400), None));
}

#[test]
fn one_value_fewer_would_not_do() {
    let need = Need::of(1.33, 0.1, None);
    let n = need.n.unwrap();
    let reach = |n: u64| half_width(1.33, n as f64, n as f64 - 1.0);
    assert!(reach(n) <= 0.1 && reach(n - 1) > 0.1, "{n}");
    assert_eq!(Need::of(1.0, 1e-9, None).n, None);
    // Half the width takes four times the values.
    assert_eq!(Need::of(1.5, 0.1, Some((100, [1.3, 1.7]))).n, Some(400));
}
