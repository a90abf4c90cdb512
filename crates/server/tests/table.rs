//! The table over HTTP: columns, formulas, views, what goes out.

use crate::common::{Service, problem};
use reqwest::Method;
use serde_json::{Value, json};

async fn sent(service: &Service, method: Method, path: &str, body: Value) -> Value {
    let answer = service.send(method, path, body).await;
    let (status, text) = (answer.status(), answer.text().await.unwrap());
    assert!(status.is_success(), "{path}: {text}");
    serde_json::from_str(&text).unwrap_or(Value::Null)
}

#[tokio::test]
async fn columns_are_worked_out_checked_while_typed_and_arranged() {
    let service = Service::start().await;
    let dataset = service.dataset([4.0, 9.0, -1.0, 16.0].into_iter()).await;
    let path = format!("/api/datasets/{}", dataset["id"]);
    let check = async |formula: &str| sent(&service, Method::POST, &format!("{path}/formula"), json!({"formula": formula})).await;
    let read = check("sqrt(flux)").await;
    assert_eq!((&read["kind"], &read["values"], &read["missing"]), (&json!("number"), &json!(["2", "3", null, "4"]), &json!(1)));
    assert_eq!((&read["why"], &read["notation"]["line"]), (&json!("row 3: sqrt(−1) has no value"), &json!("sqrt(flux)")));
    let wrong = check("sqrt(flx)").await;
    assert_eq!(wrong["mistake"], json!({"from": 5, "to": 8, "words": "nothing is called “flx”; is “flux” meant?"}));
    let column = json!({"name": "root", "formula": "sqrt(flux)"});
    let added = sent(&service, Method::POST, &format!("{path}/columns"), json!({"revision": 1, "column": column})).await;
    let root = added["column_id"].as_i64().unwrap();
    assert_eq!(service.get(&format!("{path}/rows?count=9")).await["cells"][1], json!(["2", "3", null, "4"]));
    let why = async |row: usize| service.get(&format!("{path}/columns/{root}/why?row={row}")).await["why"].clone();
    assert_eq!((why(2).await, why(0).await, why(99).await), (json!("sqrt(−1) has no value"), Value::Null, Value::Null));
    let id = dataset["columns"][0]["id"].clone();
    let refused = service.send(Method::DELETE, &format!("{path}/columns/{id}"), json!({"revision": 2})).await;
    let (status, told) = problem(refused).await;
    assert_eq!((status, told["type"].as_str()), (422, Some("/problems/bad-column")), "{told}");
    let order = json!({"revision": 2, "columns": [{"id": root}, {"id": id, "hidden": true}]});
    let arranged = sent(&service, Method::PUT, &format!("{path}/columns"), order).await;
    assert_eq!((&arranged["columns"][0]["name"], &arranged["columns"][1]["hidden"]), (&json!("root"), &json!(true)));
    assert!(service.get("/api/formulas/functions").await.as_array().unwrap().len() > 40);
    let gone = sent(&service, Method::DELETE, &format!("{path}/columns/{root}"), json!({"revision": 3})).await;
    assert_eq!(gone["columns"].as_array().unwrap().len(), 1);
}

