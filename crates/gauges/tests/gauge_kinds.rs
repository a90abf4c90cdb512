//! Nested, single, linearity and attribute studies on what a practitioner may throw at them.

use acorn_core::methods::Computed;
use acorn_data::frame::Frame;
use acorn_study::{StudyError, Tone, View};
use acorn_testing::{ask, frame, sent, sound};
use serde_json::{Value, json};

fn asked(frame: &Frame, method: &str, roles: Value, options: Value) -> Result<Computed, StudyError> {
    let computed = ask(frame, &json!({"method": method, "roles": roles, "options": options}))?;
    sound(method, &options.to_string(), &sent(&computed));
    Ok(computed)
}

fn numbers(computed: &Computed) -> Value {
    serde_json::to_value(computed.outcome(&View::ALL).numbers).unwrap()
}

fn says(computed: &Computed, part: &str) -> bool {
    computed.notes.iter().any(|note| format!("{} {}", note.sentence, note.detail.clone().unwrap_or_default()).contains(part))
}

fn refusal(result: Result<Computed, StudyError>) -> String {
    result.err().unwrap().to_string()
}

/// Values with mean 0 and a known irregular order.
fn scatter(place: usize) -> f64 {
    acorn_maths::normal::quantile(((place as f64 * 0.618_033_988_75 + 0.3) % 1.0).mul_add(0.98, 0.01))
}

mod nested {
    use super::*;

    fn study(operators: usize, parts: usize, trials: usize, of: impl Fn(usize, usize, usize) -> Option<f64>) -> Frame {
        let all = || (0..trials).flat_map(move |t| (0..operators).flat_map(move |o| (0..parts).map(move |p| (o, p, t))));
        let columns = json!({
            "tester": all().map(|(o, ..)| format!("T{o}")).collect::<Vec<_>>(),
            "lens": all().map(|(_, p, _)| format!("L{p}")).collect::<Vec<_>>(),
            "force": all().map(|(o, p, t)| of(o, p, t)).collect::<Vec<_>>(),
        });
        frame(&columns, &[("force", Some(0.0), Some(100.0))])
    }

    fn judge(frame: &Frame, options: Value) -> Result<Computed, StudyError> {
        asked(frame, "gauge-nested", json!({"measure": "force", "part": "lens", "operator": "tester"}), options)
    }

    /// Two operators, two parts each, two readings: cell means 10, 14 | 20, 22, one unit either side.
    #[test]
    fn a_small_study_worked_by_hand_comes_out() {
        let means = [[10.0, 14.0], [20.0, 22.0]];
        let of = numbers(&judge(&study(2, 2, 2, |o, p, t| Some(means[o][p] + [1.0, -1.0][t])), json!({})).unwrap());
        let line = |place: usize| [&of["anova"]["table"][place]["df"], &of["anova"]["table"][place]["ss"]].map(|n| n.as_f64().unwrap());
        // Operators 12 and 21 about 16.5: 4 (4.5² + 4.5²); parts 2 (2² + 2² + 1² + 1²); within 8 · 1.
        assert_eq!([line(0), line(1), line(2), line(3)], [[1.0, 162.0], [2.0, 20.0], [4.0, 8.0], [7.0, 190.0]]);
        let variance = |place: usize| of["anova"]["components"][place]["variance"].as_f64().unwrap();
        // MS 162, 10, 2: operators (162 − 10)/4, parts (10 − 2)/2.
        assert_eq!([variance(1), variance(2), variance(3), variance(0), variance(4)], [2.0, 38.0, 4.0, 40.0, 44.0]);
        assert_eq!(of["ndc"], json!(1.0));
        assert!((of["share"].as_f64().unwrap() - 6.0 * 40_f64.sqrt() / 100.0).abs() < 1e-12);
    }

