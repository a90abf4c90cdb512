//! Who is to know of trouble is told of it, and what the Wall says of it.

mod common;

use std::sync::{Arc, Mutex};
use std::time::Duration;

use acorn_server::{AlertSettings, Patience};
use axum::Router;
use axum::http::StatusCode;
use axum::routing::post;
use common::Service;
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
    let (status, _) = common::problem(service.send(Method::POST, "/api/floor/alerts/99/take-on", json!({"who": "Mara"})).await).await;
    assert_eq!(status, 404);
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
