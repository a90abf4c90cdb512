//! A chart in words: the verdict, the notes in the margin and what to ask next.

use std::collections::BTreeMap;

use super::answer::Chart;
use super::decisions::{EXPLAINED, NOT_RANDOM, NOT_STEADY};
use super::explanation::Explanation;
use super::kind::ChartKind;
use super::lineup::LineUp;
use super::panel::Panel;
use super::parts::ENOUGH_POINTS;
use super::patterns::{Pattern, Signal};
use super::plotted::Plotted;
use super::{checks, notes};
use acorn_maths::judgement::UNLIKELY;
use acorn_maths::words::{about, all_of, capital, chance, counted, grouped, listed, part_of};
use acorn_study::{NextQuestion, Note, RoleColumns, Tone, Verdict, letter_notes};

/// Reads a chart.
pub fn read(chart: &Chart) -> (Verdict, Vec<Note>, Vec<NextQuestion>) {
    let mut all = notes::of_signals(chart);
    all.extend(checks::all(chart));
    letter_notes(&mut all);
    (of(chart), all, next_questions(chart))
}

/// The verdict of a line-up, and its reasons as notes.
pub fn line_up(chart: &Chart, line_up: &LineUp) -> (Verdict, Vec<Note>) {
    let believed = line_up.believed();
    let beyond = || believed.panel.signals.iter().flat_map(|signal| signal.first..=signal.last);
    let rest = if believed.flagged > 0 { "the rest is ordinary scatter" } else { "all of it is ordinary scatter" };
    let signals = match (believed.flagged, beyond().next()) {
        (_, None) => String::new(),
        (1, Some(point)) => format!("{} is a signal, ", chart.named(point)),
        (2..=3, _) => format!("{} are signals, ", listed(&beyond().map(|point| chart.named(point)).collect::<Vec<_>>())),
        (n, _) => format!("{} are signals, ", counted(n, "subgroup", "subgroups")),
    };
    let title = believed.display_text().title;
    let title = if line_up.believe == ChartKind::Ratio { "the individuals".to_owned() } else { format!("the {}", title.to_lowercase()) };
    let tone = if believed.flagged > 0 { Tone::Alarm } else { Tone::Calm };
    let sentence = format!("Believe {title}: {signals}{rest} between subgroups.");
    let mut reasons: Vec<Note> = line_up.reasons().into_iter().map(|words| notes::note(Tone::Caution, words, None, None)).collect();
    if let [_, single] = &mut reasons[..] {
        single.tone = Tone::Unsure;
    }
    letter_notes(&mut reasons);
    (Verdict::new(tone, format!("Believe {title}"), sentence), reasons)
}

/// The verdict alone.
pub fn of(chart: &Chart) -> Verdict {
    let location = &chart.panels[0];
    let (one, many) = plotted_noun(chart);
    let points = counted(location.present, one, many);
    if checks::all_equal(chart) {
        let equal = location.writer.value(location.extent.map_or(0.0, |[low, _]| low));
        return Verdict::new(
            Tone::Unsure,
            "Nothing varies",
            format!("Nothing varies: {} {equal}, so there is nothing to judge.", all_of(location.present, [one, many], ["is", "are"])),
        );
    }
    if chart.kind == ChartKind::Run {
        return of_runs(chart, &points);
    }
    let newest = location.phases.len() - 1;
    let lines = location.lines(newest, location.phases[newest].last);
    if lines.lcl.is_nan() || lines.ucl.is_nan() {
        let why = if chart.sampled() {
            "no subgroup of two or more to take the spread from"
        } else {
            "no pair of neighbours to take the spread from"
        };
        return Verdict::new(Tone::Unsure, "Too few to say", format!("Too few to say: {points} and {why}."));
    }
    let alarms = chart.alarms();
    if let Some(explanation) = &chart.explanation {
        let title = explanation.title();
        let sentence = format!("{title}: {}{}. {}", explanation.finding(chart), explanation.signals(chart), explanation.advice(chart));
        return Verdict::new(explanation.tone(), &title, sentence).states(EXPLAINED);
    }
    if !alarms.by_chance {
        return Verdict::new(Tone::Alarm, "Not steady", format!("Not steady: {}.", listed(&evidence(chart)))).states(NOT_STEADY);
    }
    if alarms.are_few() {
        let seen = counted(alarms.seen, "signal", "signals");
        let first = chart.first_to_look_at().map(|point| chart.named(point));
        // So many more than the average are rare by themselves, and still not rare enough.
        let rare = alarms.p.filter(|p| *p < 0.5 && alarms.seen as f64 > alarms.expected + 1.0_f64.max(0.5 * alarms.expected) - 0.5);
        let sentence = match (rare, first) {
            (Some(p), first) => {
                let look = first.map(|first| format!(" Look at {first} first.")).unwrap_or_default();
                format!("{seen} in {points}: about 1 in {} charts of a steady process is as unusual.{look}", (1.0 / p).round())
            }
            (None, Some(first)) => {
                format!("{seen} in {points}, about what chance gives ({}): look at {first} first.", about(alarms.expected))
            }
            (None, None) => format!("{seen} in {points}, about what chance gives ({}).", about(alarms.expected)),
        };
        return Verdict::new(Tone::Caution, "A few signals", capital(&sentence));
    }
    if !chart.steady() {
        let brings = counted(alarms.expected.round() as usize, "such signal", "such signals");
        let found = listed(&evidence(chart));
        return Verdict::new(Tone::Calm, "Steady", format!("Steady: {found}; chance alone brings about {brings} to so many {many}."));
    }
    if chart.rests_on_few() {
        return Verdict::new(
            Tone::Unsure,
            "Too few to say",
            format!("No signal so far, but {} too few to call it steady.", are(location.present, one, many)),
        );
    }
    if chart.run_rules.is_empty() {
        return Verdict::new(Tone::Unsure, "Not watched", "No pattern is watched for, so nothing can be a signal.".to_owned());
    }
    if chart.kind == ChartKind::Cusum {
        let h = location.writer.computed(lines.ucl);
        return Verdict::new(Tone::Calm, "Steady", format!("Steady: over {points} neither sum passes its limit of {h}."));
    }
    let spread = location.writer.interval(lines.lcl, lines.ucl);
    let expect = if location.steps() { format!("expect about {spread} of the newest size") } else { format!("expect {spread}") };
    Verdict::new(Tone::Calm, "Steady", format!("Steady: none of {points} is a signal; {expect} as long as nothing changes."))
}

