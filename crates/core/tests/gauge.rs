//! Gauge studies on what a practitioner may throw at them, and small data worked by hand.

mod common;

use acorn_core::frame::Frame;
use acorn_core::methods::Computed;
use acorn_core::numeric::anom;
use acorn_core::study::{StudyError, Tone, View};
use common::{ask, frame, sent, sound};
use serde_json::{Value, json};

const ROLES: &str = r#"{"measure": "depth", "part": "housing", "operator": "inspector"}"#;

/// Readings of each housing by each inspector, `trials` times, as a function of their numbers.
fn study(parts: usize, operators: usize, trials: usize, of: impl Fn(usize, usize, usize) -> Option<f64>) -> Frame {
    let all = || (0..trials).flat_map(move |t| (0..operators).flat_map(move |o| (0..parts).map(move |p| (p, o, t))));
    let columns = json!({
        "housing": all().map(|(p, ..)| format!("H{p}")).collect::<Vec<_>>(),
        "inspector": all().map(|(_, o, _)| format!("I{o}")).collect::<Vec<_>>(),
        "depth": all().map(|(p, o, t)| of(p, o, t)).collect::<Vec<_>>(),
    });
    frame(&columns, &[("depth", Some(0.0), Some(100.0))])
}

fn judge(frame: &Frame, options: Value) -> Result<Computed, StudyError> {
    let roles: Value = serde_json::from_str(ROLES).unwrap();
    let computed = ask(frame, &json!({"method": "gauge-crossed", "roles": roles, "options": options}))?;
    sound("gauge-crossed", &options.to_string(), &sent(&computed));
    Ok(computed)
}

fn numbers(computed: &Computed) -> Value {
    serde_json::to_value(computed.outcome(&View::ALL).numbers).unwrap()
}

fn says(computed: &Computed, part: &str) -> bool {
    computed.notes.iter().any(|note| format!("{} {}", note.sentence, note.detail.clone().unwrap_or_default()).contains(part))
}

/// A fixed irregular scatter with mean 0 and about such an sd.
fn scatter(p: usize, o: usize, t: usize, sd: f64) -> f64 {
    let place = ((p * 7 + o * 31 + t * 17) as f64 * 0.618_033_988_75 + 0.3) % 1.0;
    sd * acorn_core::numeric::normal::quantile(place.mul_add(0.98, 0.01))
}

#[test]
fn operators_that_differ_by_a_constant_are_named_with_their_size() {
    let depth = |p: usize, o: usize, t: usize| Some(50.0 + 8.0 * p as f64 + [0.0, 3.0, -3.0][o] + scatter(p, o, t, 0.5));
    let computed = judge(&study(10, 3, 3, depth), json!({})).unwrap();
    let of = numbers(&computed);
    let offs: Vec<bool> = of["operators"].as_array().unwrap().iter().map(|one| one["off"] == true).collect();
    assert_eq!(offs, [false, true, true]);
    assert!(says(&computed, "read off by more than repeating explains"));
    // Without the operators the gauge would take what repeating takes: computed again from readings without them.
    let alone = judge(&study(10, 3, 3, |p, o, t| Some(50.0 + 8.0 * p as f64 + scatter(p, o, t, 0.5))), json!({})).unwrap();
    let help = of["would_help"][1]["pct_tolerance"].as_f64().unwrap();
    assert!((help / numbers(&alone)["anova"]["components"][1]["pct_tolerance"].as_f64().unwrap() - 1.0).abs() < 1e-9);
    // Averaging two readings leaves operators as they are: the same from the variances.
    let variance = |place: usize| of["anova"]["components"][place]["variance"].as_f64().unwrap();
    let want = 6.0 * (variance(1) / 2.0 + variance(2)).sqrt() / 100.0;
    assert!((of["would_help"][0]["pct_tolerance"].as_f64().unwrap() / want - 1.0).abs() < 1e-12);
}

#[test]
fn one_who_does_not_repeat_and_one_far_reading_are_told_apart() {
    let wide = |p: usize, o: usize, t: usize| Some(50.0 + 8.0 * p as f64 + scatter(p, o, t, if o == 1 { 3.0 } else { 0.4 }));
    let computed = judge(&study(10, 3, 3, wide), json!({})).unwrap();
    assert!(says(&computed, "I1 (sd ") && says(&computed, "does not repeat like the others"));
    let slip =
        |p: usize, o: usize, t: usize| Some(50.0 + 8.0 * p as f64 + scatter(p, o, t, 0.4) + if (p, o, t) == (4, 2, 1) { 9.0 } else { 0.0 });
    let computed = judge(&study(10, 3, 3, slip), json!({})).unwrap();
    assert!(says(&computed, "of part H4 by I2 lies"));
    let about = computed.next[0].points.unwrap();
    assert_eq!(computed.answer.rows(about[0], about[1]), [(30 + 20 + 4) as i64], "the row of that reading is opened");
}

