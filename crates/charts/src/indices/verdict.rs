//! The table in words: how many meet their limits, and which is worst.

use super::decisions::{MISFIT, NOT_STEADY};
use super::numbers::{Numbers, Row};
use acorn_maths::words::{counted, hundredths, listed};
use acorn_study::{NextQuestion, Note, Tone, Verdict, letter_notes};

/// How a row is called.
fn name(row: &Row) -> String {
    row.group.as_ref().map_or_else(|| row.column.clone(), |group| format!("{} of {group}", row.column))
}

/// Reads the table.
pub fn read(numbers: &Numbers) -> (Verdict, Vec<Note>, Vec<NextQuestion>) {
    let mut notes: Vec<Note> = [unsteady(numbers), misfits(numbers), untold(numbers)].into_iter().flatten().collect();
    letter_notes(&mut notes);
    (verdict(numbers), notes, Vec::new())
}

fn verdict(numbers: &Numbers) -> Verdict {
    let judged: Vec<&Row> = numbers.rows.iter().filter(|row| row.ppk.is_some()).collect();
    let good = judged.iter().filter(|row| row.tone == Tone::Calm).count();
    let worst = judged.iter().min_by(|a, b| a.ppk.unwrap_or(0.0).total_cmp(&b.ppk.unwrap_or(0.0)));
    let Some(worst) = worst else {
        return Verdict::new(
            Tone::Unsure,
            "Nothing to judge",
            "Nothing to judge: no column here has limits and values that vary.".to_owned(),
        );
    };
    let named = format!("{} is worst with Ppk {}", name(worst), hundredths(worst.ppk.unwrap_or(0.0)));
    let all = counted(judged.len(), "row", "rows");
    if good == judged.len() {
        return Verdict::new(
            Tone::Calm,
            "All meet their limits",
            format!("All meet their limits: each of {all} is steady and reaches {}; {named}.", numbers.goal),
        );
    }
    let tone = if judged.iter().any(|row| row.tone == Tone::Alarm) { Tone::Alarm } else { Tone::Caution };
    let title = format!("{good} of {} meet their limits", judged.len());
    Verdict::new(tone, &title, format!("{title}: {named}."))
}

fn note(tone: Tone, sentence: String, detail: &str) -> Note {
    Note::new(tone, sentence, Some(detail.to_owned()))
}

fn some(rows: &[&Row]) -> String {
    let names: Vec<String> = rows.iter().take(3).map(|row| name(row)).collect();
    let more = rows.len().saturating_sub(3);
    if more > 0 { format!("{} and {more} more", names.join(", ")) } else { listed(&names) }
}

fn unsteady(numbers: &Numbers) -> Option<Note> {
    let rows: Vec<&Row> = numbers.rows.iter().filter(|row| !row.signals_by_chance).collect();
    let detail = "Their indices tell what was, not what will be.";
    (!rows.is_empty()).then(|| note(Tone::Alarm, format!("Not steady: {}.", some(&rows)), detail).states(NOT_STEADY))
}

fn misfits(numbers: &Numbers) -> Option<Note> {
    let rows: Vec<&Row> = numbers.rows.iter().filter(|row| row.misfits).collect();
    let detail = "Open them one by one, or take the best of fitted shapes for all.";
    (!rows.is_empty()).then(|| note(Tone::Caution, format!("The shape does not fit: {}.", some(&rows)), detail).states(MISFIT))
}

fn untold(numbers: &Numbers) -> Option<Note> {
    let rows: Vec<&Row> = numbers.rows.iter().filter(|row| row.ppk.is_none()).collect();
    (!rows.is_empty())
        .then(|| note(Tone::Unsure, format!("Without an index: {}.", some(&rows)), "They have no limits, no spread, or too few values."))
}
