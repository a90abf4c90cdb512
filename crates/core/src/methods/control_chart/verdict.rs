//! A chart in words: the verdict, the notes in the margin and what to ask next.

use std::collections::BTreeMap;

use super::answer::{Chart, Panel};
use super::patterns::{Pattern, Signal};
use crate::study::words::{about, counted, grouped, listed};
use crate::study::{NextQuestion, Note, Pin, Tone, Verdict, letter_notes};

/// Fewer points than this leave the limits loose.
const ENOUGH_POINTS: usize = 20;
/// More signals than this are told by pattern instead of one by one.
const SIGNALS_ONE_BY_ONE: usize = 5;
/// Rows carried over to a next question.
const ROWS_CARRIED: usize = 500;

/// Reads a chart.
pub fn read(chart: &Chart) -> (Verdict, Vec<Note>, Vec<NextQuestion>) {
    let mut notes: Vec<Note> = signal_notes(chart);
    notes.extend(
        [few_points(chart), nothing_varies(chart), coarse_steps(chart), correlated(chart), left_out(chart), false_alarms(chart)]
            .into_iter()
            .flatten(),
    );
    letter_notes(&mut notes);
    (verdict(chart), notes, next_questions(chart))
}

fn verdict(chart: &Chart) -> Verdict {
    let say = |tone, title: &str, sentence| Verdict { tone, title: title.to_owned(), sentence };
    let values = counted(chart.panels[0].present, "value", "values");
    if all_equal(chart) {
        let equal = chart.writer.value(chart.moments.max.unwrap_or_default());
        return say(Tone::Unsure, "Nothing varies", format!("Nothing varies: all {values} are {equal}, so there is nothing to judge."));
    }
    let Some((lcl, ucl)) = chart.panels[0].phases.last().and_then(|phase| phase.lcl.zip(phase.ucl)) else {
        return say(Tone::Unsure, "Too few to say", format!("Too few to say: {values} and no pair of neighbours to take the spread from."));
    };
    if !chart.steady() {
        return say(Tone::Alarm, "Not steady", format!("Not steady: {}.", listed(&evidence(chart))));
    }
    let spread = chart.writer.interval(lcl, ucl);
    if !chart.limits_known && chart.basis < ENOUGH_POINTS {
        return say(Tone::Unsure, "Too few to say", format!("No signal so far, but {values} are too few to call it steady."));
    }
    if chart.watches.is_empty() {
        return say(Tone::Unsure, "Not watched", "No pattern is watched for, so nothing can be a signal.".to_owned());
    }
    say(Tone::Calm, "Steady", format!("Steady: none of {values} is a signal; expect {spread} as long as nothing changes."))
}

/// Up to three kinds of evidence, or the two strongest and how many more there are.
fn evidence(chart: &Chart) -> Vec<String> {
    let location = &chart.panels[0];
    let mut parts: Vec<String> = Pattern::ALL.iter().filter_map(|&pattern| clause(location, pattern)).collect();
    let spread = &chart.panels[1];
    if !spread.signals.is_empty() {
        let jumps = spread.signals.iter().map(|signal| signal.last - signal.first + 1).sum();
        parts.push(format!("{} between neighbours {} too large", counted(jumps, "jump", "jumps"), if jumps == 1 { "is" } else { "are" }));
    }
    if parts.len() > 3 {
        let more = parts.len() - 2;
        parts.truncate(2);
        parts.push(counted(more, "more kind of signal", "more kinds of signal"));
    }
    parts
}

fn clause(panel: &Panel, pattern: Pattern) -> Option<String> {
    let of: Vec<&Signal> = panel.signals.iter().filter(|signal| signal.pattern == pattern).collect();
    let longest = of.iter().max_by_key(|signal| signal.last - signal.first)?;
    let length = longest.last - longest.first + 1;
    let up = longest.side > 0;
    let side = if up { "above" } else { "below" };
    Some(match (pattern, of.len()) {
        (Pattern::BeyondLimits, _) => {
            let beyond: usize = of.iter().map(|signal| signal.last - signal.first + 1).sum();
            let lie = if beyond == 1 { "lies" } else { "lie" };
            format!("{} of {} {lie} beyond the limits", grouped(beyond), counted(panel.present, "value", "values"))
        }
        (Pattern::RunOneSide, 1) => format!("one run of {length} sits {side} the centre"),
        (Pattern::RunOneSide, k) => {
            format!("{} runs sit on one side of the centre, up to {length} long", grouped(k))
        }
        (Pattern::Trend, 1) => format!("{length} values in a row {}", if up { "rise" } else { "fall" }),
        (Pattern::Trend, k) => format!("{} trends of up to {length} values", grouped(k)),
        (Pattern::Alternating, _) => format!("{length} values go up and down by turns"),
        (Pattern::TwoOfThreeOuter, k) => format!("values crowd near a limit in {}", counted(k, "place", "places")),
        (Pattern::FourOfFiveOuter, k) => format!("values keep off the middle in {}", counted(k, "place", "places")),
        (Pattern::HuggingCentre, _) => format!("{length} values in a row hug the centre"),
        (Pattern::AvoidingCentre, _) => format!("{length} values in a row avoid the centre"),
    })
}

