//! Gauges in the store: what is recorded stays, whatever becomes of studies, columns and gauges.

use acorn_formats::{ReadOptions, Source, read};
use acorn_store::{
    Change, ColumnChange, Dataset, GaugeChange, NewDataset, NewRecord, NewSheet, NewStudy, Store, StoreError, UndoDirection,
};
use acorn_study::{DataSource, Spec};

const MR: Change<'static> = Change { actor: "MR", at: 1_767_225_600_000 };

fn gauge(number: &str) -> GaugeChange {
    let months = Some(6);
    GaugeChange {
        name: "Depth gauge".into(),
        number: number.into(),
        measures: String::new(),
        unit: "mm".into(),
        resolution: None,
        months,
        note: String::new(),
    }
}

async fn open(folder: &tempfile::TempDir) -> Store {
    Store::open(&folder.path().join("acorn.sqlite")).await.unwrap()
}

async fn depths(store: &Store, gauge: i64) -> Dataset {
    let reading = read(&Source::open("depth.csv", b"depth,housing\n1.1,H1\n1.2,H2\n".to_vec()).unwrap(), &ReadOptions::default()).unwrap();
    let gauges = [("depth".to_owned(), gauge)];
    let new = NewDataset { name: "Depth", source: "depth.csv", table: &reading.table, infos: &[], gauges: &gauges };
    store.create_dataset(new, &MR).await.unwrap()
}

async fn record(store: &Store, gauge: i64, study_id: i64, day: &str, sd: Option<f64>) {
    let verdict = ["caution", "Depends on the use", "The gauge takes 15 %."];
    let day = day.parse().unwrap();
    let new =
        NewRecord { study_id, method: "gauge-crossed", characteristic: "depth", dataset: "Depth", day, sd, share: Some(0.15), verdict };
    store.record_gauge(gauge, &new, &MR).await.unwrap();
}

#[tokio::test]
async fn a_record_outlives_its_study_and_reaches_every_column_of_its_gauge() {
    let folder = tempfile::tempdir().unwrap();
    let store = open(&folder).await;
    let id = store.create_gauge(gauge("D-07"), &MR).await.unwrap().id;
    let dataset = depths(&store, id).await;
    let spec: Spec = serde_json::from_value(serde_json::json!({"method": "gauge-crossed", "roles": {"measure": "depth"}})).unwrap();
    let spec = Spec { data: Some(DataSource::Dataset(dataset.id)), ..spec };
    let study = store.create_study(&NewStudy { name: None, spec }, &MR).await.unwrap();
    record(&store, id, study.id, "2026-05-04", Some(0.005)).await;
    // The newest one without an sd is passed over; an earlier day is not the newest, however late it is entered.
    record(&store, id, study.id, "2026-06-04", None).await;
    record(&store, id, study.id, "2025-01-04", Some(0.009)).await;
    store.delete_study(study.id).await.unwrap();
    store.close().await;
    let store = open(&folder).await;
    let (now, frame) = store.frame(dataset.id, |_| true).await.unwrap();
    let measuring = frame.column("depth").unwrap().measuring.clone().unwrap();
    assert_eq!((measuring.gauge.as_str(), measuring.sd, measuring.day.as_str()), ("Depth gauge D-07", 0.005, "2026-05-04"));
    assert!(frame.column("housing").unwrap().measuring.is_none());
    // Answers of the column are told anew after each record, others are not.
    assert!(now.columns[0].revision > dataset.columns[0].revision && now.columns[1].revision == dataset.columns[1].revision);
    let kept = store.gauge(id).await.unwrap();
    let days: Vec<&str> = kept.records.iter().map(|record| record.day.as_str()).collect();
    assert_eq!((days, kept.records[0].study_id), (vec!["2026-06-04", "2026-05-04", "2025-01-04"], None));
}

#[tokio::test]
async fn a_column_loses_its_gauge_with_the_gauge_and_undo_does_not_bring_a_dead_one_back() {
    let folder = tempfile::tempdir().unwrap();
    let store = open(&folder).await;
    let (first, other) =
        (store.create_gauge(gauge("D-07"), &MR).await.unwrap().id, store.create_gauge(gauge("D-08"), &MR).await.unwrap().id);
    let dataset = depths(&store, first).await;
    let wanted = ColumnChange { gauge_id: Some(other), ..ColumnChange::from(&dataset.columns[0]) };
    let changed = store.change_column(dataset.id, dataset.columns[0].id, dataset.revision, wanted, &MR).await.unwrap();
    let back = store.turn_dataset(dataset.id, UndoDirection::Undo, changed.revision, &MR).await.unwrap();
    assert_eq!((changed.columns[0].gauge_id, back.columns[0].gauge_id), (Some(other), Some(first)));
    store.delete_gauge(other).await.unwrap();
    let seen = store.dataset(dataset.id).await.unwrap();
    let again = store.turn_dataset(dataset.id, UndoDirection::Redo, seen.revision, &MR).await.unwrap();
    assert_eq!(again.columns[0].gauge_id, None);
    assert!(matches!(store.gauge(other).await, Err(StoreError::NotFound { .. })));
    // Numbers of gauges are never given twice.
    assert!(store.create_gauge(gauge("D-09"), &MR).await.unwrap().id > other);
}

#[tokio::test]
async fn a_sheet_is_the_same_for_the_same_seed_and_each_operator_has_an_order_of_their_own() {
    let folder = tempfile::tempdir().unwrap();
    let store = open(&folder).await;
    let sheet = |seed: u64| {
        let plan = serde_json::json!({"kind": "crossed", "characteristic": "depth", "operators": ["Ida", "Jonas"], "parts": 8, "trials": 2, "seed": seed});
        NewSheet { name: None, plan: serde_json::from_value(plan).unwrap(), gauge_id: None, gauge: None }
    };
    let mut orders = Vec::new();
    for seed in [7, 7, 8] {
        let made = store.create_sheet(&sheet(seed), &MR).await.unwrap();
        assert_eq!(made.dataset.plan.as_ref().unwrap().plan.seed, seed);
        let rows = store.rows(made.dataset.id, 0, 99).await.unwrap();
        let text = |column: usize, row: usize| rows.cells[column][row].clone().unwrap();
        // Each trial of each operator has every part once.
        let blocks: Vec<Vec<String>> = (0..4).map(|block| (0..8).map(|row| text(2, block * 8 + row)).collect()).collect();
        for block in &blocks {
            let mut sorted = block.clone();
            sorted.sort();
            assert_eq!(sorted, ["1", "2", "3", "4", "5", "6", "7", "8"]);
        }
        assert!(blocks.windows(2).all(|pair| pair[0] != pair[1]), "an order is used twice: {blocks:?}");
        assert!(rows.cells[4].iter().all(Option::is_none), "nothing is read yet");
        orders.push(blocks);
    }
    assert!(orders[0] == orders[1] && orders[0] != orders[2]);
    let missing = NewSheet { gauge_id: Some(99), ..sheet(7) };
    assert!(matches!(store.create_sheet(&missing, &MR).await, Err(StoreError::NotFound { .. })));
    assert_eq!(store.datasets().await.unwrap().len(), 3, "a sheet without its gauge is not made");
}
