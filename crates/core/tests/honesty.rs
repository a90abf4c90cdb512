//! No answer is calmer than its values allow: chance, few values and the choice of a shape are weighed before a verdict.

use acorn_maths::normal::quantile;
use acorn_study::View;
use acorn_testing::{ask, frame};
use rand::SeedableRng;
use rand::distr::Distribution;
use rand_distr::StandardNormal;
use rand_xoshiro::Xoshiro256PlusPlus;
use serde_json::{Value, json};

/// The scores of n normal values in an order that shows nothing.
fn scores(n: usize) -> Vec<f64> {
    let step = (1..n).rev().find(|step| gcd(*step, n) == 1 && *step * 1000 < n * 618).unwrap_or(1);
    (0..n).map(|i| quantile((((i * step) % n) as f64 + 0.5) / n as f64)).collect()
}

fn gcd(a: usize, b: usize) -> usize {
    if b == 0 { a } else { gcd(b, a % b) }
}

/// n values drawn from a normal.
fn drawn(n: usize) -> Vec<f64> {
    StandardNormal.sample_iter(Xoshiro256PlusPlus::seed_from_u64(7)).take(n).collect()
}

struct Answer {
    tone: String,
    title: String,
    sentence: String,
    numbers: Value,
}

fn asked(method: &str, values: &[f64], limits: [Option<f64>; 2], options: Value) -> Answer {
    let frame = frame(&json!({ "gap": values }), &[("gap", limits[0], limits[1])]);
    let computed = ask(&frame, &json!({"method": method, "roles": {"measure": "gap"}, "options": options})).unwrap();
    let outcome = serde_json::to_value(computed.outcome(&View { points: Some(200), ..View::ALL })).unwrap();
    let said = |field: &str| outcome["verdict"][field].as_str().unwrap().to_owned();
    Answer { tone: said("tone"), title: said("title"), sentence: said("sentence"), numbers: outcome["numbers"].clone() }
}

#[test]
fn six_values_meet_nothing_for_sure_and_are_told_how_many_would() {
    let values = [2.41, 2.40, 2.43, 2.39, 2.42, 2.40];
    let few = asked("capability", &values, [Some(2.30), Some(2.50)], json!({}));
    let [low, high] = [0, 1].map(|end| few.numbers["ppk_ci95"][end].as_f64().unwrap());
    assert!(low < 1.33 && few.numbers["ppk"].as_f64().unwrap() > 1.33 && high > 2.0, "{low} {high}");
    assert_eq!((few.tone.as_str(), few.title.as_str()), ("caution", "May meet the limits"));
    assert!(few.sentence.contains("more would, if Ppk is what it seems"), "{}", few.sentence);
    // As many as it says, spread alike, do tell.
    let many: Vec<f64> = scores(120).iter().map(|z| 2.4083 + 0.0147 * z).collect();
    let settled = asked("capability", &many, [Some(2.30), Some(2.50)], json!({}));
    assert_eq!((settled.tone.as_str(), settled.title.as_str()), ("calm", "Meets the limits"), "{}", settled.sentence);
}

#[test]
fn a_goal_is_never_called_met_while_its_interval_reaches_below_it() {
    for n in [8, 15, 30, 60, 200, 1000] {
        for ppk in [0.6, 0.95, 1.2, 1.34, 1.5, 1.8, 2.6] {
            let values: Vec<f64> = scores(n).iter().map(|z| 10.0 + z).collect();
            let half = 3.0 * ppk;
            let answer = asked("capability", &values, [Some(10.0 - half), Some(10.0 + half)], json!({}));
            let low = answer.numbers["ppk_ci95"][0].as_f64().unwrap();
            assert_eq!(answer.tone == "calm", low >= 1.33, "n = {n}, Ppk {ppk}: {} ({low})", answer.sentence);
        }
    }
}

