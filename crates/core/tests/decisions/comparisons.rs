//! Groups that are alike, columns and labels that have nothing to do with each other.

use rand::RngExt;
use rand::distr::Distribution;
use rand_distr::Binomial;
use serde_json::{Value, json};

use super::{Asked, COUNTED, MEASURED, NORMAL, Random, Row, Shape, drawn, labels, numbers};

fn of(columns: Value, method: &str, roles: Value, options: Value) -> Asked {
    (columns, [None; 2], json!({"method": method, "roles": roles, "options": options}))
}

/// Groups of n values each.
fn groups(random: &mut Random, shape: Shape, n: usize, groups: usize, method: &str) -> Asked {
    let columns = json!({"x": shape.values(random, groups * n), "g": labels(groups * n, n, "g")});
    of(columns, method, json!({"measure": "x", "group": "g"}), json!({}))
}

/// n values four times as wide as twelve others.
fn small_and_wide(random: &mut Random, shape: Shape, n: usize) -> Asked {
    let mut x = shape.values(random, n + 12);
    x[..n].iter_mut().for_each(|value| *value *= 4.0);
    let g: Vec<&str> = (0..n + 12).map(|at| if at < n { "a" } else { "b" }).collect();
    of(json!({"x": x, "g": g}), "compare", json!({"measure": "x", "group": "g"}), json!({}))
}

fn looked_at(random: &mut Random, shape: Shape, n: usize) -> Asked {
    of(json!({"x": shape.values(random, n)}), "distribution", json!({"measure": "x"}), json!({}))
}

fn pair(random: &mut Random, shape: Shape, n: usize) -> Asked {
    let columns = json!({"x": shape.values(random, n), "y": shape.values(random, n)});
    of(columns, "relation", json!({"x": "x", "y": "y"}), json!({}))
}

/// Two columns and layers of `each` rows.
fn layered(random: &mut Random, shape: Shape, layers: usize, each: usize) -> Asked {
    let n = layers * each;
    let columns = json!({"x": shape.values(random, n), "y": shape.values(random, n), "g": labels(n, each, "g")});
    of(columns, "relation", json!({"x": "x", "y": "y", "group": "g"}), json!({}))
}

fn table(random: &mut Random, n: usize, rows: usize, columns: usize) -> Asked {
    let labels = json!({"a": drawn(random, n, columns, "a"), "b": drawn(random, n, rows, "b")});
    of(labels, "association", json!({"column": "a", "row": "b"}), json!({}))
}

fn eight(random: &mut Random, shape: Shape, n: usize) -> Asked {
    let columns: serde_json::Map<String, Value> = (0..8).map(|k| (format!("c{k}"), json!(shape.values(random, n)))).collect();
    let names: Vec<String> = columns.keys().cloned().collect();
    of(json!(columns), "matrix", json!({"measure": names}), json!({}))
}

/// Six columns of five labels, and what they are tried on.
fn screened(random: &mut Random, n: usize, measure: Value) -> Asked {
    let mut columns: serde_json::Map<String, Value> = (0..6).map(|k| (format!("c{k}"), json!(drawn(random, n, 5, "l")))).collect();
    columns.insert("result".to_owned(), measure);
    of(json!(columns), "screening", json!({"measure": "result"}), json!({}))
}

fn passed(random: &mut Random, n: usize) -> Value {
    json!((0..n).map(|_| if random.random_range(0.0..1.0) < 0.15 { "fail" } else { "pass" }).collect::<Vec<_>>())
}

/// Twelve lots of four positions, n values each.
fn lots(random: &mut Random, shape: Shape, n: usize) -> Asked {
    let rows = 12 * 4 * n;
    let position: Vec<String> = (0..rows).map(|at| format!("p{}", at / n % 4)).collect();
    let columns = json!({"x": shape.values(random, rows), "lot": labels(rows, 4 * n, "lot"), "position": position});
    of(columns, "multi-vari", json!({"measure": "x", "factors": ["lot", "position"]}), json!({}))
}

/// n defects of six kinds that are alike.
fn kinds(random: &mut Random, n: usize) -> Asked {
    of(json!({"kind": drawn(random, n, 6, "k")}), "pareto", json!({"category": "kind"}), json!({}))
}

/// The same in two weeks of as many pieces.
fn weeks(random: &mut Random, n: usize) -> Asked {
    let columns = json!({"kind": drawn(random, n, 6, "k"), "week": drawn(random, n, 2, "w")});
    let options = json!({"before": "w0", "after": "w1", "inspected_before": 5000, "inspected_after": 5000});
    of(columns, "pareto", json!({"category": "kind", "stage": "week"}), options)
}

fn bad(random: &mut Random, n: usize, share: f64) -> u64 {
    Binomial::new(n as u64, share).unwrap().sample(random)
}

