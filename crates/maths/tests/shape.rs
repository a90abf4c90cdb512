//! `shape`.

use acorn_maths::describe::moments;
use acorn_maths::shape::*;
use acorn_maths::sorting::Sorted;

#[test]
fn a_far_value_neither_overflows_nor_passes_for_normal() {
    let mut values: Vec<f64> = (0..50).map(|i| f64::from(i * 17 % 50) / 10.0).collect();
    values.push(1e9);
    let values = Sorted::of(&values);
    let of = moments(&values);
    let found = anderson_darling(&values, of.mean.unwrap(), of.sd.unwrap()).unwrap();
    assert!(found.a2.is_finite() && found.p < 1e-6);
    assert_eq!(anderson_darling(&Sorted::of(&values[..7]), 0.0, 1.0), None);
    assert_eq!(anderson_darling(&values, 0.0, 0.0), None);
}

#[test]
fn skewness_is_that_worked_by_hand() {
    assert_eq!(skewness_and_kurtosis(&[1.0, 1.0, 1.0, 1.0]), (None, None));
    // 1, 2, 3, 10: G1 = 1.7636, by hand from m3 / m2^1.5 = 1.0182.
    let (skewness, _) = skewness_and_kurtosis(&[1.0, 2.0, 3.0, 10.0]);
    assert!((skewness.unwrap() - 1.763_632_614_803_888).abs() < 1e-9);
}
