//! What lies beyond every bound: an answer in words, and nothing changed.

use crate::common::{Service, problem};
use reqwest::{Method, StatusCode};
use serde_json::{Value, json};

async fn brought(service: &Service, text: &str) -> Value {
    let preview: Value = service.bring("bench.csv", text.to_owned()).await.json().await.unwrap();
    let stored = service.send(Method::POST, &format!("/api/imports/{}/dataset", preview["id"]), json!({"name": "Bench"})).await;
    assert_eq!(stored.status(), StatusCode::OK);
    stored.json().await.unwrap()
}

async fn edited(service: &Service, dataset: &Value, column: usize, row: u64, text: &str) -> (StatusCode, Value) {
    let current = service.get(&format!("/api/datasets/{}", dataset["id"])).await;
    let edit = json!({"revision": current["revision"], "column_id": current["columns"][column]["id"], "row": row, "text": text});
    let answer = service.send(Method::PATCH, &format!("/api/datasets/{}/cells", dataset["id"]), edit).await;
    (answer.status(), answer.json().await.unwrap())
}

#[tokio::test]
async fn a_cell_that_is_not_there_or_holds_too_much_is_refused_and_nothing_is_kept() {
    let service = Service::start().await;
    let dataset = brought(&service, "flux,remark\n1,a\n2,b\n3,c\n").await;
    for row in [3, 1 << 32, i64::MAX as u64, u64::MAX] {
        let (status, problem) = edited(&service, &dataset, 0, row, "5").await;
        assert_eq!((status, &problem["type"]), (StatusCode::NOT_FOUND, &json!("/problems/not-found")), "{row}: {problem}");
    }
    for (length, status) in [(9_999, 200), (10_000, 200), (10_001, 413), (3_000_000, 413)] {
        let (found, problem) = edited(&service, &dataset, 1, 0, &"z".repeat(length)).await;
        assert_eq!(found.as_u16(), status, "{length}");
        assert!(
            status == 200 || problem.to_string().len() < 600 && problem["detail"].as_str().unwrap().starts_with("characters in a cell: "),
            "{length}"
        );
    }
    let (status, problem) = edited(&service, &dataset, 0, 0, &"x".repeat(5000)).await;
    assert!(status == StatusCode::UNPROCESSABLE_ENTITY && problem.to_string().len() < 600, "{problem}");
    let rows = service.get(&format!("/api/datasets/{}/rows?first=0&count=1", dataset["id"])).await;
    assert_eq!((&rows["cells"][0][0], rows["cells"][1][0].as_str().unwrap().len()), (&json!("1"), 10_000));
}

#[tokio::test]
async fn a_column_may_be_called_as_the_row_ids_once_were() {
    let service = Service::start().await;
    let dataset = brought(&service, "(row id),flux\n7,1\n8,2\n").await;
    assert_eq!(dataset["columns"][0]["name"], "(row id)");
    let csv = service.client.get(service.url(&format!("/api/datasets/{}/export.csv", dataset["id"]))).send().await.unwrap();
    assert_eq!(csv.text().await.unwrap(), "(row id),flux\n7,1\n8,2\n");
}

#[tokio::test]
async fn an_address_of_something_deleted_is_never_given_away() {
    let service = Service::start().await;
    let first = brought(&service, "flux\n1\n2\n").await;
    let study = json!({"spec": {"method": "distribution", "roles": {"measure": "flux"}, "data": {"dataset": first["id"]}}});
    let one: Value = service.send(Method::POST, "/api/studies", study.clone()).await.json().await.unwrap();
    for path in [format!("/api/studies/{}", one["id"]), format!("/api/datasets/{}", first["id"])] {
        assert_eq!(service.send(Method::DELETE, &path, json!({})).await.status(), StatusCode::NO_CONTENT);
    }
    let second = brought(&service, "flux\n7\n8\n").await;
    assert!(second["id"].as_i64() > first["id"].as_i64());
    assert!(second["columns"][0]["id"].as_i64() > first["columns"][0]["id"].as_i64());
    let mut study = study;
    study["spec"]["data"]["dataset"] = second["id"].clone();
    let other: Value = service.send(Method::POST, "/api/studies", study).await.json().await.unwrap();
    assert!(other["id"].as_i64() > one["id"].as_i64());
    let outcome = service.get(&format!("/api/studies/{}/outcome", other["id"])).await;
    assert_eq!(outcome["numbers"]["groups"][0]["mean"], json!(7.5), "{outcome}");
}

