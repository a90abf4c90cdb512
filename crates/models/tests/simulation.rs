//! Models: draws that follow their distributions, the same answer on any number of threads, what drives a response, settings and
//! tightening against brute force, and models that nobody hopes for.

use acorn_core::methods::Computed;
use acorn_data::frame::Frame;
use acorn_models::model::{Bench, Distribution, Model, Source};
use acorn_study::{StudyError, View};
use acorn_testing::{ask, frame, sent, sound};
use serde_json::{Value, json};

fn run(options: &Value) -> Result<Computed, StudyError> {
    run_on(&Frame::from_json(&serde_json::Map::new()).unwrap(), options)
}

fn run_on(frame: &Frame, options: &Value) -> Result<Computed, StudyError> {
    let computed = ask(frame, &json!({"method": "simulation", "options": options}))?;
    sound("simulation", &options.to_string(), &sent(&computed));
    Ok(computed)
}

fn numbers(options: &Value) -> Value {
    serde_json::to_value(run(options).unwrap().outcome(&View::ALL).numbers).unwrap()
}

fn number(of: &Value, pointer: &str) -> f64 {
    of.pointer(pointer).and_then(Value::as_f64).unwrap_or_else(|| panic!("no number at {pointer}"))
}

fn said(computed: &Computed) -> String {
    let notes: String =
        computed.notes.iter().map(|note| format!("{} {} ", note.sentence, note.detail.clone().unwrap_or_default())).collect();
    format!("{} {notes}", computed.verdict.sentence)
}

fn normal(name: &str, mean: f64, sd: f64) -> Value {
    json!({"name": name, "distribution": "normal", "parameters": {"mean": mean, "sd": sd}})
}

fn refused(options: &Value) -> String {
    match run(options) {
        Err(error) => error.to_string(),
        Ok(_) => panic!("not refused: {options}"),
    }
}

/// Every distribution with parameters that lean.
fn distributions() -> Vec<(&'static str, Value)> {
    vec![
        ("normal", json!({"mean": -2, "sd": 3})),
        ("uniform", json!({"low": -1, "high": 5})),
        ("triangular", json!({"low": 0, "mode": 0.5, "high": 4})),
        ("lognormal", json!({"mu": 0.2, "sigma": 0.5, "threshold": 3})),
        ("weibull", json!({"shape": 1.4, "scale": 2})),
        ("gamma", json!({"shape": 0.7, "scale": 3, "threshold": -1})),
        ("exponential", json!({"scale": 2})),
        ("beta", json!({"alpha": 0.6, "beta": 3, "low": 1, "high": 9})),
        ("logistic", json!({"location": 5, "scale": 0.5})),
        ("loglogistic", json!({"location": 1, "scale": 0.15})),
        ("smallest-extreme-value", json!({"location": 5, "scale": 1})),
        ("largest-extreme-value", json!({"location": 5, "scale": 1})),
    ]
}

