//! Generated from the card of each method: what a slot offers is taken, one step outside is refused, and whatever the data, no
//! sentence has a hole and no number is none.

use std::collections::BTreeSet;
use std::path::{Path, PathBuf};

use acorn_core::methods::{self, cards};
use acorn_data::frame::Frame;
use acorn_study::card::{Choice, FieldKind, Slot, SlotKind, SubjectKind};
use acorn_study::{MethodCard, Spec, StudyError, View};
use acorn_testing::{ask, awkward, frame, sent, sound};
use serde_json::{Map, Value, json};

/// Rows of everything that a role may ask for.
fn rows() -> Value {
    let of = |get: &dyn Fn(u32) -> Value| (0..40).map(get).collect::<Value>();
    json!({
        "flux": of(&|i| json!(10.0 + f64::from(i * 7 % 23) / 10.0)),
        "gap": of(&|i| json!(5.0 + f64::from(i * 11 % 19) / 10.0)),
        "bad": of(&|i| json!(i * 5 % 4)),
        "seen": of(&|i| json!(200 + i % 9)),
        "bench": of(&|i| json!(["A", "B"][i as usize / 20])),
        "five": of(&|i| json!(i / 5)),
        "at": of(&|i| json!(i)),
        "pair": of(&|i| json!(format!("P{}", i / 2))),
        "own": of(&|i| json!(format!("O{}", i / 4))),
        "who": of(&|i| json!(["A", "B"][i as usize % 2])),
        "said": of(&|i| json!(["A", "B"][i as usize / 3 % 2])),
        "truth": of(&|i| json!(["A", "B"][i as usize / 2 % 2])),
        "known": of(&|i| json!([9.5, 11.5][i as usize / 20])),
    })
}

fn filled_frame() -> Frame {
    frame(&rows(), &[("flux", Some(8.0), Some(14.0)), ("gap", Some(4.0), None)])
}

/// A column that suits a role of a method.
fn column_for(method: &str, slot: &Slot) -> Value {
    match (method, slot.name) {
        ("multi-vari", "factors") => return json!(["bench", "who"]),
        ("matrix", "measure") => return json!(["flux", "gap"]),
        _ => {}
    }
    json!(match (method, slot.name) {
        ("gauge-attribute" | "gauge-nested", "part") => "pair",
        ("gauge-nested", "operator") => "own",
        ("relation", "x") => "gap",
        ("association", "row") => "who",
        ("association", "column") => "said",
        ("association", "layer") => "bench",
        ("gauge-attribute", "reference") | ("gauge-crossed", "operator") => "truth",
        (_, name) => column_of(name),
    })
}

fn column_of(role: &str) -> &'static str {
    match role {
        "count" => "bad",
        "size" => "seen",
        "subgroup" | "per" => "five",
        "order" => "at",
        "phase" | "group" | "stage" | "category" | "step" | "part" | "label" => "bench",
        "operator" | "trial" => "who",
        "rating" => "said",
        "reference" => "known",
        _ => "flux",
    }
}

/// A statement in which a slot shows, all that waits filled.
fn base(card: &MethodCard, slot: &Slot) -> Value {
    let mut spec = json!({"method": card.method, "roles": {}, "options": {}});
    for condition in &slot.shows {
        if let Some(option) = condition.option {
            spec["options"][option] = json!(condition.among[0]);
        }
        if let Some(role) = condition.filled_role {
            let of = card.slots.iter().find(|other| other.name == role).unwrap();
            spec["roles"][role] = column_for(card.method, of);
        }
    }
    for _ in 0..8 {
        let read: Spec = serde_json::from_value(spec.clone()).unwrap();
        let Some(waiting) = card.shown(&read).into_iter().find(|other| other.waits(&read)) else { break };
        match &waiting.kind {
            SlotKind::Column { .. } => spec["roles"][waiting.name] = column_for(card.method, waiting),
            SlotKind::Number { low, .. } => spec["options"][waiting.name] = json!(low.max(5.0)),
            SlotKind::Label { .. } => spec["options"][waiting.name] = json!("A"),
            SlotKind::Counts { .. } => spec["options"][waiting.name] = counts(),
            SlotKind::Built { .. } => spec["options"][waiting.name] = json!([{"name": "y", "formula": "1 + pi"}]),
            SlotKind::Typed { fields, list, .. } => {
                let typed: Map<String, Value> = fields.iter().map(|field| (field.name.to_owned(), typed(field.name, field.kind))).collect();
                match list {
                    Some(list) => spec["options"][list] = json!([typed.clone(), typed]),
                    None => spec["options"].as_object_mut().unwrap().extend(typed),
                }
            }
            other => panic!("{} waits: {other:?}", waiting.name),
        }
    }
    spec
}

