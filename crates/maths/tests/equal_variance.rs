//! `equal_variance`.

use acorn_maths::equal_variance::*;

#[test]
fn groups_that_spread_alike_are_told_from_those_that_do_not() {
    let calm: Vec<f64> = (0..20).map(|i| f64::from(i * 7 % 20)).collect();
    let wild: Vec<f64> = calm.iter().map(|value| value * 5.0 + 100.0).collect();
    let shifted: Vec<f64> = calm.iter().map(|value| value + 50.0).collect();
    assert!(brown_forsythe(&[calm.clone(), shifted]).unwrap().p > 0.99);
    assert!(brown_forsythe(&[calm.clone(), wild]).unwrap().p < 1e-4);
    assert_eq!(brown_forsythe(&[calm]), None);
    assert_eq!(brown_forsythe(&[vec![1.0, 1.0], vec![2.0, 2.0]]), None);
}

#[test]
fn what_ratio_would_be_found_agrees_with_the_power_of_f() {
    // The F of two groups of n crosses its 5 % point in 80 % of cases at r² = F(0.025; n - 1, n - 1)/F(0.80; n - 1, n - 1).
    for n in [10, 30, 100] {
        let df = n as f64 - 1.0;
        let exact = (acorn_maths::tails::f_upper(0.025, df, df) / acorn_maths::tails::f_upper(0.8, df, df)).sqrt();
        let about = ratio_found([n, n]).unwrap();
        assert!((about / exact - 1.0).abs() < 0.06, "{n}: {about} for {exact}");
    }
    assert_eq!((ratio_found([9, 1]), ratio_found([])), (None, None));
}
