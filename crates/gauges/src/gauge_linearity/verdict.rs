//! What a linearity study says.

use std::collections::BTreeMap;

use super::compute::Answer;
use super::decisions::NOT_RIGHT;
use super::numbers::LinearityPart;
use acorn_maths::judgement::VERY_UNLIKELY;
use acorn_maths::words::{chance, counted, listed, percent};
use acorn_study::notes::{note, worst_first};
use acorn_study::{NextQuestion, Note, RoleColumns, Tone, Verdict};

/// Fewer pieces tell little of a whole range.
const PIECES_WANTED: usize = 5;
/// Fewer readings in all are few.
const READINGS_WANTED: usize = 50;

/// Slope, average and single pieces are three ways to find a right gauge wrong; together they err as often as one.
const WAYS: f64 = 3.0;

/// Whether the slope or the average tells a bias.
fn tells(p: Option<f64>) -> bool {
    p.is_some_and(|p| p < NOT_RIGHT.rate / WAYS)
}

/// The pieces that read off by themselves, each one of as many (Bonferroni).
fn off_alone(parts: &[LinearityPart]) -> impl Iterator<Item = &LinearityPart> {
    let most = NOT_RIGHT.rate / WAYS / parts.len() as f64;
    parts.iter().filter(move |part| part.p.is_some_and(|p| p < most))
}

/// The bias of the smallest and the largest piece in words.
fn ends(answer: &Answer) -> String {
    let of = &answer.numbers;
    let at = |part: &LinearityPart| format!("{} at {}", of.writer.signed(part.bias), of.reference_writer.value(part.reference));
    match &of.parts[..] {
        [first, .., last] => format!("{} and {}", at(first), at(last)),
        parts => parts.iter().map(at).collect(),
    }
}

/// The verdict: whether the bias is the same everywhere, and whether there is one.
pub fn read(answer: &Answer) -> Verdict {
    let of = &answer.numbers;
    let slope_p = of.fit.and_then(|fit| fit.slope_p);
    if of.parts.len() < 2 || of.fit.is_none() {
        return Verdict::new(
            Tone::Unsure,
            "Too few to say",
            format!("One known value, with a bias of {}: read pieces over the whole range.", ends(answer)),
        );
    }
    if slope_p.is_none() && of.average.p.is_none() {
        return Verdict::new(
            Tone::Unsure,
            "Nothing varies",
            format!("Biases of {} without any scatter: nothing can be tested.", ends(answer)),
        );
    }
    if let Some(p) = of.fit.filter(|fit| fit.s.is_some()).and_then(|fit| bends(answer, fit.slope, fit.intercept)) {
        let by_bias = |a: &&LinearityPart, b: &&LinearityPart| a.bias.total_cmp(&b.bias);
        let at = |part: Option<&LinearityPart>| {
            part.map(|part| format!("{} at {}", of.writer.signed(part.bias), of.reference_writer.value(part.reference))).unwrap_or_default()
        };
        let (low, high) = (at(of.parts.iter().min_by(by_bias)), at(of.parts.iter().max_by(by_bias)));
        let sentence = format!("Not linear: the bias bends over the range, from {low} to {high} ({}).", chance(p));
        return Verdict::new(Tone::Alarm, "Not linear", sentence).states(NOT_RIGHT);
    }
    let average = of.writer.computed(of.average.bias.abs());
    let side = if of.average.bias > 0.0 { "high" } else { "low" };
    if tells(slope_p) {
        let sentence = format!("The bias changes over the range: {} ({}).", ends(answer), chance(slope_p.unwrap_or_default()));
        return Verdict::new(Tone::Alarm, "Not linear", sentence).states(NOT_RIGHT);
    }
    if tells(of.average.p) {
        let sentence =
            format!("It reads {average} {side} over the whole range, alike at every size ({}).", chance(of.average.p.unwrap_or_default()));
        return Verdict::new(Tone::Caution, "Reads off", sentence).states(NOT_RIGHT);
    }
    let off = off_alone(&of.parts).count();
    if off > 0 {
        let sentence = format!("No bias over the whole, but {} off by itself.", counted(off, "piece is", "pieces are"));
        return Verdict::new(Tone::Caution, "Off in places", sentence).states(NOT_RIGHT);
    }
    if of.parts.len() < PIECES_WANTED || of.n < READINGS_WANTED {
        let all = format!("{} of {}", counted(of.n, "reading", "readings"), counted(of.parts.len(), "piece", "pieces"));
        return Verdict::new(
            Tone::Caution,
            "Right, with a doubt",
            format!("No bias to be seen in {all}; five pieces read ten times each would show more."),
        );
    }
    Verdict::new(Tone::Calm, "Right over the range", format!("Right over the range: {}, no more than chance brings.", ends(answer)))
}

