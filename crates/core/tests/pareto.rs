//! Ranked kinds against counting, and on what a log may hold.

mod common;

use acorn_core::methods::Computed;
use acorn_core::study::{StudyError, Tone, View};
use common::{ask, frame, sent, sound};
use rand::{RngExt, SeedableRng};
use rand_xoshiro::Xoshiro256PlusPlus;
use serde_json::{Value, json};

fn rank(columns: &Value, roles: &Value, options: &Value) -> Result<Computed, StudyError> {
    let computed = ask(&frame(columns, &[]), &json!({"method": "pareto", "roles": roles, "options": options}))?;
    sound("pareto", &options.to_string(), &sent(&computed));
    Ok(computed)
}

fn numbers(computed: &Computed) -> Value {
    serde_json::to_value(computed.outcome(&View::ALL).numbers).unwrap()
}

/// A log with so many rows of each kind, in turn.
fn log(counts: &[usize]) -> Value {
    let kinds: Vec<String> = counts.iter().enumerate().flat_map(|(kind, count)| vec![format!("kind {kind}"); *count]).collect();
    json!({ "kind": kinds })
}

fn of_log(counts: &[usize], options: &Value) -> Computed {
    rank(&log(counts), &json!({"category": "kind"}), options).unwrap()
}

#[test]
fn a_random_log_is_ranked_as_by_counting() {
    let mut random = Xoshiro256PlusPlus::seed_from_u64(20);
    for _ in 0..20 {
        let k = random.random_range(1..30);
        let counts: Vec<usize> = (0..k).map(|_| random.random_range(1..60)).collect();
        let of = numbers(&of_log(&counts, &json!({"fold": {"share": 0.7}})));
        let mut sorted = counts.clone();
        sorted.sort_unstable_by(|a, b| b.cmp(a));
        let total: usize = sorted.iter().sum();
        let reaching = |share: f64| (1..=k).find(|n| sorted[..*n].iter().sum::<usize>() as f64 >= share * total as f64 - 1e-9).unwrap();
        let overall = &of["overall"];
        assert_eq!((overall["vital"].as_u64(), overall["bars"].as_array().unwrap().len()), (Some(reaching(0.8) as u64), reaching(0.7)));
        let apart: f64 = sorted.iter().flat_map(|a| sorted.iter().map(move |b| (*a as f64 - *b as f64).abs())).sum();
        let gini = apart / (2.0 * (k * k) as f64 * (total as f64 / k as f64));
        assert!((overall["gini"].as_f64().unwrap() - gini).abs() < 1e-12);
        let folded = overall["other"]["count"].as_f64().unwrap_or(0.0);
        let shown: f64 = overall["bars"].as_array().unwrap().iter().map(|bar| bar["count"].as_f64().unwrap()).sum();
        assert_eq!(shown + folded, total as f64, "nothing is lost by folding");
    }
}

#[test]
fn noise_is_not_taken_for_a_leader_and_a_short_list_is() {
    let even = of_log(&[21, 19, 20, 22, 18, 20, 19, 21], &json!({}));
    assert_eq!((even.verdict.tone, even.verdict.title.as_str()), (Tone::Unsure, "No kind leads"));
    let few = of_log(&[300, 120, 30, 9, 8, 7, 6, 5, 4, 3], &json!({}));
    assert_eq!((few.verdict.tone, few.verdict.title.as_str()), (Tone::Calm, "Few kinds lead"));
    assert!(few.verdict.sentence.contains("2 of 10 kinds make 80 % of 492 defects: kind 0 61 %"), "{}", few.verdict.sentence);
    let spread = of_log(&[60, 55, 50, 45, 40, 35, 30, 25, 20, 15], &json!({}));
    assert_eq!(spread.verdict.title, "Spread over many");
    // Two that are near each other may stand the other way round tomorrow.
    let near = of_log(&[101, 99, 20, 8, 4], &json!({}));
    assert!(near.notes.iter().any(|note| note.sentence == "Which of kind 0 and kind 1 is first may be chance."));
    let far = of_log(&[150, 60, 20, 8, 4], &json!({}));
    assert!(!far.notes.iter().any(|note| note.sentence.contains("may be chance")));
}

