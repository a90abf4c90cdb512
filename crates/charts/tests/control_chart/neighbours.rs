//! `control_chart::neighbours`.

use acorn_charts::control_chart::neighbours::*;

#[test]
fn only_an_order_that_is_not_random_is_told_from_chance() {
    let turns: Vec<f64> = (0..40).map(|i| f64::from(i % 2) + f64::from(i * 7 % 11) / 50.0).collect();
    let drift: Vec<f64> = (0..40).map(|i| f64::from(i) / 10.0 + f64::from(i * 7 % 11) / 5.0).collect();
    let skewed: Vec<f64> = (0..40).map(|i| -(1.0 - (f64::from(i * 17 % 40) + 0.5) / 40.0).ln()).collect();
    assert!(one_by_one(&turns).unwrap().p_unlike < 1e-6 && one_by_one(&drift).unwrap().p_alike < 1e-4);
    let random = one_by_one(&skewed).unwrap();
    assert!(random.p_alike > 0.01 && random.p_unlike > 0.01, "{random:?}");
    assert_eq!(one_by_one(&[1.0; 40]), None);
}
