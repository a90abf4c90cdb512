//! Who is to know of trouble is told of it, and what the Wall says of it.

use std::sync::{Arc, Mutex};
use std::time::Duration;

use crate::common::Service;
use acorn_server::{AlertSettings, Patience};
use axum::Router;
use axum::http::StatusCode;
use axum::routing::post;
use reqwest::Method;
use serde_json::{Value, json};
use tokio::net::TcpListener;

/// Somebody at a web address, who is away at first.
async fn listener(away: usize) -> (String, Arc<Mutex<Vec<Value>>>) {
    let heard: Arc<Mutex<Vec<Value>>> = Arc::default();
    let (keep, tries) = (heard.clone(), Arc::new(Mutex::new(0)));
    let hear = move |axum::Json(message): axum::Json<Value>| async move {
        let mut tries = tries.lock().unwrap();
        *tries += 1;
        if *tries <= away {
            return StatusCode::SERVICE_UNAVAILABLE;
        }
        keep.lock().unwrap().push(message);
        StatusCode::OK
    };
    let bound = TcpListener::bind("127.0.0.1:0").await.unwrap();
    let address = format!("http://{}/hook", bound.local_addr().unwrap());
    tokio::spawn(async move { axum::serve(bound, Router::new().route("/hook", post(hear))).await });
    (address, heard)
}

async fn until<T>(what: &str, look: impl AsyncFn() -> Option<T>) -> T {
    for _ in 0..300 {
        if let Some(found) = look().await {
            return found;
        }
        tokio::time::sleep(Duration::from_millis(100)).await;
    }
    panic!("{what} did not come about")
}

fn entry(key: &str, value: f64) -> Value {
    json!({"key": key, "at": 1_780_000_000_000_i64, "time": "2026-05-04 13:30:05", "pieces": [{"flux": value}]})
}

#[tokio::test]
async fn trouble_is_told_in_one_message_and_again_until_somebody_takes_it_on() {
    let patience = Patience { gather: 1500, again: 3000 };
    let site = "https://dial.fennel-hollow.test/".to_owned();
    let service = Service::telling(AlertSettings { patience, site, mail: None }).await;
    let (address, heard) = listener(1).await;
    let plan = json!({"name": "Flux, bench 4", "measurements": [{"column": "flux"}], "told": [address, "mara@fennel-hollow.test"]});
    let new = json!({"plan": plan, "station": "Bench 4", "infos": {"flux": {"unit": "lm", "lsl": 780}}});
    let plan: Value = service.send(Method::POST, "/api/floor/plans", new).await.json().await.unwrap();
    let station = format!("/api/floor/stations/{}/entries", plan["stations"][0]["id"]);
    let enter = async |key: &str, value: f64| {
        let sent = service.send(Method::POST, &station, json!({"entries": [entry(key, value)]})).await;
        sent.json::<Value>().await.unwrap()[0]["entry"]["id"].clone()
    };
    let (first, second) = (enter("a", 770.0).await, enter("b", 765.5).await);
    enter("c", 800.0).await;
    // He was away at the first attempt; the next one reached him.
    let message = until("the message", async || heard.lock().unwrap().first().cloned()).await;
    assert_eq!(message["alerts"].as_array().unwrap().len(), 1);
    let line = &message["alerts"][0];
    let words = "2 entries beyond specification at Bench 4 have no cause; the newest: flux 765.5 lm, below LSL 780.0 lm.";
    assert_eq!((line["words"].as_str(), &line["count"], &line["told_before"]), (Some(words), &json!(2), &json!(0)));
    assert_eq!(line["link"], format!("https://dial.fennel-hollow.test/floor/{}", plan["id"]));
    assert!(message["subject"].as_str().unwrap().starts_with("Flux, bench 4: 2 entries beyond"));
    // The desk knows who was told, and why somebody could not be.
    let alert = service.get("/api/floor").await[0]["alerts"][0].clone();
    let told = alert["told"].as_array().unwrap();
    assert!(told.iter().any(|one| one["address"] == address && one["times"] == 1 && one["problem"].is_null()), "{alert}");
    assert!(told.iter().any(|one| one["times"] == 0 && one["problem"].as_str().is_some_and(|why| why.contains("--mail"))), "{alert}");
    let again = until("the repetition", async || heard.lock().unwrap().get(1).cloned()).await;
    assert!(again["subject"].as_str().unwrap().starts_with("Again: ") && again["alerts"][0]["told_before"] == 1);
    let taken = service.send(Method::POST, &format!("/api/floor/alerts/{}/take-on", alert["id"]), json!({"who": "Mara"})).await;
    assert_eq!(taken.json::<Value>().await.unwrap()["taken_by"], "Mara");
    tokio::time::sleep(Duration::from_millis(200)).await;
    let so_far = heard.lock().unwrap().len();
    tokio::time::sleep(Duration::from_millis(4500)).await;
    assert_eq!(heard.lock().unwrap().len(), so_far, "nobody is told of what was taken on");
    // With a cause for each it is over.
    for id in [first, second] {
        service.send(Method::POST, &format!("/api/floor/entries/{id}/reaction"), json!({"cause": "weak reel"})).await;
    }
    until("the end of the alert", async || service.get("/api/floor").await[0]["alerts"].as_array()?.is_empty().then_some(())).await;
    let (status, _) =
        crate::common::problem(service.send(Method::POST, "/api/floor/alerts/99/take-on", json!({"who": "Mara"})).await).await;
    assert_eq!(status, 404);
}

