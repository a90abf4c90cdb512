//! `control_chart::dial`.

use acorn_core::methods;
use acorn_data::frame::{ColumnInfo, Frame};
use acorn_study::dial::DialOf;
use acorn_study::{Cancel, Spec};

#[test]
fn a_one_sided_limit_gives_the_index_of_that_side() {
    let columns = serde_json::json!({"leak": [1.0, 2.0, 3.0, null]});
    let frame = Frame::from_json(columns.as_object().unwrap()).unwrap();
    let spec: Spec = serde_json::from_str(r#"{"method": "control-chart", "roles": {"measure": "leak"}}"#).unwrap();
    let dial = |info: ColumnInfo| {
        let mut columns = frame.columns().to_vec();
        columns[0].info = info;
        methods::compute(&Frame::new(columns, None).unwrap(), &spec, &Cancel::default()).unwrap().dial.unwrap()
    };
    let upper = dial(ColumnInfo { usl: Some(5.0), ..ColumnInfo::default() });
    assert_eq!((upper.ppk, upper.last, upper.recent.len()), (Some(1.0), Some(3.0), 4));
    assert_eq!(dial(ColumnInfo::default()).ppk, None);
}

/// Expected by hand: p̄ = 12/300 = 0.04 and the newest point is judged by its own 50: 0.04 ± 3 √(0.04 · 0.96 / 50).
#[test]
fn a_dial_of_counts_has_the_centre_and_the_limits_of_the_newest_point() {
    let columns = serde_json::json!({"bad": [4, 5, 3], "looked": [100, 150, 50]});
    let frame = Frame::from_json(columns.as_object().unwrap()).unwrap();
    let dial = |kind: &str| {
        let spec =
            format!(r#"{{"method": "control-chart", "roles": {{"count": "bad", "size": "looked"}}, "options": {{"chart": "{kind}"}}}}"#);
        methods::compute(&frame, &serde_json::from_str(&spec).unwrap(), &Cancel::default()).unwrap().dial.unwrap()
    };
    let share = dial("p");
    assert_eq!((share.of, share.ppk, share.lcl, share.last), (DialOf::Share, None, Some(0.0), Some(0.06)));
    assert!((share.mean.unwrap() - 0.04).abs() < 1e-12);
    assert!((share.ucl.unwrap() - (0.04 + 3.0 * (0.04 * 0.96 / 50.0_f64).sqrt())).abs() < 1e-12);
    assert_eq!((dial("u").of, dial("c").of), (DialOf::Rate, DialOf::Count));
}
