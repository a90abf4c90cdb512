//! Decisions on data in which there is nothing to find: how often each is made all the same, against what it states.
//!
//! Each run asks 60 data sets of every decision and shape, `cargo xtask fuzz` 1,000; `ACORN_DECISIONS=1000` asks as many
//! and writes the table into `docs/decisions.md`; `ACORN_DECISIONS_OF=compare` asks only those with that word, as many
//! data sets as `ACORN_DECISIONS` says, and writes nothing.

use std::fmt::Write;
use std::path::PathBuf;

use acorn_core::methods::Computed;
use acorn_testing::{ask, frame};
use rand::distr::Distribution;
use rand::{RngExt, SeedableRng};
use rand_distr::{Exp1, LogNormal, StandardNormal, StudentT};
use rand_xoshiro::Xoshiro256PlusPlus;
use rayon::prelude::*;
use serde_json::{Value, json};

type Random = Xoshiro256PlusPlus;

/// What values are drawn from.
#[derive(Clone, Copy, PartialEq)]
enum Shape {
    Normal,
    Exponential,
    Lognormal,
    HeavyTailed,
    Rounded,
}

impl Shape {
    const ALL: [Shape; 5] = [Shape::Normal, Shape::Exponential, Shape::Lognormal, Shape::HeavyTailed, Shape::Rounded];

    fn name(self) -> &'static str {
        match self {
            Shape::Normal => "normal",
            Shape::Exponential => "exponential",
            Shape::Lognormal => "lognormal",
            Shape::HeavyTailed => "t, 4 df",
            Shape::Rounded => "read in steps of sd/2",
        }
    }

    fn one(self, random: &mut Random) -> f64 {
        match self {
            Shape::Normal => StandardNormal.sample(random),
            Shape::Exponential => Exp1.sample(random),
            Shape::Lognormal => LogNormal::new(0.0, 0.7).unwrap().sample(random),
            Shape::HeavyTailed => StudentT::new(4.0).unwrap().sample(random),
            Shape::Rounded => {
                let value: f64 = StandardNormal.sample(random);
                (2.0 * value).round() / 2.0
            }
        }
    }

    fn values(self, random: &mut Random, n: usize) -> Vec<f64> {
        (0..n).map(|_| (self.one(random) * 1e4).round() / 1e4).collect()
    }
}

/// A decision that a verdict or a note states.
struct Decision {
    name: &'static str,
    /// How often it may be made of nothing.
    states: f64,
    /// Sizes that it is asked at.
    sizes: &'static [usize],
    /// The shapes of the values; none where they are labels or counts.
    shapes: &'static [Shape],
    ask: fn(&mut Random, Shape, usize) -> (Value, Value),
    made: fn(&Computed) -> bool,
}

fn title(computed: &Computed, starts: &[&str]) -> bool {
    starts.iter().any(|start| computed.verdict.title.starts_with(start))
}

fn noted(computed: &Computed, words: &[&str]) -> bool {
    computed.notes.iter().any(|note| words.iter().any(|words| note.sentence.contains(words)))
}

fn numbers(computed: &Computed) -> Value {
    serde_json::to_value(computed.outcome(&acorn_study::View::ALL).numbers).unwrap()
}

fn labels(n: usize, each: usize, name: &str) -> Vec<String> {
    (0..n).map(|at| format!("{name}{}", at / each)).collect()
}

fn drawn(random: &mut Random, n: usize, of: usize, name: &str) -> Vec<String> {
    (0..n).map(|_| format!("{name}{}", random.random_range(0..of))).collect()
}

fn chart(options: Value) -> Value {
    json!({"method": "control-chart", "roles": {"measure": "x"}, "options": options})
}

const MOVED: &[&str] = &["Not steady", "Not random"];
const MEASURED: &[Shape] = &Shape::ALL;
const NORMAL: &[Shape] = &[Shape::Normal];

