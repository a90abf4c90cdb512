//! The store on a temporary file: what is acknowledged stays, what is refused changes nothing.

use acorn_core::frame::{ColumnInfo, Kind, Values};
use acorn_core::study::{RoleColumns, Spec};
use acorn_formats::{Source, Wish, read};
use acorn_store::{About, CellEdit, Change, ColumnChange, Dataset, NewDataset, NewStudy, Said, Store, StoreError, StudyChange};

const MR: Change<'static> = Change { actor: "MR", at: 1_767_225_600_000 };

struct Fixture {
    folder: tempfile::TempDir,
    store: Store,
    dataset: Dataset,
}

async fn fixture(rows: usize) -> Fixture {
    let folder = tempfile::tempdir().unwrap();
    let store = open(&folder).await;
    let mut text = String::from("lamp,flux,bench\n");
    (0..rows).for_each(|i| text += &format!("{i},{}.5,{}\n", 800 + i % 20, ["A", "B"][i % 2]));
    let reading = read(&Source::open("flux.csv", text.into_bytes()).unwrap(), &Wish::default()).unwrap();
    let infos = [("flux".to_owned(), ColumnInfo { unit: Some("lm".into()), lsl: Some(780.0), ..ColumnInfo::default() })];
    let new = NewDataset { name: "Beam flux", source: "flux.csv", table: &reading.table, infos: &infos };
    let dataset = store.create_dataset(new, &MR).await.unwrap();
    Fixture { folder, store, dataset }
}

async fn open(folder: &tempfile::TempDir) -> Store {
    Store::open(&folder.path().join("acorn.sqlite")).await.unwrap()
}

fn edit(dataset: &Dataset, column: usize, row: usize, text: &str) -> CellEdit {
    CellEdit { revision: dataset.revision, column_id: dataset.columns[column].id, row, text: text.to_owned() }
}

async fn cell(store: &Store, id: i64, column: usize, row: usize) -> Option<String> {
    store.rows(id, row, 1).await.unwrap().cells[column][0].clone()
}

#[tokio::test]
async fn an_edit_across_chunks_is_kept_after_reopening_and_can_be_undone() {
    let Fixture { folder, store, dataset } = fixture(5000).await;
    let dataset = store.edit_cell(dataset.id, &edit(&dataset, 1, 4321, "812,75"), &MR).await.unwrap();
    let dataset = store.edit_cell(dataset.id, &edit(&dataset, 2, 4321, "bench C"), &MR).await.unwrap();
    let dataset = store.edit_cell(dataset.id, &edit(&dataset, 1, 0, ""), &MR).await.unwrap();
    store.close().await;
    let store = open(&folder).await;
    assert_eq!(cell(&store, dataset.id, 1, 4321).await.as_deref(), Some("812.75"));
    assert_eq!(cell(&store, dataset.id, 2, 4321).await.as_deref(), Some("bench C"));
    assert_eq!(cell(&store, dataset.id, 1, 0).await, None);
    let frame = store.frame(dataset.id, |column| column.name == "flux").await.unwrap().1;
    assert_eq!((frame.rows(), frame.columns().len(), frame.row_id(4321)), (5000, 1, 4321));
    for _ in 0..3 {
        store.undo_dataset(dataset.id, &MR).await.unwrap();
    }
    assert_eq!(cell(&store, dataset.id, 1, 4321).await.as_deref(), Some("801.5"));
    assert_eq!(cell(&store, dataset.id, 1, 0).await.as_deref(), Some("800.5"));
    assert!(matches!(store.undo_dataset(dataset.id, &MR).await, Err(StoreError::NothingToUndo)));
    assert_eq!(store.history(dataset.id, 50).await.unwrap().len(), 7);
}

