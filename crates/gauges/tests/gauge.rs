//! Gauge studies on what a practitioner may throw at them, and small data worked by hand.

use acorn_core::methods::Computed;
use acorn_data::frame::Frame;
use acorn_maths::anom;
use acorn_study::{StudyError, Tone, View};
use acorn_testing::{ask, frame, sent, sound};
use serde_json::{Value, json};

const ROLES: &str = r#"{"measure": "depth", "part": "housing", "operator": "inspector"}"#;

/// Readings of each housing by each inspector, `trials` times, as a function of their numbers.
fn study(parts: usize, operators: usize, trials: usize, of: impl Fn(usize, usize, usize) -> Option<f64>) -> Frame {
    let all = || (0..trials).flat_map(move |t| (0..operators).flat_map(move |o| (0..parts).map(move |p| (p, o, t))));
    let columns = json!({
        "housing": all().map(|(p, ..)| format!("H{p}")).collect::<Vec<_>>(),
        "inspector": all().map(|(_, o, _)| format!("I{o}")).collect::<Vec<_>>(),
        "depth": all().map(|(p, o, t)| of(p, o, t)).collect::<Vec<_>>(),
    });
    frame(&columns, &[("depth", Some(0.0), Some(100.0))])
}

fn judge(frame: &Frame, options: Value) -> Result<Computed, StudyError> {
    let roles: Value = serde_json::from_str(ROLES).unwrap();
    let computed = ask(frame, &json!({"method": "gauge-crossed", "roles": roles, "options": options}))?;
    sound("gauge-crossed", &options.to_string(), &sent(&computed));
    Ok(computed)
}

fn numbers(computed: &Computed) -> Value {
    serde_json::to_value(computed.outcome(&View::ALL).numbers).unwrap()
}

fn says(computed: &Computed, part: &str) -> bool {
    computed.notes.iter().any(|note| format!("{} {}", note.sentence, note.detail.clone().unwrap_or_default()).contains(part))
}

/// A fixed irregular scatter with mean 0 and about such an sd.
fn scatter(p: usize, o: usize, t: usize, sd: f64) -> f64 {
    let place = ((p * 7 + o * 31 + t * 17) as f64 * 0.618_033_988_75 + 0.3) % 1.0;
    sd * acorn_maths::normal::quantile(place.mul_add(0.98, 0.01))
}

#[test]
fn operators_that_differ_by_a_constant_are_named_with_their_size() {
    let depth = |p: usize, o: usize, t: usize| Some(50.0 + 8.0 * p as f64 + [0.0, 3.0, -3.0][o] + scatter(p, o, t, 0.5));
    let computed = judge(&study(10, 3, 3, depth), json!({})).unwrap();
    let of = numbers(&computed);
    let offs: Vec<bool> = of["operators"].as_array().unwrap().iter().map(|one| one["off"] == true).collect();
    assert_eq!(offs, [false, true, true]);
    assert!(says(&computed, "read off by more than repeating explains"));
    // Without the operators the gauge would take what repeating takes: computed again from readings without them.
    let alone = judge(&study(10, 3, 3, |p, o, t| Some(50.0 + 8.0 * p as f64 + scatter(p, o, t, 0.5))), json!({})).unwrap();
    let help = of["would_help"][1]["pct_tolerance"].as_f64().unwrap();
    assert!((help / numbers(&alone)["anova"]["components"][1]["pct_tolerance"].as_f64().unwrap() - 1.0).abs() < 1e-9);
    // Averaging two readings leaves operators as they are: the same from the variances.
    let variance = |place: usize| of["anova"]["components"][place]["variance"].as_f64().unwrap();
    let want = 6.0 * (variance(1) / 2.0 + variance(2)).sqrt() / 100.0;
    assert!((of["would_help"][0]["pct_tolerance"].as_f64().unwrap() / want - 1.0).abs() < 1e-12);
}

