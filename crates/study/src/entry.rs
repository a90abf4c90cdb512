//! An entry of the glossary.

use serde::Serialize;

/// A term with its meaning.
#[derive(Clone, Copy, Debug, PartialEq, Serialize, utoipa::ToSchema)]
#[schema(as = GlossaryEntry)]
pub struct Entry {
    /// Its name, as a heading.
    pub name: &'static str,
    /// How it stands in sentences. A form of up to three letters counts with its capitals only.
    pub forms: &'static [&'static str],
    /// How it stands in table heads and slots besides, where a word is never used in passing.
    pub heads: &'static [&'static str],
    /// What it means, in two plain lines.
    pub meaning: &'static str,
    /// Its formula; empty for what is not computed.
    pub formula: &'static str,
    /// Where it comes from.
    pub source: &'static str,
}

/// The longest form in which letters count with their capitals.
const SHORT: usize = 3;

impl Entry {
    /// A term that stands as it is called, in heads only until its forms are told.
    pub const fn new(name: &'static str, meaning: &'static str, formula: &'static str, source: &'static str) -> Entry {
        Entry { name, forms: &[], heads: &[], meaning, formula, source }
    }

    /// How it stands in sentences.
    pub const fn forms(self, forms: &'static [&'static str]) -> Entry {
        Entry { forms, ..self }
    }

    /// How it stands in heads besides.
    pub const fn heads(self, heads: &'static [&'static str]) -> Entry {
        Entry { heads, ..self }
    }

    /// Whether it stands in a table head or a slot.
    pub fn explains(&self, head: &str) -> bool {
        self.forms.iter().chain(self.heads).any(|form| stands(form, head))
    }
}

/// Whether a form stands in a text as whole words.
pub fn stands(form: &str, text: &str) -> bool {
    let (form, text) = if form.chars().count() > SHORT { (form.to_lowercase(), text.to_lowercase()) } else { (form.into(), text.into()) };
    let part_of_word = |letter: Option<char>| letter.is_some_and(char::is_alphanumeric);
    text.match_indices(&form)
        .any(|(at, found)| !part_of_word(text[..at].chars().next_back()) && !part_of_word(text[at + found.len()..].chars().next()))
}
