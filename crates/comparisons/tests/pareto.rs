//! Ranked kinds against counting, and on what a log may hold.

mod names;

use acorn_core::methods::Computed;
use acorn_study::{StudyError, Tone, View};
use acorn_testing::{ask, frame, sent, sound};
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
    let one = of_log(&[300, 120, 30, 9, 8, 7, 6, 5, 4, 3], &json!({}));
    assert_eq!((one.verdict.tone, one.verdict.title.as_str()), (Tone::Calm, "One kind leads"));
    assert!(one.verdict.sentence.contains("kind 0 alone makes 61 % of 492 defects"), "{}", one.verdict.sentence);
    let few = of_log(&[220, 200, 30, 9, 8, 7, 6, 5, 4, 3], &json!({}));
    assert_eq!((few.verdict.tone, few.verdict.title.as_str()), (Tone::Calm, "Few kinds lead"));
    assert!(few.verdict.sentence.contains("2 of 10 kinds make 80 % of 492 defects: kind 0 45 %"), "{}", few.verdict.sentence);
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

#[test]
fn names_that_are_one_are_proposed_and_counted_together() {
    let kinds: Vec<&str> = [("loose gasket", 9), ("cold joint", 7), ("Gasket, loose", 3), ("lose gasket", 2)]
        .into_iter()
        .flat_map(|(kind, n)| vec![kind; n])
        .collect();
    let columns = json!({ "kind": kinds });
    let ask = |options: &Value| rank(&columns, &json!({"category": "kind"}), options).unwrap();
    let before = ask(&json!({"fold": "none"}));
    let note = before.notes.iter().find(|note| note.sentence.starts_with("These may be one kind")).unwrap();
    assert!(note.sentence.contains("“Gasket, loose” and “loose gasket”"), "{}", note.sentence);
    let all = note.offers.last().unwrap();
    let mut options = all.options.clone();
    options.insert("fold".into(), "none".into());
    let after = ask(&options.into());
    let of = numbers(&after);
    let bars = of["overall"]["bars"].as_array().unwrap();
    // "lose" has four letters only: it stays a kind of its own.
    let ranked: Vec<(&str, f64)> = bars.iter().map(|bar| (bar["category"].as_str().unwrap(), bar["count"].as_f64().unwrap())).collect();
    assert_eq!(ranked, [("loose gasket", 12.0), ("cold joint", 7.0), ("lose gasket", 2.0)]);
    assert_eq!(after.answer.rows(0, 0).len(), 12, "the rows of both names");
    assert!(of["same_names"].as_array().unwrap().is_empty());
    // What is asked next of a kind is asked of all its names.
    let over_time = after.next.iter().find(|next| next.method.as_deref() == Some("control-chart")).unwrap();
    assert_eq!(serde_json::to_value(&over_time.only).unwrap()[0]["labels"], json!(["loose gasket", "Gasket, loose"]));
    assert!(!after.next.iter().any(|next| next.method.as_deref() == Some("proportion")));
    // A name that goes by one which itself goes by another.
    let chain = numbers(&ask(&json!({"fold": "none", "merge": {"lose gasket": "Gasket, loose", "Gasket, loose": "loose gasket"}})));
    assert_eq!(chain["overall"]["bars"][0]["count"], 14.0);
}