fn counts() -> Value {
    json!({"rows": ["A", "B"], "columns": ["haze", "leak"], "counts": [[3, 1], [2, 6]]})
}

fn typed(name: &str, kind: FieldKind) -> Value {
    match (name, kind) {
        ("units" | "n" | "n1" | "n2", _) => json!(100),
        ("margin" | "claimed" | "at_most", _) => json!(0.05),
        ("share" | "expected" | "power" | "confidence", _) => json!(0.4),
        ("opportunities" | "sd", _) => json!(1),
        ("usl", _) => json!(9),
        ("lsl", _) => json!(-9),
        (_, FieldKind::Text) => json!("sealing"),
        (_, FieldKind::Date) => json!("2026-05-04"),
        _ => json!(2),
    }
}

/// A choice as it is written, with its fields.
fn chosen(tag: &str, choice: &Choice, missing_fields: bool) -> Value {
    let mut fields: Map<String, Value> = Map::new();
    for field in choice.fields.iter().filter(|_| !missing_fields) {
        fields.insert(field.name.to_owned(), typed(field.name, field.kind));
    }
    match tag {
        "" => json!(choice.value),
        "=" if choice.fields.is_empty() => json!(choice.value),
        "=" => json!(fields),
        tag => {
            fields.insert(tag.to_owned(), json!(choice.value));
            json!(fields)
        }
    }
}