/// The verdict of a run chart: whether the order looks random.
fn of_runs(chart: &Chart, points: &str) -> Verdict {
    let (one, many) = chart.noun();
    let Some(runs) = chart.diagnostics.runs else {
        return Verdict::new(Tone::Unsure, "Too few to say", format!("Too few to say: {points}."));
    };
    let found = [
        (runs.about_median.p_clustering, "values cluster on one side of the median"),
        (runs.about_median.p_mixtures, "values jump across the median too often, as when two sources are mixed"),
        (runs.up_down.p_trends, "values rise and fall in long stretches"),
        (runs.up_down.p_oscillation, "values swing up and down too regularly"),
    ];
    let odd = found.iter().filter_map(|(p, words)| p.filter(|p| *p < UNLIKELY).map(|p| format!("{words} ({})", chance(p))));
    let mut parts: Vec<String> = odd.collect();
    parts.extend(Pattern::ALL.iter().filter_map(|&pattern| clause(chart, &chart.panels[0], pattern)));
    if !parts.is_empty() && !chart.alarms().by_chance {
        return Verdict::new(Tone::Alarm, "Not random", format!("Not random: {}.", listed(&parts))).states(NOT_RANDOM);
    }
    if chart.limits_sample_size < ENOUGH_POINTS {
        return Verdict::new(
            Tone::Unsure,
            "Too few to say",
            format!("Nothing odd so far, but {} too few to call the order random.", are(chart.panels[0].present, one, many)),
        );
    }
    Verdict::new(Tone::Calm, "Random", format!("Random: the order of {points} shows no clusters, mixtures, trends or swings."))
}

/// Up to three kinds of evidence, or the two strongest and how many more there are.
fn evidence(chart: &Chart) -> Vec<String> {
    let mut parts: Vec<String> = Pattern::ALL.iter().filter_map(|&pattern| clause(chart, &chart.panels[0], pattern)).collect();
    for spread in chart.panels[1..].iter().filter(|panel| !panel.signals.is_empty()) {
        let count: usize = spread.signals.iter().map(|signal| signal.last - signal.first + 1).sum();
        parts.push(match spread.plotted {
            Plotted::MovingRange => counted(count, "moving range is too large", "moving ranges are too large"),
            _ if spread.signals.iter().all(|signal| signal.side < 0) => {
                counted(count, "subgroup is spread less than the others", "subgroups are spread less than the others")
            }
            _ => counted(count, "subgroup is spread unlike the others", "subgroups are spread unlike the others"),
        });
    }
    if parts.len() > 3 {
        let more = parts.len() - 2;
        parts.truncate(2);
        parts.push(counted(more, "more kind of signal", "more kinds of signal"));
    }
    parts
}

/// "1 value is", "2 values are".
fn are(n: usize, one: &str, many: &str) -> String {
    counted(n, &format!("{one} is"), &format!("{many} are"))
}

/// What is judged: what the points are, or their averages.
fn plotted_noun(chart: &Chart) -> (&'static str, &'static str) {
    if chart.kind == ChartKind::Ewma { ("average", "averages") } else { chart.noun() }
}

