//! `router`.

use acorn_server::router::*;
use axum::Router;
use axum::http::header::CONTENT_TYPE;
use axum::routing::get;
use std::sync::Arc;

async fn breaks() -> &'static str {
    panic!("a value that nobody thought of")
}

#[tokio::test]
async fn what_breaks_is_answered_in_the_one_shape_and_the_next_request_too() {
    let routes = Router::new().route("/breaks", get(breaks)).route("/holds", get(async || "held"));
    let listener = tokio::net::TcpListener::bind("127.0.0.1:0").await.unwrap();
    let address = format!("http://{}", listener.local_addr().unwrap());
    let service = around(routes, Arc::from([]));
    tokio::spawn(async move { axum::serve(listener, service).await });
    let web = reqwest::Client::new();
    let broken = web.get(format!("{address}/breaks")).send().await.unwrap();
    assert_eq!((broken.status().as_u16(), &broken.headers()[CONTENT_TYPE]), (500, &"application/problem+json".parse().unwrap()));
    let problem: serde_json::Value = broken.json().await.unwrap();
    assert_eq!(problem["type"], "/problems/broken");
    assert!(!problem["detail"].as_str().unwrap().contains("nobody thought"), "what broke is nobody's business");
    assert_eq!(web.get(format!("{address}/holds")).send().await.unwrap().text().await.unwrap(), "held");
}
