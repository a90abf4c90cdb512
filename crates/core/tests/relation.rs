//! Columns that go together: what deceives, what is later, and on what columns may hold.

mod common;

use acorn_core::methods::Computed;
use acorn_core::study::{StudyError, Tone, View};
use common::{ask, frame, sent, sound};
use rand::{RngExt, SeedableRng};
use rand_xoshiro::Xoshiro256PlusPlus;
use serde_json::{Value, json};

fn relate(columns: &Value, roles: &Value, options: &Value) -> Result<Computed, StudyError> {
    let computed = ask(&frame(columns, &[]), &json!({"method": "relation", "roles": roles, "options": options}))?;
    sound("relation", &options.to_string(), &sent(&computed));
    Ok(computed)
}

fn numbers(computed: &Computed) -> Value {
    serde_json::to_value(computed.outcome(&View::ALL).numbers).unwrap()
}

fn said(computed: &Computed) -> String {
    computed.notes.iter().map(|note| format!("{} {} ", note.sentence, note.detail.clone().unwrap_or_default())).collect()
}

fn roles() -> Value {
    json!({"x": "heat", "y": "flux"})
}

/// Even numbers from 0 to 1 that know nothing of each other.
fn noise(i: usize, salt: u64) -> f64 {
    Xoshiro256PlusPlus::seed_from_u64(i as u64 + 1_000_003 * salt).random()
}

#[test]
fn groups_that_turn_the_relation_round_are_told() {
    let n = 60;
    let bench = |i: usize| i % 3;
    // Within each bench flux falls with heat; benches that run hotter are brighter.
    let heat: Vec<f64> = (0..n).map(|i| 10.0 * bench(i) as f64 + 4.0 * noise(i, 1)).collect();
    let flux: Vec<f64> = (0..n).map(|i| 30.0 * bench(i) as f64 - 2.0 * (heat[i] - 10.0 * bench(i) as f64) + noise(i, 2)).collect();
    let columns = json!({"heat": heat, "flux": flux, "bench": (0..n).map(|i| format!("B{}", bench(i))).collect::<Vec<_>>()});
    let turned = relate(&columns, &json!({"x": "heat", "y": "flux", "group": "bench"}), &json!({})).unwrap();
    let of = numbers(&turned);
    assert!(of["pearson"].as_f64().unwrap() > 0.9 && of["within"]["r"].as_f64().unwrap() < -0.9);
    assert!(said(&turned).contains("the other way round than over all"), "{}", said(&turned));
    assert_eq!((turned.notes[0].tone, of["groups"].as_array().unwrap().len()), (Tone::Alarm, 3));
    let plain = relate(&columns, &roles(), &json!({})).unwrap();
    assert!(said(&plain).contains("no cause") && !said(&plain).contains("Within the groups"));
}

#[test]
fn one_far_point_is_named_and_what_would_be_left_without_it() {
    let heat: Vec<f64> = (0..30).map(|i| if i == 17 { 40.0 } else { noise(i, 3) }).collect();
    let flux: Vec<f64> = (0..30).map(|i| if i == 17 { 60.0 } else { noise(i, 8) }).collect();
    let made = relate(&json!({"heat": heat, "flux": flux}), &roles(), &json!({})).unwrap();
    let far = numbers(&made)["influential"].clone();
    assert_eq!((&far["at"], far["leverage"].as_f64().unwrap() > 0.9), (&json!(17), true));
    let without = |values: &[f64]| values.iter().enumerate().filter(|(i, _)| *i != 17).map(|(_, value)| *value).collect::<Vec<_>>();
    let rest = numbers(&relate(&json!({"heat": without(&heat), "flux": without(&flux)}), &roles(), &json!({})).unwrap());
    assert_eq!(far["pearson_without"], rest["pearson"]);
    // Cook's distance by its definition: how far all fitted values move without the point.
    let whole = numbers(&made);
    let at = |numbers: &Value, x: f64| {
        numbers["fit"]["coefficients"][0].as_f64().unwrap() + x * numbers["fit"]["coefficients"][1].as_f64().unwrap()
    };
    let moved: f64 = heat.iter().map(|x| (at(&whole, *x) - at(&rest, *x)).powi(2)).sum();
    let cook = moved / (2.0 * whole["fit"]["sd"].as_f64().unwrap().powi(2));
    assert!((far["cook"].as_f64().unwrap() / cook - 1.0).abs() < 1e-6, "{far} {cook}");
    assert!(said(&made).contains("Row 18 makes the fit") && rest["influential"].is_null(), "{}", said(&made));
    assert_eq!(made.answer.rows(17, 17), [17]);
}