/// Values that a slot must take, and values that it must refuse.
fn values(slot: &Slot) -> (Vec<Value>, Vec<Value>) {
    match &slot.kind {
        SlotKind::Number { low, high, whole, .. } => {
            let inside = [*low, *high, low.max(-1e6) / 2.0 + high.min(1e6) / 2.0];
            let inside = inside.into_iter().filter(|value| value.abs() < 1e15).map(|value| if *whole { value.round() } else { value });
            let step = |end: f64, by: f64| (end.abs() < 1e300).then(|| json!(end + by * end.abs().max(1.0) * 0.1));
            let mut outside = vec![json!("many"), json!([1])];
            outside.extend(step(*low, -1.0).filter(|_| *low > f64::MIN_POSITIVE || *low <= 0.0));
            outside.extend(step(*high, 1.0));
            outside.extend(whole.then(|| json!(low + 0.5)));
            (inside.map(|value| json!(value)).collect(), outside)
        }
        SlotKind::Switch { .. } => (vec![json!(true), json!(false)], vec![json!("yes"), json!(3)]),
        SlotKind::Choice { tag, choices } => {
            let needs = choices.iter().filter(|choice| choice.fields.iter().any(|field| field.required));
            let mut outside: Vec<Value> = needs.map(|choice| chosen(tag, choice, true)).filter(|value| value != &json!({})).collect();
            outside.extend([json!("no such choice"), json!(7)]);
            (choices.iter().map(|choice| chosen(tag, choice, false)).collect(), outside)
        }
        SlotKind::Checklist { tag, items, .. } => {
            let mut inside = vec![json!([])];
            let mut outside = vec![json!([{*tag: "no such item"}]), json!("all")];
            for item in items {
                inside.push(json!([{*tag: item.value}]));
                if let Some(length) = item.length {
                    inside.extend([length.low, length.high].map(|length| json!([{*tag: item.value, "length": length}])));
                    outside.extend([length.low - 1, length.high + 1].map(|length| json!([{*tag: item.value, "length": length}])));
                }
            }
            (inside, outside)
        }
        SlotKind::Rows { .. } => (vec![json!([[0, 4], [9, 9]])], vec![json!([3, 4, 5]), json!([[1]]), json!("A")]),
        SlotKind::LeftOut { .. } => {
            let with = |why: &str| json!([{"rows": [[0, 1], [4, 4]], "why": why}]);
            (vec![json!([]), with("gauge dropped")], vec![with(" "), json!([{"rows": [[0, 1]]}]), json!([[0, 1]])])
        }
        SlotKind::Cuts { .. } => (vec![json!([{"first": 20, "name": "new die"}])], vec![json!([{"name": "x"}]), json!(4)]),
        SlotKind::Counts { .. } => {
            let with = |counts: Value| json!({"rows": ["A", "B"], "columns": ["haze", "leak"], "counts": counts});
            (vec![counts()], vec![with(json!([[3, 1], [2]])), with(json!([[3, -1], [2, 6]])), with(json!([[3, 0.5], [2, 6]])), json!("A")])
        }
        SlotKind::Built { .. } => match slot.name {
            "inputs" => (vec![json!([])], vec![json!([{"name": "x"}]), json!(3)]),
            "controls" => {
                (vec![json!([{"name": "k", "value": 1}])], vec![json!([{"name": "k"}]), json!([{"name": "k", "value": 1, "odd": 2}])])
            }
            "responses" => (vec![json!([{"name": "y", "formula": "2^3"}])], vec![json!([{"name": "y"}]), json!("y")]),
            "correlations" => (vec![json!([])], vec![json!([{"a": "x"}]), json!(true)]),
            "search" => (vec![json!({"goal": "target"})], vec![json!({"goal": "luck"}), json!([])]),
            _ => (vec![json!({}), json!({"scales": [0, 1]})], vec![json!({"scales": [-1]}), json!({"goal": 2}), json!(1)]),
        },
        SlotKind::Renames { .. } => (vec![json!({"A": "B"})], vec![json!({"A": 3}), json!(["A"])]),
        SlotKind::PerLabel { .. } | SlotKind::PerPoint { .. } => (vec![json!({"A": 10.5})], vec![json!({"A": "x"}), json!([1])]),
        SlotKind::Label { .. } => (vec![json!("A")], vec![json!(4)]),
        SlotKind::Limits { .. } | SlotKind::Typed { .. } | SlotKind::Column { .. } => (Vec::new(), Vec::new()),
    }
}

/// Whether an error is about what an option may be.
fn refuses_option(error: &StudyError) -> bool {
    matches!(error, StudyError::BadOption { .. } | StudyError::OutOfRange { .. } | StudyError::UnknownOption { .. })
}

#[test]
fn every_slot_takes_what_it_offers_and_refuses_one_step_outside() {
    let frame = filled_frame();
    let mut tried = 0;
    for card in cards() {
        for slot in &card.slots {
            let (inside, outside) = values(slot);
            let with = |value: &Value| {
                let mut spec = base(card, slot);
                spec["options"][slot.name] = value.clone();
                spec
            };
            for value in &inside {
                let spec = with(value);
                let answer = ask(&frame, &spec);
                // What depends on the data, such as a bound below every value, may still be refused by another option's name.
                let blamed =
                    answer.as_ref().err().filter(|error| refuses_option(error) && error.to_string().contains(&format!("“{}”", slot.name)));
                assert!(blamed.is_none() || depends_on_data(card.method, slot.name, value), "{spec}: {}", blamed.unwrap());
                tried += 1;
            }
            for value in &outside {
                let spec = with(value);
                let error = ask(&frame, &spec).err().unwrap_or_else(|| panic!("{spec} was taken"));
                assert!(refuses_option(&error), "{spec}: {error}");
                tried += 1;
            }
        }
    }
    assert!(tried > 300, "{tried}");
}