    #[test]
    fn the_same_label_under_two_operators_is_two_parts_and_what_is_short_is_named() {
        let steady = |o: usize, p: usize, t: usize| Some(40.0 + 3.0 * p as f64 + scatter(o * 40 + p * 4 + t));
        let computed = judge(&study(3, 5, 2, steady), json!({})).unwrap();
        assert_eq!(numbers(&computed)["parts"].as_array().unwrap().len(), 15);
        assert!(says(&computed, "two like pieces, not one piece twice"));
        let short = refusal(judge(&study(3, 5, 2, |o, p, t| steady(o, p, t).filter(|_| (o, p, t) != (1, 2, 1))), json!({})));
        assert!(short.contains("T1 has 1 reading of part L2 where others have 2"), "{short}");
        let fewer = refusal(judge(&study(3, 5, 2, |o, p, t| steady(o, p, t).filter(|_| (o, p) != (2, 0))), json!({})));
        assert!(fewer.contains("T2 has 4 parts where others have 5"), "{fewer}");
        assert!(refusal(judge(&study(3, 5, 1, steady), json!({}))).contains("one reading"));
        assert!(refusal(judge(&study(3, 1, 3, steady), json!({}))).contains("two parts or more"));
        let waiting = judge(&study(3, 5, 2, |o, p, t| steady(o, p, t).filter(|_| o < 2)), json!({})).unwrap();
        assert!(says(&waiting, "Nothing can be said of T2 yet"));
        let equal = judge(&study(2, 3, 2, |_, _, _| Some(5.0)), json!({})).unwrap();
        assert_eq!((equal.verdict.tone, &numbers(&equal)["share"]), (Tone::Unsure, &Value::Null));
        let alone = numbers(&judge(&study(1, 4, 3, steady), json!({})).unwrap());
        assert_eq!((&alone["anova"]["components"][2]["variance"], &alone["bias_limits"]), (&json!(0.0), &Value::Null));
    }
}

mod single {
    use super::*;

    fn judge(readings: &Value, limits: (Option<f64>, Option<f64>), options: Value) -> Computed {
        let frame = frame(&json!({ "reading": readings }), &[("reading", limits.0, limits.1)]);
        asked(&frame, "gauge-single", json!({"measure": "reading"}), options).unwrap()
    }

    #[test]
    fn bias_spread_and_number_of_readings_each_decide_in_their_turn() {
        let readings = |sd: f64, bias: f64, n: usize| json!((0..n).map(|i| 3.0 + bias + sd * scatter(i)).collect::<Vec<_>>());
        let title = |sd, bias, n| judge(&readings(sd, bias, n), (Some(2.0), Some(4.0)), json!({"reference": 3.0})).verdict.title;
        // A fifth of the tolerance is 0.4: Cg 1.33 at an sd of 0.05.
        assert_eq!(title(0.02, 0.0, 50), "Fit for use");
        assert_eq!(title(0.045, 0.0, 25), "Fit for use, with a doubt");
        assert_eq!(title(0.08, 0.0, 50), "Not usable as it is");
        assert_eq!(title(0.02, 0.15, 50), "Set it right");
        let low = judge(&readings(0.02, -0.15, 50), (Some(2.0), Some(4.0)), json!({"reference": 3.0}));
        assert!(low.verdict.sentence.contains("too low"), "{}", low.verdict.sentence);
        let limits = &low.next[0].options["limits"];
        assert_eq!(limits["center"], json!(3.0), "its chart has the known value in the middle");
    }

    #[test]
    fn what_tells_little_is_said_in_words() {
        let one = judge(&json!([3.1]), (Some(2.0), Some(4.0)), json!({"reference": 3.0}));
        assert_eq!(one.verdict.title, "Too few to say");
        let equal = judge(&json!([3.1, 3.1, null, 3.1]), (Some(2.0), Some(4.0)), json!({"reference": 3.0}));
        assert_eq!((equal.verdict.tone, &numbers(&equal)["cg"], &numbers(&equal)["missing"]), (Tone::Unsure, &Value::Null, &json!(1)));
        let bare = judge(&json!([3.1, 3.12, 3.11, 3.13]), (None, None), json!({"reference": 3.0}));
        assert_eq!((bare.verdict.title.as_str(), &numbers(&bare)["cgk"]), ("Reads off", &Value::Null));
        let drift = json!((0..30).map(|i| 3.0 + 0.01 * f64::from(i)).collect::<Vec<_>>());
        assert!(says(&judge(&drift, (Some(0.0), Some(9.0)), json!({"reference": 3.0})), "they drift"));
        let coarse = json!((0..30).map(|i| 3.0 + 0.1 * f64::from(i % 3)).collect::<Vec<_>>());
        assert!(says(&judge(&coarse, (Some(0.0), Some(9.0)), json!({"reference": 3.0, "resolution": 0.9})), "Only 3 different values"));
        let far = numbers(&judge(&json!([1e7 + 0.25, 1e7 - 0.25, 1e7 + 0.75]), (None, None), json!({"reference": 1e7})));
        assert_eq!((&far["bias"], &far["sd"]), (&json!(0.25), &json!(0.5)));
    }
}