#[test]
fn what_comes_later_is_found_at_its_lag_and_a_bend_by_its_parabola() {
    let heat: Vec<f64> = (0..80).map(|i| noise(i, 5)).collect();
    let flux: Vec<Option<f64>> = (0..80).map(|i| if i < 3 { None } else { Some(100.0 + 5.0 * heat[i - 3]) }).collect();
    let columns = json!({"heat": heat, "flux": flux});
    let r = |options: Value| numbers(&relate(&columns, &roles(), &options).unwrap());
    let now = r(json!({}));
    let later = r(json!({"lag": 3}));
    assert!(now["pearson"].as_f64().unwrap().abs() < 0.4 && later["pearson"].as_f64().unwrap() > 0.999_999);
    assert_eq!((&later["n"], &now["n"], &now["missing"]), (&json!(77), &json!(77), &json!(3)));
    let words = relate(&columns, &roles(), &json!({"lag": 3})).unwrap().verdict.sentence;
    assert!(words.contains("flux 3 rows later rises with heat"), "{words}");
    let bent = json!({"heat": (0..41).map(|i| f64::from(i) - 20.0).collect::<Vec<_>>(), "flux": (0..41).map(|i| (f64::from(i) - 20.0).powi(2) + noise(i as usize, 4)).collect::<Vec<_>>()});
    let line = relate(&bent, &roles(), &json!({})).unwrap();
    let parabola = relate(&bent, &roles(), &json!({"fit": "quadratic"})).unwrap();
    assert_eq!([line.verdict.title.as_str(), parabola.verdict.title.as_str()], ["Not shown to go together", "They go together"]);
    // Bands of one more point hold about 95 of 100, and those of the mean lie within.
    let fit = numbers(&parabola)["fit"].clone();
    assert!(fit["curve"].as_array().unwrap().iter().all(|at| at["point_reach"].as_f64().unwrap() > at["mean_reach"].as_f64().unwrap()));
    assert!(numbers(&relate(&bent, &roles(), &json!({"fit": "none"})).unwrap())["fit"].is_null());
}

#[test]
fn many_points_are_counted_in_cells_and_odd_columns_answered_in_words() {
    let n = 20_000;
    let far = |i: usize| 1e7 + noise(i, 6) / 100.0;
    let columns = json!({"heat": (0..n).map(far).collect::<Vec<_>>(), "flux": (0..n).map(|i| 2.0 * (far(i) - 1e7) + 0.001 * noise(i, 7)).collect::<Vec<_>>()});
    let many = relate(&columns, &roles(), &json!({})).unwrap();
    let of = numbers(&many);
    let sum = |counts: &Value| counts.as_array().unwrap().iter().map(|count| count.as_u64().unwrap()).sum::<u64>();
    assert_eq!([sum(&of["cells"]["counts"]), sum(&of["bars"][0]["counts"]), sum(&of["bars"][1]["counts"])], [n as u64; 3]);
    assert!(of["points"].as_array().unwrap().is_empty() && of["pearson"].as_f64().unwrap() > 0.99, "an offset of ten million");
    let title = |heat: Value, flux: Value| relate(&json!({"heat": heat, "flux": flux}), &roles(), &json!({})).unwrap().verdict.title;
    for (heat, flux) in [
        (json!([1.0]), json!([2.0])),
        (json!([1.0, 2.0]), json!([2.0, 3.0])),
        (json!([5, 5, 5, 5]), json!([1, 2, 3, 4])),
        (json!([1, 2, 3, 4]), json!([7, 7, 7, 7])),
    ] {
        assert_eq!(title(heat.clone(), flux), "Too few to say", "{heat}");
    }
    assert_eq!(title(json!([1, 2, 3, 4]), json!([2, 4, 6, 8])), "They go together", "along a line without any scatter");
    let refused = |heat: Value, flux: Value, roles: Value| {
        relate(&json!({"heat": heat, "flux": flux}), &roles, &json!({})).err().unwrap().to_string()
    };
    assert!(refused(json!([1, null]), json!([null, 2]), roles()).contains("0 usable values"));
    assert!(refused(json!([1, 2]), json!([1, 2]), json!({"x": "heat", "y": "heat"})).contains("stands twice"));
    let beyond = relate(&json!({"heat": [1, 2, 3], "flux": [1, 2, 4]}), &roles(), &json!({"lag": 9})).err().unwrap().to_string();
    assert!(beyond.contains("0 usable values"), "{beyond}");
}