/// However they are drawn (plainly, in slices, correlated, with a spread of its own), draws lie below the quantiles of their
/// distribution as often as they should, and have its mean and sd.
#[test]
fn draws_follow_their_distribution_however_they_are_drawn() {
    const N: f64 = 40_000.0;
    for (name, parameters) in distributions() {
        let distribution = Distribution::read(name, parameters.as_object().unwrap()).unwrap();
        for way in ["plain", "slices", "correlated", "spread"] {
            let mut options = json!({
                "inputs": [{"name": "x", "distribution": name, "parameters": parameters}, normal("z", 0.0, 1.0)],
                "responses": [{"name": "y", "formula": "x + 0 * z"}],
                "draws": N, "seed": 5,
            });
            match way {
                "slices" => options["sampling"] = json!("latin-hypercube"),
                "correlated" => options["correlations"] = json!([{"a": "x", "b": "z", "r": 0.6}]),
                "spread" => options["inputs"][0]["spread"] = json!(0.5),
                _ => {}
            }
            let (by, mean, sd) = (if way == "spread" { 0.5 } else { 1.0 }, distribution.mean().unwrap(), distribution.sd().unwrap());
            let found = numbers(&options);
            let near =
                |got: f64, wanted: f64, error: f64| assert!((got - wanted).abs() < 5.0 * error, "{name}, {way}: {got}, not {wanted}");
            near(number(&found, "/responses/0/mean"), mean, sd / N.sqrt());
            near(number(&found, "/responses/0/sd") / sd, by, 3.0 / N.sqrt());
            for percentile in found["responses"][0]["percentiles"].as_array().unwrap() {
                let (share, value) = (number(percentile, "/share"), number(percentile, "/value"));
                let shape = distribution.spread(by);
                // How far the share below a sample percentile strays.
                let (low, high) = (share - 5.0 * (share * (1.0 - share) / N).sqrt(), share + 5.0 * (share * (1.0 - share) / N).sqrt());
                let inside = shape.quantile(low.max(1e-9), 1.0 - low.max(1e-9)) <= value
                    && value <= shape.quantile(high.min(1.0 - 1e-9), (1.0 - high).max(1e-9));
                assert!(inside, "{name}, {way}: {value} at {share}");
            }
        }
    }
}

#[test]
fn slices_hold_one_draw_each_and_means_settle_sooner() {
    let options = |sampling: &str, seed: u32| json!({"inputs": [normal("x", 10.0, 1.0)], "responses": [{"name": "y", "formula": "x"}], "draws": 1000, "seed": seed, "sampling": sampling});
    let far = |sampling: &str| {
        (1..20).map(|seed| (number(&numbers(&options(sampling, seed)), "/responses/0/mean") - 10.0).abs()).fold(0.0, f64::max)
    };
    assert!(far("latin-hypercube") < far("plain") / 10.0);
    let model = Model::read(
        vec![serde_json::from_value(json!({"name": "u", "distribution": "uniform", "parameters": {"low": 0, "high": 1}})).unwrap()],
        vec![],
        vec![],
        &[],
        &Frame::from_json(&serde_json::Map::new()).unwrap(),
    )
    .unwrap();
    let (mut bench, mut slices) = (Bench::of(&model), Vec::new());
    for (block, len) in [(0, 1024), (1, 476)] {
        bench.draw(&model, Source { seed: 3, set: 0, slices: Some(1500) }, block, len);
        slices.extend(bench.columns[0].iter().map(|u| (u * 1500.0) as usize));
    }
    slices.sort_unstable();
    assert!(slices.into_iter().eq(0..1500));
}

#[test]
fn the_same_seed_gives_the_same_answer_on_one_thread_and_on_many() {
    let options = json!({
        "inputs": [normal("a", 3.2, 0.08), {"name": "b", "distribution": "gamma", "parameters": {"shape": 2, "scale": 1}}],
        "controls": [{"name": "c", "value": 2, "sd": 0.1, "low": 1, "high": 3}],
        "responses": [{"name": "y", "formula": "a * b / c", "usl": 9}],
        "draws": 50_001, "sensitivity": true, "tightening": {}, "search": {"goal": "least-out"},
    });
    let on = |threads: usize| rayon::ThreadPoolBuilder::new().num_threads(threads).build().unwrap().install(|| numbers(&options));
    let one = on(1);
    assert_eq!(one, on(2));
    assert_eq!(one, on(3));
    let mut other = options.clone();
    other["seed"] = json!(2);
    assert_ne!(one["responses"], numbers(&other)["responses"]);
    // An input more leaves the draws of the others as they are.
    let mut more = options.clone();
    more["inputs"].as_array_mut().unwrap().push(normal("idle", 0.0, 1.0));
    assert_eq!(one.pointer("/responses/0/mean"), numbers(&more).pointer("/responses/0/mean"));
}