#[tokio::test]
async fn a_view_shows_rows_in_its_order_and_is_what_goes_out() {
    let service = Service::start().await;
    let dataset = service.dataset((0..1000).map(|i| f64::from(i * 7 % 1000))).await;
    let (id, column) = (dataset["id"].as_i64().unwrap(), dataset["columns"][0]["id"].as_i64().unwrap());
    let path = format!("/api/datasets/{id}");
    let view = json!({"only": [{"column": "flux", "between": [990, null]}], "order": [{"column": "flux", "descending": true}]});
    let window =
        async |first: usize| sent(&service, Method::POST, &format!("{path}/view"), json!({"view": view, "first": first, "count": 3})).await;
    let read = window(0).await;
    assert_eq!((&read["count"], &read["cells"]), (&json!(10), &json!([["999", "998", "997"]])));
    // i * 7 % 1000 = 999 at i = 857, and each step down lies 143 rows further on.
    assert_eq!(read["places"], json!([857, 714, 571]));
    assert_eq!(window(9).await["cells"], json!([["990"]]));
    // It follows an edit, which is made where the row stands.
    let edit = json!({"revision": 1, "column_id": column, "row": 714, "text": "2000"});
    sent(&service, Method::PATCH, &format!("{path}/cells"), edit).await;
    assert_eq!(window(0).await["cells"], json!([["2000", "999", "997"]]));
    let query = [("view", view.to_string()), ("first", "1".into()), ("count", "2".into())];
    for (ending, holds) in [("csv", "flux\n999\n997\n"), ("json", r#"{"flux":999}"#)] {
        let file = service.client.get(service.url(&format!("{path}/export.{ending}"))).query(&query).send().await.unwrap();
        let text = file.text().await.unwrap();
        assert!(text.contains(holds) && !text.contains("2000"), "{text}");
    }
    for (name, wrong) in [("view", "{"), ("columns", "x"), ("columns", "99")] {
        let file = service.client.get(service.url(&format!("{path}/export.csv"))).query(&[(name, wrong)]).send().await.unwrap();
        assert!([404, 422].contains(&problem(file).await.0), "{name}");
    }
    let kept = sent(&service, Method::POST, &format!("{path}/views"), json!({"name": "High", "view": view})).await;
    assert_eq!(service.get(&format!("{path}/views")).await, kept);
    sent(&service, Method::DELETE, &format!("{path}/views/{}", kept[0]["id"]), json!({})).await;
    assert_eq!(service.get(&format!("{path}/views")).await, json!([]));
    let unknown = json!({"view": {"only": [{"column": "gap", "missing": true}]}, "count": 3});
    let (status, told) = problem(service.send(Method::POST, &format!("{path}/view"), unknown).await).await;
    assert_eq!((status, told["type"].as_str()), (422, Some("/problems/unknown-column")));
    // The rows under the signals of a chart, as stretches.
    let spec = json!({"method": "control-chart", "roles": {"measure": "flux"}, "data": {"dataset": id}});
    let study = sent(&service, Method::POST, "/api/studies", json!({"spec": spec})).await;
    let rows = service.get(&format!("/api/studies/{}/signals/rows", study["id"])).await;
    let stretches: Vec<[i64; 2]> = serde_json::from_value(rows).unwrap();
    assert!(stretches.iter().any(|[first, last]| (*first..=*last).contains(&714)), "{stretches:?}");
    assert!(stretches.windows(2).all(|two| two[0][1] + 1 < two[1][0]));
}

#[tokio::test]
async fn a_block_beyond_the_end_brings_its_rows_and_is_undone_with_them() {
    let service = Service::start().await;
    let dataset = service.dataset([1.0, 2.0].into_iter()).await;
    let column = dataset["columns"][0]["id"].as_i64().unwrap();
    let path = format!("/api/datasets/{}", dataset["id"]);
    let edits: Vec<Value> = (1..5).map(|row| json!({"column_id": column, "row": row, "text": format!("{}", row * 10)})).collect();
    let body = |grow: bool| json!({"revision": 1, "edits": edits, "how": "pasted", "grow": grow});
    let refused = service.send(Method::POST, &format!("{path}/cells"), body(false)).await;
    assert_eq!(problem(refused).await.0, 404);
    let far = json!({"revision": 1, "edits": [{"column_id": column, "row": 9_000_000_000_000_000_000_u64, "text": "1"}], "grow": true});
    assert_eq!(problem(service.send(Method::POST, &format!("{path}/cells"), far).await).await.0, 422);
    sent(&service, Method::POST, &format!("{path}/cells"), body(true)).await;
    let rows = service.get(&format!("{path}/rows?count=9")).await;
    assert_eq!((&rows["cells"], &rows["row_ids"]), (&json!([["1", "10", "20", "30", "40"]]), &json!([0, 1, 2, 3, 4])));
    let line = service.get(&format!("{path}/history")).await[0]["sentence"].clone();
    assert!(line.as_str().unwrap().starts_with("Pasted 4 × 1 cells over rows 2 to 5, "), "{line}");
    let undone = sent(&service, Method::POST, &format!("{path}/undo"), json!({"revision": 2})).await;
    assert_eq!(undone["row_count"], 2);
    let redone = sent(&service, Method::POST, &format!("{path}/redo"), json!({"revision": 3})).await;
    assert_eq!(redone["row_count"], 5);
    assert_eq!(service.get(&format!("{path}/rows?count=9")).await["cells"], rows["cells"]);
}

#[tokio::test]
async fn a_text_is_found_and_replaced_all_or_nothing() {
    let service = Service::start().await;
    let text = "bench,flux,note\nbench A,12.5,ok\nBench B,2.5,see bench A\nbench A,3,\n";
    let preview: Value = service.bring("a.csv", text).await.json().await.unwrap();
    let dataset = sent(&service, Method::POST, &format!("/api/imports/{}/dataset", preview["id"]), json!({"name": "A"})).await;
    let path = format!("/api/datasets/{}", dataset["id"]);
    let id = |place: usize| dataset["columns"][place]["id"].clone();
    let found = sent(&service, Method::POST, &format!("{path}/find"), json!({"find": "BENCH A"})).await;
    let cell = |row: usize, place: usize| json!({"row": row, "column_id": id(place)});
    assert_eq!(found, json!({"count": 3, "cells": [cell(0, 0), cell(1, 2), cell(2, 0)]}));
    let whole = json!({"find": "Bench A", "whole": true, "match_case": true, "column_ids": [id(0), id(2)]});
    assert_eq!(sent(&service, Method::POST, &format!("{path}/find"), whole).await["count"], 0);
    // What would not fit its column is refused with the rest.
    let wrong = json!({"revision": 1, "find": "2", "with": "two"});
    let (status, told) = problem(service.send(Method::POST, &format!("{path}/replace"), wrong).await).await;
    assert_eq!((status, told["detail"].as_str()), (422, Some("“1two.5” is not a number")));
    let right = json!({"revision": 1, "find": "bench ", "with": "", "column_ids": [id(0)]});
    let done = sent(&service, Method::POST, &format!("{path}/replace"), right).await;
    assert_eq!((&done["count"], &done["dataset"]["revision"]), (&json!(3), &json!(2)));
    let cells = service.get(&format!("{path}/rows?count=9")).await["cells"].clone();
    assert_eq!((&cells[0], &cells[2]), (&json!(["A", "B", "A"]), &json!(["ok", "see bench A", null])));
    let nothing = sent(&service, Method::POST, &format!("{path}/replace"), json!({"revision": 2, "find": "zzz", "with": ""})).await;
    assert_eq!((&nothing["count"], &nothing["dataset"]["revision"]), (&json!(0), &json!(2)));
    let doubts = service.get(&format!("{path}/health")).await;
    assert_eq!((&doubts[0]["column"], &doubts[0]["sentence"]), (&json!("note"), &json!("1 value of 3 is missing.")));
}

#[tokio::test]
async fn a_specification_list_says_what_it_would_change_and_rows_are_put_in_order() {
    let service = Service::start().await;
    let dataset = service.dataset([4.0, 9.0, -1.0, 16.0].into_iter()).await;
    let path = format!("/api/datasets/{}", dataset["id"]);
    let list = async |name: &str, text: &'static str| {
        service.client.post(service.url(&format!("{path}/specifications?name={name}"))).body(text).send().await.unwrap()
    };
    let read: Value = list("list.csv", "name,LSL,USL,unit\nFlux,2,,lm\nangle,1,2,\n").await.json().await.unwrap();
    assert_eq!((&read["nowhere"], &read["columns"][0]["lsl"], &read["columns"][0]["unit"]), (&json!(["angle"]), &json!(2.0), &json!("lm")));
    assert_eq!(service.get(&path).await["revision"], 1, "nothing is stored yet");
    let (status, refused) = problem(list("list.csv", "lamp,flux\nL1,2\n").await).await;
    assert_eq!((status, refused["type"].as_str()), (422, Some("/problems/not-a-specification-list")), "{refused}");
    let body = json!({"revision": 1, "columns": read["columns"]});
    let changed = sent(&service, Method::PUT, &format!("{path}/properties"), body).await;
    assert_eq!(
        (&changed["columns"][0]["lsl"], &changed["columns"][0]["unit"], &changed["revision"]),
        (&json!(2.0), &json!("lm"), &json!(2))
    );
    // Limits of products need a column that tells them apart.
    let (status, refused) = problem(list("list.csv", "name,part,LSL\nflux,A,2\nflux,B,3\n").await).await;
    assert_eq!((status, refused["type"].as_str()), (422, Some("/problems/limits-of-unknown-rows")), "{refused}");
    let own: Value = list("list.csv", "name,flux,LSL\nflux,A,2\nflux,B,3\n").await.json().await.unwrap();
    let table = json!({"by": own["columns"][0]["column_id"], "rows": [
        {"of": "A", "lsl": 2.0, "target": null, "usl": null}, {"of": "B", "lsl": 3.0, "target": null, "usl": null}]});
    assert_eq!(own["columns"][0]["limit_table"], table);
    let order = |revision: i64| json!({"revision": revision, "order": [{"column": "flux", "descending": true}]});
    let (status, _) = problem(service.send(Method::PUT, &format!("{path}/order"), order(1)).await).await;
    assert_eq!(status, 412);
    sent(&service, Method::PUT, &format!("{path}/order"), order(2)).await;
    assert_eq!(service.get(&format!("{path}/rows?count=9")).await["cells"], json!([["16", "9", "4", "-1"]]));
}

