//! Parts of a moment.

use jiff::civil::DateTime;
use jiff::tz::TimeZone;

use super::TableFunction;
use super::part::Part;
use super::words::Words;
use crate::frame::{NO_TIME, Values};

const MICROS_OF_HOUR: f64 = 3_600e6;
const MICROS_OF_DAY: i64 = 86_400_000_000;

fn civil(micros: i64) -> Option<DateTime> {
    if micros == NO_TIME {
        return None;
    }
    Some(jiff::Timestamp::from_microsecond(micros).ok()?.to_zoned(TimeZone::UTC).datetime())
}

/// A part of a moment that is a number.
pub fn number(function: TableFunction, micros: i64) -> f64 {
    use TableFunction::*;
    let Some(time) = civil(micros) else { return f64::NAN };
    match function {
        Year => time.year().into(),
        Month => time.month().into(),
        Week => time.date().iso_week_date().week().into(),
        Day => time.day().into(),
        Weekday => time.weekday().to_monday_one_offset().into(),
        Hour => time.hour().into(),
        _ => time.minute().into(),
    }
}

/// Hours from one moment to another.
pub fn hours(from: i64, to: i64) -> f64 {
    if from == NO_TIME || to == NO_TIME { f64::NAN } else { (to as f64 - from as f64) / MICROS_OF_HOUR }
}

/// A label of a moment: its day, or its shift.
pub fn label(function: TableFunction, arguments: &[&Part], rows: usize) -> Part {
    // The start of each shift within the day, in hours.
    let mut shifts: Vec<(f64, &str)> =
        arguments[1..].as_chunks::<2>().0.iter().map(|[name, start]| (start.number(0), name.typed())).collect();
    shifts.sort_by(|(a, _), (b, _)| a.total_cmp(b));
    let shift = |micros: i64| {
        let hour = micros.rem_euclid(MICROS_OF_DAY) as f64 / MICROS_OF_HOUR;
        // Before the first start of a day it is still the last shift of the day before.
        let running = shifts.iter().rev().find(|(start, _)| *start <= hour).or(shifts.last());
        running.map(|(_, name)| (*name).to_owned())
    };
    let one = |row: usize| match arguments[0].moment(row) {
        NO_TIME => None,
        micros if function == TableFunction::Shift => shift(micros),
        micros => civil(micros).map(|time| time.date().to_string()),
    };
    let Words { codes, labels } = Words::collect((0..rows).map(one));
    Part::Each(Values::Label { codes, labels })
}
