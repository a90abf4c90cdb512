//! What a practitioner may throw at a chart: an answer or an error in words, never a NaN and never a panic.

use acorn_core::methods::{self, Computed};
use acorn_data::frame::{Frame, Values};
use acorn_study::{Cancel, Spec, StudyError, View};
use proptest::prelude::*;
use serde_json::{Value, json};

fn ask(columns: Value, options: Value) -> Result<Computed, StudyError> {
    let frame = Frame::from_json(columns.as_object().unwrap()).unwrap();
    let spec = json!({"method": "control-chart", "roles": {"measure": "flux"}, "options": options});
    methods::compute(&frame, &serde_json::from_value(spec).unwrap(), &Cancel::default())
}

fn numbers(computed: &Computed) -> Value {
    serde_json::to_value(computed.outcome(&View::ALL).numbers).unwrap()
}

#[test]
fn no_value_is_an_error_that_says_what_to_do() {
    let error = ask(json!({"flux": []}), json!({})).err().unwrap();
    assert_eq!(error.to_string(), "column “flux” has 0 usable values; at least 1 is needed");
    assert!(error.advice().contains("at least 1"));
    assert!(ask(json!({"flux": [null, null]}), json!({})).is_err());
}

#[test]
fn one_value_has_a_centre_but_no_limits() {
    let one = ask(json!({"flux": [811.5]}), json!({})).unwrap();
    assert_eq!(one.verdict.title, "Too few to say");
    assert_eq!(numbers(&one).pointer("/panels/0/phases/0/center"), Some(&json!(811.5)));
    assert_eq!(numbers(&one).pointer("/panels/0/phases/0/ucl"), Some(&Value::Null));
}

#[test]
fn equal_values_are_told_apart_from_a_steady_process() {
    let equal = ask(json!({"flux": vec![811.5; 30]}), json!({})).unwrap();
    assert_eq!(equal.verdict.title, "Nothing varies");
    assert_eq!(equal.verdict.sentence, "Nothing varies: all 30 values are 811.5, so there is nothing to judge.");
}

#[test]
fn an_order_column_sorts_the_points_and_names_their_rows() {
    let columns = json!({"flux": [3.0, 1.0, 2.0, 9.0], "hour": [30, 10, 20, null]});
    let frame = Frame::from_json(columns.as_object().unwrap()).unwrap();
    let spec: Spec = serde_json::from_value(json!({"method": "control-chart", "roles": {"measure": "flux", "order": "hour"}})).unwrap();
    let computed = methods::compute(&frame, &spec, &Cancel::default()).unwrap();
    let points = numbers(&computed)["panels"][0]["points"].clone();
    let rows: Vec<_> = points.as_array().unwrap().iter().map(|point| point["row_ids"][0].as_i64().unwrap()).collect();
    assert_eq!(rows, [1, 2, 0, 3]);
    assert!(computed.notes.iter().any(|note| note.sentence.contains("no place in the order")));
}

#[test]
fn each_wrong_option_is_refused_by_name() {
    let values = json!({"flux": [1.0, 2.0, 3.0]});
    let refused = [
        (json!({"chart": "pie"}), "bad-option"),
        (json!({"limit": {"from": "data"}}), "unknown-option"),
        (json!({"limits": {"from": "baseline", "first": 2, "last": 9}}), "out-of-range"),
        (json!({"limits": {"from": "known", "center": 1.0, "sigma": -1.0}}), "out-of-range"),
        (json!({"limits": {"from": "known", "center": 1.0}}), "bad-option"),
        (json!({"patterns": [{"pattern": "trend", "length": 1}]}), "out-of-range"),
        (json!({"patterns": [{"pattern": "zigzag"}]}), "bad-option"),
        (json!({"mr_length": 1}), "out-of-range"),
        (json!({"width": 0}), "out-of-range"),
    ];
    for (options, code) in refused {
        assert_eq!(ask(values.clone(), options.clone()).err().map(|error| error.code()), Some(code), "{options}");
    }
}

#[test]
fn a_stopped_computation_says_so() {
    let frame = Frame::from_json(json!({"flux": [1.0, 2.0]}).as_object().unwrap()).unwrap();
    let spec: Spec = serde_json::from_value(json!({"method": "control-chart", "roles": {"measure": "flux"}})).unwrap();
    let cancel = Cancel::default();
    cancel.stop();
    assert_eq!(methods::compute(&frame, &spec, &cancel).err(), Some(StudyError::Stopped(acorn_maths::cancel::Stopped)));
}

#[test]
fn a_view_thins_the_points_and_leaves_every_number_alone() {
    let values: Vec<f64> = (0..50_000).map(|i| f64::from((i * 617) % 1000) + if i == 40_000 { 9000.0 } else { 0.0 }).collect();
    let computed = ask(json!({"flux": values}), json!({"patterns": [{"pattern": "beyond-limits"}]})).unwrap();
    let all = numbers(&computed);
    let thin = serde_json::to_value(computed.outcome(&View { points: Some(300), ..View::ALL }).numbers).unwrap();
    assert_eq!(all["panels"][0]["phases"], thin["panels"][0]["phases"]);
    assert_eq!(thin["panels"][0]["signals"], json!([{"pattern": "beyond-limits", "first": 40_000, "last": 40_000, "side": 1}]));
    let kept = thin["panels"][0]["points"].as_array().unwrap();
    assert!(kept.len() <= 1210 && kept.iter().any(|point| point["i"] == 40_000));
}

