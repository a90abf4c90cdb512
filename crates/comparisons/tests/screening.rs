//! What goes with something, among many columns: what is found, what chance would find, and what rows have in common.

use acorn_core::methods::{self, Computed};
use acorn_data::frame::Kind;
use acorn_study::{Spec, StudyError, View};
use acorn_testing::{ask, frame, sent, sound, timed};
use rand::{RngExt, SeedableRng};
use rand_xoshiro::Xoshiro256PlusPlus;
use serde_json::{Map, Value, json};

fn screen(columns: &Value, roles: &Value, options: &Value) -> Result<Computed, StudyError> {
    let computed = ask(&frame(columns, &[]), &json!({"method": "screening", "roles": roles, "options": options}))?;
    sound("screening", &format!("{roles} {options}"), &sent(&computed));
    Ok(computed)
}

fn numbers(computed: &Computed) -> Value {
    serde_json::to_value(computed.outcome(&View::ALL).numbers).unwrap()
}

fn said(computed: &Computed) -> String {
    computed.notes.iter().map(|note| format!("{} {} ", note.sentence, note.detail.clone().unwrap_or_default())).collect()
}

fn result<'n>(of: &'n Value, column: &str) -> &'n Value {
    of["results"].as_array().unwrap().iter().find(|found| found["column"] == column).unwrap()
}

/// Columns that know nothing of each other: so many of numbers, and as many of labels.
fn nothing(seed: u64, rows: usize, each: usize) -> Map<String, Value> {
    let mut random = Xoshiro256PlusPlus::seed_from_u64(seed);
    let mut columns = Map::new();
    columns.insert("flux".into(), (0..rows).map(|_| random.random::<f64>()).collect());
    for k in 0..each {
        columns.insert(format!("number {k}"), (0..rows).map(|_| random.random::<f64>()).collect());
        columns.insert(format!("label {k}"), (0..rows).map(|_| json!(format!("L{}", random.random_range(0..2 + k)))).collect());
    }
    columns
}

#[test]
fn parts_explained_are_those_of_their_definitions() {
    let columns = json!({
        "flux": [1.0, 2.0, 4.0, 4.5, 7.0, 9.0], "heat": [2.0, 1.0, 3.5, 5.0, 4.0, 6.5],
        "bench": ["a", "a", "a", "b", "b", "b"], "result": ["pass", "pass", "fail", "pass", "fail", "fail"],
    });
    let of = numbers(&screen(&columns, &json!({"measure": "flux"}), &json!({})).unwrap());
    let near = |found: &Value, want: f64| assert!((found.as_f64().unwrap() - want).abs() < 1e-12, "{found} {want}");
    // Means 7/3 and 41/6 of 3 each, over all 55/12; Σ(y − ȳ)² = 45.2083….
    near(&result(&of, "bench")["explained"], 1.5 * (41.0_f64 / 6.0 - 7.0 / 3.0).powi(2) / (171.25 - 27.5 * 27.5 / 6.0));
    let (sxy, sxx) = (27.5 * 22.0 / 6.0, 22.0 * 22.0 / 6.0);
    let r2 = (2.0_f64 + 2.0 + 14.0 + 22.5 + 28.0 + 58.5 - sxy).powi(2) / (4.0 + 1.0 + 12.25 + 25.0 + 16.0 + 42.25 - sxx);
    near(&result(&of, "heat")["explained"], r2 / (171.25 - 27.5 * 27.5 / 6.0));
    assert_eq!((&result(&of, "heat")["kind"], &result(&of, "bench")["kind"]), (&json!("r2"), &json!("eta2")));
    // a: 2 of 3 pass, b: 1 of 3; χ² = 6 (4/9 + 1/9 + 1/9 + 4/9 − 1) = 2/3, V² = 1/9.
    let labels = numbers(&screen(&columns, &json!({"measure": "result"}), &json!({})).unwrap());
    near(&result(&labels, "bench")["explained"], 1.0 / 9.0);
    near(&result(&labels, "bench")["p"], acorn_maths::tails::chi_square_above(2.0 / 3.0, 1.0));
}