mod linearity {
    use super::*;

    fn judge(bias: impl Fn(f64, usize) -> Option<f64>, pieces: usize, each: usize) -> Result<Computed, StudyError> {
        let all = || (0..pieces).flat_map(move |p| (0..each).map(move |t| (p, 2.0 + 2.0 * p as f64, t)));
        let columns = json!({
            "piece": all().map(|(p, ..)| format!("P{p}")).collect::<Vec<_>>(),
            "known": all().map(|(_, known, _)| known).collect::<Vec<_>>(),
            "reading": all().map(|(p, known, t)| bias(known, p * each + t).map(|bias| known + bias)).collect::<Vec<_>>(),
        });
        let roles = json!({"measure": "reading", "part": "piece", "reference": "known"});
        asked(&frame(&columns, &[]), "gauge-linearity", roles, json!({"process_sd": 2.0}))
    }

    #[test]
    fn a_slope_a_level_a_bend_and_one_piece_are_told_apart() {
        let title = |bias: fn(f64) -> f64| judge(|known, place| Some(bias(known) + 0.05 * scatter(place)), 5, 12).unwrap().verdict.title;
        assert_eq!(title(|known| 0.3 - 0.06 * known), "Not linear");
        assert_eq!(title(|_| 0.2), "Reads off");
        assert_eq!(title(|_| 0.0), "Right over the range");
        let bent = judge(|known, place| Some(0.05 * (known - 6.0).powi(2) + 0.05 * scatter(place)), 5, 12).unwrap();
        assert!(bent.verdict.sentence.starts_with("Not linear: the bias bends over the range"), "{}", bent.verdict.sentence);
        assert!(says(&bent, "A line does not describe the bias"), "{:?}", bent.notes);
        // An exact line: slope −0.1, 0.6 at 0; biases of pieces 2 to 10.
        let exact = numbers(&judge(|known, _| Some(0.6 - 0.1 * known), 5, 2).unwrap());
        let fit = |field: &str| exact["fit"][field].as_f64().unwrap();
        assert!((fit("slope") + 0.1).abs() < 1e-12 && (fit("intercept") - 0.6).abs() < 1e-12 && (fit("r2") - 1.0).abs() < 1e-9);
        assert!((exact["linearity"].as_f64().unwrap() - 0.1 * 12.0).abs() < 1e-9);
        // The band is widest at its ends.
        let of = numbers(&judge(|_, place| Some(0.05 * scatter(place)), 5, 12).unwrap());
        let wide = |place: usize| of["band"][place]["high"].as_f64().unwrap() - of["band"][place]["low"].as_f64().unwrap();
        assert!(wide(0) > 1.3 * wide(20) && (wide(0) - wide(40)).abs() < 1e-9);
    }

    #[test]
    fn one_piece_and_two_known_values_are_answered_in_words() {
        assert_eq!(judge(|_, place| Some(scatter(place)), 1, 9).unwrap().verdict.title, "Too few to say");
        assert_eq!(judge(|_, _| Some(0.5), 4, 3).unwrap().verdict.title, "Nothing varies");
        assert!(refusal(judge(|_, _| None, 4, 3)).contains("0 usable values"));
        let columns = json!({"piece": ["a", "a"], "known": [2.0, 3.0], "reading": [2.1, 3.1]});
        let roles = json!({"measure": "reading", "part": "piece", "reference": "known"});
        let error = refusal(asked(&frame(&columns, &[]), "gauge-linearity", roles, json!({})));
        assert!(error.contains("a has two known values, 2 and 3"), "{error}");
        let few = judge(|_, place| Some(0.05 * scatter(place)), 3, 4).unwrap();
        assert_eq!((few.verdict.tone, few.verdict.title.as_str()), (Tone::Caution, "Right, with a doubt"));
    }
}

