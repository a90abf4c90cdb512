//! Gauges, their records and the sheets of planned studies over HTTP.

mod common;

use common::{Service, problem};
use reqwest::{Method, StatusCode};
use serde_json::{Value, json};

async fn made(service: &Service, method: Method, path: &str, body: Value) -> Value {
    let response = service.send(method, path, body).await;
    assert_eq!(response.status(), StatusCode::OK, "{path}: {}", response.text().await.unwrap());
    response.json().await.unwrap()
}

fn plan(parts: usize, trials: usize) -> Value {
    json!({"kind": "crossed", "characteristic": "groove depth", "info": {"unit": "mm", "decimals": 3, "lsl": 1.1, "target": null, "usl": 1.3},
        "operators": ["Ida", "Jonas"], "parts": parts, "trials": trials, "planned_by": "Ruth", "seed": 7})
}

/// Types a reading of each row of a sheet: part by part 0.02 mm apart, give or take a little.
async fn fill(service: &Service, dataset: &Value, rows: usize) -> Value {
    let id = &dataset["id"];
    let sheet = service.get(&format!("/api/datasets/{id}/rows?first=0&count=100")).await;
    let edits: Vec<Value> = (0..rows)
        .map(|row| {
            let part: f64 = sheet["cells"][2][row].as_str().unwrap().parse().unwrap();
            let depth = 1.1 + 0.02 * part + [0.0, 0.002, -0.001, 0.003][row % 4];
            json!({"column_id": dataset["plan"]["column_id"], "row": row, "text": format!("{depth:.3}")})
        })
        .collect();
    made(service, Method::POST, &format!("/api/datasets/{id}/cells"), json!({"revision": dataset["revision"], "edits": edits})).await
}

#[tokio::test]
async fn a_plan_becomes_a_sheet_that_answers_while_it_is_filled_and_is_recorded_when_it_is_full() {
    let service = Service::start().await;
    let told = made(&service, Method::POST, "/api/gauge-plans", plan(5, 2)).await;
    assert_eq!((&told["rows"], told["expected"].as_array().unwrap().len()), (&json!(20), 3));
    let gauge = json!({"name": "Depth gauge", "number": "D-07", "months": 6});
    let sheet = made(&service, Method::POST, "/api/sheets", json!({"plan": plan(5, 2), "gauge": gauge})).await;
    let (dataset, study) = (&sheet["dataset"], &sheet["study"]["id"]);
    assert_eq!((&dataset["name"], &dataset["row_count"]), (&json!("groove depth, gauge study"), &json!(20)));
    // Nothing is read yet; then half; then all.
    let outcome = format!("/api/studies/{study}/outcome");
    assert!(service.get(&outcome).await["detail"].as_str().unwrap().contains("0 usable values"));
    let half = fill(&service, dataset, 11).await;
    let said = service.get(&outcome).await["verdict"]["sentence"].as_str().unwrap().to_owned();
    assert!(said.starts_with("11 of 20 readings"), "{said}");
    let gauges = service.get("/api/gauges").await;
    let records = format!("/api/gauges/{}/records", gauges[0]["id"]);
    let (status, refused) = problem(service.send(Method::POST, &records, json!({"study_id": study})).await).await;
    assert_eq!((status, refused["detail"].as_str().unwrap()), (422, "9 readings are still to come"));
    fill(&service, &half, 20).await;
    let known = made(&service, Method::POST, &records, json!({"study_id": study})).await;
    let verdict = service.get(&outcome).await["verdict"].clone();
    let record = &known["records"][0];
    assert_eq!([&record["title"], &record["sentence"]], [&verdict["title"], &verdict["sentence"]]);
    assert_eq!((&known["due"], &known["columns"][0]["column"]), (&json!("later"), &json!("groove depth")));

    // A capability of the same column now says how much of it is measuring.
    let spec = json!({"method": "capability", "roles": {"measure": "groove depth"}, "options": {}, "data": {"dataset": dataset["id"]}});
    let answer = made(&service, Method::POST, "/api/outcomes", spec.clone()).await;
    let of = &answer["numbers"]["gauge"];
    let (sd, seen) = (record["sd"].as_f64().unwrap(), answer["numbers"]["sd_overall"].as_f64().unwrap());
    assert!((of["share"].as_f64().unwrap() - sd / seen).abs() < 1e-12);
    assert!((of["sd_without"].as_f64().unwrap() - (seen * seen - sd * sd).sqrt()).abs() < 1e-12);
    let note = |answer: &Value| {
        answer["notes"].as_array().unwrap().iter().any(|note| note["sentence"].as_str().unwrap().contains("measuring (Depth gauge D-07)"))
    };
    assert!(note(&answer));
    // Taken back, the record says nothing any more, though nothing of the data has changed.
    let gone = made(&service, Method::DELETE, &format!("{records}/{}", record["id"]), json!({})).await;
    assert_eq!((&gone["due"], gone["records"].as_array().unwrap().len()), (&json!("never"), 0));
    assert!(!note(&made(&service, Method::POST, "/api/outcomes", spec).await));
}