#[test]
fn what_cannot_be_studied_is_an_answer_with_a_word_about_it_or_an_error_that_says_what_to_do() {
    let steady = |p: usize, o: usize, t: usize| Some(50.0 + 8.0 * p as f64 + scatter(p, o, t, 0.5));
    let gap = study(4, 2, 2, |p, o, t| ((p, o, t) != (2, 1, 0)).then(|| 50.0 + p as f64));
    let error = judge(&gap, json!({})).err().unwrap().to_string();
    assert!(error.contains("I1 has 1 reading of part H2 where others have 2"), "{error}");
    let error = judge(&study(1, 3, 3, steady), json!({})).err().unwrap().to_string();
    assert!(error.contains("one part tells nothing"), "{error}");
    let error = judge(&study(5, 2, 1, steady), json!({"method": "range"})).err().unwrap().to_string();
    assert!(error.contains("two readings"), "{error}");
    let equal = judge(&study(5, 2, 2, |_, _, _| Some(2.4)), json!({})).unwrap();
    assert_eq!((equal.verdict.tone, &numbers(&equal)["share"]), (Tone::Unsure, &Value::Null));
    // One operator: nothing of operators, the rest as a one-way analysis has it.
    let alone = numbers(&judge(&study(6, 1, 3, steady), json!({})).unwrap());
    assert_eq!((&alone["anova"]["components"][2]["variance"], &alone["bias_limits"]), (&json!(0.0), &Value::Null));
    // One reading a cell: what operators and parts leave is all there is to call repeating.
    let once = numbers(&judge(&study(6, 3, 1, steady), json!({})).unwrap());
    assert_eq!((&once["anova"]["with_interaction"], &once["range"]), (&Value::Null, &Value::Null));
    // A huge offset leaves the components alone.
    let far = numbers(&judge(&study(10, 3, 3, |p, o, t| steady(p, o, t).map(|depth| depth + 1e7)), json!({"tolerance": 100})).unwrap());
    let near = numbers(&judge(&study(10, 3, 3, steady), json!({"tolerance": 100})).unwrap());
    for place in 0..7 {
        let [far, near] = [&far, &near].map(|of| of["anova"]["components"][place]["sd"].as_f64().unwrap());
        assert!((far - near).abs() <= 1e-7 * near.max(1.0), "{place}: {far} {near}");
    }
}

#[test]
fn one_limit_counts_twice_the_way_to_it_and_a_process_sd_stands_in_for_a_tolerance() {
    let depth = |p: usize, o: usize, t: usize| Some(50.0 + 4.0 * p as f64 + scatter(p, o, t, 0.5));
    let mut one_sided = study(10, 3, 3, depth);
    one_sided = {
        let columns = one_sided.columns().to_vec().into_iter().map(|mut column| {
            column.info.lsl = None;
            column
        });
        Frame::new(columns.collect(), None).unwrap()
    };
    let of = numbers(&judge(&one_sided, json!({})).unwrap());
    let (mean, room) = (of["mean"].as_f64().unwrap(), of["tolerance"].as_f64().unwrap());
    assert!((room - 2.0 * (100.0 - mean)).abs() < 1e-9);
    let bare = frame(&json!({"depth": [1.0, 2.0, 1.1, 2.2], "housing": ["a", "b", "a", "b"], "inspector": ["x", "x", "x", "x"]}), &[]);
    let of = numbers(&judge(&bare, json!({"process_sd": 2.0})).unwrap());
    assert_eq!((&of["basis"], &of["anova"]["components"][0]["pct_tolerance"]), (&json!("process"), &Value::Null));
    let want = of["anova"]["components"][0]["sd"].as_f64().unwrap() / 2.0;
    assert_eq!(of["share"], json!(want));
}

/// By four million draws of k means each, in Python with NumPy (seed 11).
#[test]
fn decision_values_are_those_of_the_largest_of_many_drawn_means() {
    for (k, df, want) in [(3, 20.0, 2.530), (3, 60.0, 2.403), (5, 20.0, 2.795), (10, 60.0, 2.895), (4, 1e6, 2.469)] {
        let h = anom::decision(k, df, 0.05);
        assert!((h - want).abs() < 0.004, "k {k}, df {df}: {h}");
    }
    assert!(anom::decision(1, 9.0, 0.05).is_nan() && anom::decision(3, 0.0, 0.05).is_nan());
}
