//! Steady processes, and phases, parts and shapes that are alike.

use rand::RngExt;
use rand::distr::Distribution;
use rand_distr::{Binomial, Poisson};
use serde_json::{Value, json};

use super::{Asked, COUNTED, MEASURED, NORMAL, Random, Row, Shape, labels, numbers};

fn of(columns: Value, roles: Value, options: Value) -> Asked {
    (columns, [None; 2], json!({"method": "control-chart", "roles": roles, "options": options}))
}

fn single(random: &mut Random, shape: Shape, n: usize, options: Value) -> Asked {
    of(json!({"x": shape.values(random, n)}), json!({"measure": "x"}), options)
}

/// Subgroups of four.
fn grouped(random: &mut Random, shape: Shape, n: usize, options: Value) -> Asked {
    of(json!({"x": shape.values(random, 4 * n), "s": labels(4 * n, 4, "s")}), json!({"measure": "x", "subgroup": "s"}), options)
}

fn poisson(random: &mut Random, mean: f64) -> f64 {
    Poisson::new(mean).unwrap().sample(random)
}

/// Defectives of lots of one size, or of 40 to 400.
fn lots(random: &mut Random, n: usize, share: f64, unlike: bool, options: Value) -> Asked {
    let sizes: Vec<u64> = (0..n).map(|_| if unlike { random.random_range(40..400) } else { 150 }).collect();
    let bad: Vec<u64> = sizes.iter().map(|&size| Binomial::new(size, share).unwrap().sample(random)).collect();
    of(json!({"x": bad, "n": sizes}), json!({"count": "x", "size": "n"}), options)
}

/// Defects of units of unlike size.
fn units(random: &mut Random, n: usize, options: Value) -> Asked {
    let sizes: Vec<f64> = (0..n).map(|_| random.random_range(2..30_u32).into()).collect();
    let bad: Vec<f64> = sizes.iter().map(|size| poisson(random, 0.6 * size)).collect();
    of(json!({"x": bad, "n": sizes}), json!({"count": "x", "size": "n"}), options)
}

fn defects(random: &mut Random, n: usize, mean: f64, options: Value) -> Asked {
    let counts: Vec<f64> = (0..n).map(|_| poisson(random, mean)).collect();
    of(json!({"x": counts}), json!({"count": "x"}), options)
}

/// Times between events.
fn times(random: &mut Random, n: usize) -> Asked {
    let times: Vec<f64> = Shape::Exponential.values(random, n).iter().map(|time| time.max(1e-4)).collect();
    of(json!({"x": times}), json!({"measure": "x"}), json!({"chart": "t"}))
}

/// Good pieces between bad ones.
fn gaps(random: &mut Random, n: usize) -> Asked {
    let between: Vec<f64> = (0..n).map(|_| (random.random_range(0.0..1.0_f64).ln() / 0.98_f64.ln()).floor()).collect();
    of(json!({"x": between}), json!({"measure": "x"}), json!({"chart": "g"}))
}

/// Two phases of n values.
fn phases(random: &mut Random, shape: Shape, n: usize) -> Asked {
    of(json!({"x": shape.values(random, 2 * n), "phase": labels(2 * n, n, "p")}), json!({"measure": "x", "phase": "phase"}), json!({}))
}

/// Three parts by turns, each about a size of its own.
fn parts(random: &mut Random, shape: Shape, n: usize) -> Asked {
    let x: Vec<f64> = shape.values(random, 3 * n).iter().enumerate().map(|(at, value)| value + 40.0 * (at % 3) as f64).collect();
    let part: Vec<&str> = (0..3 * n).map(|at| ["A", "B", "C"][at % 3]).collect();
    let options = json!({"chart": "deviation", "targets": {"A": 0.0, "B": 40.0, "C": 80.0}});
    of(json!({"x": x, "part": part}), json!({"measure": "x", "part": "part"}), options)
}

