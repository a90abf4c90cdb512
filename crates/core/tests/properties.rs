//! What must hold whatever the values are: an answer follows its values when their unit, their sign or their origin
//! changes, and does not depend on what cannot matter.

use acorn_study::View;
use acorn_testing::{ask, frame};
use proptest::prelude::*;
use serde_json::{Value, json};

/// Leaves that differ, by path: numbers by more than a share of `scale` of either, all else at all.
fn unlike(a: &Value, b: &Value, path: &str, slack: f64, found: &mut Vec<String>) {
    match (a, b) {
        (Value::Number(x), Value::Number(y)) => {
            let (x, y) = (x.as_f64().unwrap(), y.as_f64().unwrap());
            if (x - y).abs() > slack * x.abs().max(y.abs()).max(1e-9) {
                found.push(format!("{path}: {x} and {y}"));
            }
        }
        (Value::Array(x), Value::Array(y)) if x.len() == y.len() => {
            x.iter().zip(y).enumerate().for_each(|(k, (x, y))| unlike(x, y, &format!("{path}/{k}"), slack, found));
        }
        (Value::Object(x), Value::Object(_)) => x.iter().for_each(|(key, x)| unlike(x, &b[key], &format!("{path}/{key}"), slack, found)),
        _ if a == b => {}
        _ => found.push(format!("{path}: {a} and {b}")),
    }
}

fn numbers(values: &[f64], limits: [f64; 2], spec: &Value) -> Value {
    let frame = frame(&json!({ "gap": values }), &[("gap", Some(limits[0]), Some(limits[1]))]);
    serde_json::to_value(ask(&frame, spec).unwrap().outcome(&View::ALL).numbers).unwrap()
}

fn pick(numbers: &Value, pointers: &[&str]) -> Value {
    pointers.iter().map(|pointer| numbers.pointer(pointer).cloned().unwrap_or_else(|| panic!("no {pointer} in {numbers}"))).collect()
}

#[track_caller]
fn same(a: &Value, b: &Value, what: &str) {
    let mut found = Vec::new();
    unlike(a, b, "", 1e-7, &mut found);
    assert!(found.is_empty(), "{what}: {found:?}");
}

/// Thirty to sixty values with a spread.
fn values() -> impl Strategy<Value = Vec<f64>> {
    proptest::collection::vec(-50i32..50, 30..60)
        .prop_map(|steps| steps.iter().enumerate().map(|(i, step)| f64::from(*step) / 10.0 + f64::from(i as u32 % 3) / 7.0).collect())
}

fn measure(method: &str, options: Value) -> Value {
    json!({"method": method, "roles": {"measure": "gap"}, "options": options})
}

/// Numbers without a unit: they stay what they are on any scale.
const INDICES: [&str; 13] = [
    "/pp",
    "/ppk",
    "/ppl",
    "/ppu",
    "/cp",
    "/cpk",
    "/ppk_ci95",
    "/cp_ci95",
    "/ad_p",
    "/expected_overall/total",
    "/observed/total",
    "/steady",
    "/misfits",
];

/// Every pattern at its usual length.
fn all_patterns() -> Value {
    let names = acorn_charts::control_chart::Pattern::ALL.map(|pattern| pattern.name());
    names.iter().map(|name| json!({ "pattern": name })).collect()
}