#[test]
fn one_who_does_not_repeat_and_one_far_reading_are_told_apart() {
    let wide = |p: usize, o: usize, t: usize| Some(50.0 + 8.0 * p as f64 + scatter(p, o, t, if o == 1 { 3.0 } else { 0.4 }));
    let computed = judge(&study(10, 3, 3, wide), json!({})).unwrap();
    assert!(says(&computed, "I1 (sd ") && says(&computed, "does not repeat like the others"));
    let two = |p: usize, o: usize, t: usize| Some(50.0 + 8.0 * p as f64 + scatter(p, o, t, if o == 1 || o == 4 { 3.0 } else { 0.4 }));
    let computed = judge(&study(10, 6, 3, two), json!({})).unwrap();
    assert!(says(&computed, "and I4 (sd ") && says(&computed, "do not repeat like the others"));
    let slip =
        |p: usize, o: usize, t: usize| Some(50.0 + 8.0 * p as f64 + scatter(p, o, t, 0.4) + if (p, o, t) == (4, 2, 1) { 9.0 } else { 0.0 });
    let computed = judge(&study(10, 3, 3, slip), json!({})).unwrap();
    assert!(says(&computed, "of part H4 by I2 lies"));
    let shown = computed.answer.points(&View { first: Some(88), last: Some(200), points: Some(1) });
    assert_eq!(shown.rows(), 2, "a page of readings is a stretch of them");
    let about = computed.next[0].points.unwrap();
    assert_eq!(computed.answer.rows(about[0], about[1]), [(30 + 20 + 4) as i64], "the row of that reading is opened");
}

#[test]
fn what_cannot_be_studied_is_an_answer_with_a_word_about_it_or_an_error_that_says_what_to_do() {
    let steady = |p: usize, o: usize, t: usize| Some(50.0 + 8.0 * p as f64 + scatter(p, o, t, 0.5));
    let error = judge(&study(4, 2, 2, |_, _, _| None), json!({})).err().unwrap().to_string();
    assert!(error.contains("0 usable values"), "{error}");
    let error = judge(&study(4, 2, 2, |p, _, _| (p == 1).then_some(50.0)), json!({})).err().unwrap().to_string();
    assert!(error.contains("only part H1 of 4 has a reading yet"), "{error}");
    let apart = study(4, 2, 2, |p, o, t| (p / 2 == o).then(|| steady(p, o, t)).flatten());
    let error = judge(&apart, json!({})).err().unwrap().to_string();
    assert!(error.contains("I1 has read no part that I0 has read"), "{error}");
    let gap = study(4, 2, 2, |p, o, t| ((p, o, t) != (2, 1, 0)).then(|| steady(p, o, t)).flatten());
    let error = judge(&gap, json!({"method": "range"})).err().unwrap().to_string();
    assert!(error.contains("equally many readings"), "{error}");
    let computed = judge(&gap, json!({})).unwrap();
    assert!(says(&computed, "I1 has 1 reading of part H2 where others have 2.") && numbers(&computed)["range"].is_null());
    let error = judge(&study(1, 3, 3, steady), json!({})).err().unwrap().to_string();
    assert!(error.contains("one part tells nothing"), "{error}");
    let error = judge(&study(5, 2, 1, steady), json!({"method": "range"})).err().unwrap().to_string();
    assert!(error.contains("two readings"), "{error}");
    let equal = judge(&study(5, 2, 2, |_, _, _| Some(2.4)), json!({})).unwrap();
    assert_eq!((equal.verdict.tone, &numbers(&equal)["share"]), (Tone::Unsure, &Value::Null));
    // One operator: nothing of operators, the rest as a one-way analysis has it.
    let alone = numbers(&judge(&study(6, 1, 3, steady), json!({})).unwrap());
    assert_eq!((&alone["anova"]["components"][2]["variance"], &alone["bias_limits"]), (&json!(0.0), &Value::Null));
    // One reading a cell: what operators and parts leave is all there is to call repeating.
    let once = numbers(&judge(&study(6, 3, 1, steady), json!({})).unwrap());
    assert_eq!((&once["anova"]["with_interaction"], &once["range"]), (&Value::Null, &Value::Null));
    // A huge offset leaves the components alone.
    let far = numbers(&judge(&study(10, 3, 3, |p, o, t| steady(p, o, t).map(|depth| depth + 1e7)), json!({"tolerance": 100})).unwrap());
    let near = numbers(&judge(&study(10, 3, 3, steady), json!({"tolerance": 100})).unwrap());
    for place in 0..7 {
        let [far, near] = [&far, &near].map(|of| of["anova"]["components"][place]["sd"].as_f64().unwrap());
        assert!((far - near).abs() <= 1e-7 * near.max(1.0), "{place}: {far} {near}");
    }
}

