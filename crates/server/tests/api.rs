//! The service over HTTP against a temporary database.

use crate::common::{Service, problem, steady};
use reqwest::{Method, StatusCode};
use serde_json::{Value, json};

fn chart(dataset: &Value) -> Value {
    json!({"method": "control-chart", "roles": {"measure": "flux"}, "data": {"dataset": dataset["id"]}})
}

#[tokio::test]
async fn the_committed_description_is_that_of_the_handlers() {
    let file = concat!(env!("CARGO_MANIFEST_DIR"), "/../../web/src/api/openapi.json");
    let committed: Value = serde_json::from_slice(&std::fs::read(file).unwrap()).unwrap();
    let served = Service::start().await.get("/api/openapi.json").await;
    assert!(served == committed, "stale; run: cargo xtask api-types");
}

#[tokio::test]
async fn every_response_carries_a_strict_policy_and_foreign_pages_are_refused() {
    let service = Service::start().await;
    for path in ["/", "/api/datasets", "/api/nothing"] {
        let response = service.client.get(service.url(path)).send().await.unwrap();
        let policy = response.headers()["content-security-policy"].to_str().unwrap();
        assert!(policy.contains("default-src 'self'") && !policy.contains("unsafe"));
    }
    let foreign = service.client.delete(service.url("/api/datasets/1")).header("origin", "http://evil.test");
    assert_eq!(problem(foreign.send().await.unwrap()).await.0, 403);
}

#[tokio::test]
async fn wrong_requests_have_one_shape_and_change_nothing() {
    let service = Service::start().await;
    let dataset = service.dataset((0..30).map(f64::from)).await;
    let column = &dataset["columns"][0]["id"];
    let cell = |revision: i64, row: i64, text: &str| json!({"revision": revision, "column_id": column, "row": row, "text": text});
    let requests = [
        (Method::GET, "/api/datasets/99", json!({}), 404),
        (Method::GET, "/api/nothing", json!({}), 404),
        (Method::GET, "/api/datasets/1/rows?count=many", json!({}), 400),
        (Method::GET, "/api/datasets/1/places?ids=3-x", json!({}), 422),
        (Method::PATCH, "/api/datasets/1/cells", json!({"row": 1}), 422),
        (Method::PATCH, "/api/datasets/1/cells", cell(1, 0, "8O1"), 422),
        (Method::PATCH, "/api/datasets/1/cells", cell(1, 30, "1"), 404),
        (Method::PATCH, "/api/datasets/1/cells", cell(9, 0, "1"), 412),
        (Method::POST, "/api/datasets/1/undo", json!({}), 422),
        (Method::POST, "/api/datasets/1/undo", json!({"revision": 7}), 412),
        (Method::POST, "/api/datasets/1/undo", json!({"revision": 1}), 409),
        (Method::POST, "/api/datasets/1/redo", json!({"revision": 1}), 409),
        (Method::POST, "/api/datasets/1/rows", json!({"column_ids": [column], "rows": [["8O1"]]}), 422),
        (Method::POST, "/api/datasets/1/rows", json!({"column_ids": [99], "rows": [["1"]]}), 404),
        (Method::DELETE, "/api/datasets/1/rows", json!({"revision": 1, "row_ids": [30]}), 404),
        (Method::POST, "/api/outcomes", json!({"method": "control-chart"}), 422),
        (Method::POST, "/api/outcomes", json!({"method": "control-chart", "data": {"file": "/etc/passwd"}}), 422),
        (Method::POST, "/api/studies", json!({"spec": {"method": "control-chart"}}), 422),
        (
            Method::POST,
            "/api/studies",
            json!({"spec": {"method": "control-chart", "roles": {"measure": "x"}, "data": {"dataset": 1}}}),
            422,
        ),
        (Method::POST, "/api/studies", json!({"spec": {"method": "control-chart", "data": {"dataset": 99}}}), 404),
    ];
    for (method, path, body, status) in requests {
        let response = service.send(method.clone(), path, body.clone()).await;
        assert_eq!(response.status(), status, "{method} {path} {body}");
        assert_eq!(problem(response).await.0, status, "{method} {path} {body}");
    }
    assert_eq!(service.get("/api/datasets/1").await, dataset);
}

