//! Questions narrowed step by step, and numbers inspected from another dataset, over HTTP.

use crate::common::{Service, problem};
use reqwest::{Method, StatusCode};
use serde_json::{Value, json};

/// A log: a day, a bench and a kind a row, over three days without the middle one.
async fn log(service: &Service) -> Value {
    let rows = (0..60).map(|i| {
        let day = if i < 25 { "2026-05-04" } else { "2026-05-06" };
        format!("{day},{},{}\n", ["A", "B", "C"][i % 3], ["leak", "haze", "leak", "burr"][i * 7 % 11 % 4])
    });
    store(service, "log.csv", rows.fold("day,bench,kind\n".to_owned(), |text, row| text + &row)).await
}

async fn store(service: &Service, name: &str, text: String) -> Value {
    let preview: Value = service.bring(name, text).await.json().await.unwrap();
    let stored = service.send(Method::POST, &format!("/api/imports/{}/dataset", preview["id"]), json!({"name": name})).await;
    assert_eq!(stored.status(), StatusCode::OK);
    stored.json().await.unwrap()
}

async fn study(service: &Service, dataset: &Value, spec: Value) -> Value {
    let mut spec = spec;
    spec["data"] = json!({"dataset": dataset["id"]});
    let made = service.send(Method::POST, "/api/studies", json!({"spec": spec})).await;
    assert_eq!(made.status(), StatusCode::OK, "{}", made.text().await.unwrap());
    made.json().await.unwrap()
}

fn column<'v>(dataset: &'v Value, name: &str) -> &'v Value {
    dataset["columns"].as_array().unwrap().iter().find(|column| column["name"] == name).unwrap()
}

async fn outcome(service: &Service, study: &Value) -> Value {
    service.get(&format!("/api/studies/{}/outcome", study["id"])).await
}

#[tokio::test]
async fn a_narrowed_answer_follows_its_data_and_its_rows_are_those_of_the_table() {
    let service = Service::start().await;
    let dataset = log(&service).await;
    let spec = json!({"method": "pareto", "roles": {"category": "kind"}, "options": {"fold": "none"}, "only": [{"column": "bench", "labels": ["B"]}]});
    let narrowed = study(&service, &dataset, spec).await;
    assert_eq!(outcome(&service, &narrowed).await["numbers"]["overall"]["total"], 20.0);
    // The rows behind its first kind are rows of bench B by their own ids.
    let rows = service.get(&format!("/api/studies/{}/rows?first=0&last=9", narrowed["id"])).await;
    let ids: Vec<i64> = rows.as_array().unwrap().iter().flat_map(|pair| pair[0].as_i64().unwrap()..=pair[1].as_i64().unwrap()).collect();
    assert_eq!(ids, (0..60).filter(|i| i % 3 == 1).collect::<Vec<i64>>());
    // A change of the column that narrows, which no role names, gives another answer.
    let bench = column(&dataset, "bench");
    let edit = json!({"revision": dataset["revision"], "edits": [{"column_id": bench["id"], "row": 1, "text": "C"}]});
    let edited = service.send(Method::POST, &format!("/api/datasets/{}/cells", dataset["id"]), edit).await;
    assert_eq!(edited.status(), StatusCode::OK);
    assert_eq!(outcome(&service, &narrowed).await["numbers"]["overall"]["total"], 19.0);
    // Taken back by undo, and refused when it names what is not there.
    let wider = json!({"revision": narrowed["revision"], "spec": {"method": "pareto", "roles": {"category": "kind"}, "options": {"fold": "none"}, "data": {"dataset": dataset["id"]}}});
    let wide: Value = service.send(Method::PATCH, &format!("/api/studies/{}", narrowed["id"]), wider).await.json().await.unwrap();
    assert_eq!((outcome(&service, &wide).await["numbers"]["overall"]["total"].as_f64(), &wide["spec"]["only"]), (Some(60.0), &Value::Null));
    let undone: Value = service
        .send(Method::POST, &format!("/api/studies/{}/undo", narrowed["id"]), json!({"revision": wide["revision"]}))
        .await
        .json()
        .await
        .unwrap();
    assert_eq!(undone["spec"]["only"], json!([{"column": "bench", "labels": ["B"]}]));
    let wrong = json!({"spec": {"method": "pareto", "roles": {"category": "kind"}, "data": {"dataset": dataset["id"]}, "only": [{"column": "press", "labels": ["B"]}]}});
    let (status, told) = problem(service.send(Method::POST, "/api/studies", wrong).await).await;
    assert!(status == 422 && told["detail"].as_str().unwrap().contains("no column “press”"), "{told}");
}

#[tokio::test]
async fn numbers_inspected_are_summed_by_the_day_and_make_the_chart_of_a_log() {
    let service = Service::start().await;
    let dataset = log(&service).await;
    let text = "at,inspected,note\n2026-05-04 06:00,100,a\n2026-05-04 14:00,150,b\n2026-05-05 06:00,90,c\n2026-05-06 06:00,,d\n2026-05-06 22:00,210,e\n";
    let other = store(&service, "inspected.csv", text.to_owned()).await;
    let sums = |by: &str, of: &str, step: &str| {
        let body = json!({"by": column(&other, by)["id"], "of": column(&other, of)["id"], "step": step});
        service.send(Method::POST, "/api/datasets/2/sums", body)
    };
    let by_day: Value = sums("at", "inspected", "usual").await.json().await.unwrap();
    assert_eq!(by_day, json!({"2026-05-04": 250.0, "2026-05-05": 90.0, "2026-05-06": 210.0}));
    let by_month: Value = sums("at", "inspected", "month").await.json().await.unwrap();
    assert_eq!(by_month, json!({"2026-05": 550.0}));
    let spec = json!({"method": "control-chart", "roles": {"per": "day"}, "options": {"chart": "u", "sizes": by_day}});
    let chart = outcome(&service, &study(&service, &dataset, spec).await).await;
    let points = chart["numbers"]["panels"][0]["points"].as_array().unwrap();
    let values: Vec<f64> = points.iter().map(|point| point["value"].as_f64().unwrap()).collect();
    assert_eq!(values, [25.0 / 250.0, 0.0, 35.0 / 210.0], "the day without a defect is a point of 0");
    assert_eq!(points[1]["label"], "2026-05-05");
    let (status, told) = problem(sums("at", "note", "usual").await).await;
    assert!(status == 422 && told["detail"].as_str().unwrap().contains("note"), "{told}");
    let nothing = service.send(Method::POST, "/api/datasets/2/sums", json!({"by": 9999, "of": 1, "step": "day"})).await;
    assert_eq!(problem(nothing).await.0, 404);
}

