//! What makes one doubt a column before anything is asked of it: each doubt in a sentence, with the rows that it is about.

use std::collections::HashMap;
use std::collections::hash_map::Entry;
use std::hash::{BuildHasherDefault, Hasher};

use serde::Serialize;

use crate::{FilterStep, Predicate};
use acorn_data::frame::{Column, Frame, Kind, NO_TIME, Values, time_text};
use acorn_maths::cancel::{Cancel, Stopped};
use acorn_maths::words::{counted, grouped, typed};

/// Values in a row that are alike before one is said to be stuck, where alike ones are rare otherwise.
const STUCK_LEAST: usize = 8;
/// A column in which more pairs of neighbours than this are alike has such runs by its nature.
const ALIKE_MOST: f64 = 0.35;
/// Fewer different values than this, among so many values, are coarse.
const COARSE_MOST: usize = 10;
const COARSE_LEAST: usize = 50;
/// Places that are shown of a doubt; an address holds no more.
const STRETCHES_SHOWN: usize = 1000;
/// Rows that are gone through without a look whether to stop.
const ROWS_UNCHECKED: usize = 1 << 16;

/// A map by numbers that are mixed already, or nearly so; those of a million rows are looked up quickly.
type ByKey = HashMap<u64, usize, BuildHasherDefault<Mixed>>;

/// Multiplied by a large odd number with its bits well mixed (2^64 over the golden ratio).
const GOLDEN: u64 = 0x9E37_79B9_7F4A_7C15;

#[derive(Default)]
struct Mixed(u64);

impl Hasher for Mixed {
    fn write(&mut self, bytes: &[u8]) {
        bytes.iter().for_each(|byte| self.write_u64(u64::from(*byte)));
    }

    fn write_u64(&mut self, key: u64) {
        self.0 = (self.0.rotate_left(5) ^ key).wrapping_mul(GOLDEN);
    }

    fn finish(&self) -> u64 {
        // The upper bits, which all others went into, where a map looks first.
        self.0 ^ (self.0 >> 32)
    }
}

/// A doubt about a column, or about the rows of its table.
#[derive(Clone, Debug, PartialEq, Serialize, utoipa::ToSchema)]
pub struct Doubt {
    /// The column; absent where it is about whole rows.
    pub column: Option<String>,
    /// What is doubted, such as `missing` or `stuck`.
    pub kind: &'static str,
    /// In a sentence.
    pub sentence: String,
    /// The rows that it is about; absent where it is about the column as a whole.
    pub show: Option<FilterStep>,
}

/// The doubts about each column of a table and about its rows, in their order.
///
/// Missing values, limits passed, values beyond what is believed of the column or outside its choices, one value that stays (eight times in a row or more), a scale so coarse that fewer than ten different
/// values come among fifty, moments that run backwards, names of single things that come twice, rows that are wholly alike.
///
/// # Errors
/// [`Stopped`].
pub fn doubts(frame: &Frame, cancel: &Cancel) -> Result<Vec<Doubt>, Stopped> {
    let mut found = Vec::new();
    for column in frame.columns() {
        cancel.check()?;
        found.extend(of_column(frame, column));
    }
    found.extend(alike_rows(frame, cancel)?);
    Ok(found)
}

fn of_column(frame: &Frame, column: &Column) -> Vec<Doubt> {
    let rows = column.values.len();
    let doubt = |kind, sentence: String, show: Option<FilterStep>| Doubt { column: Some(column.name.clone()), kind, sentence, show };
    let is = |is: Predicate| Some(FilterStep::Column { column: column.name.clone(), is, role: None });
    let mut found = Vec::new();
    let missing = (0..rows).filter(|row| column.values.is_missing(*row)).count();
    if missing > 0 && missing < rows {
        let verb = if missing == 1 { "is" } else { "are" };
        let sentence = format!("{} of {} {verb} missing.", counted(missing, "value", "values"), grouped(rows));
        found.push(doubt("missing", sentence, is(Predicate::Missing(true))));
    }
    match &column.values {
        Values::Number(values) => {
            let beyond = column.beyond().len();
            if beyond > 0 {
                let verb = if beyond == 1 { "lies" } else { "lie" };
                let sentence = format!("{} {verb} beyond a limit.", counted(beyond, "value", "values"));
                found.push(doubt("beyond-limits", sentence, is(Predicate::BeyondLimits(true))));
            }
            if column.kind == Kind::Number {
                found.extend(coarse(values).map(|sentence| doubt("coarse", sentence, None)));
            }
        }
        Values::Time(times) => found.extend(backwards(frame, times).map(|(sentence, show)| doubt("backwards", sentence, Some(show)))),
        Values::Label { .. } => {}
    }
    found.extend(unbelieved(frame, column).map(|(sentence, show)| doubt("unbelieved", sentence, Some(show))));
    if column.kind == Kind::Number {
        found.extend(stuck(frame, column).map(|(sentence, show)| doubt("stuck", sentence, Some(show))));
    }
    if matches!(column.kind, Kind::WholeNumber | Kind::Text) {
        found.extend(repeats(frame, column).map(|(sentence, show)| doubt("repeats", sentence, Some(show))));
    }
    found
}

