//! Gauges, their records and the sheets of planned studies over HTTP.

use crate::common::{Service, problem};
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
    // Its rows are planned: none comes, and none moves.
    let edit = json!({"revision": half["revision"], "how": "pasted", "grow": true, "edits": [{"column_id": dataset["plan"]["column_id"], "row": 20, "text": "4.1"}]});
    let path = format!("/api/datasets/{}", dataset["id"]);
    assert_eq!(problem(service.send(Method::POST, &format!("{path}/cells"), edit).await).await.0, 404);
    let order = json!({"revision": half["revision"], "order": [{"column": "groove depth", "descending": true}]});
    let (status, refused) = problem(service.send(Method::PUT, &format!("{path}/order"), order).await).await;
    assert!(status == 422 && refused["detail"].as_str().unwrap().contains("in the order in which they were planned"), "{refused}");
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

/// What somebody reads or says at a row of a sheet, by the names of its columns.
async fn fill_with(service: &Service, dataset: &Value, said: impl Fn(&dyn Fn(&str) -> String) -> String) -> Value {
    let id = &dataset["id"];
    let sheet = service.get(&format!("/api/datasets/{id}/rows?first=0&count=500")).await;
    let columns = dataset["columns"].as_array().unwrap();
    let place = |name: &str| columns.iter().position(|column| column["name"] == name).unwrap_or_else(|| panic!("no {name}"));
    let rows = sheet["row_ids"].as_array().unwrap().len();
    let edits: Vec<Value> = (0..rows)
        .map(|row| {
            let of = |name: &str| sheet["cells"][place(name)][row].as_str().unwrap_or_default().to_owned();
            json!({"column_id": dataset["plan"]["column_id"], "row": row, "text": said(&of)})
        })
        .collect();
    made(service, Method::POST, &format!("/api/datasets/{id}/cells"), json!({"revision": dataset["revision"], "edits": edits})).await
}

#[tokio::test]
async fn sheets_of_every_kind_are_filled_by_hand_and_answered_by_their_own_method() {
    let service = Service::start().await;
    let sheet = |part: Value| {
        let mut whole = plan(5, 2);
        whole.as_object_mut().unwrap().extend(part.as_object().unwrap().clone());
        json!({ "plan": whole })
    };
    // Judgements are typed as the labels of the plan; Jonas takes every bad piece for a good one.
    let known = ["bad", "good", "good", "bad", "good", "bad", "good", "good"];
    let judged =
        json!({"kind": "attribute", "characteristic": "solder joint", "parts": 8, "labels": ["bad", "good"], "known": known, "info": {}});
    let stored = made(&service, Method::POST, "/api/sheets", sheet(judged)).await;
    fill_with(&service, &stored["dataset"], |of| if of("operator") == "Jonas" { "good".to_owned() } else { of("reference") }).await;
    let answer = service.get(&format!("/api/studies/{}/outcome", stored["study"]["id"])).await;
    let errors = &answer["numbers"]["errors"];
    let jonas = (0..2).find(|who| errors[who]["operator"] == "Jonas").unwrap();
    assert_eq!((&errors[jonas]["miss_rate"], &errors[1 - jonas]["miss_rate"]), (&json!(1.0), &json!(0.0)));
    assert_eq!(answer["of_gauge"], true);

    let one = json!({"kind": "single", "operators": [], "parts": 1, "trials": 30, "references": [1.2]});
    let stored = made(&service, Method::POST, "/api/sheets", sheet(one)).await;
    assert_eq!(stored["dataset"]["columns"].as_array().unwrap().len(), 2, "an order and a reading");
    fill_with(&service, &stored["dataset"], |of| format!("{:.3}", 1.201 + 0.001 * (of("order").parse::<f64>().unwrap() % 5.0 - 2.0))).await;
    let answer = service.get(&format!("/api/studies/{}/outcome", stored["study"]["id"])).await;
    assert!((answer["numbers"]["bias"].as_f64().unwrap() - 0.001).abs() < 1e-12);

    let range = json!({"kind": "linearity", "operators": [], "parts": 3, "trials": 4, "references": [1.0, 2.0, 4.0]});
    let stored = made(&service, Method::POST, "/api/sheets", sheet(range)).await;
    fill_with(&service, &stored["dataset"], |of| {
        let (known, order): (f64, f64) = (of("reference").parse().unwrap(), of("order").parse().unwrap());
        format!("{:.4}", 1.02 * known + 0.0005 * (order % 3.0 - 1.0))
    })
    .await;
    let answer = service.get(&format!("/api/studies/{}/outcome", stored["study"]["id"])).await;
    assert!((answer["numbers"]["fit"]["slope"].as_f64().unwrap() - 0.02).abs() < 0.001 && answer["verdict"]["title"] == "Not linear");

    let own = json!({"kind": "nested", "parts": 4, "trials": 2});
    let stored = made(&service, Method::POST, "/api/sheets", sheet(own)).await;
    fill_with(&service, &stored["dataset"], |of| {
        let (part, order): (f64, f64) = (of("part").rsplit('-').next().unwrap().parse().unwrap(), of("order").parse().unwrap());
        format!("{:.3}", 1.1 + 0.03 * part + 0.001 * (order % 3.0))
    })
    .await;
    let answer = service.get(&format!("/api/studies/{}/outcome", stored["study"]["id"])).await;
    assert_eq!((&answer["numbers"]["trials"], answer["numbers"]["parts"].as_array().unwrap().len()), (&json!(2), 8));
}

#[tokio::test]
async fn what_is_no_label_of_a_plan_is_taken_as_typed_and_text_is_no_reading() {
    let service = Service::start().await;
    let stored = made(&service, Method::POST, "/api/sheets", json!({"plan": plan(5, 2)})).await;
    let (id, column) = (&stored["dataset"]["id"], &stored["dataset"]["plan"]["column_id"]);
    let edit = json!({"revision": 1, "column_id": column, "row": 0, "text": "1.2o"});
    let (status, refused) = problem(service.send(Method::PATCH, &format!("/api/datasets/{id}/cells"), edit).await).await;
    assert!(status == 422 && refused["detail"].as_str().unwrap().contains("“1.2o” is not a number"), "{refused}");
    // Asked of a column of text the study says what it needs.
    let spec = json!({"method": "gauge-crossed", "roles": {"measure": "operator", "part": "part", "operator": "operator"}, "data": {"dataset": id}});
    let (_, refused) = problem(service.send(Method::POST, "/api/outcomes", spec).await).await;
    assert!(refused["detail"].as_str().unwrap().contains("needs"), "{refused}");
    let untouched = service.get(&format!("/api/datasets/{id}")).await;
    assert_eq!(untouched["revision"], 1);
}
