//! Every kind of chart: what it makes of small data worked by hand, and of data that a practitioner may throw at it.

use acorn_core::methods::{self, Computed};
use acorn_data::frame::{ColumnInfo, Frame};
use acorn_study::card::SlotKind;
use acorn_study::{Cancel, Spec, StudyError, View};
use serde_json::{Value, json};

fn ask(columns: Value, roles: Value, options: Value) -> Result<Computed, StudyError> {
    let frame = Frame::from_json(columns.as_object().unwrap()).unwrap();
    let spec: Spec = serde_json::from_value(json!({"method": "control-chart", "roles": roles, "options": options})).unwrap();
    methods::compute(&frame, &spec, &Cancel::default())
}

fn numbers(computed: &Computed) -> Value {
    serde_json::to_value(computed.outcome(&View::ALL).numbers).unwrap()
}

fn asked(columns: Value, roles: Value, options: Value) -> Value {
    numbers(&ask(columns, roles, options).unwrap())
}

fn series(numbers: &Value, panel: usize, field: &str) -> Vec<Option<f64>> {
    let points = numbers["panels"][panel]["points"].as_array().unwrap();
    points.iter().map(|point| point[field].as_f64()).collect()
}

/// Values about 2.4 that wander a little, the same every time.
fn wandering(n: usize) -> Vec<f64> {
    (0..n).map(|i| 2.4 + ((i * 7919) % 31) as f64 / 1000.0).collect()
}

fn notes(computed: &Computed) -> String {
    computed.notes.iter().map(|note| note.sentence.clone()).collect::<Vec<_>>().join(" | ")
}

#[test]
fn samples_come_by_label_in_a_row_or_side_by_side_and_agree() {
    let by_label = json!({"t": [1, 2, 3, 6, 5, 4, 7, 9], "s": ["a", "a", "b", "b", "c", "c", "d", "d"]});
    let shuffled = json!({"t": [1, 3, 5, 7, 2, 6, 4, 9], "s": ["a", "b", "c", "d", "a", "b", "c", "d"]});
    let side = json!({"t1": [1, 3, 5, 7], "t2": [2, 6, 4, 9]});
    let xbar = json!({"chart": "xbar-r"});
    let first = asked(by_label.clone(), json!({"measure": "t", "subgroup": "s"}), xbar.clone());
    assert_eq!(series(&first, 0, "value"), [1.5, 4.5, 4.5, 8.0].map(Some));
    assert_eq!(series(&first, 1, "value"), [1.0, 3.0, 1.0, 2.0].map(Some));
    let others = [
        asked(shuffled, json!({"measure": "t", "subgroup": "s"}), xbar.clone()),
        asked(side, json!({"measure": ["t1", "t2"]}), xbar),
        asked(by_label, json!({"measure": "t"}), json!({"chart": "xbar-r", "subgroup_size": 2})),
    ];
    for other in others {
        assert_eq!(first["panels"][0]["phases"], other["panels"][0]["phases"]);
        assert_eq!(first["sigma_within"], other["sigma_within"]);
    }
}

#[test]
fn a_smaller_sample_has_wider_limits_and_one_without_values_has_none() {
    let columns = json!({"t": [1, 2, 3, 2, 4, 3, 5, null, null, 2, 3], "s": [1, 1, 1, 2, 2, 2, 3, 3, 3, 4, 4]});
    let got = asked(columns, json!({"measure": "t", "subgroup": "s"}), json!({"chart": "xbar-s"}));
    let (n, ucl) = (series(&got, 0, "n"), series(&got, 0, "ucl"));
    assert_eq!(n, [3.0, 3.0, 1.0, 2.0].map(Some));
    assert!(ucl[0] == ucl[1] && ucl[0] < ucl[3] && ucl[3] < ucl[2]);
    assert_eq!(got["panels"][0]["phases"][0]["ucl"], Value::Null);
    assert_eq!(series(&got, 1, "value")[2], None);
}

