//! What is said of data that a lamp works has: verdict, notes, offers, next questions, tables, dial and advice, whole.
//!
//! Each question has one snapshot in `snapshots/`. A sentence that changes shows as a difference to be read before it is
//! accepted: `INSTA_UPDATE=always cargo test -p acorn-core --test all transcripts` writes them.

use std::collections::{BTreeMap, BTreeSet};
use std::fmt::Write as _;

use acorn_core::glossary;
use acorn_core::methods;
use acorn_data::frame::{Column, Frame, Kind, Values};
use acorn_study::Cells;
use acorn_study::View;
use acorn_testing::{ask, frame};
use serde_json::{Map, Value, json};

/// Values that scatter by a fixed sequence about `mean` with about such an sd.
fn scatter(n: usize, mean: f64, sd: f64) -> Vec<f64> {
    let score = |i: usize| acorn_maths::normal::quantile(((i * 37 % n.max(90)) as f64 + 0.5) / n.max(90) as f64);
    (0..n).map(|i| ((mean + sd * score(i)) * 1000.0).round() / 1000.0).collect()
}

fn each(n: usize, of: impl Fn(usize) -> f64) -> Vec<f64> {
    (0..n).map(of).collect()
}

/// A model with more options.
fn model(more: Value) -> Value {
    let mut options = json!({
        "inputs": [
            {"name": "capacity", "unit": "Ah", "distribution": "normal", "parameters": {"mean": 3.2, "sd": 0.08}, "cost": 5},
            {"name": "cell voltage", "unit": "V", "distribution": "uniform", "parameters": {"low": 3.55, "high": 3.75}, "cost": 2},
            {"name": "odd", "distribution": "exponential", "parameters": {"scale": 1}},
        ],
        "controls": [{"name": "power", "unit": "W", "value": 2.2, "low": 1.6, "high": 2.4, "sd": 0.05}],
        "responses": [
            {"name": "energy", "unit": "Wh", "formula": "capacity * `cell voltage`"},
            {"name": "run time", "unit": "h", "formula": "0.9 * energy / power", "lsl": 4.5},
        ],
        "sensitivity": true,
    });
    options.as_object_mut().unwrap().extend(more.as_object().unwrap().clone());
    options
}

