//! What a ranking says: whether effort will pay on few kinds, and where.

use std::collections::BTreeMap;

use super::compute::{Answer, share_words};
use super::decisions::{CHANGED, LEADS, TOTAL_CHANGED, UNLIKE};
use super::numbers::{Change, KindChange, ParetoBar, Ranking};
use acorn_maths::words::{capital, chance, counted, listed, percent};
use acorn_study::notes::{note, worst_first};
use acorn_study::{FilterStep, NextQuestion, Note, Offer, RoleColumns, Tone, Verdict};

/// A larger part of the kinds needed for 80 % is no few.
const FEW: f64 = 0.4;
/// A kind with a smaller share does not lead by itself.
const LEADER: f64 = 0.3;
/// Of fewer kinds a fifth is no matter of counting.
const FIFTHS: usize = 10;
/// Kinds named in a sentence.
const NAMED: usize = 3;
/// Groups named in a note.
const GROUPS_NAMED: usize = 5;

/// Whether chance alone could have ranked kinds that are all alike.
fn is_noise(of: &Ranking) -> bool {
    of.even_p.is_some() && !UNLIKE.is_made(of.even_p)
}

/// Two of four are few.
fn is_few(of: &Ranking) -> bool {
    of.vital as f64 <= (FEW * of.kinds as f64).max(if of.kinds >= 4 { 2.0 } else { 1.0 })
}

/// The kind that leads by itself: more than half of all, or a third and twice the next one, beyond chance.
fn leader(of: &Ranking) -> Option<&ParetoBar> {
    let first = of.bars.first()?;
    let share = first.share?;
    let next = of.bars.get(1).and_then(|second| second.share).unwrap_or(0.0);
    let is_leader = share > 0.5 || (share > LEADER && share >= 2.0 * next);
    (is_leader && of.led).then_some(first)
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
    let all = total(answer);
    if of.total <= 0.0 {
        return Verdict::new(Tone::Unsure, "Nothing is counted", format!("All counts of {} are 0.", answer.category));
    }
    let leaders: Vec<String> = of.bars.iter().take(NAMED).map(|bar| format!("{} {}", bar.category, share_words(bar))).collect();
    if let Some(change) = &answer.numbers.change {
        return changed(change);
    }
    if of.kinds == 1 {
        return Verdict::new(Tone::Unsure, "One kind", format!("One kind: {all} of {}.", of.bars.first().map_or("", |bar| &bar.category)));
    }
    if is_noise(of) {
        let p = chance(of.even_p.unwrap_or_default());
        let sentence =
            format!("No kind leads: {} that are all alike would spread {all} about like this ({p}).", counted(of.kinds, "kind", "kinds"));
        return Verdict::new(Tone::Unsure, "No kind leads", sentence);
    }
    let make = if of.vital == 1 { "makes" } else { "make" };
    let vital = format!("{} of {} {make} 80 % of {all}", of.vital, counted(of.kinds, "kind", "kinds"));
    if let Some(first) = leader(of) {
        let next = of.bars.get(1).map(|next| format!("; next comes {} {}", next.category, share_words(next))).unwrap_or_default();
        let sentence = format!("One kind leads: {} alone makes {} of {all}{next}.", first.category, share_words(first));
        return Verdict::new(Tone::Calm, "One kind leads", sentence).states(LEADS);
    }
    match is_few(of) {
        true => Verdict::new(Tone::Calm, "Few kinds lead", format!("{}: {}.", capital(&vital), listed(&leaders))).states(UNLIKE),
        false => Verdict::new(
            Tone::Caution,
            "Spread over many",
            format!("{}: there is no short list. First come {}.", capital(&vital), listed(&leaders)),
        )
        .states(UNLIKE),
    }
}

/// What became of the kinds.
fn changed(change: &Change) -> Verdict {
    let [before, after] = &change.labels;
    let kind = |one: &KindChange| {
        let rate = |rate: Option<f64>| rate.map_or("none".to_owned(), percent);
        let p = one.p_adjusted.map(chance).unwrap_or_default();
        format!(
            "{} {}, from {} to {} ({p})",
            if one.changed > 0 { "more" } else { "less" },
            one.category,
            rate(one.rate_before),
            rate(one.rate_after)
        )
    };
    let moved: Vec<&KindChange> = change.kinds.iter().filter(|one| one.changed != 0).collect();
    let what = if change.inspected.is_some() { "of those inspected" } else { "of all defects" };
    let totals = match change.total_p {
        Some(p) if TOTAL_CHANGED.is_made(p) => {
            format!(" Defects in all: {} against {}, {}.", change.totals[0], change.totals[1], chance(p))
        }
        Some(p) => format!(" Defects in all have not shown to change ({}).", chance(p)),
        None => String::new(),
    };
    if moved.is_empty() {
        let sentence = format!("No change shown: between {before} and {after} no kind changed by more than chance explains.{totals}");
        return Verdict::new(Tone::Unsure, "No change shown", sentence).states_if(TOTAL_CHANGED.is_made(change.total_p), TOTAL_CHANGED);
    }
    let tone = if moved.iter().any(|one| one.changed > 0) { Tone::Caution } else { Tone::Calm };
    let named: Vec<String> = moved.iter().take(NAMED).map(|one| kind(one)).collect();
    let more =
        if moved.len() > NAMED { format!(", and {}", counted(moved.len() - NAMED, "more kind", "more kinds")) } else { String::new() };
    let title = counted(moved.len(), "kind changed", "kinds changed");
    Verdict::new(tone, &title, format!("{title}: from {before} to {after}, {what}, {}{more}.{totals}", listed(&named))).states(CHANGED)
}

