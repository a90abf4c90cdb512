//! Questions narrowed step by step, and rows of a log counted by a chart.

use acorn_core::methods::Computed;
use acorn_data::frame::{Column, ColumnInfo, Frame, Kind, NO_TIME, Values, moments_named};
use acorn_study::{StudyError, TableView, View};
use acorn_testing::{ask, frame, sent, sound};
use serde_json::{Value, json};

fn columns() -> Value {
    let of = |get: &dyn Fn(usize) -> Value| (0..240).map(get).collect::<Value>();
    json!({
        "bench": of(&|i| if i % 17 == 0 { Value::Null } else { json!(["A", "B", "C"][i * i % 3]) }),
        "kind": of(&|i| json!(["haze", "leak", "burr", "dust"][i * 7 % 11 % 4])),
        "lot": of(&|i| json!(format!("L{:02}", i / 12))),
    })
}

fn answer(spec: &Value) -> Result<Computed, StudyError> {
    let computed = ask(&frame(&columns(), &[]), spec)?;
    sound(spec["method"].as_str().unwrap(), &spec.to_string(), &sent(&computed));
    Ok(computed)
}

fn numbers(computed: &Computed) -> Value {
    serde_json::to_value(computed.outcome(&View::ALL).numbers).unwrap()
}

fn rank(only: &Value) -> Result<Computed, StudyError> {
    answer(&json!({"method": "pareto", "roles": {"category": "kind"}, "options": {"fold": "none"}, "only": only}))
}

#[test]
fn each_step_leaves_the_rows_that_meet_all_and_their_identity() {
    let columns = columns();
    let rows = |keep: &dyn Fn(usize) -> bool| (0..240).filter(|&i| keep(i)).map(|i| i as i64).collect::<Vec<_>>();
    let ranked = |only: Value| {
        let computed = rank(&only).unwrap();
        let mut rows = computed.answer.rows(0, 99);
        rows.sort_unstable();
        (rows, numbers(&computed)["overall"]["total"].as_f64().unwrap() as usize)
    };
    let bench = |i: usize, names: &[&str]| columns["bench"][i].as_str().is_some_and(|bench| names.contains(&bench));
    let (of_b, total) = ranked(json!([{"column": "bench", "labels": ["B"]}]));
    assert_eq!((of_b.clone(), total), (rows(&|i| bench(i, &["B"])), of_b.len()));
    let steps = json!([{"column": "bench", "labels": ["A", "B"]}, {"rows": [[10, 60], [200, 210]], "from": "points 1 to 5"}]);
    assert_eq!(ranked(steps).0, rows(&|i| bench(i, &["A", "B"]) && ((10..=60).contains(&i) || (200..=210).contains(&i))));
    // Left-out rows and narrowing together.
    let omitted = ask(
        &frame(&columns, &[]),
        &json!({"method": "pareto", "roles": {"category": "kind"}, "omit": [of_b[0]], "only": [{"column": "bench", "labels": ["B"]}]}),
    );
    assert_eq!(numbers(&omitted.unwrap())["rows"].as_u64(), Some(of_b.len() as u64 - 1));
    assert!(rank(&json!([{"column": "bench", "labels": ["Z"]}])).err().unwrap().to_string().contains("0 usable values"));
    assert!(rank(&json!([{"column": "press", "labels": ["Z"]}])).err().unwrap().to_string().contains("no column “press”"));
}

#[test]
fn a_log_is_charted_as_its_counts_by_hand_are() {
    let log = |options: Value, only: Value| {
        numbers(&answer(&json!({"method": "control-chart", "roles": {"per": "lot"}, "options": options, "only": only})).unwrap())
    };
    let columns = columns();
    let count = |lot: usize, keep: &dyn Fn(usize) -> bool| (12 * lot..12 * lot + 12).filter(|&i| keep(i)).count();
    let leaks: Vec<usize> = (0..20).map(|lot| count(lot, &|i| columns["kind"][i] == "leak")).collect();
    let there: Vec<usize> = leaks.iter().copied().filter(|n| *n > 0).collect();
    let by_hand = |options: Value, columns: Value, roles: Value| {
        numbers(&ask(&frame(&columns, &[]), &json!({"method": "control-chart", "roles": roles, "options": options})).unwrap())
    };
    let values =
        |numbers: &Value| numbers["panels"][0]["points"].as_array().unwrap().iter().map(|point| point["value"].clone()).collect::<Vec<_>>();
    let only = json!([{"column": "kind", "labels": ["leak"]}]);
    let (of_log, want) =
        (log(json!({"chart": "c"}), only.clone()), by_hand(json!({"chart": "c"}), json!({"n": there}), json!({"count": "n"})));
    assert_eq!(values(&of_log), values(&want));
    assert_eq!(of_log["panels"][0]["phases"], want["panels"][0]["phases"], "the same limits");
    // Numbers inspected of each lot, given by its name; one is not known.
    let sizes: serde_json::Map<String, Value> =
        (0..20).filter(|lot| *lot != 4).map(|lot| (format!("L{lot:02}"), json!(100 + 10 * lot))).collect();
    let of_log = log(json!({"chart": "p", "sizes": sizes}), json!([]));
    let seen: Vec<Value> = (0..20).map(|lot| if lot == 4 { Value::Null } else { json!(100 + 10 * lot) }).collect();
    let want = by_hand(json!({"chart": "p"}), json!({"n": vec![12; 20], "seen": seen}), json!({"count": "n", "size": "seen"}));
    assert_eq!(values(&of_log), values(&want));
    assert_eq!(of_log["panels"][0]["points"][7]["ucl"], want["panels"][0]["points"][7]["ucl"]);
    let ratio = log(json!({"chart": "ratio", "size": 100}), json!([]));
    assert_eq!(values(&ratio)[0], 0.12);
    // A point opens its own rows, and a row left out takes its point out of the limits.
    let computed = answer(&json!({"method": "control-chart", "roles": {"per": "lot"}, "options": {"chart": "c"}})).unwrap();
    assert_eq!(computed.answer.rows(3, 3), (36..48).collect::<Vec<i64>>());
    let few =
        answer(&json!({"method": "control-chart", "roles": {"per": "lot"}, "options": {"chart": "u", "size": 5}, "omit": [37]})).unwrap();
    assert_eq!(numbers(&few)["panels"][0]["points"][3]["omitted"], true);
}