/// Limits from the first n values, 40 more after them.
fn baseline(n: usize, mut options: Value) -> Value {
    options["limits"] = json!({"from": "baseline", "first": 0, "last": n - 1});
    options
}

fn within(random: &mut Random, shape: Shape, n: usize, method: &str, limits: [Option<f64>; 2]) -> Asked {
    (json!({"x": shape.values(random, n)}), limits, json!({"method": method, "roles": {"measure": "x"}, "options": {}}))
}

/// Six columns of one table.
fn table(random: &mut Random, shape: Shape, n: usize) -> Asked {
    let columns: serde_json::Map<String, Value> = (0..6).map(|k| (format!("c{k}"), json!(shape.values(random, n)))).collect();
    let names: Vec<String> = columns.keys().cloned().collect();
    (json!(columns), [Some(-6.0), Some(6.0)], json!({"method": "indices", "roles": {"measure": names}, "options": {}}))
}

const NEAR_NORMAL: &[Shape] = &[Shape::Normal, Shape::Rounded];
const LONG_TAILED: &[Shape] = &[Shape::Exponential, Shape::Lognormal, Shape::HeavyTailed];
const STEADY: &str = "chart-not-steady";
const RANDOM: &str = "chart-not-random";
const EXPLAINED: &str = "chart-explained";
const SCATTER: &str = "chart-scatter";
const STALE: &str = "chart-limits-stale";
const LONG: [usize; 3] = [200, 1000, 2000];
const USUAL: [usize; 3] = [20, 50, 200];

