//! What a ranking says: whether effort will pay on few kinds, and where.

use std::collections::BTreeMap;

use super::compute::{Answer, share_words};
use super::numbers::Ranking;
use crate::gauge::notes::{note, worst_first};
use crate::judgement::unlikely;
use crate::study::words::{capital, chance, counted, listed, percent};
use crate::study::{NextQuestion, Note, RoleColumns, Tone, Verdict};

/// A larger part of the kinds needed for 80 % is no few.
const FEW: f64 = 0.4;
/// Kinds named in a sentence.
const NAMED: usize = 3;
/// Groups named in a note.
const GROUPS_NAMED: usize = 5;

/// Whether chance alone could have ranked kinds that are all alike.
fn is_noise(of: &Ranking) -> bool {
    of.even_p.is_some() && !unlikely(of.even_p)
}

fn is_few(of: &Ranking) -> bool {
    of.vital as f64 <= (FEW * of.kinds as f64).max(1.0)
}

/// "812 defects" or "12,400 EUR".
fn total(answer: &Answer) -> String {
    let of = &answer.numbers;
    match of.weighted {
        true => of.writer.value(of.overall.total),
        false => counted(of.overall.total.round() as usize, "defect", "defects"),
    }
}

/// The verdict.
pub fn read(answer: &Answer) -> Verdict {
    let of = &answer.numbers.overall;
    let said = |tone, title: &str, sentence: String| Verdict { tone, title: title.into(), sentence };
    let all = total(answer);
    if of.total <= 0.0 {
        return said(Tone::Unsure, "Nothing is counted", format!("All counts of {} are 0.", answer.category));
    }
    let leaders: Vec<String> = of.bars.iter().take(NAMED).map(|bar| format!("{} {}", bar.category, share_words(bar))).collect();
    if of.kinds == 1 {
        return said(Tone::Unsure, "One kind", format!("All {all} are of one kind, {}.", of.bars.first().map_or("", |bar| &bar.category)));
    }
    if is_noise(of) {
        let p = chance(of.even_p.unwrap_or_default());
        let sentence =
            format!("No kind leads: {} that are all alike would spread {all} about like this ({p}).", counted(of.kinds, "kind", "kinds"));
        return said(Tone::Unsure, "No kind leads", sentence);
    }
    let vital = format!("{} of {} make 80 % of {all}", of.vital, counted(of.kinds, "kind", "kinds"));
    match is_few(of) {
        true => said(Tone::Calm, "Few kinds lead", format!("{}: {}.", capital(&vital), listed(&leaders))),
        false => said(
            Tone::Caution,
            "Spread over many",
            format!("{}: there is no short list. First come {}.", capital(&vital), listed(&leaders)),
        ),
    }
}

/// All notes.
pub fn notes(answer: &Answer) -> Vec<Note> {
    let of = &answer.numbers;
    let source = if of.from_log { "Each row counts as one." } else { "Rows are totals: their counts are summed." };
    let weighed = if of.weighted { " Counts are weighed." } else { "" };
    worst_first(vec![
        of_groups(answer),
        (of.overall.kinds > 1 && !of.overall.led && !is_noise(&of.overall)).then(|| {
            let first: Vec<String> = of.overall.bars.iter().take(2).map(|bar| bar.category.clone()).collect();
            note(Tone::Unsure, format!("Which of {} is first may be chance.", listed(&first)), None)
        }),
        of.overall.top20_share.filter(|_| of.overall.kinds >= 5).map(|share| {
            let fifth = of.overall.kinds.div_ceil(5);
            note(Tone::Unsure, format!("The leading fifth, {}, makes {}.", counted(fifth, "kind", "kinds"), percent(share)), None)
        }),
        Some(note(Tone::Unsure, format!("{source}{weighed}"), None)),
        (of.missing > 0).then(|| {
            note(Tone::Unsure, format!("{} without a kind, a count or a weight.", counted(of.missing, "row is", "rows are")), None)
        }),
    ])
}

/// Which groups have a leader of their own, and which have none.
fn of_groups(answer: &Answer) -> Option<Note> {
    let of = &answer.numbers;
    let first = &of.overall.bars.first()?.category;
    let leader = |group: &&Ranking| group.led && !is_noise(group) && group.bars.first().is_some_and(|bar| bar.category != *first);
    let own: Vec<String> = of
        .groups
        .iter()
        .filter(leader)
        .take(GROUPS_NAMED)
        .filter_map(|group| {
            group.bars.first().map(|bar| format!("{} has a leader of its own: {}, {}", group.label, bar.category, share_words(bar)))
        })
        .collect();
    let none: Vec<String> = of.groups.iter().filter(|group| is_noise(group)).take(GROUPS_NAMED).map(|group| group.label.clone()).collect();
    let has = if none.len() == 1 { "has" } else { "have" };
    let what = if own.is_empty() { "no leader" } else { "none" };
    let without = (!none.is_empty()).then(|| format!("{} {has} {what}", listed(&none)));
    let words: Vec<String> = own.into_iter().chain(without).collect();
    (!words.is_empty()).then(|| note(Tone::Caution, format!("{}.", capital(&words.join("; "))), None))
}

/// What the answer makes worth asking.
pub fn next(answer: &Answer) -> Vec<NextQuestion> {
    let of = &answer.numbers;
    let Some(first) = of.overall.bars.first().filter(|_| of.overall.total > 0.0) else { return Vec::new() };
    let rows = NextQuestion::about([0, 0], format!("Which rows are {}?", first.category), "The leading kind, one by one.".to_owned());
    let roles = BTreeMap::from([("category".to_owned(), RoleColumns::One(answer.category.clone()))]);
    let mut share = NextQuestion::of(
        "proportion",
        &format!("How large is the share of {}, surely?", first.category),
        "Its interval, and any claim about it.",
        roles,
    );
    share.options.insert("from".to_owned(), "column".into());
    share.options.insert("value".to_owned(), first.category.clone().into());
    let by_count = of.from_log.then_some(share);
    std::iter::once(rows).chain(by_count).collect()
}
