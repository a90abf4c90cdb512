//! A look in words: centre, spread, shape, and how groups differ.

use std::collections::BTreeMap;

use super::decisions::{DIFFER, FAR, NOT_NORMAL, SPREADS_DIFFER, STRUCTURE};
use super::numbers::{GroupNumbers, Numbers};
use super::params::Params;
use super::structure::Structure;
use acorn_maths::judgement::PLENTY;
use acorn_maths::shape::departure;
use acorn_maths::words::{about, all_of, capital, chance, counted, listed, part_of};
use acorn_study::notes::spreads_not_shown;
use acorn_study::{NextQuestion, Note, Pin, RoleColumns, Tone, Verdict, letter_notes};

/// Fewer values than this leave a shape open.
const ENOUGH: usize = 30;

/// Reads a look.
pub fn read(numbers: &Numbers, params: &Params) -> (Verdict, Vec<Note>, Vec<NextQuestion>) {
    let mut notes: Vec<Note> = [
        sample_size(numbers),
        shape(numbers),
        spreads(numbers),
        far_values(numbers),
        beyond_limits(numbers, params),
        coarse(numbers),
        missing(numbers),
    ]
    .into_iter()
    .flatten()
    .collect();
    letter_notes(&mut notes);
    let verdict = match (&numbers.groups[..], &numbers.structure) {
        ([only], Some(structure)) => {
            let of = [only.mean.unwrap_or_default(), only.sd.unwrap_or_default()];
            let verdict = structure.verdict(&numbers.writer, &params.measure.name, only.n, of);
            verdict.states_if(!matches!(structure, Structure::Coarse(..)), STRUCTURE)
        }
        ([only], None) => of_one(numbers, only),
        _ => of_groups(numbers),
    };
    (verdict, notes, next(numbers, params))
}

fn of_one(numbers: &Numbers, group: &GroupNumbers) -> Verdict {
    let write = &numbers.writer;
    let values = counted(group.n, "value", "values");
    let centre = write.computed(group.mean.unwrap_or_default());
    let Some(sd) = group.sd.filter(|sd| *sd > 0.0) else {
        if group.n == 1 {
            return Verdict::new(
                Tone::Unsure,
                "One value",
                format!("One value, {}: centre and spread need more.", write.value(group.mean.unwrap_or_default())),
            );
        }
        return Verdict::new(
            Tone::Unsure,
            "Nothing varies",
            format!(
                "Nothing varies: {} {}.",
                all_of(group.n, ["value", "values"], ["is", "are"]),
                write.value(group.mean.unwrap_or_default())
            ),
        );
    };
    let spread = write.computed(sd);
    match group.ad_p {
        None => Verdict::new(
            Tone::Unsure,
            "Too few for a shape",
            format!("{values} centre at {centre} and spread by {spread} (sd); the shape needs eight or more."),
        ),
        Some(p) if group.misfits => Verdict::new(
            Tone::Caution,
            "Not normal",
            format!(
                "Not normal: {values} centre at {centre}, spread by {spread} (sd) and are {} ({}).",
                departure(group.skewness, group.kurtosis),
                chance(p)
            ),
        )
        .states(NOT_NORMAL),
        Some(p) if group.n < ENOUGH => Verdict::new(
            Tone::Unsure,
            "Could be normal",
            format!(
                "Could be normal: {values} centre at {centre} and spread by {spread} (sd); too few to tell a normal from a similar shape ({}).",
                chance(p)
            ),
        ),
        Some(p) => Verdict::new(
            Tone::Calm,
            "Fits a normal",
            format!("Fits a normal: {values} centre at {centre} and spread by {spread} (sd); the shape is no surprise ({}).", chance(p)),
        ),
    }
}

