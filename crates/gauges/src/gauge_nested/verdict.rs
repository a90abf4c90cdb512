//! What a nested study says.

use std::collections::BTreeMap;

use super::compute::Answer;
use acorn_maths::describe::few_distinct;
use acorn_maths::judgement::{COARSE, unlikely};
use acorn_maths::words::{all_of, counted, listed};
use acorn_study::gauge::notes;
use acorn_study::gauge::standing::{POOR, Standing, left_open, takes};
use acorn_study::notes::{note, worst_first};
use acorn_study::{NextQuestion, Note, RoleColumns, Tone, Verdict};

/// Where the gauge stands. Each operator has parts of their own, so that operators are told from parts by few of them: a gauge is not called
/// poor for a difference of operators that is not shown.
fn standing(answer: &Answer) -> Standing {
    let of = &answer.numbers;
    let found = Standing::of(of.share, of.share_ci95, of.ndc, of.basis);
    let is_shown = of.anova.table.first().and_then(|line| line.p).is_some_and(|p| unlikely(Some(p)));
    let repeat = of.anova.components.get(1).and_then(|repeat| match of.tolerance {
        Some(_) => repeat.pct_tolerance,
        None => repeat.pct_study,
    });
    match found {
        Standing::Poor if !is_shown && repeat.is_some_and(|repeat| repeat <= POOR) => Standing::CannotTell,
        found => found,
    }
}

/// The verdict.
pub fn read(answer: &Answer) -> Verdict {
    let of = &answer.numbers;
    let standing = standing(answer);
    let (tone, title) = standing.display_text();
    let sentence = match of.share {
        None => format!(
            "Of {} {} the same: nothing can be told of the gauge.",
            answer.measure,
            all_of(of.n, ["reading", "readings"], ["says", "say"])
        ),
        Some(share) => format!("{title}: {}.{}", takes(share, of.basis, of.share_ci95, of.ndc), left_open(standing)),
    };
    Verdict::new(tone, title, sentence)
}

/// All notes, the worst first.
pub fn notes(answer: &Answer) -> Vec<Note> {
    let of = &answer.numbers;
    let cells = &answer.cells;
    let alike = cells.values.chunks(cells.trials).filter(|cell| cell.iter().all(|value| *value == cell[0])).count();
    let without = of.anova.components.get(1).and_then(|repeat| match of.tolerance {
        Some(_) => repeat.pct_tolerance,
        None => repeat.pct_study,
    });
    let ends =
        of.parts.iter().map(|part| part.mean).fold([f64::INFINITY, f64::NEG_INFINITY], |[low, high], mean| [low.min(mean), high.max(mean)]);
    let [low, high] = ends;
    let standing = standing(answer);
    let calmer = |note: Note| standing.calmer(note);
    worst_first(vec![
        of.share.and_then(|_| notes::coarse(few_distinct(&cells.values, COARSE), of.n, [alike, cells.parts.len()])),
        notes::bias(&of.operators, of.bias_limits, &of.writer, without.map(|share| (share, answer.basis()))).map(calmer),
        notes::consistency(&of.operators, of.sd_limits, &of.writer).map(calmer),
        of.share.and_then(|_| notes::span(high - low, of.tolerance, of.ndc)),
        of.share.map(|_| {
            let sentence =
                "Repeating here is two like pieces, not one piece twice: how the pieces of a part differ is counted as measuring.";
            note(
                Tone::Unsure,
                sentence,
                Some("Take the pieces of a part from next to each other, so that they are as alike as can be.".into()),
            )
        }),
        (!of.anova.set_to_zero.is_empty() && !standing.is_good() && of.share.is_some()).then(|| {
            let names: Vec<String> = of.anova.set_to_zero.iter().map(|source| (*source).to_owned()).collect();
            let sentence = format!("The component of {} is set to 0.", listed(&names));
            note(Tone::Unsure, sentence, Some("Chance made it come out below 0; there is too little of it to see.".into()))
        }),
        (!of.unread.is_empty())
            .then(|| note(Tone::Unsure, format!("Nothing can be said of {} yet: no reading.", listed(&of.unread)), None)),
        (of.missing > 0).then(|| {
            let rows = counted(of.missing, "row is", "rows are");
            note(Tone::Unsure, format!("{rows} without a reading, a part or an operator."), None)
        }),
    ])
}

/// What the answer makes worth asking.
pub fn next(answer: &Answer) -> Vec<NextQuestion> {
    let role = |column: &str| RoleColumns::One(column.to_owned());
    let roles = BTreeMap::from([("measure".to_owned(), role(&answer.measure)), ("group".to_owned(), role(&answer.operator))]);
    vec![NextQuestion::of("distribution", "How do the operators' readings compare?", "Centre and spread of each, on one scale.", roles)]
}
