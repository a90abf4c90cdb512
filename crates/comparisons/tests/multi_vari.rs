//! Where variation comes from: what is found again, what cannot be told, and what stands out.

mod arrangement;

use acorn_core::methods::{self, Computed};
use acorn_data::frame::{Column, Frame, Measuring};
use acorn_study::{Cancel, Spec, StudyError, View};
use acorn_testing::{ask, frame, sent, sound, timed};
use rand::SeedableRng;
use rand_distr::{Distribution, StandardNormal};
use rand_xoshiro::Xoshiro256PlusPlus;
use serde_json::{Value, json};

fn split(columns: &Value, factors: &[&str]) -> Result<Computed, StudyError> {
    let computed = ask(&frame(columns, &[]), &json!({"method": "multi-vari", "roles": {"measure": "wall", "factors": factors}}))?;
    sound("multi-vari", &format!("{factors:?}"), &sent(&computed));
    Ok(computed)
}

fn numbers(computed: &Computed, view: &View) -> Value {
    serde_json::to_value(computed.outcome(view).numbers).unwrap()
}

fn said(computed: &Computed) -> String {
    computed.notes.iter().map(|note| format!("{} {} ", note.sentence, note.detail.clone().unwrap_or_default())).collect()
}

/// Hours, pieces and readings with these sds; so many pieces an hour, and some readings a piece that are not always as many.
fn made(seed: u64, sds: [f64; 3], [hours, pieces]: [usize; 2]) -> Value {
    let mut random = Xoshiro256PlusPlus::seed_from_u64(seed);
    let mut draw = |sd: f64| -> f64 { sd * Distribution::<f64>::sample(&StandardNormal, &mut random) };
    let (mut hour, mut piece, mut wall) = (Vec::new(), Vec::new(), Vec::new());
    for h in 0..hours {
        let of_hour = draw(sds[0]);
        for p in 0..pieces {
            let of_piece = draw(sds[1]);
            for _ in 0..3 + (h + p) % 3 {
                hour.push(h);
                piece.push(p);
                wall.push(50.0 + of_hour + of_piece + draw(sds[2]));
            }
        }
    }
    json!({"hour": hour, "piece": piece, "wall": wall})
}

#[test]
fn the_interval_of_a_share_holds_the_truth_about_as_often_as_it_says() {
    let sds = [1.0, 2.0, 1.0];
    let truth = [1.0 / 6.0, 4.0 / 6.0, 1.0 / 6.0];
    let (mut held, runs) = ([0; 3], 120);
    for seed in 0..runs {
        let of = numbers(&split(&made(seed, sds, [10, 5]), &["hour", "piece"]).unwrap(), &View::ALL);
        for (place, truth) in truth.iter().enumerate() {
            let [low, high] = [0, 1].map(|end| of["families"][place]["share_ci95"][end].as_f64().unwrap());
            held[place] += u32::from((low..=high).contains(truth));
        }
    }
    // 95 of 100 is said; four sds of chance below it would be 87.
    assert!(held.iter().all(|held| f64::from(*held) > 0.87 * runs as f64), "{held:?} of {runs}");
}

#[test]
fn a_far_offset_costs_nothing_and_neither_does_the_order_of_rows() {
    let near = made(3, [1.0, 2.0, 1.0], [6, 4]);
    let shifted: Vec<f64> = near["wall"].as_array().unwrap().iter().map(|value| value.as_f64().unwrap() + 1e7).collect();
    let mut far = near.clone();
    far["wall"] = json!(shifted);
    for column in ["hour", "piece", "wall"] {
        far[column].as_array_mut().unwrap().reverse();
    }
    let variance = |columns: &Value| {
        let of = numbers(&split(columns, &["hour", "piece"]).unwrap(), &View::ALL);
        (0..3).map(|place| of["families"][place]["variance"].as_f64().unwrap()).collect::<Vec<_>>()
    };
    for (near, far) in variance(&near).iter().zip(variance(&far)) {
        assert!((near / far - 1.0).abs() < 1e-6, "{near} {far}");
    }
}

