//! Dependence against counting and the definitions, and on what a table may hold.

mod exact;

use acorn_core::methods::Computed;
use acorn_study::{StudyError, Tone, View};
use acorn_testing::{ask, frame, sent, sound};
use rand::{RngExt, SeedableRng};
use rand_xoshiro::Xoshiro256PlusPlus;
use serde_json::{Value, json};

fn depends(columns: &Value, roles: &Value, options: &Value) -> Result<Computed, StudyError> {
    let computed = ask(&frame(columns, &[]), &json!({"method": "association", "roles": roles, "options": options}))?;
    sound("association", &options.to_string(), &sent(&computed));
    Ok(computed)
}

fn of_table(counts: &Value) -> Computed {
    let rows: Vec<String> = (0..counts.as_array().unwrap().len()).map(|row| format!("bench {row}")).collect();
    let columns: Vec<String> = (0..counts[0].as_array().unwrap().len()).map(|column| format!("flaw {column}")).collect();
    depends(&json!({}), &json!({}), &json!({"table": {"rows": rows, "columns": columns, "counts": counts}})).unwrap()
}

fn numbers(computed: &Computed) -> Value {
    serde_json::to_value(computed.outcome(&View::ALL).numbers).unwrap()
}

fn notes(computed: &Computed) -> String {
    computed.notes.iter().map(|note| format!("{} {}\n", note.sentence, note.detail.clone().unwrap_or_default())).collect()
}

/// Rows of labels, so many of each.
fn log(cells: &[(&str, &str, &str, usize)]) -> Value {
    let rows: Vec<_> = cells.iter().flat_map(|(a, b, c, n)| vec![(*a, *b, *c); *n]).collect();
    let of = |get: fn(&(&str, &str, &str)) -> String| rows.iter().map(get).collect::<Vec<_>>();
    json!({"bench": of(|row| row.0.to_owned()), "flaw": of(|row| row.1.to_owned()), "shift": of(|row| row.2.to_owned())})
}

fn roles() -> Value {
    json!({"row": "bench", "column": "flaw"})
}

#[test]
fn a_log_is_tabled_as_by_counting_whatever_is_missing() {
    let mut random = Xoshiro256PlusPlus::seed_from_u64(12);
    let label = |random: &mut Xoshiro256PlusPlus, of: &str, n: u32| {
        let at: u32 = random.random_range(0..n + 1);
        if at == n { Value::Null } else { json!(format!("{of}{at}")) }
    };
    let bench: Vec<Value> = (0..900).map(|_| label(&mut random, "B", 4)).collect();
    let flaw: Vec<Value> = (0..900).map(|_| label(&mut random, "F", 5)).collect();
    let n: Vec<u32> = (0..900).map(|_| random.random_range(0..4)).collect();
    let roles = json!({"row": "bench", "column": "flaw", "count": "n"});
    let of = numbers(&depends(&json!({"bench": bench, "flaw": flaw, "n": n}), &roles, &json!({})).unwrap());
    let mut total = 0.0;
    for (r, row) in of["rows"].as_array().unwrap().iter().enumerate() {
        for (c, column) in of["columns"].as_array().unwrap().iter().enumerate() {
            let want: u32 = (0..900).filter(|&i| bench[i] == *row && flaw[i] == *column).map(|i| n[i]).sum();
            assert_eq!(of["observed"][r][c].as_f64(), Some(f64::from(want)));
            total += f64::from(want);
        }
    }
    assert_eq!(of["total"].as_f64(), Some(total));
    let lost = (0..900).filter(|&i| bench[i].is_null() || flaw[i].is_null()).count();
    assert_eq!(of["missing"].as_u64(), Some(lost as u64));
    let first = (0..900).find(|&i| !bench[i].is_null() && !flaw[i].is_null()).unwrap();
    assert_eq!((&of["rows"][0], &of["columns"][0]), (&bench[first], &flaw[first]), "in the order of first appearance");
}

