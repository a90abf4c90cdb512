//! Individuals with all eight patterns on a million values.

use std::hint::black_box;

use acorn_core::methods;
use acorn_data::frame::{Column, ColumnInfo, Frame, Kind, Values};
use acorn_study::{Cancel, Spec, View};
use criterion::{Criterion, criterion_group, criterion_main};
use rand::SeedableRng;
use rand::distr::Distribution;
use rand_distr::Normal;
use rand_xoshiro::Xoshiro256PlusPlus;

fn million() -> Frame {
    let mut random = Xoshiro256PlusPlus::seed_from_u64(7);
    let flux = Normal::new(812.0, 8.0).unwrap();
    let values = Values::Number((0..1_000_000).map(|_| flux.sample(&mut random)).collect());
    Frame::new(
        vec![Column { name: "flux".into(), kind: Kind::Number, info: ColumnInfo::default(), measuring: None, held: None, values }],
        None,
    )
    .unwrap()
}

fn individuals(criterion: &mut Criterion) {
    let frame = million();
    let patterns = [
        "beyond-limits",
        "run-one-side",
        "trend",
        "alternating",
        "two-of-three-outer",
        "four-of-five-outer",
        "hugging-centre",
        "avoiding-centre",
    ];
    let patterns: Vec<_> = patterns.map(|pattern| serde_json::json!({ "pattern": pattern })).into();
    let spec = serde_json::json!({"method": "control-chart", "roles": {"measure": "flux"}, "options": {"patterns": patterns}});
    let spec: Spec = serde_json::from_value(spec).unwrap();
    let cancel = Cancel::default();
    let mut group = criterion.benchmark_group("individuals, 1e6 values");
    group.sample_size(20);
    group.bench_function("all eight patterns", |bencher| {
        bencher.iter(|| black_box(methods::compute(black_box(&frame), &spec, &cancel).unwrap()).verdict);
    });
    let computed = methods::compute(&frame, &spec, &cancel).unwrap();
    let view = View { points: Some(800), ..View::ALL };
    group.bench_function("one view of 800 buckets", |bencher| bencher.iter(|| black_box(computed.outcome(&view))));
    group.finish();
}

criterion_group!(benches, individuals);
criterion_main!(benches);
