//! `view`.

use acorn_study::view::*;

#[test]
fn a_thinned_stretch_keeps_its_extremes() {
    let mut values: Vec<f64> = (0..10_000).map(|i| f64::from(i % 10)).collect();
    values[4321] = 99.0;
    values[4322] = f64::NAN;
    let (stretch, bucket) = View { first: Some(10), last: None, points: Some(100) }.stretch(values.len());
    let kept = kept_points(&values, stretch, bucket);
    assert!(kept.len() <= 400 && kept.contains(&4321) && kept[0] == 10 && *kept.last().unwrap() == 9999);
    assert!(kept.windows(2).all(|pair| pair[0] < pair[1]));
}

#[test]
fn a_stretch_outside_the_points_is_empty() {
    assert_eq!(View { first: Some(9), last: Some(3), points: Some(0) }.stretch(5).0, 4..4);
    assert_eq!(View::ALL.stretch(0).0, 0..0);
}