#[test]
fn percentiles_are_those_of_the_sorted_draws() {
    let options = json!({"inputs": [normal("x", 0.0, 1.0)], "responses": [{"name": "y", "formula": "1/x"}], "draws": 5000});
    let computed = run(&options).unwrap();
    let draws = computed.answer.points(&View::ALL);
    let acorn_study::Cells::Numbers(cells) = &draws.columns[2].cells else { panic!("draws are numbers") };
    let mut sorted: Vec<f64> = cells.iter().map(|cell| cell.unwrap()).collect();
    sorted.sort_by(f64::total_cmp);
    let found = serde_json::to_value(computed.outcome(&View::ALL).numbers).unwrap();
    for percentile in found["responses"][0]["percentiles"].as_array().unwrap() {
        let place = number(percentile, "/share") * 4999.0;
        let (left, right) = (sorted[place as usize], sorted[(place as usize + 1).min(4999)]);
        let expected = left + place.fract() * (right - left);
        assert!((number(percentile, "/value") - expected).abs() <= 1e-9 * expected.abs().max(1.0));
    }
    let counted: u64 = found["responses"][0]["bars"].as_array().unwrap().iter().map(|bar| bar["count"].as_u64().unwrap()).sum();
    let beyond: u64 = found["responses"][0]["beyond"].as_array().unwrap().iter().map(|count| count.as_u64().unwrap()).sum();
    assert_eq!(counted + beyond, 5000);
    // A far tail leaves the bars readable.
    assert!(found["responses"][0]["bars"].as_array().unwrap().len() > 20);
}

/// Worked by hand: worst case adds the widths of three sds, root sum square adds their squares.
#[test]
fn a_sum_is_stacked_and_what_is_no_sum_is_not() {
    let found = numbers(&json!({
        "inputs": [normal("a", 10.0, 0.1), normal("b", 4.0, 0.2)],
        "controls": [{"name": "k", "value": 2}],
        "responses": [{"name": "gap", "formula": "a - k*b/2 + ln(1)"}, {"name": "twice", "formula": "2*gap"}, {"name": "area", "formula": "a*b"}, {"name": "one", "formula": "a + 1"}],
    }));
    let near = |pointer: &str, wanted: f64| assert!((number(&found, pointer) - wanted).abs() < 1e-4, "{pointer}");
    near("/responses/0/stack/middle", 6.0);
    near("/responses/0/stack/worst/0", 6.0 - 0.9);
    near("/responses/0/stack/rss/1", 6.0 + 0.45f64.sqrt());
    near("/responses/1/stack/worst/1", 12.0 + 1.8);
    assert!(found.pointer("/responses/2/stack").unwrap().is_null() && found.pointer("/responses/3/stack").unwrap().is_null());
}

/// Sobol's g-function has shares that are known exactly: V_i = 1/(3(1 + a_i)^2), V = Π(1 + V_i) − 1.
#[test]
fn shares_of_variance_lie_within_their_errors() {
    let a = [0.0, 1.0, 4.5];
    let inputs: Vec<Value> =
        (0..3).map(|i| json!({"name": format!("x{i}"), "distribution": "uniform", "parameters": {"low": 0, "high": 1}})).collect();
    let formula: Vec<String> = a.iter().enumerate().map(|(i, a)| format!("(abs(4*x{i} - 2) + {a})/(1 + {a})")).collect();
    let found = numbers(
        &json!({"inputs": inputs, "responses": [{"name": "g", "formula": formula.join("*")}], "draws": 500_000, "sensitivity": true}),
    );
    let v: Vec<f64> = a.iter().map(|a| 1.0 / (3.0 * (1.0 + a) * (1.0 + a))).collect();
    let all = v.iter().map(|v| 1.0 + v).product::<f64>() - 1.0;
    for (i, own) in v.iter().enumerate() {
        let at = |field: &str| number(&found, &format!("/responses/0/shares/{i}/{field}"));
        let total = own * v.iter().enumerate().filter(|(j, _)| *j != i).map(|(_, v)| 1.0 + v).product::<f64>();
        assert!((at("first") - own / all).abs() < 4.0 * at("first_error") && at("first_error") < 0.01, "first of {i}");
        assert!((at("total") - total / all).abs() < 4.0 * at("total_error") && at("total_error") < 0.01, "total of {i}");
    }
}