fn clause(chart: &Chart, panel: &Panel, pattern: Pattern) -> Option<String> {
    let of: Vec<&Signal> = panel.signals.iter().filter(|signal| signal.pattern == pattern).collect();
    let longest = of.iter().max_by_key(|signal| signal.last - signal.first)?;
    let length = longest.last - longest.first + 1;
    let up = longest.side > 0;
    let side = if up { "above" } else { "below" };
    let (one, many) = plotted_noun(chart);
    Some(match (pattern, of.len()) {
        (Pattern::BeyondLimits, _) if panel.plotted == Plotted::Cusum => {
            let side = |side: i8, words: &str| {
                let own: Vec<&&Signal> = of.iter().filter(|signal| signal.side == side).collect();
                let again = if own.len() > 1 { format!(" and {} more", counted(own.len() - 1, "time", "times")) } else { String::new() };
                own.first().map(|first| format!("the sum {words} passes its limit at {}{again}", chart.named(first.first)))
            };
            listed(&[side(1, "above"), side(-1, "below")].into_iter().flatten().collect::<Vec<_>>())
        }
        (Pattern::BeyondLimits, _) => {
            let beyond: usize = of.iter().map(|signal| signal.last - signal.first + 1).sum();
            format!("{} beyond the control limits", part_of(beyond, panel.present, [one, many], ["lies", "lie"]))
        }
        (Pattern::RunOneSide, 1) => format!("one run of {length} sits {side} the centre"),
        (Pattern::RunOneSide, k) => {
            format!("{} runs sit on one side of the centre, up to {length} long", grouped(k))
        }
        (Pattern::Trend, 1) => format!("{length} {many} in a row {}", if up { "rise" } else { "fall" }),
        (Pattern::Trend, k) => format!("{} trends of up to {length} {many}", grouped(k)),
        (Pattern::Alternating, _) => format!("{length} {many} go up and down by turns"),
        (Pattern::TwoOfThreeOuter, k) => format!("{many} crowd near a limit in {}", counted(k, "place", "places")),
        (Pattern::FourOfFiveOuter, k) => format!("{many} keep off the middle in {}", counted(k, "place", "places")),
        (Pattern::HuggingCentre, _) => format!("{length} {many} in a row hug the centre"),
        (Pattern::AvoidingCentre, _) => format!("{length} {many} in a row avoid the centre"),
    })
}

fn next_questions(chart: &Chart) -> Vec<NextQuestion> {
    let explained = chart.explanation.iter().flat_map(|explanation| explanation.next(chart));
    // What explains the signals leads on, not a single one of them.
    let is_explained = chart.explanation.is_some();
    let strongest = chart.strongest().filter(|(panel, _)| std::ptr::eq(*panel, &chart.panels[0])).map(|(_, signal)| signal);
    let rows = strongest.filter(|_| !is_explained).map(|signal| {
        let many = chart.noun().1;
        if signal.first == signal.last {
            let question = format!("What is special about {}?", chart.named(signal.first));
            return NextQuestion::about([signal.first; 2], question, format!("It is the strongest signal of {}.", chart.column));
        }
        let question = format!("What do {many} {} to {} have in common?", chart.name(signal.first), chart.name(signal.last));
        if signal.last - signal.first + 1 >= chart.panels[0].present {
            let why = format!("They form the strongest signal of {}.", chart.column);
            return NextQuestion::about([signal.first, signal.last], question, why);
        }
        let why = format!("They form the strongest signal of {}: which labels they hold more of than the others.", chart.column);
        // What the chart is of made them signal.
        let roles = BTreeMap::from([("apart".to_owned(), RoleColumns::One(chart.column.clone()))]);
        let next = NextQuestion::of("screening", &question, &why, roles);
        NextQuestion { points: Some([signal.first, signal.last]), rows_option: Some("rows"), ..next }
    });
    // The rows of a log can be ranked within a signal, best where there are too many.
    let highest = chart.panels[0].signals.iter().filter(|signal| signal.side > 0).max_by_key(|signal| signal.last - signal.first);
    let within = highest.or(strongest).filter(|_| chart.points.gathered() && chart.kind.counts()).map(|signal| {
        let question = match signal.first == signal.last {
            true => format!("Which defects matter in {}?", chart.name(signal.first)),
            false => format!("Which defects matter from {} to {}?", chart.name(signal.first), chart.name(signal.last)),
        };
        let next = NextQuestion::of("pareto", &question, "Kinds within the signal, ranked.", BTreeMap::new());
        NextQuestion { points: Some([signal.first, signal.last]), ..next }
    });
    let measured = !chart.kind.counts() && chart.raw.len() == 1 && !chart.explanation.as_ref().is_some_and(Explanation::is_shape);
    let shape = measured.then(|| {
        let roles = BTreeMap::from([("measure".to_owned(), RoleColumns::One(chart.column.clone()))]);
        NextQuestion::of("distribution", "What does it look like?", "Centre, spread and shape of the same values.", roles)
    });
    explained.chain(rows).chain(within).chain(shape).collect()
}
