//! `table`.

use acorn_maths::words::ValueFormat;
use acorn_study::table::*;

#[test]
fn a_list_leaves_out_what_tells_nothing_and_writes_no_number_that_is_none() {
    let two = ValueFormat::plain(2);
    let terms = vec![Term::new("Ppk", &two, "pp", [Some(1.2), Some(f64::NAN)]), Term::new("Cpm", &two, "cpm", [None, None])];
    let table = Table::of_terms("indices", "Indices", &["index", "value", "at least"], terms);
    assert_eq!((table.rows(), table.lines[0].formula), (1, Some("pp")));
    assert_eq!(serde_json::to_value(&table.columns[2].cells).unwrap(), serde_json::json!([null]));
    assert_eq!(table.for_file()[0].1.text(0).as_deref(), Some("Ppk"));
}