/// Against every combination of steps: the cheapest set reaches the goal and none is cheaper.
#[test]
fn the_cheapest_tightening_is_as_cheap_as_brute_force_finds() {
    let with = |spreads: [f64; 3]| {
        let inputs: Vec<Value> = [("a", 0.03, 5.0), ("b", 0.05, 3.0), ("c", 0.02, 9.0)]
            .iter()
            .zip(spreads)
            .map(|((name, sd, cost), spread)| json!({"name": name, "distribution": "normal", "parameters": {"mean": 1, "sd": sd}, "cost": cost, "spread": spread}))
            .collect();
        json!({"inputs": inputs, "responses": [{"name": "y", "formula": "a + b + c", "lsl": 2.87, "usl": 3.13}], "draws": 20_000})
    };
    let mut options = with([1.0; 3]);
    options["tightening"] = json!({"goal": 0.005});
    let found = numbers(&options);
    let cost = number(&found, "/cheapest/cost");
    assert!(found["cheapest"]["reached"].as_bool().unwrap() && number(&found, "/cheapest/out") <= 0.005);
    for i in 0..=9u32 {
        for j in 0..=9u32 {
            for k in 0..=9u32 {
                let price = f64::from(5 * i + 3 * j + 9 * k);
                if price < cost - 1e-9 {
                    // A normal sum is exact enough to rule most out.
                    let variance = [(0.03, i), (0.05, j), (0.02, k)]
                        .iter()
                        .map(|(sd, step)| (sd * (1.0 - f64::from(*step) / 10.0f64)).powi(2))
                        .sum::<f64>();
                    let out = 2.0 * acorn_maths::normal::above(0.13 / variance.sqrt());
                    assert!(out > 0.005 * 0.8, "{i} {j} {k} cost {price}, below {cost}");
                }
            }
        }
    }
    let tight = run(&options).unwrap();
    assert!(said(&tight).contains("The cheapest way found to"), "{}", said(&tight));
}

/// Settings in steps against every combination of them.
#[test]
fn a_search_in_steps_finds_what_trying_all_finds() {
    let options = |a: f64, b: f64| {
        json!({
            "inputs": [normal("noise", 0.0, 0.4)],
            "controls": [{"name": "a", "value": a, "low": 0, "high": 10, "step": 1}, {"name": "b", "value": b, "low": -2, "high": 2, "step": 0.5}],
            "responses": [{"name": "y", "formula": "(a - 3.4)^2/4 + abs(b - 0.6)*2 + noise*(1 + a/20)", "usl": 2, "target": 0}],
            "draws": 8192,
        })
    };
    let mut asked = options(9.0, -2.0);
    asked["search"] = json!({"goal": "target"});
    let found = numbers(&asked);
    let missed = |of: &Value, at: &str| number(of, &format!("{at}/sd")).powi(2) + number(of, &format!("{at}/mean")).powi(2);
    let best = missed(&found, "/search/after");
    for a in 0..=10 {
        for b in 0..=8 {
            let tried = missed(&numbers(&options(f64::from(a), f64::from(b) / 2.0 - 2.0)), "/responses/0");
            assert!(best <= tried * (1.0 + 1e-9), "{a} {b}: {tried} beats {best}");
        }
    }
    assert_eq!((number(&found, "/search/best/0/value"), number(&found, "/search/best/1/value")), (3.0, 0.5));
    // Used, they are what the search finds again: nothing is better.
    let offer =
        run(&asked).unwrap().notes.into_iter().flat_map(|note| note.offers).find(|offer| offer.label == "Use these settings").unwrap();
    asked["controls"] = offer.options["controls"].clone();
    assert!(said(&run(&asked).unwrap()).contains("No settings in the ranges do better"));
    // An optimum on the border of a range is told.
    asked["controls"] = options(9.0, -2.0)["controls"].clone();
    asked["search"] = json!({"goal": "target", "controls": [{"name": "a", "low": 5, "high": 10}]});
    assert!(said(&run(&asked).unwrap()).contains("A is at the lowest of its range"));
}

