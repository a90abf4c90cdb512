//! What each transaction tells: everything that it changed, once it is on disk, and nothing that was rolled back.

use std::collections::{BTreeSet, HashSet};

use acorn_formats::{ReadOptions, Source, read};
use acorn_store::{ChangeSet, Changed, Dataset, GoneRows, ListChange, NewDataset, NewStudy, Store, UndoDirection, WallPlace};
use acorn_study::{DataSource, Spec};
use tokio::sync::broadcast::Receiver;

const MR: acorn_store::Change<'static> = acorn_store::Change { actor: "MR", at: 1_767_225_600_000 };

async fn opened() -> (tempfile::TempDir, Store) {
    let folder = tempfile::tempdir().unwrap();
    let store = Store::open(&folder.path().join("acorn.sqlite")).await.unwrap();
    (folder, store)
}

async fn flux(store: &Store) -> Dataset {
    let reading = read(&Source::open("flux.csv", b"flux\n801\n802\n803\n".to_vec()).unwrap(), &ReadOptions::default()).unwrap();
    let new = NewDataset { name: "Flux", source: "flux.csv", table: &reading.table, infos: &[], gauges: &[] };
    store.create_dataset(new, &MR).await.unwrap()
}

/// What was told since the last call, of which there was one set at most.
fn told(changes: &mut Receiver<ChangeSet>) -> HashSet<Changed> {
    let first = changes.try_recv().map(|set| set.iter().copied().collect()).unwrap_or_default();
    assert!(changes.try_recv().is_err(), "a transaction told twice");
    first
}

#[tokio::test]
async fn each_change_is_told_once_with_the_revision_that_it_came_to() {
    let (_folder, store) = opened().await;
    let mut changes = store.changes();
    let dataset = flux(&store).await;
    let at = |revision| Changed::Dataset { id: dataset.id, revision };
    assert_eq!(told(&mut changes), HashSet::from([at(1)]));
    let spec: Spec = serde_json::from_value(serde_json::json!({"method": "control-chart", "roles": {"measure": "flux"}})).unwrap();
    let spec = Spec { data: Some(DataSource::Dataset(dataset.id)), ..spec };
    let study = store.create_study(&NewStudy { name: None, spec }, &MR).await.unwrap();
    assert_eq!(told(&mut changes), HashSet::from([Changed::Study { id: study.id, revision: 1 }]));
    // Refused: nothing is told.
    assert!(store.delete_rows(dataset.id, &GoneRows { revision: 9, row_ids: vec![1] }, &MR).await.is_err());
    assert!(told(&mut changes).is_empty());
    store.delete_rows(dataset.id, &GoneRows { revision: 1, row_ids: vec![1] }, &MR).await.unwrap();
    assert_eq!(told(&mut changes), HashSet::from([at(2)]));
    store.turn_dataset(dataset.id, UndoDirection::Undo, 2, &MR).await.unwrap();
    assert_eq!(told(&mut changes), HashSet::from([at(3)]));
    let view = store.keep_view(dataset.id, "All", &Default::default()).await.unwrap().remove(0);
    assert_eq!(told(&mut changes), HashSet::from([Changed::Views { dataset_id: dataset.id }]));
    store.forget_view(dataset.id, view.id).await.unwrap();
    assert_eq!(told(&mut changes), HashSet::from([Changed::Views { dataset_id: dataset.id }]));
    store.put_choice_list(None, &ListChange { revision: None, name: "Benches".into(), choices: vec!["A".into()] }).await.unwrap();
    assert_eq!(told(&mut changes), HashSet::from([Changed::Floor]));
    // Two in one transaction, by a statement that handles conflicts in its own way.
    let places = ["line 1", "line 2"].map(|line| WallPlace { column_id: dataset.columns[0].id, line: line.into(), ..WallPlace::default() });
    store.hang(&places).await.unwrap();
    assert_eq!(told(&mut changes), HashSet::from([Changed::Floor]));
    // What goes with it is told too.
    store.delete_dataset(dataset.id).await.unwrap();
    assert_eq!(told(&mut changes), HashSet::from([at(0), Changed::Study { id: study.id, revision: 0 }, Changed::Floor]));
}

#[tokio::test]
async fn every_table_is_watched_or_changes_only_with_one_that_is() {
    let (_folder, store) = opened().await;
    let mut writing = store.begin().await.unwrap();
    let of = "SELECT name FROM sqlite_schema WHERE type = 'table' AND name NOT LIKE 'sqlite_%' AND name NOT LIKE '_sqlx%'";
    let tables: Vec<String> = sqlx::query_scalar(of).fetch_all(&mut *writing).await.unwrap();
    let of = "SELECT tbl_name FROM temp.sqlite_schema WHERE type = 'trigger'";
    let watched: Vec<String> = sqlx::query_scalar(of).fetch_all(&mut *writing).await.unwrap();
    let watched: BTreeSet<String> = watched.into_iter().collect();
    // Of the cells of a dataset, its revision tells; of findings, that of their study; the rest nobody looks at.
    let with_others = ["dataset_column", "column_chunk", "category", "label_code", "before_image", "history"];
    let with_others = with_others.into_iter().chain(["finding", "cause", "collection_version", "wall_day", "recipe", "demo_item", "brief"]);
    let known: BTreeSet<String> = with_others.map(str::to_owned).chain(watched).collect();
    assert_eq!(tables.into_iter().collect::<BTreeSet<_>>(), known);
}
