//! Doubts and facts of a study of judgements, and what to ask next.

use std::collections::BTreeMap;

use super::compute::Answer;
use super::numbers::GridPart;
use super::verdict::{GOOD, MISSED_GOOD};
use acorn_maths::words::{counted, hundredths, listed, percent};
use acorn_study::gauge::notes::pinned;
use acorn_study::notes::{note, worst_first};
use acorn_study::{NextQuestion, Note, RoleColumns, Tone};

/// Someone who agrees with themselves on fewer pieces does not repeat.
const REPEATS: f64 = 0.90;
/// False alarms above this are many (AIAG MSA, 4th ed.).
const ALARMS_MOST: f64 = 0.05;
/// Fewer pieces leave intervals wide, and those of kappa, which suppose many, too narrow; fewer of one kind tell little of it.
const PIECES_WANTED: usize = 50;
const KIND_LEAST: f64 = 0.2;
/// Pieces named in a note.
const NAMED: usize = 4;

/// All notes, the worst first.
pub fn all(answer: &Answer) -> Vec<Note> {
    worst_first(vec![
        misses(answer),
        false_alarms(answer),
        repeat(answer),
        pieces(answer),
        pair(answer),
        mix(answer),
        few(answer),
        one_trial(answer),
        bad_label(answer),
        missing(answer),
    ])
}

fn misses(answer: &Answer) -> Option<Note> {
    let errors = answer.numbers.errors.as_deref()?;
    let who: Vec<String> = errors
        .iter()
        .filter(|one| one.miss_rate.is_some_and(|rate| rate > MISSED_GOOD))
        .map(|one| format!("{} {} ({})", one.operator, one.misses, percent(one.miss_rate.unwrap_or(0.0))))
        .collect();
    if who.is_empty() {
        let none = errors.iter().all(|one| one.misses == 0);
        return none.then(|| note(Tone::Calm, "No bad piece was missed.", None));
    }
    let detail = "A missed piece reaches the customer: show the kind that is missed, and light and magnify it.";
    Some(note(Tone::Alarm, format!("Bad pieces judged good: {}.", listed(&who)), Some(detail.into())))
}

fn false_alarms(answer: &Answer) -> Option<Note> {
    let errors = answer.numbers.errors.as_deref()?;
    let who: Vec<String> = errors
        .iter()
        .filter(|one| one.false_alarm_rate.is_some_and(|rate| rate > ALARMS_MOST))
        .map(|one| format!("{} {} ({})", one.operator, one.false_alarms, percent(one.false_alarm_rate.unwrap_or(0.0))))
        .collect();
    (!who.is_empty()).then(|| {
        note(Tone::Caution, format!("Good pieces judged bad: {}.", listed(&who)), Some("They are thrown away or judged again.".into()))
    })
}

fn repeat(answer: &Answer) -> Option<Note> {
    let within = answer.numbers.within.as_deref()?;
    let who: Vec<String> = within
        .iter()
        .filter(|one| one.agreement.share < REPEATS)
        .map(|one| format!("{} ({})", one.operator, percent(one.agreement.share)))
        .collect();
    match who.is_empty() {
        true => Some(note(Tone::Calm, "Everyone says the same of the same piece again.", None)),
        false => {
            let verb = if who.len() == 1 { "says" } else { "say" };
            let detail =
                "The share of pieces of which they say the same again. Who does not agree with themselves cannot agree with others.";
            Some(note(Tone::Caution, format!("{} often {verb} something else the second time.", listed(&who)), Some(detail.into())))
        }
    }
}