#[tokio::test]
async fn a_table_is_made_of_the_rows_that_show_and_only_stored_under_a_name() {
    let service = Service::start().await;
    let dataset = service.dataset([4.0, 9.0, 4.0, 16.0].into_iter()).await;
    let path = format!("/api/datasets/{}/reshaped", dataset["id"]);
    let shape = json!({"how": "summary", "by": ["flux"], "of": ["flux"], "numbers": ["count"]});
    let view = json!({"only": [{"column": "flux", "between": [null, 10]}], "order": [{"column": "flux", "descending": true}]});
    let seen = sent(&service, Method::POST, &path, json!({"shape": shape, "view": view})).await;
    assert_eq!(
        (&seen["rows"], &seen["columns"][0]["first"], &seen["columns"][1]["first"]),
        (&json!(2), &json!(["9", "4"]), &json!(["1", "2"]))
    );
    assert_eq!(service.get("/api/datasets").await.as_array().unwrap().len(), 1);
    let made = sent(&service, Method::POST, &path, json!({"shape": shape, "name": "By flux"})).await;
    assert_eq!((&made["dataset"]["row_count"], &made["dataset"]["columns"][1]["name"]), (&json!(3), &json!("flux count")));
    let wrong = json!({"shape": {"how": "summary", "by": ["angle"], "of": ["flux"], "numbers": ["count"]}, "name": "Nothing"});
    let (status, refused) = problem(service.send(Method::POST, &path, wrong).await).await;
    assert!(status == 422 && refused["detail"].as_str().unwrap().contains("there is no column “angle”"), "{refused}");
}

