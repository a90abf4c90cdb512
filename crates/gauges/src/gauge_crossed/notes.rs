//! Doubts and facts beside the figure.

use std::collections::BTreeMap;

use super::compute::Answer;
use super::decisions::{INTERACTION, ODD_READING};
use super::verdict::standing;
use acorn_maths::words::{capital, chance, counted, listed, percent};
use acorn_study::gauge::against::Basis;
use acorn_study::gauge::notes::{self, pinned};
use acorn_study::gauge::standing::Standing;
use acorn_study::notes::{note, worst_first};
use acorn_study::{NextQuestion, Note, RoleColumns, Tone};

/// All notes, the worst first, lettered.
pub fn all(answer: &Answer) -> Vec<Note> {
    let of = &answer.numbers;
    let without = of.would_help.iter().find(|one| one.what == "no operator differences").and_then(|one| one.share);
    let ends = of.parts.first().zip(of.parts.last()).map(|(first, last)| last.mean - first.mean);
    let calmer = |note: Note| standing(answer).calmer(note);
    let cells = (0..answer.cells.len()).filter(|cell| answer.cells.nth(*cell).len() > 1).count();
    worst_first(vec![
        of.share.and_then(|_| notes::coarse(of.distinct, of.n, [of.equal_cells, cells])),
        odd(answer),
        notes::bias(&of.operators, of.bias_limits, &of.writer, without.map(|share| (share, of.basis))).map(calmer),
        notes::consistency(&of.operators, of.sd_limits, &of.writer).map(calmer),
        of.share.and(ends).and_then(|span| notes::span(span, of.tolerance, of.ndc)),
        of.share.and_then(|_| notes::few_parts(of.parts.len(), of.operators.len())),
        ways(answer),
        interaction(answer),
        set_to_zero(answer),
        help(answer),
        uneven(answer),
        order(answer),
        unread(answer),
        missing(answer),
    ])
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
    let detail = "Look for a slip before it is believed; leave its row out only with a reason.";
    Some(pinned(note(Tone::Caution, sentence, Some(detail.into())), notes::STAIRS, Some(odd.drawn)).states(ODD_READING))
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
        true => Some(note(
            Tone::Calm,
            format!("Operators are not seen to read parts differently ({}): the interaction is pooled.", chance(p)),
            None,
        )),
        false if INTERACTION.is_made(p) => Some(
            note(
                Tone::Caution,
                format!("Operators read some parts differently ({}).", chance(p)),
                Some("No single correction fixes that: look at how those parts are held, lit or touched.".into()),
            )
            .states(INTERACTION),
        ),
        false => {
            Some(note(Tone::Unsure, format!("Operators may read some parts differently ({}): the interaction is kept.", chance(p)), None))
        }
    }
}

fn set_to_zero(answer: &Answer) -> Option<Note> {
    let anova = answer.numbers.anova.as_ref()?;
    let names: Vec<String> = anova.set_to_zero.iter().map(|source| source.replace("operator-part", "the interaction")).collect();
    let detail = "Chance made it come out below 0; there is too little of it to see.".to_owned();
    // It matters where the gauge is in question.
    let matters = !(standing(answer).is_good() || standing(answer) == Standing::Nothing);
    (!names.is_empty() && matters)
        .then(|| note(Tone::Unsure, format!("{} set to 0.", capital(&format!("the component of {} is", listed(&names)))), Some(detail)))
}

fn help(answer: &Answer) -> Option<Note> {
    let of = &answer.numbers;
    let now = of.share.filter(|part| *part > 0.0)?;
    if standing(answer).is_good() || standing(answer) == Standing::Nothing {
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

/// What to read so that every cell has as many readings as the fullest.
fn uneven(answer: &Answer) -> Option<Note> {
    let of = &answer.numbers;
    let cells = &answer.cells;
    let short: Vec<usize> = (0..cells.len()).filter(|cell| cells.nth(*cell).len() < of.trials).collect();
    let first = *short.first().filter(|_| !of.balanced)?;
    let (part, operator) = (&cells.parts[first / cells.operators.len()], &cells.operators[first % cells.operators.len()]);
    let has = counted(cells.nth(first).len(), "reading", "readings");
    let more =
        if short.len() > 1 { format!(", and so in {}", counted(short.len() - 1, "other cell", "other cells")) } else { String::new() };
    let detail = "The components are fitted by likelihood instead; there is no range method, no interval, and the tests are approximate.";
    Some(note(Tone::Unsure, format!("{operator} has {has} of part {part} where others have {}{more}.", of.trials), Some(detail.into())))
}

fn unread(answer: &Answer) -> Option<Note> {
    let who = &answer.numbers.unread;
    let words = || format!("Nothing can be said of {} yet: no reading.", listed(who));
    (!who.is_empty()).then(|| note(Tone::Unsure, words(), None))
}

/// Rows without a reading, beyond those of a sheet that is still being filled.
fn missing(answer: &Answer) -> Option<Note> {
    let of = &answer.numbers;
    let unread = of.asked - of.n;
    let lost = of.missing - unread;
    let words = || format!("{} without a part or an operator.", capital(&counted(lost, "row is", "rows are")));
    let waiting = || format!("{} still to come.", capital(&counted(unread, "reading is", "readings are")));
    match (lost, unread) {
        (0, 0) => None,
        (0, _) => Some(note(Tone::Unsure, waiting(), None)),
        _ => Some(note(Tone::Unsure, words(), (unread > 0).then(waiting))),
    }
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