#[test]
fn groups_are_ranked_by_themselves_and_stand_in_the_rows_of_the_whole() {
    let mut rows: Vec<(&str, &str)> = Vec::new();
    let mut add = |group, kind, n| rows.extend(vec![(group, kind); n]);
    add("A", "cold joint", 80);
    add("A", "gasket", 5);
    add("B", "gasket", 40);
    add("B", "cold joint", 9);
    add("B", "label", 3);
    add("C", "cold joint", 11);
    add("C", "gasket", 9);
    add("C", "label", 10);
    let columns = json!({
        "bench": rows.iter().map(|(bench, _)| *bench).collect::<Vec<_>>(),
        "kind": rows.iter().map(|(_, kind)| *kind).collect::<Vec<_>>(),
    });
    let computed = rank(&columns, &json!({"category": "kind", "group": "bench"}), &json!({"fold": {"top": 2}})).unwrap();
    let of = numbers(&computed);
    assert_eq!(of["groups"][1]["bars"][0]["category"], "gasket", "bench B has an order of its own");
    // Cold joint, gasket, then the rest, in every group.
    let aligned: Vec<Value> = (0..3).map(|group| of["groups"][group]["aligned"].clone()).collect();
    assert_eq!(aligned, [json!([80.0, 5.0, 0.0]), json!([9.0, 40.0, 3.0]), json!([11.0, 9.0, 10.0])]);
    let said = computed.notes.iter().find(|note| note.sentence.contains("leader")).unwrap();
    assert_eq!(said.sentence, "B has a leader of its own: gasket, 77 %; C has none.");
}

#[test]
fn money_ranks_otherwise_than_number_and_what_cannot_be_counted_is_told() {
    let columns = json!({
        "kind": ["scratch", "dead", "scratch", "haze", null, "dead"], "n": [50, 3, 20, 10, 7, null], "cost": [0.5, 40.0, 0.5, 1.0, 1.0, 2.0],
    });
    let roles = json!({"category": "kind", "count": "n"});
    let by_number = numbers(&rank(&columns, &roles, &json!({"fold": "none"})).unwrap());
    assert_eq!((&by_number["overall"]["bars"][0]["category"], &by_number["missing"]), (&json!("scratch"), &json!(2)));
    let by_cost = numbers(&rank(&columns, &json!({"category": "kind", "count": "n", "weight": "cost"}), &json!({"fold": "none"})).unwrap());
    assert_eq!((&by_cost["overall"]["bars"][0]["category"], &by_cost["overall"]["total"]), (&json!("dead"), &json!(165.0)));
    assert!(by_cost["overall"]["even_p"].is_null(), "money is no count");
    let negative = rank(&json!({"kind": ["a", "b"], "n": [3, -1]}), &roles, &json!({})).err().unwrap().to_string();
    assert!(negative.contains("row 2: -1 is below 0"), "{negative}");
    let none = rank(&json!({"kind": ["a", "b"], "n": [0, 0]}), &roles, &json!({})).unwrap();
    assert_eq!((none.verdict.title.as_str(), &numbers(&none)["overall"]["gini"]), ("Nothing is counted", &Value::Null));
    assert_eq!(of_log(&[7], &json!({})).verdict.title, "One kind");
    let same = rank(&columns, &json!({"category": "kind", "group": "kind"}), &json!({})).err().unwrap().to_string();
    assert!(same.contains("same column"), "{same}");
}

#[test]
fn the_rows_of_a_kind_are_those_of_its_place() {
    let computed = rank(&json!({"kind": ["b", "a", "b", "c", "b", "a"]}), &json!({"category": "kind"}), &json!({"fold": "none"})).unwrap();
    assert_eq!([computed.answer.rows(0, 0), computed.answer.rows(1, 1), computed.answer.rows(2, 9)], [vec![0, 2, 4], vec![1, 5], vec![3]]);
    assert!(computed.answer.rows(5, 9).is_empty());
    let tied = numbers(&rank(&json!({"kind": ["z", "y", "y", "z", "x"]}), &json!({"category": "kind"}), &json!({"fold": "none"})).unwrap());
    let order: Vec<&str> = (0..3).map(|bar: usize| tied["overall"]["bars"][bar]["category"].as_str().unwrap()).collect();
    assert_eq!(order, ["z", "y", "x"], "equal ones stand as they first come");
}
