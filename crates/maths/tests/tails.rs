//! `tails`.

use acorn_maths::tails::*;

#[test]
fn what_is_no_number_has_no_share_and_takes_no_time() {
    assert!(chi_square_upper(0.05, f64::NAN).is_nan() && t_two_sided(0.05, f64::NAN).is_nan() && f_upper(0.05, 3.0, f64::NAN).is_nan());
    assert!(gamma_below(f64::NAN, 1.0).is_nan() && beta_below(1.0, f64::NAN, 0.5).is_nan());
}

#[test]
fn quantiles_agree_with_published_tables() {
    // Pearson and Hartley (1966), tables 12 and 18.
    assert!((t_two_sided(0.05, 10.0) - 2.228_138_851_9).abs() < 1e-9);
    assert!((t_two_sided(0.05, 1e6) - 1.959_966).abs() < 1e-4);
    assert!((f_upper(0.05, 5.0, 10.0) - 3.325_834_5).abs() < 1e-6);
    assert!((f_upper(0.025, 40.0, 1e7) - 59.341_71 / 40.0).abs() < 1e-3);
}

#[test]
fn exact_intervals_agree_with_published_ones() {
    // Clopper and Pearson (1934): 3 of 20; the rule of three for none of 100.
    let [low, high] = share_interval(3.0, 20.0);
    assert!((low - 0.032_07).abs() < 1e-5 && (high - 0.378_93).abs() < 1e-5, "{low} {high}");
    assert!((share_interval(0.0, 100.0)[1] - (1.0 - 0.025_f64.powf(0.01))).abs() < 1e-12);
    assert_eq!(share_interval(7.0, 7.0)[1], 1.0);
    // A rare event in very many trials is a Poisson count.
    let (share, count) = (share_interval(12.0, 1e9), count_interval(12.0));
    assert!((share[0] * 1e9 / count[0] - 1.0).abs() < 1e-6 && (share[1] * 1e9 / count[1] - 1.0).abs() < 1e-6);
    // Vast counts join smoothly and come at once.
    let (inside, beyond) = (share_interval(0.9e6, 2e6), share_interval(1.1e6, 2.4e6));
    assert!(((inside[1] - 0.45) / (beyond[1] - 1.1 / 2.4) - (2.4_f64 / 2.0).sqrt()).abs() < 0.01);
    assert!(share_interval(1e17, 1e18).iter().all(|end| (end - 0.1).abs() < 1e-6) && count_interval(1e18)[0] > 0.9e18);
    assert!((binomial_from(2.0, 3.0, 0.5) - 0.5).abs() < 1e-14);
}