#[tokio::test]
async fn late_stations_and_signals_of_several_plans_are_told_together_with_what_they_are() {
    let patience = Patience { gather: 2500, again: 600_000 };
    let service = Service::telling(AlertSettings { patience, ..AlertSettings::default() }).await;
    let (address, heard) = listener(0).await;
    let make = async |name: &str, more: Value| -> Value {
        let mut plan = json!({"name": name, "measurements": [{"column": "flux"}], "told": [address]});
        for (name, value) in more.as_object().unwrap() {
            plan[name] = value.clone();
        }
        let new = json!({"plan": plan, "station": "Bench 4"});
        service.send(Method::POST, "/api/floor/plans", new).await.json().await.unwrap()
    };
    let late = make("Flux, bench 4", json!({"every": {"pieces": 10, "late_after": 2}})).await;
    let steady = make("Flux, bench 5", json!({})).await;
    let counted =
        service.send(Method::POST, &format!("/api/floor/stations/{}/counter", late["stations"][0]["id"]), json!({"counter": 14})).await;
    assert_eq!(counted.status(), 200);
    // Twenty that scatter a little, and one far from them.
    let value = |at: usize| if at == 20 { 900.0 } else { 800.0 + (at * 7 % 5) as f64 };
    let entries: Vec<Value> = (0..21).map(|at| entry(&format!("e{at}"), value(at))).collect();
    let station = format!("/api/floor/stations/{}/entries", steady["stations"][0]["id"]);
    assert_eq!(service.send(Method::POST, &station, json!({"entries": entries})).await.status(), 200);
    let message = until("the message", async || heard.lock().unwrap().first().cloned()).await;
    assert_eq!(message["subject"], "2 things wait for somebody");
    let words: Vec<&str> = message["alerts"].as_array().unwrap().iter().filter_map(|line| line["words"].as_str()).collect();
    assert!(words.contains(&"Bench 4 is late: 4 pieces were made since an entry was due."), "{words:?}");
    assert!(words.iter().any(|words| words.contains("signals have no cause; the newest: ")), "{words:?}");
    // With an entry it is late no longer; with the signals of its chart explained that is over too.
    let station = format!("/api/floor/stations/{}/entries", late["stations"][0]["id"]);
    service.send(Method::POST, &station, json!({"entries": [entry("a", 800.0)]})).await;
    let study = steady["study_ids"][0].as_i64().unwrap();
    let signals = service.get(&format!("/api/studies/{study}/signals")).await["signals"].clone();
    for signal in signals.as_array().unwrap() {
        let revision = service.get(&format!("/api/studies/{study}")).await["revision"].clone();
        let path = format!("/api/studies/{study}/signals/{}", signal["address"].as_str().unwrap());
        let said = service.send(Method::PUT, &path, json!({"revision": revision, "cause": "weak reel"})).await;
        assert_eq!(said.status(), 200);
    }
    let open = async || {
        let floor = service.get("/api/floor").await;
        floor.as_array()?.iter().all(|plan| plan["alerts"] == json!([])).then_some(())
    };
    until("the end of both", open).await;
    assert_eq!(heard.lock().unwrap().len(), 1);
}