#[tokio::test]
async fn rows_are_streamed_as_lines_of_one_revision() {
    let service = Service::start().await;
    let dataset = service.dataset((0..12_345).map(f64::from)).await;
    let path = format!("/api/datasets/{}/rows.jsonl", dataset["id"]);
    let text = service.client.get(service.url(&path)).send().await.unwrap().text().await.unwrap();
    let lines: Vec<Value> = text.lines().map(|line| serde_json::from_str(line).unwrap()).collect();
    assert!(lines.len() == 12_345 && lines.iter().enumerate().all(|(row, line)| *line == json!({"flux": row})));
    let some = service.client.get(service.url(&format!("{path}?first=5000&count=2"))).send().await.unwrap().text().await.unwrap();
    assert_eq!(some, "{\"flux\":5000}\n{\"flux\":5001}\n");
}

/// The cells of a dataset once these are as they should be; what they are after a while where they never become so.
async fn becoming(service: &Service, id: &Value, wanted: Value) -> Value {
    let mut cells = Value::Null;
    for _ in 0..200 {
        cells = service.get(&format!("/api/datasets/{id}/rows?count=20")).await["cells"].take();
        if cells == wanted {
            break;
        }
        tokio::time::sleep(std::time::Duration::from_millis(25)).await;
    }
    cells
}

/// Waits until a table that follows others says this about it.
async fn told(service: &Service, path: &str, problem: Value) {
    for _ in 0..200 {
        if service.get(path).await["follows"]["problem"] == problem {
            return;
        }
        tokio::time::sleep(std::time::Duration::from_millis(25)).await;
    }
    panic!("{path} never said {problem}");
}

