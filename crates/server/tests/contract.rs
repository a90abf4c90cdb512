//! The API does what its description says: every operation, asked wrongly in every way there is, answers with a status and a content type
//! that the description names, and with one shape of problem.

use crate::common::{Service, problem};
use reqwest::{Method, RequestBuilder, Response};
use serde_json::{Value, json};

/// Fails unless the description names the status and the content type.
async fn as_told(what: &str, operation: &Value, response: Response) {
    let status = response.status().as_u16();
    let told = &operation["responses"][status.to_string()];
    assert!(told.is_object(), "{what}: {status} is not in the description");
    let content = response.headers().get("content-type").map(|kind| kind.to_str().unwrap().split(';').next().unwrap().to_owned());
    match (&content, told["content"].as_object()) {
        (Some(content), Some(named)) => assert!(named.contains_key(content), "{what}: {status} {content}, told {named:?}"),
        (None, None) => {}
        (content, named) => panic!("{what}: {status} {content:?}, told {named:?}"),
    }
    if status >= 400 {
        problem(response).await;
    }
}

/// The address of an operation with something in each of its places.
fn filled(path: &str, parameters: &[&Value], of_numbers: &str) -> String {
    parameters.iter().filter(|one| one["in"] == "path").fold(path.to_owned(), |path, one| {
        let name = one["name"].as_str().unwrap();
        path.replace(&format!("{{{name}}}"), if one["schema"]["type"] == "integer" { of_numbers } else { "none" })
    })
}

#[tokio::test]
async fn every_operation_answers_as_its_description_says() {
    let service = Service::start().await;
    let dataset = service.dataset((0..30).map(f64::from)).await;
    let spec = json!({"method": "control-chart", "roles": {"measure": "flux"}, "data": {"dataset": dataset["id"]}});
    let study = service.send(Method::POST, "/api/studies", json!({"spec": spec})).await;
    assert_eq!(study.status(), 200);
    let description = service.get("/api/openapi.json").await;
    let mut asked = 0;
    for (path, methods) in description["paths"].as_object().unwrap() {
        for (method, operation) in methods.as_object().unwrap() {
            let verb: Method = method.to_uppercase().parse().unwrap();
            let parameters: Vec<&Value> = operation["parameters"].as_array().into_iter().flatten().collect();
            let at = |address: &str| service.client.request(verb.clone(), service.url(address));
            let json_body = operation["requestBody"]["content"]["application/json"].is_object();
            let with = |request: RequestBuilder| if json_body { request.json(&json!({})) } else { request };
            let strange = filled(path, &parameters, "9000000000");
            let mut ways = vec![("nothing there", with(at(&strange))), ("one that is there", with(at(&filled(path, &parameters, "1"))))];
            if strange.contains("9000000000") {
                ways.push(("no number", with(at(&filled(path, &parameters, "x")))));
            }
            for one in parameters.iter().filter(|one| one["in"] == "query") {
                ways.push(("a query that is wrong", with(at(&strange).query(&[(one["name"].as_str().unwrap(), "\u{1}x")]))));
            }
            if json_body {
                ways.push(("no JSON", at(&strange).header("content-type", "application/json").body("{")));
                ways.push(("a list", at(&strange).json(&json!([]))));
                ways.push(("no content type", at(&strange).body("{}")));
            }
            ways.push(("a foreign page", with(at(&strange)).header("origin", "http://evil.test")));
            ways.push(("a foreign name", with(at(&strange)).header("host", "evil.test")));
            for (way, request) in ways {
                // The last of a kind may go; what is asked after it is of nothing there.
                as_told(&format!("{method} {path}, {way}"), operation, request.send().await.unwrap()).await;
                asked += 1;
            }
        }
    }
    assert!(asked > 400, "{asked}");
}

#[tokio::test]
async fn a_body_that_is_too_large_is_refused_as_the_description_says() {
    let service = Service::start().await;
    let description = service.get("/api/openapi.json").await;
    let body = vec![b' '; 33 * 1024 * 1024];
    let sent = service.client.post(service.url("/api/studies")).header("content-type", "application/json").body(body).send().await.unwrap();
    assert_eq!(sent.status(), 413);
    as_told("a large study", &description["paths"]["/api/studies"]["post"], sent).await;
}