fn note(tone: Tone, sentence: String, detail: Option<String>, pin: Option<Pin>) -> Note {
    Note { letter: String::new(), tone, sentence, detail, pin }
}

fn pin(panel: usize, signal: &Signal) -> Option<Pin> {
    let pattern = Some(signal.pattern.name().to_owned());
    Some(Pin { panel, first: Some(signal.first), last: Some(signal.last), value: None, pattern })
}

fn signal_notes(chart: &Chart) -> Vec<Note> {
    let all = || chart.panels.iter().enumerate().flat_map(|(k, panel)| panel.signals.iter().map(move |signal| (k, signal)));
    if all().count() <= SIGNALS_ONE_BY_ONE {
        return all().map(|(k, signal)| note(Tone::Alarm, describe(chart, k, signal), None, pin(k, signal))).collect();
    }
    let mut notes = Vec::new();
    for (k, panel) in chart.panels.iter().enumerate() {
        for pattern in Pattern::ALL {
            let of = || panel.signals.iter().filter(|signal| signal.pattern == pattern);
            let Some(first) = of().next() else { continue };
            let more = of().count() - 1;
            let detail =
                (more > 0).then(|| format!("and {} of this kind, listed in the ledger", counted(more, "more signal", "more signals")));
            notes.push(note(Tone::Alarm, describe(chart, k, first), detail, pin(k, first)));
        }
    }
    notes
}

/// One signal in words.
fn describe(chart: &Chart, panel: usize, signal: &Signal) -> String {
    let Signal { pattern, first, last, side } = *signal;
    let count = last - first + 1;
    let names = if first == last { chart.name(first) } else { format!("{} to {}", chart.name(first), chart.name(last)) };
    let value = |point: usize| chart.panels[panel].values[point];
    let limit = if side > 0 { "upper limit" } else { "lower limit" };
    let side_word = if side > 0 { "above" } else { "below" };
    if panel > 0 {
        let steps = if count == 1 { format!("The step to {names} is") } else { format!("The steps at {names} are") };
        return format!("{steps} larger than neighbours differ by chance: {}.", chart.writer.value(value(first)));
    }
    match pattern {
        Pattern::BeyondLimits if count == 1 => format!("Value {names} lies {side_word} the {limit}: {}.", chart.writer.value(value(first))),
        Pattern::BeyondLimits => format!("Values {names} lie {side_word} the {limit}."),
        Pattern::RunOneSide => format!("{count} values in a row {side_word} the centre: {names}."),
        Pattern::Trend => format!("{count} values in a row {}: {names}.", if side > 0 { "rising" } else { "falling" }),
        Pattern::Alternating => {
            format!("{count} values go up and down by turns: {names}. Two sources may be mixed.")
        }
        Pattern::TwoOfThreeOuter => format!("Values {names} crowd near the {limit}."),
        Pattern::FourOfFiveOuter => format!("Values {names} keep {side_word} the middle."),
        Pattern::HuggingCentre => format!("{count} values hug the centre: {names}. Are the limits too wide for this process?"),
        Pattern::AvoidingCentre => {
            format!("{count} values avoid the centre: {names}. Two processes may be mixed.")
        }
    }
}

/// How far the limits may still move: the sd from n - 1 moving ranges has about 0.62 (n - 1) degrees of freedom.
fn few_points(chart: &Chart) -> Option<Note> {
    if chart.limits_known || chart.basis >= ENOUGH_POINTS || chart.sigma_within.is_none() || all_equal(chart) {
        return None;
    }
    let percent = 200.0 / (2.0 * 0.62 * (chart.basis as f64 - 1.0)).sqrt();
    let n = counted(chart.basis, "value", "values");
    let detail = format!("{ENOUGH_POINTS} or more is usual.");
    Some(note(Tone::Caution, format!("Limits rest on {n}: they may still move by about ±{percent:.0} %."), Some(detail), limit_pin(chart)))
}

