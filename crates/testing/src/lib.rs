//! What every test of methods shares: frames, and data that nobody hopes for.

pub mod made;

use acorn_core::methods::{self, Computed};
use acorn_data::frame::{Column, ColumnInfo, Frame, Kind, Values};
use acorn_study::{Cancel, Spec, StudyError, Tone, View};
use serde_json::{Value, json};

/// A frame of JSON columns, limits on those named.
pub fn frame(columns: &Value, limits: &[(&str, Option<f64>, Option<f64>)]) -> Frame {
    let bare = Frame::from_json(columns.as_object().unwrap()).unwrap();
    let limited = |column: &Column| {
        let own = limits.iter().find(|(name, ..)| *name == column.name);
        let info = own.map_or_else(ColumnInfo::default, |(_, lsl, usl)| ColumnInfo { lsl: *lsl, usl: *usl, ..ColumnInfo::default() });
        Column { info, ..column.clone() }
    };
    Frame::new(bare.columns().iter().map(limited).collect(), None).unwrap()
}

/// Answers a specification in JSON.
///
/// # Panics
/// When a verdict or a note quotes a small chance without the decision that it states, or names one that is not on its card.
pub fn ask(frame: &Frame, spec: &Value) -> Result<Computed, StudyError> {
    let spec = serde_json::from_value::<Spec>(spec.clone()).unwrap();
    let computed = methods::compute(frame, &spec, &Cancel::default())?;
    let card = methods::cards().find(|card| card.method == spec.method).unwrap();
    let notes = computed.notes.iter().map(|note| (note.decision, note.tone, &note.sentence));
    let verdict = &computed.verdict;
    for (decision, tone, sentence) in notes.chain([(verdict.decision.as_deref(), verdict.tone, &verdict.sentence)]) {
        // Beside a claim other chances may be quoted, such as that of a test that is not the one to go by.
        let is_claim = matches!(tone, Tone::Caution | Tone::Alarm) && !sentence.contains("says otherwise");
        match decision {
            Some(id) => assert!(card.decisions.iter().any(|one| one.id == id), "{}: no decision “{id}” on the card", spec.method),
            None => assert!(!(is_claim && quotes_small_chance(sentence)), "{}: no decision is named by “{sentence}”", spec.method),
        }
    }
    Ok(computed)
}

/// Whether a sentence quotes a chance below 5 %.
fn quotes_small_chance(sentence: &str) -> bool {
    let number = |words: &str| words.split([' ', ')', ',', ';']).next().and_then(|number| number.trim_end_matches('.').parse::<f64>().ok());
    sentence.contains("(p below") || sentence.split("(p = ").skip(1).filter_map(number).any(|p| p < 0.05)
}

/// The same with a column as moments, so many minutes after each other as its whole numbers say.
pub fn timed(frame: &Frame, name: &str) -> Frame {
    let moments = |column: &Column| match &column.values {
        Values::Number(minutes) if column.name == name => {
            let values = Values::Time(minutes.iter().map(|minutes| 1_777_852_800_000_000 + *minutes as i64 * 60_000_000).collect());
            Column { kind: Kind::DateTime, values, ..column.clone() }
        }
        _ => column.clone(),
    };
    Frame::new(frame.columns().iter().map(moments).collect(), None).unwrap()
}

/// Everything that is sent of an answer, and its long table.
pub fn sent(computed: &Computed) -> Value {
    let view = View { points: Some(200), ..View::ALL };
    json!({"outcome": computed.outcome(&view), "points": computed.answer.points(&view)})
}

/// Measured values that nobody hopes for, by name.
pub fn awkward() -> Vec<(&'static str, Vec<Option<f64>>)> {
    let of = |values: Vec<f64>| values.into_iter().map(|value| Some(value).filter(|value| !value.is_nan())).collect::<Vec<_>>();
    let wave = |i: u32| f64::from(i * 37 % 101) / 10.0;
    vec![
        ("empty", vec![]),
        ("one", of(vec![2.4])),
        ("two rows", of(vec![2.4, 2.5])),
        ("all missing", vec![None; 12]),
        ("all equal", of(vec![2.4; 40])),
        ("all zero", of(vec![0.0; 40])),
        ("negative", (0..40).map(|i| Some(-wave(i) - 0.5)).collect()),
        ("some missing", (0..60).map(|i| (i % 7 != 3).then(|| wave(i))).collect()),
        ("far from zero", of((0..60).map(|i| 1e7 + wave(i) / 1000.0).collect())),
        ("ties", of((0..60).map(|i| f64::from(i % 4)).collect())),
        ("huge", of((0..40).map(|i| if i % 2 == 0 { 1e308 } else { -1e308 }).collect())),
        ("below normal numbers", of((0..40).map(|i| wave(i) * 1e-310).collect())),
        ("tiny", of((0..40).map(|i| wave(i) * 1e-300).collect())),
        ("a million", of((0..1_000_000).map(|i| wave(i % 1009)).collect())),
        ("one far value", of((0..60).map(|i| if i == 30 { 1e9 } else { wave(i) }).collect())),
    ]
}

/// Every text of an answer.
fn texts(value: &Value, path: &str, found: &mut Vec<(String, String)>) {
    match value {
        Value::String(text) => found.push((path.to_owned(), text.clone())),
        Value::Array(items) => items.iter().for_each(|item| texts(item, path, found)),
        Value::Object(fields) => fields.iter().for_each(|(name, item)| texts(item, &format!("{path}/{name}"), found)),
        _ => {}
    }
}

/// Fails when a sentence of an answer has a hole, or a table is not one, or names a formula that its card does not have.
pub fn sound(method: &str, what: &str, answer: &Value) {
    let mut found = Vec::new();
    texts(answer, "", &mut found);
    for (path, text) in found.iter().filter(|(path, _)| path.ends_with("sentence") || path.ends_with("detail") || path.ends_with("words")) {
        let hole = ["NaN", "inf", "  ", " .", " ,", "()", "Some(", "null", "e308"].iter().find(|hole| text.contains(**hole));
        assert!(hole.is_none() && !text.is_empty(), "{method}, {what}, {path}: “{text}”");
    }
    let card = methods::cards().find(|card| card.method == method).unwrap();
    let tables = answer["outcome"]["tables"].as_array().unwrap().iter().chain([&answer["points"]]);
    for table in tables {
        let columns = table["columns"].as_array().unwrap();
        let rows = columns.first().map_or(0, |column| column["cells"].as_array().unwrap().len());
        for column in columns {
            assert_eq!(column["cells"].as_array().unwrap().len(), rows, "{method}, {what}: {} of {}", column["label"], table["id"]);
        }
        let lines = table["lines"].as_array().cloned().unwrap_or_default();
        assert!(lines.is_empty() || lines.len() == rows, "{method}, {what}: lines of {}", table["id"]);
        let named = columns.iter().chain(&lines).filter_map(|one| one["formula"].as_str());
        for id in named {
            assert!(card.formulas.iter().any(|formula| formula.id == id), "{method}: no formula “{id}”");
        }
    }
}
