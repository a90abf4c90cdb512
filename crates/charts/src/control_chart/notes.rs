//! Signals in words, as notes beside the figure.

use serde_json::{Map, json};

use super::answer::Chart;
use super::kind::ChartKind;
use super::patterns::{Pattern, Signal};
use super::plotted::Plotted;
use acorn_maths::words::{capital, counted};
use acorn_study::{Note, Offer, Pin, Tone};

/// More signals than this are told by pattern instead of one by one.
const SIGNALS_ONE_BY_ONE: usize = 5;

/// A note without a letter yet.
pub fn note(tone: Tone, sentence: String, detail: Option<String>, pin: Option<Pin>) -> Note {
    Note { pin, ..Note::new(tone, sentence, detail) }
}

/// The signals, one note each, or one for each pattern when there are many.
pub fn of_signals(chart: &Chart) -> Vec<Note> {
    let all = || chart.panels.iter().enumerate().flat_map(|(k, panel)| panel.signals.iter().map(move |signal| (k, signal)));
    if all().count() <= SIGNALS_ONE_BY_ONE {
        return all().map(|(k, signal)| of_signal(chart, k, signal, 0)).collect();
    }
    let mut notes = Vec::new();
    for (k, panel) in chart.panels.iter().enumerate() {
        for pattern in Pattern::ALL {
            let of = || panel.signals.iter().filter(|signal| signal.pattern == pattern);
            let Some(first) = of().next() else { continue };
            notes.push(of_signal(chart, k, first, of().count() - 1));
        }
    }
    notes
}

fn of_signal(chart: &Chart, panel: usize, signal: &Signal, more: usize) -> Note {
    let pattern = Some(signal.pattern.name().to_owned());
    let pin = Pin { panel, first: Some(signal.first), last: Some(signal.last), value: None, pattern };
    let detail = (more > 0).then(|| format!("and {} of this kind, listed in the ledger", counted(more, "more signal", "more signals")));
    let offers = new_phase(chart, panel, signal).into_iter().collect();
    let tone = if chart.explanation.is_some() || chart.alarms().by_chance { Tone::Caution } else { Tone::Alarm };
    Note { offers, ..note(tone, describe(chart, panel, signal), detail, Some(pin)) }
}

/// A run that lasts to the newest points may be a new process: offer limits of its own.
fn new_phase(chart: &Chart, panel: usize, signal: &Signal) -> Option<Offer> {
    let lasting = signal.pattern == Pattern::RunOneSide && signal.last + 3 >= chart.len() && panel == 0;
    let starts_one = chart.panels[0].phases.iter().any(|phase| phase.first == signal.first);
    if !lasting || starts_one || chart.points.phases.len() > 1 {
        return None;
    }
    let mut options = Map::new();
    options.insert("cuts".into(), json!([{ "first": signal.first }]));
    options.insert("limits".into(), serde_json::Value::Null);
    Some(Offer { label: format!("New limits from {}", chart.name(signal.first)), options, figure: None })
}

/// One signal in words.
pub fn describe(chart: &Chart, panel: usize, signal: &Signal) -> String {
    let Signal { pattern, first, last, side } = *signal;
    let count = last - first + 1;
    let plotted = &chart.panels[panel];
    let many = chart.noun().1;
    let one = chart.named(first);
    let stretch = format!("{} to {}", chart.name(first), chart.name(last));
    let value = plotted.writer.value(plotted.values[first]);
    let limit = if side > 0 { "upper control limit" } else { "lower control limit" };
    let side_word = if side > 0 { "above" } else { "below" };
    if panel > 0 {
        return of_spread(chart, panel, signal, &one, &stretch, &value);
    }
    if plotted.plotted == Plotted::Cusum {
        let to = if count > 1 { format!(" and stays there until {}", chart.name(last)) } else { String::new() };
        return format!("The sum {side_word} passes its limit at {one}{to}.");
    }
    let events = match (chart.kind, pattern, side > 0) {
        (ChartKind::G | ChartKind::T, Pattern::BeyondLimits | Pattern::RunOneSide, true) => " Events have become rarer.",
        (ChartKind::G | ChartKind::T, Pattern::BeyondLimits | Pattern::RunOneSide, false) => " Events come thicker.",
        _ => "",
    };
    let [average, averages] = if plotted.plotted == Plotted::Ewma { ["The average at ", "The averages at "] } else { [""; 2] };
    let sentence = match pattern {
        Pattern::BeyondLimits if count == 1 => format!("{average}{one} lies {side_word} the {limit}: {value}.{events}"),
        Pattern::BeyondLimits => format!("{averages}{many} {stretch} lie {side_word} the {limit}.{events}"),
        Pattern::RunOneSide => format!("{count} {many} in a row {side_word} the centre: {stretch}.{events}"),
        Pattern::Trend => format!("{count} {many} in a row {}: {stretch}.", if side > 0 { "rising" } else { "falling" }),
        Pattern::Alternating => {
            format!("{count} {many} go up and down by turns: {stretch}. Two sources may be mixed.")
        }
        Pattern::TwoOfThreeOuter => format!("{many} {stretch} crowd near the {limit}."),
        Pattern::FourOfFiveOuter => format!("{many} {stretch} keep {side_word} the middle."),
        Pattern::HuggingCentre => format!("{count} {many} hug the centre: {stretch}. Are the limits too wide for this process?"),
        Pattern::AvoidingCentre => {
            format!("{count} {many} avoid the centre: {stretch}. Two processes may be mixed.")
        }
    };
    capital(&sentence)
}

/// A signal on a panel of ranges or sds.
fn of_spread(chart: &Chart, panel: usize, signal: &Signal, one: &str, stretch: &str, value: &str) -> String {
    let several = signal.first != signal.last;
    if chart.panels[panel].plotted == Plotted::MovingRange {
        let steps = if several { format!("The steps at {stretch} are") } else { format!("The step to {one} is") };
        return format!("{steps} larger than neighbours differ by chance: {value}.");
    }
    let how = if signal.side > 0 { "more" } else { "less" };
    let what = chart.panels[panel].plotted.name();
    if several {
        return capital(&format!("subgroups {stretch} are spread {how} than the others."));
    }
    capital(&format!("{one} is spread {how} than the others: {what} {value}."))
}
