//! Every committed case: a specification with data, and what its numbers must hold.
//!
//! The expected values were computed from the defining formulas by independent means, never from our output.

use std::path::{Path, PathBuf};

use acorn_core::methods;
use acorn_data::frame::Frame;
use acorn_study::{Cancel, DataSource, Spec, View};
use serde_json::Value;

fn case_files() -> Vec<PathBuf> {
    let root = Path::new(env!("CARGO_MANIFEST_DIR")).join("tests/cases");
    let folders = std::fs::read_dir(root).unwrap().map(|entry| entry.unwrap().path());
    let mut files: Vec<PathBuf> =
        folders.flat_map(|folder| std::fs::read_dir(folder).unwrap().map(|entry| entry.unwrap().path())).collect();
    files.sort();
    files
}

fn numbers(case: &Value) -> Value {
    let spec: Spec = serde_json::from_value(case.clone()).unwrap();
    // Without data everything is typed in the options.
    let columns = spec.data.as_ref().and_then(DataSource::columns).cloned().unwrap_or_default();
    let frame = Frame::from_json(&columns).unwrap();
    let computed = methods::compute(&frame, &spec, &Cancel::default()).unwrap();
    serde_json::to_value(computed.outcome(&View::ALL).numbers).unwrap()
}

/// The expected fields of each signal, sorted, so that order and further fields do not matter.
fn signal_set(signals: &Value) -> Vec<(String, u64, u64)> {
    let of = |signal: &Value| {
        (signal["pattern"].as_str().unwrap().to_owned(), signal["first"].as_u64().unwrap(), signal["last"].as_u64().unwrap())
    };
    let mut set: Vec<_> = signals.as_array().unwrap().iter().map(of).collect();
    set.sort();
    set
}

fn agrees(got: Option<&Value>, want: &Value, relative: f64, absolute: f64) -> bool {
    match (got, want) {
        (None | Some(Value::Null), Value::String(text)) => text == "null",
        (Some(Value::Number(got)), Value::Number(want)) => {
            let (got, want) = (got.as_f64().unwrap(), want.as_f64().unwrap());
            (got - want).abs() <= (relative * want.abs()).max(absolute)
        }
        (Some(Value::Array(got)), Value::Array(want)) => {
            got.len() == want.len() && got.iter().zip(want).all(|(got, want)| agrees(Some(got), want, relative, absolute))
        }
        (got, want) => got == Some(want),
    }
}

#[test]
fn every_case_holds() {
    let mut failures = Vec::new();
    let files = case_files();
    assert!(files.len() >= 10, "the cases are gone");
    for file in &files {
        let case: Value = serde_json::from_slice(&std::fs::read(file).unwrap()).unwrap();
        assert!(
            case["source"].as_str().is_some_and(|source| source.len() > 20),
            "{} does not say where its values come from",
            file.display()
        );
        let numbers = numbers(&case);
        let tolerance = &case["tolerance"];
        let absolute = tolerance["absolute"].as_f64().unwrap_or(1e-12);
        for (pointer, want) in case["expect"].as_object().unwrap() {
            let got = numbers.pointer(pointer);
            let relative = tolerance.get(pointer).or_else(|| tolerance.get("default")).and_then(Value::as_f64).unwrap();
            let holds = if pointer.ends_with("/signals") {
                got.is_some_and(|got| signal_set(got) == signal_set(want))
            } else {
                agrees(got, want, relative, absolute)
            };
            if !holds {
                failures.push(format!("{} {pointer}: got {}, want {want}", file.display(), got.unwrap_or(&Value::Null)));
            }
        }
    }
    assert!(failures.is_empty(), "{}", failures.join("\n"));
}
