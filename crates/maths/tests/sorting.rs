//! `sorting`.

use acorn_maths::sorting::*;

#[test]
fn percentiles_lie_between_order_statistics() {
    let quantile = |values: &[f64], p| Sorted::of(values).quantile(p);
    assert_eq!(quantile(&[4.0, 1.0, 2.0], 0.75), Some(3.0));
    assert_eq!((quantile(&[5.0], 0.2), quantile(&[], 0.5)), (Some(5.0), None));
    assert_eq!(quantile(&[f64::MIN, f64::MAX], 0.5), Some(0.0));
}

#[test]
fn many_values_of_both_signs_and_all_sizes_come_out_as_a_comparing_sort_has_them() {
    let one = |i: u32| {
        let turn = f64::from(i.wrapping_mul(2_654_435_761) % 100_000) - 50_000.0;
        turn * 10f64.powi((i % 40) as i32 - 20)
    };
    for further in [vec![], vec![0.0, -0.0, f64::NAN, 1e300], vec![f64::MAX, f64::MIN]] {
        let values: Vec<f64> = (0..70_000).map(one).chain(further).collect();
        let mut want: Vec<f64> = values.iter().copied().filter(|value| !value.is_nan()).collect();
        want.sort_by(f64::total_cmp);
        assert_eq!(sorted(&values), want);
    }
    assert_eq!(sorted(&vec![2.4; 70_000]).len(), 70_000);
    assert_eq!(sorted(&[f64::NAN]), Vec::<f64>::new());
}
