//! `describe`.

use acorn_maths::describe::*;

#[test]
fn empty_single_equal_and_missing_values_have_an_answer() {
    let empty = moments(&[f64::NAN]);
    assert_eq!((empty.n, empty.mean, empty.sd, empty.min), (0, None, None, None));
    let equal = moments(&[2.4; 1000]);
    assert_eq!((equal.mean, equal.sd), (Some(2.4), Some(0.0)));
    assert_eq!(median(&[]), None);
    assert_eq!(median(&[f64::NAN, 3.0, 1.0, 2.0, 10.0]), Some(2.5));
    assert_eq!(lag_one_correlation(&[1.0; 3], &moments(&[1.0; 3])), None);
    let turns = [1.0, -1.0, 1.0, -1.0];
    assert_eq!(lag_one_correlation(&turns, &moments(&turns)), Some(-0.75));
}

#[test]
fn the_spread_survives_a_huge_offset_over_a_million_values() {
    let values: Vec<f64> = (0..1_000_000).map(|i| 1e7 + f64::from(i % 7)).collect();
    let near: Vec<f64> = (0..1_000_000).map(|i| f64::from(i % 7)).collect();
    let (far, near) = (moments(&values), moments(&near));
    assert!((far.sd.unwrap() / near.sd.unwrap() - 1.0).abs() < 1e-9);
    assert!((far.mean.unwrap() - 1e7 - near.mean.unwrap()).abs() < 1e-7);
}

#[test]
fn decimals_are_found_from_the_values() {
    assert_eq!(decimals(&[2.4, 2.401, f64::NAN]), 3);
    assert_eq!(decimals(&[1e7, 12.0]), 0);
    assert_eq!(decimals(&[1.0 / 3.0]), 6);
}
