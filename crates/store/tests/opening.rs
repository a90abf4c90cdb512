//! Opening a store, and a disk that is full.

use acorn_store::*;
use sqlx::sqlite::SqliteConnectOptions;
use sqlx::{Connection, SqliteConnection};

/// A file as the second version of the tables left it: a study, a finding, an edited cell, a deleted label.
const OLDER: &str = r#"
    INSERT INTO dataset (name, source, created_at, row_count, next_row_id) VALUES ('Flux', 'flux.csv', 1, 2, 2);
    INSERT INTO dataset_column (dataset_id, position, name, kind, lsl) VALUES (1, -1, '(row id)', 'row-id', NULL), (1, 0, 'flux', 'number', 780.0);
    INSERT INTO column_chunk VALUES (1, 0, 2, x'00000000000000000100000000000000'), (2, 0, 2, x'00000000000000400000000000000840');
    INSERT INTO study (dataset_id, spec, created_at, updated_at) VALUES
        (1, '{"method": "control-chart", "roles": {"measure": "flux", "group": ["flux"]}, "options": {"width": 2}}', 1, 1);
    INSERT INTO cause (column_id, words) VALUES (2, 'weak reel');
    INSERT INTO finding (study_id, panel, pattern, row_ids, sentence, cause_id, words, action, owner, done, left_out, actor, at)
        VALUES (1, 'individuals', 'beyond-limits', '[1]', 'High.', 1, '', '', '', 0, 1, 'MR', 1);
    INSERT INTO history (dataset_id, what, target, before, after, actor, at) VALUES (1, 'cell', '{"column_id":2,"column":"flux","row":1}', '"2"', '"3"', 'MR', 1);
    INSERT INTO history (dataset_id, study_id, what, target, before, after, actor, at) VALUES (1, 1, 'statement', '{}',
        '{"method": "control-chart", "roles": {"measure": "flux"}, "options": {}}',
        '{"method": "control-chart", "roles": {"measure": "flux", "group": ["flux"]}, "options": {"width": 2}}', 'MR', 1);
"#;

#[tokio::test]
async fn an_older_file_keeps_everything_when_it_is_opened() {
    let folder = tempfile::tempdir().unwrap();
    let file = folder.path().join("acorn.sqlite");
    let options = SqliteConnectOptions::new().filename(&file).create_if_missing(true);
    let mut connection = SqliteConnection::connect_with(&options).await.unwrap();
    let mut older = sqlx::migrate!();
    older.migrations.to_mut().truncate(2);
    older.run(&mut connection).await.unwrap();
    sqlx::raw_sql(OLDER).execute(&mut connection).await.unwrap();
    connection.close().await.unwrap();

    let store = Store::open(&file).await.unwrap();
    let study = store.study(1).await.unwrap();
    let spec = serde_json::json!({"method": "control-chart", "roles": {"measure": "flux", "group": ["flux"]}, "options": {"width": 2},
        "omit": [1], "data": {"dataset": 1}});
    assert_eq!(serde_json::to_value(&study.spec).unwrap(), spec);
    assert_eq!(store.rows(1, 0, 9).await.unwrap().cells, [[Some("2".to_owned()), Some("3".to_owned())]]);
    let line = store.history(1, 9).await.unwrap().remove(0);
    assert_eq!((line.stage, line.place), (Stage::Fixed, Some(1)));
    let undone = store.turn_study(1, UndoDirection::Undo, study.revision, &Change { actor: "MR", at: 2 }).await.unwrap();
    assert_eq!(undone.spec.roles.len(), 1);
    // What refers to a table that was built anew still follows it.
    store.delete_dataset(1).await.unwrap();
    assert!(store.studies().await.unwrap().is_empty() && store.findings(1).await.unwrap().is_empty());
}

#[tokio::test]
async fn a_full_disk_is_told_and_keeps_nothing_from_being_written_once_there_is_room() {
    let folder = tempfile::tempdir().unwrap();
    let store = Store::open(&folder.path().join("acorn.sqlite")).await.unwrap();
    let change = Change { actor: "MR", at: 0 };
    let made = async |rows: u32| {
        let text = (0..rows).fold("flux\n".to_owned(), |text, row| text + &format!("{}\n", f64::from(row).sqrt()));
        let source = acorn_formats::Source::open("flux.csv", text.into_bytes()).unwrap();
        let reading = acorn_formats::read(&source, &acorn_formats::ReadOptions::default()).unwrap();
        let new = NewDataset { name: "Flux", source: "flux.csv", table: &reading.table, infos: &[], gauges: &[] };
        store.create_dataset(new, &change).await
    };
    made(10).await.unwrap();
    let pages: i64 = sqlx::query_scalar("PRAGMA page_count").fetch_one(&store.writer).await.unwrap();
    sqlx::query(sqlx::AssertSqlSafe(format!("PRAGMA max_page_count = {}", pages + 8))).execute(&store.writer).await.unwrap();
    let full = made(100_000).await.unwrap_err();
    assert!(full.is_full(), "{full}");
    assert_eq!(store.datasets().await.unwrap().len(), 1);
    // What a disk does that is really full: the transaction ends behind the back of its connection.
    let mut ended = store.begin().await.unwrap();
    sqlx::query("ROLLBACK").execute(&mut *ended).await.unwrap();
    drop(ended);
    made(100_000).await.unwrap();
}
