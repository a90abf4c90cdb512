//! Numbers that were wrong once, each worked out a second way.

use acorn_maths::correlation::Fit;
use acorn_maths::equal_variance::brown_forsythe;
use acorn_maths::studentized_range::StudentizedRange;
use acorn_study::View;
use acorn_testing::{ask, frame};
use serde_json::{Value, json};

fn asked(method: &str, columns: Value, roles: Value) -> (String, Value) {
    let computed = ask(&frame(&columns, &[]), &json!({"method": method, "roles": roles, "options": {}})).unwrap();
    (computed.verdict.title.clone(), serde_json::to_value(computed.outcome(&View::ALL).numbers).unwrap())
}

fn compared(groups: &[&[f64]]) -> (String, Value) {
    let (mut x, mut g) = (Vec::new(), Vec::new());
    for (place, values) in groups.iter().enumerate() {
        x.extend_from_slice(values);
        g.extend(values.iter().map(|_| format!("g{place}")));
    }
    asked("compare", json!({"x": x, "g": g}), json!({"measure": "x", "group": "g"}))
}

fn near(found: &Value, want: f64, within: f64) {
    let found = found.as_f64().unwrap();
    assert!((found - want).abs() <= within * want.abs(), "{found} is not {want}");
}

/// By one-way analysis of variance; Welch has no weight for a group without spread.
#[test]
fn a_group_that_does_not_vary_differs_all_the_same() {
    let others = [-1.1, 0.4, 0.9, -0.3, 1.2, -0.6, 0.1, -0.8, 0.7, 0.2];
    let (title, of) = compared(&[&[10.0; 15], &others, &others.map(|value| -value)]);
    assert!(title == "They differ" && of["test"] != "welch", "{title} {}", of["test"]);
    // One value against four, by the pooled t: (9 − 2)/(0.81650 √1.25) = 7.668 on 3 df.
    let (title, of) = compared(&[&[9.0], &[1.0, 2.0, 3.0, 2.0]]);
    assert_eq!(title, "They differ");
    near(&of["anova"]["p"], 0.004_607, 2e-3);
}

/// Distances from the median are equal in a group of two: nothing is left to test with.
#[test]
fn groups_of_two_have_no_test_of_their_spreads() {
    assert_eq!(brown_forsythe(&[[0.1, 1.2], [0.7, 0.4], [2.3, 0.9]]), None);
    let flat = [[1.0, 2.0, 3.0], [11.0, 12.0, 13.0]];
    assert!(brown_forsythe(&flat).is_some_and(|test| test.p > 0.99));
}

/// By adaptive integration over ln χ² in 30 digits.
#[test]
fn few_degrees_of_freedom_keep_the_chance_of_a_large_range() {
    let (_, of) = compared(&[&[0.0, 1.0], &[3.0, 3.002], &[5.0, 5.006]]);
    let last = of["games_howell"].as_array().unwrap().last().unwrap().clone();
    near(&last["p"], 4.1e-4, 0.02);
    let (_, of) = compared(&[&[0.0, 1.0], &[5.0, 5.05], &[9.0, 9.2]]);
    let widest = of["games_howell"].as_array().unwrap().iter().map(|pair| {
        let end = |place: usize| pair["ci95"][place].as_f64().unwrap();
        0.5 * (end(1) - end(0))
    });
    assert!(widest.clone().any(|half| (half - 9.43).abs() < 0.01), "{:?}", widest.collect::<Vec<_>>());
    // Pearson and Hartley (1966), table 29: of 3 means, df 1, 26.98 at 5 %.
    assert!((StudentizedRange::of(3).upper(0.05, 1.0) - 26.98).abs() < 0.01);
}

