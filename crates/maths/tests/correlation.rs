//! `correlation`.

use acorn_maths::correlation::*;

#[test]
fn a_parabola_is_found_again_wherever_it_stands() {
    let x: Vec<f64> = (0..40).map(|i| 1e6 + f64::from(i * 7 % 23) / 10.0).collect();
    let of = |x: f64| 3.0 - 2.0 * (x - 1e6) + 0.5 * (x - 1e6).powi(2);
    let y: Vec<f64> = x.iter().map(|x| of(*x)).collect();
    let fit = Fit::of(&x, &y, 2).unwrap();
    assert!(x.iter().all(|x| (fit.at(*x) - of(*x)).abs() < 1e-9) && fit.sd < 1e-8 && fit.r2 > 1.0 - 1e-12);
    // Leverages add up to the number of terms.
    assert!((x.iter().map(|x| fit.leverage(*x)).sum::<f64>() - 3.0).abs() < 1e-9);
    assert_eq!(Fit::of(&[1.0, 1.0, 2.0, 2.0], &[1.0, 2.0, 3.0, 4.0], 2), None, "two places make no parabola");
    assert!(Fit::of(&[1.0, 1.0, 2.0, 2.0], &[1.0, 2.0, 3.0, 4.0], 1).is_some());
}

#[test]
fn ranks_do_not_mind_how_far_and_equal_ones_share() {
    let x = [1.0, 2.0, 3.0, 4.0, 5.0];
    assert!((spearman(&x, &x.map(|x: f64| x.exp())).unwrap().r - 1.0).abs() < 1e-15);
    let r = spearman(&x, &[1.0, 1.0, 2.0, 2.0, 2.0]).unwrap().r;
    assert!((r - 0.866_025_403_784_438_6).abs() < 1e-12, "{r}");
    assert_eq!(spearman(&x, &[3.0; 5]), None);
}

/// 2,000 samples of ten from a normal with ρ = 0.98, whose rank correlation is 6/π asin(ρ/2).
#[test]
fn the_interval_of_a_high_rank_correlation_holds_it() {
    let mut state = 12_345_u64;
    let mut normal = || {
        state = state.wrapping_mul(6_364_136_223_846_793_005).wrapping_add(1_442_695_040_888_963_407);
        acorn_maths::normal::quantile(((state >> 11) as f64 + 0.5) / (1_u64 << 53) as f64)
    };
    let rho = 0.98_f64;
    let truth = 6.0 / std::f64::consts::PI * (0.5 * rho).asin();
    let holds = (0..2000).filter(|_| {
        let (x, y): (Vec<f64>, Vec<f64>) = (0..10)
            .map(|_| {
                let x = normal();
                (x, rho * x + (1.0 - rho * rho).sqrt() * normal())
            })
            .unzip();
        let [low, high] = spearman(&x, &y).unwrap().ci95.unwrap();
        (low..=high).contains(&truth)
    });
    let share = holds.count() as f64 / 2000.0;
    assert!(share > 0.9, "{share}");
}
