//! Opening one column of a dataset of a million rows.

use std::hint::black_box;

use acorn_data::frame::{Kind, Values};
use acorn_formats::{Table, TableColumn};
use acorn_store::{Change, NewDataset, Store};
use criterion::{Criterion, criterion_group, criterion_main};

const ROWS: usize = 1_000_000;

fn open_column(criterion: &mut Criterion) {
    let runtime = tokio::runtime::Runtime::new().unwrap();
    let folder = tempfile::tempdir().unwrap();
    let column = |k: usize| TableColumn {
        name: format!("channel {k}"),
        kind: Kind::Number,
        unit: None,
        values: Values::Number((0..ROWS).map(|i| (i * (k + 1) % 9973) as f64).collect()),
    };
    let table = Table { columns: (0..10).map(column).collect(), rows: ROWS };
    let (store, id) = runtime.block_on(async {
        let store = Store::open(&folder.path().join("bench.sqlite")).await.unwrap();
        let new = NewDataset { name: "million", source: "bench", table: &table, infos: &[], gauges: &[] };
        let id = store.create_dataset(new, &Change { actor: "bench", at: 0 }).await.unwrap().id;
        (store, id)
    });
    let mut group = criterion.benchmark_group("SQLite, 1e6 rows x 10 columns");
    group.sample_size(20);
    group.bench_function("open one column", |bencher| {
        bencher
            .iter(|| runtime.block_on(async { black_box(store.frame(id, |column| column.name == "channel 4").await.unwrap()).1.rows() }));
    });
    group.bench_function("read 60 rows in the middle", |bencher| {
        bencher.iter(|| runtime.block_on(async { black_box(store.rows(id, ROWS / 2, 60).await.unwrap()).row_ids.len() }));
    });
    group.finish();
}

criterion_group!(benches, open_column);
criterion_main!(benches);