/// Values that are not believed, or that are none of the choices.
fn unbelieved(frame: &Frame, column: &Column) -> Option<(String, FilterStep)> {
    let rows = column.unbelieved();
    let first = column.values.text(*rows.first()?).unwrap_or_default();
    let verb = |one: &'static str, many: &'static str| if rows.len() == 1 { one } else { many };
    let what = match column.values {
        Values::Label { .. } => format!("{} none of the choices", verb("is", "are")),
        _ => format!("{} outside what is believed, {}", verb("lies", "lie"), column.info.rules.display_text()),
    };
    let sentence = format!("{} {what}: first {first} at row {}.", counted(rows.len(), "value", "values"), grouped(rows[0] + 1));
    Some((sentence, rows_at(frame, rows, &format!("{} not believed", column.name))))
}

/// The rows at some positions, as stretches of row ids.
fn rows_at(frame: &Frame, positions: impl IntoIterator<Item = usize>, from: &str) -> FilterStep {
    let mut rows: Vec<[i64; 2]> = Vec::new();
    for id in positions.into_iter().map(|position| frame.row_id(position)) {
        let many = rows.len();
        match rows.last_mut() {
            Some(stretch) if stretch[1] + 1 == id => stretch[1] = id,
            _ if many == STRETCHES_SHOWN => {
                return FilterStep::Rows { rows, from: format!("{from}, the first {} places", grouped(STRETCHES_SHOWN)) };
            }
            _ => rows.push([id; 2]),
        }
    }
    FilterStep::Rows { rows, from: from.to_owned() }
}

/// Few different values among many.
fn coarse(values: &[f64]) -> Option<String> {
    let mut different: Vec<f64> = Vec::new();
    let mut n = 0;
    for value in values.iter().filter(|value| !value.is_nan()) {
        n += 1;
        if !different.contains(value) {
            different.push(*value);
            if different.len() >= COARSE_MOST {
                return None;
            }
        }
    }
    let many = different.len();
    (many > 1 && n >= COARSE_LEAST)
        .then(|| format!("Only {} different values come among {}: the scale is coarse.", grouped(many), grouped(n)))
}

/// The longest run of one value, where neighbours are seldom alike.
fn stuck(frame: &Frame, column: &Column) -> Option<(String, FilterStep)> {
    let Values::Number(values) = &column.values else { return None };
    let there: Vec<usize> = (0..values.len()).filter(|row| !values[*row].is_nan()).collect();
    let runs = there.chunk_by(|a, b| values[*a] == values[*b]);
    let longest = runs.clone().max_by_key(|run| run.len())?;
    if longest.len() < STUCK_LEAST || longest.len() == there.len() {
        return None;
    }
    let others = there.len() - longest.len();
    let alike: usize = runs.map(|run| run.len() - 1).sum::<usize>() - (longest.len() - 1);
    if others == 0 || alike as f64 / others as f64 > ALIKE_MOST {
        return None;
    }
    let sentence =
        format!("{} comes {} times in a row, from row {} on.", typed(values[longest[0]]), grouped(longest.len()), grouped(longest[0] + 1));
    Some((sentence, rows_at(frame, longest.iter().copied(), &format!("{} stuck", column.name))))
}