proptest! {
    #![proptest_config(ProptestConfig { cases: 24, failure_persistence: None, ..ProptestConfig::default() })]

    #[test]
    fn another_unit_moves_limits_and_leaves_indices_and_signals(values in values(), scale in 1e-3..1e4f64, offset in -1e3..1e3f64) {
        let turned: Vec<f64> = values.iter().map(|x| offset + scale * x).collect();
        let limits = [-6.0, 7.0];
        let moved = limits.map(|x| offset + scale * x);
        let capability = measure("capability", json!({}));
        let (a, b) = (numbers(&values, limits, &capability), numbers(&turned, moved, &capability));
        same(&pick(&a, &INDICES), &pick(&b, &INDICES), "capability");
        for kind in ["individuals", "ewma", "cusum", "run"] {
            let chart = measure("control-chart", json!({"chart": kind}));
            let (a, b) = (numbers(&values, limits, &chart), numbers(&turned, moved, &chart));
            for (p, q) in a["panels"].as_array().unwrap().iter().zip(b["panels"].as_array().unwrap()) {
                prop_assert_eq!(&p["signals"], &q["signals"], "{} signals", kind);
                let centred = kind == "cusum" || p["name"] == "moving-range";
                for end in ["lcl", "center", "ucl"] {
                    let (from, to) = (&p["phases"][0][end], &q["phases"][0][end]);
                    if let (Some(from), Some(to)) = (from.as_f64(), to.as_f64()) {
                        let want = if centred { scale * from } else { offset + scale * from };
                        prop_assert!((to - want).abs() <= 1e-6 * (want.abs() + scale), "{} {} {}: {} instead of {}", kind, p["name"], end, to, want);
                    }
                }
            }
        }
    }

    #[test]
    fn values_turned_over_swap_the_sides(values in values()) {
        let turned: Vec<f64> = values.iter().map(|x| -x).collect();
        let capability = measure("capability", json!({}));
        let (a, b) = (numbers(&values, [-6.0, 7.0], &capability), numbers(&turned, [-7.0, 6.0], &capability));
        let sides = ["/ppl", "/ppu", "/expected_overall/below", "/expected_overall/above", "/observed/below", "/observed/above"];
        let swapped = ["/ppu", "/ppl", "/expected_overall/above", "/expected_overall/below", "/observed/above", "/observed/below"];
        same(&pick(&a, &sides), &pick(&b, &swapped), "sides");
        let chart = measure("control-chart", json!({"chart": "individuals", "patterns": all_patterns()}));
        let (a, b) = (numbers(&values, [-6.0, 7.0], &chart), numbers(&turned, [-7.0, 6.0], &chart));
        let found = |numbers: &Value, sign: i64| {
            let signals = numbers["panels"][0]["signals"].as_array().unwrap();
            let mut found: Vec<_> = signals
                .iter()
                .map(|s| (s["first"].as_u64(), s["last"].as_u64(), s["pattern"].to_string(), s["side"].as_i64().map(|side| side * sign)))
                .collect();
            found.sort();
            found
        };
        prop_assert_eq!(found(&a, 1), found(&b, -1));
    }

    #[test]
    fn order_matters_to_a_chart_and_to_nothing_long_term(values in values(), seed in 1usize..29) {
        let n = values.len();
        let turned: Vec<f64> = (0..n).map(|i| values[(i + seed) % n]).collect();
        let capability = measure("capability", json!({}));
        let (a, b) = (numbers(&values, [-6.0, 7.0], &capability), numbers(&turned, [-6.0, 7.0], &capability));
        let long = ["/pp", "/ppk", "/ppk_ci95", "/mean", "/sd_overall", "/n", "/ad_p", "/observed", "/expected_overall", "/bins"];
        same(&pick(&a, &long), &pick(&b, &long), "long-term");
        let look = measure("distribution", json!({}));
        let (a, b) = (numbers(&values, [-6.0, 7.0], &look), numbers(&turned, [-6.0, 7.0], &look));
        let shape = ["/groups/0/mean", "/groups/0/sd", "/groups/0/skewness", "/groups/0/ad_p", "/groups/0/median"];
        same(&pick(&a, &shape), &pick(&b, &shape), "shape");
    }

    #[test]
    fn missing_values_between_change_no_number_but_their_count(values in values()) {
        let gappy: Vec<Value> = values.iter().flat_map(|x| [json!(x), Value::Null]).collect();
        let limits = [("gap", Some(-6.0), Some(7.0))];
        for method in ["capability", "distribution", "sigma-level"] {
            let options = if method == "sigma-level" { json!({"from": "measurement"}) } else { json!({}) };
            let of = |values: Value| {
                let computed = ask(&frame(&json!({ "gap": values }), &limits), &measure(method, options.clone())).unwrap();
                serde_json::to_value(computed.outcome(&View::ALL).numbers).unwrap()
            };
            let (full, gaps) = (of(json!(values)), of(json!(gappy)));
            let long: &[&str] = match method {
                "capability" => &["/ppk", "/mean", "/sd_overall", "/n", "/observed"],
                "distribution" => &["/groups/0/mean", "/groups/0/sd", "/groups/0/ad_p"],
                _ => &["/normal/seen", "/normal/mean", "/normal/sd"],
            };
            same(&pick(&full, long), &pick(&gaps, long), method);
        }
    }

    #[test]
    fn frozen_limits_judge_as_the_limits_they_were_taken_from(values in values()) {
        let chart = |options: Value| numbers(&values, [-6.0, 7.0], &measure("control-chart", options));
        let own = chart(json!({"chart": "individuals"}));
        let (center, sigma) = (own["panels"][0]["phases"][0]["center"].as_f64(), own["sigma_within"].as_f64().filter(|sigma| *sigma > 0.0));
        prop_assume!(sigma.is_some());
        let known = chart(json!({"chart": "individuals", "limits": {"from": "known", "center": center, "sigma": sigma}}));
        for panel in 0..2 {
            let of = |numbers: &Value| pick(numbers, &[&format!("/panels/{panel}/phases/0/ucl"), &format!("/panels/{panel}/signals")]);
            same(&of(&own), &of(&known), "limits");
        }
    }

    #[test]
    fn a_share_and_its_complement_have_complementary_intervals(events in 0u32..60, more in 0u32..60) {
        let trials = events + more;
        prop_assume!(trials > 0);
        let of = |events: u32| {
            let spec = json!({"method": "proportion", "options": {"x": events, "n": trials}});
            serde_json::to_value(ask(&frame(&json!({}), &[]), &spec).unwrap().outcome(&View::ALL).numbers).unwrap()
        };
        let (a, b) = (of(events), of(more));
        let end = |numbers: &Value, k: usize| numbers["ci95"][k].as_f64().unwrap();
        prop_assert!((end(&a, 0) - (1.0 - end(&b, 1))).abs() < 1e-9 && (end(&a, 1) - (1.0 - end(&b, 0))).abs() < 1e-9, "{} {}", a, b);
    }
}