fn of_groups(numbers: &Numbers) -> Verdict {
    let write = &numbers.writer;
    let by_mean = |a: &&GroupNumbers, b: &&GroupNumbers| a.mean.unwrap_or(0.0).total_cmp(&b.mean.unwrap_or(0.0));
    // A group of one value is in no test, and so in no sentence about one.
    let least = if numbers.equal_means.is_some() { 2 } else { 1 };
    let filled = || numbers.groups.iter().filter(|group| group.n >= least && group.mean.is_some());
    let (Some(low), Some(high)) = (filled().min_by(by_mean), filled().max_by(by_mean)) else {
        return Verdict::new(Tone::Unsure, "Too few to say", "Too few to say.".to_owned());
    };
    let named =
        |group: &GroupNumbers| format!("{} at {}", group.label.as_deref().unwrap_or(""), write.computed(group.mean.unwrap_or_default()));
    let ends = format!("{} is highest, {} lowest", named(high), named(low));
    match numbers.equal_means.map(|test| test.p) {
        Some(p) if DIFFER.is_made(p) => {
            Verdict::new(Tone::Caution, "The groups differ", format!("The groups differ: {ends} ({}).", chance(p))).states(DIFFER)
        }
        Some(p) => Verdict::new(
            Tone::Calm,
            "No difference to be seen",
            format!("No difference of the centres can be shown: {ends}, and chance alone parts them as far ({}).", chance(p)),
        ),
        None => Verdict::new(Tone::Unsure, "Too few to say", format!("Too few values a group to compare: {ends}.")),
    }
}

fn note(tone: Tone, sentence: String, detail: Option<String>, pin: Option<Pin>) -> Note {
    Note { pin, ..Note::new(tone, sentence, detail) }
}

/// How well centre and spread are known.
fn sample_size(numbers: &Numbers) -> Option<Note> {
    let least = numbers.groups.iter().filter(|group| group.n > 0).min_by_key(|group| group.n)?;
    if least.n >= ENOUGH {
        return None;
    }
    let whose = least.label.as_ref().map(|label| format!("{label}: only ")).unwrap_or_else(|| "Only ".to_owned());
    let values = counted(least.n, "value", "values");
    let detail = least
        .sd_ci95
        .map(|[low, high]| format!("Its sd may lie from {} to {}.", numbers.writer.computed(low), numbers.writer.computed(high)));
    Some(note(Tone::Caution, format!("{whose}{values}; the shape of so few says little. {ENOUGH} or more are usual."), detail, None))
}

/// Which groups are not normal; and that very many values find every departure.
fn shape(numbers: &Numbers) -> Option<Note> {
    if let [only] = &numbers.groups[..] {
        let p = only.ad_p?;
        let detail = "Judge by the picture how much it matters.".to_owned();
        return (only.n >= PLENTY && NOT_NORMAL.is_made(p)).then(|| {
            note(
                Tone::Unsure,
                format!("With {} even a small departure from a normal is found.", counted(only.n, "value", "values")),
                Some(detail),
                None,
            )
        });
    }
    // One of so many would be odd by chance at 5 % for each (Bonferroni).
    let tested = numbers.groups.iter().filter(|group| group.ad_p.is_some()).count();
    let is_odd = |group: &&GroupNumbers| group.misfits && NOT_NORMAL.is_made(group.ad_p.map(|p| p * tested as f64));
    let odd: Vec<String> = numbers.groups.iter().filter(is_odd).map(|group| group.label.clone().unwrap_or_default()).collect();
    if odd.is_empty() {
        let filled = numbers.groups.iter().filter(|group| group.n > 0).count();
        return Some(match tested {
            0 => note(Tone::Unsure, "No group has the eight values that a test of its shape takes.".to_owned(), None, None),
            _ if tested == filled => note(Tone::Calm, "No group is seen to depart from a normal shape.".to_owned(), None, None),
            _ => {
                let groups = part_of(tested, filled, ["group", "groups"], ["has", "have"]);
                let sentence = format!("{groups} enough values to test the shape, and no departure from a normal is seen.");
                note(Tone::Unsure, sentence, None, None)
            }
        });
    }
    let shown: Vec<String> = odd.iter().take(4).cloned().collect();
    let more = odd.len() - shown.len();
    let names = listed(&shown) + &if more > 0 { format!(" and {more} more") } else { String::new() };
    Some(note(Tone::Caution, format!("Not normal: {names}."), None, None).states(NOT_NORMAL))
}

/// Whether groups spread alike.
fn spreads(numbers: &Numbers) -> Option<Note> {
    let test = numbers.equal_spread?;
    let by_sd = |a: &&GroupNumbers, b: &&GroupNumbers| a.sd.unwrap_or(0.0).total_cmp(&b.sd.unwrap_or(0.0));
    let widest = numbers.groups.iter().filter(|group| group.sd.is_some()).max_by(by_sd)?;
    if !SPREADS_DIFFER.is_made(test.p) {
        return spreads_not_shown(test.p, numbers.groups.iter().map(|group| group.n));
    }
    let sentence = format!(
        "Spreads differ ({}): {} varies most, by {}.",
        chance(test.p),
        widest.label.as_deref().unwrap_or(""),
        numbers.writer.computed(widest.sd?)
    );
    Some(note(Tone::Caution, sentence, None, None).states(SPREADS_DIFFER))
}