#[test]
fn a_sum_grows_by_what_exceeds_the_slack_and_a_gap_leaves_it_alone() {
    let columns = json!({"t": [10.0, 12.0, null, 13.0, 8.0]});
    let options = json!({"chart": "cusum", "h": 2.5, "limits": {"from": "known", "center": 10.0, "sigma": 1.0}});
    let got = asked(columns.clone(), json!({"measure": "t"}), options);
    assert_eq!(series(&got, 0, "upper"), [Some(0.0), Some(1.5), None, Some(4.0), Some(1.5)]);
    assert_eq!(series(&got, 0, "lower"), [Some(0.0), Some(0.0), None, Some(0.0), Some(1.5)]);
    assert_eq!(got["panels"][0]["signals"], json!([{"pattern": "beyond-limits", "first": 3, "last": 3, "side": 1}]));
    let options = json!({"chart": "ewma", "lambda": 0.5, "limits": {"from": "known", "center": 10.0, "sigma": 1.0}});
    let got = asked(columns, json!({"measure": "t"}), options);
    assert_eq!(series(&got, 0, "value"), [Some(10.0), Some(11.0), None, Some(12.0), Some(10.0)]);
}

#[test]
fn rare_events_get_limits_by_probability() {
    let between = json!({"n": [120, 80, 99, 101, 60, 140, 2000, 95, 105, 90]});
    let g = ask(between, json!({"count": "n"}), json!({"chart": "g", "limits": {"from": "known", "center": 99}})).unwrap();
    let got = numbers(&g);
    // p = 0.01: the share below y is 1 - 0.99^(y + 1); 0.99865 is first reached at 657, one half at 68.
    assert_eq!(got["panels"][0]["phases"][0]["ucl"], json!(657.0));
    assert_eq!(got["panels"][0]["phases"][0]["center"], json!(68.0));
    assert!(notes(&g).contains("Value 7 lies above the upper control limit: 2000. Events have become rarer."), "{}", notes(&g));
    let t = asked(json!({"days": [3.0, 5.0, 1.0]}), json!({"measure": "days"}), json!({"chart": "t", "time_shape": "exponential"}));
    let ucl = t["panels"][0]["phases"][0]["ucl"].as_f64().unwrap();
    assert!((ucl - 3.0 * -(0.001_349_898_031_630_09_f64).ln()).abs() < 1e-9);
    let refused = ask(json!({"days": [3.0, 0.0]}), json!({"measure": "days"}), json!({"chart": "t"})).err().unwrap();
    assert_eq!(refused.to_string(), "column “days”, row 2: 0 is not a time between two events: it must be above 0");
}

#[test]
fn parts_are_judged_by_their_own_targets_and_unlike_spreads_are_told() {
    let part: Vec<&str> = (0..40).map(|i| if i % 2 == 0 { "front" } else { "rear" }).collect();
    let gap: Vec<f64> =
        (0..40).map(|i| if i % 2 == 0 { 5.0 + 0.01 * f64::from(i * 7 % 9) } else { 8.0 + 0.2 * f64::from(i * 7 % 9) }).collect();
    let roles = json!({"measure": "gap", "part": "part"});
    let columns = json!({"gap": gap, "part": part});
    let told = ask(columns.clone(), roles.clone(), json!({"chart": "deviation", "targets": {"front": 5.0, "rear": 8.0}})).unwrap();
    assert_eq!(series(&numbers(&told), 0, "value")[..2], [Some(0.0), Some(gap[1] - 8.0)]);
    let offer = told.notes.iter().find_map(|note| note.offers.iter().find(|offer| offer.options.contains_key("standardised")));
    assert!(notes(&told).contains("Spreads of the parts differ") && offer.is_some());
    let standardised = ask(columns, roles, json!({"chart": "deviation", "standardised": true})).unwrap();
    assert!(notes(&standardised).contains("No target is known for front and rear"));
    assert!(!notes(&standardised).contains("Spreads of the parts"));
}

#[test]
fn cuts_make_phases_whose_shift_is_told_in_one_sentence() {
    let mut values = wandering(60);
    values[30..].iter_mut().for_each(|value| *value -= 0.04);
    let cut = json!({"cuts": [{"first": 30, "name": "new die"}]});
    let told = ask(json!({"t": values}), json!({"measure": "t"}), cut).unwrap();
    let got = numbers(&told);
    assert_eq!(got["panels"][0]["phases"][0]["label"], "phase 1");
    assert_eq!(got["panels"][0]["phases"][1]["label"], "new die");
    let c = &got["comparison"];
    assert!((c["shift"].as_f64().unwrap() + 0.04).abs() < 0.01 && c["p_shift"].as_f64().unwrap() < 1e-6);
    assert!(c["p_spread"].as_f64().unwrap() > 0.05);
    assert!(notes(&told).contains("From phase 1 to new die the mean moved by −0.0"), "{}", notes(&told));
    assert_eq!(series(&got, 1, "value")[30], None); // no moving range across the cut
}

