//! `control_chart::run`.

use acorn_charts::control_chart::run::*;

#[test]
fn runs_are_counted_as_by_hand() {
    // Median 3.5; off it: - - + + + - + -, five runs of eight values, four above.
    let values = [1.0, 2.0, 5.0, 6.0, 4.0, 3.0, 7.0, 2.5, f64::NAN];
    let runs = about_median(&values, 3.5);
    assert_eq!((runs.n, runs.observed, runs.expected), (8, 5, Some(5.0)));
    assert!((runs.p_clustering.unwrap() - 0.5).abs() < 1e-12);
    // Up to 6, down to 3, up to 7, down: four runs.
    let steps = up_down(&values);
    assert_eq!((steps.n, steps.observed, steps.expected), (8, 4, Some(5.0)));
    let one = up_down(&[4.0, 4.0]);
    assert_eq!((one.observed, one.expected, one.p_trends), (0, None, None));
    assert_eq!(about_median(&[], 0.0).expected, None);
}
