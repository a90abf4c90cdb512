//! Import of a CSV file of a million rows.

use std::fmt::Write;
use std::hint::black_box;

use acorn_formats::{Source, Wish, read};
use criterion::{Criterion, Throughput, criterion_group, criterion_main};

fn million_rows() -> Vec<u8> {
    let mut text = String::from("taken at,sample,bench,flux\n");
    for i in 0..1_000_000u32 {
        let flux = 812.0 + f64::from(i.wrapping_mul(2_654_435_761) % 2000) / 100.0;
        let minute = i % 1440;
        writeln!(text, "2026-05-{:02} {:02}:{:02},{},bench {},{flux:.2}", 1 + i / 1440 % 28, minute / 60, minute % 60, i / 5, i % 4)
            .unwrap();
    }
    text.into_bytes()
}

fn csv_import(criterion: &mut Criterion) {
    let bytes = million_rows();
    let mut group = criterion.benchmark_group("CSV import, 1e6 rows x 4 columns");
    group.sample_size(10).throughput(Throughput::Bytes(bytes.len() as u64));
    group.bench_function("open, understand, read", |bencher| {
        bencher.iter(|| {
            let source = Source::open("million.csv", bytes.clone()).unwrap();
            black_box(read(&source, &Wish::default()).unwrap()).table.rows
        });
    });
    group.finish();
}

criterion_group!(benches, csv_import);
criterion_main!(benches);
