//! What is said of models: each with the sentence it must get, and the sentences it must not.

use acorn_core::methods::Computed;
use acorn_data::frame::Frame;
use acorn_study::{Tone, View};
use acorn_testing::{ask, sent, sound};
use serde_json::{Map, Value, json};

fn asked(options: Value) -> Computed {
    let computed = ask(&Frame::from_json(&Map::new()).unwrap(), &json!({"method": "simulation", "options": options})).unwrap();
    sound("simulation", &options.to_string(), &sent(&computed));
    computed
}

fn said(computed: &Computed) -> String {
    let notes: Vec<String> =
        computed.notes.iter().map(|note| format!("{} {}", note.sentence, note.detail.clone().unwrap_or_default())).collect();
    format!("{}: {} | {}", computed.verdict.title, computed.verdict.sentence, notes.join(" | "))
}

fn normal(name: &str, mean: f64, sd: f64) -> Value {
    json!({"name": name, "distribution": "normal", "parameters": {"mean": mean, "sd": sd}})
}

/// One input that is the response itself, with limits.
fn alone(input: Value, limits: Value, more: Value) -> Value {
    let mut response = json!({"name": "gap", "formula": input["name"], "unit": "mm"});
    response.as_object_mut().unwrap().extend(limits.as_object().unwrap().clone());
    let mut options = json!({"inputs": [input], "responses": [response]});
    options.as_object_mut().unwrap().extend(more.as_object().unwrap().clone());
    options
}

#[test]
fn the_verdict_goes_by_the_draws_and_says_where_they_are_out() {
    for (input, limits, tone, sentence) in [
        (normal("x", 10.0, 1.0), json!({"usl": 11}), Tone::Alarm, "About 16 % would have gap above 11 mm"),
        (normal("x", 10.0, 1.0), json!({"lsl": 9}), Tone::Alarm, "About 16 % would have gap below 9 mm"),
        (normal("x", 10.0, 1.0), json!({"lsl": 9, "usl": 11}), Tone::Alarm, "About 32 % would have gap outside 9 to 11 mm"),
        (normal("x", 10.0, 1.0), json!({"lsl": 2, "usl": 11}), Tone::Alarm, "About 16 % would have gap above 11 mm"),
        (normal("x", -10.0, 1.0), json!({"lsl": -11}), Tone::Alarm, "About 16 % would have gap below −11 mm"),
        (normal("x", 10.0, 1.0), json!({"lsl": 6.8, "usl": 13.2}), Tone::Caution, "would have gap outside 6.8 to 13.2 mm"),
        (normal("x", 10.0, 1.0), json!({"lsl": 4, "usl": 16}), Tone::Calm, "None of 100,000 draws has gap out of its limits"),
        (normal("x", 10.0, 1.0), json!({"usl": 16}), Tone::Calm, "None of 100,000 draws has gap above 16 mm"),
        (normal("x", 10.0, 0.0), json!({"usl": 9}), Tone::Alarm, "About 100 % would have gap above 9 mm"),
        (normal("x", 10.0, 0.0), json!({"usl": 11}), Tone::Calm, "None of 100,000 draws has gap above 11 mm"),
        (normal("x", 10.0, 0.0), json!({}), Tone::Unsure, "Gap is always 10.00 mm"),
        // All inside hard ends, whatever a normal of its Ppk would do.
        (
            json!({"name": "x", "distribution": "uniform", "parameters": {"low": 9, "high": 11}}),
            json!({"lsl": 8.99, "usl": 11.01}),
            Tone::Calm,
            "None of 100,000 draws has gap out of its limits",
        ),
    ] {
        let computed = asked(alone(input, limits.clone(), json!({})));
        assert_eq!(computed.verdict.tone, tone, "{limits}: {}", said(&computed));
        assert!(computed.verdict.sentence.contains(sentence), "{limits}: {}", said(&computed));
        // Never two marks of the same thing, and an end to every sentence.
        for words in [&computed.verdict.sentence].into_iter().chain(computed.notes.iter().map(|note| &note.sentence)) {
            assert!(words.ends_with(['.', '?']) && !words.contains("..") && !words.contains("  ") && !words.contains('-'), "{words}");
            assert!(words.chars().count() <= 240, "{words}");
        }
    }
}