/// Columns of the scenarios by name.
fn columns() -> Map<String, Value> {
    let thickness = scatter(60, 2.4, 0.012);
    let shifted: Vec<f64> = thickness.iter().enumerate().map(|(i, x)| if i >= 40 { x - 0.02 } else { *x }).collect();
    let leak: Vec<f64> = scatter(60, -0.4, 0.4).iter().map(|x| (x.exp() * 100.0).round() / 100.0).collect();
    let far: Vec<f64> = thickness.iter().enumerate().map(|(i, x)| if i == 31 { 2.5 } else { *x }).collect();
    let gaps: Vec<Value> = thickness.iter().enumerate().map(|(i, x)| if i % 9 == 4 { Value::Null } else { json!(x) }).collect();
    let bench = |i: usize| ["A", "B", "C"][i / 20];
    let reading =
        |i: usize| ((1.15 + 0.012 * (i * 7 % 10) as f64 + [0.0, 0.004, -0.002][i / 10 % 3] + thickness[i] - 2.4) * 1000.0).round() / 1000.0;
    let columns = json!({
        "thickness": thickness,
        "shifted": shifted,
        "leak": leak,
        "far": far,
        "gaps": gaps,
        "coarse": thickness.iter().map(|x| (x * 50.0).round() / 50.0).collect::<Vec<_>>(),
        "drifting": each(60, |i| 2.35 + i as f64 * 0.002),
        "equal": each(60, |_| 2.4),
        "sample": each(60, |i| (i / 5) as f64),
        "bench": (0..60).map(bench).collect::<Vec<_>>(),
        "press": (0..60).map(|i| if i < 30 { "old die" } else { "new die" }).collect::<Vec<_>>(),
        "defectives": each(60, |i| [3.0, 1.0, 4.0, 2.0, 5.0, 0.0, 3.0][i % 7] + if i == 44 { 14.0 } else { 0.0 }),
        "inspected": each(60, |i| 180.0 + (i * 37 % 40) as f64),
        "reels": each(60, |i| 20_000.0 + (i * 37 % 40) as f64 * 10.0),
        "flaws": each(60, |i| 300.0 + (i * 53 % 170) as f64),
        "between": each(60, |i| [120.0, 80.0, 99.0, 101.0, 60.0, 140.0][i % 6] + if i == 50 { 900.0 } else { 0.0 }),
        "piece": each(60, |i| (i % 10 + 1) as f64),
        "reader": (0..60).map(|i| ["Ida", "Jonas", "Mei"][i / 10 % 3]).collect::<Vec<_>>(),
        "reading": each(60, reading),
        "half read": (0..60).map(|i| if i < 41 { json!(reading(i)) } else { Value::Null }).collect::<Vec<_>>(),
        "true": each(60, |i| ((1.15 + 0.012 * (i * 7 % 10) as f64) * 1000.0).round() / 1000.0),
        "said": (0..60).map(|i| if (i * 7 % 10 > 6) != (i % 23 == 5) { "crack" } else { "sound" }).collect::<Vec<_>>(),
        "truth": (0..60).map(|i| if i * 7 % 10 > 6 { "crack" } else { "sound" }).collect::<Vec<_>>(),
        "flaw": (0..60).map(|i| ["cold joint", "cold joint", "bridge", "cold joint", "scratch", if i < 30 { "haze" } else { "bridge" }][i * 7 % 6]).collect::<Vec<_>>(),
        "outcome": (0..60).map(|i| if i % 8 == 3 { "leaks" } else { "tight" }).collect::<Vec<_>>(),
    });
    columns.as_object().unwrap().clone()
}

