//! Names that look like one: they differ by case, by what is not a letter, by the order of words, or by a letter in a long word.

use std::collections::{BTreeMap, HashMap};

/// A shorter word is another one when a letter differs.
const LONG: usize = 5;

/// A name that may be another one, which comes more often.
#[derive(Clone, Debug, PartialEq, Eq)]
pub struct Alike {
    pub name: String,
    pub as_name: String,
}

/// Names of a list, the most frequent first, that look like one before them.
pub fn alike(names: &[&str]) -> Vec<Alike> {
    let mut same: HashMap<Vec<String>, usize> = HashMap::new();
    let mut near: HashMap<String, Vec<usize>> = HashMap::new();
    let words: Vec<Vec<String>> = names.iter().map(|name| words_of(name)).collect();
    let mut found = Vec::new();
    for (place, own) in words.iter().enumerate() {
        let mut sorted = own.clone();
        sorted.sort();
        let known = same.get(&sorted).copied().filter(|_| !own.is_empty());
        let forms = shortened(&sorted);
        let before = known.or_else(|| {
            let candidates = forms.iter().filter_map(|form| near.get(form)).flatten().copied();
            candidates.filter(|&other| is_one_letter_off(&sorted, &sorted_words(&words[other]))).min()
        });
        match before {
            Some(before) => found.push(Alike { name: names[place].to_owned(), as_name: names[before].to_owned() }),
            None => {
                forms.into_iter().for_each(|form| near.entry(form).or_default().push(place));
                same.insert(sorted, place);
            }
        }
    }
    found
}

/// What a name goes by when some go by others; round in a circle it stays.
pub fn followed<'n>(name: &'n str, renames: &'n BTreeMap<String, String>) -> &'n str {
    let mut at = name;
    for _ in 0..=renames.len() {
        match renames.get(at) {
            Some(next) if next != at => at = next,
            _ => return at,
        }
    }
    name
}

/// The kinds that have several names, each with all of them, itself first.
pub fn merged(renames: &BTreeMap<String, String>) -> BTreeMap<String, Vec<String>> {
    let mut kinds: BTreeMap<String, Vec<String>> = BTreeMap::new();
    for name in renames.keys() {
        let kind = followed(name, renames);
        if kind != name {
            kinds.entry(kind.to_owned()).or_insert_with(|| vec![kind.to_owned()]).push(name.clone());
        }
    }
    kinds
}

fn words_of(name: &str) -> Vec<String> {
    name.split(|letter: char| !letter.is_alphanumeric()).filter(|word| !word.is_empty()).map(str::to_lowercase).collect()
}

fn sorted_words(words: &[String]) -> Vec<String> {
    let mut sorted = words.to_vec();
    sorted.sort();
    sorted
}

fn is_long(word: &str) -> bool {
    word.chars().count() >= LONG && word.chars().all(char::is_alphabetic)
}

/// The words with a letter of one long word left out, and as they are: names a letter apart share one of these.
fn shortened(words: &[String]) -> Vec<String> {
    let mut forms = vec![words.join(" ")];
    for (place, word) in words.iter().enumerate().filter(|(_, word)| is_long(word)) {
        for at in 0..word.chars().count() {
            let mut changed = words.to_vec();
            changed[place] = word.chars().enumerate().filter(|(letter, _)| *letter != at).map(|(_, letter)| letter).collect();
            changed.sort();
            forms.push(changed.join(" "));
        }
    }
    forms
}

fn is_one_letter_off(a: &[String], b: &[String]) -> bool {
    let only_in = |one: &[String], other: &[String]| one.iter().filter(|word| !other.contains(word)).cloned().collect::<Vec<_>>();
    match (&only_in(a, b)[..], &only_in(b, a)[..]) {
        ([one], [other]) if a.len() == b.len() => is_long(one) && is_long(other) && edits(one, other),
        _ => false,
    }
}

/// Whether a letter is left out, put in, another one, or two neighbours are the other way round.
fn edits(a: &str, b: &str) -> bool {
    let (a, b): (Vec<char>, Vec<char>) = (a.chars().collect(), b.chars().collect());
    let before = a.iter().zip(&b).take_while(|(x, y)| x == y).count();
    let after = a.iter().rev().zip(b.iter().rev()).take_while(|(x, y)| x == y).count().min(a.len().min(b.len()) - before);
    let (a, b) = (&a[before..a.len() - after], &b[before..b.len() - after]);
    a.len() <= 1 && b.len() <= 1 || a.len() == 2 && b.len() == 2 && a[0] == b[1] && a[1] == b[0]
}