#[test]
fn the_worst_of_several_responses_is_told_and_how_many_meet_theirs() {
    let responses = |limits: [f64; 3]| json!([{"name": "a", "formula": "x", "usl": limits[0]}, {"name": "b", "formula": "x + 0", "usl": limits[1]}, {"name": "c", "formula": "2*x", "usl": limits[2]}, {"name": "free", "formula": "x"}]);
    let of = |limits| asked(json!({"inputs": [normal("x", 0.0, 1.0)], "responses": responses(limits)}));
    assert!(
        of([9.0, 1.0, 20.0]).verdict.sentence.contains("would have b above 1; 2 of 3 responses meet their limits."),
        "{}",
        said(&of([9.0, 1.0, 20.0]))
    );
    assert!(of([9.0, 9.0, 20.0]).verdict.sentence.ends_with("; all 3 responses meet their limits."), "{}", said(&of([9.0, 9.0, 20.0])));
    assert!(of([1.0, 0.0, 0.5]).verdict.sentence.contains("would have b above 0; 0 of 3"), "{}", said(&of([1.0, 0.0, 0.5])));
}

#[test]
fn what_a_ppk_of_1_33_needs_is_worked_out_for_mean_and_sd() {
    let told = |limits: Value| said(&asked(alone(normal("x", 10.0, 1.0), limits, json!({}))));
    assert!(told(json!({"usl": 12})).contains("Gap: Ppk 0.67; a Ppk of 1.33 needs a mean of 8.0"), "{}", told(json!({"usl": 12})));
    assert!(told(json!({"usl": 12})).contains("or an sd of 0.50 mm."));
    // Between limits too near for the spread, only a smaller sd helps; beyond them, neither alone.
    let near = told(json!({"lsl": 9, "usl": 11}));
    assert!(near.contains("a Ppk of 1.33 needs an sd of 0.25 mm."), "{near}");
    let beyond = told(json!({"lsl": 11, "usl": 13}));
    assert!(beyond.contains("Ppk −0.33; neither its mean nor its sd alone can bring a Ppk of 1.33."), "{beyond}");
    let wide = told(json!({"lsl": 9, "usl": 19}));
    assert!(wide.contains("needs a mean from 12.99 to 15.01 mm"), "{wide}");
}

#[test]
fn a_share_on_few_draws_is_told_with_its_interval_and_more_draws_are_offered() {
    let few = asked(alone(normal("x", 10.0, 1.0), json!({"usl": 13.5}), json!({"draws": 20_000})));
    let note = few.notes.iter().find(|note| note.sentence.contains("the share out rests on")).unwrap_or_else(|| panic!("{}", said(&few)));
    assert_eq!(note.offers[0].options["draws"], 200_000);
    let none = asked(alone(normal("x", 10.0, 1.0), json!({"usl": 15.2}), json!({"draws": 20_000})));
    assert!(said(&none).contains("Gap: no draw is out; the share is below 0.018 % (95 %)."), "{}", said(&none));
    let most = asked(alone(normal("x", 10.0, 1.0), json!({"usl": 15.2}), json!({"draws": 10_000_000})));
    assert!(
        most.notes.iter().all(|note| note.offers.iter().all(|offer| !offer.label.starts_with("Draw"))),
        "there are no more draws than the most"
    );
    let many = asked(alone(normal("x", 10.0, 1.0), json!({"usl": 11}), json!({})));
    assert!(!said(&many).contains("rests on"));
}

#[test]
fn a_shape_that_ppk_misjudges_is_said_to_be_none_of_a_normal() {
    let skewed =
        asked(alone(json!({"name": "x", "distribution": "exponential", "parameters": {"scale": 1}}), json!({"usl": 6}), json!({})));
    assert!(
        said(&skewed).contains("Gap is no normal: one with its Ppk of 1.6")
            && said(&skewed).contains("The share of the draws is the one to go by."),
        "{}",
        said(&skewed)
    );
    let bounded = asked(alone(
        json!({"name": "x", "distribution": "uniform", "parameters": {"low": 9, "high": 11}}),
        json!({"lsl": 8.9, "usl": 11.1}),
        json!({}),
    ));
    assert!(said(&bounded).contains("and the draws have none"), "{}", said(&bounded));
    let plain = asked(alone(normal("x", 10.0, 1.0), json!({"usl": 12}), json!({})));
    assert!(!said(&plain).contains("is no normal"));
}

