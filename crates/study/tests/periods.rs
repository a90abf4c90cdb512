//! `periods`.

use acorn_data::frame::{Column, Frame, NO_TIME, Values};
use acorn_data::frame::{ColumnInfo, Kind};
use acorn_study::periods::*;

fn periods(moments: &[&str], step: Step) -> Vec<(String, usize)> {
    let micros = |text: &&str| if text.is_empty() { NO_TIME } else { text.parse::<jiff::Timestamp>().unwrap().as_microsecond() };
    let values = Values::Time(moments.iter().map(micros).collect());
    let column = Column { name: "at".into(), kind: Kind::DateTime, info: ColumnInfo::default(), measuring: None, held: None, values };
    let frame = Frame::new(vec![column], None).unwrap();
    let of = Periods::of(&frame, &frame.columns()[0], step, None).unwrap();
    let size = |at: usize| of.ends[at] - if at == 0 { 0 } else { of.ends[at - 1] };
    of.labels.iter().cloned().enumerate().map(|(at, label)| (label, size(at))).collect()
}

#[test]
fn empty_days_are_points_and_weeks_begin_on_monday() {
    let log = ["2026-03-01T23:59:59Z", "", "2026-02-27T06:00:00Z", "2026-03-02T00:00:00Z", "2026-02-27T07:30:00Z"];
    let of = |pairs: &[(&str, usize)]| pairs.iter().map(|(label, count)| ((*label).to_owned(), *count)).collect::<Vec<_>>();
    assert_eq!(periods(&log, Step::Usual), of(&[("2026-02-27", 2), ("2026-02-28", 0), ("2026-03-01", 1), ("2026-03-02", 1)]));
    assert_eq!(periods(&log, Step::Week), of(&[("week of 2026-02-23", 3), ("week of 2026-03-02", 1)]));
    assert_eq!(periods(&log, Step::Month), of(&[("2026-02", 2), ("2026-03", 2)]));
    let hours = periods(&log[2..], Step::Hour);
    assert_eq!((hours.len(), &hours[1]), (67, &("2026-02-27 07:00".to_owned(), 1)));
    assert_eq!(periods(&["1969-12-31T23:00:00Z"], Step::Month), of(&[("1969-12", 1)]));
    assert!(periods(&[""], Step::Day).is_empty());
}