#[tokio::test]
async fn what_cannot_be_planned_or_recorded_is_refused_in_words_and_leaves_nothing_behind() {
    let service = Service::start().await;
    for (wrong, said) in [
        (json!({"operators": ["Ida", " Ida"]}), "Ida stands there twice"),
        (json!({"parts": 1}), "parts"),
        (json!({"characteristic": "Part"}), "is a column of every sheet"),
        (json!({"parts": 9000}), "more than a sheet takes"),
        (json!({"info": {"unit": null, "decimals": null, "lsl": 2.0, "target": null, "usl": 1.0}}), "must lie above LSL"),
        (json!({"kind": "linearity"}), "known value of each"),
        (json!({"kind": "attribute", "labels": ["bad"]}), "two labels or more"),
    ] {
        let mut body = plan(5, 2);
        body.as_object_mut().unwrap().extend(wrong.as_object().unwrap().clone());
        let (status, refused) = problem(service.send(Method::POST, "/api/gauge-plans", body.clone()).await).await;
        assert!(status == 422 && refused["detail"].as_str().unwrap().contains(said), "{wrong}: {refused}");
        let sheet = json!({"plan": body, "gauge": {"name": "Depth gauge"}});
        assert_eq!(problem(service.send(Method::POST, "/api/sheets", sheet).await).await.0, 422);
    }
    // Neither the sheet nor the gauge that came with it.
    assert_eq!((service.get("/api/gauges").await, service.get("/api/datasets").await), (json!([]), json!([])));
    let gauge = made(&service, Method::POST, "/api/gauges", json!({"name": "Flux meter", "number": "L-02"})).await;
    let (_, twice) = problem(service.send(Method::POST, "/api/gauges", json!({"name": "Flux  meter", "number": "L-02"})).await).await;
    assert!(twice["detail"].as_str().unwrap().contains("already a gauge “Flux meter L-02”"), "{twice}");
    let (_, odd) = problem(service.send(Method::POST, "/api/gauges", json!({"name": "X", "months": 0})).await).await;
    assert!(odd["detail"].as_str().unwrap().contains("months"), "{odd}");
    let dataset = service.dataset((0..30).map(f64::from)).await;
    let study = json!({"spec": {"method": "control-chart", "roles": {"measure": "flux"}, "data": {"dataset": dataset["id"]}}});
    let chart = made(&service, Method::POST, "/api/studies", study).await;
    let records = format!("/api/gauges/{}/records", gauge["id"]);
    let (_, refused) = problem(service.send(Method::POST, &records, json!({"study_id": chart["id"]})).await).await;
    assert_eq!(refused["detail"], "this study is not about a gauge");
    // An older page cannot overwrite what was said meanwhile.
    let path = format!("/api/gauges/{}", gauge["id"]);
    made(&service, Method::PUT, &path, json!({"revision": 1, "name": "Flux meter", "number": "L-03"})).await;
    let stale = service.send(Method::PUT, &path, json!({"revision": 1, "name": "Photometer"})).await;
    assert_eq!(problem(stale).await.0, 412);
    assert_eq!(service.get(&path).await["number"], "L-03");
}

#[tokio::test]
async fn a_sheet_with_a_row_a_part_is_unfolded_when_asked_and_every_table_leaves_as_a_workbook() {
    let service = Service::start().await;
    let text = "housing,Ida 1,Ida 2,Jonas 1,Jonas 2\nH1,1.11,1.12,1.13,1.12\nH2,1.21,1.22,1.23,\nH3,1.15,1.14,1.16,1.15\n";
    for (unfold, rows, columns) in [(true, 12, 4), (false, 3, 5)] {
        let preview: Value = service.bring("sheet.csv", text).await.json().await.unwrap();
        assert_eq!((&preview["wide"]["rows"], &preview["wide"]["operators"]), (&json!(12), &json!(["Ida", "Jonas"])));
        let path = format!("/api/imports/{}/dataset", preview["id"]);
        let stored = made(&service, Method::POST, &path, json!({"name": "Sheet", "unfold": unfold})).await;
        assert_eq!((stored["row_count"].as_u64(), stored["columns"].as_array().unwrap().len()), (Some(rows), columns));
        if unfold {
            let advice = made(&service, Method::POST, "/api/methods/gauge-crossed/advice", json!({"dataset": stored["id"]})).await;
            assert_eq!(advice["proposal"]["roles"]["operator"], "operator", "{advice}");
        }
        let book = service.client.get(service.url(&format!("/api/datasets/{}/export.xlsx", stored["id"]))).send().await.unwrap();
        let again: Value = service.bring("back.xlsx", book.bytes().await.unwrap()).await.json().await.unwrap();
        assert_eq!((again["rows"].as_u64(), again["columns"].as_array().unwrap().len()), (Some(rows), columns));
    }
}