/// A question to the columns: a name, the method, roles, options.
fn scenarios() -> Vec<(&'static str, &'static str, Value, Value)> {
    let measure = |name: &str| json!({ "measure": name });
    let sampled = |name: &str| json!({"measure": name, "subgroup": "sample"});
    let read_by = json!({"measure": "reading", "part": "piece", "operator": "reader"});
    let counted = json!({"count": "defectives", "size": "inspected"});
    let patterns = json!([{"pattern": "beyond-limits"}, {"pattern": "run-one-side"}, {"pattern": "trend"}, {"pattern": "alternating"},
        {"pattern": "two-of-three-outer"}, {"pattern": "four-of-five-outer"}, {"pattern": "hugging-centre"}, {"pattern": "avoiding-centre"}]);
    vec![
        ("individuals steady", "control-chart", measure("thickness"), json!({})),
        ("individuals shifted, all patterns", "control-chart", measure("shifted"), json!({"patterns": patterns})),
        ("individuals, one far value", "control-chart", measure("far"), json!({})),
        ("individuals, the far value left out", "control-chart", measure("far"), json!({"omit": [31]})),
        ("individuals, gaps", "control-chart", measure("gaps"), json!({})),
        ("individuals, coarse", "control-chart", measure("coarse"), json!({})),
        ("individuals, drifting", "control-chart", measure("drifting"), json!({"patterns": patterns})),
        ("individuals, all equal", "control-chart", measure("equal"), json!({})),
        ("individuals, baseline", "control-chart", measure("shifted"), json!({"limits": {"from": "baseline", "first": 0, "last": 24}})),
        (
            "individuals, known limits",
            "control-chart",
            measure("shifted"),
            json!({"limits": {"from": "known", "center": 2.4, "sigma": 0.012, "set_by": "Ida", "set_on": "2026-03-01"}}),
        ),
        ("individuals, phases", "control-chart", json!({"measure": "shifted", "phase": "press"}), json!({})),
        (
            "individuals, cuts",
            "control-chart",
            measure("shifted"),
            json!({"cuts": [{"first": 0, "name": "before"}, {"first": 40, "name": "after"}]}),
        ),
        ("mean and range", "control-chart", sampled("shifted"), json!({"chart": "xbar-r"})),
        ("mean and sd", "control-chart", sampled("thickness"), json!({"chart": "xbar-s"})),
        ("between and within", "control-chart", sampled("shifted"), json!({"chart": "xbar-between"})),
        ("p", "control-chart", counted.clone(), json!({"chart": "p"})),
        ("np", "control-chart", counted.clone(), json!({"chart": "np"})),
        ("c", "control-chart", json!({"count": "defectives"}), json!({"chart": "c"})),
        ("u, overdispersed", "control-chart", json!({"count": "flaws", "size": "reels"}), json!({"chart": "u"})),
        ("p-prime", "control-chart", json!({"count": "flaws", "size": "reels"}), json!({"chart": "p-prime"})),
        ("g", "control-chart", json!({"count": "between"}), json!({"chart": "g"})),
        ("t", "control-chart", measure("between"), json!({"chart": "t"})),
        ("ewma", "control-chart", measure("shifted"), json!({"chart": "ewma"})),
        ("cusum", "control-chart", measure("shifted"), json!({"chart": "cusum"})),
        ("run chart", "control-chart", measure("drifting"), json!({"chart": "run"})),
        ("run chart, random", "control-chart", measure("thickness"), json!({"chart": "run"})),
        (
            "deviation",
            "control-chart",
            json!({"measure": "thickness", "part": "bench"}),
            json!({"chart": "deviation", "targets": {"A": 2.4, "B": 2.41}}),
        ),
        ("capability", "capability", measure("thickness"), json!({"lsl": 2.34, "usl": 2.46})),
        ("capability, aim off", "capability", sampled("thickness"), json!({"lsl": 2.38, "usl": 2.5, "target": 2.44, "goal": 1.33})),
        ("capability, wide", "capability", measure("thickness"), json!({"lsl": 2.2, "usl": 2.6})),
        ("capability, unsteady", "capability", measure("drifting"), json!({"lsl": 2.3, "usl": 2.5})),
        ("capability, skewed", "capability", measure("leak"), json!({"usl": 2.5, "bound": 0.0})),
        ("capability, best fit", "capability", measure("leak"), json!({"usl": 3.5, "shape": "best-fit", "bound": 0.0})),
        ("capability, percentiles", "capability", measure("leak"), json!({"usl": 2.5, "shape": "percentile"})),
        ("capability, power", "capability", measure("leak"), json!({"usl": 2.5, "shape": "box-cox"})),
        ("capability, one side", "capability", measure("thickness"), json!({"lsl": 2.35, "wanted": 0.05})),
        (
            "capability, one bench",
            "capability",
            json!({"measure": "thickness", "group": "bench"}),
            json!({"lsl": 2.34, "usl": 2.46, "only": {"label": "B"}}),
        ),
        (
            "capability, known before",
            "capability",
            measure("thickness"),
            json!({"lsl": 2.34, "usl": 2.46, "historical": {"mean": 2.41, "sigma": 0.011}}),
        ),
        ("gauge", "gauge-crossed", read_by.clone(), json!({"lsl": 1.1, "usl": 1.3})),
        ("gauge, ranges", "gauge-crossed", read_by.clone(), json!({"method": "range"})),
        ("gauge, nested", "gauge-nested", read_by.clone(), json!({"lsl": 1.1, "usl": 1.3})),
        (
            "gauge, half read",
            "gauge-crossed",
            json!({"measure": "half read", "part": "piece", "operator": "reader"}),
            json!({"tolerance": 0.2}),
        ),
        ("gauge, one piece", "gauge-single", measure("thickness"), json!({"reference": 2.41, "lsl": 2.2, "usl": 2.6, "resolution": 0.001})),
        (
            "gauge, known pieces",
            "gauge-linearity",
            json!({"measure": "reading", "part": "piece", "reference": "true"}),
            json!({"process_sd": 0.03}),
        ),
        (
            "judgements",
            "gauge-attribute",
            json!({"rating": "said", "part": "piece", "operator": "reader", "reference": "truth"}),
            json!({"bad": "crack"}),
        ),
        ("judgements, nothing known", "gauge-attribute", json!({"rating": "said", "part": "piece", "operator": "reader"}), json!({})),
        ("kinds of a log", "pareto", json!({"category": "flaw"}), json!({})),
        ("kinds by group, three of them", "pareto", json!({"category": "flaw", "group": "press"}), json!({"fold": {"top": 3}})),
        ("kinds by cost", "pareto", json!({"category": "flaw", "weight": "leak"}), json!({"fold": "none"})),
        ("look", "distribution", measure("thickness"), json!({})),
        ("look, skewed", "distribution", measure("leak"), json!({})),
        ("look, groups", "distribution", json!({"measure": "shifted", "group": "bench"}), json!({"show": "boxes"})),
        ("look, gaps and one far", "distribution", measure("far"), json!({"show": "probability"})),
        ("look, coarse", "distribution", measure("coarse"), json!({})),
        ("look, all equal", "distribution", measure("equal"), json!({})),
        ("indices", "indices", json!({"measure": ["thickness", "leak", "drifting"]}), json!({})),
        (
            "sigma level, counts",
            "sigma-level",
            json!({}),
            json!({"from": "counts", "units": 1250, "opportunities": 14, "defects": 193, "goal": 4.0}),
        ),
        ("sigma level, none found", "sigma-level", json!({}), json!({"from": "counts", "units": 1250, "opportunities": 14, "defects": 0})),
        (
            "sigma level, steps",
            "sigma-level",
            json!({}),
            json!({"from": "steps", "steps": [
            {"name": "mould", "units": 1000, "opportunities": 1, "defects": 30}, {"name": "solder", "units": 970, "opportunities": 12, "defects": 95}]}),
        ),
        ("sigma level, normal", "sigma-level", json!({}), json!({"from": "normal", "mean": 2.4, "sd": 0.012, "lsl": 2.36, "usl": 2.44})),
        ("sigma level, measurement", "sigma-level", measure("thickness"), json!({"from": "measurement"})),
        ("sigma level, columns", "sigma-level", counted, json!({"from": "columns"})),
        ("share, typed", "proportion", json!({}), json!({"x": 3, "n": 80, "p0": 0.1, "alternative": "less"})),
        ("share, labels", "proportion", json!({"category": "outcome"}), json!({"value": "leaks"})),
        ("two shares", "proportion", json!({}), json!({"x1": 14, "n1": 120, "x2": 29, "n2": 130})),
        ("two rates", "proportion", json!({}), json!({"x1": 24, "exposure1": 60, "x2": 41, "exposure2": 75})),
        ("how many for a difference", "proportion", json!({}), json!({"claimed": 0.03, "share": 0.06})),
        ("how many must pass", "proportion", json!({}), json!({"at_most": 0.02, "failures": 1})),
        ("flaws by press", "association", json!({"column": "flaw", "row": "press", "layer": "bench"}), json!({})),
        (
            "few counts in a table",
            "association",
            json!({}),
            json!({"table": {"rows": ["old seal", "new seal"], "columns": ["leaks", "tight"], "counts": [[7, 4], [1, 9]]}}),
        ),
        (
            "flaws before and after",
            "pareto",
            json!({"category": "flaw"}),
            json!({"compare_to": "rows", "before_first": 1, "before_last": 30, "after_first": 31, "after_last": 60}),
        ),
        ("groups compared", "compare", json!({"measure": "shifted", "group": "bench"}), json!({})),
        ("row by row", "compare", json!({"measure": ["thickness", "shifted"]}), json!({"test": "paired", "delta": 0.01})),
        ("two columns", "relation", json!({"x": "thickness", "y": "shifted", "group": "press"}), json!({"fit": "quadratic"})),
        ("sources of variation", "multi-vari", json!({"measure": "reading", "factors": ["reader", "piece"]}), json!({})),
        ("which shape", "fit-distribution", measure("leak"), json!({})),
        ("which shape, two dies", "fit-distribution", measure("shifted"), json!({})),
        ("what if", "simulation", json!({}), model(json!({"tightening": {"goal": 0.001}}))),
        ("what if, settings", "simulation", json!({}), model(json!({"search": {"goal": "largest-ppk"}, "draws": 1_000_000}))),
        (
            "what if, from a column",
            "simulation",
            json!({}),
            json!({"inputs": [{"name": "gap", "unit": "mm", "distribution": "data", "column": "drifting"}], "responses": [{"name": "room", "unit": "µm", "formula": "1/(gap - 2.4) + idle"}], "controls": [{"name": "idle", "value": -1}]}),
        ),
        ("every pair", "matrix", json!({"measure": ["thickness", "shifted", "leak", "gaps", "equal"]}), json!({})),
        ("every column", "screening", json!({"measure": "shifted"}), json!({})),
        ("rows held against the others", "screening", json!({}), json!({"rows": [[40, 51]]})),
        ("rows of a log", "control-chart", json!({"per": "bench"}), json!({"chart": "c"})),
    ]
}

