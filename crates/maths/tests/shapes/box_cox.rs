//! `shapes::box_cox`.

use acorn_maths::shapes::box_cox::*;
use acorn_maths::sorting::Sorted;

#[test]
fn the_power_of_squares_is_a_half_and_the_way_back_returns() {
    let normal: Vec<f64> = (0..199).map(|i| 20.0 + acorn_maths::normal::quantile((f64::from(i) + 0.5) / 199.0)).collect();
    let squares: Vec<f64> = normal.iter().map(|value| value * value).collect();
    let found = BoxCox::fit(&Sorted::of(&squares)).unwrap();
    assert!((found.lambda - 0.5).abs() < 0.05, "{}", found.lambda);
    for lambda in [-2.0, 0.0, 0.5, 3.0] {
        let map = BoxCox { lambda };
        assert!((map.value_at(map.score(7.3)) - 7.3).abs() < 1e-12);
    }
    assert_eq!(BoxCox { lambda: 0.5 }.value_at(-5.0), 0.0);
    assert_eq!(BoxCox::fit(&Sorted::of(&[0.0, 1.0])), None);
    assert_eq!(BoxCox::fit(&Sorted::of(&[2.0, 2.0])), None);
}
