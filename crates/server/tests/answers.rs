//! `answers`.

use acorn_data::frame::ColumnInfo;
use acorn_formats::{ReadOptions, Source, read};
use acorn_store::{CellEdit, Change, NewDataset, NewRows, NewStudy};
use serde_json::{Value, json};

use acorn_server::service::answers::*;
use acorn_server::service::jobs::JobSubject;
use acorn_server::service::live::Live;
use acorn_store::{Dataset, Store};
use acorn_study::Spec;
use std::collections::HashMap;
use std::sync::Arc;
use std::time::Duration;

const MR: Change<'static> = Change { actor: "MR", at: 1 };

async fn answers() -> (tempfile::TempDir, Answers, Dataset) {
    let folder = tempfile::tempdir().unwrap();
    let store = Store::open(&folder.path().join("acorn.sqlite")).await.unwrap();
    let text: String = (0..60).map(|i| format!("{}.5,{}.5\n", i * 7 % 23, i % 9)).collect();
    let source = acorn_formats::Source::open("a.csv", format!("flux,gap\n{text}").into_bytes()).unwrap();
    let table = acorn_formats::read(&source, &acorn_formats::ReadOptions::default()).unwrap().table;
    let dataset =
        store.create_dataset(NewDataset { name: "A", source: "a.csv", table: &table, infos: &[], gauges: &[] }, &MR).await.unwrap();
    (folder, Answers::new(store, Live::default()), dataset)
}

fn chart(dataset: &Dataset, column: &str) -> Spec {
    let spec = serde_json::json!({"method": "control-chart", "roles": {"measure": column}, "data": {"dataset": dataset.id}});
    serde_json::from_value(spec).unwrap()
}

