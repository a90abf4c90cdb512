//! Models over HTTP: inputs that follow a column, formulas while they are typed, tables out in open formats.

use crate::common::Service;
use reqwest::{Method, StatusCode};
use serde_json::{Value, json};

async fn efficiencies(service: &Service) -> Value {
    let rows = (0..60).fold("lamp,efficiency\n".to_owned(), |text, i| text + &format!("L{i},{}\n", 90.0 + f64::from(i * 37 % 61) / 30.0));
    let preview: Value = service.bring("efficiency.csv", rows).await.json().await.unwrap();
    let stored = service.send(Method::POST, &format!("/api/imports/{}/dataset", preview["id"]), json!({"name": "lab"})).await;
    assert_eq!(stored.status(), StatusCode::OK);
    stored.json().await.unwrap()
}

fn model(dataset: &Value) -> Value {
    json!({"spec": {
        "method": "simulation",
        "options": {
            "inputs": [{"name": "eta", "distribution": "data", "column": "efficiency"}],
            "responses": [{"name": "loss", "formula": "100 - eta", "usl": 9.5}],
            "draws": 2000,
        },
        "data": {"dataset": dataset["id"]},
    }})
}

#[tokio::test]
async fn an_input_follows_its_column_under_any_name_and_says_when_it_is_gone() {
    let service = Service::start().await;
    let dataset = efficiencies(&service).await;
    let study: Value = service.send(Method::POST, "/api/studies", model(&dataset)).await.json().await.unwrap();
    let outcome = format!("/api/studies/{}/outcome", study["id"]);
    let before = service.get(&outcome).await["numbers"]["inputs"][0]["mean"].as_f64().unwrap();
    // Another name of the column changes nothing but its name.
    let column = dataset["columns"].as_array().unwrap().iter().find(|column| column["name"] == "efficiency").unwrap().clone();
    let address = format!("/api/datasets/{}/columns/{}", dataset["id"], column["id"]);
    let renamed =
        service.send(Method::PUT, &address, json!({"revision": dataset["revision"], "column": {"name": "η lab", "kind": "number"}})).await;
    assert_eq!(renamed.status(), StatusCode::OK, "{}", renamed.text().await.unwrap());
    let renamed: Value = renamed.json().await.unwrap();
    let named = service.get(&format!("/api/studies/{}", study["id"])).await;
    assert_eq!(named["spec"]["options"]["inputs"][0]["column"], "η lab");
    let after = service.get(&outcome).await;
    assert_eq!(after["numbers"]["inputs"][0]["mean"].as_f64(), Some(before));
    assert_eq!(after["numbers"]["inputs"][0]["column"], "η lab");
    // A changed value is followed, though no role names the column.
    let edit = json!({"revision": renamed["revision"], "edits": [{"column_id": column["id"], "row": 0, "text": "30"}]});
    assert_eq!(service.send(Method::POST, &format!("/api/datasets/{}/cells", dataset["id"]), edit).await.status(), StatusCode::OK);
    let followed = service.get(&outcome).await["numbers"]["inputs"][0]["mean"].as_f64().unwrap();
    assert!((before - followed - 1.0).abs() < 1e-9, "{before} {followed}");
    // A piece from elsewhere that names a column that is not here is kept, and said when it is answered.
    let mut foreign = model(&dataset);
    foreign["spec"]["options"]["inputs"][0]["column"] = json!("elsewhere");
    let kept: Value = service.send(Method::POST, "/api/studies", foreign).await.json().await.unwrap();
    assert_eq!(kept["spec"]["options"]["inputs"][0]["column"], "elsewhere");
    let told = service.send(Method::GET, &format!("/api/studies/{}/outcome", kept["id"]), json!(null)).await;
    assert_eq!(told.status(), StatusCode::UNPROCESSABLE_ENTITY);
    assert!(told.text().await.unwrap().contains("there is no such column"));
}