#[tokio::test]
async fn a_body_beyond_its_bound_is_refused() {
    let service = Service::start().await;
    let too_long = json!({"revision": 1, "column_id": 1, "row": 0, "text": "9".repeat(33 * 1024 * 1024)});
    let (status, problem) = problem(service.send(Method::PATCH, "/api/datasets/1/cells", too_long).await).await;
    assert_eq!((status, problem["type"].as_str()), (413, Some("/problems/too-much")));
}

#[tokio::test]
async fn the_web_answers_a_case_as_the_shell_does() {
    let file = concat!(env!("CARGO_MANIFEST_DIR"), "/../core/tests/cases/control-chart/individuals-phases.json");
    let case: Value = serde_json::from_slice(&std::fs::read(file).unwrap()).unwrap();
    let outcome: Value = Service::start().await.send(Method::POST, "/api/outcomes", case.clone()).await.json().await.unwrap();
    for (pointer, want) in case["expect"].as_object().unwrap() {
        if let (Some(got), Some(want)) = (outcome["numbers"].pointer(pointer).and_then(Value::as_f64), want.as_f64()) {
            assert!((got - want).abs() <= 1e-9 * want.abs().max(1e-3), "{pointer}: {got} {want}");
        }
    }
    assert_eq!(outcome["verdict"]["title"], "A few signals");
}

#[tokio::test]
async fn a_study_follows_its_data_and_its_limits_reach_the_wall() {
    let service = Service::start().await;
    let dataset = service.dataset(steady(40)).await;
    let study: Value = service.send(Method::POST, "/api/studies", json!({"spec": chart(&dataset)})).await.json().await.unwrap();
    let outcome = format!("/api/studies/{}/outcome", study["id"]);
    assert_eq!(service.get(&outcome).await["verdict"]["title"], "Steady");
    assert_eq!(service.get("/api/wall").await, json!([]));

    let column = &dataset["columns"][0];
    let cell = json!({"revision": 1, "column_id": column["id"], "row": 20, "text": "900"});
    assert_eq!(service.send(Method::PATCH, "/api/datasets/1/cells", cell).await.status(), 200);
    assert_eq!(service.get(&outcome).await["verdict"]["title"], "Not steady");

    let limits = json!({"revision": 2, "column": {"name": "beam flux", "kind": "number", "unit": "lm", "lsl": 780.0}});
    let changed = service.send(Method::PUT, &format!("/api/datasets/1/columns/{}", column["id"]), limits).await;
    assert_eq!(changed.status(), 200);
    let wall = service.get("/api/wall").await;
    assert_eq!((&wall[0]["column"]["name"], &wall[0]["dial"]["steady"]), (&json!("beam flux"), &json!(false)));
    assert!(service.get(&outcome).await["verdict"]["sentence"].as_str().unwrap().starts_with("Not steady: 1 of 40 values"));
}

#[tokio::test]
async fn a_large_study_sends_few_points_and_the_export_all() {
    let service = Service::start().await;
    let dataset = service.dataset((0..60_000).map(|i| f64::from(i * 617 % 1000))).await;
    let study: Value = service.send(Method::POST, "/api/studies", json!({"spec": chart(&dataset)})).await.json().await.unwrap();
    let outcome = service.get(&format!("/api/studies/{}/outcome?points=300", study["id"])).await;
    assert_eq!(outcome["numbers"]["points"], 60_000);
    assert!(outcome["numbers"]["panels"][0]["points"].as_array().unwrap().len() < 5000);
    let stretch = service.get(&format!("/api/studies/{}/outcome?first=100&last=119", study["id"])).await;
    assert_eq!(stretch["numbers"]["panels"][0]["points"].as_array().unwrap().len(), 20);
    let csv = service.client.get(service.url(&format!("/api/studies/{}/points.csv", study["id"]))).send().await.unwrap();
    assert_eq!(csv.text().await.unwrap().lines().count(), 60_001);
    let page = service.get(&format!("/api/studies/{}/points?first=500&last=509&points=10", study["id"])).await;
    assert_eq!((&page["columns"][0]["cells"][0], page["columns"][0]["cells"].as_array().unwrap().len()), (&json!(501.0), 10));
    let limits = service.client.get(service.url(&format!("/api/studies/{}/tables/limits.csv", study["id"]))).send().await.unwrap();
    assert!(limits.text().await.unwrap().starts_with("what,from,to,LCL"));
    let none = service.client.get(service.url(&format!("/api/studies/{}/tables/pie.csv", study["id"]))).send().await.unwrap();
    assert_eq!(problem(none).await.0, 404);
}

