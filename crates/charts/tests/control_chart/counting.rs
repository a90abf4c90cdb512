//! `control_chart::counting`.

use acorn_charts::control_chart::counting::*;
use acorn_charts::control_chart::kind::ChartKind;
use acorn_charts::control_chart::panel::Lines;
use acorn_charts::control_chart::patterns::{Pattern, RunRule};
use acorn_study::Cancel;

fn np(n: f64, p: f64) -> Counting {
    Counting::of(ChartKind::Np, Lines::about(n * p, (n * p * (1.0 - p)).sqrt(), 3.0), 3.0).unwrap()
}

fn between(of: Counting, patterns: &[Pattern]) -> f64 {
    let rules: Vec<RunRule> = patterns.iter().copied().map(RunRule::usual).collect();
    of.points_between(&rules, &Cancel::default()).unwrap().unwrap()
}

#[test]
fn limits_alone_are_crossed_as_often_as_the_counts_beyond_them_come() {
    // UCL 4.386: five or more of 20 at 0.06 each, 1 - Σ C(20, k) 0.06^k 0.94^(20 - k) for k = 0..4.
    let mut within = 0.0;
    let mut ways = 1.0;
    for k in 0..5 {
        within += ways * 0.06_f64.powi(k) * 0.94_f64.powi(20 - k);
        ways *= f64::from(20 - k) / f64::from(k + 1);
    }
    assert!((between(np(20.0, 0.06), &[Pattern::BeyondLimits]) * (1.0 - within) - 1.0).abs() < 1e-9);
    // Many counts are as good as normal: 370.4.
    let c = Counting::of(ChartKind::C, Lines::about(9e3, 9e3_f64.sqrt(), 3.0), 3.0).unwrap();
    assert!((between(c, &[Pattern::BeyondLimits]) / 370.4 - 1.0).abs() < 0.03);
    assert!(Counting::of(ChartKind::C, Lines::about(2e4, 2e4_f64.sqrt(), 3.0), 3.0).is_none());
    // The same counts as shares and as rates.
    let p = Counting::of(ChartKind::P, Lines::about(0.06, (0.06 * 0.94 / 20.0_f64).sqrt(), 3.0), 3.0).unwrap();
    assert!((between(p, &[Pattern::BeyondLimits]) * (1.0 - within) - 1.0).abs() < 1e-9);
    assert!((p.as_far(6.0 / 20.0) / np(20.0, 0.06).as_far(6.0) - 1.0).abs() < 1e-12);
}

#[test]
fn runs_of_lopsided_counts_are_longer_on_the_side_that_has_more_of_them() {
    // Runs of 9 of either kind: 1/E = Σ (1 - q) q^9/(1 - q^9) (Feller 1968, XIII.8), here 0 or 1 of 20 at 0.06, or more.
    let q = 0.94_f64.powi(20) + 20.0 * 0.06 * 0.94_f64.powi(19);
    let rate = |q: f64| (1.0 - q) * q.powi(9) / (1.0 - q.powi(9));
    let want = 1.0 / (rate(q) + rate(1.0 - q));
    let found = between(np(20.0, 0.06), &[Pattern::RunOneSide]);
    assert!((found / want - 1.0).abs() < 0.03, "{found} for {want}");
    assert!((np(20.0, 0.06).sides()[1] - q).abs() < 1e-12);
}

#[test]
fn pieces_between_events_have_the_tails_of_a_geometric() {
    let zones = [0.0, 1.0, 3.0, 7.0, 15.0, 30.0, 40.0];
    let of = Counting::of_pieces_between(9.0, zones).unwrap();
    assert!((between(of, &[Pattern::BeyondLimits]) * 0.9_f64.powi(41) - 1.0).abs() < 1e-9);
    assert!((of.as_far(20.0) - 0.9_f64.powi(20)).abs() < 1e-12 && (of.as_far(2.0) - (1.0 - 0.9_f64.powi(3))).abs() < 1e-12);
}