/// A model without data of its own, and one with some, take inputs from columns of other datasets.
#[tokio::test]
async fn inputs_are_taken_from_several_datasets() {
    let service = Service::start().await;
    let (lab, line) = (efficiencies(&service).await, efficiencies(&service).await);
    let column = |dataset: &Value| dataset["columns"].as_array().unwrap().iter().find(|one| one["name"] == "efficiency").unwrap().clone();
    let edit = async |dataset: &Value, row: usize, text: &str| {
        let revision = service.get(&format!("/api/datasets/{}", dataset["id"])).await["revision"].clone();
        let edit = json!({"revision": revision, "edits": [{"column_id": column(dataset)["id"], "row": row, "text": text}]});
        assert_eq!(service.send(Method::POST, &format!("/api/datasets/{}/cells", dataset["id"]), edit).await.status(), StatusCode::OK);
    };
    let options = |own: Value| {
        json!({"draws": 1000, "responses": [{"name": "loss", "formula": "a - b"}], "inputs": [
            {"name": "a", "distribution": "data", "column": "efficiency", "dataset": own},
            {"name": "b", "distribution": "data", "column": "efficiency", "dataset": line["id"]},
        ]})
    };
    let bare = json!({"spec": {"method": "simulation", "options": options(lab["id"].clone())}});
    let with_own = json!({"spec": {"method": "simulation", "options": options(json!(null)), "data": {"dataset": lab["id"]}}});
    for new in [bare, with_own] {
        let study: Value = service.send(Method::POST, "/api/studies", new).await.json().await.unwrap();
        let path = format!("/api/studies/{}", study["id"]);
        let means = async || {
            let inputs = service.get(&format!("{path}/outcome")).await["numbers"]["inputs"].clone();
            [inputs[0]["mean"].as_f64().unwrap(), inputs[1]["mean"].as_f64().unwrap()]
        };
        let before = means().await;
        edit(&line, 0, "30").await;
        let after = means().await;
        assert_eq!(after[0], before[0], "the same name in the other dataset is another column");
        assert!(before[1] - after[1] > 0.9, "{before:?} {after:?}");
        edit(&line, 0, "90").await;
        assert_eq!(means().await, before);
        let inputs = service.get(&path).await["spec"]["options"]["inputs"].clone();
        assert_eq!((&inputs[1]["column"], &inputs[1]["dataset"]), (&json!("efficiency"), &line["id"]));
    }
    // Renamed there, it is called so in statements, in the list of studies and in what was stated before.
    let address = format!("/api/datasets/{}/columns/{}", line["id"], column(&line)["id"]);
    let revision = service.get(&format!("/api/datasets/{}", line["id"])).await["revision"].clone();
    let renamed = service.send(Method::PUT, &address, json!({"revision": revision, "column": {"name": "η line", "kind": "number"}})).await;
    assert_eq!(renamed.status(), StatusCode::OK);
    let studies = service.get("/api/studies").await;
    for study in studies.as_array().unwrap() {
        assert_eq!(study["spec"]["options"]["inputs"][1]["column"], "η line");
        let history = service.get(&format!("/api/studies/{}/history", study["id"])).await;
        assert_eq!(history[0]["spec"]["options"]["inputs"][1]["column"], "η line");
        assert_eq!(service.send(Method::GET, &format!("/api/studies/{}/outcome", study["id"]), json!(null)).await.status(), StatusCode::OK);
    }
    // Gone, it is said so, and the study stands.
    let id = studies[0]["id"].clone();
    assert!(service.send(Method::DELETE, &format!("/api/datasets/{}", line["id"]), json!(null)).await.status().is_success());
    let (status, told) = crate::common::problem(service.send(Method::GET, &format!("/api/studies/{id}/outcome"), json!(null)).await).await;
    assert_eq!(status, 422);
    assert!(told["detail"].as_str().unwrap().contains("“b” has neither parameters nor a column"), "{told}");
}

#[tokio::test]
async fn a_typed_formula_is_checked_laid_out_and_renamed() {
    let service = Service::start().await;
    let read = async |body: Value| -> Value {
        let answer = service.send(Method::POST, "/api/formulas", body).await;
        assert_eq!(answer.status(), StatusCode::OK);
        answer.json().await.unwrap()
    };
    let good = read(json!({"formula": "a / (`lens gap` + 1)", "names": ["a", "lens gap"]})).await;
    assert_eq!(good["notation"]["line"], "a ÷ (lens gap + 1)");
    assert!(good["mistake"].is_null());
    let bad = read(json!({"formula": "a + b", "names": ["a"]})).await;
    assert_eq!((bad["mistake"]["from"].as_u64(), bad["mistake"]["to"].as_u64()), (Some(4), Some(5)));
    let circle = json!({"formula": "2 * room", "names": ["room"], "of": "gap", "others": [["room", "gap - 1"]]});
    let circle = read(circle).await;
    assert_eq!(circle["mistake"]["words"], "goes in a circle: “gap” needs “room” needs “gap”");
    assert!(circle["notation"].is_null());
    let renamed = read(json!({"formula": "a + ab*a", "names": [], "rename": ["a", "seal gap"]})).await;
    assert_eq!(renamed["formula"], "`seal gap` + ab*`seal gap`");
}