#[test]
fn frozen_limits_go_stale_and_offer_to_be_renewed() {
    let frozen = |values: &[f64], limits: Value| {
        let told = ask(json!({"t": values}), json!({"measure": "t"}), json!({"limits": limits})).unwrap();
        (numbers(&told)["freshness"].clone(), told)
    };
    let baseline = json!({"from": "baseline", "first": 0, "last": 39});
    let steady = wandering(80);
    assert_eq!(frozen(&steady, baseline.clone()).0["stale"], json!(false));
    let mut moved = steady.clone();
    moved[50..].iter_mut().for_each(|value| *value += 0.02);
    let (fresh, told) = frozen(&moved, baseline.clone());
    assert_eq!((&fresh["stale"], &fresh["last"]), (&json!(true), &json!(79)));
    let note = told.notes.iter().find(|note| note.sentence.starts_with("The limits no longer describe the process")).unwrap();
    assert_eq!(note.offers[0].options["limits"], json!({"from": "baseline", "first": 40, "last": 79}));
    // Too few newer points to judge by: no word about them.
    assert_eq!(frozen(&moved[..55], baseline).0, Value::Null);
    let known = json!({"from": "known", "center": 2.0, "sigma": 0.01, "set_by": "Ida", "set_on": "2026-03-02"});
    let no_day = json!({"from": "known", "center": 2.0, "sigma": 0.01, "set_on": "2026-02-31"});
    let refused = acorn_testing::ask(
        &acorn_testing::frame(&json!({"x": steady}), &[]),
        &json!({"method": "control-chart", "roles": {"measure": "x"}, "options": {"limits": no_day}}),
    );
    assert!(refused.err().unwrap().to_string().contains("is not a day"));
    let (fresh, told) = frozen(&steady, known);
    assert_eq!(fresh["stale"], json!(true));
    assert!(notes(&told).contains("set by Ida on 2026-03-02"));
}

#[test]
fn a_line_up_believes_the_chart_that_fits_the_scatter() {
    let sizes = vec![40_000; 24];
    let wild: Vec<i64> = (0..24).map(|i| 500 + (i * 37 % 23 - 11) * 9).collect();
    let tame: Vec<i64> = (0..24).map(|i| 500 + (i * 37 % 23 - 11) * 3).collect();
    let up = |counts: &[i64]| {
        ask(json!({"dim": counts, "checked": sizes}), json!({"count": "dim", "size": "checked"}), json!({"chart": "p"})).unwrap()
    };
    let got = numbers(&up(&wild));
    let flagged: Vec<_> = got["line_up"]["candidates"].as_array().unwrap().iter().map(|c| c["flagged"].as_u64().unwrap()).collect();
    assert_eq!(got["line_up"]["believe"], "p-prime");
    assert!(flagged[0] > 5 && flagged[1] == 0 && flagged[2] == 0, "{flagged:?}");
    let offer = up(&wild).notes.iter().flat_map(|note| note.offers.clone()).find(|offer| offer.figure.is_some());
    assert_eq!(offer.unwrap().figure.as_deref(), Some("line-up"));
    assert_eq!(numbers(&up(&tame))["line_up"]["believe"], "p");
}

#[test]
fn impossible_counts_are_refused_by_row() {
    let p = |count: i64, size: i64| {
        let columns = json!({"bad": [3, count], "of": [50, size]});
        ask(columns, json!({"count": "bad", "size": "of"}), json!({"chart": "p"})).err().map(|error| error.to_string())
    };
    assert_eq!(p(60, 50).unwrap(), "column “bad”, row 2: 60 defectives are more than the 50 inspected");
    assert!(p(-1, 50).unwrap().contains("negative"));
    assert_eq!(p(0, 0), None);
}