fn all() -> Vec<Decision> {
    let decision = |name, states, sizes, shapes, ask, made| Decision { name, states, sizes, shapes, ask, made };
    vec![
        decision(
            "individuals: not steady",
            0.05,
            &[20, 50, 200],
            NORMAL,
            |random, shape, n| (json!({"x": shape.values(random, n)}), chart(json!({}))),
            |of| title(of, MOVED),
        ),
        decision(
            "CUSUM: not steady",
            0.05,
            &[50, 1000],
            NORMAL,
            |random, shape, n| (json!({"x": shape.values(random, n)}), chart(json!({"chart": "cusum"}))),
            |of| title(of, MOVED),
        ),
        decision(
            "run chart: not random",
            0.05,
            &[20, 50, 200],
            MEASURED,
            |random, shape, n| (json!({"x": shape.values(random, n)}), chart(json!({"chart": "run"}))),
            |of| title(of, MOVED),
        ),
        decision(
            "limits no longer describe the process",
            0.03,
            &[20, 50],
            MEASURED,
            |random, shape, n| {
                (json!({"x": shape.values(random, n + 40)}), chart(json!({"limits": {"from": "baseline", "first": 0, "last": n - 1}})))
            },
            |of| noted(of, &["no longer describe"]),
        ),
        decision(
            "limits no longer describe the process, c chart with a mean of 1",
            0.03,
            &[20, 50],
            NORMAL,
            |random, _, n| {
                let counts: Vec<f64> = (0..n + 40).map(|_| rand_distr::Poisson::new(1.0).unwrap().sample(random)).collect();
                let options = json!({"chart": "c", "limits": {"from": "baseline", "first": 0, "last": n - 1}});
                (json!({"x": counts}), json!({"method": "control-chart", "roles": {"count": "x"}, "options": options}))
            },
            |of| noted(of, &["no longer describe"]),
        ),
        decision(
            "phases: spread changed",
            0.05,
            &[30, 60],
            MEASURED,
            |random, shape, n| {
                let columns = json!({"x": shape.values(random, 2 * n), "phase": labels(2 * n, n, "p")});
                (columns, json!({"method": "control-chart", "roles": {"measure": "x", "phase": "phase"}, "options": {}}))
            },
            |of| numbers(of)["comparison"]["p_spread"].as_f64().is_some_and(|p| p < 0.05),
        ),
        decision(
            "compare: they differ, three groups",
            0.05,
            &[5, 20],
            MEASURED,
            |random, shape, n| {
                let columns = json!({"x": shape.values(random, 3 * n), "g": labels(3 * n, n, "g")});
                (columns, json!({"method": "compare", "roles": {"measure": "x", "group": "g"}, "options": {}}))
            },
            |of| title(of, &["They differ"]),
        ),
        decision(
            "compare: they differ, a small group four times as wide",
            0.06,
            &[3, 5],
            NORMAL,
            |random, shape, n| {
                let mut x = shape.values(random, n + 12);
                x[..n].iter_mut().for_each(|value| *value *= 4.0);
                let g: Vec<&str> = (0..n + 12).map(|at| if at < n { "a" } else { "b" }).collect();
                (json!({"x": x, "g": g}), json!({"method": "compare", "roles": {"measure": "x", "group": "g"}, "options": {}}))
            },
            |of| title(of, &["They differ"]),
        ),
        decision(
            "compare: they differ or spreads differ, six groups of two",
            0.05,
            &[2],
            NORMAL,
            |random, shape, n| {
                let columns = json!({"x": shape.values(random, 6 * n), "g": labels(6 * n, n, "g")});
                (columns, json!({"method": "compare", "roles": {"measure": "x", "group": "g"}, "options": {}}))
            },
            |of| title(of, &["They differ", "Spreads differ"]),
        ),
        decision(
            "relation: they go together",
            0.05,
            &[10, 20, 80],
            MEASURED,
            |random, shape, n| {
                let columns = json!({"x": shape.values(random, n), "y": shape.values(random, n)});
                (columns, json!({"method": "relation", "roles": {"x": "x", "y": "y"}, "options": {}}))
            },
            |of| title(of, &["They go together"]),
        ),
        decision(
            "relation: a row makes the fit",
            0.05,
            &[8, 12, 20],
            NORMAL,
            |random, shape, n| {
                let columns = json!({"x": shape.values(random, n), "y": shape.values(random, n)});
                (columns, json!({"method": "relation", "roles": {"x": "x", "y": "y"}, "options": {}}))
            },
            |of| noted(of, &["makes the fit"]),
        ),
        decision(
            "relation: they go together within groups of two",
            0.05,
            &[12],
            NORMAL,
            |random, shape, n| {
                let columns = json!({"x": shape.values(random, 2 * n), "y": shape.values(random, 2 * n), "g": labels(2 * n, 2, "g")});
                (columns, json!({"method": "relation", "roles": {"x": "x", "y": "y", "group": "g"}, "options": {}}))
            },
            |of| noted(of, &["the whole hides it", "The groups make the whole"]),
        ),
        decision(
            "matrix: a pair goes together",
            0.05,
            &[30],
            MEASURED,
            |random, shape, n| {
                let columns: serde_json::Map<String, Value> = (0..8).map(|k| (format!("c{k}"), json!(shape.values(random, n)))).collect();
                let names: Vec<String> = columns.keys().cloned().collect();
                (json!(columns), json!({"method": "matrix", "roles": {"measure": names}, "options": {}}))
            },
            |of| numbers(of)["flagged"].to_string().contains("true"),
        ),
        decision(
            "screening: a label holds too many",
            0.05,
            &[60, 200],
            NORMAL,
            |random, _, n| {
                let mut columns = serde_json::Map::new();
                for k in 0..6 {
                    columns.insert(format!("c{k}"), json!(drawn(random, n, 5, "l")));
                }
                let result: Vec<&str> = (0..n).map(|_| if random.random_range(0.0..1.0) < 0.15 { "fail" } else { "pass" }).collect();
                columns.insert("result".to_owned(), json!(result));
                (json!(columns), json!({"method": "screening", "roles": {"measure": "result"}, "options": {}}))
            },
            |of| numbers(of)["results"].as_array().unwrap().iter().any(|one| one["over"].is_object()),
        ),
        decision(
            "association: it depends within layers of three",
            0.05,
            &[40],
            NORMAL,
            |random, _, n| {
                let columns = json!({"a": drawn(random, 3 * n, 3, "a"), "b": drawn(random, 3 * n, 3, "b"), "c": labels(3 * n, 3, "c")});
                (columns, json!({"method": "association", "roles": {"column": "a", "row": "b", "layer": "c"}, "options": {}}))
            },
            |of| numbers(of)["within"]["p"].as_f64().is_some_and(|p| p < 0.05),
        ),
        decision(
            "association: a cell stands out, 10 by 5",
            0.05,
            &[150],
            NORMAL,
            |random, _, n| {
                let columns = json!({"a": drawn(random, n, 5, "a"), "b": drawn(random, n, 10, "b")});
                (columns, json!({"method": "association", "roles": {"column": "a", "row": "b"}, "options": {}}))
            },
            |of| numbers(of)["stands_out"].to_string().contains('1'),
        ),
        decision(
            "multi-vari: a group stands out",
            0.05,
            &[3, 6],
            MEASURED,
            |random, shape, n| {
                let rows = 12 * 4 * n;
                let position: Vec<String> = (0..rows).map(|at| format!("p{}", at / n % 4)).collect();
                let columns = json!({"x": shape.values(random, rows), "lot": labels(rows, 4 * n, "lot"), "position": position});
                (columns, json!({"method": "multi-vari", "roles": {"measure": "x", "factors": ["lot", "position"]}, "options": {}}))
            },
            |of| numbers(of)["standouts"].as_array().is_some_and(|all| !all.is_empty()),
        ),
        decision(
            "gauge: an operator reads off, interaction kept",
            0.05,
            &[10],
            NORMAL,
            |random, shape, n| {
                let (parts, both) = (shape.values(random, n), shape.values(random, 3 * n));
                let (mut part, mut operator, mut x) = (Vec::new(), Vec::new(), Vec::new());
                for at in 0..n * 6 {
                    let (p, o) = (at / 6, at / 2 % 3);
                    part.push(format!("{p}"));
                    operator.push(["Ida", "Jonas", "Mei"][o]);
                    x.push(5.0 * parts[p] + both[3 * p + o] + 0.5 * shape.one(random));
                }
                (
                    json!({"x": x, "part": part, "who": operator}),
                    json!({"method": "gauge-crossed", "roles": {"measure": "x", "part": "part", "operator": "who"}, "options": {}}),
                )
            },
            |of| numbers(of)["operators"].as_array().unwrap().iter().any(|one| one["off"] == true),
        ),
        decision(
            "gauge: an operator repeats unlike the others",
            0.05,
            &[10],
            MEASURED,
            |random, shape, n| {
                let parts = Shape::Normal.values(random, n);
                let (mut part, mut operator, mut x) = (Vec::new(), Vec::new(), Vec::new());
                for at in 0..n * 9 {
                    part.push(format!("{}", at / 9));
                    operator.push(["Ida", "Jonas", "Mei"][at / 3 % 3]);
                    x.push(5.0 * parts[at / 9] + shape.one(random));
                }
                (
                    json!({"x": x, "part": part, "who": operator}),
                    json!({"method": "gauge-crossed", "roles": {"measure": "x", "part": "part", "operator": "who"}, "options": {}}),
                )
            },
            |of| numbers(of)["operators"].as_array().unwrap().iter().any(|one| one["inconsistent"] == true),
        ),
        decision(
            "linearity: a right gauge is faulted",
            0.05,
            &[5, 10],
            NORMAL,
            |random, shape, n| {
                let (mut part, mut known, mut x) = (Vec::new(), Vec::new(), Vec::new());
                for at in 0..5 * n {
                    part.push(format!("{}", at / n));
                    known.push(2.0 + 2.0 * (at / n) as f64);
                    x.push(2.0 + 2.0 * (at / n) as f64 + 0.1 * shape.one(random));
                }
                (
                    json!({"x": x, "part": part, "known": known}),
                    json!({"method": "gauge-linearity", "roles": {"measure": "x", "part": "part", "reference": "known"}, "options": {}}),
                )
            },
            |of| title(of, &["Not linear", "Reads off", "Off in places"]),
        ),
    ]
}