#[tokio::test]
async fn a_screening_of_a_signal_reads_every_column_and_follows_each_of_them() {
    let service = Service::start().await;
    let dataset = log(&service).await;
    // Rows 24 to 35 are held against the others; nothing names the column that tells them apart.
    let spec = json!({"method": "screening", "roles": {"apart": "day"}, "options": {"rows": [[24, 35]]}});
    let screened = study(&service, &dataset, spec).await;
    let found = |answer: &Value, name: &str| {
        let results = answer["numbers"]["results"].as_array().unwrap();
        results.iter().find(|found| found["column"] == name).cloned().unwrap_or_default()
    };
    let before = outcome(&service, &screened).await;
    assert!(found(&before, "day").is_null() && found(&before, "bench")["over"].is_null(), "{before}");
    let bench = column(&dataset, "bench");
    let edits: Vec<Value> = (24..36).map(|row| json!({"column_id": bench["id"], "row": row, "text": "C"})).collect();
    let edit = json!({"revision": dataset["revision"], "edits": edits});
    let edited = service.send(Method::POST, &format!("/api/datasets/{}/cells", dataset["id"]), edit).await;
    assert_eq!(edited.status(), StatusCode::OK);
    let after = outcome(&service, &screened).await;
    assert_eq!((&found(&after, "bench")["over"]["label"], &found(&after, "bench")["over"]["count"]), (&json!("C"), &json!(12)));
    assert!(after["verdict"]["sentence"].as_str().unwrap().contains("Bench goes with it"), "{}", after["verdict"]);
}

#[tokio::test]
async fn factors_keep_their_order_under_new_names_and_rows_left_out_keep_their_reason() {
    let service = Service::start().await;
    let rows = (0..48).map(|i| {
        format!("{},{},{:.2},{:.2}\n", i / 12 + 1, i / 3 % 4 + 1, 1.8 + f64::from(i * 7 % 11) / 100.0, 20.0 + f64::from(i % 9) / 4.0)
    });
    let dataset = store(&service, "wall.csv", rows.fold("hour,piece,wall,heat\n".to_owned(), |text, row| text + &row)).await;
    let split =
        study(&service, &dataset, json!({"method": "multi-vari", "roles": {"measure": "wall", "factors": ["piece", "hour"]}})).await;
    let relation = json!({"method": "relation", "roles": {"x": "heat", "y": "wall"}, "options": {"left_out": [{"rows": [[2, 4], [9, 9]], "why": "sensor loose"}]}});
    let relation = study(&service, &dataset, relation).await;
    let piece = column(&dataset, "piece");
    let renamed = json!({"revision": dataset["revision"], "column": {"name": "housing", "kind": piece["kind"]}});
    let answer = service.send(Method::PUT, &format!("/api/datasets/{}/columns/{}", dataset["id"], piece["id"]), renamed).await;
    assert_eq!(answer.status(), StatusCode::OK, "{}", answer.text().await.unwrap());
    let again: Value = service.get(&format!("/api/studies/{}", split["id"])).await;
    assert_eq!(again["spec"]["roles"]["factors"], json!(["housing", "hour"]));
    let names: Vec<Value> =
        outcome(&service, &split).await["numbers"]["families"].as_array().unwrap().iter().map(|one| one["name"].clone()).collect();
    assert_eq!(names, ["housing", "hour", "within"]);
    let left = outcome(&service, &relation).await;
    assert_eq!((&left["numbers"]["n"], &left["numbers"]["reasons"][0]), (&json!(44), &json!({"why": "sensor loose", "pairs": 4})));
    // A row that goes takes nothing else with it: the others are left out as before, by their own identity.
    let dataset: Value = service.get(&format!("/api/datasets/{}", dataset["id"])).await;
    let gone = json!({"revision": dataset["revision"], "row_ids": [2]});
    let deleted = service.send(Method::DELETE, &format!("/api/datasets/{}/rows", dataset["id"]), gone).await;
    assert_eq!(deleted.status(), StatusCode::OK, "{}", deleted.text().await.unwrap());
    let left = outcome(&service, &relation).await;
    assert_eq!((&left["numbers"]["n"], &left["numbers"]["reasons"][0]["pairs"]), (&json!(44), &json!(3)));
    // Without a reason nothing is left out.
    let bare = json!({"method": "relation", "roles": {"x": "heat", "y": "wall"}, "options": {"left_out": [{"rows": [[2, 4]], "why": " "}]}, "data": {"dataset": dataset["id"]}});
    let (status, told) = problem(service.send(Method::POST, "/api/outcomes", bare).await).await;
    assert!(status == StatusCode::UNPROCESSABLE_ENTITY && told["detail"].as_str().unwrap().contains("reason"), "{told}");
}
