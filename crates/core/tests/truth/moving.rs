//! Processes that move, and what moves them.

use rand::distr::Distribution;
use rand_distr::{Binomial, StandardNormal};
use serde_json::json;

use super::{Asked, Process, Random, Right, chart, normal, read};

const MOVED: Right = Right::Titles(&["Not steady"]);

fn moved(name: &str, least: f64, change: impl Fn(usize) -> f64 + Sync + 'static) -> Process {
    Process::new(name, MOVED, least, move |random| {
        let values: Vec<f64> = normal(random, 100).iter().enumerate().map(|(at, value)| value + change(at)).collect();
        Asked::of(json!({ "x": values }), chart(json!({})))
    })
}

/// Values each of which keeps a share of the one before.
fn following(random: &mut Random, n: usize, share: f64) -> Vec<f64> {
    let mut last = 0.0;
    let mut next = || {
        let step: f64 = StandardNormal.sample(random);
        last = share * last + step;
        last
    };
    (0..n + 100).map(|_| next()).skip(100).collect()
}

/// Eight tools of 25 pieces, each rising by 0.48 in noise of 0.05.
fn worn(random: &mut Random) -> serde_json::Value {
    let x = normal(random, 200).into_iter().enumerate().map(|(at, value)| 10.0 + 0.02 * (at % 25) as f64 + 0.05 * value);
    let tools: Vec<String> = (0..200).map(|at| format!("T{}", at / 25 + 1)).collect();
    json!({"x": read(x, 3), "tool": tools})
}

pub fn all() -> Vec<Process> {
    let mut all = vec![
        moved("shift of 1.5 sd over the last 40 of 100", 0.85, |at| if at < 60 { 0.0 } else { 1.5 }),
        moved("shift of 3 sd over the last 20 of 100", 0.97, |at| if at < 80 { 0.0 } else { 3.0 }),
        moved("20 values in the middle of 100 higher by 3 sd", 0.95, |at| if (40..60).contains(&at) { 3.0 } else { 0.0 }),
        moved("drift of 3 sd over 100", 0.90, |at| 3.0 * at as f64 / 99.0),
        moved("one value 8 sd away of 100", 0.95, |at| if at == 30 { 8.0 } else { 0.0 }),
    ];
    for (share, name) in [(0.8, "each value keeps 0.8 of the one before, 200 values"), (0.6, "each value keeps 0.6 of it, 200 values")] {
        all.push(Process::new(name, Right::Titles(&["Autocorrelated"]), 0.9, move |random| {
            Asked::of(json!({"x": read(following(random, 200, share), 2)}), chart(json!({})))
        }));
    }
    all.push(Process::new("a cycle of 24 values, height 2 sd, 200 values", Right::Titles(&["Cycles"]), 0.95, |random| {
        let wave = |at: usize| 2.0 * (std::f64::consts::TAU * at as f64 / 24.0).sin();
        let x = normal(random, 200).into_iter().enumerate().map(|(at, value)| value + wave(at));
        Asked::of(json!({"x": read(x, 2)}), chart(json!({})))
    }));
    all.push(Process::new("tool wear, one value at a time", Right::Titles(&["Rises within each tool"]), 0.95, |random| {
        Asked::of(worn(random), chart(json!({})))
    }));
    all.push(Process::new("tool wear, subgroups by tool, capability", Right::Titles(&["Rises within each tool"]), 0.95, |random| {
        let spec = json!({"method": "capability", "roles": {"measure": "x", "subgroup": "tool"}, "options": {}});
        Asked::of(worn(random), spec).within(9.0, 12.0)
    }));
    for method in ["control-chart", "capability"] {
        all.push(Process::new(format!("batches differ by 3 sd, {method}"), Right::Titles(&["Batches differ"]), 0.9, move |random| {
            let batches = normal(random, 30);
            let x = normal(random, 150).into_iter().enumerate().map(|(at, value)| value + 3.0 * batches[at / 5]);
            let columns = json!({"x": read(x, 2), "batch": (0..150).map(|at| format!("B{}", at / 5 + 1)).collect::<Vec<_>>()});
            let asked = json!({"method": method, "roles": {"measure": "x", "subgroup": "batch"},
                "options": if method == "capability" { json!({}) } else { json!({"chart": "xbar-r"}) }});
            Asked::of(columns, asked).within(-15.0, 15.0)
        }));
    }
    all.push(Process::new("share of defectives from 2 to 5 %, as proposed", MOVED, 0.95, |random| {
        let bad = |at: usize, random: &mut Random| Binomial::new(500, if at < 40 { 0.02 } else { 0.05 }).unwrap().sample(random);
        let counts: Vec<u64> = (0..60).map(|at| bad(at, random)).collect();
        let sizes: Vec<usize> = (0..60).map(|at| 490 + at * 7 % 20).collect();
        Asked::proposed(json!({"bad": counts, "inspected": sizes}), "control-chart")
    }));
    all
}