fn limited() -> Frame {
    let limits =
        [("thickness", Some(2.34), Some(2.46)), ("leak", None, Some(2.5)), ("drifting", Some(2.3), Some(2.5)), ("gaps", Some(2.34), None)];
    frame(&Value::Object(columns()), &limits)
}

/// A number as far as machines agree on it.
fn short(value: f64) -> String {
    let text = format!("{value:.5e}");
    text.parse::<f64>().map_or(text, |rounded| rounded.to_string())
}

/// Every leaf on a line of its own; of long lists of the figure the first, the last and their number.
fn lines_of(value: &Value, path: &str, out: &mut String) {
    match value {
        Value::Object(fields) => {
            let said = fields.iter().filter(|(name, _)| !matches!(name.as_str(), "writer" | "format" | "row_ids" | "chart_numbers"));
            said.for_each(|(name, value)| lines_of(value, &format!("{path}.{name}"), out));
        }
        Value::Array(items) if items.iter().all(|item| item.is_number() || item.is_null()) => {
            let shown: Vec<String> = items.iter().map(|item| item.as_f64().map_or("-".to_owned(), short)).collect();
            writeln!(out, "{path}: {}", shown.join(" ")).unwrap();
        }
        Value::Array(items) if items.len() > 8 && !path.contains("cells") => {
            writeln!(out, "{path}: {} of them", items.len()).unwrap();
            lines_of(&items[0], &format!("{path}.first"), out);
            lines_of(&items[items.len() - 1], &format!("{path}.last"), out);
        }
        Value::Array(items) => items.iter().enumerate().for_each(|(k, value)| lines_of(value, &format!("{path}[{k}]"), out)),
        Value::Number(number) => writeln!(out, "{path}: {}", short(number.as_f64().unwrap())).unwrap(),
        Value::Null => {}
        other => writeln!(out, "{path}: {other}").unwrap(),
    }
}

