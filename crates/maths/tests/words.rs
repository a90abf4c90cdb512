//! `words`.

use acorn_maths::words::*;

#[test]
fn numbers_read_as_people_write_them() {
    assert_eq!(grouped(1_234_567), "1,234,567");
    assert_eq!(about(370.398), "370");
    assert_eq!(about(1234.0), "1,200");
    for (value, words) in [
        (9.99, "10"),
        (9.94, "9.9"),
        (0.0996, "0.10"),
        (0.0123, "0.012"),
        (99.6, "100"),
        (0.0, "0"),
        (1e15, "1,000,000,000,000,000"),
        (1.234e20, "1.2 × 10²⁰"),
        (4e-170, "4.0 × 10⁻¹⁷⁰"),
    ] {
        assert_eq!(about(value), words);
    }
    assert_eq!([1, 2, 1000].map(|n| counted(n, "value lies", "values lie")), ["1 value lies", "2 values lie", "1,000 values lie"]);
    let lie = |part, all| part_of(part, all, ["value", "values"], ["lies", "lie"]);
    assert_eq!([lie(1, 30), lie(2, 1200), lie(1, 1)], ["1 of 30 values lies", "2 of 1,200 values lie", "1 of 1 value lies"]);
    assert_eq!([1, 3].map(|n| all_of(n, ["value", "values"], ["lies", "lie"])), ["the one value lies", "all 3 values lie"]);
    assert_eq!((typed(-0.25), typed(-0.0), typed(1e-7)), ("−0.25".into(), "0".into(), "0.0000001".into()));
    assert_eq!(listed(&["a", "b", "c"].map(String::from)), "a, b and c");
}

#[test]
fn shares_are_said_in_the_size_that_people_can_picture() {
    let cases = [
        (0.0, "none"),
        (4e-10, "below 0.001 ppm"),
        (5.7e-7, "about 0.57 ppm"),
        (9.97e-6, "about 10 ppm"),
        (3.2e-5, "about 32 ppm"),
        (1.43e-3, "about 1 in 700"),
        (0.006, "about 1 in 170"),
        (0.0243, "about 2.4 %"),
        (0.52, "about 52 %"),
    ];
    cases.into_iter().for_each(|(of, words)| assert_eq!(share(of), words));
    assert_eq!((chance(0.000_4), chance(0.034)), ("p below 0.001".to_owned(), "p = 0.034".to_owned()));
}

#[test]
fn values_carry_their_unit_their_decimals_and_a_true_minus() {
    let mm = ValueFormat::plain(3).in_unit("mm");
    assert_eq!(mm.interval(2.3689, 2.4398), "2.3689 to 2.4398 mm");
    assert_eq!((mm.interval(1e-6, 3e-6), mm.interval(2.0, 2.0)), ("0.000001 to 0.000003 mm".into(), "2.0000 mm".into()));
    assert_eq!((mm.value(-0.5), mm.value(-0.000_4), mm.computed(1.0)), ("−0.500 mm".into(), "0.000 mm".into(), "1.0000 mm".into()));
    assert_eq!(
        (mm.signed(0.25), mm.signed(-0.25), mm.signed(-1e-9), mm.finer().value(1.0)),
        ("+0.2500 mm".into(), "−0.2500 mm".into(), "0.0000 mm".into(), "1.0000 mm".into())
    );
    // Two leading digits of the spread, whatever the size of the values.
    assert_eq!(ValueFormat::fine("%", 100.0, 0.012).value(0.1234), "12.3 %");
    assert_eq!(
        (ValueFormat::fine("", 1.0, 340.0).value(1234.5), ValueFormat::fine("", 1.0, 0.0).value(2.0)),
        ("1235".into(), "2.00".into())
    );
}

/// A number as some writer writes it; the page reads the same table.
#[derive(serde::Deserialize)]
struct Written {
    by: String,
    #[serde(default)]
    format: ValueFormat,
    number: f64,
    text: String,
}

#[test]
fn numbers_are_written_as_the_page_writes_them() {
    let all: Vec<Written> = serde_json::from_str(include_str!("writing.json")).unwrap();
    for Written { by, format, number, text } in all {
        let written = match by.as_str() {
            "value" => format.value(number),
            "computed" => format.computed(number),
            "signed" => format.signed(number),
            "percent" => percent(number),
            "chance" => chance(number),
            "grouped" => grouped(number as usize),
            other => panic!("nothing writes by {other}"),
        };
        assert_eq!(written, text, "{by} of {number}");
    }
}
