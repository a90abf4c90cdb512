//! What a question says when the specification limits differ among its rows.

use super::notes::note;
use super::{Note, StudyError, Tone, letter_notes};
use acorn_data::frame::{Column, Limits};
use acorn_maths::words::{counted, grouped, listed, part_of};

/// Most limits that are named; more are counted.
const NAMED_MOST: usize = 3;

/// That a column has no limits for all of its rows.
pub fn limits_differ(column: &Column) -> Option<StudyError> {
    let sets = column.differing()?;
    Some(StudyError::LimitsDiffer { column: column.name.clone(), limits: named(column, &sets) })
}

/// Adds a note for each column whose values are held against limits of their own, with those that lie beyond.
pub fn tell<'c>(columns: impl Iterator<Item = &'c Column>, notes: &mut Vec<Note>) {
    let before = notes.len();
    notes.extend(columns.filter_map(told));
    if notes.len() > before {
        letter_notes(notes);
    }
}

fn told(column: &Column) -> Option<Note> {
    let sets = column.differing()?;
    let (beyond, n) = (column.beyond().len(), sets.iter().map(|(_, rows)| rows).sum());
    let (tone, lie) = match beyond {
        0 => (Tone::Calm, "no value lies beyond its own".to_owned()),
        _ => (Tone::Alarm, format!("{} beyond their own", part_of(beyond, n, ["value", "values"], ["lies", "lie"]))),
    };
    let sentence = format!("The limits of {} differ among these rows: {}; {lie}.", column.name, named(column, &sets));
    let held = column.held.as_ref()?;
    let choosers = [held.by.as_deref(), held.since.as_deref()].into_iter().flatten().collect::<Vec<_>>().join(" and ");
    let detail = format!("They are chosen by {choosers}. Narrowed to rows with one pair of limits, the question is held against these.");
    Some(note(tone, sentence, Some(detail)))
}

fn named(column: &Column, sets: &[(Limits, usize)]) -> String {
    let unit = column.info.unit.as_deref().map(|unit| format!(" {unit}")).unwrap_or_default();
    let mut parts: Vec<String> =
        sets.iter().take(NAMED_MOST).map(|(limits, rows)| format!("{}{unit} for {}", limits.display_text(), grouped(*rows))).collect();
    if let more @ 1.. = sets.len().saturating_sub(NAMED_MOST) {
        parts.push(counted(more, "pair more", "pairs more"));
    }
    listed(&parts)
}
