//! Claims, two samples and numbers to inspect against their definitions, and on what may be counted.

mod one;
mod plan;

use acorn_core::methods::Computed;
use acorn_study::{StudyError, Tone, View};
use acorn_testing::{ask, frame, sent, sound};
use serde_json::{Value, json};

fn judge(columns: &Value, roles: &Value, options: &Value) -> Result<Computed, StudyError> {
    let computed = ask(&frame(columns, &[]), &json!({"method": "proportion", "roles": roles, "options": options}))?;
    sound("proportion", &options.to_string(), &sent(&computed));
    Ok(computed)
}

fn typed(options: &Value) -> Computed {
    judge(&json!({}), &json!({}), options).unwrap()
}

fn numbers(computed: &Computed) -> Value {
    serde_json::to_value(computed.outcome(&View::ALL).numbers).unwrap()
}

fn refused(options: &Value) -> String {
    judge(&json!({}), &json!({}), options).err().unwrap().to_string()
}

/// The chance of each count of n with p, one after the other.
fn binomial(n: usize, p: f64) -> Vec<f64> {
    let mut chances = vec![(1.0 - p).powi(n as i32)];
    for k in 0..n {
        chances.push(chances[k] * (n - k) as f64 / (k + 1) as f64 * p / (1.0 - p));
    }
    chances
}

/// The power of the exact two-sided test at 0.05, every count looked at.
fn power(n: usize, claim: f64, share: f64) -> f64 {
    let (under, truly) = (binomial(n, claim), binomial(n, share));
    let p = |seen: usize| under.iter().filter(|chance| **chance <= under[seen] * (1.0 + 1e-7)).sum::<f64>();
    (0..=n).filter(|seen| p(*seen) < 0.05).map(|seen| truly[seen]).sum()
}

#[test]
fn a_claim_is_given_up_with_its_reason_and_kept_otherwise() {
    let gone = typed(&json!({"x": 1150, "n": 1200, "p0": 0.97}));
    assert_eq!((gone.verdict.tone, gone.verdict.title.as_str()), (Tone::Alarm, "Not as claimed"));
    assert!(gone.verdict.sentence.contains("97.0 % is not believable, it is less (p = 0.022)"), "{}", gone.verdict.sentence);
    assert!(gone.verdict.sentence.contains("1,150 of 1,200, 95.8 %, likely 94.5 % to 96.9 %"), "{}", gone.verdict.sentence);
    assert_eq!(typed(&json!({"x": 1160, "n": 1200, "p0": 0.97})).verdict.title, "Could be as claimed");
    let rate = typed(&json!({"counting": "defects", "x": 31, "exposure": 120, "rate0": 0.15}));
    assert!(rate.verdict.sentence.contains("0.150 is not believable, it is more"), "{}", rate.verdict.sentence);
    // With enough seen the two-sided chance is about that of the normal, twice the tail.
    let p =
        |alternative: &str| numbers(&typed(&json!({"x": 5100, "n": 10000, "p0": 0.5, "alternative": alternative})))["p"].as_f64().unwrap();
    assert!((p("not-equal") / (2.0 * p("greater")) - 1.0).abs() < 1e-9 && p("less") > 0.97, "symmetric at one half");
}

#[test]
fn two_samples_change_sides_with_their_numbers_and_none_in_one_is_no_ratio() {
    let two = |a: [u32; 2], b: [u32; 2]| numbers(&typed(&json!({"x1": a[0], "n1": a[1], "x2": b[0], "n2": b[1]})));
    let (one, other) = (two([14, 120], [29, 130]), two([29, 130], [14, 120]));
    let of = |numbers: &Value, field: &str| numbers[field].as_f64().unwrap();
    assert!((of(&one, "difference") + of(&other, "difference")).abs() < 1e-15 && (of(&one, "p") / of(&other, "p") - 1.0).abs() < 1e-9);
    assert!((one["difference_ci95"][0].as_f64().unwrap() + other["difference_ci95"][1].as_f64().unwrap()).abs() < 1e-12);
    let rates = |x1: u32, x2: u32| numbers(&typed(&json!({"x1": x1, "exposure1": 60.0, "x2": x2, "exposure2": 75.0})));
    let none = rates(7, 0);
    assert!(none["ratio"].is_null() && none["ratio_ci95"][1].is_null() && none["ratio_ci95"][0].as_f64().unwrap() > 0.5);
    assert_eq!((&rates(0, 0)["p"], &rates(0, 0)["ratio_ci95"]), (&json!(1.0), &json!([0.0, null])));
    // Nothing and everything have no pooled z, and still an exact chance.
    assert!(two([0, 5], [0, 9])["z"].is_null() && two([0, 5], [0, 9])["p"] == 1.0);
    // One-sided chances of both sides share the count seen.
    let side = |alternative: &str| of(&numbers(&typed(&json!({"x1": 3, "n1": 20, "x2": 9, "n2": 25, "alternative": alternative}))), "p");
    let seen = side("less") + side("greater") - 1.0;
    assert!(seen > 0.0 && seen < 0.2, "{seen}");
}

