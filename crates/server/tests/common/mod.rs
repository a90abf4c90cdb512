//! The service over HTTP against a temporary database.
#![allow(dead_code)]

use acorn_server::AlertSettings;
use acorn_store::Store;
use reqwest::{Client, Method, Response, StatusCode};
use serde_json::{Value, json};
use tokio::net::TcpListener;
use tokio::sync::oneshot;

pub struct Service {
    pub address: String,
    /// Where gauges are heard.
    pub gauges: std::net::SocketAddr,
    pub client: Client,
    _stop: oneshot::Sender<()>,
    _folder: tempfile::TempDir,
}

impl Service {
    pub async fn start() -> Service {
        Service::telling(AlertSettings::default()).await
    }

    pub async fn telling(alerts: AlertSettings) -> Service {
        let folder = tempfile::tempdir().unwrap();
        let store = Store::open(&folder.path().join("acorn.sqlite")).await.unwrap();
        let listener = TcpListener::bind("127.0.0.1:0").await.unwrap();
        let address = format!("http://{}", listener.local_addr().unwrap());
        let heard = TcpListener::bind("127.0.0.1:0").await.unwrap();
        let gauges = heard.local_addr().unwrap();
        let (stop, stopped) = oneshot::channel();
        tokio::spawn(acorn_server::serve(listener, Some(heard), store, alerts, Vec::new(), async move { drop(stopped.await) }));
        Service { address, gauges, client: Client::new(), _stop: stop, _folder: folder }
    }

    pub fn url(&self, path: &str) -> String {
        format!("{}{path}", self.address)
    }

    pub async fn get(&self, path: &str) -> Value {
        self.client.get(self.url(path)).send().await.unwrap().json().await.unwrap()
    }

    pub async fn send(&self, method: Method, path: &str, body: Value) -> Response {
        self.client.request(method, self.url(path)).json(&body).send().await.unwrap()
    }

    pub async fn bring(&self, name: &str, bytes: impl Into<reqwest::Body>) -> Response {
        self.client.post(self.url(&format!("/api/imports?name={name}"))).body(bytes).send().await.unwrap()
    }

    /// A dataset of one number column, brought in as a person would.
    pub async fn dataset(&self, values: impl Iterator<Item = f64>) -> Value {
        let text = values.fold("flux\n".to_owned(), |text, value| text + &format!("{value}\n"));
        let preview: Value = self.bring("flux.csv", text).await.json().await.unwrap();
        let stored = self.send(Method::POST, &format!("/api/imports/{}/dataset", preview["id"]), json!({"name": "Flux"})).await;
        assert_eq!(stored.status(), StatusCode::OK);
        stored.json().await.unwrap()
    }
}

/// Values of a steady process, in no order.
pub fn steady(n: usize) -> impl Iterator<Item = f64> {
    let mut state = 1_u64;
    let mut share = move || {
        state = state.wrapping_mul(6_364_136_223_846_793_005).wrapping_add(1_442_695_040_888_963_407);
        (state >> 33) as f64 / 2_f64.powi(31)
    };
    (0..n).map(move |_| 800.0 + ((0..4).map(|_| share()).sum::<f64>() * 10.0).round() / 10.0)
}

pub async fn problem(response: Response) -> (u16, Value) {
    assert_eq!(response.headers()["content-type"], "application/problem+json");
    let status = response.status().as_u16();
    let problem: Value = response.json().await.unwrap();
    assert_eq!(problem["status"], status);
    assert!(problem["advice"].as_str().is_some_and(|advice| advice.ends_with('.')), "{problem}");
    (status, problem)
}