#[test]
fn one_limit_counts_twice_the_way_to_it_and_a_process_sd_stands_in_for_a_tolerance() {
    let depth = |p: usize, o: usize, t: usize| Some(50.0 + 4.0 * p as f64 + scatter(p, o, t, 0.5));
    let mut one_sided = study(10, 3, 3, depth);
    one_sided = {
        let columns = one_sided.columns().to_vec().into_iter().map(|mut column| {
            column.info.lsl = None;
            column
        });
        Frame::new(columns.collect(), None).unwrap()
    };
    let of = numbers(&judge(&one_sided, json!({})).unwrap());
    let (mean, room) = (of["mean"].as_f64().unwrap(), of["tolerance"].as_f64().unwrap());
    assert!((room - 2.0 * (100.0 - mean)).abs() < 1e-9);
    let bare = frame(&json!({"depth": [1.0, 2.0, 1.1, 2.2], "housing": ["a", "b", "a", "b"], "inspector": ["x", "x", "x", "x"]}), &[]);
    let of = numbers(&judge(&bare, json!({"process_sd": 2.0})).unwrap());
    assert_eq!((&of["basis"], &of["anova"]["components"][0]["pct_tolerance"]), (&json!("process"), &Value::Null));
    let want = of["anova"]["components"][0]["sd"].as_f64().unwrap() / 2.0;
    assert_eq!(of["share"], json!(want));
}

/// A sheet is read operator by operator: what has been read so far is told, and of whom nothing can be said.
#[test]
fn a_sheet_that_is_still_being_filled_is_answered_as_far_as_it_goes() {
    let depth = |p: usize, o: usize, t: usize| 50.0 + 8.0 * p as f64 + [0.0, 1.0, -1.0][o] + scatter(p, o, t, 0.5);
    let upto = |read: usize| study(10, 3, 3, move |p, o, t| (t * 30 + o * 10 + p < read).then(|| depth(p, o, t)));
    let first = judge(&upto(10), json!({})).unwrap();
    assert_eq!((first.verdict.tone, first.verdict.title.as_str()), (Tone::Unsure, "Too few to say"));
    assert!(first.verdict.sentence.starts_with("10 of 90 readings: too few"), "{}", first.verdict.sentence);
    assert!(says(&first, "Nothing can be said of I1 and I2 yet: no reading.") && numbers(&first)["anova"].is_null());
    let some = judge(&upto(41), json!({})).unwrap();
    assert!(some.verdict.sentence.starts_with("41 of 90 readings, so far: the gauge takes "), "{}", some.verdict.sentence);
    assert_ne!(some.verdict.tone, Tone::Calm);
    assert!(says(&some, "49 readings are still to come."));
    // All of one operator, as if there were no other.
    let alone = judge(&study(10, 3, 3, |p, o, t| (o == 1).then(|| depth(p, o, t))), json!({})).unwrap();
    let only = judge(&study(10, 1, 3, |p, _, t| Some(depth(p, 1, t))), json!({})).unwrap();
    assert_eq!(numbers(&alone)["anova"]["components"], numbers(&only)["anova"]["components"]);
    // Two whole trials of three are balanced, and however good they look the study is not done.
    let fine = |p: usize, o: usize, t: usize| (t < 2).then(|| 20.0 + 6.0 * p as f64 + scatter(p, o, t, 0.2));
    let good = judge(&study(10, 8, 3, fine), json!({})).unwrap();
    assert_eq!((good.verdict.tone, numbers(&good)["balanced"] == true), (Tone::Caution, true), "{}", good.verdict.sentence);
    let done = judge(&study(10, 8, 2, fine), json!({})).unwrap();
    assert_eq!((done.verdict.tone, &numbers(&done)["anova"]), (Tone::Calm, &numbers(&good)["anova"]));
    let whole = judge(&upto(90), json!({})).unwrap();
    assert!(numbers(&whole)["balanced"] == true && !whole.verdict.sentence.contains("so far"));
}

