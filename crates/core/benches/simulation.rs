//! How long a model takes: four inputs, one formula, a million draws.

use acorn_core::methods;
use acorn_data::frame::Frame;
use acorn_study::{Cancel, Spec};
use criterion::{Criterion, criterion_group, criterion_main};
use serde_json::json;

fn bench(criterion: &mut Criterion) {
    let spec = |more: serde_json::Value| -> Spec {
        let mut options = json!({
            "inputs": [
                {"name": "capacity", "distribution": "normal", "parameters": {"mean": 3.2, "sd": 0.08}},
                {"name": "efficiency", "distribution": "triangular", "parameters": {"low": 0.86, "mode": 0.9, "high": 0.93}},
                {"name": "voltage", "distribution": "uniform", "parameters": {"low": 3.55, "high": 3.75}},
                {"name": "power", "distribution": "lognormal", "parameters": {"mu": 0.642, "sigma": 0.06}},
            ],
            "responses": [{"name": "hours", "formula": "capacity * voltage * efficiency / power", "lsl": 4.5}],
        });
        options.as_object_mut().unwrap().extend(more.as_object().unwrap().clone());
        serde_json::from_value(json!({"method": "simulation", "options": options})).unwrap()
    };
    let frame = Frame::from_json(&serde_json::Map::new()).unwrap();
    for (name, spec) in [
        ("simulation 1e6", spec(json!({"draws": 1_000_000}))),
        ("simulation 1e5 while dragging", spec(json!({"sensitivity": true}))),
        ("tightening 1e5", spec(json!({"tightening": {}}))),
    ] {
        criterion.bench_function(name, |bencher| bencher.iter(|| methods::compute(&frame, &spec, &Cancel::default()).unwrap()));
    }
}

criterion_group!(benches, bench);
criterion_main!(benches);