#[tokio::test]
async fn values_too_small_or_too_large_to_compute_with_stop_neither_the_wall_nor_anything_else() {
    let service = Service::start().await;
    let dataset = brought(&service, "flux\n1.0\n2.0\n3.5\n").await;
    let id = &dataset["id"];
    let study = json!({"spec": {"method": "control-chart", "roles": {"measure": "flux"}, "options": {"chart": "individuals"}, "data": {"dataset": id}}});
    let study: Value = service.send(Method::POST, "/api/studies", study).await.json().await.unwrap();
    let limits = json!({"revision": 1, "column": {"name": "flux", "kind": "number", "lsl": 0.5}});
    let column = format!("/api/datasets/{id}/columns/{}", dataset["columns"][0]["id"]);
    assert_eq!(service.send(Method::PUT, &column, limits).await.status(), StatusCode::OK);
    for (text, what) in [("1e-310", "too small to compute with"), ("1.7e308", "too large to compute with")] {
        for row in 0..3 {
            assert_eq!(edited(&service, &dataset, 0, row, text).await.0, StatusCode::OK);
        }
        let refused = service.get(&format!("/api/studies/{}/outcome", study["id"])).await;
        assert!(refused["detail"].as_str().is_some_and(|detail| detail.contains(what)), "{refused}");
        let wall = service.get("/api/wall").await;
        assert!(wall[0]["problem"].as_str().is_some_and(|problem| problem.contains(what)), "{wall}");
        assert!(!service.get(&format!("/api/datasets/{id}/summary")).await.to_string().contains("null,null,null,null"));
    }
}

#[tokio::test]
async fn a_connection_that_never_says_what_it_wants_is_closed() {
    use tokio::io::{AsyncReadExt, AsyncWriteExt};
    let service = Service::start().await;
    let address = service.address.trim_start_matches("http://").to_owned();
    let half = |said: &'static str| {
        let address = address.clone();
        async move {
            let mut stream = tokio::net::TcpStream::connect(&address).await.unwrap();
            stream.write_all(said.as_bytes()).await.unwrap();
            let mut answer = Vec::new();
            tokio::time::timeout(std::time::Duration::from_secs(60), stream.read_to_end(&mut answer)).await.expect("it stays open").ok();
            String::from_utf8_lossy(&answer).into_owned()
        }
    };
    let body = "POST /api/studies HTTP/1.1\r\nHost: 127.0.0.1\r\nContent-Type: application/json\r\nContent-Length: 900\r\n\r\n{";
    let (head, body) = tokio::join!(half("GET /api/datasets HTTP/1.1\r\nHost: 127"), half(body));
    assert!(head.is_empty() || head.starts_with("HTTP/1.1 408"), "{head}");
    assert!(body.starts_with("HTTP/1.1 4"), "{body}");
    assert_eq!(service.get("/api/studies").await, json!([]));
}

