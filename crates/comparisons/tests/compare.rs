//! Groups compared: the test that the data allow, pairs, one mean, and what cannot be compared.

use acorn_core::methods::Computed;
use acorn_study::{StudyError, Tone, View};
use acorn_testing::{ask, frame, sent, sound};
use rand::{RngExt, SeedableRng};
use rand_xoshiro::Xoshiro256PlusPlus;
use serde_json::{Value, json};

fn compare(columns: &Value, roles: &Value, options: &Value) -> Result<Computed, StudyError> {
    let computed = ask(&frame(columns, &[]), &json!({"method": "compare", "roles": roles, "options": options}))?;
    sound("compare", &options.to_string(), &sent(&computed));
    Ok(computed)
}

fn numbers(computed: &Computed) -> Value {
    serde_json::to_value(computed.outcome(&View::ALL).numbers).unwrap()
}

fn said(computed: &Computed) -> String {
    computed.notes.iter().map(|note| format!("{} ", note.sentence)).collect()
}

/// Values of groups as rows: label, centre, spread, count and a shape.
fn rows(groups: &[(&str, f64, f64, usize)], shape: impl Fn(&mut Xoshiro256PlusPlus) -> f64) -> Value {
    let mut random = Xoshiro256PlusPlus::seed_from_u64(9);
    let (mut label, mut value) = (Vec::new(), Vec::new());
    for (name, centre, spread, n) in groups {
        for _ in 0..*n {
            label.push(*name);
            value.push(centre + spread * shape(&mut random));
        }
    }
    json!({"bench": label, "flux": value})
}

/// About normal: twelve even numbers, less six.
fn normal(random: &mut Xoshiro256PlusPlus) -> f64 {
    (0..12).map(|_| random.random::<f64>()).sum::<f64>() - 6.0
}

fn roles() -> Value {
    json!({"measure": "flux", "group": "bench"})
}

#[test]
fn the_test_is_the_one_that_the_data_allow_and_says_why() {
    let of = |groups: &[(&str, f64, f64, usize)]| compare(&rows(groups, normal), &roles(), &json!({})).unwrap();
    let alike = of(&[("A", 500.0, 4.0, 30), ("B", 500.5, 4.0, 30), ("C", 508.0, 4.0, 30)]);
    assert_eq!((&numbers(&alike)["test"], alike.verdict.title.as_str()), (&json!("welch"), "They differ"));
    assert!(
        said(&alike).contains("each group is judged by its own spread") && said(&alike).contains("2 of 3 pairs differ"),
        "{}",
        said(&alike)
    );
    assert!(said(&alike).contains("Outside the decision limits") && said(&alike).contains("C above"), "{}", said(&alike));
    assert!(alike.verdict.sentence.starts_with("They differ: C is "), "{}", alike.verdict.sentence);
    let unlike = of(&[("A", 500.0, 1.0, 30), ("B", 500.4, 9.0, 30), ("C", 501.6, 1.0, 30)]);
    assert_eq!(numbers(&unlike)["test"], "welch");
    assert!(said(&unlike).contains("Their spreads differ too") && said(&unlike).contains("B varies most"), "{}", said(&unlike));
    // One spread for all would hide the pair that spreads little.
    assert!(said(&unlike).contains("1 of 3 pairs differs: A and C"), "{}", said(&unlike));
    let skewed = compare(
        &rows(&[("A", 5.0, 1.0, 12), ("B", 5.0, 1.0, 12), ("C", 6.0, 1.0, 12)], |random| -random.random::<f64>().ln().min(0.0)),
        &roles(),
        &json!({}),
    );
    assert_eq!(numbers(&skewed.unwrap())["test"], "kruskal");
    let same = of(&[("A", 500.0, 4.0, 20), ("B", 500.0, 4.0, 20)]);
    assert_eq!((same.verdict.tone, same.verdict.title.as_str()), (Tone::Unsure, "No difference shown"));
}