mod attribute {
    use super::*;

    fn study(pieces: usize, people: usize, looks: usize, says: impl Fn(usize, usize, usize) -> Option<&'static str>) -> Frame {
        let all = || (0..looks).flat_map(move |t| (0..people).flat_map(move |o| (0..pieces).map(move |p| (p, o, t))));
        let truth = |p: usize| if p.is_multiple_of(3) { "bad" } else { "good" };
        let columns = json!({
            "joint": all().map(|(p, ..)| format!("J{p}")).collect::<Vec<_>>(),
            "inspector": all().map(|(_, o, _)| format!("I{o}")).collect::<Vec<_>>(),
            "look": all().map(|(_, _, t)| format!("look {t}")).collect::<Vec<_>>(),
            "said": all().map(|(p, o, t)| says(p, o, t)).collect::<Vec<_>>(),
            "true": all().map(|(p, ..)| truth(p)).collect::<Vec<_>>(),
        });
        frame(&columns, &[])
    }

    fn judge(frame: &Frame, known: bool) -> Result<Computed, StudyError> {
        let mut roles = json!({"rating": "said", "part": "joint", "operator": "inspector", "trial": "look"});
        let options = if known { json!({"bad": "bad"}) } else { json!({}) };
        if known {
            roles["reference"] = json!("true");
        }
        asked(frame, "gauge-attribute", roles, options)
    }