#[test]
fn columns_give_what_typing_their_counts_gives_and_more_than_two_lead_on() {
    let columns = json!({
        "result": (0..90).map(|i| if i % 11 == 3 { Value::Null } else { json!(["pass", "fail"][usize::from(i % 7 == 0)]) }).collect::<Vec<_>>(),
        "bench": (0..90).map(|i| format!("B{}", i % 2)).collect::<Vec<_>>(), "line": (0..90).map(|i| format!("L{}", i % 3)).collect::<Vec<_>>(),
        "flaws": (0..90).map(|i| i % 4).collect::<Vec<_>>(), "metres": (0..90).map(|i| 1.5 + f64::from(i % 2)).collect::<Vec<_>>(),
    });
    let count = |bench: i32, fails: bool| (0..90).filter(|i| i % 11 != 3 && i % 2 == bench && (!fails || i % 7 == 0)).count();
    let roles = json!({"category": "result", "group": "bench"});
    let two = numbers(&judge(&columns, &roles, &json!({"value": "fail"})).unwrap());
    let same = numbers(&typed(&json!({"x1": count(0, true), "n1": count(0, false), "x2": count(1, true), "n2": count(1, false)})));
    assert_eq!((&two["p"], &two["difference_ci95"], &two["samples"][0]["label"]), (&same["p"], &same["difference_ci95"], &json!("B0")));
    let three = judge(&columns, &json!({"category": "result", "group": "line"}), &json!({"value": "fail"})).unwrap();
    assert!(three.notes.iter().any(|note| note.sentence == "line has 3 labels: two can be compared here."));
    assert_eq!(three.next[0].method.as_deref(), Some("association"));
    let rate = numbers(&judge(&columns, &json!({"count": "flaws", "size": "metres"}), &json!({})).unwrap());
    assert_eq!((rate["x"].as_f64(), rate["exposure"].as_f64()), (Some((0..90).map(|i| f64::from(i % 4)).sum()), Some(180.0)));
    let none = judge(&columns, &json!({"category": "result"}), &json!({"value": "burnt"})).err().unwrap().to_string();
    assert!(none.contains("no row of “result” is burnt"), "{none}");
}

#[test]
fn the_number_to_inspect_is_the_fewest_that_reach_what_is_wanted() {
    let inspect = |options: &Value| numbers(&typed(options))["inspect"].as_f64().unwrap();
    // Hahn and Meeker (1991), table 24: none of 59, one of 93, two of 124 shows at most 5 % with 95 %.
    let passes = |failures: u32| inspect(&json!({"at_most": 0.05, "failures": failures}));
    assert_eq!([passes(0), passes(1), passes(2)], [59.0, 93.0, 124.0]);
    assert_eq!(inspect(&json!({"at_most": 0.1, "confidence": 0.9})), 22.0);
    for (margin, expected) in [(0.02, 0.05), (0.05, 0.5), (0.01, 0.0)] {
        let n = inspect(&json!({"margin": margin, "expected": expected}));
        let half = |n: f64| {
            let z: f64 = 1.959_963_984_540_054;
            z * (expected * (1.0 - expected) / n + z * z / (4.0 * n * n)).sqrt() / (1.0 + z * z / n)
        };
        assert!(half(n) <= margin && half(n - 1.0) > margin, "{margin} {expected}: {n}");
    }
    for (claim, share, wanted) in [(0.05, 0.12, 0.9), (0.5, 0.3, 0.8), (0.97, 0.9, 0.9), (0.02, 0.3, 0.95)] {
        let n = inspect(&json!({"claimed": claim, "share": share, "power": wanted})) as usize;
        assert!(power(n - 1, claim, share) < wanted, "{claim} {share}: {n} is not the fewest");
        assert!((n..n + 40).all(|more| power(more, claim, share) >= wanted), "{claim} {share}: beyond {n} it falls back");
    }
    let words = typed(&json!({"at_most": 0.05})).verdict.sentence;
    assert_eq!(words, "Inspect 59 without a failure: the share is then at most 5.0 %, 95 % sure.");
    // Huge numbers by the normal, without taking long.
    assert!(inspect(&json!({"claimed": 0.5, "share": 0.501})) > 2e6);
}

#[test]
fn counts_that_cannot_be_are_refused_in_words() {
    for (options, words) in [
        (json!({"x": 5, "n": 4}), "5 of 4 cannot be"),
        (json!({"x": 0.5, "n": 4}), "0.5 is not a count"),
        (json!({"x": 0, "n": 0}), "nothing was looked at"),
        (json!({"x": 3, "exposure": 0}), "nothing was looked at"),
        (json!({"x1": 3, "n1": 9, "x2": 10, "n2": 9}), "10 of 9 cannot be"),
        (json!({"margin": 1.5}), "1.5 is no share"),
        (json!({"claimed": 0.1, "share": 0.1}), "not on the side"),
        (json!({"claimed": 0.1, "share": 0.05, "alternative": "greater"}), "not on the side"),
        (json!({"margin": 1e-9}), "more than anybody can inspect"),
        (json!({"at_most": 0.1, "failures": 0.5}), "no count"),
    ] {
        assert!(refused(&options).contains(words), "{options}: {}", refused(&options));
    }
}