#[test]
fn what_cannot_be_told_is_said_and_what_to_do() {
    // One value a cell: measuring counts as the innermost factor.
    let one_each = json!({"hour": [1, 1, 2, 2, 3, 3], "piece": [1, 2, 1, 2, 1, 2], "wall": [1.0, 1.2, 3.0, 3.3, 2.0, 2.1]});
    let answer = split(&one_each, &["hour", "piece"]).unwrap();
    assert!(said(&answer).contains("measuring counts as piece"), "{}", said(&answer));
    assert_eq!(numbers(&answer, &View::ALL)["dominant"], json!("hour"));
    // The wrong way round: each piece has one hour.
    let own =
        json!({"hour": [1, 1, 1, 1, 2, 2, 2, 2], "piece": [1, 1, 2, 2, 3, 3, 4, 4], "wall": [1.0, 1.1, 2.0, 2.1, 5.0, 5.1, 6.0, 6.1]});
    let wrong = split(&own, &["piece", "hour"]).unwrap();
    assert!(said(&wrong).contains("put hour before piece"), "{}", said(&wrong));
    assert!(!said(&split(&own, &["hour", "piece"]).unwrap()).contains("before"));
    // Nothing to split.
    for (columns, words) in [
        (json!({"hour": [1, 1, 1], "wall": [1.0, 2.0, 3.0]}), "Too few to say"),
        (json!({"hour": [1, 1, 2, 2], "wall": [5.0, 5.0, 5.0, 5.0]}), "Nothing varies"),
        (json!({"hour": [1], "wall": [5.0]}), "Too few to say"),
    ] {
        let answer = split(&columns, &["hour"]).unwrap();
        assert_eq!((answer.verdict.title.as_str(), answer.next.len()), (words, 0), "{}", answer.verdict.sentence);
    }
    let twice = split(&one_each, &["hour", "hour"]).err().unwrap();
    assert!(matches!(&twice, StudyError::BadOption { option, .. } if option == "factors"), "{twice}");
    assert!(matches!(split(&json!({"hour": [1, 2], "wall": [null, null]}), &["hour"]), Err(StudyError::TooFewValues { .. })));
}

/// Positions of a mould that do the same in every piece; one mould high and hardly varying inside.
fn moulds() -> Value {
    let (mut mould, mut gate, mut wall) = (Vec::new(), Vec::new(), Vec::new());
    for m in 0..6_usize {
        for g in 0..5_usize {
            for k in 0..4_usize {
                mould.push(format!("mould {m}"));
                gate.push(["north", "east", "south", "west", "middle"][g]);
                let noise = ((m * 31 + g * 17 + k * 7) % 11) as f64 / 100.0;
                let position = if m == 2 { 0.0 } else { g as f64 };
                wall.push(10.0 + position + noise + if m == 2 { 9.0 } else { 0.0 });
            }
        }
    }
    json!({"mould": mould, "gate": gate, "wall": wall})
}