#[test]
fn every_kind_of_chart_says_what_it_can_of_awkward_values() {
    let card = methods::cards().find(|card| card.method == "control-chart").unwrap();
    let Some(SlotKind::Choice { choices, .. }) = card.slots.iter().find(|slot| slot.name == "chart").map(|slot| &slot.kind) else {
        panic!("no choice of charts")
    };
    let mut answered = std::collections::BTreeMap::new();
    for (name, values) in acorn_testing::awkward() {
        let samples: Vec<usize> = (0..values.len()).map(|i| i / 4).collect();
        let frame = acorn_testing::frame(&json!({"x": values, "n": vec![2e7; values.len()], "s": samples}), &[]);
        for kind in choices.iter().map(|choice| choice.value) {
            for more in [
                json!({"omit": [0, 5]}),
                json!({"cuts": [{"first": 1}]}),
                json!({"limits": {"from": "known", "center": 0.5, "sigma": 0.0}}),
                json!({"limits": {"from": "baseline", "first": 0, "last": 1}}),
            ] {
                let roles = match kind {
                    "p" | "np" | "p-prime" | "u" | "u-prime" | "ratio" => json!({"count": "x", "size": "n"}),
                    "c" => json!({"count": "x"}),
                    "xbar-r" | "xbar-s" | "xbar-between" => json!({"measure": "x", "subgroup": "s"}),
                    _ => json!({"measure": "x"}),
                };
                let mut options = more.clone();
                options["chart"] = json!(kind);
                match acorn_testing::ask(&frame, &json!({"method": "control-chart", "roles": roles, "options": options})) {
                    Ok(computed) => {
                        acorn_testing::sound("control-chart", &format!("{name}, {kind}, {more}"), &acorn_testing::sent(&computed));
                        *answered.entry(kind).or_insert(0) += 1;
                    }
                    Err(error) => {
                        assert!(!error.to_string().contains("NaN") && error.advice().ends_with('.'), "{name} {kind} {more}: {error}")
                    }
                }
            }
        }
    }
    // A chart that refuses everything would pass all of the above.
    assert!(answered.len() == choices.len() && answered.values().all(|answers| *answers >= 4), "{answered:?}");
}

fn advise(columns: Value, answers: Value) -> Value {
    let frame = Frame::from_json(columns.as_object().unwrap()).unwrap();
    let columns = frame.columns().iter().map(|column| {
        let mut column = column.clone();
        let whole = |values: &[f64]| values.iter().all(|value| value.fract() == 0.0);
        if let acorn_data::frame::Values::Number(values) = &column.values
            && whole(values)
        {
            column.kind = acorn_data::frame::Kind::WholeNumber;
        }
        column.info = ColumnInfo::default();
        column
    });
    let frame = Frame::new(columns.collect(), None).unwrap();
    let answers = serde_json::from_value(answers).unwrap();
    serde_json::to_value(methods::named("control-chart").unwrap().advise(&frame, &answers)).unwrap()
}

#[test]
fn the_advisor_proposes_from_the_columns_and_few_answers() {
    let pressed = json!({"sample": [1, 1, 1, 2, 2, 2, 3, 3, 3], "thickness": [2.41, 2.4, 2.42, 2.41, 2.43, 2.4, 2.4, 2.44, 2.41]});
    let first = advise(pressed.clone(), json!({}));
    assert_eq!(first["question"]["key"], "together");
    assert_eq!(first["proposal"]["options"], json!({"chart": "xbar-r"}));
    assert_eq!(first["proposal"]["roles"], json!({"measure": "thickness", "subgroup": "sample"}));
    let one = advise(pressed, json!({"together": "one"}));
    assert_eq!((&one["question"], &one["proposal"]["options"]["chart"]), (&Value::Null, &json!("individuals")));

    let reels = json!({"reel": ["R1", "R2", "R3", "R4"], "checked": [38332, 43894, 41000, 40110], "dim": [391, 925, 300, 880]});
    let ask = advise(reels.clone(), json!({}));
    assert_eq!(ask["question"]["words"], "Do you count defectives or defects?");
    let prime = advise(reels.clone(), json!({"counting": "pieces"}));
    assert_eq!(prime["proposal"]["options"]["chart"], "p-prime");
    assert_eq!(prime["proposal"]["roles"], json!({"count": "dim", "size": "checked", "label": "reel"}));
    assert!(prime["proposal"]["why"].as_str().unwrap().contains("as much as counting alone explains"));
    assert_eq!(advise(reels, json!({"counting": "defects"}))["proposal"]["options"]["chart"], "u-prime");

    let alone = json!({"solder": [11, 8, 9, 9, 3, 4]});
    let size = advise(alone.clone(), json!({"counting": "defects"}));
    assert_eq!(size["question"]["words"], "Does the number inspected change?");
    assert_eq!(advise(alone, json!({"counting": "defects", "changes": "no"}))["proposal"]["options"]["chart"], "c");
    assert_eq!(advise(json!({"bench": ["A", "B"]}), json!({})), json!({}));
}

