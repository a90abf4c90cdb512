//! Specifications that nobody would write: whatever comes, an answer or a refusal in words, and never a panic.
//!
//! A thousand in every run, seeded; `ACORN_FUZZ=1000000` asks as many (`cargo xtask fuzz`).

use acorn_core::methods;
use acorn_study::{Cancel, Spec, View};
use acorn_testing::frame;
use acorn_testing::made::{Draw, made};
use rand::{RngExt, SeedableRng};
use rand_xoshiro::Xoshiro256PlusPlus;
use rayon::prelude::*;
use serde_json::{Value, json};

/// What stands where something else is due.
fn odd(draw: &mut Draw) -> Value {
    let all = [
        json!(null),
        json!(true),
        json!(0),
        json!(-1),
        json!(0.5),
        json!(1e308),
        json!(-1e-300),
        json!(4_294_967_296_u64),
        json!(i64::MIN),
        json!(""),
        json!("gap"),
        json!("bench"),
        json!("no such thing"),
        json!("x".repeat(5000)),
        json!("1/0"),
        json!([]),
        json!([[], {}]),
        json!(["gap", "gap", "gap"]),
        json!([1e300, -1e300, null]),
        json!({}),
        json!({"from": "typed", "first": 9, "last": 2}),
        json!({"column": "bench", "labels": []}),
    ];
    all[draw.0.random_range(0..all.len())].clone()
}

/// Changes, doubles or takes away something within a value.
fn spoil(draw: &mut Draw, value: &mut Value) {
    let deeper = draw.often(0.7);
    match value {
        Value::Object(fields) if deeper && !fields.is_empty() => {
            let at = draw.0.random_range(0..fields.len());
            let name = fields.keys().nth(at).unwrap().clone();
            match draw.0.random_range(0..6) {
                0 => drop(fields.remove(&name)),
                1 => drop(fields.insert(format!("{name}s"), odd(draw))),
                _ => spoil(draw, &mut fields[&name]),
            }
        }
        Value::Array(items) if deeper && !items.is_empty() => {
            let at = draw.0.random_range(0..items.len());
            match draw.0.random_range(0..4) {
                0 => drop(items.remove(at)),
                1 => items.push(items[at].clone()),
                _ => spoil(draw, &mut items[at]),
            }
        }
        other => *other = odd(draw),
    }
}

/// Options that some method has, whatever the method.
const OPTIONS: [&str; 16] = [
    "chart",
    "limits",
    "patterns",
    "shape",
    "goal",
    "lsl",
    "usl",
    "tolerance",
    "sigma",
    "draws",
    "seed",
    "test",
    "fit",
    "from",
    "steps",
    "x",
];

#[test]
fn no_specification_makes_the_core_fall_over() {
    let many: u64 = std::env::var("ACORN_FUZZ").ok().and_then(|many| many.parse().ok()).unwrap_or(1000);
    let wrong = |seed: u64| {
        let (columns, [lsl, usl], mut spec) = made(seed);
        let mut draw = Draw(Xoshiro256PlusPlus::seed_from_u64(seed ^ 0x5eed));
        if draw.often(0.2) {
            let all: Vec<&str> = methods::cards().map(|card| card.method).collect();
            spec["method"] = json!(draw.one(&all));
        }
        for _ in 0..draw.one(&[1, 1, 2, 4]) {
            match draw.0.random_range(0..5) {
                0 if spec["options"].is_object() => {
                    let option = draw.one(&OPTIONS);
                    spec["options"][option] = odd(&mut draw);
                }
                0 | 1 => spec["only"] = odd(&mut draw),
                _ => {
                    let part = draw.one(&["roles", "options"]);
                    if spec[part].is_object() {
                        spoil(&mut draw, &mut spec[part]);
                    }
                }
            }
        }
        let asked = || {
            let spec: Spec = serde_json::from_value(spec.clone()).ok()?;
            let answer = methods::compute(&frame(&columns, &[("gap", lsl, usl)]), &spec, &Cancel::default());
            Some(match answer {
                Ok(computed) => computed.outcome(&View { points: Some(20), ..View::ALL }).verdict.sentence,
                Err(error) => acorn_study::problem::Problem::from(error).detail,
            })
        };
        match std::panic::catch_unwind(asked) {
            Err(_) => Some(format!("{seed} {spec}: it panicked")),
            Ok(Some(said)) if said.is_empty() || said.contains("NaN") || said.chars().count() > 1100 => {
                Some(format!("{seed} {spec}: {said}"))
            }
            Ok(_) => None,
        }
    };
    let found: Vec<String> = (0..many).into_par_iter().filter_map(wrong).collect();
    assert!(found.is_empty(), "{} of {many}:\n{}", found.len(), found[..found.len().min(20)].join("\n"));
}