#[tokio::test]
async fn a_change_on_an_old_revision_is_refused() {
    let Fixture { folder: _folder, store, dataset } = fixture(10).await;
    store.edit_cell(dataset.id, &edit(&dataset, 1, 0, "1"), &MR).await.unwrap();
    let late = store.edit_cell(dataset.id, &edit(&dataset, 1, 1, "2"), &MR).await;
    assert!(matches!(late, Err(StoreError::Conflict { current: 2, given: 1, .. })));
    assert_eq!(cell(&store, dataset.id, 1, 1).await.as_deref(), Some("801.5"));
}

#[tokio::test]
async fn a_value_or_limit_that_cannot_be_changes_nothing() {
    let Fixture { folder: _folder, store, dataset } = fixture(10).await;
    let wrong = store.edit_cell(dataset.id, &edit(&dataset, 1, 0, "8O1"), &MR).await;
    assert_eq!(wrong.unwrap_err().to_string(), "“8O1” is not a number");
    let flux = &dataset.columns[1];
    let crossed = ColumnChange { info: ColumnInfo { lsl: Some(9.0), usl: Some(8.0), ..ColumnInfo::default() }, ..flux.into() };
    let taken = ColumnChange { name: "bench".into(), ..flux.into() };
    let labels = ColumnChange { kind: Kind::Number, ..(&dataset.columns[2]).into() };
    for (column, change) in [(flux.id, crossed), (flux.id, taken), (dataset.columns[2].id, labels)] {
        assert!(store.change_column(dataset.id, column, 1, change, &MR).await.is_err());
    }
    assert_eq!(store.dataset(dataset.id).await.unwrap(), dataset);
}