#[tokio::test]
async fn tables_go_out_in_open_formats() {
    let service = Service::start().await;
    let dataset = efficiencies(&service).await;
    let study: Value = service.send(Method::POST, "/api/studies", model(&dataset)).await.json().await.unwrap();
    let file = async |path: &str| {
        let answer = service.send(Method::GET, &format!("/api/studies/{}/{path}", study["id"]), json!(null)).await;
        let kind = answer.headers()["content-type"].to_str().unwrap().to_owned();
        (answer.status(), kind, answer.bytes().await.unwrap())
    };
    let (status, kind, csv) = file("tables/points.csv").await;
    assert_eq!((status, kind.as_str()), (StatusCode::OK, "text/csv; charset=utf-8"));
    let text = String::from_utf8(csv.to_vec()).unwrap();
    assert_eq!((text.lines().count(), text.lines().next()), (2001, Some("draw,eta,loss")));
    let (status, kind, parquet) = file("tables/points.parquet").await;
    assert_eq!((status, kind.as_str(), &parquet[..4]), (StatusCode::OK, "application/vnd.apache.parquet", &b"PAR1"[..]));
    let (status, _, book) = file("summary.xlsx").await;
    assert_eq!((status, &book[..2]), (StatusCode::OK, &b"PK"[..]));
    assert_eq!(file("tables/points.doc").await.0, StatusCode::NOT_FOUND);
    assert_eq!(file("tables/nothing.csv").await.0, StatusCode::NOT_FOUND);
}

/// A question that would be worked on for minutes.
fn endless() -> Value {
    let inputs: Vec<Value> =
        (0..40).map(|i| json!({"name": format!("x{i}"), "distribution": "normal", "parameters": {"mean": 1, "sd": 0.1}})).collect();
    let terms: Vec<String> = (0..40).map(|i| format!("exp(x{i})")).collect();
    json!({"method": "simulation", "options": {
        "inputs": inputs, "responses": [{"name": "y", "formula": terms.join("+"), "usl": 120}], "draws": 10_000_000, "seed": 77, "tightening": {},
    }})
}

/// While others are in line the last answer is given, and who wants the newest gets it.
#[tokio::test]
async fn who_asks_for_a_fresh_answer_waits_for_it() {
    let service = Service::start().await;
    let dataset = service.dataset((1..=10).map(f64::from)).await;
    let create =
        async |spec: Value| -> Value { service.send(Method::POST, "/api/studies", json!({"spec": spec})).await.json().await.unwrap() };
    let chart = json!({"method": "control-chart", "roles": {"measure": "flux"}, "data": {"dataset": dataset["id"]}});
    let (slow, chart) = (create(endless()).await, create(chart).await);
    let outcome = format!("/api/studies/{}/outcome", chart["id"]);
    let largest = |answer: &Value| answer["numbers"].to_string().contains("777");
    assert!(!largest(&service.get(&outcome).await));
    let slow_outcome = format!("/api/studies/{}/outcome", slow["id"]);
    let asked = service.send(Method::GET, &slow_outcome, json!(null));
    let meanwhile = async {
        while service.get("/api/jobs").await == json!([]) {
            tokio::time::sleep(std::time::Duration::from_millis(50)).await;
        }
        let edit = json!({"revision": 1, "column_id": dataset["columns"][0]["id"], "row": 4, "text": "777"});
        let path = format!("/api/datasets/{}/cells", dataset["id"]);
        assert!(service.send(Method::PATCH, &path, edit).await.status().is_success());
        let last = service.get(&outcome).await;
        assert!(last["stale"] == true && !largest(&last), "{last}");
        let fresh = service.get(&format!("{outcome}?fresh=true")).await;
        assert!(fresh["stale"] == false && largest(&fresh), "{fresh}");
        let job = service.get("/api/jobs").await[0]["id"].clone();
        assert!(service.send(Method::DELETE, &format!("/api/jobs/{job}"), json!({})).await.status().is_success());
    };
    tokio::join!(asked, meanwhile);
}