#[test]
fn a_table_shows_what_meets_its_steps_in_its_order() {
    let columns = json!({
        "gap": [2.4, 2.6, null, 2.5, 2.39, 2.61, 2.5],
        "bench": ["B", "A", "A", null, "annex B", "a", "B"],
    });
    let mut frame = frame(&columns, &[("gap", Some(2.4), Some(2.6))]);
    let times = ["2026-05-03 23:59", "2026-05-04", "2026-05-04 06:10", "2026-05-04 23:59:59.9", "2026-05-05", "", "2026-05-06 07:00"];
    let times = Values::Time(times.iter().map(|text| moments_named(text).map_or(NO_TIME, |[first, _]| first)).collect());
    let time = Column { name: "at".into(), kind: Kind::DateTime, info: ColumnInfo::default(), measuring: None, held: None, values: times };
    frame = Frame::new(frame.columns().iter().cloned().chain([time]).collect(), None).unwrap();
    let rows = |only: Value, order: Value| {
        let view: TableView = serde_json::from_value(json!({"only": only, "order": order})).unwrap();
        assert_eq!(serde_json::from_str::<TableView>(&serde_json::to_string(&view).unwrap()).unwrap(), view);
        view.rows(&frame)
    };
    for (only, order, expected) in [
        (json!([]), json!([]), vec![0, 1, 2, 3, 4, 5, 6]),
        (json!([{"column": "gap", "between": [2.4, 2.5]}]), json!([]), vec![0, 3, 6]),
        (json!([{"column": "gap", "between": [null, 2.4]}]), json!([]), vec![0, 4]),
        (json!([{"column": "gap", "beyond-limits": true}]), json!([]), vec![4, 5]),
        (json!([{"column": "gap", "beyond-limits": false}]), json!([]), vec![0, 1, 3, 6]),
        (json!([{"column": "gap", "missing": true}]), json!([]), vec![2]),
        (json!([{"column": "bench", "missing": false}, {"column": "gap", "missing": false}]), json!([]), vec![0, 1, 4, 5, 6]),
        (json!([{"column": "bench", "contains": "b"}]), json!([]), vec![0, 4, 6]),
        (json!([{"column": "gap", "labels": ["2.5", "2.6"]}]), json!([]), vec![1, 3, 6]),
        (json!([{"column": "at", "during": ["2026-05-04", "2026-05-04"]}]), json!([]), vec![1, 2, 3]),
        (json!([{"column": "at", "during": ["2026-05-04 06:10", null]}]), json!([]), vec![2, 3, 4, 6]),
        (json!([{"column": "at", "during": [null, "2026-05-04 06:10"]}]), json!([]), vec![0, 1, 2]),
        (json!([{"rows": [[5, 5], [0, 3], [2, 2], [4, 1], [3, 3]]}]), json!([]), vec![0, 1, 2, 3, 5]),
        (json!([{"rows": [[1, 2], [6, 9]]}]), json!([{"column": "gap", "descending": true}]), vec![1, 6, 2]),
        (json!([]), json!([{"column": "bench"}, {"column": "gap", "descending": true}]), vec![1, 2, 5, 4, 6, 0, 3]),
    ] {
        assert_eq!(rows(only.clone(), order.clone()).unwrap(), expected, "{only} {order}");
    }
    for (only, problem) in [
        (json!([{"column": "bench", "between": [1, 2]}]), "“bench” holds category, but the narrowing needs numbers"),
        (json!([{"column": "bench", "during": [null, null]}]), "needs moments"),
        (json!([{"column": "gap", "contains": "2"}]), "needs words"),
        (json!([{"column": "at", "during": ["4 May", null]}]), "“4 May” is no moment"),
        (json!([{"column": "press", "missing": true}]), "no column “press”"),
    ] {
        let told = rows(only, json!([])).unwrap_err().to_string();
        assert!(told.contains(problem), "{told}");
    }
    assert!(rows(json!([]), json!([{"column": "press"}])).unwrap_err().to_string().contains("no column “press” for the order"));
    // A question is narrowed by the same steps.
    let spec = json!({"method": "distribution", "roles": {"measure": "gap"}, "only": [{"column": "gap", "beyond-limits": false}]});
    assert_eq!(numbers(&ask(&frame, &spec).unwrap())["groups"][0]["n"], 4);
}

#[test]
fn a_million_labels_are_put_in_their_natural_order() {
    let labels: Vec<String> = (0..1_000_000_u64).map(|i| format!("S{}", i * 7_919 % 1_000_003)).collect();
    let values = Values::Label { codes: (0..1_000_000).collect(), labels: labels.clone().into() };
    let serial = Column { name: "serial".into(), kind: Kind::Text, info: ColumnInfo::default(), measuring: None, held: None, values };
    let frame = Frame::new(vec![serial], None).unwrap();
    let view: TableView = serde_json::from_value(json!({"order": [{"column": "serial"}]})).unwrap();
    let number = |row: u32| labels[row as usize][1..].parse::<u64>().unwrap();
    let rows = view.rows(&frame).unwrap();
    assert!(rows.len() == 1_000_000 && rows.windows(2).all(|two| number(two[0]) < number(two[1])));
}
