//! Columns that go together: what deceives, what is later, and on what columns may hold.

use acorn_core::methods::Computed;
use acorn_study::{StudyError, Tone, View};
use acorn_testing::{ask, frame, sent, sound};
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
    assert_eq!([line.verdict.title.as_str(), parabola.verdict.title.as_str()], ["They go together"; 2]);
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
    let alone = of["points"].as_array().unwrap().len() as u64;
    assert_eq!([sum(&of["cells"]["counts"]) + alone, sum(&of["bars"][0]["counts"]), sum(&of["bars"][1]["counts"])], [n as u64; 3]);
    assert!(alone < 100 && of["pearson"].as_f64().unwrap() > 0.99, "an offset of ten million");
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

#[test]
fn rows_left_out_with_a_reason_count_nowhere_and_are_still_drawn() {
    let heat: Vec<f64> = (0..30).map(|i| if i == 17 { 40.0 } else { noise(i, 3) }).collect();
    let flux: Vec<f64> = (0..30).map(|i| if i == 17 { 60.0 } else { noise(i, 8) }).collect();
    let columns = json!({"heat": heat, "flux": flux});
    let left_out = json!({"left_out": [{"rows": [[17, 17]], "why": "sensor was loose"}]});
    let answer = relate(&columns, &roles(), &left_out).unwrap();
    let of = numbers(&answer);
    assert_eq!(
        (&of["n"], &of["missing"], of["left_out"].as_array().unwrap().len(), &of["left_out"][0]["row"]),
        (&json!(29), &json!(0), 1, &json!(17))
    );
    assert!(of["influential"].is_null() && of["pearson"].as_f64().unwrap().abs() < 0.5);
    assert!(said(&answer).contains("1 row is left out: sensor was loose."), "{}", said(&answer));
    let all = relate(&columns, &roles(), &json!({"left_out": [{"rows": [[0, 29]], "why": "all of them"}]})).unwrap();
    assert_eq!((all.verdict.title.as_str(), &numbers(&all)["n"]), ("Too few to say", &json!(0)));
    assert!(relate(&columns, &roles(), &json!({"left_out": [{"rows": [[0, 29]], "why": ""}]})).is_err(), "a reason is needed");
}

#[test]
fn among_many_points_those_that_stand_alone_are_drawn_and_the_others_counted() {
    let heat: Vec<f64> = (0..5000).map(|i| if i == 1700 { 9.0 } else { noise(i, 5) }).collect();
    let flux: Vec<f64> = (0..5000).map(|i| if i == 1700 { -7.0 } else { noise(i, 6) }).collect();
    let of = numbers(&relate(&json!({"heat": heat, "flux": flux}), &roles(), &json!({})).unwrap());
    let (points, counts) = (of["points"].as_array().unwrap(), of["cells"]["counts"].as_array().unwrap());
    assert!(points.iter().any(|point| point["row"] == 1700));
    assert_eq!(points.len() as u64 + counts.iter().map(|count| count.as_u64().unwrap()).sum::<u64>(), 5000);
    assert_eq!(of["influential"]["row"], json!(1700));
}

#[test]
fn a_line_through_values_whose_cubes_are_no_numbers_is_still_a_line() {
    let heat: Vec<f64> = (0..12).map(|i| f64::from(i) * 8e148).collect();
    let flux: Vec<f64> = (0..12).map(|i| 2.0 * f64::from(i) + f64::from(i * 7 % 5) / 10.0).collect();
    let columns = json!({"heat": heat, "flux": flux});
    let line = numbers(&relate(&columns, &roles(), &json!({})).unwrap());
    assert!(line["fit"]["r2"].as_f64().unwrap() > 0.99 && line["fit"]["curve"].as_array().unwrap().iter().all(|at| at["y"].is_number()));
    assert!(numbers(&relate(&columns, &roles(), &json!({"fit": "quadratic"})).unwrap())["fit"].is_null());
}

/// The solution of a small system of equations.
fn solved(mut a: Vec<Vec<f64>>, mut b: Vec<f64>) -> Vec<f64> {
    let k = b.len();
    for i in 0..k {
        for row in 0..k {
            if row != i {
                let factor = a[row][i] / a[i][i];
                (0..k).for_each(|column| a[row][column] -= factor * a[i][column]);
                b[row] -= factor * b[i];
            }
        }
    }
    (0..k).map(|i| b[i] / a[i][i]).collect()
}

/// Least squares in powers of x by its normal equations; the coefficients, constant first.
fn least_squares(x: &[f64], y: &[f64], degree: i32) -> Vec<f64> {
    let sum = |of: &dyn Fn(usize) -> f64| (0..x.len()).map(of).sum::<f64>();
    let a = (0..=degree).map(|i| (0..=degree).map(|j| sum(&|at| x[at].powi(i + j))).collect()).collect();
    solved(a, (0..=degree).map(|i| sum(&|at| y[at] * x[at].powi(i))).collect())
}

