//! Doubts and facts beside the figure.

use std::collections::BTreeMap;

use super::compute::Answer;
use super::numbers::Basis;
use super::verdict::{GROUPS, Standing, standing};
use crate::study::words::{capital, chance, counted, listed, percent};
use crate::study::{NextQuestion, Note, RoleColumns, Tone, letter_notes};

/// Fewer different readings than this are coarse.
const DISTINCT_LEAST: usize = 10;
/// Parts whose means span less of the tolerance are too alike.
const ALIKE: f64 = 0.25;
/// A larger part of cells whose readings are all alike is a gauge that reads too coarsely (Wheeler 2006).
const EQUAL_MOST: f64 = 0.25;

/// All notes, the worst first, lettered.
pub fn all(answer: &Answer) -> Vec<Note> {
    let notes = [
        coarse(answer),
        odd(answer),
        bias(answer),
        consistency(answer),
        span(answer),
        ways(answer),
        interaction(answer),
        set_to_zero(answer),
        help(answer),
        order(answer),
        missing(answer),
    ];
    let mut notes: Vec<Note> = notes.into_iter().flatten().collect();
    notes.sort_by_key(|note| match note.tone {
        Tone::Alarm => 0,
        Tone::Caution => 1,
        Tone::Calm | Tone::Unsure => 2,
    });
    letter_notes(&mut notes);
    notes
}

fn note(tone: Tone, sentence: impl Into<String>, detail: Option<String>) -> Note {
    Note { letter: String::new(), tone, sentence: sentence.into(), detail, pin: None, offers: Vec::new() }
}

