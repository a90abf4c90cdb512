//! `guard`.

use acorn_server::guard::*;
use axum::http::{HeaderMap, HeaderValue, Method, header};

fn headers(host: &str, origin: Option<&str>) -> HeaderMap {
    let mut headers = HeaderMap::new();
    headers.insert(header::HOST, host.parse().unwrap());
    if let Some(origin) = origin {
        headers.insert(header::ORIGIN, origin.parse().unwrap());
    }
    headers
}

#[test]
fn foreign_pages_and_names_are_refused() {
    let own = "127.0.0.1:7311";
    assert_eq!(refusal(&Method::POST, &headers(own, Some("http://127.0.0.1:7311")), &[]), None);
    assert_eq!(refusal(&Method::POST, &headers(own, None), &[]), None);
    assert_eq!(refusal(&Method::GET, &headers("[::1]:7311", None), &[]), None);
    assert!(refusal(&Method::POST, &headers(own, Some("http://evil.test")), &[]).is_some());
    assert!(refusal(&Method::PATCH, &headers(own, Some("null")), &[]).is_some());
    assert!(refusal(&Method::GET, &headers("evil.test:7311", None), &[]).is_some());
    let names = ["plant.test".to_owned(), "10.0.0.5".to_owned()];
    for (name, answered) in [("plant.test:7311", true), ("PLANT.test", true), ("10.0.0.5", true), ("127.0.0.1", true), ("evil.test", false)]
    {
        assert_eq!(refusal(&Method::GET, &headers(name, None), &names).is_none(), answered, "{name}");
    }
    for name in ["[::1].evil.test", "[::1]:7311.evil.test", "127.0.0.1:7311.evil.test", "127.0.0.1.evil.test", ""] {
        assert!(refusal(&Method::GET, &headers(name, None), &[]).is_some(), "{name}");
    }
    let mut odd = headers(own, None);
    odd.insert(header::ORIGIN, HeaderValue::from_bytes(b"http://\xff.test").unwrap());
    assert!(refusal(&Method::POST, &odd, &[]).is_some());
    for (site, refused) in [("same-origin", false), ("none", false), ("same-site", true), ("cross-site", true)] {
        let mut from = headers(own, None);
        from.insert(SEC_FETCH_SITE, HeaderValue::from_static(site));
        assert_eq!((refusal(&Method::POST, &from, &[]).is_some(), refusal(&Method::GET, &from, &[])), (refused, None), "{site}");
    }
}
