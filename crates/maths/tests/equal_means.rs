//! `equal_means`.

use acorn_maths::equal_means::*;

#[test]
fn two_groups_have_the_t_test_and_more_of_them_the_worked_example() {
    let (a, b) = (Sample { n: 8.0, mean: 10.0, sd: 2.0 }, Sample { n: 12.0, mean: 13.0, sd: 4.0 });
    let (two, f) = (difference(a, b).unwrap(), welch([a, b]).unwrap());
    // F of two groups is the square of t, on the same degrees of freedom: t = 3/√(0.5 + 16/12).
    assert!((f.f - 9.0 / (0.5 + 16.0 / 12.0)).abs() < 1e-12 && (f.p - two.p).abs() < 1e-12);
    assert!((two.ci95[0] + two.ci95[1] - 6.0).abs() < 1e-12 && two.ci95[0] > 0.0);
    assert_eq!(welch([a, Sample { sd: 0.0, ..b }]), None);
    assert_eq!(difference(Sample { sd: 0.0, ..a }, Sample { sd: 0.0, ..b }), None);
}