#[test]
fn chance_gives_a_finding_in_about_one_screen_of_twenty() {
    let runs = 60;
    let found = (0..runs)
        .filter(|seed| {
            let of = numbers(&screen(&Value::Object(nothing(*seed, 40, 5)), &json!({"measure": "flux"}), &json!({})).unwrap());
            of["results"].as_array().unwrap().iter().any(|found| found["beyond"] == true)
        })
        .count();
    // 3 are expected; 10 or more would come once in a thousand times. Alone, ten columns would give one in four of ten screens.
    assert!(found < 10, "{found} of {runs}");
}

#[test]
fn what_goes_with_it_is_found_among_many_and_leads_on() {
    let mut columns = nothing(7, 120, 8);
    let mut random = Xoshiro256PlusPlus::seed_from_u64(99);
    let bench: Vec<usize> = (0..120).map(|row| row * 7 % 4).collect();
    let flux: Vec<f64> = bench.iter().map(|bench| if *bench == 2 { 3.0 } else { 0.0 } + random.random::<f64>()).collect();
    columns.insert("bench".into(), json!(bench.iter().map(|bench| format!("B{bench}")).collect::<Vec<_>>()));
    columns.insert("press".into(), json!(bench.iter().map(|bench| bench / 2).collect::<Vec<_>>()));
    columns.insert("copy".into(), json!(flux.iter().map(|flux| 2.0 * flux + 1.0).collect::<Vec<_>>()));
    columns.insert("flux".into(), json!(flux));
    columns.insert("lamp".into(), json!((0..120).map(|row| format!("lamp {row}")).collect::<Vec<_>>()));
    columns.insert("same".into(), json!(vec!["x"; 120]));
    let answer = screen(&Value::Object(columns.clone()), &json!({"measure": "flux"}), &json!({})).unwrap();
    let of = numbers(&answer);
    let order: Vec<&str> = of["results"].as_array().unwrap().iter().take(3).map(|found| found["column"].as_str().unwrap()).collect();
    assert_eq!(order, ["copy", "bench", "press"]);
    assert!((1..=2).contains(&answer.next.iter().filter(|next| next.method.as_deref() == Some("compare")).count()));
    assert_eq!(answer.next.last().unwrap().method.as_deref(), Some("multi-vari"));
    let words = said(&answer);
    assert!(words.contains("Copy explains nearly all of flux") && words.contains("go with each other"), "{words}");
    assert!(words.contains("lamp (it has a label of its own") && words.contains("same (it does not vary)"), "{words}");
    let named =
        numbers(&screen(&Value::Object(columns), &json!({"measure": "flux", "columns": ["number 1", "bench"]}), &json!({})).unwrap());
    assert_eq!((named["results"].as_array().unwrap().len(), &named["skipped"]), (2, &json!([])));
}

#[test]
fn rows_have_in_common_what_they_hold_too_many_of_and_the_chance_is_exact() {
    let columns = json!({
        "bench": (0..40).map(|row| if (10..18).contains(&row) || row == 30 { "C" } else { ["A", "B"][row % 2] }).collect::<Vec<_>>(),
        "heat": (0..40).map(|row| f64::from(row * 7 % 13)).collect::<Vec<_>>(),
        "lamp": (0..40).map(|row| row + 500).collect::<Vec<_>>(), "flux": (0..40).map(|row| f64::from(row % 19)).collect::<Vec<_>>(),
    });
    let apart = numbers(&screen(&columns, &json!({"apart": "flux"}), &json!({"rows": [[10, 19]]})).unwrap());
    assert_eq!(
        (apart["results"].as_array().unwrap().len(), &apart["skipped"][0]["column"]),
        (2, &json!("lamp")),
        "a running number counts only"
    );
    let answer = screen(&columns, &json!({}), &json!({"rows": [[10, 19]]})).unwrap();
    let of = numbers(&answer);
    let over = &result(&of, "bench")["over"];
    assert_eq!((&over["label"], &over["count"], &over["of"]), (&json!("C"), &json!(8), &json!(9)));
    // 8 or 9 of the 9 rows of C among 10 of 40, times 3 labels.
    let choose = |n: u32, k: u32| (0..k).map(|i| f64::from(n - i) / f64::from(i + 1)).product::<f64>();
    let exact = (choose(9, 8) * choose(31, 2) + choose(9, 9) * choose(31, 1)) / choose(40, 10);
    assert!((over["p"].as_f64().unwrap() / (3.0 * exact) - 1.0).abs() < 1e-9, "{over} {exact}");
    assert!(said(&answer).contains("Bench C holds 80 % of these rows (8 rows), and 23 % of all rows."), "{}", said(&answer));
    assert!(
        screen(&columns, &json!({}), &json!({"rows": [[0, 39]]})).is_err()
            && screen(&columns, &json!({}), &json!({"rows": [[90, 99]]})).is_err()
    );
}