fn transcript(frame: &Frame, method: &str, roles: &Value, options: &Value) -> String {
    let spec = json!({"method": method, "roles": roles, "options": options});
    let mut out = format!("{spec}\n\n");
    match ask(frame, &spec) {
        Err(error) => lines_of(&json!({"error": error.to_string(), "advice": error.advice()}), "", &mut out),
        Ok(computed) => {
            let view = View { points: Some(12), ..View::ALL };
            let outcome = serde_json::to_value(computed.outcome(&view)).unwrap();
            lines_of(&outcome, "", &mut out);
            lines_of(&json!({"in sight": computed.answer.brief()}), "", &mut out);
        }
    }
    out
}

/// Compares with the snapshot of a question; a method's name is that of its file.
fn check(question: &str, said: &str) {
    let mut settings = insta::Settings::clone_current();
    settings.set_prepend_module_to_snapshot(false);
    settings.set_omit_expression(true);
    settings.bind(|| insta::assert_snapshot!(question, said));
}

#[test]
fn what_is_said_stays_said() {
    let frame = limited();
    let mut questions: BTreeMap<&str, String> = BTreeMap::new();
    for (name, method, roles, options) in scenarios() {
        let said = transcript(&frame, method, &roles, &options);
        write!(questions.entry(method).or_default(), "## {name}\n{said}\n").unwrap();
    }
    questions.iter().for_each(|(method, said)| check(method, said));
}