#[test]
fn a_level_that_is_high_and_hardly_varies_inside_is_named_and_crossed_factors_are_told() {
    let answer = split(&moulds(), &["mould", "gate"]).unwrap();
    let of = numbers(&answer, &View::ALL);
    let first = &of["standouts"][0];
    assert_eq!(first["levels"], json!(["mould 2"]));
    assert!(first["apart"].as_f64().unwrap() > 6.0 && first["spread"].as_f64().unwrap() < 0.1, "{first}");
    let words = said(&answer);
    assert!(words.contains("Mould 2 is high (+7.0") && words.contains("its gate hardly varies"), "{words}");
    assert!(words.contains("Gate is crossed with mould") && words.contains("do the same everywhere"), "{words}");
    // Gates that mean nothing outside their mould recur, but not alike.
    let own: Vec<usize> = (0..120).map(|row| (row / 4 * 7 + row / 20) % 5).collect();
    let mut turned = moulds();
    turned["wall"] = json!((0..120).map(|row| 10.0 + own[row] as f64 + f64::from(row as u32 % 4) / 50.0).collect::<Vec<_>>());
    assert!(said(&split(&turned, &["mould", "gate"]).unwrap()).contains("The labels of gate recur"));
    assert_eq!((&of["factors"][1]["arrangement"], &of["factors"][1]["ends"][0]["label"]), (&json!("crossed"), &json!("middle")));
    // Where all levels differ alike none of them stands out.
    // Taking out what the gates do everywhere leaves the moulds.
    let rest = &of["without"]["families"];
    assert!(of["families"][0]["share"].as_f64() < rest[0]["share"].as_f64() && of["without"]["factor"] == "gate", "{rest}");
    // Five gates have used four degrees of freedom.
    let df = |families: &Value| families[1]["df"].as_f64().unwrap();
    assert_eq!((df(&of["families"]), df(rest)), (24.0, 20.0));
    // What is said of an hour is no surer than how the others lie to each other makes it.
    let base = [0.0, 0.1, 0.2, 5.0, 0.1, 0.05];
    let hours = json!({
        "hour": (0..24).map(|row| row / 4).collect::<Vec<_>>(),
        "wall": (0..24).map(|row| base[row / 4] + [-0.01, 0.01, -0.02, 0.02][row % 4]).collect::<Vec<_>>(),
    });
    let others = [0.0, 0.1, 0.2, 0.1, 0.05];
    let middle = others.iter().sum::<f64>() / 5.0;
    let sd = (others.iter().map(|mean| (mean - middle).powi(2)).sum::<f64>() / 4.0).sqrt();
    let outlying = 12.0 * acorn_maths::tails::t_beyond((5.0 - middle) / (sd * 1.2_f64.sqrt()), 4.0);
    let alone = numbers(&split(&hours, &["hour"]).unwrap(), &View::ALL)["standouts"].clone();
    assert!(alone.as_array().unwrap().len() == 1 && (alone[0]["p"].as_f64().unwrap() / outlying - 1.0).abs() < 1e-6, "{alone} {outlying}");
    let even = json!({"hour": [1, 1, 2, 2, 3, 3, 4, 4, 5, 5], "wall": [1.0, 1.1, 2.0, 2.1, 3.0, 3.1, 4.0, 4.1, 5.0, 5.1]});
    assert_eq!(numbers(&split(&even, &["hour"]).unwrap(), &View::ALL)["standouts"], json!([]));
}

#[test]
fn many_cells_are_sent_as_bands_and_opened_by_going_closer() {
    let hour: Vec<usize> = (0..4000).map(|i| i / 8).collect();
    let piece: Vec<usize> = (0..4000).map(|i| i / 2 % 4).collect();
    let wall: Vec<f64> = (0..4000).map(|i| f64::from(i % 13) + if i == 1700 { 90.0 } else { 0.0 }).collect();
    let answer = split(&json!({"hour": hour, "piece": piece, "wall": wall}), &["hour", "piece"]).unwrap();
    let whole = numbers(&answer, &View { first: None, last: None, points: Some(100) });
    assert_eq!((&whole["total"], whole["cells"].as_array().unwrap().len()), (&json!(2000), 0));
    let bands = whole["bands"].as_array().unwrap();
    assert!(bands.len() == 100 && bands.iter().any(|band| band["high"].as_f64() > Some(80.0)), "no extreme is lost");
    assert!(whole["groups"][0].as_array().unwrap().is_empty(), "500 groups are too many to draw");
    let close = numbers(&answer, &View { first: Some(840), last: Some(859), points: Some(100) });
    assert_eq!((close["cells"].as_array().unwrap().len(), &close["cells"][10]["levels"]), (20, &json!(["212", "2"])));
    assert_eq!(
        (close["cells"][10]["values"].as_array().unwrap().len(), answer.row_stretches(Some(850), Some(850))),
        (2, vec![[1700, 1701]])
    );
}