pub fn rows() -> Vec<Row> {
    const SYMMETRIC: &[Shape] = &[Shape::Normal, Shape::HeavyTailed, Shape::Rounded];
    let row = Row::new;
    vec![
        row("three groups", [5, 20, 60], MEASURED, |random, shape, n| groups(random, shape, n, 3, "compare")).claims(&[
            "compare-differ",
            "compare-pairs-differ",
            "compare-outside-limits",
            "compare-spreads-differ",
            "compare-spreads-alone",
        ]),
        row("a small group, four times as wide", [3, 5, 10], NORMAL, small_and_wide).claims(&["compare-differ"]).beside("Few values in"),
        row("six groups of few", [2, 3, 5], NORMAL, |random, shape, n| groups(random, shape, n, 6, "compare")).claims(&["compare-differ"]),
        row("against a value", [5, 20, 60], SYMMETRIC, |random, shape, n| {
            of(json!({"x": shape.values(random, n)}), "compare", json!({"measure": "x"}), json!({"mean": 0}))
        })
        .claims(&["compare-mean-differs"]),
        row("row by row", [5, 20, 60], MEASURED, |random, shape, n| {
            let columns = json!({"x": shape.values(random, n), "y": shape.values(random, n)});
            of(columns, "compare", json!({"measure": ["x", "y"]}), json!({"test": "paired"}))
        })
        .claims(&["compare-mean-differs"]),
        row("three groups, looked at", [5, 20, 60], MEASURED, |random, shape, n| groups(random, shape, n, 3, "distribution"))
            .claims(&["distribution-differ", "distribution-spreads-differ"]),
        row("three groups, their shapes", [10, 30, 200], NORMAL, |random, shape, n| groups(random, shape, n, 3, "distribution"))
            .claims(&["distribution-not-normal"]),
        row("one column", [10, 30, 200], NORMAL, looked_at).claims(&["distribution-not-normal", "distribution-far-values"]),
        row("one column, its structure", [50, 200, 1000], MEASURED, looked_at).claims(&["distribution-structure"]),
        row("three by three", [30, 100, 400], COUNTED, |random, _, n| table(random, n, 3, 3)).claims(&["association-depends"]),
        row("ten by five", [60, 150, 600], COUNTED, |random, _, n| table(random, n, 10, 5))
            .claims(&["association-depends"])
            .made("association-cell", |of| numbers(of)["stands_out"].to_string().contains('1')),
        row("layers of three", [10, 20, 50], COUNTED, |random, _, n| {
            let columns = json!({"a": drawn(random, 3 * n, 3, "a"), "b": drawn(random, 3 * n, 3, "b"), "c": labels(3 * n, 3, "c")});
            of(columns, "association", json!({"column": "a", "row": "b", "layer": "c"}), json!({}))
        })
        .claims(&["association-within"]),
        row("two columns", [10, 20, 80], MEASURED, pair).claims(&["relation-together", "relation-curve"]),
        row("two columns, few rows", [8, 12, 20], NORMAL, pair).claims(&["relation-row-makes-fit"]),
        row("groups of two", [4, 8, 12], MEASURED, |random, shape, n| layered(random, shape, n, 2)).claims(&["relation-within"]),
        row("groups of ten", [2, 4, 10], MEASURED, |random, shape, n| layered(random, shape, n, 10)).claims(&["relation-within"]),
        row("eight columns", [15, 30, 100], MEASURED, eight).claims(&["matrix-together"]),
        row("a measurement and six columns", [30, 60, 200], MEASURED, |random, shape, n| {
            let values = shape.values(random, n);
            screened(random, n, json!(values))
        })
        .claims(&["screening-goes-with"]),
        row("pass and fail and six columns", [60, 120, 300], COUNTED, |random, _, n| {
            let result = passed(random, n);
            screened(random, n, result)
        })
        .claims(&["screening-goes-with", "screening-label"]),
        row("twelve lots of four positions", [3, 6, 12], MEASURED, lots).claims(&["multi-vari-stands-out", "multi-vari-same-everywhere"]),
        row("six kinds", [30, 100, 600], COUNTED, |random, _, n| kinds(random, n)).claims(&["pareto-unlike", "pareto-leads"]),
        row("six kinds in two weeks", [60, 200, 800], COUNTED, |random, _, n| weeks(random, n))
            .claims(&["pareto-changed"])
            .made("pareto-total-changed", |of| of.verdict.sentence.contains("Defects in all:")),
        row("5 % as claimed", [40, 200, 1000], COUNTED, |random, _, n| {
            let options = json!({"x": bad(random, n, 0.05), "n": n, "p0": 0.05});
            of(json!({"x": [0.0]}), "proportion", json!({}), options)
        })
        .claims(&["proportion-not-claimed"]),
        row("5 % twice", [40, 200, 1000], COUNTED, |random, _, n| {
            let options = json!({"x1": bad(random, n, 0.05), "n1": n, "x2": bad(random, n, 0.05), "n2": n});
            of(json!({"x": [0.0]}), "proportion", json!({}), options)
        })
        .claims(&["proportion-differ"]),
    ]
}