#[tokio::test]
async fn nothing_is_stored_while_values_do_not_fit() {
    let service = Service::start().await;
    let preview: Value = service.bring("slip.csv", "flux\n801\n8O2\n803\n").await.json().await.unwrap();
    assert_eq!((&preview["problem_count"], &preview["problems"][0]["guess"]), (&json!(1), &json!("802")));
    let path = format!("/api/imports/{}", preview["id"]);
    let store = |name: &'static str| service.send(Method::POST, "/api/imports/1/dataset", json!({"name": name}));
    assert_eq!(problem(store("Slip").await).await.0, 422);
    assert_eq!(service.get("/api/datasets").await, json!([]));
    let read_options = json!({"fixes": [{"row": 2, "column": 0, "text": "802"}]});
    assert_eq!(service.send(Method::PUT, &path, read_options).await.json::<Value>().await.unwrap()["problem_count"], 0);
    assert_eq!(store("Slip").await.status(), 200);
    assert_eq!(service.get("/api/datasets/1/rows?count=9").await["cells"], json!([["801", "802", "803"]]));
    assert_eq!(problem(store("Slip").await).await.0, 404);
    assert_eq!(problem(service.bring("p.png", vec![0x89, b'P', b'N', b'G', 0, 0]).await).await.1["type"], "/problems/not-a-table");
}

#[tokio::test]
async fn a_change_is_told_to_everyone_who_listens() {
    let service = Service::start().await;
    let mut events = service.client.get(service.url("/api/events")).send().await.unwrap();
    assert!(String::from_utf8_lossy(&events.chunk().await.unwrap().unwrap()).contains("everything"));
    service.dataset([1.0, 2.0].into_iter()).await;
    let added = service.send(Method::POST, "/api/datasets/1/rows", json!({"column_ids": [], "rows": [[]]})).await;
    assert_eq!(added.json::<Value>().await.unwrap()["row_ids"], json!([2]));
    // On a busy machine the two changes may come as two events.
    let mut told = String::new();
    while !told.contains(r#"{"kind":"dataset","id":1,"revision":2}"#) {
        told.push_str(&String::from_utf8_lossy(&events.chunk().await.unwrap().unwrap()));
    }
}

