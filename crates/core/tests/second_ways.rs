//! Numbers against a second way to work them out, where no published case covers them.

use acorn_maths::shapes::{Family, fit};
use acorn_maths::sorting::Sorted;
use acorn_study::View;
use acorn_testing::{ask, frame};
use rand::SeedableRng;
use rand::distr::Distribution;
use rand_distr::{Exp1, StandardNormal};
use rand_xoshiro::Xoshiro256PlusPlus;
use serde_json::{Value, json};

fn normals(seed: u64, n: usize) -> Vec<f64> {
    StandardNormal.sample_iter(Xoshiro256PlusPlus::seed_from_u64(seed)).take(n).collect()
}

fn exponentials(seed: u64, n: usize) -> Vec<f64> {
    Exp1.sample_iter(Xoshiro256PlusPlus::seed_from_u64(seed)).take(n).collect()
}

fn outcome(columns: Value, limits: [Option<f64>; 2], spec: Value) -> Value {
    let frame = frame(&columns, &[("gap", limits[0], limits[1])]);
    serde_json::to_value(ask(&frame, &spec).unwrap().outcome(&View::ALL)).unwrap()
}

fn measured(method: &str, values: &[f64], limits: [Option<f64>; 2], options: Value) -> Value {
    outcome(json!({ "gap": values }), limits, json!({"method": method, "roles": {"measure": "gap"}, "options": options}))
}

fn notes(outcome: &Value) -> String {
    let of = |note: &Value| format!("{} {}", note["sentence"].as_str().unwrap_or(""), note["detail"].as_str().unwrap_or(""));
    outcome["notes"].as_array().unwrap().iter().map(of).collect::<Vec<_>>().join("\n")
}

/// ln L of a lognormal above a threshold at its likeliest mean and sd of the logarithms, by the definition.
fn lognormal_above(values: &[f64], threshold: f64) -> f64 {
    let n = values.len() as f64;
    let logs: Vec<f64> = values.iter().map(|x| (x - threshold).ln()).collect();
    let mean = logs.iter().sum::<f64>() / n;
    let variance = logs.iter().map(|x| (x - mean) * (x - mean)).sum::<f64>() / n;
    -logs.iter().sum::<f64>() - 0.5 * n * ((2.0 * std::f64::consts::PI * variance).ln() + 1.0)
}

#[test]
fn a_threshold_is_the_likeliest_for_all_values_however_near_to_the_smallest() {
    // Logarithms that spread by 2.2: the likeliest threshold lies some 1e-5 of the range below the smallest value.
    for (spread, n) in [(2.2, 60), (0.4, 60), (0.4, 5000), (1.0, 5000)] {
        let values: Vec<f64> = normals(11, n).iter().map(|z| 10.0 + (spread * z).exp()).collect();
        let sorted = Sorted::of(&values);
        let found = fit(Family::LognormalThreshold, &sorted).unwrap();
        let height = lognormal_above(&values, found.threshold);
        let room = sorted[n - 1] - sorted[0];
        let best = (0..4000)
            .map(|k| sorted[0] - room * (-16.0 + 20.0 * f64::from(k) / 4000.0).exp())
            .filter(|threshold| found.threshold < sorted[0] && sorted[0] - threshold > 0.2 * (sorted[0] - found.threshold))
            .map(|threshold| lognormal_above(&values, threshold))
            .fold(f64::NEG_INFINITY, f64::max);
        assert!(height >= best - 1e-6, "{spread}, {n}: {height} at {}, {best} elsewhere", found.threshold);
    }
}

