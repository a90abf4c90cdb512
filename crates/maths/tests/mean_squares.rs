//! `mean_squares`.

use acorn_maths::mean_squares::*;
use acorn_maths::tails::chi_square_upper;

#[test]
fn of_one_mean_square_it_is_the_interval_of_a_variance() {
    for df in [2.0, 9.0, 60.0] {
        let [low, high] = generalised([(4.0, df)], |[square]| Some(square)).unwrap();
        let want = [0.025, 0.975].map(|above| df * 4.0 / chi_square_upper(above, df));
        assert!((low / want[0] - 1.0).abs() < 0.06 && (high / want[1] - 1.0).abs() < 0.12, "{df}: {low} {high} {want:?}");
    }
    assert_eq!(generalised([(4.0, 0.0)], |[square]| Some(square)), None);
    assert_eq!(generalised([(4.0, 3.0)], |_| None), None);
}