#[tokio::test]
async fn a_signal_keeps_its_cause_while_its_run_grows_and_leaves_the_list_of_open_ones() {
    let service = Service::start().await;
    let flux = |i: i32| if i < 30 { 800.0 + f64::from(i * 7 % 5) } else { 799.0 + f64::from(i * 7 % 3) };
    let dataset = service.dataset((0..42).map(flux)).await;
    let spec = json!({"method": "control-chart", "roles": {"measure": "flux"}, "data": {"dataset": dataset["id"]},
        "options": {"limits": {"from": "baseline", "first": 0, "last": 29}, "patterns": [{"pattern": "run-one-side", "length": 9}]}});
    let study: Value = service.send(Method::POST, "/api/studies", json!({"spec": spec})).await.json().await.unwrap();
    let open = service.get("/api/signals").await;
    assert_eq!((&open["total"], &open["signals"][0]["address"]), (&json!(1), &json!("individuals.run-one-side.30")));
    let path = "/api/studies/1/signals/individuals.run-one-side.30";
    let out = |body: Value| service.send(Method::PUT, path, body);
    assert_eq!(problem(out(json!({"revision": study["revision"], "left_out": true})).await).await.0, 422);
    assert_eq!(problem(out(json!({"revision": 9, "cause": "new reel"})).await).await.0, 412);
    assert_eq!(out(json!({"revision": 1, "cause": "new reel", "action": "sort", "due": "2026-05-20"})).await.status(), 200);
    let unknown = service.send(Method::PUT, "/api/studies/1/signals/individuals.trend.3", json!({"revision": 2, "cause": "x"})).await;
    assert_eq!(problem(unknown).await.0, 404);

    // A value before the run turns low: the run begins earlier, its cause stays with it.
    let cell = json!({"revision": 1, "column_id": dataset["columns"][0]["id"], "row": 29, "text": "800"});
    assert_eq!(service.send(Method::PATCH, "/api/datasets/1/cells", cell).await.status(), 200);
    let signals = service.get("/api/studies/1/signals").await;
    let run = &signals["signals"][0];
    assert_eq!((&run["first"], &run["finding"]["cause"], &signals["causes"]), (&json!(28), &json!("new reel"), &json!(["new reel"])));
    let open = service.get("/api/signals").await;
    assert_eq!((&open["total"], &open["actions"][0]["finding"]["action"]), (&json!(0), &json!("sort")));
    let left: Value = out_at(&service, "individuals.run-one-side.28", json!({"revision": 2, "left_out": true})).await;
    assert_eq!(left["spec"]["omit"].as_array().unwrap().len(), 14);
    let signals = service.get("/api/studies/1/signals").await;
    assert_eq!((&signals["total"], &signals["past"][0]["first"], &signals["past"][0]["last"]), (&json!(0), &json!(28), &json!(41)));
    let history = service.get("/api/studies/1/history").await;
    assert!(history[0]["sentence"].as_str().unwrap().ends_with("Cause: new reel. Action: sort. Left out of the limits."), "{history}");
}

async fn out_at(service: &Service, address: &str, body: Value) -> Value {
    service.send(Method::PUT, &format!("/api/studies/1/signals/{address}"), body).await.json().await.unwrap()
}

#[tokio::test]
async fn appended_rows_reach_the_answer_and_undo_takes_them_back() {
    let service = Service::start().await;
    let dataset = service.dataset(steady(40)).await;
    let study: Value = service.send(Method::POST, "/api/studies", json!({"spec": chart(&dataset)})).await.json().await.unwrap();
    let outcome = format!("/api/studies/{}/outcome", study["id"]);
    let flux = &dataset["columns"][0]["id"];
    let rows = json!({"column_ids": [flux], "rows": [["900"], [""], ["803"]]});
    let added: Value = service.send(Method::POST, "/api/datasets/1/rows", rows).await.json().await.unwrap();
    assert_eq!((&added["row_ids"], &added["dataset"]["row_count"]), (&json!([40, 41, 42]), &json!(43)));
    assert_eq!(service.get(&outcome).await["verdict"]["title"], "Not steady");
    let gone = json!({"revision": 2, "row_ids": [40]});
    assert_eq!(service.send(Method::DELETE, "/api/datasets/1/rows", gone).await.status(), 200);
    assert_eq!(service.get(&outcome).await["verdict"]["title"], "Steady");
    for revision in [3, 4] {
        service.send(Method::POST, "/api/datasets/1/undo", json!({"revision": revision})).await;
    }
    assert_eq!(service.get(&outcome).await["numbers"]["points"], 40);
    service.send(Method::POST, "/api/datasets/1/redo", json!({"revision": 5})).await;
    let between = json!({"revision": 6, "at": 2, "column_ids": [flux], "rows": [["801"]]});
    assert_eq!(service.send(Method::POST, "/api/datasets/1/rows", between).await.json::<Value>().await.unwrap()["row_ids"], json!([43]));
    // Addresses and answers name rows by id and say where they stand now.
    assert_eq!(service.get("/api/datasets/1/places?ids=1-2.40.99").await, json!([[1, 1], [3, 3], [41, 41]]));
    // The rows of points stand where they stand, and another dataset has none of them.
    let of_points = format!("places?study={}&first=1&last=3", study["id"]);
    assert_eq!(service.get(&format!("/api/datasets/1/{of_points}")).await, json!([[1, 3]]));
    assert_eq!(service.send(Method::GET, &format!("/api/datasets/2/{of_points}"), json!({})).await.status(), 422);
    let signals = service.get(&format!("/api/studies/{}/signals", study["id"])).await;
    let beyond = |signal: &&Value| signal["pattern"] == "beyond-limits" && signal["panel"] == 0;
    let signal = signals["signals"].as_array().unwrap().iter().find(beyond).unwrap();
    assert_eq!((&signal["first_row"], &signal["first"]), (&json!(40), &json!(41)));
    let points = &service.get(&format!("{outcome}?first=41&last=41")).await["numbers"]["panels"][0]["points"];
    assert_eq!((&points[0]["row_ids"], &points[0]["rows"]), (&json!([40]), &json!([41])));
    service.send(Method::POST, "/api/datasets/1/undo", json!({"revision": 7})).await;
    assert_eq!(service.get("/api/datasets/1/rows?first=40&count=9").await["row_ids"], json!([40, 41, 42]));
}