/// Values that fit the slot and yet not these rows.
fn depends_on_data(method: &str, option: &str, value: &Value) -> bool {
    match (method, option) {
        // Bars that begin above the values, or so narrow that there would be thousands.
        (_, "bin_start" | "bins") => true,
        // Two labels are compared, and one of them may be the usual one of the other.
        ("pareto", "before" | "after" | "inspected_before" | "inspected_after") => true,
        // Rows that are counted may be more than were inspected.
        ("control-chart", "sizes") => true,
        // A search needs limits or a target, and a range.
        ("simulation", "search") => true,
        // No row may have the label.
        ("capability", "only") => value.is_object(),
        // A shape may not fit, and values from before go with the normal only.
        ("capability", "shape") => value.as_str().is_some_and(|shape| shape != "normal"),
        // Limits known beforehand must be possible for the chart; the sd of values is none of samples.
        ("control-chart", "limits") => value.is_object(),
        ("control-chart" | "capability", "sigma") => true,
        // Ranges need as many readings in every cell.
        ("gauge-crossed", "method") => value == "range",
        _ => false,
    }
}

#[test]
fn every_card_is_whole() {
    for card in cards() {
        assert!(!card.found_by.is_empty(), "{} is found by no word", card.method);
        let ids: Vec<_> = card.formulas.iter().map(|formula| formula.id).collect();
        assert!((1..ids.len()).all(|i| !ids[..i].contains(&ids[i])), "{}: two formulas share an id", card.method);
        for slot in &card.slots {
            assert!(card.statement.contains(&format!("{{{}}}", slot.at)), "{} has no place for {}", card.method, slot.at);
            let fits = |option: &str| card.slots.iter().any(|other| other.name == option && matches!(other.kind, SlotKind::Choice { .. }));
            assert!(slot.shows.iter().filter_map(|condition| condition.option).all(fits), "{}: {}", card.method, slot.name);
        }
    }
}

#[test]
fn awkward_data_give_an_answer_without_holes_or_an_error_in_words() {
    let mut answered = std::collections::BTreeMap::<&str, usize>::new();
    for (what, values) in awkward() {
        let n = values.len();
        let of = |get: &dyn Fn(usize) -> Value| (0..n).map(get).collect::<Value>();
        let whole = |i: usize| values[i].map(|value| value.abs().min(100.0).floor());
        let columns = json!({
            "flux": values, "gap": values,
            "bad": of(&|i| json!(whole(i))), "seen": of(&|i| json!(whole(i).map(|count| count + 50.0))),
            "bench": of(&|i| if i % 5 == 4 { Value::Null } else { json!(["A", "B"][i % 2]) }),
            "five": of(&|i| json!(i / 5)), "at": of(&|i| json!(i)),
            "pair": of(&|i| json!(format!("P{}", i / 2))), "own": of(&|i| json!(format!("O{}", i / 4))),
            "who": of(&|i| json!(["A", "B"][i % 2])), "said": of(&|i| json!(["A", "B"][i / 3 % 2])),
            "truth": of(&|i| json!(["A", "B"][i / 2 % 2])), "known": of(&|i| json!([9.5, 11.5][i % 2])),
        });
        let frame = frame(&columns, &[("flux", Some(1.0), Some(9.0)), ("gap", None, Some(9.0))]);
        for card in cards() {
            // Each plain choice once, so that every kind of chart and picture meets the data.
            let choices = card.slots.iter().flat_map(|slot| match &slot.kind {
                SlotKind::Choice { tag: "", choices } => choices.iter().map(|choice| (slot, Some(choice.value))).collect::<Vec<_>>(),
                _ => vec![(slot, None)],
            });
            for (slot, value) in choices.filter(|(slot, value)| value.is_some() || slot.subject.is_some()) {
                // Fitting shapes takes long and is tried on its own.
                if value.is_some_and(|value| value.contains("fit")) {
                    continue;
                }
                let mut spec = base(card, slot);
                if let Some(value) = value {
                    spec["options"][slot.name] = json!(value);
                }
                match ask(&frame, &spec) {
                    Ok(answer) => {
                        sound(card.method, what, &sent(&answer));
                        // The long table is read in pages: the one after the last is empty, and a page is no longer than asked for.
                        let page = |first: usize| answer.answer.points(&View { first: Some(first), last: Some(first), points: None });
                        assert!(page(0).rows() <= 1 && page(9_999_999).rows() == 0, "{}, {what}: {}", card.method, spec);
                        *answered.entry(card.method).or_default() += 1;
                    }
                    Err(error) => {
                        let words = format!("{error} {}", error.advice());
                        assert!(!words.contains("NaN") && !words.contains("  ") && error.advice().ends_with('.'), "{spec}: {words}");
                    }
                }
            }
        }
    }
    assert!(cards().all(|card| answered.get(card.method).is_some_and(|answers| *answers >= 5)), "{answered:?}");
}