#[test]
fn a_search_of_several_responses_weighs_them() {
    let options = |weights: [f64; 2]| {
        json!({
            "inputs": [normal("noise", 0.0, 1.0)],
            "controls": [{"name": "k", "value": 0, "low": -5, "high": 5}],
            "responses": [{"name": "up", "formula": "k + noise", "target": 4}, {"name": "down", "formula": "noise - k", "target": 4}],
            "draws": 10_000,
            "search": {"goal": "target", "responses": [{"name": "up", "weight": weights[0]}, {"name": "down", "weight": weights[1]}]},
        })
    };
    // Σ w (k ± 4)² is least at 4 (w1 − w2)/(w1 + w2), but for the mean of the noise drawn.
    for (weights, best) in [([1.0, 1.0], 0.0), ([3.0, 1.0], 2.0), ([1.0, 3.0], -2.0)] {
        assert!((number(&numbers(&options(weights)), "/search/best/0/value") - best).abs() < 0.05, "{weights:?}");
    }
}

#[test]
fn a_draw_without_a_number_is_counted_and_told() {
    let options = json!({"inputs": [{"name": "x", "distribution": "uniform", "parameters": {"low": -1, "high": 1}}], "responses": [{"name": "y", "formula": "sqrt(x)", "usl": 0.9}], "draws": 10_000});
    let computed = run(&options).unwrap();
    let found = serde_json::to_value(computed.outcome(&View::ALL).numbers).unwrap();
    let undefined = number(&found, "/responses/0/undefined");
    assert!((undefined - 5000.0).abs() < 250.0);
    assert!((number(&found, "/responses/0/out/total") - 0.19).abs() < 0.03, "of those that are numbers");
    assert!(said(&computed).contains("draws give y no number"), "{}", said(&computed));
    let none = run(&json!({"inputs": [normal("x", 0.0, 1.0)], "responses": [{"name": "y", "formula": "x/0 - x/0"}]})).unwrap();
    assert!(none.verdict.sentence.starts_with("No draw gives y a number"));
}

#[test]
fn models_that_cannot_be_are_refused_in_words() {
    let model = |inputs: Value, responses: Value| json!({"inputs": inputs, "responses": responses, "draws": 1000});
    let y = |formula: &str| json!([{"name": "y", "formula": formula}]);
    let x = || json!([normal("x", 0.0, 1.0)]);
    for (options, words) in [
        (model(x(), y("x + z")), "“y”, at character 5: nothing is called “z”"),
        (
            model(x(), json!([{"name": "y", "formula": "w + 1"}, {"name": "w", "formula": "2*y"}])),
            "“y”, at character 1: goes in a circle: “y” needs “w” needs “y”",
        ),
        (model(x(), y("x +")), "“y”, at character 4: a number or a name is missing at the end"),
        (model(json!([normal("x", 0.0, 1.0), normal("x", 0.0, 1.0)]), y("x")), "two things are called “x”"),
        (model(json!([normal(" ", 0.0, 1.0)]), y("1")), "the number 1 of them has no name"),
        (model(json!([normal("x", 0.0, -1.0)]), y("x")), "“x” its sd must be 0 or more"),
        (model(json!([{"name": "x", "distribution": "cauchy"}]), y("x")), "“x” has neither parameters nor a column"),
        (model(json!([{"name": "x", "distribution": "weibull", "parameters": {"shape": 2}}]), y("x")), "“x” needs its scale"),
        (
            model(json!([{"name": "x", "distribution": "normal", "parameters": {"mean": 1, "sd": 1, "mode": 2}}]), y("x")),
            "“mode” is not a parameter of a normal",
        ),
        (model(json!([{"name": "x", "distribution": "data", "column": "gone"}]), y("x")), "there is no such column"),
        (model(x(), json!([{"name": "y", "formula": "x", "lsl": 2, "usl": 1}])), "USL 1 must lie above LSL 2"),
        (json!({"inputs": x(), "responses": y("x"), "search": {"goal": "least-out"}}), "no response has a limit to search by"),
        (
            json!({"inputs": x(), "responses": [{"name": "y", "formula": "x", "usl": 1}], "search": {"goal": "least-out"}}),
            "no control has a lowest and a highest setting",
        ),
        (json!({"inputs": x(), "responses": y("x"), "draws": 10}), "must lie from 1000"),
        (json!({"inputs": x()}), "the study has no responses yet"),
        (json!({"inputs": 3, "responses": y("1")}), "is a list"),
        (json!({"inputs": [{"name": "x", "shape": "normal"}], "responses": y("1")}), "unknown field"),
    ] {
        let told = refused(&options);
        assert!(told.contains(words), "{options}: {told}");
    }
    let three = json!([normal("a", 0.0, 1.0), normal("b", 0.0, 1.0), normal("c", 0.0, 1.0)]);
    let mut together = model(three, y("a + b + c"));
    together["correlations"] = json!([{"a": "a", "b": "b", "r": 0.9}, {"a": "b", "b": "c", "r": 0.9}, {"a": "a", "b": "c", "r": -0.9}]);
    assert!(refused(&together).contains("cannot hold together"));
    together["correlations"] = json!([{"a": "a", "b": "b", "r": 1.0}]);
    assert!((number(&numbers(&together), "/responses/0/sd") - 5f64.sqrt()).abs() < 0.2, "going wholly together is possible");
}