/// Restricted likelihood gives the components of the variance analysis as the study becomes balanced.
#[test]
fn one_missing_reading_changes_little_and_likelihood_agrees_with_the_analysis() {
    let depth = |p: usize, o: usize, t: usize| 50.0 + 8.0 * p as f64 + 1.5 * o as f64 + scatter(p, o, t, 1.0) + scatter(o, p, 1, 0.9);
    let whole = numbers(&judge(&study(10, 3, 3, |p, o, t| Some(depth(p, o, t))), json!({})).unwrap());
    let gap = study(10, 3, 3, |p, o, t| ((p, o, t) != (4, 1, 2)).then(|| depth(p, o, t)));
    let gap = numbers(&judge(&gap, json!({})).unwrap());
    for place in [0, 1, 3, 4, 5] {
        let [before, after] = [&whole, &gap].map(|of| of["anova"]["components"][place]["sd"].as_f64().unwrap());
        assert!((before - after).abs() < 0.08 * before, "{place}: {before} {after}");
    }
}

/// By four million draws of k means each, in Python with NumPy (seed 11).
#[test]
fn decision_values_are_those_of_the_largest_of_many_drawn_means() {
    for (k, df, want) in [(3, 20.0, 2.530), (3, 60.0, 2.403), (5, 20.0, 2.795), (10, 60.0, 2.895), (4, 1e6, 2.469)] {
        let h = anom::decision(k, df, 0.05);
        assert!((h - want).abs() < 0.004, "k {k}, df {df}: {h}");
    }
    assert!(anom::decision(1, 9.0, 0.05).is_nan() && anom::decision(3, 0.0, 0.05).is_nan());
}

/// Three parts, two operators, two readings, worked by hand: cell means 1, 2 | 4, 5 | 7, 9, one unit either side.
#[test]
fn a_small_study_worked_by_hand_comes_out_to_the_last_digit() {
    let means = [[1.0, 2.0], [4.0, 5.0], [7.0, 9.0]];
    let small = study(3, 2, 2, |p, o, t| Some(means[p][o] + if t == 0 { 1.0 } else { -1.0 }));
    let of = numbers(&judge(&small, json!({"tolerance": 60, "alpha_pool": 0.0})).unwrap());
    let line = |place: usize, field: &str| of["anova"]["with_interaction"][place][field].as_f64().unwrap();
    // Grand mean 14/3; parts 1.5, 4.5, 8; operators 4, 16/3.
    let grand: f64 = 14.0 / 3.0;
    let parts = 4.0 * [1.5, 4.5, 8.0].map(|mean: f64| (mean - grand).powi(2)).iter().sum::<f64>();
    let operators = 6.0 * 2.0 * (2.0_f64 / 3.0).powi(2);
    // Cells less part, less operator, plus grand: ∓ 1/6, ∓ 1/6, ± 1/3.
    let interaction = 2.0 * 2.0 * (2.0 / 36.0 + 1.0 / 9.0);
    for (place, df, ss) in [(0, 2.0, parts), (1, 1.0, operators), (2, 2.0, interaction), (3, 6.0, 12.0)] {
        assert!((line(place, "ss") - ss).abs() < 1e-12 && line(place, "df") == df, "{place}: {} {ss}", line(place, "ss"));
    }
    assert!((line(4, "ss") - (parts + operators + interaction + 12.0)).abs() < 1e-12 && line(4, "df") == 11.0);
    // The interaction is smaller than repeating: its component is set to 0, and with it goes the interval.
    assert_eq!((&of["anova"]["pooled"], &of["anova"]["set_to_zero"]), (&json!(true), &json!([])));
    // Pooled: (12 + interaction)/8; operators (MSₒ − MSₑ)/6 and parts (MSₚ − MSₑ)/4.
    let pooled = (12.0 + interaction) / 8.0;
    let variance = |place: usize| of["anova"]["components"][place]["variance"].as_f64().unwrap();
    let [operator, part] = [(operators - pooled) / 6.0, (parts / 2.0 - pooled) / 4.0];
    for (place, want) in [(0, pooled + operator), (1, pooled), (3, operator), (4, 0.0), (5, part), (6, pooled + operator + part)] {
        assert!((variance(place) - want).abs() < 1e-12, "{place}");
    }
    let gauge = (pooled + operator).sqrt();
    assert!((of["share"].as_f64().unwrap() - 6.0 * gauge / 60.0).abs() < 1e-12);
    assert_eq!(of["ndc"], json!((1.41 * part.sqrt() / gauge).floor().max(1.0)));
    // Every cell has the range 2; K₁ of two readings in six cells, K₂ of two operators, K₃ of three parts.
    let d2 = |m: usize, g: f64| {
        let constants = acorn_maths::bias::range_constants(m).unwrap();
        (constants.d2.powi(2) + constants.d3.powi(2) / g).sqrt()
    };
    let ev = 2.0 / d2(2, 6.0);
    let av = ((4.0 / 3.0 / d2(2, 1.0)).powi(2) - ev * ev / 6.0).sqrt();
    let pv = 6.5 / d2(3, 1.0);
    for (field, want) in [("ev", ev), ("av", av), ("grr", ev.hypot(av)), ("pv", pv), ("tv", ev.hypot(av).hypot(pv))] {
        assert!((of["range"][field]["sd"].as_f64().unwrap() - want).abs() < 1e-12, "{field}");
    }
}

