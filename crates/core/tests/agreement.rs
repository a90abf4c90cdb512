//! The same values are judged alike by every method that judges them.

use acorn_testing::{ask, awkward, frame};
use serde_json::{Value, json};

struct Judged {
    look: Value,
    chart: Value,
    capability: Value,
    level: Value,
}

fn numbers(answer: &acorn_core::methods::Computed) -> Value {
    serde_json::to_value(answer.outcome(&acorn_study::View::ALL)).unwrap()
}

/// What each method says of the same values; `None` when one of them cannot.
fn judged(values: &Value) -> Option<Judged> {
    let frame = frame(&json!({ "gap": values }), &[("gap", Some(-6.0), Some(12.0))]);
    let of = |method: &str, options: Value| ask(&frame, &json!({"method": method, "roles": {"measure": "gap"}, "options": options})).ok();
    Some(Judged {
        look: numbers(&of("distribution", json!({}))?),
        chart: numbers(&of("control-chart", json!({}))?),
        capability: numbers(&of("capability", json!({}))?),
        level: numbers(&of("sigma-level", json!({"from": "measurement"}))?),
    })
}

fn sets() -> Vec<(&'static str, Value)> {
    let mut sets: Vec<(&str, Value)> = awkward().into_iter().map(|(name, values)| (name, json!(values))).collect();
    let quantile = |i: u32, n: u32| acorn_maths::normal::quantile((f64::from(i * 37 % n) + 0.5) / f64::from(n));
    sets.push(("normal", (0..101).map(|i| json!(quantile(i, 101))).collect()));
    sets.push(("skewed", (0..101).map(|i| json!(quantile(i, 101).exp())).collect()));
    sets.push(("many, hardly skewed", (0..20_011).map(|i| json!((0.03 * quantile(i, 20_011)).exp())).collect()));
    sets.push(("coarse", (0..101).map(|i| json!(quantile(i, 101).round())).collect()));
    sets.push(("ten steps", (0..101).map(|i| json!(f64::from(i % 10))).collect()));
    sets.push(("moved", (0..101).map(|i| json!(quantile(i, 101) + if i == 50 { 9.0 } else { 0.0 })).collect()));
    sets
}

#[test]
fn shape_coarseness_steadiness_and_counts_agree() {
    let mut compared = 0;
    for (name, values) in sets() {
        let Some(Judged { look, chart, capability, level }) = judged(&values) else { continue };
        let at = |answer: &Value, pointer: &str| answer["numbers"].pointer(pointer).cloned().unwrap_or_default();
        let says = |answer: &Value, words: &str| {
            answer["notes"].as_array().unwrap().iter().any(|note| note["sentence"].as_str().unwrap().contains(words))
        };
        // Misfit: the same test, the same threshold, the same allowance for very many values.
        let misfit = at(&look, "/groups/0/misfits");
        assert_eq!(misfit, at(&capability, "/misfits"), "{name}");
        assert_eq!(misfit, at(&level, "/normal/misfits"), "{name}");
        let title = look["verdict"]["title"].as_str().unwrap();
        assert_ne!(misfit == json!(true), ["Fits a normal", "Could be normal", "Too few for a shape"].contains(&title), "{name}: {title}");
        // Coarse readings.
        assert_eq!(says(&look, "reads coarsely"), says(&capability, "reads coarsely"), "{name}");
        // Steadiness: one chart behind all of them.
        assert_eq!(at(&chart, "/steady"), at(&capability, "/steady"), "{name}");
        assert_eq!(at(&chart, "/steady"), at(&level, "/steady"), "{name}");
        assert_eq!(at(&capability, "/signals_by_chance"), at(&level, "/signals_by_chance"), "{name}");
        // What lies beyond the limits, and what centre and spread are.
        assert_eq!(at(&capability, "/observed/total"), at(&level, "/normal/seen"), "{name}");
        assert_eq!(at(&look, "/groups/0/mean"), at(&capability, "/mean"), "{name}");
        assert_eq!(at(&look, "/groups/0/ad_p"), at(&capability, "/ad_p"), "{name}");
        compared += 1;
    }
    assert!(compared >= 10, "{compared}");
}
