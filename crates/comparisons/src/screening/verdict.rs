//! A screening in words: what goes with it beyond chance, and what that does not mean.

use std::collections::BTreeMap;

use super::decisions::{GOES_WITH, LABEL};
use super::numbers::{Found, Numbers};
use acorn_maths::words::{capital, chance, counted, grouped, level, listed, percent};
use acorn_study::notes::{note, worst_first};
use acorn_study::{NextQuestion, Note, RoleColumns, Tone, Verdict};

/// A column that explains so much may be the same thing measured twice.
const SAME: f64 = 0.98;
const NAMED: usize = 4;
const ASKED: usize = 3;

/// The verdict.
pub fn read(of: &Numbers) -> Verdict {
    let subject = &of.subject;
    let best = of.results.first().and_then(|found| Some((found, found.adjusted?, found.p_screen?)));
    let Some((best, adjusted, p)) = best else {
        return Verdict::new(Tone::Unsure, "Too few to say", "Too few to say: nothing varies over rows that have both.".to_owned());
    };
    let tried = counted(of.results.len(), "column", "columns");
    let beyond: Vec<&Found> = of.results.iter().filter(|found| found.beyond).collect();
    let Some(first) = beyond.first() else {
        let sentence = format!(
            "Nothing is shown to go with it: {} does best, with {} of {subject}, which chance gives the best of {tried} ({}).",
            best.column,
            percent(adjusted),
            chance(p)
        );
        return Verdict::new(Tone::Unsure, "Nothing is shown to go with it", sentence);
    };
    let title = match beyond.len() {
        1 => format!("{} goes with it", capital(&first.column)),
        many => format!("{} go with it", counted(many, "column", "columns")),
    };
    let part = format!(
        "{} of {subject}, beyond chance among {tried} ({})",
        percent(first.adjusted.unwrap_or_default()),
        chance(first.p_screen.unwrap_or(1.0))
    );
    let sentence = match beyond.len() {
        1 => format!("{title}: it explains {part}."),
        _ => format!("{title}: {} explains most, {part}.", first.column),
    };
    Verdict::new(Tone::Caution, &title, sentence).states(GOES_WITH)
}

/// All notes.
pub fn notes(of: &Numbers) -> Vec<Note> {
    let beyond: Vec<&Found> = of.results.iter().filter(|found| found.beyond).collect();
    let mut notes: Vec<Option<Note>> = of.results.iter().filter_map(|found| over(of, found)).take(NAMED).map(Some).collect();
    notes.push(same(of, &beyond));
    notes.push(entangled(of));
    notes.push(others(&beyond));
    notes.push((!beyond.is_empty()).then(|| {
        let detail = "What is found here is worth a study of its own, and then a trial on purpose.".to_owned();
        note(Tone::Unsure, "Going together is no cause, and one screen is no proof.", Some(detail))
    }));
    notes.push(reckoned(of));
    notes.push(skipped(of));
    worst_first(notes)
}

fn over(of: &Numbers, found: &Found) -> Option<Note> {
    let (over, marked) = (found.over.as_ref()?, of.marked.as_ref()?);
    let sentence = format!(
        "{} holds {} of {marked} ({}), and {} of all rows.",
        capital(&level(&found.column, &over.label)),
        percent(over.share),
        counted(over.count, "row", "rows"),
        percent(over.share_of_all)
    );
    Some(note(Tone::Caution, sentence, Some(format!("Drawing rows at random gives so many with {}.", chance(over.p)))).states(LABEL))
}

/// Columns that are nearly what they explain.
fn same(of: &Numbers, beyond: &[&Found]) -> Option<Note> {
    let same: Vec<String> =
        beyond.iter().filter(|found| found.adjusted.is_some_and(|part| part >= SAME)).map(|found| found.column.clone()).collect();
    let verb = if same.len() == 1 { "explains" } else { "explain" };
    (!same.is_empty()).then(|| {
        note(
            Tone::Caution,
            format!("{} {verb} nearly all of {}: the same thing twice, or worked out from it?", capital(&listed(&same)), of.subject),
            None,
        )
    })
}

fn entangled(of: &Numbers) -> Option<Note> {
    let pair = of.entangled.first()?;
    let sentence = format!("{} and {} go with each other ({}): either may be the one.", capital(&pair.a), pair.b, percent(pair.explained));
    let more = of.entangled.len() - 1;
    Some(note(Tone::Caution, sentence, (more > 0).then(|| format!("And {} of those found.", counted(more, "more pair", "more pairs")))))
}

fn others(beyond: &[&Found]) -> Option<Note> {
    let name = |found: &&&Found| format!("{} {}", found.column, percent(found.adjusted.unwrap_or_default()));
    let rest: Vec<String> = beyond.iter().skip(1).take(NAMED).map(|found| name(&found)).collect();
    let more = beyond.len().saturating_sub(1 + NAMED);
    let more = if more > 0 { format!(", and {more} more") } else { String::new() };
    (!rest.is_empty()).then(|| note(Tone::Caution, format!("Also beyond chance: {}{more}.", listed(&rest)), None).states(GOES_WITH))
}

/// How chance was reckoned with.
fn reckoned(of: &Numbers) -> Option<Note> {
    let sample = if of.shuffled < of.n { format!(" of {} rows drawn from {}", grouped(of.shuffled), grouped(of.n)) } else { String::new() };
    let alone = of.results.iter().filter(|found| GOES_WITH.is_made(found.p) && !found.beyond).count();
    let sentence = match alone {
        0 => format!("Chance is reckoned with for all {} together.", counted(of.results.len(), "column", "columns")),
        _ => format!(
            "Looked at alone, {} would pass for a finding; among so many, chance explains that.",
            counted(alone, "more column", "more columns")
        ),
    };
    Some(note(Tone::Unsure, sentence, Some(format!("By {} shuffles{sample}, the same ones each time.", grouped(of.shuffles)))))
}

fn skipped(of: &Numbers) -> Option<Note> {
    let named: Vec<String> = of.skipped.iter().take(NAMED).map(|one| format!("{} ({})", one.column, one.why)).collect();
    let more = of.skipped.len().saturating_sub(NAMED);
    let more = if more > 0 { format!(", and {more} more") } else { String::new() };
    (!named.is_empty()).then(|| note(Tone::Unsure, format!("Not tried: {}{more}.", listed(&named)), None))
}

/// What the answer makes worth asking.
pub fn next(of: &Numbers) -> Vec<NextQuestion> {
    let beyond = || of.results.iter().filter(|found| found.beyond);
    let mut next: Vec<NextQuestion> = beyond().filter_map(|found| found.study.clone()).take(ASKED).collect();
    let factors: Vec<String> = beyond()
        .filter(|found| found.study.as_ref().is_some_and(|study| study.roles.contains_key("group")))
        .map(|found| found.column.clone())
        .take(ASKED)
        .collect();
    if of.writer.is_some() && factors.len() > 1 {
        let roles = BTreeMap::from([
            ("measure".to_owned(), RoleColumns::One(of.subject.clone())),
            ("factors".to_owned(), RoleColumns::Many(factors)),
        ]);
        next.push(NextQuestion::of("multi-vari", "Where does the variation come from?", "Those found, within each other.", roles));
    }
    next
}