#[test]
fn operators_who_repeat_alike_seldom_stand_out() {
    use rand::{RngExt, SeedableRng};
    let mut random = rand_xoshiro::Xoshiro256PlusPlus::seed_from_u64(3);
    let mut draw = || acorn_maths::normal::quantile(random.random_range(1e-9..1.0 - 1e-9));
    let (mut off, mut unlike) = (0, 0);
    for _ in 0..400 {
        let values: Vec<f64> = (0..60).map(|_| draw()).collect();
        let one = study(5, 4, 3, |p, o, t| Some(10.0 * p as f64 + values[(t * 4 + o) * 5 + p]));
        let of = numbers(&judge(&one, json!({"method": "anova"})).unwrap());
        let any = |field: &str| of["operators"].as_array().unwrap().iter().any(|operator| operator[field] == true);
        off += usize::from(any("off"));
        unlike += usize::from(any("inconsistent"));
    }
    // One in twenty of 400, give or take four sds.
    assert!((3..=38).contains(&off) && (3..=38).contains(&unlike), "{off} off, {unlike} unlike");
}

/// Every reading as the figure has it: parts lowest mean first, in each operator after operator.
fn readings(of: &Value) -> Vec<f64> {
    let cells = of["parts"].as_array().unwrap().iter().flat_map(|part| part["readings"].as_array().unwrap());
    cells.flat_map(|cell| cell.as_array().unwrap()).map(|value| value.as_f64().unwrap()).collect()
}

/// Where the notes of a study stand: panel and item, by a part of their sentence.
fn pin(computed: &Computed, part: &str) -> Option<(usize, Option<usize>)> {
    let note = computed.notes.iter().find(|note| note.sentence.contains(part)).unwrap_or_else(|| panic!("no note says “{part}”"));
    note.pin.as_ref().map(|pin| (pin.panel, pin.first))
}

