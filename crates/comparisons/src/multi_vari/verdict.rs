//! A multi-vari study in words: which family, how surely, what that usually means, and what stands out.

use std::collections::BTreeMap;

use super::arrangement::Arrangement;
use super::compute::{Answer, WITHIN};
use super::decisions::{SAME_EVERYWHERE, STANDS_OUT};
use super::numbers::{Factor, Family, Numbers, Standout};
use acorn_maths::words::{capital, chance, counted, level, listed, percent, span};
use acorn_study::notes::{note, worst_first};
use acorn_study::{NextQuestion, Note, RoleColumns, Tone, Verdict};

/// A family that comes out as the largest so often is said to be it, or likely to be it.
const SURE: f64 = 0.95;
const LIKELY: f64 = 0.7;
/// A family with fewer df is hardly known.
const FEW_DF: f64 = 5.0;
/// From this share of the innermost family on, most of it is measuring.
const MOSTLY: f64 = 0.5;
/// Standouts named in notes.
const NAMED: usize = 3;
/// Labels that a comparison takes, and that make a legible chart.
const COMPARED_MOST: usize = 60;
const PHASES_MOST: usize = 12;
/// Words in the name of a column that is about time.
const TIMES: [&str; 12] = ["time", "hour", "day", "date", "week", "month", "shift", "minute", "lot", "batch", "started", "taken"];

/// What a family usually comes from.
#[derive(Clone, Copy, PartialEq)]
enum Source {
    Time,
    Piece,
    Place,
    Within,
}

impl Answer {
    fn family(&self, name: &str) -> Option<(usize, &Family)> {
        self.whole.families.iter().enumerate().find(|(_, family)| family.name == name)
    }

    /// A place has the same labels everywhere and the same effect; time is told by its kind or its name.
    fn source(&self, place: usize) -> Source {
        let Some(factor) = self.whole.factors.get(place) else { return Source::Within };
        let words: Vec<String> = factor.name.to_lowercase().split(|letter: char| !letter.is_alphabetic()).map(str::to_owned).collect();
        let timely = words.iter().any(|word| TIMES.contains(&word.as_str()));
        match () {
            () if self.is_time(place) || timely => Source::Time,
            () if factor.ends.is_some() => Source::Place,
            () => Source::Piece,
        }
    }
}

fn means(source: Source, gauged: bool) -> &'static str {
    match (source, gauged) {
        (Source::Time, _) => "look for what changes over time: wear, shifts, warm-up, material",
        (Source::Piece, _) => "look for what differs from one to the next: material, handling, setting",
        (Source::Place, _) => "look at what is fixed to the place: tooling, position, support",
        (Source::Within, true) => "look within the piece: tooling, position, finish",
        (Source::Within, false) => "look within the piece, tooling and position, and at the gauge, which nobody has studied yet",
    }
}

/// The verdict.
pub fn read(answer: &Answer) -> Verdict {
    let of = &answer.whole;
    let few = |words: &str| Verdict::new(Tone::Unsure, "Too few to say", format!("Too few to say: {words}."));
    if of.n < 2 {
        return few("there is one value");
    }
    let Some((place, family)) = of.dominant.as_ref().and_then(|name| answer.family(name)) else {
        return match of.families.iter().all(|family| family.df <= 0.0) {
            true => few("no factor has two levels"),
            false => Verdict::new(Tone::Unsure, "Nothing varies", "Nothing varies: all values are equal.".to_owned()),
        };
    };
    let likely = family.share_ci95.map(|[low, high]| format!(", likely {}", span(&percent(low), &percent(high)))).unwrap_or_default();
    if of.families.iter().filter(|family| family.df > 0.0).count() < 2 {
        return few("no two families can be told apart");
    }
    let measured = of.measuring.as_ref().filter(|measured| measured.family == family.name && measured.share >= MOSTLY);
    if let Some(measured) = measured {
        let sentence = format!(
            "Mostly measuring: {} of the variation is {}{likely}, and {} of that is the gauge ({}).",
            percent(family.share),
            said_of(&family.name),
            percent(measured.share),
            measured.gauge
        );
        return Verdict::new(Tone::Caution, "Mostly measuring", sentence);
    }
    let source = answer.source(place);
    let look = means(source, of.measuring.is_some());
    if family.largest >= LIKELY {
        let how = if family.largest >= SURE { "Mostly" } else { "Likely" };
        let title = format!("{how} {}", family.name);
        let alike = same_everywhere(of, place);
        // A factor beneath with one level for each is the same thing under another name.
        if let Some(twin) = twin(of, place) {
            let title = format!("{how} {} or {twin}", family.name);
            let sentence = format!(
                "{title}: {} of the variation{likely}; each {} has one {twin}, so that the two cannot be told apart. Let each {twin} work in \
                 every {}.",
                percent(family.share),
                family.name,
                family.name
            );
            return Verdict::new(Tone::Caution, &title, sentence);
        }
        return Verdict::new(Tone::Caution, &title, format!("{title}: {} of the variation{likely}{alike}; {look}.", percent(family.share)));
    }
    let second = second(of, family).map(|second| format!(", against {} for {}", percent(second.share), second.name)).unwrap_or_default();
    let title = "No family stands out";
    Verdict::new(Tone::Unsure, title, format!("{title}: {} has {} of the variation{likely}{second}.", family.name, percent(family.share)))
}

