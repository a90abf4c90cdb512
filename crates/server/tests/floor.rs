//! The floor over HTTP and over the lines of gauges.

use crate::common::Service;
use reqwest::{Method, StatusCode};
use serde_json::{Value, json};
use tokio::io::{AsyncBufReadExt, AsyncWriteExt, BufReader};
use tokio::net::TcpStream;

async fn plan(service: &Service, more: Value) -> Value {
    let mut written =
        json!({"name": "Flux, bench 4", "measurements": [{"column": "flux"}], "identifiers": [{"column": "at", "asked": "time"}]});
    for (name, value) in more.as_object().unwrap() {
        written[name] = value.clone();
    }
    let new = json!({"plan": written, "station": "Bench 4", "infos": {"flux": {"unit": "lm", "lsl": 780, "rules": {"lowest": 500}}}});
    let made = service.send(Method::POST, "/api/floor/plans", new).await;
    assert_eq!(made.status(), StatusCode::OK, "{}", made.text().await.unwrap());
    made.json().await.unwrap()
}

fn entry(key: &str, value: f64) -> Value {
    json!({"key": key, "at": 1_780_000_000_000_i64, "time": "2026-05-04 13:30:05", "pieces": [{"flux": value}]})
}

async fn rows(service: &Service, plan: &Value) -> Vec<Option<f64>> {
    let mut all = Vec::new();
    loop {
        let window = service.get(&format!("/api/datasets/{}/rows?first={}&count=500", plan["dataset_id"], all.len())).await;
        let cells = window["cells"][1].as_array().unwrap();
        all.extend(cells.iter().map(|cell| cell.as_str().and_then(|text| text.parse().ok())));
        if cells.len() < 500 {
            return all;
        }
    }
}

#[tokio::test]
async fn each_entry_is_answered_by_itself_and_the_chart_has_it() {
    let service = Service::start().await;
    let plan = plan(&service, json!({"every": {"minutes": 60}})).await;
    let station = format!("/api/floor/stations/{}/entries", plan["stations"][0]["id"]);
    let sent = json!({"entries": [entry("a", 801.5), entry("b", 7.0), entry("c", 770.0), entry("a", 1.0)]});
    let answers: Value = service.send(Method::POST, &station, sent).await.json().await.unwrap();
    assert_eq!((answers[0]["entry"]["id"] == answers[3]["entry"]["id"], &answers[2]["entry"]["beyond"][0]["limit"]), (true, &json!(780.0)));
    let problem = &answers[1]["problem"];
    assert_eq!((problem["type"].as_str(), problem["status"].as_u64()), (Some("/problems/entry-refused"), Some(422)));
    assert!(problem["advice"].as_str().unwrap().contains("confirm it with a remark"));
    let outcome = service.get(&format!("/api/studies/{}/outcome", plan["study_ids"][0])).await;
    assert_eq!(outcome["numbers"]["points"], 2);
    let standing = service.get("/api/floor").await;
    assert_eq!(
        (&standing[0]["waiting"], &standing[0]["plan"]["subgroups"], standing[0]["due"].as_array().unwrap().len()),
        (&json!(1), &json!(2), 1)
    );
    let reaction = json!({"cause": "weak reel", "who": "Mara"});
    let said = service.send(Method::POST, &format!("/api/floor/entries/{}/reaction", answers[2]["entry"]["id"]), reaction).await;
    assert_eq!(said.status(), StatusCode::OK);
    assert_eq!(service.get("/api/floor").await[0]["waiting"], 0);
    let back = service.send(Method::POST, &format!("/api/floor/entries/{}/take-back", answers[2]["entry"]["id"]), json!({})).await;
    assert_eq!(back.json::<Value>().await.unwrap()["taken_back"], true);
    assert_eq!(rows(&service, &plan).await, [Some(801.5)]);
    for (path, status) in [("/api/floor/stations/99/entries", 404), (station.as_str(), 413)] {
        let many: Vec<Value> = (0..if status == 413 { 1001 } else { 1 }).map(|i| entry(&format!("m{i}"), 800.0)).collect();
        let (found, _) = crate::common::problem(service.send(Method::POST, path, json!({"entries": many})).await).await;
        assert_eq!(found, status);
    }
}