#[test]
fn every_note_stands_where_it_is_about() {
    let off = |p: usize, o: usize, t: usize| {
        let slip = if (p, o, t) == (2, 0, 1) { 12.0 } else { 0.0 };
        Some(50.0 + 8.0 * (9 - p) as f64 + [0.0, 3.0, -1.0][o] + scatter(p, o, t, 0.4) + slip)
    };
    let computed = judge(&study(10, 3, 3, off), json!({})).unwrap();
    assert_eq!(pin(&computed, "read off by more"), Some((2, Some(1))), "the operator who is off most");
    let (panel, drawn) = pin(&computed, "One reading stands out").unwrap();
    // Parts stand lowest mean first, each with the readings of operator after operator.
    let of = numbers(&computed);
    let drawn_values = readings(&of);
    assert_eq!((panel, drawn_values[drawn.unwrap()]), (0, off(2, 0, 1).unwrap()));
    let wide = |p: usize, o: usize, t: usize| Some(50.0 + 8.0 * p as f64 + scatter(p, o, t, if o == 2 { 3.0 } else { 0.4 }));
    assert_eq!(pin(&judge(&study(10, 3, 3, wide), json!({})).unwrap(), "not repeat like"), Some((3, Some(2))));
    let alike = judge(&study(10, 3, 3, |p, o, t| Some(50.0 + 0.1 * p as f64 + scatter(p, o, t, 0.4))), json!({})).unwrap();
    assert_eq!(pin(&alike, "too alike"), Some((1, None)));
    let coarse = judge(&study(10, 3, 3, |p, o, t| off(p, o, t).map(|value| (value / 20.0).round() * 20.0)), json!({})).unwrap();
    assert_eq!(pin(&coarse, "decimals are too coarse"), Some((0, None)));
    let few = judge(&study(4, 3, 5, wide), json!({})).unwrap();
    assert_eq!(pin(&few, "4 parts read by 3 operators: the spread of the parts is hardly known"), Some((1, None)));
    assert!(!says(&judge(&study(5, 3, 2, wide), json!({})).unwrap(), "hardly known"));
}

#[test]
fn readings_are_told_in_the_order_in_which_they_were_taken() {
    let depth = |p: usize, o: usize, t: usize| 50.0 + 8.0 * ((p * 3) % 5) as f64 + o as f64 + 0.1 * t as f64;
    let of = numbers(&judge(&study(5, 2, 2, |p, o, t| Some(depth(p, o, t))), json!({})).unwrap());
    let drawn = readings(&of);
    let in_order: Vec<f64> = of["in_order"].as_array().unwrap().iter().map(|place| drawn[place.as_u64().unwrap() as usize]).collect();
    let taken: Vec<f64> =
        (0..2).flat_map(|t| (0..2).flat_map(move |o| (0..5).map(move |p| (p, o, t)))).map(|(p, o, t)| depth(p, o, t)).collect();
    assert_eq!(in_order, taken);
}

#[test]
fn the_interval_of_the_gauge_is_told_on_every_basis_and_not_for_an_uneven_study() {
    let depth = |p: usize, o: usize, t: usize| Some(50.0 + 8.0 * p as f64 + o as f64 + scatter(p, o, t, 1.0));
    let table = |computed: &Computed| {
        serde_json::to_value(computed.answer.tables().into_iter().find(|table| table.id == "intervals").unwrap()).unwrap()
    };
    let whole = judge(&study(10, 3, 3, depth), json!({})).unwrap();
    let of = numbers(&whole);
    let cells = |column: usize| table(&whole)["columns"][column]["cells"].clone();
    assert_eq!(cells(0), json!(["gauge sd", "% study", "% tolerance"]));
    for row in 0..3 {
        let [value, low, high] = [1, 2, 3].map(|column| cells(column)[row].as_f64().unwrap());
        assert!(low < value && value < high, "row {row}: {low} {value} {high}");
    }
    assert_eq!(cells(2)[0].as_f64().unwrap(), of["anova"]["ci95"][0].as_f64().unwrap().sqrt());
    // Without a tolerance the share of the study has the interval that the verdict tells.
    let bare = study(10, 3, 3, depth);
    let columns = bare.columns().iter().map(|column| acorn_data::frame::Column { info: Default::default(), ..column.clone() });
    let bare = numbers(&judge(&Frame::new(columns.collect(), None).unwrap(), json!({})).unwrap());
    assert_eq!((&bare["basis"], &bare["share_ci95"]), (&json!("study"), &bare["study_ci95"]));
    let gap = judge(&study(10, 3, 3, |p, o, t| depth(p, o, t).filter(|_| (p, o, t) != (0, 0, 0))), json!({})).unwrap();
    assert!(numbers(&gap)["study_ci95"].is_null() && numbers(&gap)["share_ci95"].is_null());
    assert!(!says(&gap, "likely"));
}
