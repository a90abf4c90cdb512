//! Tables made of tables, by hand.

use acorn_data::frame::Frame;
use acorn_data::reshape::{Reshape, ReshapeError, reshape};
use serde_json::{Value, json};

fn frame(columns: Value) -> Frame {
    Frame::from_json(columns.as_object().unwrap()).unwrap()
}

fn made(table: &Frame, other: Option<&Frame>, how: Value) -> Result<(Vec<String>, usize), ReshapeError> {
    let how: Reshape = serde_json::from_value(how).unwrap();
    let made = reshape(table, other, &how)?;
    let line = |column: &acorn_data::frame::Column| {
        let cells: Vec<String> = (0..column.values.len()).map(|row| column.values.text(row).unwrap_or("·".into())).collect();
        format!("{}: {}", column.name, cells.join(" "))
    };
    Ok((made.columns.iter().map(line).collect(), made.unmatched))
}

#[test]
fn what_is_stacked_comes_back_when_it_is_unstacked() {
    let wide = frame(json!({"lamp": ["L1", "L2"], "left": [1.5, 2.5], "right": [3.5, null]}));
    let stack = json!({"how": "stack", "columns": ["left", "right"], "label": "side", "value": "flux"});
    let (lines, _) = made(&wide, None, stack.clone()).unwrap();
    assert_eq!(lines, ["lamp: L1 L1 L2 L2", "side: left right left right", "flux: 1.5 3.5 2.5 ·"]);
    let long = frame(json!({"lamp": ["L1", "L1", "L2", "L2"], "side": ["left", "right", "left", null], "flux": [1.5, 3.5, 2.5, 9]}));
    let unstack = json!({"how": "unstack", "label": "side", "value": "flux"});
    assert_eq!(made(&long, None, unstack.clone()).unwrap().0, ["lamp: L1 L2", "left: 1.5 2.5", "right: 3.5 ·"]);
    let twice = frame(json!({"lamp": ["L1", "L1"], "side": ["left", "left"], "flux": [1.5, 3.5]}));
    let problem = made(&twice, None, unstack).unwrap_err().to_string();
    assert_eq!(problem, "flux of side left comes twice for L1: in rows 1 and 2; a column that tells them apart is missing");
    let mixed = frame(json!({"left": [1.5], "right": ["a"]}));
    assert_eq!(
        made(&mixed, None, stack.clone()).unwrap_err().to_string(),
        "“left” is a number and “right” a category; they cannot stand in one column"
    );
    let named_twice = json!({"how": "stack", "columns": ["left", "right"], "label": "lamp", "value": "flux"});
    assert!(made(&wide, None, named_twice).unwrap_err().to_string().contains("two columns would be called “lamp”"));
    assert!(made(&frame(json!({"left": [1], "right": [2]})), None, stack).is_ok());
}

#[test]
fn rows_are_joined_by_a_key_that_names_one_row() {
    let readings = frame(json!({"reel": ["R1", "R2", "R1", null], "flux": [1.5, 2.5, 3.5, 4.5]}));
    let reels = frame(json!({"code": ["R1", "R3"], "maker": ["Fen", "Hollow"], "flux": [7, 8]}));
    let join = json!({"how": "join", "by": [["reel", "code"]], "bring": ["maker", "flux"]});
    let (lines, unmatched) = made(&readings, Some(&reels), join.clone()).unwrap();
    assert_eq!((&lines[2..], unmatched), (&["maker: Fen · Fen ·".to_owned(), "flux 2: 7 · 7 ·".into()][..], 2));
    let twice = frame(json!({"code": ["R1", "R1"], "maker": ["Fen", "Hollow"], "flux": [7, 8]}));
    let problem = made(&readings, Some(&twice), join.clone()).unwrap_err().to_string();
    assert_eq!(problem, "“R1” comes twice in the other table, in rows 1 and 2; a key names one row there");
    assert_eq!(made(&readings, None, join).unwrap_err().to_string(), "a join needs another table");
    // A number here may be a label there.
    let numbers = frame(json!({"reel": [1, 2]}));
    let labels = frame(json!({"code": ["2", "1"], "maker": ["Fen", "Hollow"]}));
    let by_text = json!({"how": "join", "by": [["reel", "code"]], "bring": ["maker"]});
    assert_eq!(made(&numbers, Some(&labels), by_text).unwrap().0[1], "maker: Hollow Fen");
}

#[test]
fn groups_are_summed_up_without_what_is_missing() {
    let table = frame(json!({"bench": ["A", "B", "A", "A", null], "flux": [1, 5, 2, null, 7], "kind": ["x", "y", null, "x", "x"]}));
    let numbers = ["count", "missing", "mean", "sd", "min", "max", "range", "median", "sum"];
    let how = json!({"how": "summary", "by": ["bench"], "of": ["flux", "kind"], "numbers": numbers});
    let (lines, _) = made(&table, None, how).unwrap();
    let wanted = [
        "bench: A B ·",
        "flux count: 2 1 1",
        "flux missing: 1 0 0",
        "flux mean: 1.5 5 7",
        "flux sd: 0.7071067811865476 · ·",
        "flux min: 1 5 7",
        "flux max: 2 5 7",
        "flux range: 1 0 0",
        "flux median: 1.5 5 7",
        "flux sum: 3 5 7",
        "kind count: 2 1 1",
        "kind missing: 1 0 0",
    ];
    assert_eq!(lines, wanted);
    let nothing = json!({"how": "summary", "by": [], "of": ["flux"], "numbers": ["mean"]});
    assert_eq!(made(&table, None, nothing).unwrap_err().to_string(), "choose the columns that make the groups");
    let unknown = json!({"how": "summary", "by": ["rig"], "of": ["flux"], "numbers": ["mean"]});
    assert_eq!(made(&table, None, unknown).unwrap_err().to_string(), "there is no column “rig”");
    // Huge values have no NaN or infinity as their sum.
    let huge = frame(json!({"bench": ["A", "A"], "flux": [1.7e308, 1.7e308]}));
    let sum = json!({"how": "summary", "by": ["bench"], "of": ["flux"], "numbers": ["sum", "count"]});
    assert_eq!(made(&huge, None, sum).unwrap().0[1..], ["flux sum: ·", "flux count: 2"]);
}