#[tokio::test]
async fn a_reading_comes_to_the_page_that_waits_and_only_there() {
    let service = Service::start().await;
    let plan = plan(&service, json!({})).await;
    let (key, id) = (plan["stations"][0]["key"].clone(), &plan["stations"][0]["id"]);
    let send = async |line: &str| -> Value {
        let sent = service.send(Method::POST, "/api/readings", json!({"station": key, "readings": [{"line": line}]})).await;
        sent.json::<Value>().await.unwrap()[0].clone()
    };
    assert!(send("801.5 lm").await["problem"]["type"].as_str().unwrap().ends_with("nobody-waits"));
    let mut page = service.client.get(service.url(&format!("/api/floor/stations/{id}/readings"))).send().await.unwrap();
    assert!(String::from_utf8_lossy(&page.chunk().await.unwrap().unwrap()).contains("event: open"));
    assert_eq!(send("802.5 lm").await["became"]["became"], "shown");
    let heard = String::from_utf8_lossy(&page.chunk().await.unwrap().unwrap()).into_owned();
    assert!(heard.contains("event: reading") && heard.contains(r#"{"column":"flux","value":802.5}"#), "{heard}");
    assert_eq!(send("802.5 lm").await["became"]["became"], "again", "a key that bounces");
    for (line, words) in [("802.6 cd", "reads in cd, and “flux” is in lm"), ("ready", "does not look like a reading")] {
        assert!(send(line).await["problem"]["detail"].as_str().unwrap().contains(words));
    }
    let stray = service.send(Method::POST, "/api/readings", json!({"station": "none", "readings": [{"line": "1"}]})).await;
    assert!(stray.json::<Value>().await.unwrap()[0]["problem"]["detail"].as_str().unwrap().contains("no station has this key"));
    assert!(rows(&service, &plan).await.is_empty(), "a page that waits stores by itself");
}

/// A gauge with nobody beside it: each answered reading is stored, in its order, and none twice.
#[tokio::test]
async fn a_burst_over_lines_is_stored_once_and_in_order() {
    let service = Service::start().await;
    let plan = plan(&service, json!({"unattended": true})).await;
    let key = plan["stations"][0]["key"].as_str().unwrap().to_owned();
    let value = |number: usize| 700.0 + number as f64 / 10.0;
    // Twice the same burst, the second begun in the middle of the first, as after a lost connection.
    let burst = async |from: usize| {
        let (reading, mut writing) = TcpStream::connect(service.gauges).await.unwrap().into_split();
        let lines: String = (from..2000).map(|number| format!("@{number} {:.1} lm\n", value(number))).collect();
        writing.write_all(format!("{key}\n{lines}@x ready\n").as_bytes()).await.unwrap();
        let mut answers = BufReader::new(reading).lines();
        for number in from..2000 {
            assert_eq!(answers.next_line().await.unwrap().unwrap(), format!("ok @{number}"));
        }
        assert!(answers.next_line().await.unwrap().unwrap().starts_with("no “ready” does not look like a reading"));
    };
    tokio::join!(burst(0), burst(700));
    let mut stored: Vec<f64> = rows(&service, &plan).await.into_iter().flatten().collect();
    assert_eq!(stored.len(), 2000, "none is lost and none repeated");
    stored.sort_by(f64::total_cmp);
    assert!(stored.iter().enumerate().all(|(number, stored)| (stored - value(number)).abs() < 1e-9));
    // One gauge alone keeps its order, many at once are stored together.
    let readings: Vec<Value> = (0..1000).map(|number| json!({"key": format!("h{number}"), "line": format!("{}", 5000 + number)})).collect();
    let answers = service.send(Method::POST, "/api/readings", json!({"station": key, "readings": readings})).await;
    let answers: Value = answers.json().await.unwrap();
    assert!(answers.as_array().unwrap().iter().all(|one| one["became"]["became"] == "stored"));
    let stored: Vec<f64> = rows(&service, &plan).await.into_iter().flatten().skip(2000).collect();
    assert!(stored.len() == 1000 && stored.windows(2).all(|pair| pair[1] == pair[0] + 1.0), "{:?}", &stored[..5]);
    let history = service.get(&format!("/api/datasets/{}/history", plan["dataset_id"])).await;
    assert!(
        history
            .as_array()
            .unwrap()
            .iter()
            .filter_map(|line| line["sentence"].as_str()?.replace(',', "").strip_suffix(" rows added")?.parse::<u64>().ok())
            .any(|rows| rows > 50)
    );
}

#[tokio::test]
async fn a_clock_that_is_wrong_by_ages_stops_nothing() {
    let service = Service::start().await;
    let plan = plan(&service, json!({"every": {"minutes": 1, "late_after": 0}})).await;
    let station = format!("/api/floor/stations/{}/entries", plan["stations"][0]["id"]);
    for (key, at) in [("a", i64::MAX), ("b", i64::MIN), ("c", 0)] {
        let mut sent = entry(key, 800.0);
        sent["at"] = json!(at);
        let answer: Value = service.send(Method::POST, &station, json!({"entries": [sent]})).await.json().await.unwrap();
        assert!(answer[0]["entry"]["id"].is_i64(), "{answer}");
    }
    let due = &service.get("/api/floor").await[0]["due"][0];
    assert_eq!((&due["missed"], &due["of"]), (&json!(0), &json!(0)));
}

#[tokio::test]
async fn where_pieces_say_how_often_the_counter_of_the_machine_makes_it_due() {
    let service = Service::start().await;
    let plan = plan(&service, json!({"every": {"pieces": 50, "late_after": 5}})).await;
    let station = &plan["stations"][0];
    let due = async || service.get("/api/floor").await[0]["due"][0].clone();
    assert_eq!((&due().await["left"], &due().await["at"]), (&json!(50), &Value::Null));
    let mut gauge = BufReader::new(TcpStream::connect(service.gauges).await.unwrap());
    let mut said = String::new();
    gauge.write_all(format!("{}\n@1 counter 170\ncounter many\n", station["key"].as_str().unwrap()).as_bytes()).await.unwrap();
    for _ in 0..2 {
        gauge.read_line(&mut said).await.unwrap();
    }
    assert_eq!(said, "ok @1\nno “many” is no counter\n");
    let now = due().await;
    assert_eq!((&now["left"], &now["late"], &now["missed"], &now["of"]), (&json!(-20), &json!(true), &json!(2), &json!(2)));
    let path = format!("/api/floor/stations/{}", station["id"]);
    let entered = service.send(Method::POST, &format!("{path}/entries"), json!({"entries": [entry("a", 800.0)]})).await;
    assert_eq!((entered.status(), due().await["left"].clone()), (StatusCode::OK, json!(30)));
    let counted: Value = service.send(Method::POST, &format!("{path}/counter"), json!({"counter": 20})).await.json().await.unwrap();
    assert_eq!((&counted["made"], due().await["left"].clone()), (&json!(190), json!(10)));
    // Nobody waits for one that is closed.
    service.send(Method::PUT, &path, json!({"closed": true})).await;
    assert_eq!(due().await, Value::Null);
}