#[test]
fn a_screen_reads_every_column_unless_some_are_named_even_when_it_is_narrowed() {
    let spec = |text: Value| serde_json::from_value::<Spec>(text).unwrap();
    let open = spec(json!({"method": "screening", "roles": {"measure": "flux"}, "only": [{"column": "shift", "labels": ["late"]}]}));
    let named = spec(json!({"method": "screening", "roles": {"measure": "flux", "columns": "heat"}}));
    let reads = |spec: &Spec, name: &str| methods::reads(spec, name, Kind::Number, 100);
    assert!(reads(&open, "anything") && reads(&named, "heat") && !reads(&named, "anything"));
    assert!(!reads(&spec(json!({"method": "compare", "roles": {"measure": "flux"}})), "anything"));
    let rows = 40;
    let columns = json!({
        "flux": (0..rows).map(|row| f64::from(row * 7 % 11)).collect::<Vec<_>>(), "heat": (0..rows).map(|row| f64::from(row * 7 % 11) + f64::from(row % 2)).collect::<Vec<_>>(),
        "shift": (0..rows).map(|row| ["early", "late"][row as usize / 20]).collect::<Vec<_>>(),
    });
    let of = numbers(&ask(&frame(&columns, &[]), &serde_json::to_value(&open).unwrap()).unwrap());
    assert_eq!((&of["results"][0]["column"], &of["n"], &of["skipped"][0]["column"]), (&json!("heat"), &json!(20), &json!("shift")));
}

#[test]
fn nothing_to_try_and_nothing_that_varies_are_told() {
    let roles = json!({"measure": "flux"});
    let refused = screen(&json!({"flux": [1.0, 2.0, 3.0]}), &roles, &json!({})).err().unwrap();
    assert!(refused.to_string().contains("no other column"), "{refused}");
    let still = screen(&json!({"flux": [1.0, 1.0, 1.0], "heat": [1.0, 2.0, 3.0]}), &roles, &json!({})).unwrap();
    assert_eq!(still.verdict.title, "Too few to say");
    let apart = screen(&json!({"flux": [1.0, 2.0, null, null], "heat": [null, null, 3.0, 4.0]}), &roles, &json!({})).unwrap();
    assert_eq!((apart.verdict.title.as_str(), &numbers(&apart)["results"][0]["explained"]), ("Too few to say", &Value::Null));
}

#[test]
fn a_matrix_flags_for_all_pairs_together_and_leaves_gaps_out_pair_by_pair() {
    let columns = nothing(11, 60, 5);
    let pick: Vec<String> = columns.keys().filter(|name| name.starts_with("number")).cloned().collect();
    let mut columns = Value::Object(columns);
    columns["twin"] = columns["number 0"]
        .as_array()
        .unwrap()
        .iter()
        .enumerate()
        .map(|(row, value)| json!(value.as_f64().unwrap() + 0.05 * f64::from(row as u32 % 3)))
        .collect();
    columns["number 1"][5] = Value::Null;
    columns["still"] = json!(vec![3.0; 60]);
    let ask_for = |names: &[&str]| {
        let all: Vec<&str> = pick.iter().map(String::as_str).chain(names.iter().copied()).collect();
        let computed = ask(&frame(&columns, &[]), &json!({"method": "matrix", "roles": {"measure": all}}))?;
        sound("matrix", "pairs", &sent(&computed));
        Ok::<Computed, StudyError>(computed)
    };
    let answer = ask_for(&["twin", "still"]).unwrap();
    let of = numbers(&answer);
    assert_eq!((&of["n"][0][1], &of["n"][0][2], &of["flagged"][0][5]), (&json!(59), &json!(60), &json!(true)));
    let flagged = of["flagged"].as_array().unwrap().iter().flat_map(|row| row.as_array().unwrap()).filter(|flag| **flag == true).count();
    assert_eq!(flagged, 2, "one pair, on both sides of the diagonal");
    assert_eq!((&of["pearson"][0][6], &of["p_holm"][6][0]), (&Value::Null, &Value::Null));
    // 15 pairs have a chance: a pair with what does not vary has none.
    let [alone, all] = ["p", "p_holm"].map(|which| of[which][0][5].as_f64().unwrap());
    assert!((all / alone - 15.0).abs() < 1e-9 || all == 0.0, "{alone} {all}");
    assert!(said(&answer).contains("Still does not vary") && answer.next[0].method.as_deref() == Some("relation"));
    assert!(ask_for(&["twin", "twin"]).is_err());
    assert!(ask(&frame(&columns, &[]), &json!({"method": "matrix", "roles": {"measure": "twin"}})).is_err());
}

