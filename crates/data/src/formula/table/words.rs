//! Words: a code a row into a list of different ones, so that what is done to a label is done once.

use std::collections::HashMap;
use std::sync::Arc;

use super::TableFunction;
use super::part::Part;
use crate::frame::{NO_CODE, NO_TIME, Values, moments_named};

/// Words by row.
pub struct Words {
    pub codes: Arc<[u32]>,
    pub labels: Arc<[String]>,
}

impl Words {
    /// Values of any kind as words.
    pub fn of(values: &Values) -> Words {
        match values {
            Values::Label { codes, labels } => Words { codes: codes.clone(), labels: labels.clone() },
            other => Words::collect((0..other.len()).map(|row| other.text(row))),
        }
    }

    /// Words one by one.
    pub fn collect(words: impl Iterator<Item = Option<String>>) -> Words {
        let mut known: HashMap<String, u32> = HashMap::new();
        let mut labels: Vec<String> = Vec::new();
        let code = |word: Option<String>| {
            let Some(word) = word else { return NO_CODE };
            *known.entry(word).or_insert_with_key(|word| {
                labels.push(word.clone());
                labels.len() as u32 - 1
            })
        };
        let codes = words.map(code).collect();
        Words { codes, labels: labels.into() }
    }

    /// The words of a row.
    pub fn at(&self, row: usize) -> Option<&str> {
        self.labels.get(self.codes[row] as usize).map(String::as_str)
    }

    /// The labels of both, and the code among them of each of the other.
    pub fn with(&self, other: &Words) -> (Arc<[String]>, Vec<u32>) {
        let mut all: Vec<String> = self.labels.to_vec();
        let mut known: HashMap<String, u32> = (0..).zip(&all).map(|(code, label)| (label.clone(), code)).collect();
        let code = |label: &String| {
            *known.entry(label.clone()).or_insert_with(|| {
                all.push(label.clone());
                all.len() as u32 - 1
            })
        };
        let recoded = other.labels.iter().map(code).collect();
        (all.into(), recoded)
    }

    /// Other words for each of the different ones.
    pub fn map(&self, of: impl Fn(&str) -> Option<String>) -> Values {
        let new = Words::collect(self.labels.iter().map(|label| of(label)));
        let codes = self.codes.iter().map(|code| new.codes.get(*code as usize).copied().unwrap_or(NO_CODE)).collect();
        Values::Label { codes, labels: new.labels }
    }

    fn gather<T: Copy>(&self, of: impl Fn(&str) -> T, none: T) -> Arc<[T]> {
        let by_label: Vec<T> = self.labels.iter().map(|label| of(label)).collect();
        self.codes.iter().map(|code| by_label.get(*code as usize).copied().unwrap_or(none)).collect()
    }
}

/// Functions of words.
pub fn of_words(function: TableFunction, arguments: &[&Part], rows: usize) -> Part {
    use TableFunction::*;
    let typed = |place: usize| arguments.get(place).map_or("", |part| part.typed());
    let count = |place: usize| arguments.get(place).map_or(0.0, |part| part.number(0)).max(0.0) as usize;
    if function == Classes {
        return classes(arguments, rows);
    }
    if function == Join {
        let all: Vec<Words> = arguments.iter().map(|part| Words::of(&part.each(rows))).collect();
        let joined = |row: usize| all.iter().map(|words| words.at(row)).collect::<Option<String>>();
        let Words { codes, labels } = Words::collect((0..rows).map(joined));
        return Part::Each(Values::Label { codes, labels });
    }
    let words = Words::of(&arguments[0].each(rows));
    let there = |text: String| Some(text).filter(|text| !text.is_empty());
    Part::Each(match function {
        Upper => words.map(|text| Some(text.to_uppercase())),
        Lower => words.map(|text| Some(text.to_lowercase())),
        Trim => words.map(|text| there(text.split_whitespace().collect::<Vec<_>>().join(" "))),
        Left => words.map(|text| there(text.chars().take(count(1)).collect())),
        Right => words.map(|text| {
            let skip = text.chars().count().saturating_sub(count(1));
            there(text.chars().skip(skip).collect())
        }),
        Piece => words.map(|text| {
            let mut pieces: Box<dyn Iterator<Item = &str>> =
                if typed(1).is_empty() { Box::new(text.split_whitespace()) } else { Box::new(text.split(typed(1))) };
            count(2).checked_sub(1).and_then(|place| pieces.nth(place)).and_then(|piece| there(piece.trim().to_owned()))
        }),
        Replace => words.map(|text| if typed(1).is_empty() { Some(text.to_owned()) } else { there(text.replace(typed(1), typed(2))) }),
        Recode => {
            let pairs = &arguments[1..];
            let rest = if pairs.len() % 2 == 1 { pairs.last().map(|part| part.typed()) } else { None };
            words.map(|text| {
                let found = pairs.as_chunks::<2>().0.iter().find(|[from, _]| from.typed() == text).map(|[_, to]| to.typed());
                there(found.or(rest).unwrap_or(text).to_owned())
            })
        }
        Length => Values::Number(words.gather(|text| text.chars().count() as f64, f64::NAN)),
        Contains => {
            let sought = typed(1).to_lowercase();
            Values::Number(words.gather(|text| f64::from(u8::from(text.to_lowercase().contains(&sought))), f64::NAN))
        }
        AsNumber => Values::Number(words.gather(|text| number(text).unwrap_or(f64::NAN), f64::NAN)),
        AsMoment => Values::Time(words.gather(|text| moments_named(text).map_or(NO_TIME, |[first, _]| first), NO_TIME)),
        _ => Values::Label { codes: words.codes, labels: words.labels },
    })
}

/// The number that is written in words, a decimal comma being one.
pub fn number(text: &str) -> Option<f64> {
    let plain = text.trim().replace('−', "-");
    let plain = if plain.contains('.') { plain } else { plain.replacen(',', ".", 1) };
    let digits = |sign: char| sign.is_ascii_digit() || matches!(sign, '+' | '-' | '.' | 'e' | 'E');
    plain.parse::<f64>().ok().filter(|value| value.is_finite() && plain.chars().all(digits))
}

/// Classes of one width, named by their ends; a number on an end falls into the class that it begins.
fn classes(arguments: &[&Part], rows: usize) -> Part {
    let (start, width) = (arguments[1].number(0), arguments[2].number(0));
    let decimals = acorn_maths::describe::decimals(&[start, width]) as usize;
    let name = |class: f64| {
        let end = |class: f64| format!("{:.decimals$}", start + class * width).replace('-', "−");
        format!("{} to {}", end(class), end(class + 1.0))
    };
    // What is a hair below an end only by rounding falls into the class that it begins.
    let class = |value: f64| ((value - start) / width + 1e-9).floor();
    let mut named: HashMap<u64, Option<String>> = HashMap::new();
    let mut one = |row: usize| {
        let class = class(arguments[0].number(row));
        let fits = class.is_finite() && width > 0.0 && class.abs() < 1e9;
        named.entry(class.to_bits()).or_insert_with(|| fits.then(|| name(class))).clone()
    };
    let Words { codes, labels } = Words::collect((0..rows).map(&mut one));
    Part::Each(Values::Label { codes, labels })
}