/// Moments earlier than the one before them, in a column that runs forward for the most part.
fn backwards(frame: &Frame, times: &[i64]) -> Option<(String, FilterStep)> {
    let there: Vec<usize> = (0..times.len()).filter(|row| times[*row] != NO_TIME).collect();
    let back: Vec<usize> = there.windows(2).filter(|two| times[two[1]] < times[two[0]]).map(|two| two[1]).collect();
    let first = *back.first()?;
    // In no order at all: nothing runs backwards.
    if back.len() * 5 > there.len() {
        return None;
    }
    let when = time_text(times[first]).unwrap_or_default();
    let times_back = if back.len() == 1 { "Once".to_owned() } else { format!("{} times", grouped(back.len())) };
    let sentence = format!("{times_back} the time runs backwards, first at row {} ({when}).", grouped(first + 1));
    Some((sentence, rows_at(frame, back, "where time runs backwards")))
}

/// Values that come more than once in a column where nearly every value is one of its own.
fn repeats(frame: &Frame, column: &Column) -> Option<(String, FilterStep)> {
    let values = &column.values;
    let mut firsts = ByKey::with_capacity_and_hasher(values.len(), BuildHasherDefault::default());
    let mut again: Vec<usize> = Vec::new();
    let mut n = 0;
    for row in (0..values.len()).filter(|row| !values.is_missing(*row)) {
        n += 1;
        if firsts.insert(values.key(row), row).is_some() {
            again.push(row);
        }
    }
    if again.is_empty() || again.len() * 20 > n {
        return None;
    }
    let first = values.text(again[0]).unwrap_or_default();
    let verb = if again.len() == 1 { "has" } else { "have" };
    let sentence =
        format!("{} {verb} come before, first {first} at row {}.", counted(again.len(), "value", "values"), grouped(again[0] + 1));
    Some((sentence, rows_at(frame, again, &format!("repeats of {}", column.name))))
}

/// How many pairs of rows are alike where each column is as it is and has nothing to do with the others.
fn alike_by_chance(frame: &Frame) -> f64 {
    let rows = frame.rows() as f64;
    let same = |column: &Column| {
        let mut counts = ByKey::default();
        (0..frame.rows()).for_each(|row| *counts.entry(column.values.key(row)).or_default() += 1);
        counts.values().map(|count| (*count as f64 / rows).powi(2)).sum::<f64>()
    };
    0.5 * rows * rows * frame.columns().iter().map(same).product::<f64>()
}

/// Rows in which everything is as in a row before them.
fn alike_rows(frame: &Frame, cancel: &Cancel) -> Result<Option<Doubt>, Stopped> {
    // In a table of one column alike rows are alike values.
    if frame.columns().len() < 2 {
        return Ok(None);
    }
    let alike = |a: usize, b: usize| frame.columns().iter().all(|column| column.values.key(a) == column.values.key(b));
    let is_empty = |row: usize| frame.columns().iter().all(|column| column.values.is_missing(row));
    let mixed = |hash: u64, key: u64| (hash.rotate_left(5) ^ key).wrapping_mul(GOLDEN);
    let mut firsts = ByKey::with_capacity_and_hasher(frame.rows(), BuildHasherDefault::default());
    let mut again: Vec<usize> = Vec::new();
    for row in 0..frame.rows() {
        if row % ROWS_UNCHECKED == 0 {
            cancel.check()?;
        }
        if is_empty(row) {
            continue;
        }
        let mut hash = frame.columns().iter().fold(0, |hash, column| mixed(hash, column.values.key(row)));
        // Rows that only happen to have one number are told apart by the next.
        while let Some(first) = firsts.get(&hash).filter(|first| !alike(**first, row)) {
            hash = mixed(hash, *first as u64);
        }
        match firsts.entry(hash) {
            Entry::Occupied(_) => again.push(row),
            Entry::Vacant(place) => drop(place.insert(row)),
        }
    }
    // A table of few different rows, such as counts by kind, or a log of a few labels, repeats itself by its nature.
    let is_many = |again: &Vec<usize>| again.len() * 2 > frame.rows() || again.len() as f64 <= 2.0 * alike_by_chance(frame);
    let Some(first) = again.first().copied().filter(|_| !is_many(&again)) else { return Ok(None) };
    let verb = if again.len() == 1 { "is" } else { "are" };
    let sentence = format!("{} {verb} wholly like a row before, first row {}.", counted(again.len(), "row", "rows"), grouped(first + 1));
    Ok(Some(Doubt { column: None, kind: "alike", sentence, show: Some(rows_at(frame, again, "rows like one before")) }))
}