#[test]
fn a_column_of_many_labels_leads_no_list_and_pass_and_fail_are_as_good_as_0_and_1() {
    let mut columns = nothing(3, 200, 1);
    let mut random = Xoshiro256PlusPlus::seed_from_u64(5);
    columns.insert("reel".into(), (0..200).map(|row| json!(format!("R{}", row / 3))).collect());
    let flux: Vec<f64> = columns["number 0"].as_array().unwrap().iter().map(|x| x.as_f64().unwrap() + random.random::<f64>()).collect();
    columns.insert("flux".into(), json!(flux));
    let of = numbers(&screen(&Value::Object(columns.clone()), &json!({"measure": "flux"}), &json!({})).unwrap());
    // 67 labels of three rows explain a third of anything by chance.
    let reel = result(&of, "reel");
    assert!(reel["explained"].as_f64().unwrap() > 0.2 && reel["adjusted"].as_f64().unwrap() < 0.2, "{reel}");
    assert_eq!(of["results"][0]["column"], "number 0");
    let is_bright: Vec<bool> = flux.iter().map(|flux| *flux > 1.0).collect();
    columns.insert("result".into(), json!(is_bright.iter().map(|bright| if *bright { "pass" } else { "fail" }).collect::<Vec<_>>()));
    columns.insert("coded".into(), json!(is_bright.iter().map(|bright| if *bright { 1.0 } else { 0.5 }).collect::<Vec<_>>()));
    let labels = numbers(
        &screen(&Value::Object(columns.clone()), &json!({"measure": "result", "columns": ["label 0", "reel"]}), &json!({})).unwrap(),
    );
    let coded =
        numbers(&screen(&Value::Object(columns), &json!({"measure": "coded", "columns": ["label 0", "reel"]}), &json!({})).unwrap());
    for column in ["label 0", "reel"] {
        let [a, b] = [&labels, &coded].map(|of| result(of, column)["explained"].as_f64().unwrap());
        assert!((a - b).abs() < 1e-12, "{column}: {a} {b}");
    }
}

#[test]
fn many_rows_are_shuffled_as_a_sample_and_the_answer_is_the_same_each_time() {
    let mut columns = nothing(21, 9000, 2);
    let bright: Vec<f64> = columns["flux"]
        .as_array()
        .unwrap()
        .iter()
        .zip(columns["number 1"].as_array().unwrap())
        .map(|(a, b)| a.as_f64().unwrap() + 0.2 * b.as_f64().unwrap())
        .collect();
    columns.insert("bright".into(), json!(bright));
    columns.remove("flux");
    let ask = || screen(&Value::Object(columns.clone()), &json!({"measure": "bright"}), &json!({})).unwrap();
    let (first, again) = (ask(), ask());
    let of = numbers(&first);
    assert_eq!((of.to_string(), &of["shuffled"], &of["n"]), (numbers(&again).to_string(), &json!(4000), &json!(9000)));
    assert!(said(&first).contains("of 4,000 rows drawn from 9,000"), "{}", said(&first));
    assert_eq!(
        (&of["results"][0]["column"], &of["results"][0]["beyond"], &of["results"][1]["beyond"]),
        (&json!("number 1"), &json!(true), &json!(false))
    );
    for found in of["results"].as_array().unwrap() {
        let inside = |value: &Value| (0.0..=1.0).contains(&value.as_f64().unwrap());
        match found["picture"]["picture"].as_str().unwrap() {
            "points" => assert!(found["picture"]["points"].as_array().unwrap().iter().all(|at| inside(&at[0]) && inside(&at[1]))),
            _ => assert!(found["picture"]["levels"].as_array().unwrap().iter().all(|level| inside(&level["at"]))),
        }
        assert!(inside(&found["p_screen"]) && found["p_screen"].as_f64() >= found["p"].as_f64().map(|p| p.min(1.0 / 1001.0)));
    }
}