fn nothing_varies(chart: &Chart) -> Option<Note> {
    (all_equal(chart) && chart.panels[0].present > 1)
        .then(|| note(Tone::Caution, "All values are equal: check whether the gauge reads finely enough.".to_owned(), None, None))
}

/// Fewer than four distinct moving ranges within their limits: the measurement steps are too coarse
/// (Wheeler and Lyday 1989, Evaluating the Measurement Process).
fn coarse_steps(chart: &Chart) -> Option<Note> {
    let ranges = chart.panels.get(1)?;
    let ucl = ranges.phases.last()?.ucl?;
    if all_equal(chart) || ranges.present < ENOUGH_POINTS {
        return None;
    }
    let scale = ucl.max(f64::MIN_POSITIVE) * 1e-6;
    let mut distinct = std::collections::HashSet::new();
    for range in ranges.values.iter().filter(|range| **range <= ucl) {
        distinct.insert((range / scale).round() as i64);
        if distinct.len() >= 4 {
            return None;
        }
    }
    let steps = distinct.len();
    let detail = "Record one more decimal, or use a finer gauge.".to_owned();
    Some(note(
        Tone::Caution,
        format!("Measurement steps are coarse: only {steps} different moving ranges within the limits."),
        Some(detail),
        Some(Pin { panel: 1, first: None, last: None, value: Some(ucl), pattern: None }),
    ))
}

/// Neighbours alike beyond chance (|r| > 2.58/√n) make moving ranges, and so the limits, too narrow.
fn correlated(chart: &Chart) -> Option<Note> {
    let r = chart.lag_one?;
    let n = chart.panels[0].present;
    if n < ENOUGH_POINTS || r.abs() * (n as f64).sqrt() <= 2.58 {
        return None;
    }
    let (like, narrow) = if r > 0.0 { ("alike", "narrow") } else { ("opposed", "wide") };
    let detail = format!("Correlation with the value before: {r:.2}.");
    Some(note(
        Tone::Caution,
        format!("Neighbours are {like} beyond chance: the limits may be too {narrow}. Look for drift, or take values further apart."),
        Some(detail),
        None,
    ))
}

fn left_out(chart: &Chart) -> Option<Note> {
    let omitted = (0..chart.len()).filter(|&i| chart.is_omitted(i)).count();
    let missing = chart.len() - chart.panels[0].present;
    let parts: Vec<String> = [
        (omitted > 0).then(|| format!("{} left out of the limits", counted(omitted, "value is", "values are"))),
        (missing > 0).then(|| format!("{} missing", counted(missing, "value is", "values are"))),
        (chart.unordered > 0).then(|| format!("{} no place in the order and stand last", counted(chart.unordered, "row has", "rows have"))),
    ]
    .into_iter()
    .flatten()
    .collect();
    let tone = if omitted > 0 || chart.unordered > 0 { Tone::Caution } else { Tone::Unsure };
    (!parts.is_empty()).then(|| note(tone, format!("{}.", capital(&listed(&parts))), None, None))
}

fn false_alarms(chart: &Chart) -> Option<Note> {
    let between = chart.points_between?;
    let these = if chart.watches.len() == 1 { "this pattern".to_owned() } else { format!("these {} patterns", chart.watches.len()) };
    Some(note(Tone::Unsure, format!("With {these} a steady process cries wolf about every {} values.", about(between)), None, None))
}

fn next_questions(chart: &Chart) -> Vec<NextQuestion> {
    let strongest = chart.panels[0].signals.iter().max_by_key(|signal| signal.last - signal.first);
    let Some(signal) = strongest else {
        return Vec::new();
    };
    let (first, last) = (signal.first, signal.last.min(signal.first + ROWS_CARRIED - 1));
    let row_ids = (first..=last).map(|point| chart.row_id(point)).collect();
    let (first, last) = (chart.name(signal.first), chart.name(signal.last));
    let question = if first == last {
        format!("What is special about value {first}?")
    } else {
        format!("What do values {first} to {last} have in common?")
    };
    let why = format!("They form the longest signal of {}.", chart.column);
    vec![NextQuestion { question, why, method: None, roles: BTreeMap::new(), row_ids }]
}

fn limit_pin(chart: &Chart) -> Option<Pin> {
    let value = chart.panels[0].phases.last()?.ucl;
    Some(Pin { panel: 0, first: None, last: None, value, pattern: None })
}

fn all_equal(chart: &Chart) -> bool {
    !chart.limits_known && chart.moments.n > 1 && chart.moments.min == chart.moments.max
}

fn capital(text: &str) -> String {
    let mut letters = text.chars();
    letters.next().map_or_else(String::new, |first| first.to_uppercase().chain(letters).collect())
}
