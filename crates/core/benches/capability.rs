//! Capability with the test of shape and both spreads on a million values.

use std::hint::black_box;

use acorn_core::methods;
use acorn_data::frame::{Column, ColumnInfo, Frame, Kind, Values};
use acorn_study::{Cancel, Spec};
use criterion::{Criterion, criterion_group, criterion_main};
use rand::SeedableRng;
use rand::distr::Distribution;
use rand_distr::Normal;
use rand_xoshiro::Xoshiro256PlusPlus;

fn capability(criterion: &mut Criterion) {
    let mut random = Xoshiro256PlusPlus::seed_from_u64(7);
    let depth = Normal::new(1.2, 0.02).unwrap();
    let values = Values::Number((0..1_000_000).map(|_| depth.sample(&mut random)).collect());
    let info = ColumnInfo { lsl: Some(1.1), usl: Some(1.3), ..ColumnInfo::default() };
    let frame =
        Frame::new(vec![Column { name: "depth".into(), kind: Kind::Number, info, measuring: None, held: None, values }], None).unwrap();
    let ask = |shape: &str| -> Spec {
        let spec = serde_json::json!({"method": "capability", "roles": {"measure": "depth"}, "options": {"shape": shape}});
        serde_json::from_value(spec).unwrap()
    };
    let cancel = Cancel::default();
    let mut group = criterion.benchmark_group("capability, 1e6 values");
    group.sample_size(15);
    for shape in ["normal", "box-cox", "johnson", "fit:weibull"] {
        let spec = ask(shape);
        group.bench_function(shape, |bencher| {
            bencher.iter(|| black_box(methods::compute(black_box(&frame), &spec, &cancel).unwrap()).verdict);
        });
    }
    group.finish();
}

criterion_group!(benches, capability);
criterion_main!(benches);