#[test]
fn time_counts_as_a_measurement_and_few_whole_numbers_as_labels() {
    let columns = json!({
        "flux": (0..40).map(|row| f64::from(row) + f64::from(row * 7 % 5)).collect::<Vec<_>>(),
        "tested at": (0..40).map(|row| 15 * row).collect::<Vec<_>>(),
        "press": (0..40).map(|row| row % 4 + 1).collect::<Vec<_>>(), "lamp": (0..40).map(|row| 4101 + row * 3).collect::<Vec<_>>(),
    });
    let spec = json!({"method": "screening", "roles": {"measure": "flux"}});
    let answer = ask(&timed(&frame(&columns, &[]), "tested at"), &spec).unwrap();
    let of = numbers(&answer);
    let kinds = ["tested at", "press", "lamp"].map(|column| result(&of, column)["kind"].as_str().unwrap().to_owned());
    assert_eq!(kinds, ["r2", "eta2", "r2"]);
    assert_eq!(
        (&result(&of, "tested at")["study"]["method"], &result(&of, "tested at")["study"]["roles"]["order"]),
        (&json!("control-chart"), &json!("tested at"))
    );
    assert!(said(&answer).contains("go with each other"), "time and a running number");
    let asked: Vec<String> = answer.next.iter().filter_map(|next| next.method.clone()).collect();
    assert!(asked.contains(&"control-chart".to_owned()) && asked.contains(&"relation".to_owned()), "{asked:?}");
}

#[test]
fn a_pair_of_the_matrix_is_what_the_relation_says_of_it() {
    let columns = Value::Object(nothing(31, 50, 3));
    let of = numbers(
        &ask(&frame(&columns, &[]), &json!({"method": "matrix", "roles": {"measure": ["number 0", "number 1", "number 2"]}})).unwrap(),
    );
    let pair = json!({"method": "relation", "roles": {"x": "number 0", "y": "number 2"}});
    let one = numbers(&ask(&frame(&columns, &[]), &pair).unwrap());
    for (many, single) in [("pearson", "pearson"), ("ci95", "ci95"), ("p", "p"), ("spearman", "spearman"), ("n", "n")] {
        assert_eq!(of[many][0][2], one[single], "{many}");
        assert_eq!(of[many][2][0], one[single], "{many}");
    }
    assert_eq!((of["columns"].as_array().unwrap().len(), of["sample"][1].as_array().unwrap().len()), (3, 50));
    let long = json!({"a": (0..5000).collect::<Vec<_>>(), "b": (0..5000).map(|row| row * 7 % 11).collect::<Vec<_>>()});
    let many = numbers(&ask(&frame(&long, &[]), &json!({"method": "matrix", "roles": {"measure": ["a", "b"]}})).unwrap());
    assert!(many["sample"][0].as_array().unwrap().len() <= 240 && many["n"][0][1] == 5000);
}

#[test]
fn a_bend_and_an_hour_that_stands_out_are_not_missed_for_want_of_a_line() {
    let columns = json!({
        "flux": (0..240).map(|row| {
            let (hour, heat) = (row / 10 % 24, f64::from(row * 37 % 240) / 40.0 - 3.0);
            heat * heat + if hour == 7 { 9.0 } else { 0.0 } + f64::from(row * 7 % 5) / 10.0
        }).collect::<Vec<_>>(),
        "hour": (0..240).map(|row| row / 10 % 24).collect::<Vec<_>>(), "heat": (0..240).map(|row| f64::from(row * 37 % 240) / 40.0 - 3.0).collect::<Vec<_>>(),
    });
    let of = numbers(&screen(&columns, &json!({"measure": "flux"}), &json!({})).unwrap());
    let [heat, hour] = ["heat", "hour"].map(|column| result(&of, column));
    assert_eq!([&heat["kind"], &hour["kind"]], [&json!("eta2"); 2]);
    assert!(heat["beyond"] == true && hour["beyond"] == true && heat["adjusted"].as_f64().unwrap() > 0.5, "{heat} {hour}");
    assert_eq!((&heat["study"]["method"], &heat["study"]["options"]["fit"]), (&json!("relation"), &json!("quadratic")));
    assert_eq!((&hour["study"]["method"], &hour["study"]["roles"]["group"]), (&json!("compare"), &json!("hour")));
    let levels = heat["picture"]["levels"].as_array().unwrap();
    assert!(levels.len() == 8 && levels.iter().all(|level| level["n"] == 30), "as many values in each class");
}