/// The factor right beneath one that has one level for each of its levels.
fn twin(of: &Numbers, place: usize) -> Option<&str> {
    let beneath = of.families.get(place + 1).filter(|family| family.df <= 0.0)?;
    of.factors.get(place + 1).filter(|factor| factor.name == beneath.name).map(|factor| factor.name.as_str())
}

/// The family that may be the largest one instead.
fn second<'n>(of: &'n Numbers, largest: &Family) -> Option<&'n Family> {
    of.families.iter().filter(|other| other.name != largest.name).max_by(|a, b| a.largest.total_cmp(&b.largest))
}

/// That another family may be the largest, when it is not sure.
fn rival(answer: &Answer) -> Option<Note> {
    let of = &answer.whole;
    let (_, first) = of.dominant.as_ref().and_then(|name| answer.family(name)).filter(|(_, first)| first.largest < SURE)?;
    let rival = second(of, first).filter(|rival| rival.largest > 0.0)?;
    let [_, high] = rival.share_ci95?;
    let few = if rival.df < FEW_DF { format!(": it rests on {} degrees of freedom", rival.df) } else { String::new() };
    Some(note(Tone::Unsure, format!("{} may have up to {} as well{few}.", capital(&rival.name), percent(high)), None))
}

fn said_of(name: &str) -> String {
    if name == WITHIN { "within the innermost level".to_owned() } else { name.to_owned() }
}

/// The ends of a crossed factor that does the same everywhere.
fn same_everywhere(of: &Numbers, place: usize) -> String {
    let ends = of.factors.get(place).and_then(|factor| factor.ends.as_ref());
    ends.map(|[high, low]| format!(", {} high and {} low everywhere", high.label, low.label)).unwrap_or_default()
}

/// All notes.
pub fn notes(answer: &Answer) -> Vec<Note> {
    let of = &answer.whole;
    let mut notes: Vec<Option<Note>> = of.factors.iter().enumerate().map(|(level, factor)| lies(answer, level, factor)).collect();
    notes.extend(of.standouts.iter().take(NAMED).map(|one| Some(stands_out(of, one))));
    notes.push(rival(answer));
    notes.push(recurring(answer));
    notes.push(gauge(answer));
    notes.push(one_each(answer));
    notes.push(answer.set_to_zero.then(|| {
        let detail = match &of.without {
            Some(rest) => format!("What {} does everywhere hides what lies outside it; the note on it says what that leaves.", rest.factor),
            None => "A component below 0 comes of chance, or of pieces that were evened out on purpose.".to_owned(),
        };
        note(Tone::Unsure, "A family came out below 0 and was set to 0.", Some(detail))
    }));
    notes.push((of.missing > 0).then(|| {
        let words = counted(of.missing, "row lacks a value or a label and is left out", "rows lack a value or a label and are left out");
        note(Tone::Unsure, format!("{words}."), None)
    }));
    worst_first(notes)
}

/// How a factor lies to the one before it, where that is not plain nesting.
fn lies(answer: &Answer, level: usize, factor: &Factor) -> Option<Note> {
    let of = &answer.whole;
    let name = &factor.name;
    if of.families[level].df <= 0.0 {
        let sentence = match level.checked_sub(1).map(|before| &of.factors[before]) {
            None => format!("{} has one level, so that nothing can be said of it.", capital(name)),
            Some(before) => {
                format!("Each {} has one {name}, so that they cannot be told apart; put {name} before {}.", before.name, before.name)
            }
        };
        return Some(note(Tone::Caution, sentence, None));
    }
    let before = &of.factors[level.checked_sub(1)?];
    let ((share, p), [high, low]) = factor.alike.zip(factor.alike_p).zip(factor.ends.as_ref())?;
    let crossed = match factor.arrangement {
        Arrangement::Crossed => format!("{} is crossed with {}: each has the same {} labels", capital(name), before.name, factor.labels),
        _ => format!("Some labels of {name} stand under several labels of {}", before.name),
    };
    let write = &of.writer;
    let sentence = format!(
        "{crossed}, and they do the same everywhere ({} of the squares of {name}, {}): {} {} and {} {} on average.",
        percent(share),
        chance(p),
        high.label,
        write.signed(high.effect),
        low.label,
        write.signed(low.effect)
    );
    let rest = of.without.as_ref().filter(|rest| rest.factor == *name).map(|rest| {
        let mut left: Vec<&Family> = rest.families.iter().filter(|family| family.df > 0.0).collect();
        left.sort_by(|a, b| b.share.total_cmp(&a.share));
        let parts: Vec<String> = left.iter().map(|family| format!("{} {}", family.name, percent(family.share))).collect();
        format!("What that leaves: {}.", listed(&parts))
    });
    Some(note(Tone::Caution, sentence, rest).states(SAME_EVERYWHERE))
}