#[tokio::test]
async fn advice_fills_the_statement_that_a_dataset_suggests() {
    let service = Service::start().await;
    let preview: Value = service.bring("checks.csv", "inspected,rejected\n349,10\n373,12\n301,7\n280,9\n").await.json().await.unwrap();
    service.send(Method::POST, &format!("/api/imports/{}/dataset", preview["id"]), json!({"name": "Checks"})).await;
    let ask = |answers: Value| service.send(Method::POST, "/api/methods/control-chart/advice", json!({"dataset": 1, "answers": answers}));
    let first: Value = ask(json!({})).await.json().await.unwrap();
    assert_eq!((&first["question"]["key"], &first["proposal"]["options"]["chart"]), (&json!("counting"), &json!("p")));
    let told: Value = ask(json!({"counting": "pieces"})).await.json().await.unwrap();
    assert_eq!((&told["question"], &told["proposal"]["roles"]), (&Value::Null, &json!({"count": "rejected", "size": "inspected"})));
    let unknown = service.send(Method::POST, "/api/methods/pie/advice", json!({"dataset": 1})).await;
    assert_eq!(problem(unknown).await.0, 422);
}

/// Every address of the description with ids that nobody has.
async fn addresses(service: &Service) -> Vec<(Method, String, bool)> {
    let document = service.get("/api/openapi.json").await;
    let mut all = Vec::new();
    for (path, methods) in document["paths"].as_object().unwrap() {
        let filled = path.split('/').map(|part| match part {
            "{id}" | "{finding}" | "{column}" | "{revision}" | "{row}" => "987654",
            part if part.starts_with('{') => "nobody",
            part => part,
        });
        let filled = filled.collect::<Vec<_>>().join("/");
        for (method, operation) in methods.as_object().unwrap() {
            let method = Method::from_bytes(method.to_uppercase().as_bytes()).unwrap();
            all.push((method, filled.clone(), !operation["requestBody"].is_null()));
        }
    }
    all
}

#[tokio::test]
async fn what_nobody_has_is_said_in_one_shape_at_every_address() {
    let service = Service::start().await;
    let all = addresses(&service).await;
    assert!(all.len() > 25, "{}", all.len());
    let before = [service.get("/api/datasets").await, service.get("/api/studies").await];
    for (method, path, takes_body) in &all {
        if path == "/api/events" || path == "/api/openapi.json" {
            continue;
        }
        // Bodies of the wrong shape, of no shape, and none at all.
        for body in ["{\"nonsense\": [1, {}]}", "[", ""] {
            let request = service.client.request(method.clone(), service.url(path)).header("content-type", "application/json");
            let response = request.body(body).send().await.unwrap();
            let status = response.status();
            assert!(!status.is_server_error(), "{method} {path} {body}: {status}");
            if status.is_client_error() {
                let (_, problem) = problem(response).await;
                let words = problem["detail"].as_str().unwrap_or_default();
                assert!(!words.is_empty(), "{method} {path}: {problem}");
            } else {
                assert!(!takes_body || path.contains("imports"), "{method} {path} took {body:?}");
            }
        }
        let wants_id = path.contains("987654");
        // What was deleted keeps its history, so that one without entries is empty and not missing.
        if wants_id && !takes_body && !path.ends_with("/history") {
            let status = service.client.request(method.clone(), service.url(path)).send().await.unwrap().status();
            let gone = [StatusCode::NOT_FOUND, StatusCode::BAD_REQUEST, StatusCode::UNPROCESSABLE_ENTITY, StatusCode::NO_CONTENT];
            assert!(gone.contains(&status), "{method} {path}: {status}");
        }
    }
    assert_eq!(before, [service.get("/api/datasets").await, service.get("/api/studies").await], "nothing was changed");
}

