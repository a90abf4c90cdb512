//! Several streams in one column, or side by side.

use rand::RngExt;
use serde_json::{Map, Value, json};

use super::{Asked, Process, Random, Right, chart, normal, read};

fn labels(n: usize, of: impl Fn(usize) -> String) -> Vec<String> {
    (0..n).map(of).collect()
}

/// Two groups six sds apart, in no order.
fn two_groups(random: &mut Random) -> (Vec<f64>, Vec<String>) {
    let lines: Vec<usize> = (0..200).map(|_| random.random_range(0..2)).collect();
    let x = normal(random, 200).into_iter().zip(&lines).map(|(value, line)| value + 6.0 * *line as f64);
    (read(x, 2), lines.iter().map(|line| format!("L{line}")).collect())
}

pub fn all() -> Vec<Process> {
    let mut all = Vec::new();
    for (name, with_label) in [("two cavities by turns, 4 sd apart, with their column", true), ("the same without the column", false)] {
        all.push(Process::new(name, Right::Titles(&["Streams alternate"]), 0.95, move |random| {
            let x = normal(random, 100).into_iter().enumerate().map(|(at, value)| value + 4.0 * (at % 2) as f64);
            let mut columns = Map::from_iter([("x".to_owned(), json!(read(x, 2)))]);
            if with_label {
                columns.insert("cavity".into(), json!(labels(100, |at| format!("C{}", at % 2 + 1))));
            }
            Asked::of(Value::Object(columns), chart(json!({})))
        }));
    }
    for apart in [4.0, 10.0] {
        let name = format!("four cavities side by side, each {apart} sd above the other, as proposed");
        all.push(Process::new(name, Right::Titles(&["Streams mixed"]), 0.95, move |random| {
            let column = |k: usize, random: &mut Random| {
                read(normal(random, 40).into_iter().map(|value| 10.0 + 0.1 * (value + apart * k as f64)), 2)
            };
            let columns: Map<String, Value> = (0..4).map(|k| (format!("cavity {}", k + 1), json!(column(k, random)))).collect();
            Asked::proposed(Value::Object(columns), "control-chart")
        }));
    }
    all.push(Process::new("four heads in each subgroup, 3 sd apart", Right::Titles(&["Streams mixed"]), 0.95, |random| {
        let x = normal(random, 160).into_iter().enumerate().map(|(at, value)| value + 3.0 * (at % 4) as f64);
        let columns =
            json!({"x": read(x, 2), "s": (0..160).map(|at| at / 4).collect::<Vec<_>>(), "head": labels(160, |at| format!("H{}", at % 4))});
        Asked::of(columns, json!({"method": "control-chart", "roles": {"measure": "x", "subgroup": "s"}, "options": {"chart": "xbar-r"}}))
    }));
    for method in ["control-chart", "capability", "distribution"] {
        let titles = Right::Titles(&["Streams mixed", "Two groups"]);
        all.push(Process::new(format!("two lines 6 sd apart, mixed, {method}"), titles, 0.95, move |random| {
            let (x, lines) = two_groups(random);
            Asked::of(json!({"x": x, "line": lines}), json!({"method": method, "roles": {"measure": "x"}, "options": {}}))
                .within(-20.0, 26.0)
        }));
        let titles = Right::Titles(&["Two groups"]);
        all.push(Process::new(format!("two groups 6 sd apart, no column tells them, {method}"), titles, 0.95, move |random| {
            let (x, _) = two_groups(random);
            Asked::of(json!({ "x": x }), json!({"method": method, "roles": {"measure": "x"}, "options": {}})).within(-20.0, 26.0)
        }));
    }
    for method in ["control-chart", "capability", "distribution"] {
        let name = format!("read in steps of two sds, 500 values, {method}");
        all.push(Process::new(name, Right::Titles(&["Too coarse"]), 0.95, move |random| {
            let x = read(normal(random, 500).into_iter().map(|value| 10.02 + 0.05 * value), 1);
            Asked::of(json!({ "x": x }), json!({"method": method, "roles": {"measure": "x"}, "options": {}})).within(9.0, 11.0)
        }));
    }
    all
}