/// Labels that recur under several parents without doing the same there.
fn recurring(answer: &Answer) -> Option<Note> {
    let of = &answer.whole;
    let recurs = |level: &usize| {
        let factor = &of.factors[*level];
        let again = matches!(factor.arrangement, Arrangement::Crossed | Arrangement::Partly);
        again && factor.ends.is_none() && of.families[*level].df > 0.0
    };
    let names: Vec<String> = (0..of.factors.len()).filter(recurs).map(|level| of.factors[level].name.clone()).collect();
    let does = if names.len() == 1 { "does" } else { "do" };
    (!names.is_empty()).then(|| {
        let sentence =
            format!("The labels of {} recur and {does} not do the same each time: they are taken as different ones.", listed(&names));
        note(Tone::Unsure, sentence, None)
    })
}

/// A level that stands out.
fn stands_out(of: &Numbers, one: &Standout) -> Note {
    let inner = of.factors.get(one.levels.len()).map_or("values", |factor| &factor.name);
    let path: Vec<String> = of.factors.iter().zip(&one.levels).map(|(factor, label)| level(&factor.name, label)).collect();
    let named = capital(&path.join(", "));
    let high = one.apart.map(|apart| {
        let way = if apart > 0.0 { "high" } else { "low" };
        format!("is {way} ({} against the others)", of.writer.signed(apart))
    });
    let spread = one.spread.map(|ratio| match ratio < 1.0 {
        true => format!("its {inner} hardly {} ({ratio:.2} times the sd of the others)", if inner == "values" { "vary" } else { "varies" }),
        false => format!("its {inner} {} more ({ratio:.1} times the sd of the others)", if inner == "values" { "vary" } else { "varies" }),
    });
    let words = match (high, spread) {
        (Some(high), Some(spread)) => format!("{named} {high}, and {spread}"),
        (Some(high), None) => format!("{named} {high}"),
        (None, spread) => format!("{named} stands out: {}", spread.unwrap_or_default()),
    };
    note(Tone::Caution, format!("{words}."), Some(format!("For all of its kind together, {}.", chance(one.p)))).states(STANDS_OUT)
}

/// How much of the innermost family is measuring.
fn gauge(answer: &Answer) -> Option<Note> {
    let measured = answer.whole.measuring.as_ref()?;
    let tone = if measured.share >= MOSTLY { Tone::Alarm } else { Tone::Calm };
    let sentence = format!(
        "{} of {} is measuring ({}), {} of all.",
        capital(&percent(measured.share)),
        measured.family,
        measured.gauge,
        percent(measured.of_all)
    );
    Some(note(tone, sentence, Some(format!("Its sd is {} by its study of {}.", answer.whole.writer.computed(measured.sd), measured.day))))
}

/// One value a cell: the innermost factor and what is within it are one.
fn one_each(answer: &Answer) -> Option<Note> {
    let of = &answer.whole;
    let factor = of.factors.get(answer.innermost).filter(|_| of.families.last().is_some_and(|family| family.df <= 0.0))?;
    let sentence = format!("Each combination has one value, so that measuring counts as {}.", factor.name);
    Some(note(Tone::Unsure, sentence, Some("Two readings of each would tell them apart.".to_owned())))
}

/// What the answer makes worth asking.
pub fn next(answer: &Answer) -> Vec<NextQuestion> {
    let of = &answer.whole;
    let factor = of.dominant.as_ref().and_then(|name| of.factors.iter().find(|factor| factor.name == *name));
    let ends = of.factors.iter().filter(|factor| factor.ends.is_some() && SAME_EVERYWHERE.is_made(factor.alike_p));
    let mut asked: Vec<&str> = Vec::new();
    let mut next = Vec::new();
    for factor in factor.into_iter().chain(ends) {
        if asked.contains(&factor.name.as_str()) {
            continue;
        }
        asked.push(&factor.name);
        let with = |role: &str| {
            let pair = |role: &str, column: &str| (role.to_owned(), RoleColumns::One(column.to_owned()));
            BTreeMap::from([pair("measure", &answer.measure), pair(role, &factor.name)])
        };
        let name = &factor.name;
        let same =
            if factor.arrangement == Arrangement::Nested { "Its levels, one by one." } else { "Its labels, whatever they lie within." };
        if factor.labels > COMPARED_MOST {
            continue;
        }
        next.push(NextQuestion::of("compare", &format!("Does {name} make a difference?"), same, with("group")));
        if factor.labels <= PHASES_MOST {
            next.push(NextQuestion::of("control-chart", &format!("Is each {name} steady?"), "A phase for each.", with("phase")));
            next.push(NextQuestion::of("indices", &format!("Can each {name} meet the limits?"), "Its indices, one by one.", with("group")));
        }
    }
    let rows = of.standouts.first().map(|one| {
        let path = listed(&[one.levels.join(", ")]);
        NextQuestion::about([one.first, one.last], format!("What is special about {path}?"), "It stands out.".to_owned())
    });
    next.truncate(4);
    next.into_iter().chain(rows).collect()
}
