//! Plans of gauge studies and the gauge's share of what is seen.

use acorn_core::methods;
use acorn_data::frame::{Column, Frame, Measuring};
use acorn_maths::words::ValueFormat;
use acorn_study::gauge::against::Basis;
use acorn_study::gauge::plan::{Plan, Tells};
use acorn_study::gauge::share::GaugeShare;
use acorn_study::gauge::standing::Standing;
use acorn_study::{Cancel, StudyError, Tone, View};
use acorn_testing::{ask, frame};
use serde_json::{Value, json};

fn plan(part: Value) -> Plan {
    let mut whole = json!({"kind": "crossed", "characteristic": "groove depth", "operators": ["Ida", "Jonas", "Mei"], "parts": 10, "trials": 3, "seed": 3});
    whole.as_object_mut().unwrap().extend(part.as_object().unwrap().clone());
    serde_json::from_value(whole).unwrap()
}

fn tells(part: Value) -> Tells {
    plan(part).tells().unwrap()
}

/// Fills the sheet of a plan and asks its own question of it.
fn answered(plan: &Plan, reading: impl Fn(&Frame, usize) -> Value) -> methods::Computed {
    let sheet = plan.sheet().unwrap();
    let empty = Frame::new(sheet.columns.clone(), None).unwrap();
    let filled = json!({ "filled": (0..empty.rows()).map(|row| reading(&empty, row)).collect::<Vec<_>>() });
    let filled = Frame::from_json(filled.as_object().unwrap()).unwrap();
    let measure = sheet.measure.clone();
    let columns = sheet.columns.into_iter().map(|column| match column.name == measure {
        true => Column { values: filled.columns()[0].values.clone(), kind: filled.columns()[0].kind, ..column },
        false => column,
    });
    methods::compute(&Frame::new(columns.collect(), None).unwrap(), &sheet.spec, &Cancel::default()).unwrap()
}

fn text(frame: &Frame, column: &str, row: usize) -> String {
    frame.column(column).unwrap().values.text(row).unwrap()
}

#[test]
fn the_sheet_of_every_kind_of_study_answers_its_own_question_when_it_is_filled() {
    let noise = |row: usize| ((row * 37 % 101) as f64 / 101.0 - 0.5) * 0.02;
    let numbered = |frame: &Frame, row: usize| text(frame, "part", row).rsplit('-').next().unwrap().parse::<f64>().unwrap();
    let crossed = answered(&plan(json!({})), |frame, row| json!(1.1 + 0.02 * numbered(frame, row) + noise(row)));
    assert!(crossed.verdict.sentence.contains("the gauge takes"), "{}", crossed.verdict.sentence);
    assert!(!crossed.notes.iter().any(|note| note.sentence.contains("same order")), "the sheet is in random order");
    let nested = answered(&plan(json!({"kind": "nested", "parts": 5})), |frame, row| json!(1.1 + 0.02 * numbered(frame, row) + noise(row)));
    let of = serde_json::to_value(nested.outcome(&View::ALL).numbers).unwrap();
    assert_eq!(of["parts"].as_array().unwrap().len(), 15, "parts of their own for each of three");
    let single = plan(
        json!({"kind": "single", "operators": [], "parts": 1, "trials": 40, "references": [1.2], "info": {"unit": "mm", "decimals": 3, "lsl": 1.1, "target": null, "usl": 1.3}}),
    );
    let single = answered(&single, |_, row| json!(1.2 + 0.1 * noise(row)));
    assert!(single.verdict.sentence.contains("Cg "), "{}", single.verdict.sentence);
    let linear = plan(json!({"kind": "linearity", "operators": [], "parts": 5, "trials": 12, "references": [1.0, 2.0, 3.0, 4.0, 5.0]}));
    let linear = answered(&linear, |frame, row| json!(text(frame, "reference", row).parse::<f64>().unwrap() + noise(row)));
    assert_eq!(linear.verdict.title, "Right over the range");
    let known = ["bad", "good", "good", "bad", "good", "good"];
    let judged = plan(json!({"kind": "attribute", "parts": 6, "trials": 2, "labels": ["bad", "good"], "known": known}));
    let judged = answered(&judged, |frame, row| json!(text(frame, "reference", row)));
    let of = serde_json::to_value(judged.outcome(&View::ALL).numbers).unwrap();
    assert_eq!((&of["all_against"]["matched"], &of["bad"], &of["errors"][2]["misses"]), (&json!(6), &json!("bad"), &json!(0)));
}

