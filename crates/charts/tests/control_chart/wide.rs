//! `control_chart::wide`.

use acorn_charts::control_chart::wide::*;

#[test]
fn whatever_the_machine_has_agrees_with_the_plain_comparison() {
    let odd = [f64::NAN, f64::INFINITY, f64::NEG_INFINITY, 0.0, -0.0, 1.0, 1.0 + f64::EPSILON, -3.5, 1e308];
    for shift in 0..odd.len() {
        let (a, b) = (std::array::from_fn(|i| odd[i % odd.len()]), std::array::from_fn(|i| odd[(i * 5 + shift) % odd.len()]));
        assert_eq!(greater([(&a, &b)].into_iter()), [plain(&a, &b)]);
    }
}
