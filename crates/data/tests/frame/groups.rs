//! `frame::groups`.

use acorn_data::frame::groups::*;
use acorn_data::frame::{Column, Frame};

fn frame(columns: serde_json::Value) -> Frame {
    Frame::from_json(columns.as_object().unwrap()).unwrap()
}

#[test]
fn two_columns_make_a_group_of_each_pair_and_missing_ones_stand_apart_or_are_left() {
    let frame = frame(serde_json::json!({"line": ["x", "x", "y", null, "x"], "bench": [1, 2, 1, 1, 1]}));
    let by: Vec<&Column> = frame.columns().iter().collect();
    let apart = frame.groups(&by, None, Missing::Apart, 9).unwrap();
    let labels: Vec<_> = (0..apart.len()).map(|group| apart.label(group).unwrap()).collect();
    assert_eq!(labels, ["x, 1", "x, 2", "y, 1", "no line, 1"]);
    assert_eq!(apart.rows(0), [0, 4]);
    assert_eq!(frame.groups(&by, Some(&[4, 3, 2]), Missing::Left, 9).unwrap().rows(0), [4]);
    let refused = frame.groups(&by, None, Missing::Apart, 3).unwrap_err();
    assert_eq!(refused, TooManyGroups { columns: "line and bench".into(), most: 3 });
}

#[test]
fn both_zeros_are_one_label_and_so_is_every_missing_number() {
    let frame = frame(serde_json::json!({"offset": [0.0, -0.0, 1.5, null, null]}));
    let by = [frame.column("offset").unwrap()];
    let groups = frame.groups(&by, None, Missing::Apart, 9).unwrap();
    assert_eq!((groups.len(), groups.rows(0), groups.rows(2)), (3, &[0, 1][..], &[3, 4][..]));
    let all = frame.groups(&[], None, Missing::Apart, 9).unwrap();
    assert_eq!((all.len(), all.label(0), all.rows(0).len()), (1, None, 5));
}