/// Partial correlation given the groups as three dummies: t on 8 − 4 − 1 df.
#[test]
fn the_correlation_within_groups_is_tested_on_what_their_means_leave() {
    let columns = json!({
        "x": [1, 2, 5, 6, 9, 10, 3, 5], "y": [1.0, 3.0, 2.0, 1.0, 1.0, 3.5, 2.0, 5.0], "g": ["a", "a", "b", "b", "c", "c", "d", "d"],
    });
    let (_, of) = asked("relation", columns, json!({"x": "x", "y": "y", "group": "g"}));
    near(&of["within"]["p"], 0.1057, 1e-3);
}

/// x'(X'X)⁻¹x in fractions.
#[test]
fn a_parabola_is_unsure_in_a_gap() {
    let x = [0.0, 0.5, 1.0, 10.0, 10.5, 11.0];
    let fit = Fit::of(&x, &[0.0, 1.0, 0.0, 2.0, 1.0, 2.0], 2).unwrap();
    assert!((fit.leverage(5.5) - 6.495_004_163_197).abs() < 1e-9, "{}", fit.leverage(5.5));
}

/// Three rows of three kinds: whatever is drawn with these totals has the same χ², so nothing can be shown.
#[test]
fn layers_of_three_show_nothing_together() {
    let labels = |name: &str| (0..120).map(|at| format!("{name}{}", at % 3)).collect::<Vec<_>>();
    let layers: Vec<String> = (0..120).map(|at| format!("c{}", at / 3)).collect();
    let columns = json!({"a": labels("a"), "b": labels("b"), "c": layers});
    let (_, of) = asked("association", columns, json!({"column": "a", "row": "b", "layer": "c"}));
    near(&of["within"]["chi2"], 240.0, 1e-12);
    assert_eq!((&of["within"]["df"], &of["within"]["p"]), (&json!(160), &json!(1.0)));
}

/// By hand: what is left of a crossed factor has (H − 1)(c − 1) degrees of freedom and the mean square of the interaction.
#[test]
fn what_a_crossed_factor_leaves_is_the_interaction() {
    let mut random = 7_u64;
    let mut noise = || {
        random = random.wrapping_mul(6_364_136_223_846_793_005).wrapping_add(1_442_695_040_888_963_407);
        (random >> 40) as f64 / f64::from(1 << 24)
    };
    let (parents, labels, each) = (3, 4, 5);
    let both: Vec<f64> = (0..parents * labels).map(|_| 2.0 * noise()).collect();
    let rows = parents * labels * each;
    let cell = |row: usize| row / each;
    let x: Vec<f64> = (0..rows).map(|row| 10.0 * (cell(row) % labels) as f64 + both[cell(row)] + noise()).collect();
    let mean = |rows: &[usize]| rows.iter().map(|&row| x[row]).sum::<f64>() / rows.len() as f64;
    let of = |keep: &dyn Fn(usize) -> bool| mean(&(0..rows).filter(|&row| keep(cell(row))).collect::<Vec<_>>());
    let grand = of(&|_| true);
    let (mut interaction, mut within) = (0.0, 0.0);
    for at in 0..parents * labels {
        let own = of(&|cell| cell == at);
        let apart = own - of(&|cell| cell / labels == at / labels) - of(&|cell| cell % labels == at % labels) + grand;
        interaction += each as f64 * apart * apart;
        within += (0..rows).filter(|&row| cell(row) == at).map(|row| (x[row] - own).powi(2)).sum::<f64>();
    }
    let square = interaction / ((parents - 1) * (labels - 1)) as f64;
    let want = (square - within / (rows - parents * labels) as f64) / each as f64;
    let columns = json!({
        "x": x,
        "mould": (0..rows).map(|row| format!("m{}", cell(row) / labels)).collect::<Vec<_>>(),
        "gate": (0..rows).map(|row| format!("g{}", cell(row) % labels)).collect::<Vec<_>>(),
    });
    let (_, of) = asked("multi-vari", columns, json!({"measure": "x", "factors": ["mould", "gate"]}));
    near(&of["without"]["families"][1]["variance"], want, 1e-9);
}