#[test]
fn where_values_stand_and_in_what_unit_changes_no_chance() {
    let groups = [("A", 500.0, 4.0, 15), ("B", 503.0, 6.0, 12), ("C", 508.0, 5.0, 17)];
    let plain = rows(&groups, normal);
    let moved: Vec<f64> = plain["flux"].as_array().unwrap().iter().map(|value| 1e7 + 0.01 * value.as_f64().unwrap()).collect();
    let of = |columns: &Value| numbers(&compare(columns, &roles(), &json!({})).unwrap());
    let (one, other) = (of(&plain), of(&json!({"bench": plain["bench"], "flux": moved})));
    for field in ["/anova/p", "/welch/p", "/kruskal/p", "/brown_forsythe/p", "/tukey/1/p", "/games_howell/2/p"] {
        let [a, b] = [&one, &other].map(|numbers| numbers.pointer(field).unwrap().as_f64().unwrap());
        assert!((a / b - 1.0).abs() < 1e-5, "{field}: {a} {b}");
    }
    // The interval of a pair holds no difference exactly when its chance is 0.05 or more.
    for pair in one["tukey"].as_array().unwrap().iter().chain(one["games_howell"].as_array().unwrap()) {
        let holds_none = pair["ci95"][0].as_f64().unwrap() * pair["ci95"][1].as_f64().unwrap() < 0.0;
        assert_eq!(holds_none, pair["p"].as_f64().unwrap() > 0.05, "{pair}");
    }
}

#[test]
fn row_by_row_is_one_mean_of_differences_and_columns_can_be_the_groups() {
    let of = |f: &dyn Fn(u32) -> f64| (0..18).map(|i| json!(f(i))).collect::<Vec<_>>();
    let mut columns =
        json!({"old": of(&|i| 40.0 + f64::from(i * 7 % 11)), "new": of(&|i| 40.4 + f64::from(i * 7 % 11) + 0.1 * f64::from(i % 5))});
    let apart: Vec<f64> = (0..18).map(|i| columns["old"][i].as_f64().unwrap() - columns["new"][i].as_f64().unwrap()).collect();
    columns["old"][17] = Value::Null;
    columns["apart"] = json!(apart);
    columns["apart"][17] = Value::Null;
    let paired = compare(&columns, &json!({"measure": ["old", "new"]}), &json!({"test": "paired"})).unwrap();
    let one = numbers(&compare(&columns, &json!({"measure": "apart"}), &json!({"mean": 0.0})).unwrap());
    assert_eq!(numbers(&paired)["paired"], one["one_sample"]);
    assert!(paired.verdict.sentence.contains("old less new is −0.58 on average"), "{}", paired.verdict.sentence);
    // As groups the same columns do not differ: the pieces differ more.
    let groups = compare(&columns, &json!({"measure": ["old", "new"]}), &json!({})).unwrap();
    assert_eq!((groups.verdict.title.as_str(), &numbers(&groups)["missing"]), ("No difference shown", &json!(1)));
    // Fleiss (1981): a difference of one sd takes 23 in each group.
    let needed =
        |test: Value| numbers(&compare(&columns, &json!({"measure": ["old", "new"]}), &test).unwrap())["needed"]["each"].as_u64().unwrap();
    let sd = numbers(&groups)["sd_within"].as_f64().unwrap();
    assert_eq!(needed(json!({"delta": sd})), 23);
    assert!(needed(json!({"delta": sd, "test": "paired"})) < 4);
}

#[test]
fn what_cannot_be_compared_is_said() {
    let columns = json!({"flux": [1.0, 1.0, 2.0, 2.0, null], "bench": ["A", "A", "B", "B", "B"], "own": ["a", "b", "c", "d", "e"], "flat": [3, 3, 3, 3, 3]});
    let title = |roles: Value, options: Value| compare(&columns, &roles, &options).unwrap().verdict.title;
    assert_eq!(title(json!({"measure": "flux", "group": "own"}), json!({})), "Too few to say");
    assert_eq!(title(json!({"measure": "flat", "group": "bench"}), json!({})), "Too few to say");
    assert_eq!(title(json!({"measure": "flux", "group": "bench"}), json!({})), "Too few to say", "no spread within");
    assert_eq!(title(json!({"measure": "flat"}), json!({"mean": 3.0})), "Too few to say");
    let refused = |roles: Value, options: Value| compare(&columns, &roles, &options).err().unwrap().to_string();
    assert!(refused(json!({"measure": "flux"}), json!({})).contains("no groups"));
    assert!(refused(json!({"measure": "flux"}), json!({"test": "paired"})).contains("two columns"));
    assert!(refused(json!({"measure": ["flux", "flat"], "group": "bench"}), json!({})).contains("already"));
    let many = json!({"flux": (0..200).collect::<Vec<_>>(), "lot": (0..200).map(|i| format!("L{}", i % 61)).collect::<Vec<_>>()});
    assert!(
        compare(&many, &json!({"measure": "flux", "group": "lot"}), &json!({})).err().unwrap().to_string().contains("more than 60 groups")
    );
}