#[test]
fn the_verdict_names_the_cell_and_a_fair_table_is_not_blamed() {
    let blamed = of_table(&json!([[60, 20, 22], [58, 24, 19], [31, 80, 20]]));
    assert_eq!((blamed.verdict.tone, blamed.verdict.title.as_str()), (Tone::Caution, "It depends"));
    assert!(blamed.verdict.sentence.contains("bench 2 has more flaw 1 than expected: 80 against 48.6"), "{}", blamed.verdict.sentence);
    assert!(notes(&blamed).contains("fewer flaw 0 of bench 2"), "{}", notes(&blamed));
    let fair = of_table(&json!([[60, 20, 22], [58, 24, 19], [61, 23, 20]]));
    assert_eq!((fair.verdict.tone, fair.verdict.title.as_str()), (Tone::Calm, "No dependence shown"));
    // The same table decided at another alpha.
    let near = json!({"rows": ["a", "b"], "columns": ["x", "y"], "counts": [[40, 60], [55, 45]]});
    let at = |alpha: f64| depends(&json!({}), &json!({}), &json!({"table": near, "alpha": alpha})).unwrap().verdict.title;
    assert_eq!([at(0.05), at(0.01)], ["It depends", "No dependence shown"]);
}

#[test]
fn too_few_expected_is_said_and_the_exact_chance_taken_and_empty_ones_are_left_out() {
    let few = of_table(&json!([[3, 1, 4], [2, 6, 1], [5, 2, 3]]));
    let said = notes(&few);
    assert!(said.contains("χ² may not be used: 9 of 9 cells expect fewer than 5 (the least 2.4)"), "{said}");
    // Every table of these totals, added up in Python.
    let p = numbers(&few)["exact_p"].as_f64().unwrap();
    assert!((p - 0.154_987_888_089_971).abs() < 1e-9, "{p}");
    assert!(few.verdict.sentence.contains(&format!("exact p = {p:.3}")), "{}", few.verdict.sentence);
    // Two of four cells are more than one in five.
    assert_eq!(numbers(&of_table(&json!([[7, 4], [1, 9]])))["valid"], false);
    let large = numbers(&of_table(&json!((0..9).map(|i| vec![i % 3 + 1, 4 - i % 4, 2, 1, 40 + i]).collect::<Vec<_>>())));
    let (p, error, draws) =
        (large["exact_p"].as_f64().unwrap(), large["exact_error"].as_f64().unwrap(), large["exact_draws"].as_f64().unwrap());
    assert!(draws >= 2000.0 && (error - (p * (1.0 - p) / draws).sqrt()).abs() < 1e-12);
    // A row and a column without counts change nothing but are named.
    let whole = numbers(&of_table(&json!([[20, 9], [14, 22]])));
    let gaps = of_table(&json!([[20, 0, 9], [0, 0, 0], [14, 0, 22]]));
    let of = numbers(&gaps);
    assert_eq!((&of["chi2"], &of["df"], &of["p"], &of["valid"]), (&whole["chi2"], &whole["df"], &whole["p"], &whole["valid"]));
    assert!(of["residual"][1][0].is_null() && notes(&gaps).contains("bench 1 and flaw 1 hold nothing"), "{}", notes(&gaps));
    for nothing in [json!([[3, 4]]), json!([[0, 0], [0, 0]]), json!([[5, 0], [7, 0]])] {
        assert_eq!(of_table(&nothing).verdict.title, "Nothing to compare", "{nothing}");
    }
}