#[test]
fn what_labels_are_called_and_where_values_stand_changes_nothing() {
    let mut columns = nothing(41, 90, 3);
    let bench: Vec<usize> = (0..90).map(|row| row * 7 % 3).collect();
    let flux: Vec<f64> =
        columns["flux"].as_array().unwrap().iter().zip(&bench).map(|(flux, bench)| flux.as_f64().unwrap() + 0.4 * *bench as f64).collect();
    columns.insert("flux".into(), json!(flux));
    columns.insert("bench".into(), json!(bench.iter().map(|bench| format!("B{bench}")).collect::<Vec<_>>()));
    let near = numbers(&screen(&Value::Object(columns.clone()), &json!({"measure": "flux"}), &json!({})).unwrap());
    columns.insert("flux".into(), json!(flux.iter().map(|flux| 1e7 + 0.25 * flux).collect::<Vec<_>>()));
    columns.insert("bench".into(), json!(bench.iter().map(|bench| ["west", "east", "north"][*bench]).collect::<Vec<_>>()));
    let far = numbers(&screen(&Value::Object(columns), &json!({"measure": "flux"}), &json!({})).unwrap());
    for (near, far) in near["results"].as_array().unwrap().iter().zip(far["results"].as_array().unwrap()) {
        assert_eq!((&near["column"], &near["kind"], &near["p_screen"]), (&far["column"], &far["kind"], &far["p_screen"]));
        let [here, there] = [near, far].map(|found| found["explained"].as_f64().unwrap());
        assert!((here - there).abs() < 1e-6, "{}: {here} {there}", near["column"]);
    }
    // A smaller chance alone is never a larger one for the whole screen.
    let mut both: Vec<[f64; 2]> = near["results"]
        .as_array()
        .unwrap()
        .iter()
        .filter(|found| found["kind"] != "eta2" || found["column"] != "x")
        .map(|found| [&found["p"], &found["p_screen"]].map(|p| p.as_f64().unwrap()))
        .collect();
    both.sort_by(|a, b| a[1].total_cmp(&b[1]));
    assert!(both.iter().all(|[p, screen]| *screen >= 0.3 * p.min(1.0)), "{both:?}");
}

#[test]
fn every_study_that_a_screening_leads_to_can_be_answered() {
    let mut columns = nothing(51, 80, 2);
    columns.insert("result".into(), (0..80).map(|row| json!(if row * 7 % 10 < 3 { "fail" } else { "pass" })).collect());
    columns.insert(
        "heat".into(),
        (0..80).map(|row| json!(f64::from(row * 37 % 80) / 8.0 + if row * 7 % 10 < 3 { 4.0 } else { 0.0 })).collect(),
    );
    let columns = Value::Object(columns);
    for (roles, options) in [
        (json!({"measure": "flux"}), json!({})),
        (json!({"measure": "result"}), json!({})),
        (json!({}), json!({"rows": [[10, 25], [40, 44]]})),
    ] {
        let of = numbers(&screen(&columns, &roles, &options).unwrap());
        for found in of["results"].as_array().unwrap() {
            let study = &found["study"];
            let mut spec = json!({"method": study["method"], "roles": study["roles"], "options": study["options"], "only": study["only"]});
            spec.as_object_mut().unwrap().retain(|_, value| !value.is_null());
            assert!(ask(&frame(&columns, &[]), &spec).is_ok(), "{spec}");
        }
    }
    // Pass and fail: the rarer label is looked for, and a heat that parts them leads to a comparison.
    let of = numbers(&screen(&columns, &json!({"measure": "result"}), &json!({})).unwrap());
    assert_eq!((&of["marked"], &of["labels"][0]["n"], &of["labels"][1]["n"]), (&json!("fail"), &json!(24), &json!(56)));
    assert_eq!((&of["results"][0]["column"], &of["results"][0]["study"]["roles"]["group"]), (&json!("heat"), &json!("result")));
}

