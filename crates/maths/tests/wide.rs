//! `wide`.

use acorn_maths::wide::*;

#[test]
fn they_agree_with_the_standard_library() {
    let off = |got: f64, wanted: f64| (got - wanted).abs() / wanted.abs().max(f64::MIN_POSITIVE);
    for i in 1..200_000 {
        let u = f64::from(i) / 200_000.0;
        for x in [u, u * 1e-12, u * 1e9, f64::MIN_POSITIVE / u] {
            assert!(off(ln(x), x.ln()) < 5e-16 || (ln(x) - x.ln()).abs() < 1e-16, "ln {x}: {} {}", ln(x), x.ln());
        }
        let x = (u - 0.5) * 1400.0;
        assert!(off(exp(x), x.exp()) < 5e-16, "exp {x}: {} {}", exp(x), x.exp());
        let (sin, cos) = sin_cos_of_turn(u);
        let angle = (u - 0.5) * std::f64::consts::TAU;
        assert!((sin - angle.sin()).abs() < 2e-15 && (cos - angle.cos()).abs() < 2e-15, "{u}");
    }
    assert_eq!((ln(1.0), exp(0.0)), (0.0, 1.0));
    assert!(exp(1e300).is_finite() && exp(-1e300) > 0.0);
}
