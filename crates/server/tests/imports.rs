//! Bringing data in over HTTP: several files together, and rows for a dataset that is there.

use crate::common::{Service, problem};
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
    let append = async |name: &str, text: &str, read_options: Value| {
        let preview = brought(&service, name, text).await;
        service.send(Method::PUT, &format!("/api/imports/{}", preview["id"]), read_options).await;
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

#[tokio::test]
async fn a_file_is_read_as_the_last_one_of_its_layout_was_corrected() {
    let service = Service::start().await;
    let store = async |preview: &Value, name: &str| {
        let stored = service.send(Method::POST, &format!("/api/imports/{}/dataset", preview["id"]), json!({"name": name})).await;
        assert_eq!(stored.status(), StatusCode::OK);
    };
    let first = brought(&service, "may.csv", "bench,flux\nA,1\n,2\nB,x\n,4\n").await;
    assert_eq!((&first["recipe"], &first["read_options"]["columns"]), (&Value::Null, &json!([])));
    let mended = json!({"columns": [{"index": 0, "fill_down": true, "name": "rig"}], "unfit_as_missing": true});
    let path = format!("/api/imports/{}", first["id"]);
    service.send(Method::PUT, &path, mended).await;
    // A reload finds the file as it was left.
    assert_eq!(service.get(&path).await["columns"][0]["name"], "rig");
    store(&first, "May").await;
    let second = brought(&service, "june.csv", "bench,flux\nC,5\n,6\n").await;
    assert_eq!((second["recipe"]["actor"].is_string(), &second["columns"][0]["sample"]), (true, &json!(["C", "C"])));
    assert_eq!(
        (&second["read_options"]["columns"][0]["name"], &second["read_options"]["unfit_as_missing"]),
        (&json!("rig"), &json!(false))
    );
    // Another layout is read as it seems, and so is this one once somebody says so.
    assert_eq!(brought(&service, "july.csv", "bench,angle\nC,5\n,6\n").await["recipe"], Value::Null);
    service.send(Method::PUT, &format!("/api/imports/{}", second["id"]), json!({})).await;
    store(&second, "June").await;
    assert_eq!(brought(&service, "august.csv", "bench,flux\nC,5\n,6\n").await["recipe"], Value::Null);
}

#[tokio::test]
async fn signs_of_values_come_with_the_rows_that_have_them() {
    let service = Service::start().await;
    let preview = brought(&service, "may.csv", "housing,leak rate\nH1,0.8\nH2,0.9\n").await;
    let stored = service.send(Method::POST, &format!("/api/imports/{}/dataset", preview["id"]), json!({"name": "May"})).await;
    let dataset: Value = stored.json().await.unwrap();
    let more = brought(&service, "june.csv", "housing,leak rate\nH3,<0.5\nH4,0.7\n").await;
    assert_eq!(more["columns"][1]["sign_column"], "leak rate sign");
    let added = service.send(Method::POST, &format!("/api/imports/{}/rows", more["id"]), json!({"dataset_id": dataset["id"]})).await;
    assert_eq!(added.status(), StatusCode::OK);
    let wanted = json!([["H1", "H2", "H3", "H4"], ["0.8", "0.9", "0.5", "0.7"], [null, null, "<", null]]);
    assert_eq!(json!(cells(&service, &dataset).await), wanted);
}