#[test]
fn large_and_idle_models_are_answered() {
    let inputs: Vec<Value> = (0..50).map(|i| normal(&format!("x{i}"), 1.0, 0.1)).collect();
    let terms: Vec<String> = (0..500).map(|i| format!("x{}*{}", i % 50, 1 + i / 50)).collect();
    let found = numbers(
        &json!({"inputs": inputs, "responses": [{"name": "y", "formula": terms.join(" + ")}], "draws": 2000, "sensitivity": true, "tightening": {}}),
    );
    // Each input comes with factors 1 to 10, 55 in all.
    assert!((number(&found, "/responses/0/mean") - 2750.0).abs() < 5.0 * 5.5 * 50f64.sqrt() / 2000f64.sqrt());
    let still = run(&json!({"inputs": [normal("x", 2.0, 0.0)], "responses": [{"name": "y", "formula": "x^2", "usl": 5}, {"name": "k", "formula": "pi"}], "sensitivity": true, "tightening": {"goal": 0.1}})).unwrap();
    let told = serde_json::to_value(still.outcome(&View::ALL).numbers).unwrap();
    assert_eq!((number(&told, "/responses/0/mean"), number(&told, "/responses/0/sd")), (4.0, 0.0));
    assert!(told.pointer("/responses/0/ppk").unwrap().is_null() && told.pointer("/responses/0/shares").unwrap().is_null());
    assert!(
        run(&json!({"responses": [{"name": "y", "formula": "1e308*10"}]})).unwrap().verdict.sentence.contains("No draw gives y a number")
    );
}