/// A run that would go on for minutes is a job with its share done and its seed, and anyone stops it.
#[tokio::test]
async fn a_long_run_is_a_job_that_is_stopped() {
    let service = Service::start().await;
    let spec = endless();
    let study: Value = service.send(Method::POST, "/api/studies", json!({"spec": spec})).await.json().await.unwrap();
    let path = format!("/api/studies/{}", study["id"]);
    let outcome = format!("{path}/outcome");
    let asked = service.send(Method::GET, &outcome, json!(null));
    let stop = async {
        for _ in 0..200 {
            tokio::time::sleep(std::time::Duration::from_millis(100)).await;
            let jobs = service.get("/api/jobs").await;
            let Some(job) = jobs.as_array().unwrap().first().cloned() else { continue };
            let share = job["share"].as_f64().unwrap();
            assert!((0.0..1.0).contains(&share) && job["seed"] == 77, "{job}");
            assert_eq!(service.get(&format!("{path}/progress")).await["id"], job["id"]);
            assert!(service.send(Method::DELETE, &format!("/api/jobs/{}", job["id"]), json!({})).await.status().is_success());
            return;
        }
        panic!("no job in twenty seconds");
    };
    let (answer, ()) = tokio::join!(asked, stop);
    assert!(!answer.status().is_success());
    assert!(answer.text().await.unwrap().contains("/problems/stopped"));
    assert_eq!(service.get("/api/jobs").await, json!([]));
    // Fewer draws are answered at once, and undo brings the long question back.
    let mut short = spec.clone();
    short["options"]["draws"] = json!(1000);
    let changed: Value =
        service.send(Method::PATCH, &path, json!({"revision": study["revision"], "spec": short})).await.json().await.unwrap();
    assert_eq!(service.get(&outcome).await["numbers"]["draws"], 1000);
    let undone: Value =
        service.send(Method::POST, &format!("{path}/undo"), json!({"revision": changed["revision"]})).await.json().await.unwrap();
    assert_eq!(undone["spec"]["options"]["draws"], 10_000_000);
}

/// What cannot be run is refused with what to mend, in the one shape of problems, and stays as it was typed.
#[tokio::test]
async fn a_model_that_cannot_be_run_says_where() {
    let service = Service::start().await;
    let with = |responses: Value| json!({"method": "simulation", "options": {"responses": responses, "draws": 1000}});
    for (responses, detail) in [
        (
            json!([{"name": "a", "formula": "b + 1"}, {"name": "b", "formula": "2 * a"}]),
            "“a”, at character 1: goes in a circle: “a” needs “b” needs “a”",
        ),
        (json!([{"name": "a", "formula": "a"}]), "“a”, at character 1: goes in a circle: “a” needs “a”"),
        (json!([{"name": "a", "formula": "2 +"}]), "“a”, at character 4"),
    ] {
        let study: Value = service.send(Method::POST, "/api/studies", json!({"spec": with(responses.clone())})).await.json().await.unwrap();
        let answer = service.send(Method::GET, &format!("/api/studies/{}/outcome", study["id"]), json!(null)).await;
        let (status, told) = crate::common::problem(answer).await;
        assert_eq!((status, told["type"].as_str()), (422, Some("/problems/bad-option")), "{told}");
        assert!(told["detail"].as_str().unwrap().contains(detail), "{told}");
        assert_eq!(service.get(&format!("/api/studies/{}", study["id"])).await["spec"]["options"]["responses"], responses);
    }
}

/// A long search tells how good the best settings are that it has found so far.
#[tokio::test]
async fn a_search_tells_the_best_so_far() {
    let service = Service::start().await;
    let controls: Vec<Value> = (0..12).map(|i| json!({"name": format!("k{i}"), "value": 1, "low": 0, "high": 2})).collect();
    let terms: Vec<String> = (0..12).map(|i| format!("exp(k{i} * x)")).collect();
    let spec = json!({"method": "simulation", "options": {
        "inputs": [{"name": "x", "distribution": "normal", "parameters": {"mean": 1, "sd": 0.1}}], "controls": controls,
        "responses": [{"name": "y", "formula": terms.join("+"), "usl": 20}], "draws": 10_000_000, "search": {"goal": "least-out"},
    }});
    let study: Value = service.send(Method::POST, "/api/studies", json!({"spec": spec})).await.json().await.unwrap();
    let outcome = format!("/api/studies/{}/outcome", study["id"]);
    let asked = service.send(Method::GET, &outcome, json!(null));
    let watch = async {
        for _ in 0..300 {
            tokio::time::sleep(std::time::Duration::from_millis(50)).await;
            let job = service.get(&format!("/api/studies/{}/progress", study["id"])).await;
            let Some(so_far) = job["so_far"].as_str() else { continue };
            assert!(so_far.ends_with(" out"), "{so_far}");
            assert!(service.send(Method::DELETE, &format!("/api/jobs/{}", job["id"]), json!({})).await.status().is_success());
            return true;
        }
        false
    };
    let (answer, told) = tokio::join!(asked, watch);
    assert!(told && !answer.status().is_success(), "it ended before anything was told");
}