#[tokio::test]
async fn studies_follow_a_renamed_column_and_keep_their_statement_history() {
    let Fixture { folder: _folder, store, dataset } = fixture(10).await;
    let spec: Spec = serde_json::from_str(r#"{"method": "control-chart", "roles": {"measure": "flux"}}"#).unwrap();
    let study = store.create_study(dataset.id, &NewStudy { name: None, spec }, &MR).await.unwrap();
    let renamed = ColumnChange { name: "beam flux".into(), ..(&dataset.columns[1]).into() };
    store.change_column(dataset.id, dataset.columns[1].id, 1, renamed, &MR).await.unwrap();
    let study = store.study(study.id).await.unwrap();
    assert_eq!(study.spec.roles["measure"], RoleColumns::One("beam flux".into()));

    let mut spec = study.spec.clone();
    spec.options.insert("width".into(), 2.into());
    let change = StudyChange { revision: study.revision, name: Some("Final test".into()), spec: Some(spec) };
    let changed = store.change_study(study.id, &change, &MR).await.unwrap();
    assert_eq!((changed.name.as_deref(), changed.revision), (Some("Final test"), study.revision + 1));
    assert!(matches!(store.change_study(study.id, &change, &MR).await, Err(StoreError::Conflict { .. })));
    assert!(store.undo_study(study.id, &MR).await.unwrap().spec.options.is_empty());
    assert_eq!(store.undo_study(study.id, &MR).await.unwrap().name, None);
}

#[tokio::test]
async fn a_kind_can_be_changed_and_changed_back() {
    let Fixture { folder: _folder, store, dataset } = fixture(3000).await;
    let as_text = ColumnChange { kind: Kind::Text, ..(&dataset.columns[1]).into() };
    let changed = store.change_column(dataset.id, dataset.columns[1].id, 1, as_text, &MR).await.unwrap();
    assert_eq!(changed.columns[1].kind, Kind::Text);
    store.undo_dataset(dataset.id, &MR).await.unwrap();
    let frame = store.frame(dataset.id, |column| column.name == "flux").await.unwrap().1;
    let Values::Number(flux) = &frame.column("flux").unwrap().values else { panic!("flux is no number") };
    assert_eq!((flux.len(), flux[2999]), (3000, 819.5));
}

#[tokio::test]
async fn a_deleted_dataset_takes_its_studies_along_and_a_demo_item_is_claimed_once() {
    let Fixture { folder: _folder, store, dataset } = fixture(10).await;
    let spec: Spec = serde_json::from_str(r#"{"method": "control-chart"}"#).unwrap();
    let study = store.create_study(dataset.id, &NewStudy { name: None, spec }, &MR).await.unwrap();
    store.delete_dataset(dataset.id).await.unwrap();
    assert!(matches!(store.study(study.id).await, Err(StoreError::NotFound { what: "study", .. })));
    assert!(store.datasets().await.unwrap().is_empty());
    assert!(store.claim_demo_item("flux").await.unwrap());
    assert!(!store.claim_demo_item("flux").await.unwrap());
}

fn plain_chart(column: &str) -> Spec {
    serde_json::from_value(serde_json::json!({"method": "control-chart", "roles": {"measure": column}})).unwrap()
}

fn about(dataset: &Dataset, finding: Option<i64>, rows: &[i64]) -> About {
    About {
        finding,
        panel: "individuals".into(),
        pattern: "beyond-limits".into(),
        row_ids: rows.to_vec(),
        sentence: "Value 5 lies above the upper limit.".into(),
        column_id: dataset.columns[1].id,
    }
}

#[tokio::test]
async fn rows_are_left_out_only_with_a_cause_and_come_back_with_undo() {
    let Fixture { folder: _folder, store, dataset } = fixture(40).await;
    let new = NewStudy { name: None, spec: plain_chart("flux") };
    let study = store.create_study(dataset.id, &new, &MR).await.unwrap();
    let say = |revision: i64, finding: Option<i64>, said: Said| store.say(study.id, revision, about(&dataset, finding, &[4, 5]), said, &MR);

    let out = Said { left_out: Some(true), ..Said::default() };
    assert!(matches!(say(1, None, out.clone()).await, Err(StoreError::BadFinding { .. })));
    let mut sneaky = plain_chart("flux");
    sneaky.options.insert("omit".into(), serde_json::json!([4]));
    let change = StudyChange { revision: 1, spec: Some(sneaky.clone()), ..StudyChange::default() };
    assert!(matches!(store.change_study(study.id, &change, &MR).await, Err(StoreError::BadFinding { .. })));
    assert!(store.create_study(dataset.id, &NewStudy { name: None, spec: sneaky }, &MR).await.is_err());

    let caused = say(1, None, Said { cause: Some(" weak reel ".into()), ..out }).await.unwrap();
    assert_eq!(caused.spec.options["omit"], serde_json::json!([4, 5]));
    assert_eq!(store.causes(dataset.columns[1].id).await.unwrap(), ["weak reel"]);
    let finding = store.findings(study.id).await.unwrap().remove(0);
    // What is said later stands on top of what was said before.
    let more = say(2, Some(finding.id), Said { owner: Some("Ida".into()), ..Said::default() }).await.unwrap();
    let both = store.findings(study.id).await.unwrap().remove(0);
    assert_eq!((both.cause.as_deref(), both.owner.as_str(), both.left_out), (Some("weak reel"), "Ida", true));
    assert!(matches!(say(2, Some(finding.id), Said::default()).await, Err(StoreError::Conflict { current: 3, .. })));
    // Statement changes keep the omission; taking the cause back ends it.
    let kept = StudyChange { revision: more.revision, spec: Some(more.spec.clone()), ..StudyChange::default() };
    assert_eq!(store.change_study(study.id, &kept, &MR).await.unwrap().spec.options["omit"], serde_json::json!([4, 5]));
    let without = say(3, Some(finding.id), Said { cause: Some(String::new()), ..Said::default() }).await.unwrap();
    assert_eq!(without.spec.options.get("omit"), None);
    assert_eq!(store.undo_study(study.id, &MR).await.unwrap().spec.options["omit"], serde_json::json!([4, 5]));
    for _ in 0..2 {
        store.undo_study(study.id, &MR).await.unwrap();
    }
    assert_eq!(store.findings(study.id).await.unwrap(), []);
    assert!(matches!(store.undo_study(study.id, &MR).await, Err(StoreError::NothingToUndo)));
}