#[test]
fn what_is_advised_stays_advised() {
    let all = columns();
    let only = |names: &[&str]| {
        let chosen: Map<String, Value> = names.iter().map(|name| ((*name).to_owned(), all[*name].clone())).collect();
        let frame = acorn_testing::frame(&Value::Object(chosen), &[("thickness", Some(2.34), Some(2.46))]);
        let columns = frame.columns().iter().map(|column| {
            let whole = matches!(&column.values, Values::Number(values) if values.iter().all(|value| value.fract() == 0.0));
            Column { kind: if whole { Kind::WholeNumber } else { column.kind }, ..column.clone() }
        });
        Frame::new(columns.collect(), None).unwrap()
    };
    let frames = [
        ("one measurement", only(&["thickness"])),
        ("subgroups", only(&["thickness", "sample"])),
        ("counts", only(&["defectives", "inspected", "bench"])),
        ("labels", only(&["outcome"])),
        ("words", only(&["bench", "press"])),
    ];
    let mut out = String::new();
    for (name, frame) in &frames {
        writeln!(out, "## {name}").unwrap();
        for card in methods::cards() {
            let advice = methods::named(card.method).unwrap().advise(frame, &BTreeMap::new());
            lines_of(&serde_json::to_value(advice).unwrap(), card.method, &mut out);
        }
    }
    check("advice", &out);
}

#[test]
fn every_head_and_slot_can_be_looked_up() {
    let frame = limited();
    // Names and labels of the data explain themselves, and so does what the reader typed.
    let data: Vec<&str> = vec![
        "A",
        "B",
        "C",
        "mould",
        "solder",
        "Ida",
        "Jonas",
        "Mei",
        "cold joint",
        "bridge",
        "scratch",
        "haze",
        "leaks",
        "tight",
        "energy",
        "run time",
        "room",
        "capacity",
        "power",
    ];
    let own = |words: &str| words.is_empty() || frame.column(words).is_some() || data.contains(&words);
    let mut unknown = BTreeSet::new();
    let mut look_up = |whose: &str, words: &str| {
        if !own(words) && !glossary::terms().any(|term| term.explains(words)) {
            unknown.insert(format!("{whose}: {words}"));
        }
    };
    for card in methods::cards() {
        card.slots.iter().for_each(|slot| look_up(card.method, slot.label));
    }
    for (_, method, roles, options) in scenarios() {
        let Ok(computed) = ask(&frame, &json!({"method": method, "roles": roles, "options": options})) else { continue };
        computed.answer.brief().iter().for_each(|brief| look_up(method, brief.term));
        for table in computed.answer.tables() {
            for column in &table.columns {
                look_up(method, &column.label);
            }
            if let (Some(column), true) = (table.columns.first(), !table.lines.is_empty()) {
                let Cells::Texts(names) = &column.cells else { panic!("{method}: {} begins with numbers", table.id) };
                names.iter().flatten().for_each(|name| look_up(method, name));
            }
        }
    }
    assert!(unknown.is_empty(), "{unknown:#?}");
}