/// The verb of one or of several.
fn verb(subjects: usize, [one, many]: [&'static str; 2]) -> &'static str {
    if subjects == 1 { one } else { many }
}

fn coarse(answer: &Answer) -> Option<Note> {
    let of = &answer.numbers;
    let cells = of.n / of.trials.max(1);
    let equal = of.equal_cells as f64 > EQUAL_MOST * cells as f64;
    let few = of.distinct.filter(|distinct| *distinct < DISTINCT_LEAST);
    let sentence = match few {
        Some(distinct) if of.share.is_some() => format!(
            "Only {} among {} readings: the decimals are too coarse.",
            counted(distinct, "different value", "different values"),
            of.n
        ),
        _ if equal && of.share.is_some() => {
            format!("In {} of {cells} cells all readings are alike: the decimals are too coarse.", of.equal_cells)
        }
        _ => return None,
    };
    Some(note(Tone::Caution, sentence, Some("Read one more decimal, and do not look at the reading before.".into())))
}

fn odd(answer: &Answer) -> Option<Note> {
    let odd = answer.odd.as_ref()?;
    let (part, operator) = answer.cells.whose(odd.reading);
    let write = &answer.numbers.writer;
    let sentence = format!(
        "One reading stands out: {} of part {} by {} lies {} from the mean of its cell.",
        write.value(answer.cells.values[odd.reading]),
        answer.cells.parts[part],
        answer.cells.operators[operator],
        write.computed(odd.off.abs())
    );
    Some(note(Tone::Caution, sentence, Some("Look for a slip before it is believed; leave its row out only with a reason.".into())))
}

fn bias(answer: &Answer) -> Option<Note> {
    let of = &answer.numbers;
    let [_, reach] = of.bias_limits?;
    let off: Vec<String> =
        of.operators.iter().filter(|one| one.off).map(|one| format!("{} {}", one.label, of.writer.signed(one.bias))).collect();
    let without = of.would_help.iter().find(|one| one.what == "no operator differences").and_then(|one| one.share);
    let detail = without.map(|part| format!("Without operator differences: {} of {}.", percent(part), of.basis.words()));
    if off.is_empty() {
        let words = format!("No operator reads off: all lie within ± {} of their mean.", of.writer.computed(reach));
        return Some(note(Tone::Calm, words, None));
    }
    let verb = verb(off.len(), ["reads", "read"]);
    Some(note(Tone::Alarm, format!("{} {verb} off by more than repeating explains.", listed(&off)), detail))
}

fn consistency(answer: &Answer) -> Option<Note> {
    let of = &answer.numbers;
    let [low, high] = of.sd_limits?;
    let who = |wide: bool| {
        let beyond = |sd: f64| if wide { sd > high } else { sd < low };
        let of_side = of.operators.iter().filter(|one| one.sd.is_some_and(beyond));
        of_side.map(|one| format!("{} (sd {})", one.label, of.writer.computed(one.sd.unwrap_or_default()))).collect::<Vec<_>>()
    };
    let (wide, narrow) = (who(true), who(false));
    let range = format!("All alike would lie between {} and {}.", of.writer.computed(low), of.writer.computed(high));
    match (&wide[..], &narrow[..]) {
        ([], []) => None,
        ([], _) => Some(note(
            Tone::Unsure,
            format!("{} {} better than the others.", listed(&narrow), verb(narrow.len(), ["repeats", "repeat"])),
            Some(format!("{range} Learn how.")),
        )),
        _ => Some(note(
            Tone::Alarm,
            format!("{} {} not repeat like the others.", listed(&wide), verb(wide.len(), ["does", "do"])),
            Some(format!("{range} Watch how the piece is held and read.")),
        )),
    }
}

/// Whether the parts span what they should.
fn span(answer: &Answer) -> Option<Note> {
    let of = &answer.numbers;
    let (first, last) = (of.parts.first()?, of.parts.last()?);
    let span = last.mean - first.mean;
    of.share?;
    let alike = of.ndc.is_some_and(|ndc| ndc < GROUPS);
    match of.tolerance {
        Some(room) if span < ALIKE * room => Some(note(
            Tone::Caution,
            format!("The parts span only {} of the tolerance: they are too alike.", percent(span / room)),
            Some(
                "Choose parts from the whole range, bad ones too; else the share of the study and the steps look worse than they are."
                    .into(),
            ),
        )),
        Some(room) => Some(note(Tone::Calm, format!("The parts span {} of the tolerance.", percent(span / room)), None)),
        None if alike => Some(note(
            Tone::Caution,
            "The parts differ little beside the readings: choose parts from the whole range, bad ones too.",
            Some("Give the measurement its limits, and the gauge is held against the tolerance too.".into()),
        )),
        None => None,
    }
}

/// Why the two ways differ, or that they agree.
fn ways(answer: &Answer) -> Option<Note> {
    let of = &answer.numbers;
    let (range, anova) = (of.range.as_ref()?, of.anova.as_ref()?);
    let gauge = &anova.components[0];
    let (by_range, by_anova, basis) = match of.basis {
        Basis::Tolerance => (range.grr.pct_tolerance?, gauge.pct_tolerance?, "the tolerance"),
        _ => (range.grr.pct_study?, gauge.pct_study?, "the study"),
    };
    let words = format!("Range method {}, variance analysis {} of {basis}", percent(by_range), percent(by_anova));
    let near = (by_range - by_anova).abs() <= 0.1 * by_anova.max(by_range);
    let why = if near {
        "they agree".to_owned()
    } else if !anova.pooled && anova.components[4].variance > 0.0 {
        "only the variance analysis sees that operators read some parts differently".to_owned()
    } else if !anova.set_to_zero.is_empty() {
        format!(
            "the variance analysis set {} to 0",
            listed(&anova.set_to_zero.iter().map(|source| source.replace("operator-part", "the interaction")).collect::<Vec<_>>())
        )
    } else {
        "ranges use only the two outer readings of each cell and are less sure".to_owned()
    };
    Some(note(Tone::Unsure, format!("{words}: {why}."), None))
}

fn interaction(answer: &Answer) -> Option<Note> {
    let anova = answer.numbers.anova.as_ref()?;
    let p = anova.p_interaction?;
    match anova.pooled {
        true => Some(note(Tone::Calm, format!("Operators read all parts alike ({}): the interaction is pooled.", chance(p)), None)),
        false if p < 0.05 => Some(note(
            Tone::Caution,
            format!("Operators read some parts differently ({}).", chance(p)),
            Some("No single correction mends that: look at how those parts are held, lit or touched.".into()),
        )),
        false => {
            Some(note(Tone::Unsure, format!("Operators may read some parts differently ({}): the interaction is kept.", chance(p)), None))
        }
    }
}

fn set_to_zero(answer: &Answer) -> Option<Note> {
    let anova = answer.numbers.anova.as_ref()?;
    let names: Vec<String> = anova.set_to_zero.iter().map(|source| source.replace("operator-part", "the interaction")).collect();
    let detail = "Chance made it come out below 0; there is too little of it to see.".to_owned();
    (!names.is_empty() && answer.numbers.share.is_some())
        .then(|| note(Tone::Unsure, format!("{} set to 0.", capital(&format!("the component of {} is", listed(&names)))), Some(detail)))
}

fn help(answer: &Answer) -> Option<Note> {
    let of = &answer.numbers;
    let now = of.share.filter(|part| *part > 0.0)?;
    if matches!(standing(answer), Standing::Good | Standing::Nothing) {
        return None;
    }
    let mut gains: Vec<(&str, f64)> =
        of.would_help.iter().filter_map(|one| Some((one.what, one.share?))).filter(|(_, part)| *part < 0.97 * now).collect();
    gains.sort_by(|a, b| a.1.total_cmp(&b.1));
    let words: Vec<String> = gains.iter().map(|(what, part)| format!("{what} {}", percent(*part))).collect();
    (!words.is_empty()).then(|| note(Tone::Unsure, format!("What would help: {}.", listed(&words)), None))
}

fn order(answer: &Answer) -> Option<Note> {
    answer.same_order.then(|| {
        let detail = "Who knows the reading before repeats it. Let each operator read the parts in a random order of its own.".to_owned();
        note(Tone::Unsure, "The parts stand in one and the same order for every operator and trial.", Some(detail))
    })
}

fn missing(answer: &Answer) -> Option<Note> {
    let missing = answer.numbers.missing;
    let words = || format!("{} without a reading, a part or an operator.", capital(&counted(missing, "row is", "rows are")));
    (missing > 0).then(|| note(Tone::Unsure, words(), None))
}

/// What the answer makes worth asking.
pub fn next(answer: &Answer) -> Vec<NextQuestion> {
    let roles = BTreeMap::from([("measure".to_owned(), RoleColumns::One(answer.measure.clone()))]);
    let odd = answer.odd.as_ref().map(|odd| {
        let (part, operator) = answer.cells.whose(odd.reading);
        let question = format!("What happened when {} read part {}?", answer.cells.operators[operator], answer.cells.parts[part]);
        NextQuestion::about([odd.reading; 2], question, "One reading lies far from the others of its cell.".to_owned())
    });
    let look = |column: &str, question: &str, why: &str| {
        let mut roles = roles.clone();
        roles.insert("group".to_owned(), RoleColumns::One(column.to_owned()));
        NextQuestion::of("distribution", question, why, roles)
    };
    let by_operator = look(&answer.operator, "How do the operators' readings compare?", "Centre and spread of each, on one scale.");
    let by_part = look(&answer.part, "How do the parts compare?", "Whether they span what the process makes.");
    odd.into_iter().chain([by_operator, by_part]).collect()
}