#[test]
fn a_normal_far_beyond_its_limits_has_its_level_to_the_end() {
    let level = |lsl: Value, usl: f64| {
        let options = json!({"from": "normal", "mean": 0, "sd": 1, "lsl": lsl, "usl": usl, "shift": 0});
        let frame = frame(&json!({"gap": [0.0]}), &[]);
        let computed = ask(&frame, &json!({"method": "sigma-level", "options": options})).unwrap();
        serde_json::to_value(computed.outcome(&View::ALL)).unwrap()
    };
    // By mpmath with 60 digits: the z of Φ(-z) = Φ(lsl) + Φ(-usl).
    for (lsl, usl, z) in [
        (json!(-40), 40.0, 39.982_678_384_861_63),
        (json!(-40), 45.0, 40.0),
        (Value::Null, -9.0, -9.0),
        (json!(9), 11.0, -9.000_000_000_185_866),
        (json!(3), 4.0, -3.007_224_062_735_619),
    ] {
        let found = level(lsl.clone(), usl);
        let got = found["numbers"]["z"].as_f64().unwrap();
        assert!((got / z - 1.0).abs() < 1e-12, "{lsl} to {usl}: {got}");
        assert!(!found["verdict"]["title"].as_str().unwrap().contains("No defect"), "{found}");
    }
}

#[test]
fn percentiles_of_the_values_give_no_number_of_values_that_would_be_enough() {
    let values = normals(3, 200);
    let of = |shape: &str| measured("capability", &values, [Some(-4.0), Some(4.0)], json!({"shape": shape}));
    assert_eq!(of("percentile")["numbers"]["need"], Value::Null);
    assert!(of("normal")["numbers"]["need"]["n"].is_u64());
}

#[test]
fn as_many_values_lie_far_out_as_of_a_normal() {
    // Means of 400,000 simulated samples, by NumPy: 0.398 of 10, 0.676 of 50, 1.016 of 100 beyond the whiskers.
    let mut far = normals(5, 10);
    far.extend([40.0, 50.0]);
    let said = notes(&measured("distribution", &far, [None; 2], json!({})));
    assert!(said.contains("Normal values would have about 0.41."), "{said}");
}

#[test]
fn a_spread_is_said_to_drift_or_to_mix_only_where_the_order_bears_it_out() {
    let said = |values: &[f64]| notes(&measured("capability", values, [Some(-9.0), Some(9.0)], json!({})));
    let drifts = |values: &[f64]| said(values).contains("something drifts");
    let steady = |draw: fn(u64, usize) -> Vec<f64>| (0..300).filter(|seed| drifts(&draw(*seed, 20))).count();
    // One in a hundred by chance; 20 % of the normal and half of the lopsided ones were called so by the ratio alone.
    assert!(steady(normals) <= 9 && steady(exponentials) <= 9, "{} {}", steady(normals), steady(exponentials));
    let drifting: Vec<f64> = normals(1, 60).iter().enumerate().map(|(i, z)| z + i as f64 / 12.0).collect();
    let mixed: Vec<f64> = normals(1, 60).iter().enumerate().map(|(i, z)| 0.3 * z + 3.0 * (i % 2) as f64).collect();
    assert!(drifts(&drifting));
    assert!(said(&mixed).contains("Every second value comes from the same stream"), "{}", said(&mixed));
}

#[test]
fn limits_that_most_of_the_newest_values_pass_are_stale_even_where_their_mean_stayed() {
    let defects: Vec<f64> = (0..80).map(|i| if i < 40 { 20.0 + f64::from(i % 5) } else { f64::from(i % 2) * 44.0 }).collect();
    let options = json!({"chart": "c", "limits": {"from": "baseline", "first": 0, "last": 39}});
    let found =
        outcome(json!({ "bad": defects }), [None; 2], json!({"method": "control-chart", "roles": {"count": "bad"}, "options": options}));
    let fresh = &found["numbers"]["freshness"];
    assert_eq!((&fresh["beyond"], &fresh["stale"]), (&json!(40), &json!(true)), "{fresh}");
    assert!(notes(&found).contains("the newest 40 subgroups keep their centre, but 40 of 40 lie beyond the limits"), "{}", notes(&found));
}