pub fn rows() -> Vec<Row> {
    const NEIGHBOURS: &str = "chart-neighbours";
    let steady = |of, sizes, shapes, ask| Row::new(of, sizes, shapes, ask).claims(&[STEADY]);
    vec![
        steady("individuals", USUAL, NEAR_NORMAL, |random, shape, n| single(random, shape, n, json!({}))).claims(&[EXPLAINED, NEIGHBOURS]),
        Row::new("individuals, a long tail", USUAL, LONG_TAILED, |random, shape, n| single(random, shape, n, json!({})))
            .claims(&[STEADY])
            .beside("the values far out could not")
            .claims(&[NEIGHBOURS]),
        steady("mean and range", USUAL, NORMAL, |random, shape, n| grouped(random, shape, n, json!({"chart": "xbar-r"})))
            .claims(&[EXPLAINED]),
        steady("mean and sd", USUAL, NORMAL, |random, shape, n| grouped(random, shape, n, json!({"chart": "xbar-s"}))),
        steady("between and within", USUAL, NORMAL, |random, shape, n| grouped(random, shape, n, json!({"chart": "xbar-between"}))),
        steady("deviations of three parts", [10, 20, 60], NORMAL, parts),
        steady("p of lots of 150", USUAL, COUNTED, |random, _, n| lots(random, n, 0.04, false, json!({"chart": "p"}))),
        steady("p of unlike lots", LONG, COUNTED, |random, _, n| lots(random, n, 0.04, true, json!({"chart": "p"})))
            .claims(&[EXPLAINED, SCATTER]),
        steady("np", USUAL, COUNTED, |random, _, n| lots(random, n, 0.04, false, json!({"chart": "np"}))),
        steady("p′", USUAL, COUNTED, |random, _, n| lots(random, n, 0.04, true, json!({"chart": "p-prime"}))),
        steady("ratio", USUAL, COUNTED, |random, _, n| lots(random, n, 0.04, true, json!({"chart": "ratio"}))),
        steady("c", USUAL, COUNTED, |random, _, n| defects(random, n, 4.0, json!({"chart": "c"}))).claims(&[EXPLAINED, SCATTER]),
        steady("u of unlike units", LONG, COUNTED, |random, _, n| units(random, n, json!({"chart": "u"}))),
        steady("u′", USUAL, COUNTED, |random, _, n| units(random, n, json!({"chart": "u-prime"}))),
        steady("g", USUAL, COUNTED, |random, _, n| gaps(random, n)),
        steady("g, long", LONG, COUNTED, |random, _, n| gaps(random, n)),
        steady("t", USUAL, &[Shape::Exponential], |random, _, n| times(random, n)).claims(&["chart-events-clustered"]),
        steady("t, long", LONG, &[Shape::Exponential], |random, _, n| times(random, n)),
        steady("EWMA", USUAL, NORMAL, |random, shape, n| single(random, shape, n, json!({"chart": "ewma"}))),
        steady("EWMA, long", LONG, NORMAL, |random, shape, n| single(random, shape, n, json!({"chart": "ewma"}))),
        steady("CUSUM", USUAL, NORMAL, |random, shape, n| single(random, shape, n, json!({"chart": "cusum"}))),
        steady("CUSUM, long", LONG, NORMAL, |random, shape, n| single(random, shape, n, json!({"chart": "cusum"}))),
        steady("capability", USUAL, NORMAL, |random, shape, n| within(random, shape, n, "capability", [None, Some(6.0)]))
            .claims(&["capability-misfit", "capability-neighbours"]),
        steady("sigma level", USUAL, NORMAL, |random, shape, n| within(random, shape, n, "sigma-level", [None, Some(6.0)]))
            .claims(&["sigma-level-not-normal"]),
        Row::new("run chart", USUAL, MEASURED, |random, shape, n| single(random, shape, n, json!({"chart": "run"}))).claims(&[RANDOM]),
        Row::new("run chart, long", LONG, NORMAL, |random, shape, n| single(random, shape, n, json!({"chart": "run"}))).claims(&[RANDOM]),
        Row::new("individuals, first n", USUAL, MEASURED, |random, shape, n| single(random, shape, n + 40, baseline(n, json!({}))))
            .claims(&[STALE]),
        Row::new("EWMA, first n", USUAL, NORMAL, |random, shape, n| single(random, shape, n + 40, baseline(n, json!({"chart": "ewma"}))))
            .claims(&[STALE]),
        Row::new("CUSUM, first n", USUAL, NORMAL, |random, shape, n| single(random, shape, n + 40, baseline(n, json!({"chart": "cusum"}))))
            .claims(&[STALE]),
        Row::new("c with a mean of 1, first n", USUAL, COUNTED, |random, _, n| {
            defects(random, n + 40, 1.0, baseline(n, json!({"chart": "c"})))
        })
        .claims(&[STALE]),
        Row::new("p, 1 % of lots of 150, first n", USUAL, COUNTED, |random, _, n| {
            lots(random, n + 40, 0.01, false, baseline(n, json!({"chart": "p"})))
        })
        .claims(&[STALE]),
        Row::new("two phases", [15, 30, 60], MEASURED, phases)
            .claims(&["chart-mean-moved"])
            .made("chart-spread-changed", |of| numbers(of)["comparison"]["p_spread"].as_f64().is_some_and(|p| p < 0.05)),
        Row::new("three parts", [10, 20, 60], MEASURED, parts).claims(&["chart-parts-unlike"]),
        Row::new("USL at 2 sd", [50, 200, 1000], NORMAL, |random, shape, n| within(random, shape, n, "capability", [None, Some(2.0)]))
            .claims(&["capability-cut-off", "capability-surprise"]),
        Row::new("subgroups of 50", USUAL, COUNTED, |random, _, n| {
            let bad: Vec<u64> = (0..n).map(|_| Binomial::new(50, 0.08).unwrap().sample(random)).collect();
            let roles = json!({"count": "bad", "size": "n"});
            (json!({"bad": bad, "n": vec![50.0; n]}), [None; 2], json!({"method": "sigma-level", "roles": roles, "options": {}}))
        })
        .claims(&["sigma-level-scatter"]),
        Row::new("six columns", USUAL, NORMAL, table).claims(&["indices-not-steady", "indices-misfit"]),
    ]
}