    fn truth(p: usize) -> &'static str {
        if p.is_multiple_of(3) { "bad" } else { "good" }
    }

    #[test]
    fn who_misses_and_which_piece_divides_people_are_named() {
        // I1 lets every bad piece pass at the second look; everyone is wrong about J4.
        let says_it = |p: usize, o: usize, t: usize| {
            Some(if p == 4 {
                "bad"
            } else if o == 1 && t == 1 {
                "good"
            } else {
                truth(p)
            })
        };
        let computed = judge(&study(30, 3, 2, says_it), true).unwrap();
        let of = numbers(&computed);
        assert_eq!((&of["errors"][1]["misses"], &of["errors"][1]["miss_rate"]), (&json!(10), &json!(0.5)));
        assert_eq!((&of["errors"][0]["false_alarms"], &of["errors"][0]["false_alarm_rate"]), (&json!(2), &json!(0.05)));
        assert_eq!((computed.verdict.tone, of["grid"][0]["label"].as_str()), (Tone::Alarm, Some("J4")));
        assert!(says(&computed, "Bad pieces judged good: I1 10 (50 %)") && says(&computed, "J4 (6 of 6)"));
        assert!(says(&computed, "I1 (67 %) often says something else the second time."), "{:?}", computed.notes);
        let [first, last] = computed.next[0].points.unwrap();
        assert_eq!(computed.answer.rows(first, last).len(), 6, "the rows of that piece");
        assert_eq!(of["cohen"].as_array().unwrap().len(), 3);
    }

    #[test]
    fn full_agreement_is_calm_only_where_enough_pieces_show_it() {
        let all = |pieces| judge(&study(pieces, 3, 2, |p, _, _| Some(truth(p))), true).unwrap();
        assert_eq!((all(30).verdict.title.as_str(), all(9).verdict.title.as_str()), ("Fit for use", "Fit for use, with a doubt"));
        assert_eq!(numbers(&all(30))["fleiss"]["kappa"], json!(1.0));
        assert!(says(&all(9), "Only 9 pieces"));
        let unknown = judge(&study(30, 3, 2, |p, _, _| Some(truth(p))), false).unwrap();
        assert_eq!(unknown.verdict.tone, Tone::Caution, "agreeing is not being right");
    }

    #[test]
    fn what_cannot_be_judged_is_an_answer_with_a_word_about_it_or_an_error() {
        let gap = |p: usize, o: usize, t: usize| Some(truth(p)).filter(|_| (p, o, t) != (2, 1, 1));
        let error = refusal(judge(&study(6, 2, 2, gap), true));
        assert!(error.contains("I1 has 1 judgement of part J2 where others have 2"), "{error}");
        let same = judge(&study(6, 2, 2, |_, _, _| Some("good")), false).unwrap();
        assert_eq!((same.verdict.title.as_str(), &numbers(&same)["fleiss"]["kappa"]), ("Nothing varies", &Value::Null));
        let once = judge(&study(6, 1, 1, |p, _, _| Some(truth(p))), false).unwrap();
        assert_eq!((once.verdict.title.as_str(), &numbers(&once)["within"]), ("Too few to say", &Value::Null));
        let frame = study(6, 2, 2, |p, _, _| Some(truth(p)));
        let roles = json!({"rating": "said", "part": "joint", "operator": "inspector", "reference": "true"});
        assert!(refusal(asked(&frame, "gauge-attribute", roles, json!({"bad": "cracked"}))).contains("nobody said “cracked”"));
        let roles = json!({"rating": "said", "part": "joint", "operator": "joint"});
        assert!(refusal(asked(&frame, "gauge-attribute", roles, json!({}))).contains("taken twice"));
        let roles = json!({"rating": "said", "part": "joint", "operator": "inspector", "reference": "look"});
        assert!(refusal(asked(&frame, "gauge-attribute", roles, json!({}))).contains("two known labels"));
    }

    #[test]
    fn looks_are_paired_by_their_column_and_a_state_that_nobody_gave_is_still_a_state() {
        // I1 says at the first look what I0 says at the second; without the column of looks rows are taken as they come.
        let mixed = |p: usize, o: usize, t: usize| Some(if (p + t + o).is_multiple_of(2) { "good" } else { "bad" });
        let paired = numbers(&judge(&study(12, 2, 2, mixed), false).unwrap());
        assert_eq!(paired["cohen"][0]["kappa"], json!(-1.0));
        assert_eq!((&paired["within"][0]["matched"], &paired["between"]["matched"]), (&json!(0), &json!(0)));
        let frame = study(12, 2, 2, |p, _, _| Some(if p == 0 { "scrap" } else { "good" }));
        let of = numbers(
            &asked(
                &frame,
                "gauge-attribute",
                json!({"rating": "said", "part": "joint", "operator": "inspector", "reference": "true"}),
                json!({}),
            )
            .unwrap(),
        );
        assert_eq!((&of["labels"], of["fleiss"]["categories"].as_array().unwrap().len()), (&json!(["scrap", "good", "bad"]), 2));
        assert_eq!(of["all_against"]["matched"], json!(8), "four bad pieces, and none was called bad");
    }

    #[test]
    fn labels_may_be_numbers_and_rows_without_one_are_told() {
        let rows: Vec<(usize, usize)> = (0..2).flat_map(|o| (0..8).map(move |p| (p, o))).collect();
        let columns = json!({
            "piece": rows.iter().map(|(p, _)| p).collect::<Vec<_>>(),
            "who": rows.iter().map(|(_, o)| o).collect::<Vec<_>>(),
            "grade": rows.iter().map(|(p, _)| p % 3).collect::<Vec<_>>(),
        });
        let of = numbers(
            &asked(&frame(&columns, &[]), "gauge-attribute", json!({"rating": "grade", "part": "piece", "operator": "who"}), json!({}))
                .unwrap(),
        );
        assert_eq!((&of["labels"], &of["fleiss"]["kappa"]), (&json!(["0", "1", "2"]), &json!(1.0)));
        let gap = study(6, 2, 1, |p, o, _| (p != 5 || o == 9).then(|| truth(p)));
        let computed = judge(&gap, true).unwrap();
        assert!(says(&computed, "2 rows are without a judgement") && numbers(&computed)["parts"] == 5, "{:?}", computed.notes);
    }
}