#[test]
fn a_chart_of_few_defectives_cries_wolf_as_often_as_its_counts_do() {
    // 20 inspected, 6 % bad, the usual four patterns: one in 70.5 by a direct simulation of four million samples
    // that starts afresh after each signal; a normal would have 119.
    let bad = [2, 0, 1, 3, 0, 1, 2, 1, 0, 2, 1, 1, 0, 3, 1, 2, 0, 1, 2, 1];
    assert_eq!(bad.iter().sum::<i32>(), 24);
    let columns = json!({ "bad": bad, "looked": vec![20; 20] });
    let found = outcome(
        columns,
        [None; 2],
        json!({"method": "control-chart", "roles": {"count": "bad", "size": "looked"}, "options": {"chart": "np"}}),
    );
    let between = found["numbers"]["false_alarm"]["points_between"].as_f64().unwrap();
    assert!((between / 70.5 - 1.0).abs() < 0.04, "{between}");
}

#[test]
fn a_sum_of_subgroups_keeps_its_limits_where_one_subgroup_is_empty() {
    let values: Vec<Value> =
        normals(2, 60).iter().enumerate().map(|(i, z)| if (24..27).contains(&i) { Value::Null } else { json!(z) }).collect();
    let hours: Vec<String> = (0..60).map(|i| format!("h{}", i / 3)).collect();
    let spec = json!({"method": "control-chart", "roles": {"measure": "gap", "subgroup": "hour"}, "options": {"chart": "cusum"}});
    let found = outcome(json!({"gap": values, "hour": hours}), [None; 2], spec);
    let points = found["numbers"]["panels"][0]["points"].as_array().unwrap();
    // h = 5 process sds over the root of three values, the same at every point that has a value.
    let sigma = found["numbers"]["sigma_within"].as_f64().unwrap();
    let limits: Vec<f64> = points.iter().filter_map(|point| point["ucl"].as_f64()).collect();
    let single = found["numbers"]["panels"][0]["phases"][0]["ucl"].as_f64();
    let all = if limits.is_empty() { vec![single.unwrap()] } else { limits };
    assert!(
        all.iter().all(|ucl| (ucl / (5.0 * sigma / 3_f64.sqrt()) - 1.0).abs() < 1e-9 || (ucl / (5.0 * sigma) - 1.0).abs() < 1e-9),
        "{all:?} {sigma}"
    );
}

#[test]
fn the_newest_values_are_counted_without_those_that_are_missing() {
    let mut values: Vec<Value> = normals(4, 70).iter().map(|z| json!(z)).collect();
    (45..55).for_each(|i| values[i] = Value::Null);
    let options = json!({"chart": "individuals", "limits": {"from": "baseline", "first": 0, "last": 39}});
    let found =
        outcome(json!({ "gap": values }), [None; 2], json!({"method": "control-chart", "roles": {"measure": "gap"}, "options": options}));
    assert!(notes(&found).contains("The newest 20 values still fit the limits."), "{}", notes(&found));
}

#[test]
fn where_every_shape_is_refuted_none_is_said_to_meet_the_limits() {
    let humps: Vec<f64> =
        normals(6, 300).iter().enumerate().map(|(i, z)| 20.0 + 0.5 * z + if i * 7 % 10 < 4 { 6.0 } else { 0.0 }).collect();
    let found = measured("capability", &humps, [Some(-20.0), Some(66.0)], json!({"shape": "best-fit"}));
    let shapes = found["numbers"]["shapes"].as_array().unwrap();
    assert!(shapes.iter().filter(|shape| !shape["p"].is_null()).all(|shape| shape["p"].as_f64().unwrap() < 0.05), "{shapes:?}");
    assert_eq!(found["numbers"]["misfits"], true);
    assert_eq!((&found["verdict"]["title"], &found["verdict"]["tone"]), (&json!("Two groups"), &json!("caution")), "{}", found["verdict"]);
}