#[tokio::test]
async fn a_column_comes_in_with_its_unit_and_a_doubt_about_decimals_is_answered_once() {
    let service = Service::start().await;
    let text = "width,leak,remark\nmm,mL/min,\n2.401,5,\n2.405,6,\"3,5\"\n2.399,7,\n";
    let preview: Value = service.bring("bench.csv", text).await.json().await.unwrap();
    let doubts = |preview: &Value| {
        let notes = preview["notes"].as_array().unwrap();
        notes.iter().filter(|note| note["about"] == "decimal").map(|note| note["readings"].clone()).collect::<Vec<_>>()
    };
    assert_eq!(doubts(&preview), [json!(["2.401", "2401"])]);
    let address = format!("/api/imports/{}", preview["id"]);
    let read_options = json!({"columns": [{"index": 0, "decimal": "."}]});
    let answered: Value = service.send(Method::PUT, &address, read_options).await.json().await.unwrap();
    assert_eq!(doubts(&answered), Vec::<Value>::new(), "{answered}");
    let stored: Value = service.send(Method::POST, &format!("{address}/dataset"), json!({"name": "Bench"})).await.json().await.unwrap();
    let columns = stored["columns"].as_array().unwrap();
    let said: Vec<_> = columns.iter().map(|column| (column["name"].as_str().unwrap(), column["unit"].as_str())).collect();
    assert_eq!(said, [("width", Some("mm")), ("leak", Some("mL/min")), ("remark", None)]);
    assert_eq!(stored["rows"].as_u64().or(stored["row_count"].as_u64()), Some(3));
}

#[tokio::test]
async fn jobs_are_listed_only_while_they_last_and_terms_are_told_to_everyone() {
    let service = Service::start().await;
    assert_eq!(service.get("/api/jobs").await, json!([]));
    assert_eq!(service.send(Method::DELETE, "/api/jobs/7", json!({})).await.status(), 404);
    let dataset = service.dataset((0..40).map(|i| 800.0 + f64::from(i * 7 % 11))).await;
    let study: Value = service.send(Method::POST, "/api/studies", json!({"spec": chart(&dataset)})).await.json().await.unwrap();
    let progress = format!("/api/studies/{}/progress", study["id"]);
    service.get(&format!("/api/studies/{}/outcome", study["id"])).await;
    assert_eq!((service.get(&progress).await, service.get("/api/jobs").await), (Value::Null, json!([])));
    let terms = service.get("/api/glossary").await;
    let term = |name: &str| terms.as_array().unwrap().iter().find(|term| term["name"] == name).unwrap();
    assert!(term("Pp, Ppk")["forms"].as_array().unwrap().contains(&json!("Ppk")));
    assert!(term("p-value")["source"].as_str().unwrap().contains("ISO"));
    // What shows is changed like anything else of a study, and by its revision.
    let show = |revision: i64| json!({"revision": revision, "shown": {"zones": true}});
    let path = format!("/api/studies/{}", study["id"]);
    let changed: Value = service.send(Method::PATCH, &path, show(1)).await.json().await.unwrap();
    assert_eq!((&changed["shown"], &changed["revision"]), (&json!({"zones": true}), &json!(2)));
    assert_eq!(service.send(Method::PATCH, &path, show(1)).await.status(), 412);
}
