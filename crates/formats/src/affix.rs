//! Numbers with their unit in the cell: "12.3 mm", "4 %", "€ 1.50".

use crate::cell::parse_number;

/// Longest unit in a cell, in characters.
const SIGN_CHARS: usize = 12;
const CURRENCIES: [char; 4] = ['€', '$', '£', '¥'];
/// What stands behind a number and is no unit.
const NO_UNITS: [&str; 14] = ["am", "pm", "jan", "feb", "mar", "apr", "may", "jun", "jul", "aug", "sep", "oct", "nov", "dec"];

/// A unit that stands beside the numbers of a column.
#[derive(Clone, Debug, PartialEq)]
pub struct Affix {
    /// The unit.
    pub sign: String,
    before: bool,
}

impl Affix {
    /// The unit in a cell; `None` when it is no number with one.
    pub fn of(text: &str) -> Option<Affix> {
        let text = text.trim();
        let number = |text: &str| parse_number(text, b'.').or_else(|| parse_number(text, b',')).is_some();
        if let Some(sign) = text.chars().next().filter(|sign| CURRENCIES.contains(sign)) {
            let rest = text[sign.len_utf8()..].trim_start();
            return number(rest).then(|| Affix { sign: sign.to_string(), before: true });
        }
        let end = text.rfind(|letter: char| letter.is_ascii_digit())? + 1;
        let (digits, sign) = (text[..end].trim_end(), text[end..].trim());
        let begins = |letter: char| letter.is_alphabetic() || matches!(letter, '%' | '‰' | '°') || CURRENCIES.contains(&letter);
        let short = sign.to_lowercase().chars().take(3).collect::<String>();
        let is_unit = sign.starts_with(begins) && sign.chars().count() <= SIGN_CHARS && !NO_UNITS.contains(&short.as_str());
        (is_unit && number(digits)).then(|| Affix { sign: sign.to_owned(), before: false })
    }

    /// What a cell says without it; all of it where it has none.
    pub fn strip<'t>(&self, text: &'t str) -> &'t str {
        let text = text.trim();
        let rest = if self.before { text.strip_prefix(&self.sign) } else { text.strip_suffix(&self.sign) };
        rest.map_or(text, str::trim)
    }
}