#[test]
fn neighbours_of_deviations_are_compared_as_deviations() {
    // Parts far apart by turns: their deviations are as random as the values of one part.
    let values: Vec<f64> = wandering(60).iter().enumerate().map(|(i, x)| x + if i % 2 == 0 { 0.0 } else { 700.0 }).collect();
    let parts: Vec<&str> = (0..60).map(|i| if i % 2 == 0 { "small" } else { "large" }).collect();
    let got = ask(json!({"t": values, "p": parts}), json!({"measure": "t", "part": "p"}), json!({"chart": "deviation"})).unwrap();
    let table = serde_json::to_value(got.table("facts").unwrap()).unwrap();
    let place = table["columns"][0]["cells"].as_array().unwrap().iter().position(|cell| cell == "likeness of neighbours, r").unwrap();
    let r = table["columns"][1]["cells"][place].as_f64().unwrap();
    assert!((-1.0..=1.0).contains(&r), "{r}");
}

#[test]
fn readings_side_by_side_are_one_subgroup_and_the_proposal_says_why() {
    let wide = |names: [&str; 3], offset: f64| {
        let column =
            |k: usize| -> Vec<f64> { wandering(40).iter().map(|x| x + k as f64 * offset + (k * 13 % 7) as f64 / 1000.0).collect() };
        json!({names[0]: column(0), names[1]: column(1), names[2]: column(2)})
    };
    for names in [["x1", "x2", "x3"], ["Reading 1", "Reading 2", "Reading 3"], ["gap_7", "gap_8", "gap_9"]] {
        let got = advise(wide(names, 0.0), json!({}));
        assert_eq!(got["proposal"]["options"]["chart"], "xbar-r", "{names:?}");
        assert_eq!(got["proposal"]["roles"]["measure"], json!(names));
        let why = got["proposal"]["why"].as_str().unwrap();
        assert!(why.contains(&format!("{} to {} stand side by side, each row is a subgroup of 3 readings", names[0], names[2])), "{why}");
        // What is proposed can be charted.
        let charted = asked(wide(names, 0.0), got["proposal"]["roles"].clone(), got["proposal"]["options"].clone());
        assert_eq!(charted["panels"][0]["points"].as_array().unwrap().len(), 40);
        let one = advise(wide(names, 0.0), json!({"together": "one"}));
        assert_eq!((&one["proposal"]["options"]["chart"], &one["proposal"]["roles"]["measure"]), (&json!("individuals"), &json!(names[0])));
    }
    // Other names, gaps in the numbers, or values that lie apart: different things.
    for (names, offset) in [(["x1", "x2", "x4"], 0.0), (["gap", "width", "depth"], 0.0), (["x1", "x2", "x3"], 50.0)] {
        assert_eq!(advise(wide(names, offset), json!({}))["proposal"]["options"]["chart"], "individuals", "{names:?} {offset}");
    }
}

/// Two parts, one spread ten times as wide: standardised they spread alike. Expected: the pooled sd within subgroups over the sd of the part,
/// one part over the other.
#[test]
fn standardised_deviations_of_subgroups_are_compared_as_they_are_charted() {
    let part = |scale: f64| (0..50).map(move |i| scale * f64::from((i * 29 + 7) % 53));
    let flux: Vec<f64> = part(1.0).chain(part(10.0)).collect();
    let (parts, groups): (Vec<&str>, Vec<usize>) = (0..100).map(|i| (if i < 50 { "A" } else { "B" }, i / 5)).unzip();
    let options = json!({"chart": "deviation", "standardised": true, "cuts": [{"first": 0, "name": "A"}, {"first": 10, "name": "B"}]});
    let columns = json!({"flux": flux, "part": parts, "group": groups});
    let compared = asked(columns, json!({"measure": "flux", "part": "part", "subgroup": "group"}), options)["comparison"].clone();
    assert!((compared["spread_ratio"].as_f64().unwrap() - 1.0).abs() < 1e-9, "{compared}");
    assert!(compared["p_spread"].as_f64().unwrap() > 0.99);
}

/// 12 subgroups have 11 moving ranges of means, 0.62 · 11 degrees of freedom and 2 / √(2 · 6.82) = 54 % (Montgomery 2013, sec. 6.4); the values
/// within have 48, which would be 20 %.
#[test]
fn limits_from_moving_ranges_of_means_move_as_those_do() {
    let values: Vec<f64> = (0..60).map(|i| f64::from((i * 29 + 7) % 53)).collect();
    let groups: Vec<usize> = (0..60).map(|i| i / 5).collect();
    let found =
        ask(json!({"flux": values, "group": groups}), json!({"measure": "flux", "subgroup": "group"}), json!({"chart": "xbar-between"}));
    assert!(notes(&found.unwrap()).contains("Limits rest on 12 subgroups: they may still move by about ±54 %."));
}