/// An input that is taken from a column follows it, says when its newest values differ, and when it was accepted says that the
/// column has moved away.
#[test]
fn an_input_from_a_column_follows_it_and_tells_when_it_moves() {
    let wave = |i: u32| f64::from(i * 37 % 101) / 101.0 - 0.5;
    let steady: Vec<f64> = (0..150).map(|i| 90.0 + wave(i)).collect();
    let moved: Vec<f64> = (0..150).map(|i| 90.0 + wave(i) - if i >= 110 { 0.4 } else { 0.0 }).collect();
    let on = |values: &[f64]| frame(&json!({"efficiency": values}), &[]);
    let model =
        |input: Value| json!({"inputs": [input], "responses": [{"name": "y", "formula": "efficiency", "lsl": 80}], "draws": 20_000});
    let follows = model(json!({"name": "efficiency", "distribution": "data", "column": "efficiency"}));
    let calm = run_on(&on(&steady), &follows).unwrap();
    assert!(!said(&calm).contains("newest"), "{}", said(&calm));
    let told = run_on(&on(&moved), &follows).unwrap();
    assert!(said(&told).contains("Efficiency rests on 150 values; the newest 40 average 0.4"), "{}", said(&told));
    let newest = told.notes.iter().flat_map(|note| &note.offers).find(|offer| offer.label == "Take the newest").unwrap();
    assert_eq!(newest.options["inputs"][0]["newest"], 40);
    let fitted = model(json!({"name": "efficiency", "distribution": "normal", "column": "efficiency"}));
    let found = serde_json::to_value(run_on(&on(&steady), &fitted).unwrap().outcome(&View::ALL).numbers).unwrap();
    assert!((number(&found, "/inputs/0/mean") - steady.iter().sum::<f64>() / 150.0).abs() < 1e-9);
    let accepted =
        model(json!({"name": "efficiency", "distribution": "normal", "parameters": {"mean": 90, "sd": 0.29}, "column": "efficiency"}));
    assert!(!said(&run_on(&on(&steady), &accepted).unwrap()).contains("moved away"));
    let away = run_on(&on(&moved.iter().map(|value| value - 0.3).collect::<Vec<_>>()), &accepted).unwrap();
    assert!(said(&away).contains("Efficiency was accepted as it is here, but efficiency has moved away"), "{}", said(&away));
}

/// What the answer says to do next, in the order in which a person does it.
#[test]
fn the_next_step_is_said_with_its_numbers() {
    let model = |more: Value| {
        let mut options = json!({
            "inputs": [normal("a", 1.0, 0.02), normal("b", 2.0, 0.05), normal("c", 0.5, 0.0001)],
            "controls": [{"name": "shim", "value": 0.0, "low": -0.3, "high": 0.3}],
            "responses": [{"name": "gap", "formula": "b - a + c + shim", "lsl": 1.3, "usl": 1.55}],
        });
        options.as_object_mut().unwrap().extend(more.as_object().unwrap().clone());
        run(&options).unwrap()
    };
    let offers =
        |computed: &Computed| computed.notes.iter().flat_map(|note| &note.offers).map(|offer| offer.label.clone()).collect::<Vec<_>>();
    let bare = run(&json!({"inputs": [normal("a", 1.0, 0.1)], "responses": [{"name": "y", "formula": "a"}]})).unwrap();
    assert!(said(&bare).contains("Y averages 1.00"), "{}", said(&bare));
    assert!(said(&bare).contains("Give a response LSL or USL"));
    let misses = model(json!({}));
    assert!(
        said(&misses).contains("would have gap above 1.55") && offers(&misses).contains(&"Search settings".to_owned()),
        "{}",
        said(&misses)
    );
    let searched = model(json!({"search": {"goal": "largest-ppk"}}));
    assert!(
        offers(&searched).contains(&"Use these settings".to_owned()) && offers(&searched).contains(&"See what tightening pays".to_owned())
    );
    let tightened = model(json!({"controls": [{"name": "shim", "value": -0.075}], "tightening": {}}));
    assert!(said(&tightened).contains("Halving the spread of b pays most: the share out of gap goes from"), "{}", said(&tightened));
    assert!(said(&tightened).contains("Tightening c changes next to nothing"), "{}", said(&tightened));
    let room = model(
        json!({"controls": [{"name": "shim", "value": -0.075}], "inputs": [normal("a", 1.0, 0.005), normal("b", 2.0, 0.01), normal("c", 0.5, 0.0001)], "tightening": {}}),
    );
    assert!(said(&room).contains("There is room: the spread may be as wide as"), "{}", said(&room));
}