/// All notes.
pub fn notes(answer: &Answer) -> Vec<Note> {
    let of = &answer.numbers;
    let source = if of.from_log { "Each row counts as one." } else { "Rows are totals: their counts are summed." };
    let weighed = if of.weighted { " Counts are weighed." } else { "" };
    worst_first(vec![
        of_groups(answer),
        same_names(answer),
        by_number(answer),
        mix_only(answer),
        (of.overall.kinds > 1 && !of.overall.led && !is_noise(&of.overall)).then(|| {
            let first: Vec<String> = of.overall.bars.iter().take(2).map(|bar| bar.category.clone()).collect();
            note(Tone::Unsure, format!("Which of {} is first may be chance.", listed(&first)), None)
        }),
        of.overall.top20_share.filter(|_| of.overall.kinds >= FIFTHS).map(|share| {
            let fifth = of.overall.kinds.div_ceil(5);
            note(Tone::Unsure, format!("The leading fifth, {}, makes {}.", counted(fifth, "kind", "kinds"), percent(share)), None)
        }),
        Some(note(Tone::Unsure, format!("{source}{weighed}"), None)),
        (of.missing > 0).then(|| {
            note(Tone::Unsure, format!("{} without a kind, a count or a weight.", counted(of.missing, "row is", "rows are")), None)
        }),
    ])
}

/// Names that look like one, with what makes them one.
fn same_names(answer: &Answer) -> Option<Note> {
    let of = &answer.numbers.same_names;
    let quoted = |name: &str| format!("“{name}”");
    let pairs: Vec<String> = of.iter().take(NAMED).map(|[name, as_name]| format!("{} and {}", quoted(name), quoted(as_name))).collect();
    let more = if of.len() > NAMED { format!(", and {} more", of.len() - NAMED) } else { String::new() };
    let merge = |label: String, pairs: &[[String; 2]]| {
        let mut names = answer.renames.clone();
        names.extend(pairs.iter().map(|[name, as_name]| (name.clone(), as_name.clone())));
        Offer { label, options: serde_json::Map::from_iter([("merge".to_owned(), serde_json::json!(names))]), figure: None }
    };
    let mut offers: Vec<Offer> = of
        .iter()
        .take(NAMED)
        .map(|pair| merge(format!("Count {} as {}", quoted(&pair[0]), quoted(&pair[1])), std::slice::from_ref(pair)))
        .collect();
    if of.len() > 1 {
        offers.push(merge("Count each as the more frequent".to_owned(), of));
    }
    (!of.is_empty()).then(|| Note { offers, ..note(Tone::Caution, format!("These may be one kind: {}{more}.", pairs.join("; ")), None) })
}

/// The leader in number need not lead by weight.
fn by_number(answer: &Answer) -> Option<Note> {
    let (of, first) = (answer.numbers.unweighed.as_ref()?, answer.numbers.overall.bars.first()?);
    let share = of.leader_share.map(percent)?;
    if of.leader == first.category {
        return Some(note(Tone::Unsure, format!("{} leads in number too, {share}.", of.leader), None));
    }
    let sentence = format!("In number {} leads, {share}; weighed, {} does, {}.", of.leader, first.category, share_words(first));
    Some(note(Tone::Caution, sentence, None))
}

/// Without the number inspected nothing is said about more or fewer.
fn mix_only(answer: &Answer) -> Option<Note> {
    let change = answer.numbers.change.as_ref()?;
    let neither = (change.neither > 0).then(|| format!("{} in neither.", counted(change.neither, "row is", "rows are")));
    if change.inspected.is_some() {
        return neither.map(|neither| note(Tone::Unsure, neither, None));
    }
    let sentence = "Only the mix is compared: how many were inspected is not said, so more or fewer in all cannot be told.";
    Some(note(Tone::Unsure, sentence, neither))
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
    let leads = !own.is_empty();
    let words: Vec<String> = own.into_iter().chain(without).collect();
    (!words.is_empty()).then(|| note(Tone::Caution, format!("{}.", capital(&words.join("; "))), None).states_if(leads, LEADS))
}

/// What the answer makes worth asking.
pub fn next(answer: &Answer) -> Vec<NextQuestion> {
    let of = &answer.numbers;
    let Some(first) = of.overall.bars.first().filter(|_| of.overall.total > 0.0) else { return Vec::new() };
    let rows = NextQuestion::about([0, 0], format!("Which rows are {}?", first.category), "The leading kind, one by one.".to_owned());
    let category = || RoleColumns::One(answer.category.clone());
    if !of.from_log {
        return vec![rows];
    }
    let roles = BTreeMap::from([("column".to_owned(), category())]);
    let depends = NextQuestion::of(
        "association",
        &format!("What does {} depend on?", answer.category),
        "Bench, shift, supplier: where a kind comes from.",
        roles,
    );
    let several = of.merged.get(&first.category);
    let names = several.cloned().unwrap_or_else(|| vec![first.category.clone()]);
    let over_time = NextQuestion {
        options: serde_json::Map::from_iter([("chart".to_owned(), "c".into())]),
        only: vec![FilterStep::labels(&answer.category, names)],
        ..NextQuestion::of(
            "control-chart",
            &format!("Is {} steady over time?", first.category),
            "Counted per day, shift or lot.",
            BTreeMap::new(),
        )
    };
    let share = NextQuestion {
        options: serde_json::Map::from_iter([("from".to_owned(), "column".into()), ("value".to_owned(), first.category.clone().into())]),
        ..NextQuestion::of(
            "proportion",
            &format!("How large is the share of {}, surely?", first.category),
            "Its interval, and any claim about it.",
            BTreeMap::from([("category".to_owned(), category())]),
        )
    };
    // A share is that of one label.
    [Some(rows), Some(depends), Some(over_time), several.is_none().then_some(share)].into_iter().flatten().collect()
}