#[test]
fn more_of_anything_narrows_what_a_plan_would_tell_and_few_operators_are_what_widens_it() {
    let wide = |part: Value| {
        let told = tells(part);
        let of = &told.expected[1];
        assert!(of.low < of.really && of.really < of.high, "{of:?}");
        of.high - of.low
    };
    let usual = wide(json!({}));
    assert!(wide(json!({"operators": ["a", "b", "c", "d", "e", "f"]})) < 0.8 * usual);
    assert!(wide(json!({"parts": 40})) <= usual);
    assert!(wide(json!({"operators": ["a", "b"]})) > usual);
    // One operator has no differences to be unsure of.
    assert!(wide(json!({"operators": ["a"]})) < usual);
    let judged = |parts: usize| {
        let told = tells(json!({"kind": "attribute", "parts": parts, "trials": 2, "labels": ["bad", "good"]}));
        told.expected[1].high - told.expected[1].low
    };
    assert!(judged(60) < judged(30));
    let single = |trials: usize| {
        let told = tells(json!({"kind": "single", "operators": [], "parts": 1, "trials": trials, "references": [1.0]}));
        told.expected[0].high - told.expected[0].low
    };
    assert!(single(50) < single(25));
    // With 50 readings a Cg of 1.33 comes out between 1.07 and 1.59: χ² of 49 at 2.5 and 97.5 % over 49 (Pearson and Hartley).
    let told = tells(json!({"kind": "single", "operators": [], "parts": 1, "trials": 50, "references": [1.0]}));
    let want = [31.555, 70.222].map(|chi: f64| 1.33 * (chi / 49.0).sqrt());
    assert!((told.expected[0].low - want[0]).abs() < 1e-4 && (told.expected[0].high - want[1]).abs() < 1e-4);
}

#[test]
fn what_a_plan_should_see_to_is_said() {
    let advice = |part: Value| tells(part).advice;
    assert!(advice(json!({})).contains("bad ones too") && !advice(json!({})).contains("15 or more"));
    assert!(advice(json!({"parts": 4})).contains("15 or more"));
    let known: Vec<&str> = (0..20).map(|k| if k < 2 { "bad" } else { "good" }).collect();
    let judged = json!({"kind": "attribute", "parts": 20, "trials": 2, "labels": ["bad", "good"], "known": known});
    assert!(advice(judged).contains("Only 2 pieces are “bad” so far"), "rare pieces are told");
    assert!(
        advice(json!({"kind": "attribute", "parts": 20, "trials": 2, "labels": ["bad", "good"]})).contains("not whether they are right")
    );
}

#[test]
fn a_seed_is_an_order_and_no_operator_can_learn_it() {
    let order = |seed: u64| {
        let frame = Frame::new(plan(json!({"seed": seed})).sheet().unwrap().columns, None).unwrap();
        (0..90).map(|row| (text(&frame, "operator", row), text(&frame, "part", row))).collect::<Vec<_>>()
    };
    assert_eq!(order(3), order(3));
    assert_ne!(order(3), order(4));
    // In each trial of each operator every part stands once, and seldom where it stood before.
    let all = order(3);
    let blocks: Vec<&[(String, String)]> = all.chunks(10).collect();
    for block in &blocks {
        let mut parts: Vec<&str> = block.iter().map(|(_, part)| part.as_str()).collect();
        parts.sort_unstable();
        assert_eq!(parts, ["01", "02", "03", "04", "05", "06", "07", "08", "09", "10"]);
        assert!(block.iter().all(|(who, _)| *who == block[0].0));
    }
    let stays = blocks.windows(2).flat_map(|pair| pair[0].iter().zip(pair[1])).filter(|(one, other)| one.1 == other.1).count();
    assert!(stays <= 20, "{stays} of 80 parts stand where they stood");
}

#[test]
fn a_plan_that_cannot_be_is_refused_before_anything_is_made() {
    let refused = |part: Value| plan(part).sheet().err().unwrap().to_string();
    assert!(refused(json!({"operators": ["Ida", " "]})).contains("has no name"));
    assert!(refused(json!({"kind": "nested", "operators": ["Ida"]})).contains("operators"));
    assert!(refused(json!({"kind": "single", "operators": [], "references": []})).contains("known value of the piece"));
    let odd = json!({"kind": "attribute", "parts": 2, "labels": ["bad", "good"], "known": ["bad", "cracked"]});
    assert!(refused(odd).contains("“cracked” is none of the labels"));
    assert!(matches!(plan(json!({"trials": 0})).check(), Err(StudyError::OutOfRange { .. })));
    assert!(
        serde_json::from_value::<Plan>(json!({"kind": "crossed", "characteristic": "x", "parts": 2, "trials": 2, "colour": 1})).is_err()
    );
}

fn measured(columns: &Value, sd: f64) -> Frame {
    let bare = frame(columns, &[("depth", Some(1.1), Some(1.3))]);
    let known = Measuring { gauge: "Depth gauge D-07".into(), sd, day: "2026-05-20".into() };
    let with = bare.columns().iter().map(|column| Column { measuring: (column.name == "depth").then(|| known.clone()), ..column.clone() });
    Frame::new(with.collect(), None).unwrap()
}

