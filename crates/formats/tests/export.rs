//! `export`.

use acorn_data::frame::{Kind, NO_CODE, NO_TIME};

use acorn_data::frame::Values;
use acorn_formats::export::*;
use acorn_formats::{ReadOptions, Source, read};

#[test]
fn a_workbook_reads_back_as_what_was_written() {
    let labels = vec!["H1".to_owned(), "007".into()];
    // A row without anything is no row to the reader: the first column is never missing.
    let columns = [
        ("place", Values::Number(vec![1.0, 2.0, 3.0].into())),
        ("depth", Values::Number(vec![1.25, f64::NAN, 1e-7].into())),
        ("housing", Values::Label { codes: vec![0, NO_CODE, 1].into(), labels: labels.into() }),
        ("at", Values::Time(vec![1_767_225_600_000_000, NO_TIME, 1_767_225_660_000_000].into())),
    ];
    let named: Vec<(&str, &Values)> = columns.iter().map(|(name, values)| (*name, values)).collect();
    let table = read(&Source::open("out.xlsx", write_xlsx(&named).unwrap()).unwrap(), &ReadOptions::default()).unwrap().table;
    assert_eq!([table.columns[1].kind, table.columns[3].kind], [Kind::Number, Kind::DateTime]);
    for (column, (name, values)) in table.columns.iter().zip(&columns) {
        assert_eq!(&column.name, name);
        assert!((0..3).all(|row| column.values.text(row) == values.text(row)), "{name}: {:?}", column.values);
    }
    assert!(write_xlsx(&[]).is_ok(), "no column is an empty sheet");
    let long = "Shares of variance: of every input in [each] response";
    assert!(write_book(&[(long, named.clone()), ("Stacks", named)]).is_ok(), "names are cut as a workbook wants them");
}