#[test]
fn the_order_is_proposed_from_what_lies_within_what() {
    let columns = json!({
        "wall": [1.1, 1.2, 1.3, 1.4, 1.5, 1.6, 1.7, 1.8], "position": ["gate", "rim", "gate", "rim", "gate", "rim", "gate", "rim"],
        "piece": [1, 1, 2, 2, 3, 3, 4, 4], "day": ["mo", "mo", "mo", "mo", "tu", "tu", "tu", "tu"], "id": [1, 2, 3, 4, 5, 6, 7, 8],
    });
    let spec: Spec = serde_json::from_value(json!({"method": "multi-vari"})).unwrap();
    let advice = methods::named(&spec.method).unwrap().advise(&frame(&columns, &[]), &Default::default());
    let proposal = advice.proposal.unwrap();
    assert_eq!(proposal.roles["factors"].names(), ["day", "piece", "position"]);
    assert!(proposal.why.contains("day changes least often"), "{}", proposal.why);
    let of = serde_json::from_value(json!({"method": "multi-vari", "roles": proposal.roles})).unwrap();
    assert!(methods::compute(&frame(&columns, &[]), &of, &Cancel::default()).is_ok());
}

/// The projection onto what some labels tell apart: 1/n of a group between its rows.
fn projection(labels: &[usize]) -> Vec<Vec<f64>> {
    let many = |label: usize| labels.iter().filter(|other| **other == label).count() as f64;
    labels.iter().map(|a| labels.iter().map(|b| if a == b { 1.0 / many(*a) } else { 0.0 }).collect()).collect()
}

#[test]
fn components_are_those_of_the_expected_mean_squares_worked_out_with_whole_matrices() {
    let columns = made(12, [2.0, 1.5, 1.0], [4, 3]);
    let list = |name: &str| columns[name].as_array().unwrap().iter().map(|value| value.as_f64().unwrap()).collect::<Vec<_>>();
    let (hour, piece, wall) = (list("hour"), list("piece"), list("wall"));
    let n = wall.len();
    let levels: Vec<Vec<usize>> = vec![
        vec![0; n],
        hour.iter().map(|hour| *hour as usize).collect(),
        hour.iter().zip(&piece).map(|(hour, piece)| 10 * *hour as usize + *piece as usize).collect(),
        (0..n).collect(),
    ];
    let projections: Vec<_> = levels.iter().map(|labels| projection(labels)).collect();
    let apart =
        |j: usize| -> Vec<Vec<f64>> { (0..n).map(|a| (0..n).map(|b| projections[j][a][b] - projections[j - 1][a][b]).collect()).collect() };
    // Σ of A over rows that share a label is the trace of A Z Z'.
    let trace = |a: &[Vec<f64>], labels: &[usize]| -> f64 {
        (0..n).map(|i| (0..n).filter(|k| labels[*k] == labels[i]).map(|k| a[i][k]).sum::<f64>()).sum()
    };
    let square = |a: &[Vec<f64>]| -> f64 { (0..n).map(|i| (0..n).map(|k| wall[i] * a[i][k] * wall[k]).sum::<f64>()).sum() };
    let mut variances = [0.0; 4];
    for j in (1..4).rev() {
        let a = apart(j);
        let inside: f64 = (j + 1..4).map(|m| trace(&a, &levels[m]) * variances[m]).sum();
        variances[j] = (square(&a) - inside) / trace(&a, &levels[j]);
    }
    let of = numbers(&split(&columns, &["hour", "piece"]).unwrap(), &View::ALL);
    for (place, want) in variances[1..].iter().enumerate() {
        let found = of["families"][place]["variance"].as_f64().unwrap();
        assert!(*want > 0.0 && (found / want - 1.0).abs() < 1e-8, "{place}: {found} {want}");
    }
}

#[test]
fn the_gauge_has_its_share_of_the_innermost_family() {
    let columns = made(5, [0.1, 0.2, 1.0], [6, 4]);
    let ask_with = |sd: f64| {
        let plain = frame(&columns, &[]);
        let measured = plain.columns().iter().map(|column| Column {
            measuring: (column.name == "wall").then(|| Measuring { gauge: "Depth gauge".into(), sd, day: "2026-05-04".into() }),
            ..column.clone()
        });
        let frame = Frame::new(measured.collect(), None).unwrap();
        ask(&frame, &json!({"method": "multi-vari", "roles": {"measure": "wall", "factors": ["hour", "piece"]}})).unwrap()
    };
    let small = ask_with(0.3);
    let of = numbers(&small, &View::ALL);
    let within = of["families"][2]["variance"].as_f64().unwrap();
    assert!((of["measuring"]["share"].as_f64().unwrap() - 0.09 / within).abs() < 1e-12 && of["measuring"]["family"] == "within");
    assert!(
        said(&small).contains("of within is measuring (Depth gauge)") && small.verdict.title == "Mostly within",
        "{}",
        small.verdict.title
    );
    let large = ask_with(0.9);
    assert_eq!(large.verdict.title, "Mostly measuring");
    // More than there is to see is all of it.
    assert_eq!(numbers(&ask_with(5.0), &View::ALL)["measuring"]["share"], json!(1.0));
    assert!(numbers(&split(&columns, &["hour"]).unwrap(), &View::ALL)["measuring"].is_null());
}

