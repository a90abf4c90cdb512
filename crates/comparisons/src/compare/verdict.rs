//! A comparison in words: how far apart, how sure, and which test says so.

use std::collections::BTreeMap;

use super::decisions::{DIFFER, MEAN_DIFFERS, OUTSIDE, PAIRS_DIFFER, SPREADS_ALONE, SPREADS_DIFFER};
use super::numbers::{Chosen, Group, Numbers, OneMean, Pair};
use super::params::{Params, Test};
use acorn_maths::words::{capital, chance, counted, grouped, listed, percent};
use acorn_study::notes::{note, spreads_not_shown, worst_first};
use acorn_study::{NextQuestion, Note, RoleColumns, Tone, Verdict};

/// Pairs and groups named in a note.
const NAMED: usize = 4;
/// A difference of so small a share of the tolerance is of no matter.
const NO_MATTER: f64 = 0.01;
/// Sds so near to each other matter as little.
const LITTLE_WIDER: f64 = 1.25;
/// Groups of fewer values say little.
const FEW: usize = 5;

/// Two groups, or the two that are farthest apart: the higher, the lower, how far with the interval, and the chance.
struct Apart {
    high: String,
    low: String,
    difference: f64,
    ci95: [f64; 2],
}

impl Apart {
    fn of(a: &str, b: &str, difference: f64, ci95: [f64; 2]) -> Apart {
        let [high, low] = if difference < 0.0 { [b, a] } else { [a, b] }.map(str::to_owned);
        let ci95 = if difference < 0.0 { [-ci95[1], -ci95[0]] } else { ci95 };
        Apart { high, low, difference: difference.abs(), ci95 }
    }
}

impl Numbers {
    /// The pairs that the chosen test goes with.
    pub fn pairs(&self) -> &[Pair] {
        if self.test == Chosen::Welch { &self.games_howell } else { &self.tukey }
    }

    /// The chance of the chosen test, and its name.
    fn judged(&self) -> Option<(f64, &'static str)> {
        match self.test {
            Chosen::Anova => self.anova.map(|test| (test.p, if self.groups.len() == 2 { "pooled t" } else { "analysis of variance" })),
            Chosen::Welch => self.welch.map(|test| (test.p, "Welch")),
            Chosen::Kruskal => self.kruskal.map(|test| (test.p, "Kruskal-Wallis")),
            Chosen::T | Chosen::None => None,
        }
    }

    fn farthest(&self) -> Option<Apart> {
        if let Some(two) = &self.two_sample {
            let ci95 = two.welch.filter(|_| self.test == Chosen::Welch).unwrap_or(two.pooled).ci95;
            return Some(Apart::of(&self.groups[0].label, &self.groups[1].label, two.difference, ci95));
        }
        let far = |a: &&Pair, b: &&Pair| a.difference.abs().total_cmp(&b.difference.abs());
        self.pairs().iter().max_by(far).map(|pair| Apart::of(&pair.a, &pair.b, pair.difference, pair.ci95))
    }
}

/// The verdict.
pub fn read(numbers: &Numbers, params: &Params) -> Verdict {
    match (params.test, numbers.paired.or(numbers.one_sample)) {
        (Test::Groups, _) => of_groups(numbers),
        (_, Some(one)) => of_one(numbers, params, &one),
        _ => Verdict::new(Tone::Unsure, "Too few to say", "Too few to say: it takes two values that differ.".to_owned()),
    }
}

fn of_groups(numbers: &Numbers) -> Verdict {
    let write = &numbers.writer;
    let Some((p, test)) = numbers.judged() else {
        let sentence = if numbers.groups.len() < 2 {
            "One group alone has nothing to be compared with."
        } else {
            "No group has two values that differ."
        };
        return Verdict::new(Tone::Unsure, "Too few to say", format!("Too few to say: {sentence}"));
    };
    let apart = numbers.farthest().map(|apart| {
        let [low, high] = apart.ci95;
        (
            format!("{} is {} higher than {}", apart.high, write.computed(apart.difference), apart.low),
            format!("likely {}", write.interval(low, high)),
        )
    });
    let many = numbers.groups.len() > 2;
    if let Some(verdict) = of_no_matter(numbers, p) {
        return verdict;
    }
    if DIFFER.is_made(p) {
        let of_all = if many { ", the two farthest apart" } else { "" };
        let how = match apart {
            Some((words, likely)) => format!("{words}{of_all} ({likely}; {test}, {})", chance(p)),
            None => format!("{test}, {}", chance(p)),
        };
        return Verdict::new(Tone::Caution, "They differ", format!("They differ: {how}.")).states(DIFFER);
    }
    // Means were looked at first: spreads are the verdict only where they leave little doubt.
    if let Some((wide, narrow, p)) = unlike_spreads(numbers).filter(|(.., p)| SPREADS_ALONE.is_made(*p)) {
        let write = |group: &Group| write.computed(group.sd.unwrap_or_default());
        let sentence = format!(
            "Spreads differ: the sd of {} is {}, that of {} is {} ({}); the means are not shown to differ.",
            wide.label,
            write(wide),
            narrow.label,
            write(narrow),
            chance(p)
        );
        return Verdict::new(Tone::Caution, "Spreads differ", sentence).states(SPREADS_ALONE);
    }
    let title = "No difference shown";
    let how = match apart {
        Some((words, likely)) => format!("{words}, {likely}, which chance explains ({test}, {})", chance(p)),
        None => format!("{test}, {}", chance(p)),
    };
    Verdict::new(Tone::Unsure, title, format!("{title}: {how}."))
}

