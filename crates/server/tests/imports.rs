//! Bringing data in over HTTP: several files together, and rows for a dataset that is there.

mod common;

use common::{Service, problem};
use reqwest::{Method, StatusCode};
use serde_json::{Value, json};

async fn brought(service: &Service, name: &str, text: &str) -> Value {
    let answer = service.bring(name, text.to_owned()).await;
    assert_eq!(answer.status(), StatusCode::OK);
    answer.json().await.unwrap()
}

async fn cells(service: &Service, dataset: &Value) -> Vec<Vec<Value>> {
    let rows = service.get(&format!("/api/datasets/{}/rows?first=0&count=100", dataset["id"])).await;
    serde_json::from_value(rows["cells"].clone()).unwrap()
}

#[tokio::test]
async fn files_sent_one_after_the_other_are_one_table() {
    let service = Service::start().await;
    let first = brought(&service, "monday.csv", "lot,flux\nA,1.5\n").await;
    let add = async |name: &str, text: &str| {
        let address = service.url(&format!("/api/imports/{}/files?name={name}", first["id"]));
        service.client.post(address).body(text.to_owned()).send().await.unwrap()
    };
    let both: Value = add("tuesday.csv", "flux,lot\n2.5,B\n3.5,C\n").await.json().await.unwrap();
    assert_eq!((&both["rows"], &both["columns"][2]["name"]), (&json!(3), &json!("file")));
    let (status, refused) = problem(add("torque.csv", "torque\n1\n").await).await;
    assert_eq!((status, refused["type"].as_str()), (422, Some("/problems/other-layout")));
    let again = service.send(Method::PUT, &format!("/api/imports/{}", first["id"]), json!({})).await;
    assert_eq!(again.status(), StatusCode::OK, "those before it are read as they were");
    let stored = service.send(Method::POST, &format!("/api/imports/{}/dataset", first["id"]), json!({"name": "Week"})).await;
    let dataset: Value = stored.json().await.unwrap();
    let wanted = json!([["A", "B", "C"], ["1.5", "2.5", "3.5"], ["monday.csv", "tuesday.csv", "tuesday.csv"]]);
    assert_eq!(json!(cells(&service, &dataset).await), wanted, "what was refused left no trace");
}

#[tokio::test]
async fn the_rows_of_a_file_come_behind_those_of_a_dataset_and_go_again_when_undone() {
    let service = Service::start().await;
    let preview = brought(&service, "may.csv", "lot,flux,remark\nA,1.5,x\nB,2.5,\n").await;
    let stored = service.send(Method::POST, &format!("/api/imports/{}/dataset", preview["id"]), json!({"name": "May"})).await;
    let dataset: Value = stored.json().await.unwrap();
    let append = async |name: &str, text: &str, wish: Value| {
        let preview = brought(&service, name, text).await;
        service.send(Method::PUT, &format!("/api/imports/{}", preview["id"]), wish).await;
        service.send(Method::POST, &format!("/api/imports/{}/rows", preview["id"]), json!({"dataset_id": dataset["id"]})).await
    };
    let added: Value = append("june.csv", "flux,lot\n3.5,007\n4.5,A\n", json!({})).await.json().await.unwrap();
    assert_eq!((&added["row_count"], &added["revision"]), (&json!(4), &json!(2)));
    let wanted = json!([["A", "B", "007", "A"], ["1.5", "2.5", "3.5", "4.5"], ["x", null, null, null]]);
    assert_eq!(json!(cells(&service, &dataset).await), wanted);
    // What does not fit, or has no place, changes nothing.
    let (status, refused) = problem(append("july.csv", "flux,angle\n1,2\n", json!({})).await).await;
    assert!(status == 422 && refused["detail"].as_str().unwrap().contains("“May” has no column “angle”"), "{refused}");
    let (status, refused) = problem(append("july.csv", "flux\nbright\ndim\n", json!({})).await).await;
    assert!(status == 422 && refused["detail"].as_str().unwrap().contains("2 values are no numbers"), "{refused}");
    let left_out = json!({"columns": [{"index": 1, "leave_out": true}]});
    assert_eq!(append("july.csv", "flux,angle\n5.5,2\n", left_out).await.status(), StatusCode::OK);
    let history = service.get(&format!("/api/datasets/{}/history", dataset["id"])).await;
    assert_eq!(history.as_array().unwrap().len(), 3, "{history}");
    for (revision, rows) in [(3, 4), (4, 2)] {
        let undone = service.send(Method::POST, &format!("/api/datasets/{}/undo", dataset["id"]), json!({ "revision": revision })).await;
        assert_eq!(undone.json::<Value>().await.unwrap()["row_count"], rows);
    }
    assert_eq!(json!(cells(&service, &dataset).await), json!([["A", "B"], ["1.5", "2.5"], ["x", null]]));
}
