//! The words of a formula.

use super::{LENGTH_MOST, Mistake};

#[derive(Clone, Debug, PartialEq)]
pub enum Word {
    Number(f64),
    Name(String),
    /// Words between quotation marks, a doubled one standing for itself.
    Text(String),
    /// An operator or a sign, in the one way it is written here.
    Sign(&'static str),
}

#[derive(Clone, Debug, PartialEq)]
pub struct Token {
    pub word: Word,
    pub from: usize,
    pub to: usize,
}

/// Whether a letter may stand in a name without back-ticks.
pub fn is_of_name(letter: char, first: bool) -> bool {
    letter.is_alphabetic() || letter == '_' || (!first && letter.is_numeric())
}

/// Signs of two letters first, each with how it is written here.
const SIGNS: [(&str, &str); 25] = [
    ("<=", "<="),
    (">=", ">="),
    ("<>", "!="),
    ("!=", "!="),
    ("==", "="),
    ("**", "^"),
    ("+", "+"),
    ("-", "-"),
    ("*", "*"),
    ("/", "/"),
    ("^", "^"),
    ("(", "("),
    (")", ")"),
    (",", ","),
    ("<", "<"),
    (">", ">"),
    ("=", "="),
    ("−", "-"),
    ("–", "-"),
    ("×", "*"),
    ("·", "*"),
    ("÷", "/"),
    ("≤", "<="),
    ("≥", ">="),
    ("≠", "!="),
];

/// Cuts a text into words.
///
/// # Errors
/// [`Mistake`] at a letter that starts no word.
pub fn tokens(text: &str) -> Result<Vec<Token>, Mistake> {
    let letters: Vec<char> = text.chars().collect();
    if letters.len() > LENGTH_MOST {
        let words = format!("a formula has {LENGTH_MOST} characters at most; give a part of it a name of its own");
        return Err(Mistake { from: LENGTH_MOST, to: letters.len(), words });
    }
    let mut found = Vec::new();
    let mut at = 0;
    while let Some(&letter) = letters.get(at) {
        let from = at;
        let next = letters.get(at + 1).copied();
        if letter.is_whitespace() {
            at += 1;
            continue;
        }
        let word = if letter.is_ascii_digit() || (letter == '.' && next.is_some_and(|next| next.is_ascii_digit())) {
            at = end_of_number(&letters, at);
            let typed: String = letters[from..at].iter().collect();
            let number = typed.parse::<f64>().ok().filter(|number| number.is_finite());
            Word::Number(number.ok_or_else(|| Mistake { from, to: at, words: format!("“{typed}” is not a number") })?)
        } else if letter == '`' {
            let end = letters[at + 1..].iter().position(|letter| *letter == '`').map(|place| at + 1 + place);
            let unclosed = || Mistake { from, to: letters.len(), words: "a name in back-ticks has no second back-tick".to_owned() };
            let end = end.ok_or_else(unclosed)?;
            at = end + 1;
            let name: String = letters[from + 1..end].iter().collect();
            if name.trim().is_empty() {
                return Err(Mistake { from, to: at, words: "there is no name between the back-ticks".to_owned() });
            }
            Word::Name(name.trim().to_owned())
        } else if letter == '"' {
            let (words, end) = quoted(&letters, from)?;
            at = end;
            Word::Text(words)
        } else if is_of_name(letter, true) {
            at += letters[at..].iter().take_while(|letter| is_of_name(**letter, false)).count();
            Word::Name(letters[from..at].iter().collect())
        } else {
            let starts = |sign: &&(&str, &str)| sign.0.chars().enumerate().all(|(place, one)| letters.get(from + place) == Some(&one));
            let strange = || Mistake { from, to: from + 1, words: format!("“{letter}” has no meaning here{}", hint(letter)) };
            let sign = SIGNS.iter().find(starts).ok_or_else(strange)?;
            at += sign.0.chars().count();
            Word::Sign(sign.1)
        };
        found.push(Token { word, from, to: at });
    }
    Ok(found)
}

/// The words between the quotation mark at a place and the next single one, and where they end.
fn quoted(letters: &[char], from: usize) -> Result<(String, usize), Mistake> {
    let mut words = String::new();
    let mut at = from + 1;
    loop {
        match (letters.get(at), letters.get(at + 1)) {
            (Some('"'), Some('"')) => {
                words.push('"');
                at += 2;
            }
            (Some('"'), _) => return Ok((words, at + 1)),
            (Some(letter), _) => {
                words.push(*letter);
                at += 1;
            }
            (None, _) => return Err(Mistake { from, to: letters.len(), words: "the words have no second quotation mark".to_owned() }),
        }
    }
}

fn hint(letter: char) -> &'static str {
    match letter {
        '.' => "; a decimal point stands before or after a digit",
        ';' => "; arguments are parted by commas",
        '[' | ']' | '{' | '}' => "; use ( and )",
        '%' => "; divide by 100 instead",
        '“' | '”' | '„' | '\'' | '‘' | '’' => "; words stand between straight quotation marks: \"A\"",
        _ => "; put an odd name between back-ticks",
    }
}

/// Behind a number: digits, a point, digits, and an exponent when digits follow it.
fn end_of_number(letters: &[char], from: usize) -> usize {
    let digits = |at: usize| letters[at..].iter().take_while(|letter| letter.is_ascii_digit()).count();
    let mut at = from + digits(from);
    if letters.get(at) == Some(&'.') {
        at += 1 + digits(at + 1);
    }
    if matches!(letters.get(at), Some('e' | 'E')) {
        let sign = usize::from(matches!(letters.get(at + 1), Some('+' | '-')));
        let exponent = letters.get(at + 1 + sign..).map_or(0, |_| digits(at + 1 + sign));
        if exponent > 0 {
            at += 1 + sign + exponent;
        }
    }
    at
}