#[test]
fn where_shapes_as_likely_disagree_about_the_goal_the_verdict_spans_them() {
    // A hundred skewed leak rates, and a limit so far out that only the tail of the chosen shape speaks of it.
    let leak: Vec<f64> = scores(100).iter().map(|z| (0.35 * z).exp()).collect();
    let spans = |answer: &Answer| [0, 1].map(|end| answer.numbers["ppk_by_shape"][end].as_f64().unwrap());
    let mut seen = [false; 3];
    for usl in [2.2, 2.8, 3.2, 3.6, 4.2, 6.0, 12.0] {
        for shape in [json!("best-fit"), json!("fit:lognormal"), json!("fit:gamma")] {
            let answer = asked("capability", &leak, [None, Some(usl)], json!({"shape": shape, "goal": 1.33}));
            let ([low, high], own) = (spans(&answer), answer.numbers["ppk"].as_f64().unwrap());
            assert!(low <= own && own <= high, "{usl} {shape}: {own} outside {low} to {high}");
            let disagree = low < 1.33 && high >= 1.33;
            assert_eq!(answer.title == "Depends on the shape", disagree, "{usl} {shape}: {} ({low} to {high})", answer.sentence);
            assert!(!disagree || answer.tone == "caution");
            seen[if disagree { 0 } else { 1 + usize::from(own >= 1.33) }] = true;
        }
    }
    assert_eq!(seen, [true; 3], "the limits try all three");
    // A normal has no rivals named: its misfit is told by its test.
    assert_eq!(asked("capability", &leak, [None, Some(9.0)], json!({})).numbers["ppk_by_shape"], Value::Null);
}

#[test]
fn two_peaks_are_not_called_good_by_a_shape_that_nobody_tested() {
    let two: Vec<f64> = scores(160).iter().enumerate().map(|(i, z)| if i % 2 == 0 { 5.0 + 0.2 * z } else { 8.0 + 0.2 * z }).collect();
    let answer = asked("capability", &two, [Some(0.5), Some(13.0)], json!({"shape": "best-fit"}));
    assert_ne!(answer.tone, "calm", "{}", answer.sentence);
    assert_eq!(answer.title, "Streams alternate", "{}", answer.sentence);
}

#[test]
fn a_long_steady_chart_is_steady_and_says_what_chance_brings() {
    let steady = asked("control-chart", &drawn(200_003), [None, None], json!({"patterns": [{"pattern": "beyond-limits"}]}));
    assert_eq!((steady.tone.as_str(), steady.title.as_str()), ("calm", "Steady"), "{}", steady.sentence);
    assert!(
        steady.sentence.contains("chance alone brings about") && steady.sentence.contains("beyond the control limits"),
        "{}",
        steady.sentence
    );
    assert_eq!((&steady.numbers["steady"], &steady.numbers["signals_by_chance"]), (&json!(false), &json!(true)));
    // Twice as many are more than chance.
    let moved: Vec<f64> = drawn(200_003).iter().enumerate().map(|(i, z)| if i % 150 == 0 { 3.4 } else { *z }).collect();
    assert_eq!(asked("control-chart", &moved, [None, None], json!({"patterns": [{"pattern": "beyond-limits"}]})).title, "Not steady");
    // On a short chart a point far beyond the limits is no chance.
    let mut short = drawn(41);
    short[20] = 7.0;
    let short = asked("control-chart", &short, [None, None], json!({}));
    assert_eq!((short.tone.as_str(), &short.numbers["signals_by_chance"]), ("alarm", &json!(false)), "{}", short.sentence);
}

#[test]
fn the_signals_that_chance_brings_are_those_of_the_limits_and_of_the_moving_ranges() {
    // More points than charts are drawn for: each panel is weighed by its own law.
    let n = 40_000;
    let answer = asked("control-chart", &drawn(n), [None, None], json!({"patterns": [{"pattern": "beyond-limits"}]}));
    // 2 (1 - Φ(3)) of the values; of the ranges of two those above D4 d2 = 3.686 sd, 2 (1 - Φ(3.686/√2)).
    let beyond = 2.0 * acorn_maths::normal::above(3.0);
    let ranges = 2.0 * acorn_maths::normal::above(3.686 / 2.0_f64.sqrt());
    let expected = answer.numbers["signals_expected"].as_f64().unwrap();
    assert!((expected / (n as f64 * (beyond + ranges)) - 1.0).abs() < 0.03, "{expected}");
}

#[test]
fn a_measurement_with_one_limit_is_proposed_as_one_with_two() {
    for limits in [(Some(1.0), None), (None, Some(9.0)), (Some(1.0), Some(9.0))] {
        let frame = frame(&json!({"gap": drawn(30)}), &[("gap", limits.0, limits.1)]);
        let advice = acorn_core::methods::named("capability").unwrap().advise(&frame, &Default::default());
        assert!(advice.proposal.is_some_and(|proposal| proposal.roles.contains_key("measure")), "{limits:?}");
    }
    let bare = frame(&json!({"gap": drawn(30)}), &[]);
    assert!(acorn_core::methods::named("capability").unwrap().advise(&bare, &Default::default()).proposal.is_none());
}
