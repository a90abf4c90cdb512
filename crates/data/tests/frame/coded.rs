//! `frame::coded`.

use acorn_data::frame::{Frame, NO_CODE};

#[test]
fn numbers_are_labels_in_order_of_first_appearance_whether_whole_or_not() {
    let columns = serde_json::json!({"press": [7, -2, null, 7, 0], "dose": [0.5, 2.0, null, 0.5, 1e9], "lot": ["b", "a", null, "b", "c"]});
    let frame = Frame::from_json(columns.as_object().unwrap()).unwrap();
    for column in frame.columns() {
        let coded = frame.coded(column, 3).unwrap();
        assert_eq!(coded.codes[..], [0, 1, NO_CODE, 0, 2], "{}", column.name);
        assert_eq!(coded.labels[0], column.values.text(0).unwrap());
        assert!(frame.coded(column, 2).is_err(), "{}", column.name);
    }
}