/// A difference that is there and matters to nobody: even at the far end of its interval next to nothing of the tolerance.
fn of_no_matter(numbers: &Numbers, p: f64) -> Option<Verdict> {
    let (apart, room) = (numbers.farthest()?, numbers.tolerance?);
    let most = apart.ci95[0].abs().max(apart.ci95[1].abs()) / room;
    let sentence = format!(
        "They differ by next to nothing: {} is {} higher than {}, at most {} of the tolerance ({}).",
        apart.high,
        numbers.writer.computed(apart.difference),
        apart.low,
        percent(most),
        chance(p)
    );
    let spread = |group: &Group| group.sd.unwrap_or_default();
    let alike = unlike_spreads(numbers).is_none_or(|(wide, narrow, _)| spread(wide) <= LITTLE_WIDER * spread(narrow));
    let is_none = DIFFER.is_made(p) && most <= NO_MATTER && alike;
    is_none.then(|| Verdict::new(Tone::Calm, "They differ by next to nothing", sentence).states(DIFFER))
}

/// The group that spreads most and the one that spreads least, where that is beyond chance.
fn unlike_spreads(numbers: &Numbers) -> Option<(&Group, &Group, f64)> {
    let test = numbers.brown_forsythe.filter(|test| SPREADS_DIFFER.is_made(test.p))?;
    let by = |a: &&Group, b: &&Group| a.sd.unwrap_or_default().total_cmp(&b.sd.unwrap_or_default());
    let known = || numbers.groups.iter().filter(|group| group.sd.is_some());
    Some((known().max_by(by)?, known().min_by(by)?, test.p))
}

fn of_one(numbers: &Numbers, params: &Params, one: &OneMean) -> Verdict {
    let write = &numbers.writer;
    let [low, high] = one.ci95;
    let against = params.against.unwrap_or_default();
    let likely = format!("likely {}; {}", write.interval(low, high), chance(one.p));
    let differs = MEAN_DIFFERS.is_made(one.p);
    let label = &numbers.groups[0].label;
    match (params.test, differs) {
        (Test::Paired, true) => {
            Verdict::new(Tone::Caution, "They differ", format!("They differ: {label} is {} on average ({likely}).", write.signed(one.mean)))
                .states(MEAN_DIFFERS)
        }
        (Test::Paired, false) => Verdict::new(
            Tone::Unsure,
            "No difference shown",
            format!("No difference shown: {label} is {} on average ({likely}).", write.signed(one.mean)),
        ),
        (_, true) => {
            let apart = write.signed(one.mean - against);
            Verdict::new(
                Tone::Caution,
                "Not that value",
                format!("Not that value: the mean is {}, {apart} from {} ({likely}).", write.computed(one.mean), write.value(against)),
            )
            .states(MEAN_DIFFERS)
        }
        (_, false) => Verdict::new(
            Tone::Unsure,
            "Could be that value",
            format!("Could be that value: the mean is {}, which goes with {} ({likely}).", write.computed(one.mean), write.value(against)),
        ),
    }
}

/// All notes.
pub fn notes(numbers: &Numbers, params: &Params) -> Vec<Note> {
    worst_first(vec![
        pairs(numbers),
        decided(numbers),
        spreads(numbers),
        why(numbers),
        few(numbers),
        needed(numbers, params),
        (numbers.missing > 0).then(|| {
            note(
                Tone::Unsure,
                format!("{}.", counted(numbers.missing, "value is missing and left out", "values are missing and left out")),
                None,
            )
        }),
    ])
}

/// Which pairs differ.
fn pairs(numbers: &Numbers) -> Option<Note> {
    let all = numbers.pairs();
    let apart: Vec<&Pair> = all.iter().filter(|pair| PAIRS_DIFFER.is_made(pair.p)).collect();
    if all.is_empty() {
        return None;
    }
    if apart.is_empty() {
        return Some(note(
            Tone::Unsure,
            format!("No pair of the {} differs by more than chance explains, all of them together.", grouped(all.len())),
            None,
        ));
    }
    let name = |pair: &&Pair| format!("{} and {} ({})", pair.a, pair.b, numbers.writer.signed(pair.difference));
    let named: Vec<String> = apart.iter().take(NAMED).map(name).collect();
    let more =
        if apart.len() > NAMED { format!(", and {}", counted(apart.len() - NAMED, "more pair", "more pairs")) } else { String::new() };
    let sentence = format!(
        "{} of {} {}: {}{more}.",
        apart.len(),
        counted(all.len(), "pair", "pairs"),
        if apart.len() == 1 { "differs" } else { "differ" },
        listed(&named)
    );
    Some(note(Tone::Caution, sentence, Some("For all pairs together, at 0.05.".to_owned())).states(PAIRS_DIFFER))
}