#[test]
fn before_and_after_tell_what_changed_beyond_chance_for_all_kinds_together() {
    let stage = |n: usize, kinds: [usize; 3]| (0..n).flat_map(move |k| vec![["joint", "gasket", "haze"][k]; kinds[k]]).collect::<Vec<_>>();
    let (old, new) = (stage(3, [60, 40, 20]), stage(3, [58, 9, 22]));
    let columns = json!({
        "kind": old.iter().chain(&new).collect::<Vec<_>>(),
        "week": (0..old.len() + new.len()).map(|i| if i < old.len() { "old" } else { "new" }).collect::<Vec<_>>(),
    });
    let by_label = json!({"category": "kind", "stage": "week"});
    let change = |roles: &Value, options: &Value| {
        let computed = rank(&columns, roles, options).unwrap();
        (numbers(&computed)["change"].clone(), computed)
    };
    let (mix, said) = change(&by_label, &json!({}));
    assert_eq!((&mix["labels"], &mix["totals"]), (&json!(["old", "new"]), &json!([120.0, 89.0])));
    let of = |change: &Value, kind: &str| change["kinds"].as_array().unwrap().iter().find(|one| one["category"] == kind).unwrap().clone();
    assert_eq!([&of(&mix, "gasket")["changed"], &of(&mix, "joint")["changed"]], [&json!(-1), &json!(0)]);
    assert!(said.verdict.sentence.contains("less gasket, from 33 % to 10.1 %"), "{}", said.verdict.sentence);
    assert!(said.notes.iter().any(|note| note.sentence.starts_with("Only the mix is compared")));
    // Holm: the smallest of three chances times three.
    let gasket = of(&mix, "gasket");
    assert!((gasket["p_adjusted"].as_f64().unwrap() / gasket["p"].as_f64().unwrap() - 3.0).abs() < 1e-9);
    // Twice as much was inspected afterwards: now all kinds have become rarer.
    let (rates, said) = change(&by_label, &json!({"inspected_before": 1000, "inspected_after": 2000}));
    assert_eq!(of(&rates, "joint")["rate_after"], json!(0.029));
    assert_eq!(of(&rates, "joint")["changed"], json!(-1));
    assert_eq!(said.verdict.tone, Tone::Calm, "{}", said.verdict.sentence);
    // The same by rows, and the other way round.
    let rows = |first: [usize; 4]| json!({"compare_to": "rows", "before_first": first[0], "before_last": first[1], "after_first": first[2], "after_last": first[3]});
    let (same, _) = change(&json!({"category": "kind"}), &rows([1, 120, 121, 209]));
    assert_eq!(of(&same, "gasket")["p"], gasket["p"]);
    let (turned, _) = change(&by_label, &json!({"before": "new", "after": "old"}));
    assert_eq!(of(&turned, "gasket")["changed"], json!(1));
    for (options, words) in [
        (rows([1, 120, 120, 209]), "rows in common"),
        (rows([9, 3, 120, 209]), "the last row stands before the first"),
        (rows([1, 120, 121, 900]), "900 is no row"),
        (json!({"inspected_before": 10}), "for both"),
    ] {
        let roles = if options.get("compare_to").is_some() { json!({"category": "kind"}) } else { by_label.clone() };
        let refused = rank(&columns, &roles, &options).err().unwrap().to_string();
        assert!(refused.contains(words), "{refused}");
    }
}

#[test]
fn kinds_that_are_alike_rank_as_a_slope_which_noise_follows() {
    let mut random = Xoshiro256PlusPlus::seed_from_u64(4);
    let (k, n) = (12, 600);
    let mut mean = vec![0.0; k];
    for _ in 0..300 {
        let mut counts = vec![0.0; k];
        (0..n).for_each(|_| counts[random.random_range(0..k)] += 1.0);
        counts.sort_by(|a: &f64, b| b.total_cmp(a));
        mean.iter_mut().zip(&counts).for_each(|(sum, count)| *sum += count / 300.0);
    }
    let of = numbers(&of_log(&[50; 12], &json!({"fold": "none"})));
    let alike: Vec<f64> = of["alike"].as_array().unwrap().iter().map(|count| count.as_f64().unwrap()).collect();
    let off = alike.iter().zip(&mean).map(|(a, b)| (a - b).abs()).fold(0.0, f64::max);
    assert!(off < 1.6 && alike.len() == k + 1 && alike[k] == 0.0, "{off} {alike:?} {mean:?}");
    let many = numbers(&of_log(&(1..=5000).map(|i| 1 + i % 3).collect::<Vec<_>>(), &json!({"fold": {"top": 20}})));
    assert_eq!(many["alike"].as_array().unwrap().len(), 21);
}

#[test]
fn weighed_leaders_are_sure_only_as_their_counts_are() {
    let of = |counts: [usize; 2], weights: [f64; 2]| {
        let kind: Vec<&str> = [0, 1].into_iter().flat_map(|k| vec![["rare", "often"][k]; counts[k]]).collect();
        let cost: Vec<f64> = [0, 1].into_iter().flat_map(|k| vec![weights[k]; counts[k]]).collect();
        let computed =
            rank(&json!({"kind": kind, "cost": cost}), &json!({"category": "kind", "weight": "cost"}), &json!({"fold": "none"})).unwrap();
        (computed.notes.iter().any(|note| note.sentence.contains("may be chance")), numbers(&computed))
    };
    // 200 against 100, of two rare and dear ones: two more or fewer would turn it round.
    let (unsure, few) = of([2, 100], [100.0, 1.0]);
    assert!(unsure && few["unweighed"]["leader"] == "often" && few["unweighed"]["aligned"] == json!([2.0, 100.0, 0.0]));
    assert!(!of([200, 100], [1.0, 1.0]).0);
}