#[test]
fn levels_stand_in_their_own_order_and_those_without_a_row_are_no_levels() {
    let columns = json!({
        "press": [10, 10, 9, 9, 10, 9], "gate": ["west", "east", "west", "east", "west", "east"],
        "at": [95, 95, 8, 8, 95, 8],
        "wall": [5.0, 4.0, 3.0, 2.0, null, 1.0],
    });
    let of = numbers(&split(&columns, &["press", "gate"]).unwrap(), &View::ALL);
    let order: Vec<&Value> = of["cells"].as_array().unwrap().iter().map(|cell| &cell["levels"]).collect();
    // Numbers by size, words by their first appearance.
    assert_eq!(order, [&json!(["9", "west"]), &json!(["9", "east"]), &json!(["10", "west"]), &json!(["10", "east"])]);
    assert_eq!(
        (&of["missing"], &of["cells"][1]["n"], &of["cells"][1]["mean"], &of["single"]),
        (&json!(1), &json!(2), &json!(1.5), &json!(false))
    );
    let by_time = json!({"method": "multi-vari", "roles": {"measure": "wall", "factors": ["at"]}});
    let moments = numbers(&ask(&timed(&frame(&columns, &[]), "at"), &by_time).unwrap(), &View::ALL);
    assert_eq!([0, 1].map(|cell| &moments["cells"][cell]["levels"][0]), ["2026-05-04 00:08", "2026-05-04 01:35"]);
    // Narrowed to one press, the other is no level, and nothing is crossed with it.
    let narrowed = json!({"method": "multi-vari", "roles": {"measure": "wall", "factors": ["press", "gate"]}, "only": [{"column": "press", "labels": ["9"]}]});
    let only = numbers(&ask(&frame(&columns, &[]), &narrowed).unwrap(), &View::ALL);
    assert_eq!((&only["factors"][0]["labels"], &only["factors"][1]["arrangement"]), (&json!(1), &json!("nested")));
}

#[test]
fn more_combinations_than_a_list_holds_are_gathered_by_key_just_the_same() {
    let n = 3000_usize;
    let label = |row: usize, salt: usize| (row * salt + row / 211 * (salt + 2)) % 211;
    let columns = json!({
        "a": (0..n).map(|row| label(row, 7)).collect::<Vec<_>>(), "b": (0..n).map(|row| label(row, 11)).collect::<Vec<_>>(),
        "c": (0..n).map(|row| label(row, 13)).collect::<Vec<_>>(), "wall": (0..n).map(|row| row as f64).collect::<Vec<_>>(),
    });
    let mut want: std::collections::BTreeMap<[usize; 3], Vec<f64>> = Default::default();
    (0..n).for_each(|row| want.entry([7, 11, 13].map(|salt| label(row, salt))).or_default().push(row as f64));
    let of = numbers(&split(&columns, &["a", "b", "c"]).unwrap(), &View::ALL);
    let cells = of["cells"].as_array().unwrap();
    assert_eq!((cells.len(), &of["factors"][2]["labels"]), (want.len(), &json!(211)));
    for (cell, (levels, values)) in cells.iter().zip(&want) {
        let mean = values.iter().sum::<f64>() / values.len() as f64;
        assert_eq!(cell["levels"], json!(levels.map(|level| level.to_string())));
        assert!((cell["mean"].as_f64().unwrap() - mean).abs() < 1e-9 && cell["n"] == values.len());
    }
    // A label of its own for each of very many rows makes too many.
    let many = json!({"row": (0..200_001).collect::<Vec<_>>(), "wall": vec![1.0; 200_001]});
    assert!(matches!(split(&many, &["row"]), Err(StudyError::TooManyGroups(_))));
}