#[test]
fn the_fit_is_that_of_the_normal_equations_and_cooks_distance_that_of_leaving_a_point_out() {
    let n = 24;
    let x: Vec<f64> = (0..n).map(|i| if i == 9 { 6.0 } else { 3.0 * noise(i, 3) }).collect();
    let y: Vec<f64> = (0..n).map(|i| 2.0 - x[i] + 0.5 * x[i] * x[i] + noise(i, 4) + if i == 9 { 5.0 } else { 0.0 }).collect();
    for (fit, degree) in [("linear", 1), ("quadratic", 2)] {
        let of = numbers(&relate(&json!({"heat": x, "flux": y}), &roles(), &json!({"fit": fit})).unwrap());
        let want = least_squares(&x, &y, degree);
        for (place, want) in want.iter().enumerate() {
            let found = of["fit"]["coefficients"][place].as_f64().unwrap();
            assert!((found - want).abs() < 1e-9 * want.abs().max(1.0), "{fit} {place}: {found} {want}");
        }
        let height = |of: &[f64], x: f64| of.iter().enumerate().map(|(power, c)| c * x.powi(power as i32)).sum::<f64>();
        let rest: f64 = x.iter().zip(&y).map(|(x, y)| (y - height(&want, *x)).powi(2)).sum();
        let terms = f64::from(degree + 1);
        let variance = rest / (n as f64 - terms);
        // Without the far point all heights move so far.
        let kept = |values: &[f64]| values.iter().enumerate().filter(|(i, _)| *i != 9).map(|(_, value)| *value).collect::<Vec<_>>();
        let without = least_squares(&kept(&x), &kept(&y), degree);
        let cook: f64 = x.iter().map(|x| (height(&want, *x) - height(&without, *x)).powi(2)).sum::<f64>() / terms / variance;
        assert_eq!(of["influential"]["at"], 9, "{fit}");
        let found = of["influential"]["cook"].as_f64().unwrap();
        assert!((found / cook - 1.0).abs() < 1e-6, "{fit}: {found} {cook}");
    }
}

#[test]
fn bands_hold_what_they_say_of_the_mean_and_of_one_more_point() {
    let runs = 300;
    let (mut means, mut points) = (0, 0);
    for run in 0..runs {
        // About normal: twelve even numbers, less six.
        let draw = |i: usize| (0..12).map(|k| noise(1000 * run + 12 * i + k, 9)).sum::<f64>() - 6.0;
        let x: Vec<f64> = (0..20).map(|i| i as f64).collect();
        let y: Vec<f64> = x.iter().enumerate().map(|(i, x)| 4.0 + 0.3 * x + draw(i)).collect();
        let of = numbers(&relate(&json!({"heat": x, "flux": y}), &roles(), &json!({})).unwrap());
        let at = &of["fit"]["curve"][45];
        let [x, y, mean, point] = ["x", "y", "mean_reach", "point_reach"].map(|name| at[name].as_f64().unwrap());
        let truth = 4.0 + 0.3 * x;
        means += u32::from((y - truth).abs() <= mean);
        points += u32::from((y - truth - draw(40)).abs() <= point);
    }
    // 285 are expected of each, give or take 15 in nearly all such trials.
    assert!((270..=298).contains(&means) && (270..=298).contains(&points), "{means} {points} of {runs}");
}

#[test]
fn a_group_is_what_narrowing_to_it_gives_a_lag_is_a_shift_and_ranks_are_counted() {
    let n = 36;
    let heat: Vec<f64> = (0..n).map(|i| (20.0 * noise(i, 11)).round() / 4.0).collect();
    let flux: Vec<f64> = (0..n).map(|i| heat[i] * 0.3 + (8.0 * noise(i, 12)).round() / 4.0).collect();
    let bench: Vec<&str> = (0..n).map(|i| ["A", "B", "C"][i * 7 % 5 % 3]).collect();
    let columns = json!({"heat": heat, "flux": flux, "bench": bench});
    let grouped = numbers(&relate(&columns, &json!({"x": "heat", "y": "flux", "group": "bench"}), &json!({})).unwrap());
    for group in grouped["groups"].as_array().unwrap() {
        let only = json!({"method": "relation", "roles": roles(), "only": [{"column": "bench", "labels": [group["label"]]}]});
        let own = numbers(&ask(&frame(&columns, &[]), &only).unwrap());
        assert_eq!((&own["pearson"], &own["n"], &own["p"]), (&group["pearson"], &group["n"], &group["p"]));
    }
    let lagged = numbers(&relate(&columns, &roles(), &json!({"lag": 3})).unwrap());
    let shifted = numbers(&relate(&json!({"heat": heat[..n - 3], "flux": flux[3..]}), &roles(), &json!({})).unwrap());
    assert_eq!((&lagged["pearson"], &lagged["spearman"], &lagged["n"]), (&shifted["pearson"], &shifted["spearman"], &json!(n - 3)));
    let ranks = |values: &[f64]| -> Vec<f64> {
        let of = |value: &f64| {
            let below = values.iter().filter(|other| *other < value).count() as f64;
            below + (values.iter().filter(|other| *other == value).count() as f64 + 1.0) / 2.0
        };
        values.iter().map(of).collect()
    };
    let by_ranks = numbers(&relate(&json!({"heat": ranks(&heat), "flux": ranks(&flux)}), &roles(), &json!({})).unwrap());
    let [spearman, pearson] = [&grouped["spearman"], &by_ranks["pearson"]].map(|r| r.as_f64().unwrap());
    assert!((spearman - pearson).abs() < 1e-12, "{spearman} {pearson}");
}
