//! `gauge::due`.

use acorn_study::gauge::due::*;
use jiff::civil::Date;

#[test]
fn a_study_is_due_so_many_months_after_the_last() {
    let day = |text: &str| text.parse::<Date>().unwrap();
    let on = |today: &str| due(Some(day("2026-05-31")), Some(6), day(today));
    assert_eq!(next(Some(day("2026-05-31")), Some(6)), Some(day("2026-11-30")), "the last day of a shorter month");
    assert_eq!([on("2026-11-15"), on("2026-11-16"), on("2026-11-30"), on("2026-12-01")], [Due::Later, Due::Soon, Due::Soon, Due::Overdue]);
    assert_eq!((due(None, Some(6), day("2026-01-01")), due(Some(day("2026-01-01")), None, day("2099-01-01"))), (Due::Never, Due::NotAsked));
    assert_eq!(next(Some(day("9999-12-01")), Some(12)), None);
}