/// Statements put together at random: whatever is asked, an answer without holes or an error in words.
#[test]
fn odd_models_are_answered_or_refused_in_words() {
    use rand::{RngExt, SeedableRng};
    let mut random = rand_xoshiro::Xoshiro256PlusPlus::seed_from_u64(11);
    let mut pick = |of: &[Value]| of[random.random_range(0..of.len())].clone();
    let numbers: Vec<Value> = [-1e300, -2.5, -0.0, 0.0, 1e-300, 0.5, 3.0, 1e9, 1e99, 1e308].map(|number| json!(number)).to_vec();
    let names: Vec<Value> = ["a", "b", "c d", "", "pi", "if"].map(|name| json!(name)).to_vec();
    let formulas: Vec<Value> =
        ["a", "a/b", "`c d`^a", "a^1e9", "ln(a)", "1/(a - a)", "y + 1", "exp(a*1e9)", "if(a > b, a, b)", "min(a, b, pi)", "(", ""]
            .map(|text| json!(text))
            .to_vec();
    let distributions: Vec<Value> = distributions().iter().map(|(name, _)| json!(name)).chain([json!("data"), json!("odd")]).collect();
    let parameters = ["mean", "sd", "low", "mode", "high", "mu", "sigma", "shape", "scale", "alpha", "beta", "location", "threshold"];
    let (mut answered, mut refused) = (0, 0);
    for round in 0..3000 {
        // Three of four are sound but for extreme numbers and whatever the formulas make of them.
        let odd = round % 4 == 0;
        let inputs: Vec<Value> = (0..3)
            .map(|place| {
                let distribution = if odd { pick(&distributions) } else { pick(&distributions[..distributions.len() - 2]) };
                let known = distributions_by(distribution.as_str().unwrap());
                let given: Value = match known.filter(|_| !odd) {
                    Some(sound) => sound,
                    None => {
                        let mut given = serde_json::Map::new();
                        for name in parameters {
                            if pick(&[json!(true), json!(false)]) == true {
                                given.insert(name.to_owned(), pick(&numbers));
                            }
                        }
                        given.into()
                    }
                };
                let name = if odd { pick(&names) } else { json!(["a", "c d", "e"][place]) };
                let spread = if odd { pick(&[json!(-1.0), json!(101)]) } else { pick(&[json!(null), json!(0.0), json!(2.0)]) };
                json!({"name": name, "distribution": distribution, "parameters": given, "spread": spread})
            })
            .collect();
        let control = if odd {
            json!({"name": "b", "value": pick(&numbers), "low": pick(&numbers), "high": pick(&numbers), "sd": -0.1})
        } else {
            json!({"name": "b", "value": pick(&numbers[1..8]), "low": -3, "high": pick(&numbers[5..8]), "step": pick(&[json!(null), json!(0.5)]), "sd": pick(&[json!(null), json!(0.1)])})
        };
        let formula = |pick: &mut dyn FnMut(&[Value]) -> Value| if odd { pick(&formulas) } else { pick(&formulas[..formulas.len() - 2]) };
        let response = |name: &str, formula: Value, usl: Value| json!({"name": name, "formula": formula, "usl": usl});
        let y = if odd { formula(&mut pick) } else { pick(&formulas[..6]) };
        let options = json!({
            "inputs": inputs,
            "controls": [control],
            "responses": [response("y", y, pick(&numbers)), response("z", formula(&mut pick), json!(null))],
            "draws": 1000,
            "sensitivity": pick(&[json!(true), json!(false)]),
            "tightening": pick(&[json!(null), json!({"scales": [0, 1, 3]}), json!({"goal": 0.01})]),
            "search": pick(&[json!(null), json!({"goal": "least-out"}), json!({"goal": "largest-ppk"})]),
            "sampling": pick(&[json!("plain"), json!("latin-hypercube")]),
        });
        match ask(&Frame::from_json(&serde_json::Map::new()).unwrap(), &json!({"method": "simulation", "options": options})) {
            Ok(computed) => {
                sound("simulation", &options.to_string(), &sent(&computed));
                answered += 1;
            }
            Err(error) => {
                assert!(error.to_string().len() > 10 && !error.advice().is_empty(), "{options}: {error}");
                refused += 1;
            }
        }
    }
    assert!(answered > 1500 && refused > 500, "{answered} answered, {refused} refused");
}

fn distributions_by(name: &str) -> Option<Value> {
    distributions().into_iter().find(|(known, _)| *known == name).map(|(_, parameters)| parameters)
}
