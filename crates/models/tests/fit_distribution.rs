//! Shapes recommended for a measurement: what is behind the values is found, what they contradict is not trusted, and what is
//! accepted draws as the values lie.

use acorn_core::methods::Computed;
use acorn_models::model::Distribution;
use acorn_study::{StudyError, View};
use acorn_testing::{ask, frame, sent, sound};
use serde_json::{Map, Value, json};

fn fit(values: &[f64]) -> Result<Computed, StudyError> {
    let computed = ask(&frame(&json!({"leak": values}), &[]), &json!({"method": "fit-distribution", "roles": {"measure": "leak"}}))?;
    sound("fit-distribution", "leak", &sent(&computed));
    Ok(computed)
}

fn numbers(computed: &Computed) -> Value {
    serde_json::to_value(computed.outcome(&View::ALL).numbers).unwrap()
}

/// Even quantiles of a distribution in a mixed order: values that lie exactly as it says.
fn of(name: &str, parameters: Value, n: usize) -> Vec<f64> {
    let distribution = Distribution::read(name, parameters.as_object().unwrap()).unwrap();
    (0..n).map(|i| (i * 37 % n) as f64 + 0.5).map(|place| distribution.quantile(place / n as f64, 1.0 - place / n as f64)).collect()
}

fn parameters(fit: &Value) -> Map<String, Value> {
    fit["parameters"].as_array().unwrap().iter().map(|one| (one["name"].as_str().unwrap().to_owned(), one["value"].clone())).collect()
}

#[test]
fn what_is_behind_the_values_is_recommended_and_draws_as_they_lie() {
    for (name, given) in [
        ("normal", json!({"mean": 50, "sd": 2})),
        ("lognormal", json!({"mu": 0.5, "sigma": 0.6})),
        ("weibull", json!({"shape": 1.6, "scale": 30})),
        ("largest-extreme-value", json!({"location": 10, "scale": 2})),
    ] {
        let values = of(name, given.clone(), 301);
        let found = numbers(&fit(&values).unwrap());
        let fits = found["fits"].as_array().unwrap();
        assert!((1..=3).contains(&fits.len()) && !found["none_fits"].as_bool().unwrap(), "{name}");
        let own = fits.iter().find(|fit| fit["distribution"] == name).unwrap_or_else(|| panic!("{name} is not among {fits:?}"));
        assert_eq!(own["tone"], "calm", "{name}: {}", own["why"]);
        // Accepted as an input it lies where the values lie.
        for fit in fits {
            let accepted = Distribution::read(fit["distribution"].as_str().unwrap(), &parameters(fit)).unwrap();
            let mut sorted = values.clone();
            sorted.sort_by(f64::total_cmp);
            let spread = sorted[225] - sorted[75];
            for place in [30, 75, 150, 225, 270] {
                let share = (place as f64 + 0.5) / 301.0;
                assert!((accepted.quantile(share, 1.0 - share) - sorted[place]).abs() < 0.08 * spread, "{name}: {fit}");
            }
        }
        // A curve that holds as many values as the bars.
        let bars: f64 = found["bars"].as_array().unwrap().iter().map(|bar| bar["count"].as_f64().unwrap()).sum();
        assert_eq!(bars, 301.0);
        let curve = own["curve"].as_array().unwrap();
        let step = (curve[1]["value"].as_f64().unwrap() - curve[0]["value"].as_f64().unwrap())
            / (found["bars"][0]["to"].as_f64().unwrap() - found["bars"][0]["from"].as_f64().unwrap());
        let area: f64 = curve.iter().map(|point| point["count"].as_f64().unwrap() * step).sum();
        assert!((area - 301.0).abs() < 15.0, "{name}: {area}");
    }
}

#[test]
fn two_humps_are_fitted_by_nothing_and_the_model_draws_from_the_values() {
    let mut values = of("normal", json!({"mean": 10, "sd": 0.5}), 120);
    values.extend(of("normal", json!({"mean": 16, "sd": 0.5}), 120));
    let computed = fit(&values).unwrap();
    assert_eq!(computed.verdict.title, "No shape fits");
    assert!(numbers(&computed)["none_fits"].as_bool().unwrap());
    let model = computed.next.iter().find(|next| next.method.as_deref() == Some("simulation")).unwrap();
    assert_eq!(model.options["inputs"][0]["distribution"], "data");
    // The next question is one that can be asked as it stands.
    let asked = ask(&frame(&json!({"leak": values}), &[]), &json!({"method": "simulation", "options": model.options})).unwrap();
    assert!(asked.verdict.sentence.starts_with("Response averages 13.0"), "{}", asked.verdict.sentence);
}

#[test]
fn few_values_are_a_caution_and_too_few_no_answer() {
    let computed = fit(&of("normal", json!({"mean": 5, "sd": 1}), 12)).unwrap();
    assert!(numbers(&computed)["fits"].as_array().unwrap().iter().all(|fit| fit["tone"] != "calm"));
    assert!(computed.notes.iter().any(|note| note.sentence == "12 values tell little of a shape."));
    for values in [vec![1.0, 2.0, 3.0], vec![2.4; 40], vec![]] {
        assert!(matches!(fit(&values).err(), Some(StudyError::TooFewValues { .. })), "{values:?}");
    }
    // The same values, the same answer; another seed is said in the statement.
    let values = of("gamma", json!({"shape": 2, "scale": 3}), 60);
    assert_eq!(numbers(&fit(&values).unwrap()), numbers(&fit(&values).unwrap()));
}