#[test]
fn capability_chart_and_table_of_indices_say_the_same_share_of_the_same_gauge() {
    let depths: Vec<f64> = (0..80).map(|i| 1.21 + 0.02 * acorn_maths::normal::quantile(((i * 37 % 80) as f64 + 0.5) / 80.0)).collect();
    let columns = json!({ "depth": depths });
    let of = |method: &str, roles: Value, sd: f64| {
        let computed = ask(&measured(&columns, sd), &json!({"method": method, "roles": roles, "options": {}})).unwrap();
        (serde_json::to_value(computed.outcome(&View::ALL).numbers).unwrap(), computed)
    };
    let (capability, computed) = of("capability", json!({"measure": "depth"}), 0.006);
    let number = |of: &Value, pointer: &str| of.pointer(pointer).unwrap().as_f64().unwrap();
    let (seen, without) = (number(&capability, "/sd_overall"), number(&capability, "/gauge/sd_without"));
    assert!((seen * seen - without * without - 0.006 * 0.006).abs() < 1e-15);
    assert!((number(&capability, "/ppk_without_gauge") / number(&capability, "/ppk") - seen / without).abs() < 1e-12);
    assert!(
        computed.notes.iter().any(|note| note.sentence.contains("of this spread is measuring (Depth gauge D-07); without it Ppk would be"))
    );
    let (indices, _) = of("indices", json!({"measure": ["depth"]}), 0.006);
    assert_eq!(indices["rows"][0]["gauge_share"], capability["gauge"]["share"]);
    let (chart, _) = of("control-chart", json!({"measure": "depth"}), 0.006);
    assert!((number(&chart, "/gauge/share") - 0.006 / number(&chart, "/sigma_within")).abs() < 1e-12);
    // A gauge that varies more than everything seen is not subtracted.
    let (all, computed) = of("capability", json!({"measure": "depth"}), 0.5);
    assert!(all["gauge"]["sd_without"].is_null() && all.get("ppk_without_gauge").is_none());
    assert!(computed.notes.iter().any(|note| note.tone == Tone::Alarm && note.sentence.contains("by itself varies as much")));
    // Charts of standardised deviations have no unit to compare it in.
    let bare = of("control-chart", json!({"measure": "depth"}), 0.006).1;
    assert!(bare.answer.tables().iter().any(|table| table.id == "measuring"));
    let standardised =
        json!({"method": "control-chart", "roles": {"measure": "depth"}, "options": {"chart": "deviation", "standardised": true}});
    let standardised = ask(&measured(&columns, 0.006), &standardised).unwrap();
    assert!(!standardised.answer.tables().iter().any(|table| table.id == "measuring"));
}

#[test]
fn a_share_is_calm_when_small_and_a_caution_when_large_and_nothing_of_no_spread() {
    let known = |sd: f64| Measuring { gauge: "Flux meter".into(), sd, day: "2026-05-20".into() };
    let tone = |sd: f64| GaugeShare::of(Some(&known(sd)), Some(1.0)).unwrap().note("this spread", &ValueFormat::plain(1), None).tone;
    assert_eq!([tone(0.1), tone(0.29), tone(0.31), tone(1.0)], [Tone::Calm, Tone::Unsure, Tone::Caution, Tone::Alarm]);
    assert!([Some(0.0), None, Some(f64::NAN)].into_iter().all(|sd| GaugeShare::of(Some(&known(0.1)), sd).is_none()));
    assert!(GaugeShare::of(None, Some(1.0)).is_none());
}

#[test]
fn where_a_gauge_stands_is_decided_by_share_interval_and_steps() {
    let of =
        |share: f64, high: Option<f64>, ndc: f64| Standing::of(Some(share), high.map(|high| [0.5 * share, high]), Some(ndc), Basis::Study);
    assert_eq!(of(0.08, Some(0.2), 12.0), Standing::Good);
    assert_eq!(of(0.08, Some(0.4), 12.0), Standing::MayBeGood);
    assert_eq!(of(0.08, None, 12.0), Standing::MayBeGood, "what is not known is not calm");
    assert_eq!(of(0.08, Some(0.2), 4.0), Standing::Depends, "too few steps are no good gauge");
    assert_eq!([of(0.10, Some(0.2), 9.0), of(0.11, Some(0.2), 9.0)], [Standing::Good, Standing::Depends]);
    assert_eq!([of(0.30, None, 9.0), of(0.31, None, 9.0)], [Standing::Depends, Standing::Poor]);
    assert_eq!(Standing::of(None, None, None, Basis::Study), Standing::Nothing);
}
