//! Gauge studies, both methods: the usual size and a large one.

use std::hint::black_box;

use acorn_core::methods;
use acorn_data::frame::Frame;
use acorn_study::{Cancel, Spec};
use criterion::{Criterion, criterion_group, criterion_main};
use serde_json::json;

fn study(parts: usize, operators: usize, trials: usize) -> Frame {
    let all = || (0..trials).flat_map(move |t| (0..operators).flat_map(move |o| (0..parts).map(move |p| (p, o, t))));
    let columns = json!({
        "housing": all().map(|(p, ..)| format!("H{p}")).collect::<Vec<_>>(),
        "inspector": all().map(|(_, o, _)| format!("I{o}")).collect::<Vec<_>>(),
        "depth": all().map(|(p, o, t)| 1.2 + 0.01 * p as f64 + 0.002 * o as f64 + 0.003 * ((p * 7 + o * 5 + t * 3) % 11) as f64).collect::<Vec<_>>(),
    });
    Frame::from_json(columns.as_object().unwrap()).unwrap()
}

fn gauge(criterion: &mut Criterion) {
    let spec = json!({"method": "gauge-crossed", "roles": {"measure": "depth", "part": "housing", "operator": "inspector"}, "options": {"tolerance": 2}});
    let spec: Spec = serde_json::from_value(spec).unwrap();
    let cancel = Cancel::default();
    let mut group = criterion.benchmark_group("gauge, both methods");
    for (parts, operators, trials) in [(10, 3, 3), (200, 10, 5)] {
        let frame = study(parts, operators, trials);
        group.bench_function(format!("{parts} x {operators} x {trials}"), |bencher| {
            bencher.iter(|| black_box(methods::compute(black_box(&frame), &spec, &cancel).unwrap()).verdict);
        });
    }
    group.finish();
}

criterion_group!(benches, gauge);
criterion_main!(benches);
