//! `export_table`.

use acorn_data::frame::{ColumnInfo, Kind, LimitRow, LimitTable, Limits, Rules};

use acorn_data::frame::{Column, NO_TIME, Values};
use acorn_formats::export_table::*;
use acorn_formats::{ReadOptions, Source, read, specifications};

#[test]
fn a_table_comes_back_with_its_kinds_and_its_second_sheet_tells_units_and_limits() {
    let info = ColumnInfo {
        unit: Some("mm".into()),
        decimals: Some(2),
        lsl: Some(2.4),
        target: None,
        usl: Some(2.6),
        limit_table: Some(LimitTable {
            by: Some(1),
            since: None,
            rows: vec![LimitRow { of: Some("R1".into()), limits: Limits { usl: Some(2.5), ..Limits::default() }, ..LimitRow::default() }],
        }),
        rules: Rules {
            lower_bound: Some(0.0),
            highest: Some(9.0),
            causes: ["die worn", "wrong gate"].map(String::from).to_vec(),
            ..Rules::default()
        },
    };
    let column = |name: &str, kind, info: &ColumnInfo, values| Column {
        name: name.into(),
        kind,
        info: info.clone(),
        measuring: None,
        held: None,
        values,
    };
    let none = ColumnInfo::default();
    let columns = [
        column("reel", Kind::Category, &none, Values::Label { codes: vec![0, 0, 0].into(), labels: vec!["=R1".to_owned()].into() }),
        column("gap", Kind::Number, &info, Values::Number(vec![2.4512, f64::NAN, -1e-9].into())),
        column("at", Kind::DateTime, &none, Values::Time(vec![1_767_225_600_001_000, NO_TIME, 1_767_225_660_000_000].into())),
        column("old", Kind::DateTime, &none, Values::Time(vec![-3_000_000_000_000_000, 0, 1].into())),
    ];
    let mut columns = columns;
    let table = info.limit_table.as_ref().unwrap();
    columns[1].held = Some(table.held(&info, Some(("reel", &columns[0].values)), None, 3));
    let book = write_table_xlsx(&columns).unwrap();
    let source = Source::open("out.xlsx", book).unwrap();
    let table = read(&source, &ReadOptions::default()).unwrap().table;
    for (read, wrote) in table.columns.iter().zip(&columns) {
        assert_eq!((&read.name, read.kind), (&wrote.name, wrote.kind));
        assert!((0..3).all(|row| read.values.text(row) == wrote.values.text(row)), "{}: {:?}", wrote.name, read.values);
    }
    let told = read(&source, &ReadOptions { sheet: Some("Columns".into()), ..ReadOptions::default() }).unwrap().table;
    let line = |row: usize| told.columns.iter().map(|column| column.values.text(row).unwrap_or_default()).collect::<Vec<_>>().join("|");
    assert_eq!((line(1), line(2)), ("gap|number|mm|2|2.4||2.6|0|||9||die worn; wrong gate".into(), "at|date and time|||||||||||".into()));
    let said = specifications(&told, &[]).unwrap();
    assert_eq!((said[1].lsl, said[1].usl, &said[1].rules), (Some(2.4), Some(2.6), &columns[1].info.rules));
    let limits = read(&source, &ReadOptions { sheet: Some("Limits".into()), ..ReadOptions::default() }).unwrap().table;
    let said = specifications(&limits, &[]).unwrap();
    assert_eq!(
        (said[0].name.as_str(), said[0].usl, said[0].by.as_deref(), said[0].of.as_deref()),
        ("gap", Some(2.5), Some("reel"), Some("R1"))
    );
}