#[tokio::test]
async fn each_text_has_a_bound_that_holds_at_it_and_refuses_beyond_it() {
    let service = Service::start().await;
    let dataset = brought(&service, "flux,remark\n1,a\n2,b\n3,c\n").await;
    let (id, column) = (&dataset["id"], &dataset["columns"][0]["id"]);
    let spec = json!({"method": "distribution", "roles": {"measure": "flux"}, "data": {"dataset": id}});
    let gauge = json!({"name": "Meter", "number": "", "measures": "", "unit": "", "note": ""});
    let with = |body: &Value, field: &str, text: &str| {
        let mut body = body.clone();
        body[field] = json!(text);
        body
    };
    let of_column = |field: &str, text: &str| json!({"column": with(&json!({"name": "flux", "kind": "number"}), field, text)});
    let of_study = |text: &str| json!({"spec": with(&spec, "method", "distribution"), "name": text});
    let of_options = |text: &str| {
        let mut spec = spec.clone();
        spec["options"] = json!({"words": text});
        json!({ "spec": spec })
    };
    type Body<'a> = Box<dyn Fn(&str) -> Value + 'a>;
    let studies = "/api/studies".to_owned();
    let at_column = format!("/api/datasets/{id}/columns/{column}");
    let bounds: Vec<(Method, String, usize, Body)> = vec![
        (Method::PATCH, format!("/api/datasets/{id}"), 120, Box::new(|text| json!({ "name": text }))),
        (Method::PUT, at_column.clone(), 120, Box::new(|text| of_column("name", text))),
        (Method::PUT, at_column, 40, Box::new(|text| of_column("unit", text))),
        (Method::POST, studies.clone(), 120, Box::new(of_study)),
        (Method::POST, studies, (1 << 20) - 150, Box::new(of_options)),
        (Method::POST, "/api/gauges".into(), 120, Box::new(|text| with(&gauge, "name", text))),
        (Method::POST, "/api/gauges".into(), 60, Box::new(|text| with(&gauge, "number", text))),
        (Method::POST, "/api/gauges".into(), 200, Box::new(|text| with(&gauge, "measures", text))),
        (Method::POST, "/api/gauges".into(), 30, Box::new(|text| with(&gauge, "unit", text))),
        (Method::POST, "/api/gauges".into(), 2000, Box::new(|text| with(&gauge, "note", text))),
        (Method::POST, "/api/floor/lists".into(), 120, Box::new(|text| json!({"name": text, "choices": []}))),
    ];
    for (method, path, most, body) in bounds {
        // A statement is bound by the bytes of all of it.
        let beyond = if most > 10_000 { most + 200 } else { most + 1 };
        for (length, fits) in [(most - 1, true), (most, true), (beyond, false), (beyond * 20, false)] {
            let mut body = body(&"n".repeat(length));
            if body["measures"].is_string() && body["number"] == "" {
                // No two gauges may be called alike.
                body["number"] = json!(format!("{most} {length}"));
            }
            body["revision"] = service.get(&format!("/api/datasets/{id}")).await["revision"].clone();
            let answer = service.send(method.clone(), &path, body).await;
            let status = answer.status().as_u16();
            let said = answer.text().await.unwrap();
            assert_eq!(status, if fits { 200 } else { 422 }, "{path}, {most}: {length}: {said}");
            assert!(fits || said.len() < 2500, "{path}, {most}");
        }
    }
    let nobody = service.send(Method::POST, "/api/outcomes", json!({"method": "m".repeat(1 << 20)})).await;
    let (_, said) = problem(nobody).await;
    assert!(said["detail"].as_str().unwrap().chars().count() <= 1010, "a name is not said at full length");
}

#[tokio::test]
async fn a_text_that_a_spreadsheet_would_run_leaves_with_an_apostrophe_unless_it_is_wanted_as_written() {
    let service = Service::start().await;
    let dataset = brought(&service, "flux,remark\n1,=1+1\n2,@sum\n3,plain\n").await;
    let csv = async |query: &str| {
        let address = service.url(&format!("/api/datasets/{}/export.csv{query}", dataset["id"]));
        service.client.get(address).send().await.unwrap().text().await.unwrap()
    };
    assert_eq!(csv("").await, "flux,remark\n1,'=1+1\n2,'@sum\n3,plain\n");
    assert_eq!(csv("?as_written=true").await, "flux,remark\n1,=1+1\n2,@sum\n3,plain\n");
}
