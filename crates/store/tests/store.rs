//! The store on a temporary file: what is acknowledged stays, what is refused changes nothing.

use acorn_data::frame::{ColumnInfo, Kind};
use acorn_formats::{ReadOptions, Source, read};
use acorn_store::{
    CellEdit, Change, ColumnChange, Dataset, GoneRows, HistoryEvent, NewDataset, NewRows, NewStudy, Said, SignalRef, Store, StoreError,
    Study, StudyChange, UndoDirection,
};
use acorn_study::{DataSource, RoleColumns, Spec};

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
    let reading = read(&Source::open("flux.csv", text.into_bytes()).unwrap(), &ReadOptions::default()).unwrap();
    let infos = [("flux".to_owned(), ColumnInfo { unit: Some("lm".into()), lsl: Some(780.0), ..ColumnInfo::default() })];
    let new = NewDataset { name: "Beam flux", source: "flux.csv", table: &reading.table, infos: &infos, gauges: &[] };
    let dataset = store.create_dataset(new, &MR).await.unwrap();
    Fixture { folder, store, dataset }
}

async fn open(folder: &tempfile::TempDir) -> Store {
    Store::open(&folder.path().join("acorn.sqlite")).await.unwrap()
}

/// Types a text into a cell of the dataset as it was seen.
async fn edit(store: &Store, seen: &Dataset, column: usize, row: usize, text: &str) -> Result<Dataset, StoreError> {
    let edit = CellEdit { column_id: seen.columns[column].id, row, text: text.to_owned() };
    store.edit_cells(seen.id, seen.revision, &[edit], &MR).await
}

async fn undo(store: &Store, seen: &Dataset) -> Result<Dataset, StoreError> {
    store.turn_dataset(seen.id, UndoDirection::Undo, seen.revision, &MR).await
}

fn asked(dataset: &Dataset, spec: serde_json::Value) -> NewStudy {
    let spec: Spec = serde_json::from_value(spec).unwrap();
    NewStudy { name: None, spec: Spec { data: Some(DataSource::Dataset(dataset.id)), ..spec } }
}

async fn cell(store: &Store, id: i64, column: usize, row: usize) -> Option<String> {
    store.rows(id, row, 1).await.unwrap().cells[column][0].clone()
}

#[tokio::test]
async fn an_edit_across_chunks_is_kept_after_reopening_and_can_be_undone() {
    let Fixture { folder, store, dataset } = fixture(5000).await;
    let dataset = edit(&store, &dataset, 1, 4321, "812,75").await.unwrap();
    let dataset = edit(&store, &dataset, 2, 4321, "bench C").await.unwrap();
    let mut dataset = edit(&store, &dataset, 1, 0, "").await.unwrap();
    store.close().await;
    let store = open(&folder).await;
    assert_eq!(cell(&store, dataset.id, 1, 4321).await.as_deref(), Some("812.75"));
    assert_eq!(cell(&store, dataset.id, 2, 4321).await.as_deref(), Some("bench C"));
    assert_eq!(cell(&store, dataset.id, 1, 0).await, None);
    let frame = store.frame(dataset.id, |column| column.name == "flux").await.unwrap().1;
    assert_eq!((frame.rows(), frame.columns().len(), frame.row_id(4321)), (5000, 1, 4321));
    for _ in 0..3 {
        dataset = undo(&store, &dataset).await.unwrap();
    }
    assert_eq!(cell(&store, dataset.id, 1, 4321).await.as_deref(), Some("801.5"));
    assert_eq!(cell(&store, dataset.id, 1, 0).await.as_deref(), Some("800.5"));
    assert!(matches!(undo(&store, &dataset).await, Err(StoreError::NothingToUndo)));
    assert_eq!(store.history(dataset.id, 50).await.unwrap().len(), 7);
}

#[tokio::test]
async fn a_change_on_an_old_revision_is_refused() {
    let Fixture { folder: _folder, store, dataset } = fixture(10).await;
    edit(&store, &dataset, 1, 0, "1").await.unwrap();
    assert!(matches!(undo(&store, &dataset).await, Err(StoreError::Conflict { current: 2, given: 1, .. })));
    let late = edit(&store, &dataset, 1, 1, "2").await;
    assert!(matches!(late, Err(StoreError::Conflict { current: 2, given: 1, .. })));
    assert_eq!(cell(&store, dataset.id, 1, 1).await.as_deref(), Some("801.5"));
}