#[test]
fn what_cannot_be_tried_is_named_with_its_reason_and_what_is_kept_apart_is_not_tried() {
    let n = 2400;
    let columns = json!({
        "flux": (0..n).map(|row| f64::from(row * 7 % 101)).collect::<Vec<_>>(), "bench": (0..n).map(|row| format!("B{}", row % 3)).collect::<Vec<_>>(),
        "reel": (0..n).map(|row| format!("R{}", row / 2)).collect::<Vec<_>>(), "lamp": (0..n).map(|row| format!("lamp {row}")).collect::<Vec<_>>(),
        "nothing": vec![Value::Null; n as usize], "same": vec![7.5; n as usize], "vast": (0..n).map(|row| 1e151 * f64::from(row)).collect::<Vec<_>>(),
    });
    let of = numbers(&screen(&columns, &json!({"measure": "flux"}), &json!({})).unwrap());
    let why = |column: &str| {
        of["skipped"].as_array().unwrap().iter().find(|one| one["column"] == column).unwrap()["why"].as_str().unwrap().to_owned()
    };
    assert!(why("reel").contains("more than 1000 labels") && why("lamp").contains("labels"), "{}", of["skipped"]);
    assert!(
        why("nothing").contains("no value") && why("same").contains("does not vary") && why("vast").contains("too large"),
        "{}",
        of["skipped"]
    );
    assert_eq!(of["results"].as_array().unwrap().len(), 1);
    let apart = screen(&columns, &json!({"measure": "flux", "apart": ["bench", "reel"]}), &json!({})).err().unwrap();
    assert!(apart.to_string().contains("none of 4 other columns can be tried"), "{apart}");
}

#[test]
fn three_labels_have_no_one_of_them_that_is_looked_for() {
    let columns = json!({
        "state": (0..90).map(|row| ["new", "worn", "dead"][row % 3]).collect::<Vec<_>>(),
        "bench": (0..90).map(|row| if row % 3 == 2 { "A" } else { ["A", "B"][row / 3 % 2] }).collect::<Vec<_>>(),
        "heat": (0..90).map(|row| (row % 3) as f64 * 2.0 + f64::from(row as u32 * 7 % 11) / 11.0).collect::<Vec<_>>(),
    });
    let of = numbers(&screen(&columns, &json!({"measure": "state"}), &json!({})).unwrap());
    assert!(of["marked"].is_null() && of["results"].as_array().unwrap().iter().all(|found| found["over"].is_null()));
    assert_eq!((&of["results"][0]["column"], &of["results"][1]["column"]), (&json!("heat"), &json!("bench")));
    // Heat by state, one mean a label, low to high.
    let levels: Vec<f64> =
        of["results"][0]["picture"]["levels"].as_array().unwrap().iter().map(|level| level["at"].as_f64().unwrap()).collect();
    assert!(levels.is_sorted() && levels.len() == 3, "{levels:?}");
}

#[test]
fn odd_columns_of_a_matrix_are_answered_in_words() {
    let ask_for = |columns: Value, names: &[&str]| {
        let computed = ask(&frame(&columns, &[]), &json!({"method": "matrix", "roles": {"measure": names}})).unwrap();
        sound("matrix", &format!("{names:?}"), &sent(&computed));
        computed
    };
    for columns in
        [json!({"a": [], "b": []}), json!({"a": [1.0, 2.0], "b": [3.0, 4.0]}), json!({"a": [1.0, null, 3.0], "b": [null, 2.0, null]})]
    {
        assert_eq!(ask_for(columns, &["a", "b"]).verdict.title, "Too few to say");
    }
    let tied =
        ask_for(json!({"a": [1, 1, 2, 2, 1, 2, 1, 2], "b": [5, 5, 6, 6, 5, 6, 5, 6], "c": [3, 4, 3, 4, 4, 3, 4, 4]}), &["a", "b", "c"]);
    let of = numbers(&tied);
    assert!(
        of["pearson"][0][1].as_f64().unwrap() > 1.0 - 1e-12 && of["p_holm"][0][1].as_f64().unwrap() < 1e-20 && of["flagged"][1][0] == true
    );
    assert!(of["spearman"][0][1].as_f64().unwrap() > 1.0 - 1e-12 && of["flagged"][0][2] == false);
    // Far from 0 the digits of a correlation are kept.
    let far = |offset: f64| {
        numbers(&ask_for(json!({"a": (0..30).map(|i| offset + f64::from(i * 7 % 13) / 100.0).collect::<Vec<_>>(), "b": (0..30).map(|i| f64::from(i * 5 % 17)).collect::<Vec<_>>()}), &["a", "b"]))["pearson"][0][1].as_f64().unwrap()
    };
    assert!((far(0.0) - far(1e7)).abs() < 1e-6);
}