/// The pieces that divide people.
fn pieces(answer: &Answer) -> Option<Note> {
    let of = &answer.numbers;
    let half = of.operators.len() * of.trials;
    let hard: Vec<&GridPart> = of.grid.iter().filter(|part| part.odd > 0 && 3 * part.odd >= half).collect();
    if hard.is_empty() {
        return None;
    }
    let mut names: Vec<String> = hard.iter().take(NAMED).map(|part| format!("{} ({} of {half})", part.label, part.odd)).collect();
    if hard.len() > NAMED {
        names.push(counted(hard.len() - NAMED, "other", "others"));
    }
    let against = if of.all_against.is_some() { "judged against the reference" } else { "judged unlike most" };
    let detail = "Look at them together: they are border pieces, or the reference is wrong.";
    Some(pinned(note(Tone::Unsure, format!("Most often {against}: {}.", listed(&names)), Some(detail.into())), 0, Some(0)))
}

/// The pair that agrees least.
fn pair(answer: &Answer) -> Option<Note> {
    let pairs = answer.numbers.cohen.iter().filter_map(|pair| Some((pair, pair.kappa.kappa?)));
    let (pair, kappa) = pairs.min_by(|a, b| a.1.total_cmp(&b.1)).filter(|(_, kappa)| *kappa < GOOD)?;
    let words = format!("{} and {} agree least: kappa {}.", pair.a, pair.b, hundredths(kappa));
    Some(note(Tone::Caution, words, Some("Let them judge side by side and say why.".into())))
}

/// Whether good and bad pieces are both there in numbers.
fn mix(answer: &Answer) -> Option<Note> {
    let of = &answer.numbers;
    let known = answer.ratings.reference.as_deref().filter(|_| of.labels.len() > 1)?;
    let share = |label: usize| known.iter().filter(|code| **code as usize == label).count() as f64 / known.len() as f64;
    let rare = (0..of.labels.len()).find(|&label| share(label) < KIND_LEAST)?;
    let words = format!("Only {} of the pieces are “{}”: too few to tell how often it is missed.", percent(share(rare)), of.labels[rare]);
    Some(note(Tone::Caution, words, Some("Take a third to a half of each kind, border pieces among them.".into())))
}

fn few(answer: &Answer) -> Option<Note> {
    let of = &answer.numbers;
    (of.parts < PIECES_WANTED).then(|| {
        let pieces = counted(of.parts, "piece", "pieces");
        let detail = "With so few the 95 % interval of kappa holds the true value in 85 to 95 of 100 studies.";
        note(Tone::Unsure, format!("Only {pieces}: {PIECES_WANTED} or more give intervals that can be relied on."), Some(detail.into()))
    })
}

fn one_trial(answer: &Answer) -> Option<Note> {
    answer.numbers.within.is_none().then(|| note(Tone::Unsure, "One look each: whether people agree with themselves is not known.", None))
}

fn bad_label(answer: &Answer) -> Option<Note> {
    let of = &answer.numbers;
    (of.all_against.is_some() && of.bad.is_none() && of.labels.len() == 2)
        .then(|| note(Tone::Unsure, "Say which label is bad, and misses are told from false alarms.", None))
}

fn missing(answer: &Answer) -> Option<Note> {
    let missing = answer.numbers.missing;
    let words = || format!("{} without a judgement, a part, an operator or a reference.", counted(missing, "row is", "rows are"));
    (missing > 0).then(|| note(Tone::Unsure, words(), None))
}

/// What the answer makes worth asking.
pub fn next(answer: &Answer) -> Vec<NextQuestion> {
    let of = &answer.numbers;
    let each = of.operators.len() * of.trials;
    let hardest = of.grid.first().filter(|part| part.odd > 0).map(|part| {
        let question = format!("What is it about {} {}?", answer.part, part.label);
        NextQuestion::about([part.part * each, (part.part + 1) * each - 1], question, "No piece divides people more.".to_owned())
    });
    let roles = BTreeMap::from([("category".to_owned(), RoleColumns::One(answer.rating.clone()))]);
    let label = of.bad.clone().or_else(|| of.labels.first().cloned()).unwrap_or_default();
    let mut share =
        NextQuestion::of("proportion", &format!("How often is “{label}” said?"), "The share of all judgements, with its interval.", roles);
    share.options.insert("from".to_owned(), "column".into());
    share.options.insert("value".to_owned(), label.into());
    hardest.into_iter().chain([share]).collect()
}
