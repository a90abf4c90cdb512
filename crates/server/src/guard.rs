//! What every request must pass and every response carries.
//!
//! A page of another site must not write here, nor read through a name that resolves to this machine: writes
//! need an origin equal to the host, and the server answers to loopback names and those that it was given only.

use std::sync::Arc;

use axum::extract::{Request, State};
use axum::http::{HeaderMap, HeaderName, HeaderValue, Method, StatusCode, header};
use axum::middleware::Next;
use axum::response::{IntoResponse, Response};

use crate::error::ApiError;

const POLICY: &str = "default-src 'self'; script-src 'self'; style-src 'self'; img-src 'self' data: blob:; font-src 'self'; connect-src 'self'; object-src 'none'; base-uri 'none'; form-action 'self'; frame-ancestors 'none'";

const FIXED: [(HeaderName, &str); 4] = [
    (header::CONTENT_SECURITY_POLICY, POLICY),
    (header::X_CONTENT_TYPE_OPTIONS, "nosniff"),
    (header::REFERRER_POLICY, "same-origin"),
    (HeaderName::from_static("cross-origin-opener-policy"), "same-origin"),
];

/// The middleware. `names` are those by which the server may be called from other machines.
pub async fn guard(State(names): State<Arc<[String]>>, request: Request, next: Next) -> Response {
    let mut response = match refusal(request.method(), request.headers(), &names) {
        Some(reason) => {
            ApiError::new(StatusCode::FORBIDDEN, "foreign-origin", reason, "Open the application at its own address.").into_response()
        }
        None => next.run(request).await,
    };
    for (name, value) in FIXED {
        response.headers_mut().insert(name, HeaderValue::from_static(value));
    }
    response
}

pub fn refusal(method: &Method, headers: &HeaderMap, names: &[String]) -> Option<&'static str> {
    let text = |name: HeaderName| headers.get(name).and_then(|value| value.to_str().ok());
    let host = text(header::HOST).unwrap_or_default();
    if !is_own_name(host, names) {
        return Some("this server does not answer to that name");
    }
    let writes = !matches!(*method, Method::GET | Method::HEAD | Method::OPTIONS);
    // An origin that is no text is nobody's own.
    let same =
        |origin: &HeaderValue| origin.to_str().ok().and_then(|origin| origin.split_once("://")).is_some_and(|(_, rest)| rest == host);
    let foreign = headers.get(header::ORIGIN).is_some_and(|origin| !same(origin));
    let elsewhere = text(SEC_FETCH_SITE).is_some_and(|site| !matches!(site, "same-origin" | "none"));
    (writes && (foreign || elsewhere)).then_some("a page of another origin may not change anything here")
}

/// Where the page that asks comes from, as the browser says; a page cannot change it.
pub const SEC_FETCH_SITE: HeaderName = HeaderName::from_static("sec-fetch-site");

fn is_own_name(host: &str, names: &[String]) -> bool {
    let (name, port) = match host.strip_prefix('[').and_then(|rest| rest.split_once(']')) {
        Some((name, port)) => (name, port),
        None => host.split_at(host.find(':').unwrap_or(host.len())),
    };
    let is_port = port.is_empty() || port.strip_prefix(':').is_some_and(|digits| digits.bytes().all(|byte| byte.is_ascii_digit()));
    let loopback = || name.eq_ignore_ascii_case("localhost") || name.parse::<std::net::IpAddr>().is_ok_and(|ip| ip.is_loopback());
    is_port && (loopback() || names.iter().any(|own| own.eq_ignore_ascii_case(name)))
}