#[tokio::test]
async fn a_plan_that_is_deleted_or_tells_nobody_has_no_alerts() {
    let patience = Patience { gather: 0, again: 1000 };
    let service = Service::telling(AlertSettings { patience, ..AlertSettings::default() }).await;
    let (address, heard) = listener(0).await;
    let mut plan = json!({"name": "Flux, bench 4", "measurements": [{"column": "flux"}]});
    let new = json!({"plan": plan, "station": "Bench 4", "infos": {"flux": {"usl": 840}}});
    let made: Value = service.send(Method::POST, "/api/floor/plans", new).await.json().await.unwrap();
    let station = format!("/api/floor/stations/{}/entries", made["stations"][0]["id"]);
    service.send(Method::POST, &station, json!({"entries": [entry("a", 900.0)]})).await;
    tokio::time::sleep(Duration::from_millis(1500)).await;
    assert_eq!(service.get("/api/floor").await[0]["alerts"], json!([]));
    // From the moment at which somebody is named, what waits is told.
    plan["told"] = json!([address]);
    let path = format!("/api/floor/plans/{}", made["id"]);
    assert_eq!(service.send(Method::PUT, &path, json!({"version": 1, "plan": plan})).await.status(), 200);
    until("the message", async || heard.lock().unwrap().first().cloned()).await;
    // Nobody is left to take it on where nobody is told any longer.
    let open = async || service.get("/api/floor").await[0]["alerts"].as_array().unwrap().len();
    assert_eq!(open().await, 1);
    for (version, told, left) in [(2, json!([]), 0), (3, json!([address]), 1)] {
        plan["told"] = told;
        assert_eq!(service.send(Method::PUT, &path, json!({"version": version, "plan": plan})).await.status(), 200);
        until("the change", async || (open().await == left).then_some(())).await;
    }
    assert_eq!(service.send(Method::DELETE, &path, json!({})).await.status(), 204);
    tokio::time::sleep(Duration::from_millis(300)).await;
    let so_far = heard.lock().unwrap().len();
    tokio::time::sleep(Duration::from_millis(2500)).await;
    assert_eq!(heard.lock().unwrap().len(), so_far);
}

#[tokio::test]
async fn a_plan_nobody_followed_yet_hangs_calmly_and_one_that_cannot_be_answered_says_why() {
    let service = Service::start().await;
    let plan = json!({"name": "Flux, bench 4", "measurements": [{"column": "flux"}]});
    let new = json!({"plan": plan, "station": "Bench 4", "infos": {"flux": {"usl": 840}}});
    let made: Value = service.send(Method::POST, "/api/floor/plans", new).await.json().await.unwrap();
    let first = service.get("/api/wall").await[0].clone();
    assert_eq!((&first["dial"], &first["problem"], &first["before"]), (&Value::Null, &Value::Null, &Value::Null));
    let study = &made["study_ids"][0];
    let spec = json!({"method": "control-chart", "roles": {"measure": "flux"}, "options": {"chart": "individuals", "width": 99}, "data": {"dataset": made["dataset_id"]}});
    service.send(Method::PATCH, &format!("/api/studies/{study}"), json!({"revision": 1, "spec": spec})).await;
    let station = format!("/api/floor/stations/{}/entries", made["stations"][0]["id"]);
    service.send(Method::POST, &station, json!({"entries": [entry("a", 800.0)]})).await;
    assert!(service.get("/api/wall").await[0]["problem"].as_str().unwrap().contains("width"));
}

#[tokio::test]
async fn the_wall_has_dials_of_counts_where_they_were_hung() {
    let service = Service::start().await;
    let table = (0..30).fold("bad,looked\n".to_owned(), |text, day| text + &format!("{},{}\n", 2 + day % 3, 100));
    let preview: Value = service.bring("solder.csv", table).await.json().await.unwrap();
    let dataset: Value = service
        .send(Method::POST, &format!("/api/imports/{}/dataset", preview["id"]), json!({"name": "Solder"}))
        .await
        .json()
        .await
        .unwrap();
    let study = json!({"spec": {"method": "control-chart", "roles": {"count": "bad", "size": "looked"}, "options": {"chart": "p"}, "data": {"dataset": dataset["id"]}}});
    service.send(Method::POST, "/api/studies", study).await;
    let wall = service.get("/api/wall").await;
    let dial = &wall[0]["dial"];
    assert_eq!(
        (wall.as_array().unwrap().len(), &dial["of"], &dial["ppk"], &wall[0]["place"]),
        (1, &json!("share"), &Value::Null, &Value::Null)
    );
    assert!((dial["mean"].as_f64().unwrap() - 0.03).abs() < 1e-12);
    let place = json!({"column_id": wall[0]["column"]["id"], "line": "line 1", "product": "Vela", "place": 3});
    assert_eq!(service.send(Method::PUT, "/api/wall/places", json!({"places": [place]})).await.status(), 204);
    assert_eq!(service.get("/api/wall").await[0]["place"], place);
}