#[tokio::test]
async fn many_who_ask_at_once_share_one_computation() {
    let (_folder, answers, dataset) = answers().await;
    for spec in [
        chart(&dataset, "flux"),
        Spec { data: None, ..serde_json::from_str(r#"{"method": "sigma-level", "options": {"units": 9, "defects": 1}}"#).unwrap() },
    ] {
        let all = futures::future::join_all((0..20).map(|_| answers.answer(&spec))).await;
        let first = all[0].as_ref().unwrap();
        assert!(all.iter().all(|answer| Arc::ptr_eq(answer.as_ref().unwrap(), first)));
    }
    assert!(answers.jobs.is_idle());
}

#[tokio::test]
async fn a_change_is_answered_anew_where_its_column_is_read_and_nowhere_else() {
    let (_folder, answers, dataset) = answers().await;
    let (flux, gap) = (chart(&dataset, "flux"), chart(&dataset, "gap"));
    let before = (answers.answer(&flux).await.unwrap(), answers.answer(&gap).await.unwrap());
    let edit = CellEdit { column_id: dataset.columns[0].id, row: 3, text: "99".into() };
    answers.store.edit_cells(dataset.id, 1, &[edit], &MR).await.unwrap();
    let after = (answers.answer(&flux).await.unwrap(), answers.answer(&gap).await.unwrap());
    assert!(!Arc::ptr_eq(&before.0, &after.0) && Arc::ptr_eq(&before.1, &after.1));
    answers.store.rename_dataset(dataset.id, 2, "B", &MR).await.unwrap();
    assert!(Arc::ptr_eq(&after.0, &answers.answer(&flux).await.unwrap()));
    let rows = NewRows { revision: None, at: None, column_ids: vec![], rows: vec![vec![]] };
    answers.store.add_rows(dataset.id, &rows, &MR).await.unwrap();
    assert!(!Arc::ptr_eq(&after.1, &answers.answer(&gap).await.unwrap()));
    let summaries = answers.summaries(&answers.store.dataset(dataset.id).await.unwrap()).await.unwrap();
    assert_eq!((summaries[0].n, summaries[0].missing), (60, 1));
}

#[tokio::test]
async fn a_page_about_many_studies_gets_the_last_answer_while_others_are_in_line() {
    let (_folder, answers, dataset) = answers().await;
    let (flux, gap) = (chart(&dataset, "flux"), chart(&dataset, "gap"));
    let at_hand = async |spec: &Spec, asked_for: For| {
        let dataset = answers.store.dataset(dataset.id).await.unwrap();
        let CachedAnswer { found, stale } = answers.at_hand(spec, &HashMap::from([(dataset.id, &dataset)]), asked_for).await;
        (found.unwrap(), stale)
    };
    let (before, stale) = at_hand(&flux, For::Many).await;
    assert!(!stale, "the first is waited for");
    let edit = |row, text: &str| CellEdit { column_id: dataset.columns[0].id, row, text: text.into() };
    answers.store.edit_cells(dataset.id, 1, &[edit(3, "99")], &MR).await.unwrap();
    let (listed, _) = answers.jobs.start(&key(&gap, []), JobSubject { method: "capability".into(), dataset_id: None });
    for asked_for in [For::One, For::Many] {
        let (last, stale) = at_hand(&flux, asked_for).await;
        assert!(stale && Arc::ptr_eq(&last, &before), "{asked_for:?}");
    }
    let (fresh, stale) = answers.of_one(&flux, true).await.unwrap();
    assert!(!stale && !Arc::ptr_eq(&fresh, &before), "who wants the newest waits for it");
    answers.store.edit_cells(dataset.id, 2, &[edit(3, "98")], &MR).await.unwrap();
    assert!(at_hand(&flux, For::Many).await.1);
    let until = std::time::Instant::now() + Duration::from_secs(30);
    while at_hand(&flux, For::Many).await.1 {
        assert!(std::time::Instant::now() < until, "nobody works it out anew");
        tokio::time::sleep(Duration::from_millis(20)).await;
    }
    drop(listed);
    while !answers.queue.is_idle() {
        tokio::time::sleep(Duration::from_millis(20)).await;
    }
    answers.store.edit_cells(dataset.id, 3, &[edit(3, "97")], &MR).await.unwrap();
    assert!(!at_hand(&flux, For::One).await.1, "nobody else is in line");
    answers.computed.run_pending_tasks().await;
    assert_eq!(answers.computed.entry_count(), 1, "what is out of date is not kept");
}

#[tokio::test]
async fn what_nobody_waits_for_is_asked_to_stop() {
    let (tell, told) = tokio::sync::oneshot::channel();
    let endless = compute(move |cancel| {
        while cancel.check().is_ok() {
            std::thread::sleep(Duration::from_millis(1));
        }
        let _ = tell.send(());
        Ok(cancel.check()?)
    });
    assert!(tokio::time::timeout(Duration::from_millis(20), endless).await.is_err());
    told.await.unwrap();
}

#[tokio::test]
async fn an_answer_nobody_waits_for_is_stopped_and_one_kept_weighs_what_it_holds() {
    let (_folder, answers, dataset) = answers().await;
    let slow: Spec = serde_json::from_value(serde_json::json!({"method": "capability", "roles": {"measure": "flux"},
        "options": {"shape": "best-fit", "lsl": 0, "usl": 30}, "data": {"dataset": dataset.id}}))
    .unwrap();
    let mut asked = Box::pin(answers.answer(&slow));
    while answers.jobs.is_idle() {
        assert!(futures::poll!(&mut asked).is_pending(), "it was never listed");
        tokio::task::yield_now().await;
    }
    drop(asked);
    assert!(answers.jobs.is_idle());
    let kept = answers.answer(&chart(&dataset, "flux")).await.unwrap();
    answers.computed.run_pending_tasks().await;
    assert!(answers.computed.weighted_size() as usize >= kept.bytes() && kept.bytes() > 60 * 8 * 2);
}

/// A service on a folder, until it is stopped.
async fn serving(folder: &std::path::Path) -> (String, tokio::sync::oneshot::Sender<()>, tokio::task::JoinHandle<()>) {
    let store = Store::open(&folder.join("acorn.sqlite")).await.unwrap();
    let listener = tokio::net::TcpListener::bind("127.0.0.1:0").await.unwrap();
    let address = format!("http://{}", listener.local_addr().unwrap());
    let (stop, stopped) = tokio::sync::oneshot::channel();
    let until = async move { drop(stopped.await) };
    let served = acorn_server::serve(listener, None, store, acorn_server::AlertSettings::default(), Vec::new(), until);
    (address, stop, tokio::spawn(async move { served.await.unwrap() }))
}

#[tokio::test]
async fn after_a_restart_the_wall_and_the_signals_stand_as_the_last_run_left_them() {
    let folder = tempfile::tempdir().unwrap();
    let store = Store::open(&folder.path().join("acorn.sqlite")).await.unwrap();
    let text = (0..30).fold("flux\n".to_owned(), |text, at| text + &format!("{}\n", if at == 20 { 900 } else { 800 + at % 3 }));
    let reading = read(&Source::open("flux.csv", text.into_bytes()).unwrap(), &ReadOptions::default()).unwrap();
    let infos = [("flux".to_owned(), ColumnInfo { lsl: Some(780.0), ..ColumnInfo::default() })];
    let new = NewDataset { name: "Flux", source: "flux.csv", table: &reading.table, infos: &infos, gauges: &[] };
    let dataset = store.create_dataset(new, &MR).await.unwrap();
    let spec = json!({"method": "control-chart", "roles": {"measure": "flux"}, "data": {"dataset": dataset.id}});
    store.create_study(&NewStudy { name: None, spec: serde_json::from_value(spec).unwrap() }, &MR).await.unwrap();
    store.close().await;
    let get = async |address: &str, path: &str| -> Value { reqwest::get(format!("{address}{path}")).await.unwrap().json().await.unwrap() };
    let (address, stop, served) = serving(folder.path()).await;
    let wall = get(&address, "/api/wall").await;
    let open = get(&address, "/api/signals").await;
    assert!(wall[0]["dial"]["signals"].as_u64() > Some(0) && open["total"].as_u64() > Some(0), "{wall}");
    drop(stop);
    served.await.unwrap();
    // What is kept is told apart from what is worked out again.
    let store = Store::open(&folder.path().join("acorn.sqlite")).await.unwrap();
    let mut kept = store.briefs().await.unwrap();
    assert_eq!(kept.len(), 1);
    kept[0].brief = kept[0].brief.replacen(wall[0]["verdict"]["title"].as_str().unwrap(), "Of the last run", 1);
    store.keep_briefs(&kept, 9).await.unwrap();
    store.close().await;
    let (address, stop, served) = serving(folder.path()).await;
    let again = get(&address, "/api/wall").await;
    assert_eq!((&again[0]["verdict"]["title"], &again[0]["stale"]), (&json!("Of the last run"), &json!(false)));
    assert_eq!(again[0]["dial"], wall[0]["dial"]);
    assert_eq!(get(&address, "/api/signals").await["total"], open["total"]);
    // Behind the page it is worked out again.
    for _ in 0..200 {
        if get(&address, "/api/wall").await[0]["verdict"] == wall[0]["verdict"] {
            break;
        }
        tokio::time::sleep(std::time::Duration::from_millis(50)).await;
    }
    assert_eq!(get(&address, "/api/wall").await[0]["verdict"], wall[0]["verdict"]);
    drop(stop);
    served.await.unwrap();
}