/// All notes, the worst first.
pub fn notes(answer: &Answer) -> Vec<Note> {
    let of = &answer.numbers;
    let off: Vec<String> = off_alone(&of.parts).map(|part| format!("{} {}", part.label, of.writer.signed(part.bias))).collect();
    let pieces = match &off[..] {
        [] => of.parts.iter().any(|part| part.p.is_some()).then(|| note(Tone::Calm, "No piece by itself reads off.", None)),
        off if off.len() <= 6 => {
            let verb = if off.len() == 1 { "reads" } else { "read" };
            Some(note(Tone::Caution, format!("{} {verb} off by more than repeating explains.", listed(off)), None).states(NOT_RIGHT))
        }
        off => Some(
            note(Tone::Caution, format!("{} of {} pieces read off by more than repeating explains.", off.len(), of.parts.len()), None)
                .states(NOT_RIGHT),
        ),
    };
    let mend = of.fit.filter(|fit| tells(fit.slope_p)).map(|_| {
        let detail = "Set the gauge at both ends of its range, look for wear, or use it where the bias is small.";
        note(Tone::Unsure, "One correction for the whole range does not mend it.", Some(detail.into()))
    });
    let bent = of.fit.filter(|fit| fit.s.is_some()).and_then(|fit| bends(answer, fit.slope, fit.intercept)).map(|p| {
        let detail = "Believe the pieces one by one; a correction by a line would be wrong between them.";
        note(Tone::Caution, format!("A line does not describe the bias ({}).", chance(p)), Some(detail.into())).states(NOT_RIGHT)
    });
    let process = of.linearity.zip(of.pct_linearity).zip(of.pct_bias).map(|((moves, slope), bias)| {
        let moves = of.writer.computed(moves);
        let sentence = format!("Over the spread of the process the bias changes by {moves}, {} of it (linearity).", percent(slope));
        note(Tone::Unsure, sentence, Some(format!("The average bias is {} of that spread.", percent(bias))))
    });
    let few = (of.parts.len() < PIECES_WANTED).then(|| {
        note(Tone::Unsure, format!("{} only; five over the whole range tell more.", counted(of.parts.len(), "piece", "pieces")), None)
    });
    let missing = (of.missing > 0).then(|| {
        note(Tone::Unsure, format!("{} without a reading, a piece or a reference.", counted(of.missing, "row is", "rows are")), None)
    });
    worst_first(vec![pieces, bent, mend, process, few, missing])
}

/// The chance that the means of the pieces leave the line as far where their readings scatter alone: F of the lack of fit; `None` where
/// they do not by more than chance.
fn bends(answer: &Answer, slope: f64, intercept: f64) -> Option<f64> {
    let of = &answer.numbers;
    let k = of.parts.len();
    let off = |part: &LinearityPart| part.n as f64 * (part.bias - intercept - slope * part.reference).powi(2);
    let lack: f64 = of.parts.iter().map(off).sum();
    let within: f64 = of.parts.iter().map(|part| part.sd.map_or(0.0, |sd| sd * sd * (part.n - 1) as f64)).sum();
    let (lack_df, within_df) = (k.checked_sub(2)? as f64, (of.n - k) as f64);
    if lack_df <= 0.0 || within_df <= 0.0 || within <= 0.0 {
        return None;
    }
    let p = acorn_maths::tails::f_above(lack / lack_df / (within / within_df), lack_df, within_df);
    Some(p).filter(|p| *p < VERY_UNLIKELY)
}

/// What the answer makes worth asking.
pub fn next(answer: &Answer) -> Vec<NextQuestion> {
    let roles = BTreeMap::from([("measure".to_owned(), RoleColumns::One(answer.measure.clone()))]);
    vec![NextQuestion::of(
        "control-chart",
        "Did the gauge stay steady meanwhile?",
        "The readings in the order in which they were taken.",
        roles,
    )]
}