#[test]
fn levels_seldom_stand_out_where_nothing_does() {
    let runs = 100;
    let found = (0..runs).filter(|seed| {
        let of = numbers(&split(&made(1000 + seed, [1.0, 1.0, 1.0], [8, 4]), &["hour", "piece"]).unwrap(), &View::ALL);
        !of["standouts"].as_array().unwrap().is_empty()
    });
    // Two levels with two tests each, at 0.05 for each of them.
    let found = found.count();
    assert!(found < 25, "{found} of {runs}");
}

#[test]
fn values_that_are_equal_because_they_are_read_coarsely_do_not_stand_out() {
    let n = 400_usize;
    let mut random = Xoshiro256PlusPlus::seed_from_u64(77);
    let mut draw = || -> f64 { Distribution::<f64>::sample(&StandardNormal, &mut random) };
    let columns = json!({
        "piece": (0..n).map(|row| row / 2).collect::<Vec<_>>(),
        "wall": (0..n).map(|_| (draw() * 10.0).round() / 10.0).collect::<Vec<_>>(),
    });
    let of = numbers(&split(&columns, &["piece"]).unwrap(), &View::ALL);
    let equal = of["cells"].as_array().unwrap().iter().filter(|cell| cell["low"] == cell["high"]).count();
    assert!(equal > 2 && of["standouts"] == json!([]), "{equal} {}", of["standouts"]);
}

#[test]
fn one_factor_is_a_comparison_of_its_levels_and_squares_add_up_whatever_the_order() {
    let columns = made(8, [1.0, 1.0, 1.0], [5, 3]);
    let single = numbers(&split(&columns, &["hour"]).unwrap(), &View::ALL);
    let compared = ask(&frame(&columns, &[]), &json!({"method": "compare", "roles": {"measure": "wall", "group": "hour"}})).unwrap();
    let anova = numbers(&compared, &View::ALL)["anova"].clone();
    let [found, want] = [&single["families"][0]["p"], &anova["p"]].map(|p| p.as_f64().unwrap());
    assert!((found / want - 1.0).abs() < 1e-9, "{found} {want}");
    let squares = |factors: &[&str]| -> f64 {
        let of = numbers(&split(&columns, factors).unwrap(), &View::ALL);
        let families = of["families"].as_array().unwrap();
        let largest: f64 = families.iter().map(|family| family["largest"].as_f64().unwrap()).sum();
        let shares: f64 = families.iter().map(|family| family["share"].as_f64().unwrap()).sum();
        assert!((largest - 1.0).abs() < 1e-9 && (shares - 1.0).abs() < 1e-9, "{factors:?}: {largest} {shares}");
        families.iter().map(|family| family["ss"].as_f64().unwrap()).sum()
    };
    let values: Vec<f64> = columns["wall"].as_array().unwrap().iter().map(|value| value.as_f64().unwrap()).collect();
    let mean = values.iter().sum::<f64>() / values.len() as f64;
    let total: f64 = values.iter().map(|value| (value - mean).powi(2)).sum();
    for factors in [&["hour"][..], &["piece"], &["hour", "piece"], &["piece", "hour"]] {
        assert!((squares(factors) / total - 1.0).abs() < 1e-10, "{factors:?}");
    }
}

