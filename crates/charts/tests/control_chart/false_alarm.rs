//! `control_chart::false_alarm`.

use acorn_charts::control_chart::false_alarm::*;
use acorn_charts::control_chart::patterns::{Pattern, RunRule};
use acorn_study::Cancel;

fn between(run_rules: &[RunRule]) -> f64 {
    in_control_arl(run_rules, 3.0, &Cancel::default()).unwrap().unwrap()
}

#[test]
fn simulated_sets_agree_with_published_run_lengths() {
    let beyond = RunRule::usual(Pattern::BeyondLimits);
    assert!((between(&[beyond]) - 370.398_347_345).abs() < 1e-6);
    // A run of 9 on one side of a symmetric centre: 2^9 - 1 points on average (Feller 1968, XIII.7).
    let run = between(&[RunRule::usual(Pattern::RunOneSide)]);
    assert!((run / 511.0 - 1.0).abs() < 0.02, "{run}");
    // Limits with 2 of 3 beyond 2 sd: 225.44; limits with 8 on one side: 152.73 (Champ and Woodall 1987, table 1).
    let outer = between(&[beyond, RunRule::usual(Pattern::TwoOfThreeOuter)]);
    assert!((outer / 225.44 - 1.0).abs() < 0.015, "{outer}");
    let eight = between(&[RunRule { pattern: Pattern::RunOneSide, length: 8 }, beyond]);
    assert!((eight / 152.73 - 1.0).abs() < 0.015, "{eight}");
}

#[test]
fn charts_with_a_memory_agree_with_published_run_lengths() {
    // CUSUM k = 0.5, h = 5: 465.4 (Lucas 1976, table 1; Montgomery 2013, table 9.3).
    let sum = cusum(0.5, 5.0, &Cancel::default()).unwrap().unwrap();
    assert!((sum / 465.4 - 1.0).abs() < 0.02, "{sum}");
    // EWMA 0.2 with limits of the settled variance at 2.962: about 500 (Lucas and Saccucci 1990); exact limits from
    // the start signal a little sooner.
    let average = ewma(0.2, 2.962, &Cancel::default()).unwrap().unwrap();
    assert!((450.0..505.0).contains(&average), "{average}");
}

#[test]
fn an_empty_or_hardly_ever_signalling_set_has_no_figure() {
    let never = RunRule { pattern: Pattern::Trend, length: 30 };
    assert_eq!(in_control_arl(&[never], 3.0, &Cancel::default()), Ok(None));
    assert_eq!(in_control_arl(&[], 3.0, &Cancel::default()), Ok(None));
}