#[test]
fn a_third_column_tells_when_the_whole_hides_or_makes_up_what_its_parts_show() {
    let layered = json!({"row": "bench", "column": "flaw", "layer": "shift"});
    let ask = |cells: &[(&str, &str, &str, usize)]| {
        let computed = depends(&log(cells), &layered, &json!({})).unwrap();
        (numbers(&computed)["within"]["reversed"].clone(), notes(&computed))
    };
    // Bench A is better on each shift, but works at night, when more fails.
    let (how, said) = ask(&[
        ("A", "bad", "night", 90),
        ("A", "good", "night", 210),
        ("B", "bad", "night", 24),
        ("B", "good", "night", 26),
        ("A", "bad", "early", 2),
        ("A", "good", "early", 48),
        ("B", "bad", "early", 38),
        ("B", "good", "early", 262),
    ]);
    assert_eq!(how["how"], "turned", "{how} {said}");
    assert!(said.contains("the other way round: A has fewer bad than expected"), "{said}");
    let (how, said) = ask(&[
        ("A", "bad", "night", 60),
        ("A", "good", "night", 60),
        ("B", "bad", "night", 10),
        ("B", "good", "night", 10),
        ("A", "bad", "early", 2),
        ("A", "good", "early", 18),
        ("B", "bad", "early", 12),
        ("B", "good", "early", 108),
    ]);
    assert_eq!((&how["how"], said.contains("shift may be what makes the whole depend")), (&json!("only-whole"), true), "{said}");
    let (how, said) = ask(&[
        ("A", "bad", "night", 40),
        ("A", "good", "night", 10),
        ("B", "bad", "night", 10),
        ("B", "good", "night", 40),
        ("A", "bad", "early", 10),
        ("A", "good", "early", 40),
        ("B", "bad", "early", 40),
        ("B", "good", "early", 10),
    ]);
    assert_eq!((&how["how"], said.contains("the whole hides")), (&json!("only-within"), true), "{said}");
}

#[test]
fn many_labels_are_drawn_as_one_and_a_cell_opens_its_own_rows() {
    let n = 6000_usize;
    let columns = json!({
        "bench": (0..n).map(|i| format!("B{}", i % 2)).collect::<Vec<_>>(),
        "flaw": (0..n).map(|i| format!("F{}", (i * i / 7 + i / 3) % 200)).collect::<Vec<_>>(),
    });
    let wide = depends(&columns, &roles(), &json!({})).unwrap();
    let of = numbers(&wide);
    let kinds = of["columns"].as_array().unwrap().len();
    assert!(kinds > 100 && of["drawn"]["columns"].as_array().unwrap().len() == 12);
    assert_eq!((&of["drawn"]["total"], &of["drawn"]["columns"][11]), (&json!(n as f64), &json!(format!("{} others", kinds - 11))));
    // Told apart are the most frequent ones.
    let mut totals: Vec<f64> = of["column_totals"].as_array().unwrap().iter().map(|total| total.as_f64().unwrap()).collect();
    totals.sort_by(|a, b| b.total_cmp(a));
    assert_eq!(of["drawn"]["column_totals"][11].as_f64(), Some(totals[11..].iter().sum::<f64>()));
    assert!(notes(&wide).contains("are drawn as one"));
    // The cell of the second row and the third column.
    let cell = kinds + 2;
    let rows = wide.answer.rows(cell, cell);
    assert!(!rows.is_empty());
    let is_meant = |i: usize| columns["bench"][i] == of["rows"][1] && columns["flaw"][i] == of["columns"][2];
    assert_eq!(rows, (0..n).filter(|&i| is_meant(i)).map(|i| i as i64).collect::<Vec<_>>());
    let many = json!({
        "bench": (0..n).map(|i| format!("B{}", i % 1500)).collect::<Vec<_>>(), "flaw": (0..n).map(|i| format!("F{}", i % 1200)).collect::<Vec<_>>(),
    });
    let folded = depends(&many, &roles(), &json!({})).unwrap();
    assert!(notes(&folded).contains("rare rows and") && notes(&folded).contains("count as one"), "{}", notes(&folded));
    assert_eq!(numbers(&folded)["total"].as_f64(), Some(n as f64));
}

#[test]
fn what_is_no_count_or_no_second_column_is_refused_in_words() {
    let columns = json!({"bench": ["A", "B"], "flaw": ["x", "y"], "n": [3, -1], "half": [0.5, 1.0]});
    let words = |roles: Value| depends(&columns, &roles, &json!({})).err().unwrap().to_string();
    assert!(words(json!({"row": "bench", "column": "flaw", "count": "n"})).contains("row 2: -1 is no count"));
    assert!(words(json!({"row": "bench", "column": "flaw", "count": "half"})).contains("row 1: 0.5 is no count"));
    assert!(words(json!({"row": "bench", "column": "bench"})).contains("same column stands twice"));
}