#[tokio::test]
async fn a_value_or_limit_that_cannot_be_changes_nothing() {
    let Fixture { folder: _folder, store, dataset } = fixture(10).await;
    let wrong = edit(&store, &dataset, 1, 0, "8O1").await;
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
async fn a_narrowed_study_follows_its_column_and_names_none_that_is_not_there() {
    let Fixture { folder: _folder, store, dataset } = fixture(10).await;
    let mut spec = plain_chart("flux");
    spec["only"] = serde_json::json!([{"column": "bench", "labels": ["B"], "role": "group"}, {"rows": [[1, 5]], "from": "points 2 to 6"}]);
    let study = store.create_study(&asked(&dataset, spec.clone()), &MR).await.unwrap();
    let renamed = ColumnChange { name: "press".into(), ..(&dataset.columns[2]).into() };
    store.change_column(dataset.id, dataset.columns[2].id, 1, renamed, &MR).await.unwrap();
    spec["only"][0]["column"] = "press".into();
    let followed = serde_json::to_value(&store.study(study.id).await.unwrap().spec.only).unwrap();
    assert_eq!(followed, spec["only"]);
    spec["only"][0]["column"] = "bench".into();
    let refused = store.create_study(&asked(&dataset, spec), &MR).await;
    assert!(matches!(refused, Err(StoreError::BadStatement { .. })));
}

#[tokio::test]
async fn studies_follow_a_renamed_column_and_keep_their_statement_history() {
    let Fixture { folder: _folder, store, dataset } = fixture(10).await;
    let study = store.create_study(&asked(&dataset, plain_chart("flux")), &MR).await.unwrap();
    let renamed = ColumnChange { name: "beam flux".into(), ..(&dataset.columns[1]).into() };
    store.change_column(dataset.id, dataset.columns[1].id, 1, renamed, &MR).await.unwrap();
    let study = store.study(study.id).await.unwrap();
    assert_eq!(study.spec.roles["measure"], RoleColumns::One("beam flux".into()));

    let mut spec = study.spec.clone();
    spec.options.insert("width".into(), 2.into());
    let change = StudyChange { revision: study.revision, name: Some("Final test".into()), spec: Some(spec), shown: None, change_id: None };
    let changed = store.change_study(study.id, &change, &MR).await.unwrap();
    assert_eq!((changed.name.as_deref(), changed.revision), (Some("Final test"), study.revision + 1));
    assert!(matches!(store.change_study(study.id, &change, &MR).await, Err(StoreError::Conflict { .. })));
    let undone = turn(&store, &changed, UndoDirection::Undo).await.unwrap();
    assert!(undone.spec.options.is_empty());
    let undone = turn(&store, &undone, UndoDirection::Undo).await.unwrap();
    assert_eq!(undone.name, None);
    let redone = turn(&store, &undone, UndoDirection::Redo).await.unwrap();
    let redone = turn(&store, &redone, UndoDirection::Redo).await.unwrap();
    assert_eq!((redone.name, redone.spec), (changed.name, changed.spec));
}

async fn turn(store: &Store, seen: &Study, turn: UndoDirection) -> Result<Study, StoreError> {
    store.turn_study(seen.id, turn, seen.revision, &MR).await
}

#[tokio::test]
async fn the_address_of_something_deleted_is_never_given_to_another() {
    let Fixture { folder, store, dataset } = fixture(10).await;
    let study = store.create_study(&asked(&dataset, plain_chart("flux")), &MR).await.unwrap();
    store.delete_study(study.id).await.unwrap();
    store.delete_dataset(dataset.id).await.unwrap();
    store.close().await;
    let store = open(&folder).await;
    let reading = read(&Source::open("flux.csv", b"flux\n1\n".to_vec()).unwrap(), &ReadOptions::default()).unwrap();
    let new = NewDataset { name: "Another", source: "flux.csv", table: &reading.table, infos: &[], gauges: &[] };
    let other = store.create_dataset(new, &MR).await.unwrap();
    assert!(other.id > dataset.id && other.columns[0].id > dataset.columns[2].id);
    let next = store.create_study(&asked(&other, plain_chart("flux")), &MR).await.unwrap();
    assert!(next.id > study.id);
}

#[tokio::test]
async fn a_row_keeps_its_id_while_rows_are_put_before_it_and_no_id_is_used_twice() {
    let Fixture { folder: _folder, store, dataset } = fixture(30).await;
    let id = dataset.id;
    let study = store.create_study(&asked(&dataset, plain_chart("flux")), &MR).await.unwrap();
    let cause = Said { cause: Some("weak reel".into()), left_out: Some(true), ..Said::default() };
    store.say(study.id, 1, about(&dataset, None, &[7]), cause, &MR).await.unwrap();
    let flux = dataset.columns[1].id;
    let new = |at, revision| NewRows { revision, at, column_ids: vec![flux], rows: vec![vec!["900".into()], vec![String::new()]] };
    let (dataset, ids) = store.add_rows(id, &new(Some(3), Some(1)), &MR).await.unwrap();
    assert_eq!((ids, dataset.row_count), (vec![30, 31], 32));
    let frame = store.frame(id, |_| true).await.unwrap().1;
    assert_eq!((0..6).map(|row| frame.row_id(row)).collect::<Vec<_>>(), [0, 1, 2, 30, 31, 3]);
    assert_eq!((cell(&store, id, 1, 3).await.as_deref(), cell(&store, id, 2, 3).await), (Some("900"), None));
    assert_eq!(store.study(study.id).await.unwrap().spec.omit, [7]);

    let dataset = edit(&store, &dataset, 1, 5, "1").await.unwrap();
    assert_eq!(store.history(id, 1).await.unwrap()[0].place, Some(5));
    let gone = GoneRows { revision: dataset.revision, row_ids: vec![0, 30] };
    let dataset = store.delete_rows(id, &gone, &MR).await.unwrap();
    assert_eq!(store.history(id, 2).await.unwrap()[1].place, Some(3));
    assert!(matches!(store.delete_rows(id, &GoneRows { revision: dataset.revision, ..gone }, &MR).await, Err(StoreError::NotFound { .. })));
    let mut dataset = dataset;
    for _ in 0..3 {
        dataset = undo(&store, &dataset).await.unwrap();
    }
    assert_eq!(dataset.row_count, 30);
    // What was undone does not free its ids.
    let (dataset, ids) = store.add_rows(id, &new(None, None), &MR).await.unwrap();
    assert_eq!((ids, dataset.row_count), (vec![32, 33], 32));
    assert_eq!(store.frame(id, |_| true).await.unwrap().1.row_id(31), 33);
    let odd = NewRows { rows: vec![vec!["1".into(), "2".into()]], ..new(None, None) };
    assert!(matches!(store.add_rows(id, &odd, &MR).await, Err(StoreError::BadRows { .. })));
    assert!(matches!(store.add_rows(id, &new(Some(3), None), &MR).await, Err(StoreError::BadRows { .. })));
}

#[tokio::test]
async fn undoing_a_kind_gives_back_what_its_text_would_lose() {
    let folder = tempfile::tempdir().unwrap();
    let store = open(&folder).await;
    let read_options: ReadOptions = serde_json::from_value(serde_json::json!({"columns": [{"kind": "text"}]})).unwrap_or_default();
    let reading = read(&Source::open("reels.csv", b"reel\n007\n-\n1e3\n".to_vec()).unwrap(), &read_options).unwrap();
    let new = NewDataset { name: "Reels", source: "reels.csv", table: &reading.table, infos: &[], gauges: &[] };
    let dataset = store.create_dataset(new, &MR).await.unwrap();
    let kind = |dataset: &Dataset, kind| ColumnChange { kind, ..(&dataset.columns[0]).into() };
    let column = dataset.columns[0].id;
    let dataset = match dataset.columns[0].kind {
        Kind::Text => dataset,
        _ => store.change_column(dataset.id, column, 1, kind(&dataset, Kind::Text), &MR).await.unwrap(),
    };
    let texts = || async { store.rows(dataset.id, 0, 3).await.unwrap().cells[0].clone() };
    let given = texts().await;
    let number = store.change_column(dataset.id, column, dataset.revision, kind(&dataset, Kind::Number), &MR).await.unwrap();
    assert_eq!(texts().await, [Some("7".to_owned()), None, Some("1000".to_owned())]);
    let undone = undo(&store, &number).await.unwrap();
    assert_eq!((texts().await, undone.columns[0].kind), (given, Kind::Text));
    let redone = store.turn_dataset(dataset.id, UndoDirection::Redo, undone.revision, &MR).await.unwrap();
    assert_eq!((texts().await[0].as_deref(), redone.columns[0].kind), (Some("7"), Kind::Number));
    assert!(matches!(store.turn_dataset(dataset.id, UndoDirection::Redo, redone.revision, &MR).await, Err(StoreError::NothingToRedo)));
    let newest = store.history(dataset.id, 3).await.unwrap().remove(0).event;
    assert!(matches!(newest, HistoryEvent::Turned { way: UndoDirection::Redo, .. }), "{newest:?}");
}

#[tokio::test]
async fn a_change_of_one_column_leaves_the_revision_of_the_others() {
    let Fixture { folder: _folder, store, dataset } = fixture(10).await;
    let revisions = |dataset: &Dataset| dataset.columns.iter().map(|column| column.revision).collect::<Vec<_>>();
    let dataset = edit(&store, &dataset, 1, 0, "1").await.unwrap();
    assert_eq!(revisions(&dataset), [1, 2, 1]);
    let dataset = undo(&store, &dataset).await.unwrap();
    assert_eq!(revisions(&dataset), [1, 3, 1]);
    let dataset = store.rename_dataset(dataset.id, 3, "Flux", &MR).await.unwrap();
    assert_eq!(revisions(&dataset), [1, 3, 1]);
    let rows = NewRows { revision: None, at: None, column_ids: vec![], rows: vec![vec![]] };
    assert_eq!(revisions(&store.add_rows(dataset.id, &rows, &MR).await.unwrap().0), [5, 5, 5]);
}

#[tokio::test]
async fn a_study_may_have_a_table_of_its_own_or_none() {
    let Fixture { folder: _folder, store, dataset: _ } = fixture(10).await;
    let typed: Spec = serde_json::from_value(serde_json::json!({"method": "sigma-level", "options": {"units": 9}})).unwrap();
    let none = store.create_study(&NewStudy { name: None, spec: typed }, &MR).await.unwrap();
    assert_eq!((none.dataset_id, none.spec.data), (None, None));
    let own = serde_json::json!({"method": "control-chart", "roles": {"measure": "flux"}, "data": {"columns": {"flux": [1, 2, null]}}});
    let own = store.create_study(&NewStudy { name: None, spec: serde_json::from_value(own).unwrap() }, &MR).await.unwrap();
    let table = store.dataset(own.dataset_id.unwrap()).await.unwrap();
    assert_eq!((table.owned, table.row_count, own.spec.roles["measure"].clone()), (true, 3, RoleColumns::One("flux".into())));
    assert_eq!(store.datasets().await.unwrap().len(), 1);
    assert!(matches!(store.create_study(&asked(&table, plain_chart("flux")), &MR).await, Err(StoreError::BadStatement { .. })));
    edit(&store, &table, 0, 2, "3").await.unwrap();
    store.delete_study(own.id).await.unwrap();
    assert!(matches!(store.dataset(table.id).await, Err(StoreError::NotFound { .. })));
}

#[tokio::test]
async fn a_deleted_dataset_takes_its_studies_along_and_a_demo_item_is_claimed_once() {
    let Fixture { folder: _folder, store, dataset } = fixture(10).await;
    let study = store.create_study(&asked(&dataset, serde_json::json!({"method": "control-chart"})), &MR).await.unwrap();
    store.delete_dataset(dataset.id).await.unwrap();
    assert!(matches!(store.study(study.id).await, Err(StoreError::NotFound { what: "study", .. })));
    assert!(store.datasets().await.unwrap().is_empty());
    assert!(store.claim_demo_item("flux").await.unwrap());
    assert!(!store.claim_demo_item("flux").await.unwrap());
}

fn plain_chart(column: &str) -> serde_json::Value {
    serde_json::json!({"method": "control-chart", "roles": {"measure": column}})
}

fn about(dataset: &Dataset, finding: Option<i64>, rows: &[i64]) -> SignalRef {
    SignalRef {
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
    let study = store.create_study(&asked(&dataset, plain_chart("flux")), &MR).await.unwrap();
    let say = |revision: i64, finding: Option<i64>, said: Said| store.say(study.id, revision, about(&dataset, finding, &[4, 5]), said, &MR);

    let out = Said { left_out: Some(true), ..Said::default() };
    assert!(matches!(say(1, None, out.clone()).await, Err(StoreError::BadFinding { .. })));
    let mut sneaky = asked(&dataset, plain_chart("flux")).spec;
    sneaky.omit = vec![4];
    let change = StudyChange { revision: 1, spec: Some(sneaky.clone()), ..StudyChange::default() };
    assert!(matches!(store.change_study(study.id, &change, &MR).await, Err(StoreError::BadFinding { .. })));
    assert!(store.create_study(&NewStudy { name: None, spec: sneaky }, &MR).await.is_err());

    let caused = say(1, None, Said { cause: Some(" weak reel ".into()), ..out }).await.unwrap();
    assert_eq!(caused.spec.omit, [4, 5]);
    assert_eq!(store.causes(dataset.columns[1].id).await.unwrap(), ["weak reel"]);
    let finding = store.findings(study.id).await.unwrap().remove(0);
    // What is said later stands on top of what was said before.
    let more = say(2, Some(finding.id), Said { owner: Some("Ida".into()), ..Said::default() }).await.unwrap();
    let both = store.findings(study.id).await.unwrap().remove(0);
    assert_eq!((both.cause.as_deref(), both.owner.as_str(), both.left_out), (Some("weak reel"), "Ida", true));
    assert!(matches!(say(2, Some(finding.id), Said::default()).await, Err(StoreError::Conflict { current: 3, .. })));
    // Statement changes keep the omission; taking the cause back ends it.
    let kept = StudyChange { revision: more.revision, spec: Some(more.spec.clone()), ..StudyChange::default() };
    assert_eq!(store.change_study(study.id, &kept, &MR).await.unwrap().spec.omit, [4, 5]);
    let without = say(3, Some(finding.id), Said { cause: Some(String::new()), ..Said::default() }).await.unwrap();
    assert_eq!(without.spec.omit, [0; 0]);
    let mut undone = turn(&store, &without, UndoDirection::Undo).await.unwrap();
    assert_eq!(undone.spec.omit, [4, 5]);
    for _ in 0..2 {
        undone = turn(&store, &undone, UndoDirection::Undo).await.unwrap();
    }
    assert_eq!(store.findings(study.id).await.unwrap(), []);
    assert!(matches!(turn(&store, &undone, UndoDirection::Undo).await, Err(StoreError::NothingToUndo)));
}

#[tokio::test]
async fn marks_that_show_are_kept_with_the_study_undone_and_bounded() {
    let Fixture { folder: _folder, store, dataset } = fixture(10).await;
    let study = store.create_study(&asked(&dataset, plain_chart("flux")), &MR).await.unwrap();
    assert!(study.shown.is_empty());
    let show = |shown: &[(&str, bool)], on: &Study| StudyChange {
        revision: on.revision,
        shown: Some(shown.iter().map(|(mark, on)| ((*mark).to_owned(), *on)).collect()),
        ..StudyChange::default()
    };
    let changed = store.change_study(study.id, &show(&[("zones", true)], &study), &MR).await.unwrap();
    assert_eq!((changed.shown["zones"], changed.revision, &changed.spec), (true, study.revision + 1, &study.spec));
    // The same again is no change, and no line of history.
    let same = store.change_study(study.id, &show(&[("zones", true)], &changed), &MR).await.unwrap();
    assert_eq!(same.revision, changed.revision);
    let lines = store.study_history(study.id, 9).await.unwrap();
    assert_eq!(lines.iter().filter(|(line, _)| matches!(line.event, HistoryEvent::Shown { .. })).count(), 1);
    let undone = turn(&store, &same, UndoDirection::Undo).await.unwrap();
    assert!(undone.shown.is_empty());
    let redone = turn(&store, &undone, UndoDirection::Redo).await.unwrap();
    assert_eq!(redone.shown, changed.shown);
    let many: Vec<String> = (0..101).map(|mark| format!("mark {mark}")).collect();
    let many: Vec<(&str, bool)> = many.iter().map(|mark| (mark.as_str(), true)).collect();
    for bad in [&many[..], &[("  ", true)]] {
        assert!(matches!(store.change_study(study.id, &show(bad, &redone), &MR).await, Err(StoreError::BadStatement { .. })));
    }
    assert_eq!(store.study(study.id).await.unwrap(), redone);
}
