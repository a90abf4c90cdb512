//! Doubts about columns, on data in which exactly one thing is wrong and on data in which nothing is.

use acorn_data::frame::{Column, ColumnInfo, Frame, Kind, NO_TIME, Rules, Values};
use acorn_maths::cancel::Cancel;
use acorn_study::health::{Doubt, doubts};
use acorn_study::{FilterStep, TableView};

fn column(name: &str, kind: Kind, values: Values) -> Column {
    Column { name: name.into(), kind, info: ColumnInfo::default(), measuring: None, held: None, values }
}

fn numbers(values: impl Iterator<Item = f64>) -> Values {
    Values::Number(values.collect())
}

const MINUTE: i64 = 60_000_000;

/// Sixty lamps, each of its own number, minute and flux.
fn lamps() -> [Column; 3] {
    let flux = |i: u32| f64::from(i * 37 % 61) / 10.0 + 500.0;
    [
        column("lamp", Kind::WholeNumber, numbers((0..60).map(f64::from))),
        column("at", Kind::DateTime, Values::Time((0..60).map(|i| i * MINUTE).collect())),
        column("flux", Kind::Number, numbers((0..60).map(flux))),
    ]
}

fn changed<T: Copy>(values: &[T], changes: &[(usize, T)]) -> Vec<T> {
    let mut values = values.to_vec();
    changes.iter().for_each(|(row, value)| values[*row] = *value);
    values
}

/// The sentences, each with the rows that it shows.
fn told(columns: Vec<Column>) -> Vec<String> {
    let frame = Frame::new(columns, None).unwrap();
    let line = |doubt: acorn_study::health::Doubt| {
        let shown = doubt.show.map(|only| TableView { only: vec![only], order: Vec::new() }.rows(&frame).unwrap());
        format!("{}: {} {}", doubt.column.unwrap_or_default(), doubt.sentence, shown.map_or("-".into(), |rows| format!("{rows:?}")))
    };
    doubts(&frame, &Cancel::default()).unwrap().into_iter().map(line).collect()
}

#[test]
fn sound_columns_are_not_doubted() {
    assert_eq!(told(lamps().to_vec()), Vec::<String>::new());
    assert_eq!(told(vec![column("flux", Kind::Number, numbers([].into_iter()))]), Vec::<String>::new());
    assert_eq!(told(vec![column("flux", Kind::Number, numbers([f64::NAN; 9].into_iter()))]), Vec::<String>::new());
    // Labels and counts repeat, times in no order are no clock, a table of few different rows is one of counts.
    let counts = column("defects", Kind::WholeNumber, numbers((0..60).map(|i| f64::from(i % 3))));
    let bench = column("bench", Kind::Category, Values::Label { codes: vec![0; 60].into(), labels: ["A".to_owned()].into() });
    let shuffled = column("at", Kind::DateTime, Values::Time((0..60).map(|i| i * 37 % 61 * MINUTE).collect()));
    assert_eq!(told(vec![counts.clone(), bench.clone()]), Vec::<String>::new());
    assert_eq!(told(vec![shuffled, counts, bench]), Vec::<String>::new());
}

#[test]
fn each_doubt_is_told_with_its_rows() {
    let [lamp, at, flux] = lamps();
    let (Values::Number(lamps), Values::Time(times), Values::Number(fluxes)) = (&lamp.values, &at.values, &flux.values) else { panic!() };
    let with = |values: Vec<f64>| Column { values: Values::Number(values.into()), ..flux.clone() };
    let limited = Column { info: ColumnInfo { lsl: Some(500.0), usl: Some(505.95), ..ColumnInfo::default() }, ..flux.clone() };
    let stuck: Vec<(usize, f64)> = (20..29).map(|row| (row, 503.3)).collect();
    for (columns, expected) in [
        (vec![with(changed(fluxes, &[(7, f64::NAN), (9, f64::NAN)]))], vec!["flux: 2 values of 60 are missing. [7, 9]"]),
        (vec![limited], vec!["flux: 1 value lies beyond a limit. [28]"]),
        (
            vec![with(changed(fluxes, &stuck))],
            vec!["flux: 503.3 comes 9 times in a row, from row 21 on. [20, 21, 22, 23, 24, 25, 26, 27, 28]"],
        ),
        (
            vec![with((0..60).map(|i| f64::from(i * 7 % 4)).collect())],
            vec!["flux: Only 4 different values come among 60: the scale is coarse. -"],
        ),
        (
            vec![Column { values: Values::Time(changed(times, &[(30, MINUTE), (40, NO_TIME)]).into()), ..at.clone() }],
            vec!["at: 1 value of 60 is missing. [40]", "at: Once the time runs backwards, first at row 31 (1970-01-01 00:01). [30]"],
        ),
        (
            vec![Column { values: Values::Number(changed(lamps, &[(30, 7.0)]).into()), ..lamp.clone() }],
            vec!["lamp: 1 value has come before, first 7 at row 31. [30]"],
        ),
        (
            vec![
                Column { values: Values::Number(changed(lamps, &[(5, 4.0), (6, 4.0)]).into()), kind: Kind::Number, ..lamp.clone() },
                with(changed(fluxes, &[(5, fluxes[4]), (6, fluxes[4])])),
            ],
            vec![": 2 rows are wholly like a row before, first row 6. [5, 6]"],
        ),
    ] {
        assert_eq!(told(columns), expected);
    }
}

#[test]
fn values_beyond_what_is_believed_are_told_and_a_thousand_places_at_most_are_shown() {
    let rules = Rules { lowest: Some(0.0), highest: Some(5.0), ..Rules::default() };
    let leak = column(
        "leak rate",
        Kind::Number,
        numbers((0..3000).map(|i| if i % 2 == 0 { 7.0 + f64::from(i) / 1e3 } else { 1.0 + f64::from(i) / 1e3 })),
    );
    let leak = Column { info: ColumnInfo { rules, ..ColumnInfo::default() }, ..leak };
    let kinds = Rules { choices: vec!["crack".into(), "void".into()], ..Rules::default() };
    let codes: Vec<u32> = (0..3000).map(|i| u32::from(i == 4) * 2).collect();
    let kind = column(
        "kind",
        Kind::Category,
        Values::Label { codes: codes.into(), labels: ["crack".to_owned(), "void".into(), "crak".into()].into() },
    );
    let kind = Column { info: ColumnInfo { rules: kinds, ..ColumnInfo::default() }, ..kind };
    let frame = Frame::new(vec![leak, kind], None).unwrap();
    let found = doubts(&frame, &Cancel::default()).unwrap();
    let unbelieved: Vec<&Doubt> = found.iter().filter(|doubt| doubt.kind == "unbelieved").collect();
    assert_eq!(unbelieved[0].sentence, "1,500 values lie outside what is believed, from 0 to 5: first 7 at row 1.");
    let Some(FilterStep::Rows { rows, from }) = &unbelieved[0].show else { panic!("{:?}", unbelieved[0].show) };
    assert_eq!((rows.len(), rows[999], from.as_str()), (1000, [1998, 1998], "leak rate not believed, the first 1,000 places"));
    assert_eq!(unbelieved[1].sentence, "1 value is none of the choices: first crak at row 5.");
}