proptest! {
    /// The nearest double to the shortest text of a double is that double (IEEE 754, 5.12.2).
    #[test]
    fn numbers_in_json_are_read_as_the_nearest_doubles(value in prop::num::f64::NORMAL) {
        let columns: Value = serde_json::from_str(&format!(r#"{{"flux": [{value:?}]}}"#)).unwrap();
        let frame = Frame::from_json(columns.as_object().unwrap()).unwrap();
        prop_assert!(matches!(&frame.columns()[0].values, Values::Number(read) if read[0].to_bits() == value.to_bits()));
    }

    #[test]
    fn any_values_and_lengths_give_finite_numbers(
        values in prop::collection::vec(prop::option::weighted(0.9, -1e12..1e12f64), 1..80),
        length in 2usize..12,
        omit in prop::collection::vec(0i64..80, 0..5),
    ) {
        let options = json!({"omit": omit, "mr_length": length, "patterns": [{"pattern": "run-one-side", "length": length}, {"pattern": "beyond-limits"}]});
        let kept = values.iter().enumerate().filter(|(row, value)| value.is_some() && !omit.contains(&(*row as i64))).count();
        let answer = ask(json!({"flux": values}), options);
        prop_assert!(answer.is_ok() || kept < 2, "{kept} values and no answer: {:?}", answer.err());
        if let Ok(computed) = answer {
            let numbers = numbers(&computed);
            let n = values.len() as u64;
            prop_assert_eq!(numbers["panels"][0]["points"].as_array().unwrap().len() as u64, n);
            for panel in numbers["panels"].as_array().unwrap() {
                for signal in panel["signals"].as_array().unwrap() {
                    let (first, last) = (signal["first"].as_u64().unwrap(), signal["last"].as_u64().unwrap());
                    prop_assert!(first <= last && last < n);
                }
                // A null limit beside a centre and a sigma would be a hidden infinity.
                for phase in panel["phases"].as_array().unwrap().iter().filter(|phase| phase["sigma"].is_number()) {
                    prop_assert!(phase["lcl"].as_f64() <= phase["center"].as_f64() && phase["center"].as_f64() <= phase["ucl"].as_f64());
                    prop_assert!(phase["ucl"].is_number());
                }
                prop_assert!(panel["span"].as_array().is_none_or(|span| span.iter().all(Value::is_number)));
            }
        }
    }
}

#[test]
fn a_view_gets_the_signals_that_touch_it_and_no_others() {
    let mut values: Vec<f64> = (0..60).map(|i| 800.0 + f64::from(i * 37 % 7)).collect();
    values[20] = 900.0;
    let chart = ask(json!({ "flux": values }), json!({"patterns": [{"pattern": "beyond-limits"}]})).unwrap();
    let found = |first: usize, last: usize| {
        let view = View { first: Some(first), last: Some(last), points: None };
        let numbers = serde_json::to_value(chart.outcome(&view).numbers).unwrap();
        assert_eq!(numbers["panels"][0]["signal_count"], 1, "the whole panel has one, whatever the view");
        numbers["panels"][0]["signals"].as_array().unwrap().len()
    };
    assert_eq!([found(0, 19), found(0, 20), found(20, 40), found(21, 40)], [0, 1, 1, 0]);
}

#[test]
fn the_memory_of_an_answer_is_weighed_by_what_it_holds() {
    let weight = |n: u32| ask(json!({"flux": (0..n).map(|i| f64::from(i * 37 % 11)).collect::<Vec<_>>()}), json!({})).unwrap().bytes();
    let (few, many) = (weight(100), weight(100_000));
    // Values and moving ranges, eight bytes each, and what is said.
    assert!(few > 100 * 16 && many > 100_000 * 16 && many < 100_000 * 200, "{few} {many}");
}

#[test]
fn typed_counts_and_limits_are_taken_up_to_their_edge_and_refused_beyond() {
    let level = |options: Value| {
        let frame = Frame::from_json(json!({}).as_object().unwrap()).unwrap();
        let spec = json!({"method": "sigma-level", "options": options});
        methods::compute(&frame, &serde_json::from_value(spec).unwrap(), &Cancel::default()).map(|_| ()).map_err(|error| error.to_string())
    };
    let counts = |defects: u32| level(json!({"from": "counts", "units": 10, "opportunities": 3, "defects": defects}));
    assert_eq!(counts(30), Ok(()), "every chance may be a defect");
    assert!(counts(31).unwrap_err().contains("31 are more than the 30 chances"));
    let normal = |lsl: f64, usl: f64| level(json!({"from": "normal", "mean": 2.0, "sd": 0.1, "lsl": lsl, "usl": usl}));
    assert_eq!(normal(1.9, 2.1), Ok(()));
    for (lsl, usl) in [(2.1, 1.9), (2.0, 2.0)] {
        assert!(normal(lsl, usl).unwrap_err().contains("must lie above"), "{lsl} {usl}");
    }
}
