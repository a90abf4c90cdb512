//! Finding a text in columns, and putting another in its place.

use super::{NO_CODE, Values};

/// A text that is looked for.
#[derive(Clone, Debug)]
pub struct TextPattern {
    text: String,
    whole: bool,
    match_case: bool,
}

impl TextPattern {
    /// Looks for a text, within cells or as the whole of them, with its capitals or whatever they are.
    pub fn new(text: &str, whole: bool, match_case: bool) -> TextPattern {
        TextPattern { text: text.to_owned(), whole, match_case }
    }

    /// Where it stands in a text, as stretches of bytes that do not overlap.
    fn places(&self, text: &str) -> Vec<(usize, usize)> {
        let mut found = Vec::new();
        let mut from = 0;
        while let Some((start, end)) = self.next(text, from) {
            found.push((start, end));
            from = end;
        }
        if self.whole && found != [(0, text.len())] { Vec::new() } else { found }
    }

    fn next(&self, text: &str, from: usize) -> Option<(usize, usize)> {
        if self.text.is_empty() {
            return None;
        }
        let starts = text[from..].char_indices().map(|(at, _)| from + at);
        starts.filter_map(|start| Some((start, self.end(&text[start..])? + start))).next()
    }

    /// Where it ends in a text that begins with it. Capitals are compared sign by sign, so that places stay those of the text.
    fn end(&self, text: &str) -> Option<usize> {
        let mut signs = text.char_indices();
        for wanted in self.text.chars() {
            let (_, sign) = signs.next()?;
            let alike = sign == wanted || (!self.match_case && sign.to_lowercase().eq(wanted.to_lowercase()));
            if !alike {
                return None;
            }
        }
        Some(signs.next().map_or(text.len(), |(at, _)| at))
    }

    /// Whether it stands in a text.
    pub fn is_in(&self, text: &str) -> bool {
        !self.places(text).is_empty()
    }

    /// A text with another in its place wherever it stands; `None` where it does not.
    pub fn replaced(&self, text: &str, with: &str) -> Option<String> {
        let places = self.places(text);
        if places.is_empty() {
            return None;
        }
        let mut out = String::new();
        let mut at = 0;
        for (start, end) in places {
            out.push_str(&text[at..start]);
            out.push_str(with);
            at = end;
        }
        out.push_str(&text[at..]);
        Some(out)
    }

    /// What `of` makes of the text of each row, where it makes anything; each different label is looked at once.
    pub fn rows<T: Clone>(values: &Values, of: impl Fn(&str) -> Option<T>) -> Vec<(usize, T)> {
        match values {
            Values::Label { codes, labels } => {
                let by_label: Vec<Option<T>> = labels.iter().map(|label| of(label)).collect();
                let one = |(row, code): (usize, &u32)| {
                    let made = if *code == NO_CODE { None } else { by_label.get(*code as usize).cloned().flatten() };
                    made.map(|made| (row, made))
                };
                codes.iter().enumerate().filter_map(one).collect()
            }
            other => (0..other.len()).filter_map(|row| Some((row, of(&other.text(row)?)?))).collect(),
        }
    }
}
