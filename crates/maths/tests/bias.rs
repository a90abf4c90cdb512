//! `bias`.

use acorn_maths::bias::*;

#[test]
fn constants_agree_with_published_tables() {
    // n, d2, d3: Harter (1960), to ten places where he gives them.
    let rows = [
        (3, 1.692_568_750_6, 0.888_368_00),
        (5, 2.325_928_947_3, 0.864_081_94),
        (10, 3.077_505_461_7, 0.797_050_6),
        (25, 3.930_629_2, 0.708_440_9),
    ];
    for (n, d2, d3) in rows {
        let got = range_constants(n).unwrap();
        assert!((got.d2 - d2).abs() < 1e-7, "d2({n}) = {}", got.d2);
        assert!((got.d3 - d3).abs() < 1e-6, "d3({n}) = {}", got.d3);
    }
}

#[test]
fn two_values_have_the_closed_form() {
    let got = range_constants(2).unwrap();
    let pi = std::f64::consts::PI;
    assert!((got.d2 - 2.0 / pi.sqrt()).abs() < 1e-13);
    assert!((got.d3 - (2.0 - 4.0 / pi).sqrt()).abs() < 1e-12);
    assert_eq!(range_constants(1), None);
    assert_eq!((range_above(2, 1e12), range_above(2, f64::INFINITY)), (0.0, 0.0));
}
