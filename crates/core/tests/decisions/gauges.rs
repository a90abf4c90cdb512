//! Gauges that read right, and operators who read alike.

use rand::RngExt;
use serde_json::json;

use super::{Asked, COUNTED, MEASURED, NORMAL, Random, Row, Shape, numbers};

const WHO: [&str; 3] = ["Ida", "Jonas", "Mei"];

/// A crossed study of n parts, three operators and three trials; `uneven` loses a sixth of the readings.
fn crossed(random: &mut Random, shape: Shape, n: usize, interaction: f64, uneven: bool) -> Asked {
    let (parts, both) = (Shape::Normal.values(random, n), Shape::Normal.values(random, 3 * n));
    let (mut part, mut operator, mut x) = (Vec::new(), Vec::new(), Vec::new());
    for at in 0..n * 9 {
        let (p, o) = (at / 9, at / 3 % 3);
        let reading = 5.0 * parts[p] + interaction * both[3 * p + o] + shape.one(random);
        // The first reading of each cell stays.
        if uneven && at % 3 > 0 && random.random_range(0..4) == 0 {
            continue;
        }
        part.push(format!("{p}"));
        operator.push(WHO[o]);
        x.push(reading);
    }
    let roles = json!({"measure": "x", "part": "part", "operator": "operator"});
    (json!({"x": x, "part": part, "operator": operator}), [None; 2], json!({"method": "gauge-crossed", "roles": roles, "options": {}}))
}

/// Each operator has n parts of their own, read twice.
fn nested(random: &mut Random, shape: Shape, n: usize) -> Asked {
    let parts = Shape::Normal.values(random, 3 * n);
    let (mut part, mut operator, mut x) = (Vec::new(), Vec::new(), Vec::new());
    for at in 0..6 * n {
        part.push(format!("{}", at / 2));
        operator.push(WHO[at / 2 / n]);
        x.push(2.0 * parts[at / 2] + shape.one(random));
    }
    let roles = json!({"measure": "x", "part": "part", "operator": "operator"});
    (json!({"x": x, "part": part, "operator": operator}), [None; 2], json!({"method": "gauge-nested", "roles": roles, "options": {}}))
}

fn single(random: &mut Random, shape: Shape, n: usize) -> Asked {
    let x: Vec<f64> = shape.values(random, n).iter().map(|value| 10.0 + 0.05 * value).collect();
    let options = json!({"reference": 10});
    (json!({"x": x}), [Some(9.0), Some(11.0)], json!({"method": "gauge-single", "roles": {"measure": "x"}, "options": options}))
}

/// Five masters read n times each.
fn masters(random: &mut Random, shape: Shape, n: usize) -> Asked {
    let (mut part, mut known, mut x) = (Vec::new(), Vec::new(), Vec::new());
    for at in 0..5 * n {
        part.push(format!("{}", at / n));
        known.push(2.0 + 2.0 * (at / n) as f64);
        x.push(2.0 + 2.0 * (at / n) as f64 + 0.1 * shape.one(random));
    }
    let roles = json!({"measure": "x", "part": "part", "reference": "known"});
    (json!({"x": x, "part": part, "known": known}), [None; 2], json!({"method": "gauge-linearity", "roles": roles, "options": {}}))
}

/// Three inspectors look three times at n pieces, half of them bad; a bad one is missed in 2 % of the looks, a few hard ones in all of that.
fn judged(random: &mut Random, n: usize) -> Asked {
    let (mut rating, mut part, mut operator, mut known) = (Vec::new(), Vec::new(), Vec::new(), Vec::new());
    for piece in 0..n {
        let is_bad = piece % 2 == 0;
        let hard = random.random_range(0.0..1.0) < 0.1;
        for name in WHO {
            for _ in 0..3 {
                let slips = random.random_range(0.0..1.0)
                    < if !is_bad {
                        0.02
                    } else if hard {
                        0.2
                    } else {
                        0.0
                    };
                rating.push(if is_bad != slips { "fail" } else { "pass" });
                part.push(format!("P{piece}"));
                operator.push(name);
                known.push(if is_bad { "fail" } else { "pass" });
            }
        }
    }
    let roles = json!({"rating": "rating", "part": "part", "operator": "operator", "reference": "known"});
    let columns = json!({"rating": rating, "part": part, "operator": operator, "known": known});
    (columns, [None; 2], json!({"method": "gauge-attribute", "roles": roles, "options": {"bad": "fail"}}))
}

/// The decision on operators stands in their numbers: a verdict names only one.
fn flagged(of: &acorn_core::methods::Computed, flag: &str) -> bool {
    numbers(of)["operators"].as_array().unwrap().iter().any(|one| one[flag] == true)
}

pub fn rows() -> Vec<Row> {
    const SYMMETRIC: &[Shape] = &[Shape::Normal, Shape::HeavyTailed, Shape::Rounded];
    const SIZES: [usize; 3] = [5, 10, 20];
    let row = Row::new;
    let off = |row: Row| row.made("gauge-reads-off", |of| flagged(of, "off"));
    let both = |row: Row| off(row).made("gauge-inconsistent", |of| flagged(of, "inconsistent"));
    vec![
        both(row("crossed", SIZES, NORMAL, |random, shape, n| crossed(random, shape, n, 0.0, false)))
            .claims(&["gauge-interaction", "gauge-odd-reading"]),
        row("crossed, not normal", SIZES, &MEASURED[1..], |random, shape, n| crossed(random, shape, n, 0.0, false))
            .made("gauge-inconsistent", |of| flagged(of, "inconsistent"))
            .beside("if their errors are near normal")
            .claims(&["gauge-interaction"]),
        off(row("crossed, operators read parts differently", SIZES, NORMAL, |random, shape, n| crossed(random, shape, n, 2.0, false))),
        both(row("crossed, readings missing", SIZES, NORMAL, |random, shape, n| crossed(random, shape, n, 0.0, true)))
            .claims(&["gauge-interaction"]),
        off(row("crossed, readings missing, operators read parts differently", SIZES, NORMAL, |random, shape, n| {
            crossed(random, shape, n, 2.0, true)
        })),
        off(row("nested", SIZES, NORMAL, nested)),
        row("nested, any shape", SIZES, MEASURED, nested)
            .made("gauge-inconsistent", |of| flagged(of, "inconsistent"))
            .beside("if their errors are near normal"),
        row("one piece", [10, 25, 50], SYMMETRIC, single).claims(&["gauge-bias"]),
        row("five masters", [3, 5, 10], SYMMETRIC, masters).claims(&["linearity-not-right"]),
        row("2 % missed, by a few hard pieces", [20, 30, 60], COUNTED, |random, _, n| judged(random, n)).claims(&["attribute-misses"]),
    ]
}