/// Which column a question is about is decided by its card. Whoever names a role instead forgets the next one.
#[test]
fn no_role_is_named_outside_the_methods_and_their_figures() {
    fn sources(folder: &Path, found: &mut Vec<PathBuf>) {
        for entry in std::fs::read_dir(folder).unwrap().map(|entry| entry.unwrap().path()) {
            let figures = entry.file_name().is_some_and(|name| name == "figures" || name == "schema.d.ts");
            match entry.extension().and_then(|extension| extension.to_str()) {
                _ if figures => {}
                _ if entry.is_dir() => sources(&entry, found),
                Some("rs" | "ts" | "tsx") => found.push(entry),
                _ => {}
            }
        }
    }
    let root = Path::new(env!("CARGO_MANIFEST_DIR")).join("../..");
    let mut files = Vec::new();
    ["crates/server/src", "crates/store/src", "crates/app/src", "web/src"]
        .iter()
        .for_each(|folder| sources(&root.join(folder), &mut files));
    assert!(files.len() > 200, "the sources are gone");
    let subjects: BTreeSet<&str> =
        methods::cards().flat_map(|card| &card.slots).filter(|slot| slot.subject.is_some()).map(|slot| slot.name).collect();
    let named: Vec<String> =
        subjects.iter().flat_map(|role| [".", "[\"", ".get(\"", "contains_key(\""].map(|by| format!("{by}{role}"))).collect();
    for file in files {
        let text = std::fs::read_to_string(&file).unwrap();
        for after in text.split("roles").skip(1) {
            let after = after.strip_prefix('?').unwrap_or(after);
            assert!(!named.iter().any(|name| after.starts_with(name)), "{} names a role: roles{:.30}", file.display(), after);
        }
    }
}

#[test]
fn a_chart_of_a_log_is_about_the_column_whose_rows_it_counts() {
    let subject = |roles: Value, options: Value| {
        methods::subject(&serde_json::from_value(json!({"method": "control-chart", "roles": roles, "options": options})).unwrap())
    };
    let kept = subject(json!({"per": "defect"}), json!({"chart": "c"})).unwrap();
    assert_eq!((kept.kind, kept.column().map(String::as_str)), (SubjectKind::Count, Some("defect")));
    let side = subject(json!({"measure": ["left", "right"]}), json!({"chart": "xbar-r"})).unwrap();
    assert_eq!((side.kind, side.column(), side.columns.len()), (SubjectKind::Measurement, None, 2));
    assert_eq!(subject(json!({}), json!({})), None);
}
