//! Notes as every method makes them.

use super::{Note, Tone, letter_notes};

/// A note without a place.
pub fn note(tone: Tone, sentence: impl Into<String>, detail: Option<String>) -> Note {
    Note { letter: String::new(), tone, sentence: sentence.into(), detail, pin: None, offers: Vec::new() }
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
