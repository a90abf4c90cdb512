//! `tolerance`.

use acorn_maths::tolerance::*;

#[test]
fn factors_agree_with_published_tables() {
    // Howe (1969) and Odeh and Owen (1980): k for 99 % with 95 % confidence, n = 30; one-sided n = 5, 90 % and 95 %.
    assert!((two_sided(30, 0.99, 0.95).unwrap() - 3.355).abs() < 3e-3);
    assert!((one_sided(5, 0.90, 0.95).unwrap() - 3.407).abs() < 1e-3);
    // The approximation takes over without a step.
    let (exact, howe) = (two_sided(10_000, 0.95, 0.95).unwrap(), two_sided(10_003, 0.95, 0.95).unwrap());
    assert!((exact - howe).abs() < 2e-4, "{exact} {howe}");
    assert_eq!(two_sided(1, 0.95, 0.95), None);
}

#[test]
fn ninety_three_values_are_the_first_to_hold_95_of_100_with_their_ends() {
    assert!(ranks(92, 0.95, 0.95, 2).unwrap().1 < 0.95);
    let (rank, reached) = ranks(93, 0.95, 0.95, 2).unwrap();
    assert!(rank == 1 && reached >= 0.95);
    assert_eq!(ranks(59, 0.95, 0.95, 1).map(|(rank, _)| rank), Some(1));
    assert!(ranks(1000, 0.95, 0.95, 2).unwrap().0 > 10);
}