/// Which groups lie outside the decision limits.
fn decided(numbers: &Numbers) -> Option<Note> {
    let alike = unlike_spreads(numbers).is_none() && numbers.test != Chosen::Kruskal;
    let anom = numbers.anom.as_ref().filter(|anom| anom.len() > 2 && alike)?;
    let outside: Vec<String> = anom
        .iter()
        .filter(|one| one.outside)
        .map(|one| format!("{} {}", one.label, if one.mean > one.ucl { "above" } else { "below" }))
        .collect();
    let limits = numbers.writer.interval(anom[0].lcl, anom[0].ucl);
    Some(match outside.is_empty() {
        true => note(Tone::Calm, format!("No group lies outside the decision limits, {limits}."), None),
        false => note(Tone::Caution, format!("Outside the decision limits, {limits}: {}.", listed(&outside)), None).states(OUTSIDE),
    })
}

/// Spread as well as centre.
fn spreads(numbers: &Numbers) -> Option<Note> {
    let test = numbers.brown_forsythe?;
    if !SPREADS_DIFFER.is_made(test.p) {
        return spreads_not_shown(test.p, numbers.groups.iter().map(|group| group.n));
    }
    let means_differ = numbers.judged().is_some_and(|(p, _)| DIFFER.is_made(p));
    if !means_differ && SPREADS_ALONE.is_made(test.p) {
        // That is the verdict.
        return None;
    }
    let (wide, narrow, _) = unlike_spreads(numbers)?;
    let write = |group: &Group| numbers.writer.computed(group.sd.unwrap_or_default());
    let sentence = format!(
        "Their spreads {} ({}): {} varies most (sd {}), {} least (sd {}).",
        if means_differ { "differ too" } else { "may differ" },
        chance(test.p),
        wide.label,
        write(wide),
        narrow.label,
        write(narrow)
    );
    Some(note(Tone::Caution, sentence, None).states(SPREADS_DIFFER))
}

/// The test and its reason.
fn why(numbers: &Numbers) -> Option<Note> {
    let sentence = match numbers.test {
        Chosen::Anova => {
            let why = match numbers.groups.iter().find(|group| group.sd.is_none_or(|sd| sd <= 0.0)) {
                Some(flat) if flat.n < 2 => format!("{} has one value", flat.label),
                Some(flat) => format!("{} has no two values that differ", flat.label),
                None => "two values a group tell nothing of its own".to_owned(),
            };
            format!("Tested with one spread for all groups, because {why}.")
        }
        Chosen::Welch => "Welch’s test: each group is judged by its own spread.".to_owned(),
        Chosen::Kruskal => "Tested by ranks, because a group is small and the values are far from normal.".to_owned(),
        Chosen::T | Chosen::None => return None,
    };
    Some(note(Tone::Unsure, sentence, None))
}

fn few(numbers: &Numbers) -> Option<Note> {
    let small: Vec<String> =
        numbers.groups.iter().filter(|group| group.n < FEW).map(|group| format!("{} ({})", group.label, group.n)).collect();
    let named = listed(&small.iter().take(NAMED).cloned().collect::<Vec<_>>());
    (!small.is_empty()).then(|| note(Tone::Unsure, format!("Few values in {named}: their means are hardly known."), None))
}

fn needed(numbers: &Numbers, params: &Params) -> Option<Note> {
    let needed = numbers.needed?;
    let place = if params.test == Test::Groups { " in each of two groups" } else { "" };
    let sentence = format!(
        "To find a difference of {} nine times in ten it takes {}{place}.",
        numbers.writer.computed(needed.delta),
        counted(needed.each, "value", "values")
    );
    Some(note(Tone::Unsure, sentence, None))
}

/// What the answer makes worth asking.
pub fn next(numbers: &Numbers, params: &Params) -> Vec<NextQuestion> {
    let Some(group) = params.group.filter(|_| numbers.groups.len() > 1) else { return Vec::new() };
    let with = |role: &str| {
        let pair = |role: &str, column: &str| (role.to_owned(), RoleColumns::One(column.to_owned()));
        BTreeMap::from([pair("measure", &params.measure.name), pair(role, &group.name)])
    };
    let each = capital(&format!("each {}", group.name));
    vec![
        NextQuestion::of("control-chart", &format!("Is {} steady?", each.to_lowercase()), "A phase for each.", with("phase")),
        NextQuestion::of("indices", &format!("Can {} meet the limits?", each.to_lowercase()), "Its indices, one by one.", with("group")),
        NextQuestion::of(
            "screening",
            &format!("What else goes with {}?", params.measure.name),
            "Every other column, chance reckoned with.",
            BTreeMap::from([("measure".to_owned(), RoleColumns::One(params.measure.name.clone()))]),
        ),
        NextQuestion::of("distribution", "What do they look like?", "Centre, spread and shape of each.", with("group")),
    ]
}