impl Decision {
    fn rate(&self, shape: Shape, n: usize, sets: u64) -> f64 {
        let is_made = |seed: &u64| {
            let (columns, spec) = (self.ask)(&mut Random::seed_from_u64(91_000 + seed), shape, n);
            (self.made)(&ask(&frame(&columns, &[]), &spec).unwrap())
        };
        (0..sets).into_par_iter().filter(is_made).count() as f64 / sets as f64
    }
}

fn page() -> PathBuf {
    PathBuf::from(concat!(env!("CARGO_MANIFEST_DIR"), "/../../docs/decisions.md"))
}

fn head(sets: u64) -> String {
    format!(
        "# How often decisions are made of nothing\n\n\
    Each line is a decision that a verdict or a note states, asked of {sets} seeded data sets in which there is nothing to find.\n\
    `crates/core/tests/decisions.rs` draws them, holds 60 of each at every run and 1,000 in `cargo xtask fuzz`, and writes this page.\n\n\
    | decision | values | size | states | made |\n|---|---|---|---|---|\n"
    )
}

/// So many times what it states a decision may be made of nothing.
const SLACK: f64 = 1.5;

#[test]
fn decisions_are_made_of_nothing_no_more_often_than_they_state() {
    let only = std::env::var("ACORN_DECISIONS_OF").ok();
    let write = std::env::var_os("ACORN_DECISIONS").is_some() && only.is_none();
    let whole = write || only.is_some() || std::env::var_os("ACORN_FUZZ").is_some();
    let asked = std::env::var("ACORN_DECISIONS").ok().and_then(|sets| sets.parse().ok()).filter(|_| whole);
    let sets: u64 = asked.unwrap_or(if whole { 1000 } else { 60 });
    let written = std::fs::read_to_string(page()).unwrap_or_default();
    let (mut found, mut wrong) = (head(sets), Vec::new());
    for decision in all().into_iter().filter(|one| only.as_ref().is_none_or(|words| one.name.contains(words))) {
        for (&shape, &n) in decision.shapes.iter().flat_map(|shape| decision.sizes.iter().map(move |n| (shape, n))) {
            let rate = decision.rate(shape, n, sets);
            // Of sixty a few more may be made by chance: five standard errors.
            let most = SLACK * decision.states + if whole { 0.0 } else { 5.0 * (decision.states / sets as f64).sqrt() };
            let key = format!("| {} | {} | {n} |", decision.name, shape.name());
            eprintln!("{rate:.3} of {:.2}: {key}", decision.states);
            if rate > most {
                wrong.push(format!("{key} {rate}"));
            }
            assert!(write || only.is_some() || written.contains(&key), "the page lacks {key}");
            writeln!(found, "{key} {:.0} % | {:.1} % |", 100.0 * decision.states, 100.0 * rate).unwrap();
        }
    }
    if write {
        std::fs::write(page(), &found).unwrap();
    }
    assert!(wrong.is_empty(), "made too often:\n{}", wrong.join("\n"));
}
