//! Import of a CSV file of a million rows.

use std::fmt::Write;
use std::hint::black_box;

use acorn_formats::{ReadOptions, Source, read};
use criterion::{Criterion, Throughput, criterion_group, criterion_main};

/// Six measured columns, a time to the second, two of labels and one of whole numbers.
fn million_rows() -> Vec<u8> {
    let mut text = String::from("c0,c1,c2,c3,c4,c5,taken at,bench,lamp,kind\n");
    for row in 0..1_000_000u32 {
        for column in 0..6u32 {
            let flux = 500.0 + f64::from((row * 6 + column).wrapping_mul(2_654_435_761) % 240_000) / 1e4;
            write!(text, "{flux:.4},").unwrap();
        }
        let (day, hour, minute, second) = (4 + row / 86_400, row / 3_600 % 24, row / 60 % 60, row % 60);
        writeln!(text, "2026-05-{day:02} {hour:02}:{minute:02}:{second:02},bench {},{row},kind {}", row % 4, row * 7 % 40).unwrap();
    }
    text.into_bytes()
}

fn csv_import(criterion: &mut Criterion) {
    let bytes = million_rows();
    let mut group = criterion.benchmark_group("CSV import, 1e6 rows x 10 columns");
    group.sample_size(10).throughput(Throughput::Bytes(bytes.len() as u64));
    group.bench_function("open, understand, read", |bencher| {
        bencher.iter(|| {
            let source = Source::open("million.csv", bytes.clone()).unwrap();
            black_box(read(&source, &ReadOptions::default()).unwrap()).table.rows
        });
    });
    group.finish();
}

criterion_group!(benches, csv_import);
criterion_main!(benches);