#[test]
fn what_drives_a_response_is_said_with_its_share() {
    let of = |formula: &str, inputs: Value| {
        said(&asked(json!({"inputs": inputs, "responses": [{"name": "r", "formula": formula}], "sensitivity": true})))
    };
    let two = || json!([normal("seal", 0.0, 2.0), normal("lens", 5.0, 1.0)]);
    let sum = of("seal + lens", two());
    assert!(sum.contains("; 80 % of its variance comes from seal.") || sum.contains("; 79 % of") || sum.contains("; 81 % of"), "{sum}");
    let product = of("seal * (lens - 5)", two());
    assert!(product.contains("of its variance involves"), "{product}");
    let only = of("seal", json!([normal("seal", 0.0, 2.0)]));
    assert!(only.contains("; all of its variance comes from seal."), "{only}");
    let correlated = said(&asked(
        json!({"inputs": two(), "responses": [{"name": "r", "formula": "seal + lens"}], "sensitivity": true, "correlations": [{"a": "seal", "b": "lens", "r": 0.5}]}),
    ));
    assert!(
        correlated.contains("Inputs that go together leave no shares of variance to part.") && !correlated.contains("of its variance"),
        "{correlated}"
    );
}

#[test]
fn units_parts_and_unused_inputs_are_told() {
    let computed = asked(json!({
        "inputs": [{"name": "c", "unit": "Ah", "part": "cell", "distribution": "normal", "parameters": {"mean": 3, "sd": 0.1}}, {"name": "v", "unit": "V", "part": "cell", "distribution": "normal", "parameters": {"mean": 3.6, "sd": 0.1}}, normal("spare", 0.0, 1.0)],
        "controls": [{"name": "p", "unit": "W", "part": "driver", "value": 2, "low": 1, "high": 3}],
        "responses": [{"name": "time", "unit": "min", "part": "driver", "formula": "c*v/p"}],
    }));
    let told = said(&computed);
    assert!(told.contains("The units of time do not fit: its units make min times 60."), "{told}");
    assert!(told.contains("Spare is used by no formula."), "{told}");
    let numbers = serde_json::to_value(computed.outcome(&View::ALL).numbers).unwrap();
    assert_eq!(numbers["parts"], json!(["cell", "driver"]));
    assert_eq!(numbers["controls"][0]["words"], "2 W, may be 1 to 3 W");
    assert_eq!(numbers["inputs"][0]["words"], "normal, 3.00 ± 0.10 Ah");
    assert_eq!(numbers["responses"][0]["takes"], json!(["c", "v", "p"]));
    assert_eq!(numbers["responses"][0]["notation"]["line"], "c × v ÷ p");
}

#[test]
fn inputs_are_told_by_what_they_are() {
    let words = |input: Value| {
        let computed = asked(json!({"inputs": [input], "responses": [{"name": "r", "formula": "1"}]}));
        serde_json::to_value(computed.outcome(&View::ALL).numbers).unwrap()["inputs"][0]["words"].as_str().unwrap().to_owned()
    };
    let input =
        |distribution: &str, parameters: Value| json!({"name": "x", "unit": "mm", "distribution": distribution, "parameters": parameters});
    assert_eq!(words(input("normal", json!({"mean": 2.4, "sd": 0.02}))), "normal, 2.400 ± 0.020 mm");
    assert_eq!(words(input("normal", json!({"mean": 2.4, "sd": 0}))), "always 2.40 mm");
    assert!(words(input("uniform", json!({"low": 1, "high": 2}))).starts_with("uniform, 1.00 to 2.00 mm"));
    assert!(words(input("triangular", json!({"low": 1, "mode": 1.2, "high": 2}))).starts_with("triangular, 1.00 to 2.00 mm, mostly 1.20"));
    assert!(words(input("weibull", json!({"shape": 2, "scale": 30}))).starts_with("Weibull, 27 ± 14 mm"));
    assert!(words(input("loglogistic", json!({"location": 1, "scale": 2}))).ends_with("without a mean"));
    assert_eq!(words(input("data", json!({"values": [1, 2, 3]}))), "3 values, 2.00 ± 0.82 mm");
}
