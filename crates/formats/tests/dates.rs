//! `dates`.

use acorn_data::frame::time_text;
use acorn_formats::dates::*;

#[test]
fn common_dress_is_understood() {
    use DateOrder::{DayFirst, MonthFirst};
    let rows = [
        ("2026-05-04 06:10", DayFirst, "2026-05-04 06:10"),
        ("2026-05-04T06:10:30.25", DayFirst, "2026-05-04 06:10:30.25"),
        ("2026-05-04T06:10:00+02:00", DayFirst, "2026-05-04 04:10"),
        ("04.05.2026 06:10", DayFirst, "2026-05-04 06:10"),
        ("04/05/2026", MonthFirst, "2026-04-05 00:00"),
        ("5/4/26 6:10 PM", MonthFirst, "2026-05-04 18:10"),
        ("4 May 2026", DayFirst, "2026-05-04 00:00"),
        ("04-May-2026 23:59:59", DayFirst, "2026-05-04 23:59:59"),
        ("26-05-04", DateOrder::YearFirst, "2026-05-04 00:00"),
        ("Sept 4, 2026", DayFirst, "2026-09-04 00:00"),
    ];
    for (text, order, want) in rows {
        assert_eq!(parse_time(text, order).and_then(time_text).as_deref(), Some(want), "{text}");
    }
}

#[test]
fn impossible_dates_and_plain_numbers_are_not_dates() {
    for text in [
        "31.02.2026",
        "2.401",
        "12345678",
        "13/13/2026",
        "2026-05-04 25:00",
        "",
        "reel 1-2-3",
        "é12.05.2026",
        "4 Marble 2026",
        "4 Marble",
        "1.2.3",
    ] {
        assert_eq!(parse_time(text, DateOrder::DayFirst), None, "{text}");
    }
}