fn far_values(numbers: &Numbers) -> Option<Note> {
    let far: usize = numbers.groups.iter().filter_map(|group| group.box_plot.as_ref()).map(|one| one.far_count).sum();
    let expected: f64 = numbers.groups.iter().filter(|group| group.n > 0).map(|group| far_expected(group.n)).sum();
    let is_coarse = matches!(numbers.structure, Some(Structure::Coarse(..)));
    (far > 0 && !is_coarse && far as f64 > expected + 2.0 * expected.sqrt()).then(|| {
        let detail = format!("Normal values would have about {}.", about(expected));
        note(
            Tone::Caution,
            format!("{} far beyond the quartiles: mistakes, or a cause of their own?", counted(far, "value lies", "values lie")),
            Some(detail),
            None,
        )
        .states(FAR)
    })
}

/// Values beyond the whiskers to be expected among n normal ones: 0.7 % of many, and a third of a value more because quartiles
/// of few are loose (the 0.4/n + 0.007 of Hoaglin, Iglewicz and Tukey 1986, J. American Statistical Association 81, with the
/// quartiles used here; within 0.13 of simulated means at every n from 4).
fn far_expected(n: usize) -> f64 {
    0.33 + 0.006_98 * n as f64
}

fn beyond_limits(numbers: &Numbers, params: &Params) -> Option<Note> {
    let info = &params.measure.info;
    if info.lsl.is_none() && info.usl.is_none() {
        return None;
    }
    let out = params.values.iter().filter(|v| info.lsl.is_some_and(|lsl| **v < lsl) || info.usl.is_some_and(|usl| **v > usl)).count();
    let n: usize = numbers.groups.iter().map(|group| group.n).sum();
    Some(if out == 0 {
        let all = capital(&all_of(n, ["value", "values"], ["lies", "lie"]));
        note(Tone::Calm, format!("{all} within the specification limits."), None, None)
    } else {
        let lie = part_of(out, n, ["value", "values"], ["lies", "lie"]);
        note(Tone::Alarm, format!("{lie} beyond the specification limits."), None, None)
    })
}

/// Few different values: the gauge reads coarsely, and histograms and tests mislead.
fn coarse(numbers: &Numbers) -> Option<Note> {
    let distinct = numbers.coarse?;
    let detail = "Record one more decimal, or use a finer gauge.".to_owned();
    Some(note(Tone::Caution, format!("Only {distinct} different values: the gauge reads coarsely."), Some(detail), None))
}

fn missing(numbers: &Numbers) -> Option<Note> {
    let missing: usize = numbers.groups.iter().map(|group| group.missing).sum();
    (missing > 0).then(|| note(Tone::Unsure, format!("{} missing.", capital(&counted(missing, "value is", "values are"))), None, None))
}

fn next(numbers: &Numbers, params: &Params) -> Vec<NextQuestion> {
    let one = |name: &str| RoleColumns::One(name.to_owned());
    let by = numbers.structure.as_ref().and_then(Structure::by).map(|by| {
        let roles = BTreeMap::from([("measure".to_owned(), one(&params.measure.name)), ("group".to_owned(), one(by))]);
        let question = format!("Does {} differ by {by}?", params.measure.name);
        NextQuestion::of("compare", &question, "Streams that differ are judged one by one.", roles)
    });
    let peaks = matches!(numbers.structure, Some(Structure::TwoGroups(_))).then(|| {
        let roles = BTreeMap::from([("measure".to_owned(), one(&params.measure.name))]);
        let why = "Tries every other column: one that tells the two groups apart stands out.";
        NextQuestion::of("screening", &format!("What goes with {}?", params.measure.name), why, roles)
    });
    let roles = BTreeMap::from([("measure".to_owned(), RoleColumns::One(params.measure.name.clone()))]);
    let steady = NextQuestion::of("control-chart", "Is it steady?", "A shape means little while the process moves.", roles);
    by.into_iter().chain(peaks).chain([steady]).collect()
}