#[tokio::test]
async fn a_table_follows_those_it_was_made_of_until_it_stands_by_itself() {
    let service = Service::start().await;
    let preview: Value = service.bring("lamps.csv", "bench,flux\nA,1\nB,5\nA,3\n").await.json().await.unwrap();
    let lamps = sent(&service, Method::POST, &format!("/api/imports/{}/dataset", preview["id"]), json!({"name": "Lamps"})).await;
    let path = format!("/api/datasets/{}", lamps["id"]);
    let made = async |of: &str, shape: Value, name: &str| {
        let body = json!({"shape": shape, "name": name, "follows": true});
        sent(&service, Method::POST, &format!("{of}/reshaped"), body).await["dataset"].take()
    };
    let sums = made(&path, json!({"how": "summary", "by": ["bench"], "of": ["flux"], "numbers": ["count", "mean"]}), "Sums").await;
    let sums_path = format!("/api/datasets/{}", sums["id"]);
    // One that follows one that follows.
    let wide = made(&sums_path, json!({"how": "unstack", "label": "bench", "value": "flux mean"}), "Wide").await;
    assert_eq!(sums["follows"], json!({"from": lamps["id"]}));
    let row = json!({"revision": 1, "at": 0, "column_ids": [lamps["columns"][0]["id"], lamps["columns"][1]["id"]], "rows": [["C", "9"]]});
    sent(&service, Method::POST, &format!("{path}/rows"), row).await;
    assert_eq!(
        becoming(&service, &sums["id"], json!([["C", "A", "B"], ["1", "2", "1"], ["9", "2", "5"]])).await,
        json!([["C", "A", "B"], ["1", "2", "1"], ["9", "2", "5"]])
    );
    // Groups are the rows that they were.
    assert_eq!(service.get(&format!("{sums_path}/rows?count=9")).await["row_ids"], json!([2, 0, 1]));
    // A new label is a new column, behind those that were there.
    let spread = json!([["1", "2"], [null, "2"], ["5", null], ["9", null]]);
    assert_eq!(becoming(&service, &wide["id"], spread.clone()).await, spread);

    let edit = |of: &Value, revision: i64| json!({"revision": revision, "column_id": of["columns"][1]["id"], "row": 0, "text": "7"});
    let now = service.get(&sums_path).await;
    let (status, refused) =
        problem(service.send(Method::PATCH, &format!("{sums_path}/cells"), edit(&sums, now["revision"].as_i64().unwrap())).await).await;
    assert_eq!((status, refused["type"].as_str()), (422, Some("/problems/follows-another")), "{refused}");

    // A new name of a column is followed, a column that is gone is told.
    let flux = format!("{path}/columns/{}", lamps["columns"][1]["id"]);
    let renamed = json!({"revision": 2, "column": {"name": "beam flux", "kind": "number"}});
    sent(&service, Method::PUT, &flux, renamed).await;
    sent(&service, Method::PATCH, &format!("{path}/cells"), edit(&lamps, 3)).await;
    let want = json!([["C", "A", "B"], ["1", "2", "1"], ["7", "2", "5"]]);
    assert_eq!(becoming(&service, &sums["id"], want.clone()).await, want);
    sent(&service, Method::DELETE, &flux, json!({"revision": 4})).await;
    told(&service, &sums_path, json!("a column that it was made of was deleted")).await;
    sent(&service, Method::POST, &format!("{path}/undo"), json!({"revision": 5})).await;
    told(&service, &sums_path, Value::Null).await;
    assert_eq!(becoming(&service, &sums["id"], want.clone()).await, want);

    let now = service.get(&sums_path).await;
    let alone = sent(&service, Method::DELETE, &format!("{sums_path}/link"), json!({"revision": now["revision"]})).await;
    assert!(alone.get("follows").is_none());
    sent(&service, Method::PATCH, &format!("{sums_path}/cells"), edit(&sums, alone["revision"].as_i64().unwrap())).await;
    assert_eq!(service.get(&format!("{sums_path}/rows?count=1")).await["cells"], json!([["C"], ["7"], ["7"]]));
}
