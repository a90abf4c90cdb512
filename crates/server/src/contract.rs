//! What an operation may answer beside what its handler says: told in the OpenAPI document once for all of them.

use utoipa::openapi::path::{Operation, ParameterIn};
use utoipa::openapi::{Content, OpenApi, Ref, RefOr, Response};

const PROBLEM: &str = "application/problem+json";

/// Adds what reading a request, the guard and the store may answer to every operation, and gives every problem its content type.
pub fn complete(document: &mut OpenApi) {
    for item in document.paths.paths.values_mut() {
        if let Some(operation) = &mut item.get {
            answers(operation, false);
        }
        for operation in [&mut item.put, &mut item.post, &mut item.patch, &mut item.delete].into_iter().flatten() {
            answers(operation, true);
        }
    }
}

fn answers(operation: &mut Operation, writes: bool) {
    let parameters = operation.parameters.iter().flatten().filter_map(|one| match one {
        RefOr::T(parameter) => Some(&parameter.parameter_in),
        RefOr::Ref(_) => None,
    });
    let addressed = parameters.clone().any(|place| *place == ParameterIn::Path);
    let asked = parameters.count() > 0;
    let body = match &operation.request_body {
        Some(RefOr::T(body)) => Some(body.content.contains_key("application/json")),
        _ => None,
    };
    let json = body == Some(true);
    let shared = [
        (400, asked || body.is_some(), "The request cannot be read."),
        (403, true, "It was asked by a foreign page, or for a foreign name."),
        (404, addressed, "There is no such thing."),
        (413, body.is_some(), "It is more than is taken at once."),
        (415, json, "The body is not said to be JSON."),
        (422, json, "The body does not say what is needed, or what it says cannot be."),
        (500, true, "Something broke; nothing was changed."),
        (507, writes, "The disk is full; nothing was changed."),
    ];
    let told = &mut operation.responses.responses;
    for (status, _, words) in shared.into_iter().filter(|(_, may, _)| *may) {
        told.entry(status.to_string()).or_insert_with(|| RefOr::T(Response::new(words)));
    }
    let problems = told.iter_mut().filter(|(status, _)| status.parse::<u16>().is_ok_and(|status| status >= 400));
    for (_, response) in problems {
        if let RefOr::T(response) = response {
            let problem = Content::new(Some(RefOr::Ref(Ref::from_schema_name("HttpProblem"))));
            response.content = [(PROBLEM.to_owned(), problem.into())].into_iter().collect();
        }
    }
}
