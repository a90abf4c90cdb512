//! What a question says first when a value is a round factor away from all others: correct it, before anything is made of it.

use super::{Tone, Verdict};
use acorn_data::frame::{Column, Frame, Kind, Values};
use acorn_maths::slips::{Slip, slips};
use acorn_maths::words::{counted, grouped, listed};

/// Most rows that are named; more are counted.
const NAMED_MOST: usize = 3;

/// The verdict on the first of some columns that holds slips, in rows that are not left out. `whole` is the data as people see it, where
/// rows are counted.
pub fn verdict<'c>(columns: impl Iterator<Item = &'c Column>, frame: &Frame, whole: &Frame, omit: &[i64]) -> Option<Verdict> {
    columns.filter(|column| column.kind == Kind::Number).find_map(|column| {
        let Values::Number(values) = &column.values else { return None };
        let found: Vec<Slip> = slips(values).into_iter().filter(|slip| !omit.contains(&frame.row_id(slip.place))).collect();
        (!found.is_empty()).then(|| told(column, &found, frame, whole))
    })
}

fn told(column: &Column, found: &[Slip], frame: &Frame, whole: &Frame) -> Verdict {
    let number = |slip: &Slip| {
        let id = frame.row_id(slip.place);
        let place = whole.row_ids().map_or(Some(id as usize), |ids| ids.iter().position(|other| *other == id));
        grouped(place.unwrap_or(slip.place) + 1)
    };
    let named: Vec<String> = found.iter().take(NAMED_MOST).map(number).collect();
    let rows = match found.len() {
        1 => format!("row {}", named[0]),
        n if n <= NAMED_MOST => format!("rows {}", listed(&named)),
        n => counted(n, "row", "rows"),
    };
    let title = if found.len() == 1 { format!("Check row {}", named[0]) } else { format!("Check {} rows", found.len()) };
    let first = found[0];
    let writer = column.info.writer(acorn_maths::describe::decimals(&[first.value, first.value / first.factor]));
    let is_decimal = [10.0, 100.0, 1000.0].iter().any(|power| first.factor == *power || first.factor == 1.0 / power);
    let (times, why) = match is_decimal {
        true if first.factor > 1.0 => {
            (format!("{} times the others", grouped(first.factor as usize)), "the decimal point has probably slipped")
        }
        true => {
            (format!("the others divided by {}", grouped((1.0 / first.factor).round() as usize)), "the decimal point has probably slipped")
        }
        false if first.factor > 1.0 => ("25.4 times the others".to_owned(), "millimetres probably stand among inches"),
        false => ("the others divided by 25.4".to_owned(), "inches probably stand among millimetres"),
    };
    let sentence = format!(
        "Check {rows} first: {} is {} in row {}, {times}, so {why}. {} what follows still counts {}.",
        column.name,
        writer.value(first.value),
        named[0],
        if found.len() == 1 { "Correct it or leave it out;" } else { "Correct them or leave them out;" },
        if found.len() == 1 { "it" } else { "them" }
    );
    Verdict::new(Tone::Alarm, title, sentence)
}