/// Groups of so many values each with these centres and a spread of 1.
fn drawn(seed: u64, centres: &[f64], each: usize) -> Value {
    let mut random = Xoshiro256PlusPlus::seed_from_u64(seed);
    let (mut label, mut value) = (Vec::new(), Vec::new());
    for (place, centre) in centres.iter().enumerate() {
        for _ in 0..each {
            label.push(format!("B{place}"));
            value.push(centre + normal(&mut random));
        }
    }
    json!({"bench": label, "flux": value})
}

#[test]
fn the_values_needed_find_the_difference_about_nine_times_in_ten() {
    let first = numbers(&compare(&drawn(1, &[0.0, 0.0], 400), &roles(), &json!({"delta": 0.8})).unwrap());
    let each = first["needed"]["each"].as_u64().unwrap() as usize;
    // 2 (1.96 + 1.28)²/0.8² = 33 for a spread of 1.
    assert!((29..=38).contains(&each), "{each}");
    let found = (0..200).filter(|seed| {
        let of = numbers(&compare(&drawn(100 + seed, &[0.0, 0.8], each), &roles(), &json!({})).unwrap());
        of["two_sample"]["pooled"]["p"].as_f64().unwrap() < 0.05
    });
    let found = found.count();
    assert!((165..=195).contains(&found), "{found} of 200");
}

#[test]
fn where_groups_are_alike_no_pair_and_no_group_is_named_in_nineteen_comparisons_of_twenty() {
    let runs = 80;
    let (mut pairs, mut outside) = (0, 0);
    for seed in 0..runs {
        let of = numbers(&compare(&drawn(5000 + seed, &[3.0; 5], 8), &roles(), &json!({})).unwrap());
        pairs += u32::from(of["tukey"].as_array().unwrap().iter().any(|pair| pair["p"].as_f64().unwrap() < 0.05));
        outside += u32::from(of["anom"].as_array().unwrap().iter().any(|group| group["outside"] == true));
    }
    // 4 are expected of each; 13 or more would come less than once in a thousand times.
    assert!(pairs < 13 && outside < 13, "{pairs} {outside} of {runs}");
}

#[test]
fn ranks_are_counted_one_by_one_and_the_order_of_rows_means_nothing() {
    let columns =
        json!({"bench": ["a", "b", "a", "c", "b", "c", "a", "c", "b", "a"], "flux": [3.0, 1.0, 4.0, 4.0, 5.0, 9.0, 2.0, 6.0, 5.0, 3.0]});
    let values: Vec<f64> = columns["flux"].as_array().unwrap().iter().map(|value| value.as_f64().unwrap()).collect();
    // Each value outranks those below it, and half of those equal to it, itself among them.
    let rank = |value: f64| {
        let below = values.iter().filter(|other| **other < value).count() as f64;
        below + (values.iter().filter(|other| **other == value).count() as f64 + 1.0) / 2.0
    };
    let of_label = |label: &str| -> Vec<f64> {
        let labels = columns["bench"].as_array().unwrap();
        values.iter().zip(labels).filter(|(_, own)| *own == label).map(|(value, _)| rank(*value)).collect()
    };
    let n = 10.0;
    let sum: f64 = ["a", "b", "c"].map(of_label).iter().map(|ranks| ranks.iter().sum::<f64>().powi(2) / ranks.len() as f64).sum();
    // Two 3s, two 4s and two 5s: Σ(t³ − t) = 18.
    let h = (12.0 / (n * (n + 1.0)) * sum - 3.0 * (n + 1.0)) / (1.0 - 18.0 / (n * n * n - n));
    let of = numbers(&compare(&columns, &roles(), &json!({})).unwrap());
    assert!((of["kruskal"]["h"].as_f64().unwrap() - h).abs() < 1e-12, "{} {h}", of["kruskal"]);
    let mut turned = columns.clone();
    for column in ["bench", "flux"] {
        turned[column].as_array_mut().unwrap().reverse();
    }
    let back = numbers(&compare(&turned, &roles(), &json!({})).unwrap());
    for test in ["anova", "welch", "kruskal", "brown_forsythe"] {
        let [here, there] = [&of, &back].map(|of| of[test]["p"].as_f64().unwrap());
        assert!((here / there - 1.0).abs() < 1e-9, "{test}: {here} {there}");
    }
}