#[test]
fn a_level_leads_to_its_rows_and_the_dominant_factor_to_the_questions_about_its_levels() {
    let columns = made(4, [3.0, 0.3, 0.5], [6, 3]);
    let answer = split(&columns, &["hour", "piece"]).unwrap();
    let of = numbers(&answer, &View::ALL);
    let hours: Vec<i64> = columns["hour"].as_array().unwrap().iter().map(|hour| hour.as_i64().unwrap()).collect();
    for group in of["groups"][0].as_array().unwrap() {
        let [first, last] = ["first", "last"].map(|end| group[end].as_u64().unwrap() as usize);
        let rows: Vec<i64> = answer.row_stretches(Some(first), Some(last)).iter().flat_map(|[first, last]| *first..=*last).collect();
        let hour: i64 = group["label"].as_str().unwrap().parse().unwrap();
        let own: Vec<i64> = (0..hours.len()).filter(|row| hours[*row] == hour).map(|row| row as i64).collect();
        assert_eq!(rows, own);
    }
    assert_eq!((answer.verdict.title.as_str(), &of["dominant"]), ("Mostly hour", &json!("hour")));
    assert!(answer.verdict.sentence.contains("over time: wear, shifts, warm-up"), "{}", answer.verdict.sentence);
    let asked: Vec<_> = answer
        .next
        .iter()
        .map(|next| (next.method.as_deref().unwrap_or_default(), next.roles.keys().any(|role| role != "measure")))
        .collect();
    assert_eq!(asked[..3], [("compare", true), ("control-chart", true), ("indices", true)]);
    for next in answer.next.iter().filter(|next| next.method.is_some()) {
        let spec = json!({"method": next.method, "roles": next.roles, "options": next.options});
        assert!(ask(&frame(&columns, &[("wall", Some(40.0), Some(60.0))]), &spec).is_ok(), "{}", next.question);
    }
    // What is nearly level is not said to be sure.
    let level = split(&made(9, [1.0, 1.0, 1.0], [5, 4]), &["hour", "piece"]).unwrap();
    assert!(!level.verdict.title.starts_with("Mostly"), "{}", level.verdict.sentence);
}

#[test]
fn empty_combinations_and_missing_labels_are_left_out_and_the_long_table_has_every_cell() {
    let columns = json!({
        "hour": [1, 1, 1, 2, 2, 2, 3, null], "piece": ["a", "a", "b", "a", "b", "b", "b", "a"],
        "wall": [1.0, 1.2, 3.0, 2.0, null, 4.0, 5.0, 9.0],
    });
    let answer = split(&columns, &["hour", "piece"]).unwrap();
    let of = numbers(&answer, &View::ALL);
    let cells: Vec<(String, u64)> =
        of["cells"].as_array().unwrap().iter().map(|cell| (cell["levels"].to_string(), cell["n"].as_u64().unwrap())).collect();
    let want = [("[\"1\",\"a\"]", 2), ("[\"1\",\"b\"]", 1), ("[\"2\",\"a\"]", 1), ("[\"2\",\"b\"]", 1), ("[\"3\",\"b\"]", 1)];
    assert_eq!(cells, want.map(|(levels, n)| (levels.to_owned(), n)));
    assert_eq!((&of["missing"], &of["n"], &of["cells"][1]["sd"], &of["extent"]), (&json!(2), &json!(6), &Value::Null, &json!([1.0, 5.0])));
    assert!(said(&answer).contains("2 rows lack a value or a label"), "{}", said(&answer));
    let table = answer.table("points").unwrap();
    let heads: Vec<&str> = table.columns.iter().map(|column| column.label.as_str()).collect();
    assert_eq!((table.rows(), heads), (5, vec!["hour", "piece", "values", "mean", "sd", "smallest", "largest"]));
    let families = answer.table("families").unwrap();
    assert_eq!((families.rows(), families.columns[0].label.as_str()), (3, "family"));
    // A thousand levels of one factor alone.
    let long = json!({"lot": (0..3000).map(|row| row / 3).collect::<Vec<_>>(), "wall": (0..3000).map(|row| f64::from(row / 3 % 17) + f64::from(row % 3)).collect::<Vec<_>>()});
    let many = split(&long, &["lot"]).unwrap();
    let sent = numbers(&many, &View { points: Some(300), ..View::ALL });
    assert_eq!((&sent["total"], sent["bands"].as_array().unwrap().len(), &sent["groups"]), (&json!(1000), 250, &json!([])));
    assert_eq!(many.verdict.title, "Mostly lot");
    assert!(many.next.iter().all(|next| next.method.as_deref() != Some("compare")), "a thousand lots are not compared in pairs");
}
