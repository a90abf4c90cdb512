//! Notes as every method makes them.

use super::{Note, Tone, letter_notes};
use acorn_maths::equal_variance::{ALIKE, ratio_found};
use acorn_maths::words::{about, chance};

/// A note without a place.
pub fn note(tone: Tone, sentence: impl Into<String>, detail: Option<String>) -> Note {
    Note::new(tone, sentence, detail)
}

/// Those that there are, the worst first, lettered.
pub fn worst_first(notes: Vec<Option<Note>>) -> Vec<Note> {
    let mut notes: Vec<Note> = notes.into_iter().flatten().collect();
    notes.sort_by_key(|note| match note.tone {
        Tone::Alarm => 0,
        Tone::Caution => 1,
        Tone::Calm | Tone::Unsure => 2,
    });
    letter_notes(&mut notes);
    notes
}

/// That spreads are not seen to differ, by the chance of a test of groups of such sizes, and what difference it would have found.
pub fn spreads_not_shown(p: f64, sizes: impl IntoIterator<Item = usize>) -> Option<Note> {
    let found = ratio_found(sizes)?;
    let tone = if found <= ALIKE { Tone::Calm } else { Tone::Unsure };
    let chance = chance(p);
    let apart = about(found);
    Some(note(
        tone,
        format!("No difference of the spreads can be shown ({chance}); sds {apart} times apart would mostly have been found."),
        None,
    ))
}
