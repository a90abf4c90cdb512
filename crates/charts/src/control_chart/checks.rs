//! Doubts and facts about a chart that are not signals: how far it can be trusted, and what to do about it.

use serde_json::{Map, json};

use super::answer::Chart;
use super::decisions::{CLUSTERED, MEAN_MOVED, NEIGHBOURS, PARTS_UNLIKE, SCATTER, SPREAD_CHANGED, STALE};
use super::explanation::Explanation;
use super::kind::ChartKind;
use super::notes::note;
use super::panel::Panel;
use super::params::LimitSource;
use super::parts::{Dispersion, ENOUGH_POINTS};
use super::patterns::Pattern;
use super::plotted::Plotted;
use acorn_maths::judgement::{VERY_UNLIKELY, many_zeros};
use acorn_maths::tails::chi_square_upper;
use acorn_maths::words::{ValueFormat, about, capital, chance, counted, hundredths, listed, part_of, span};
use acorn_study::{Note, Offer, Pin, Tone};

/// Bad pieces expected in a sample, below which the limits are lopsided (Montgomery 2013, sec. 7.2).
const ENOUGH_BAD: f64 = 5.0;
/// All of them, the gravest kinds first.
pub fn all(chart: &Chart) -> Vec<Note> {
    [
        explained(chart),
        only_far(chart),
        dispersion(chart),
        freshness(chart),
        known_limits(chart),
        comparison(chart),
        few_points(chart),
        small_counts(chart),
        unequal_sizes(chart),
        unlike_parts(chart),
        without_target(chart),
        nothing_varies(chart),
        zeros(chart),
        coarse_steps(chart),
        correlated(chart),
        fitted_shape(chart),
        left_out(chart),
        false_alarms(chart),
    ]
    .into_iter()
    .flatten()
    .collect()
}

/// Whether no value differs from another, so that nothing can be judged.
pub fn all_equal(chart: &Chart) -> bool {
    let of = &chart.moments;
    matches!(chart.limits, LimitSource::Data | LimitSource::Baseline { .. })
        && of.n > 1
        && of.min == of.max
        && !chart.kind.limits_from_counting()
}

fn option(name: &str, value: serde_json::Value) -> Map<String, serde_json::Value> {
    Map::from_iter([(name.to_owned(), value)])
}

/// Another chart for what the verdict has found.
fn explained(chart: &Chart) -> Option<Note> {
    let explanation = chart.explanation.as_ref()?;
    let mut offers = explanation.offers(chart);
    if matches!(explanation, Explanation::Overdispersed { .. } | Explanation::Underdispersed { .. }) {
        offers.push(side_by_side());
    }
    (!offers.is_empty()).then(|| Note { offers, ..note(Tone::Unsure, explanation.advice(chart), None, None) })
}

/// That values far out are all that speaks against a steady process: a long tail brings such values too, and few values do not tell which.
fn only_far(chart: &Chart) -> Option<Note> {
    let chance = chart.chance.filter(|chance| chance.p < chance.level && chart.explanation.is_none())?;
    chance.p_order.filter(|p| *p >= chance.level)?;
    let is_far = |panel: &Panel| panel.signals.iter().any(|signal| signal.pattern == Pattern::BeyondLimits);
    if !chart.panels.iter().any(is_far) {
        return None;
    }
    let sentence = "The order of the values could be chance; the values far out could not.";
    let detail = "Look for a cause of each value beyond a limit. If you find none, the process may simply have a long tail.";
    Some(note(Tone::Unsure, sentence.to_owned(), Some(detail.to_owned()), None))
}

fn side_by_side() -> Offer {
    Offer { label: "See three charts side by side".into(), figure: Some("line-up".into()), ..Offer::default() }
}

/// Counts that scatter more, or less, than counting explains.
fn dispersion(chart: &Chart) -> Option<Note> {
    let is_said = matches!(chart.explanation, Some(Explanation::Overdispersed { .. } | Explanation::Underdispersed { .. }));
    let found = chart.diagnostics.dispersion.filter(|_| !is_said)?;
    let Dispersion { ratio, p, .. } = found;
    let prime = matches!(chart.kind, ChartKind::PPrime | ChartKind::UPrime | ChartKind::Ratio);
    let offers = vec![side_by_side()];
    let times = about(found.times());
    let (tone, sentence) = if p < VERY_UNLIKELY {
        let (tone, why) = match (prime, chart.steady()) {
            (true, _) => (Tone::Unsure, "the limits here are widened for it"),
            (false, true) => (Tone::Caution, "these limits may be too tight"),
            (false, false) => (Tone::Unsure, "the signals account for that"),
        };
        (tone, format!("Subgroups scatter {times} times as much as counting alone explains; {why}."))
    } else if p > 1.0 - VERY_UNLIKELY {
        let even = if ratio == 0.0 {
            "Subgroups do not scatter at all, though counting alone would".to_owned()
        } else {
            format!("Subgroups scatter only {times} times as much as counting explains")
        };
        (Tone::Caution, format!("{even}: are defectives evened out before they are counted?"))
    } else if prime {
        (Tone::Unsure, "Subgroups are not seen to scatter more than counting explains: a plain chart would do.".to_owned())
    } else {
        return None;
    };
    let detail = format!("χ² / df = {ratio:.2}, {}.", chance(p.min(1.0 - p)));
    let told = Note { offers, ..note(tone, sentence, Some(detail), None) };
    Some(told.states_if(SCATTER.is_made(2.0 * p.min(1.0 - p)), SCATTER))
}

/// Whether frozen limits still describe the newest points.
fn freshness(chart: &Chart) -> Option<Note> {
    let fresh = chart.freshness.as_ref()?;
    let (one, many) = chart.noun();
    let newest = counted(fresh.n, one, many);
    if !fresh.stale {
        return Some(note(Tone::Calm, format!("The newest {newest} still fit the limits."), None, None));
    }
    let writer = &chart.panels[0].writer;
    let direction = if fresh.shift > 0.0 { "above" } else { "below" };
    let mut parts = Vec::new();
    if fresh.p_mean < VERY_UNLIKELY {
        let shift = writer.computed(fresh.shift.abs());
        parts.push(format!("lie {shift} {direction} the old centre on average ({})", chance(fresh.p_mean)));
    }
    if let (Some(ratio), Some(p)) = (fresh.spread_ratio, fresh.p_spread.filter(|p| *p < VERY_UNLIKELY)) {
        parts.push(format!("spread {} times as much ({})", about(ratio), chance(p)));
    }
    if parts.is_empty() {
        parts.push(match fresh.beyond {
            0 => "keep their centre, but scatter more widely".to_owned(),
            1 => format!("keep their centre, but 1 of {} lies beyond the limits", fresh.n),
            beyond => format!("keep their centre, but {beyond} of {} lie beyond the limits", fresh.n),
        });
    }
    let renewed = json!({ "from": "baseline", "first": fresh.first, "last": fresh.last });
    let offers = vec![Offer {
        label: format!("Renew the limits from {many} {} to {}", chart.name(fresh.first), chart.name(fresh.last)),
        options: option("limits", renewed),
        figure: None,
    }];
    let pin = Pin { panel: 0, first: None, last: None, value: chart.panels[0].phases.last()?.center, pattern: None };
    let sentence = format!("The limits no longer describe the process: the newest {newest} {}.", listed(&parts));
    let detail = "The old limits stay in the history of the study.".to_owned();
    Some(Note { offers, ..note(Tone::Caution, sentence, Some(detail), Some(pin)).states(STALE) })
}

/// Who settled known values, and when.
fn known_limits(chart: &Chart) -> Option<Note> {
    let LimitSource::Known { set_by, set_on, .. } = &chart.limits else { return None };
    let by = set_by.as_deref().filter(|name| !name.trim().is_empty());
    let on = set_on.as_deref().filter(|day| !day.trim().is_empty());
    let only_within = || "The known sd is that within subgroups; how far their means may differ is still taken from the data.".to_owned();
    let detail = (chart.kind == ChartKind::XbarBetween).then(only_within);
    Some(match (by, on) {
        (None, None) => {
            let dated = "Say when and by whom, so that nobody has to guess how old they are.".to_owned();
            note(Tone::Caution, "The limits are known values without a date.".to_owned(), Some(detail.unwrap_or(dated)), None)
        }
        (by, on) => {
            let by = by.map(|name| format!(" by {name}")).unwrap_or_default();
            let on = on.map(|day| format!(" on {day}")).unwrap_or_default();
            note(Tone::Unsure, format!("The limits are known values, set{by}{on}."), detail, None)
        }
    })
}

/// Before and after, in one sentence.
fn comparison(chart: &Chart) -> Option<Note> {
    let c = chart.comparison.as_ref()?;
    let writer = &chart.panels[0].writer;
    let shifted = MEAN_MOVED.is_made(c.p_shift);
    let changed = SPREAD_CHANGED.is_made(c.p_spread);
    let interval = writer.interval(c.shift_ci95[0], c.shift_ci95[1]);
    let mean = if shifted {
        format!("the mean moved by {} ({interval})", writer.signed(c.shift))
    } else {
        format!("no shift of the mean can be shown: {} ({interval})", writer.signed(c.shift))
    };
    let spread = c.spread_ratio.zip(c.spread_ratio_ci95).zip(c.p_spread).map(|((ratio, [low, high]), _)| {
        let (ratio, low, high) = (about(ratio), about(low), about(high));
        let said = if changed { "the spread changed" } else { "no change of the spread can be shown" };
        format!(", and {said}: {ratio} times as much ({})", span(&low, &high))
    });
    let tone = if shifted || changed { Tone::Caution } else { Tone::Calm };
    let sentence = format!("From {} to {} {mean}{}.", c.before, c.after, spread.unwrap_or_default());
    let first = chart.points.phases.last()?.points.start;
    let pin = Pin { panel: 0, first: Some(first), last: Some(first), value: None, pattern: None };
    let told = note(tone, sentence, Some("In brackets the 95 % intervals.".into()), Some(pin));
    Some(told.states_if(changed, SPREAD_CHANGED).states_if(shifted, MEAN_MOVED))
}

/// How far the limits may still move: two standard errors of the sd with its degrees of freedom.
fn few_points(chart: &Chart) -> Option<Note> {
    if matches!(chart.limits, LimitSource::Known { .. }) || chart.limits_sample_size >= ENOUGH_POINTS || all_equal(chart) {
        return None;
    }
    let (one, many) = chart.noun();
    let n = counted(chart.limits_sample_size, one, many);
    let sentence = match chart.limits_df.filter(|df| *df >= 1.0 && chart.sigma_within.is_some()) {
        Some(df) => format!("Limits rest on {n}: they may still move by about ±{:.0} %.", 200.0 / (2.0 * df).sqrt()),
        None if chart.sigma_within.is_none() && !chart.kind.counts() => return None,
        None => format!("Limits rest on {n}: they will still move as more arrive."),
    };
    Some(note(Tone::Caution, sentence, Some(format!("{ENOUGH_POINTS} or more is usual.")), limit_pin(chart)))
}

fn small_counts(chart: &Chart) -> Option<Note> {
    let expected = chart.diagnostics.mean_count.filter(|mean| *mean < ENOUGH_BAD)?;
    let sentence = format!("Only {} defectives are expected a subgroup, so the limits are lopsided.", about(expected.max(1e-6)));
    let detail = "Inspect more at a time, or chart the good pieces between bad ones.".to_owned();
    Some(note(Tone::Caution, sentence, Some(detail), None))
}

fn unequal_sizes(chart: &Chart) -> Option<Note> {
    if !chart.panels[0].steps() || matches!(chart.kind, ChartKind::Ewma | ChartKind::Cusum) {
        return None;
    }
    let (sentence, tone) = match chart.kind {
        ChartKind::Np => ("The number inspected changes, so centre and limits step; the share (p) reads more easily.", Tone::Caution),
        _ => ("Subgroups differ in size, so the limits step.", Tone::Unsure),
    };
    let offers = if chart.kind == ChartKind::Np {
        vec![Offer { label: "Chart the share".into(), options: option("chart", json!("p")), figure: None }]
    } else {
        Vec::new()
    };
    Some(Note { offers, ..note(tone, sentence.to_owned(), None, None) })
}

/// Parts in one chart of deviations whose spreads differ.
fn unlike_parts(chart: &Chart) -> Option<Note> {
    let p = chart.diagnostics.equal_spread_p.filter(|p| PARTS_UNLIKE.is_made(*p))?;
    if chart.panels[0].plotted == Plotted::StandardisedDeviation {
        return None;
    }
    let offers = vec![Offer { label: "Divide by the sd of each part".into(), options: option("standardised", json!(true)), figure: None }];
    let sentence = format!("Spreads of the parts differ ({}): common limits are too wide for some and too tight for others.", chance(p));
    Some(Note { offers, ..note(Tone::Caution, sentence, None, None).states(PARTS_UNLIKE) })
}

fn without_target(chart: &Chart) -> Option<Note> {
    let parts = &chart.diagnostics.without_target;
    if parts.is_empty() {
        return None;
    }
    let shown: Vec<String> = parts.iter().take(3).cloned().collect();
    let more = parts.len() - shown.len();
    let names = listed(&shown) + &if more > 0 { format!(" and {more} more") } else { String::new() };
    let detail = "Choose a column with targets, or set a target for the measurement.".to_owned();
    Some(note(Tone::Caution, format!("No target is known for {names}: the mean of the part stands in."), Some(detail), None))
}

fn nothing_varies(chart: &Chart) -> Option<Note> {
    (all_equal(chart) && chart.panels[0].present > 1)
        .then(|| note(Tone::Caution, "All values are equal: check whether the gauge reads finely enough.".to_owned(), None, None))
}

/// Many values of exactly 0.
fn zeros(chart: &Chart) -> Option<Note> {
    let [values] = &chart.raw[..] else { return None };
    let zeros = many_zeros(values)?;
    let sentence = format!(
        "{} exactly 0: nothing there, or less than the gauge reads?",
        part_of(zeros, chart.moments.n, ["value", "values"], ["is", "are"])
    );
    let detail = "No distribution describes both; judge how often it is 0 and the other values one by one.".to_owned();
    Some(note(Tone::Caution, capital(&sentence), Some(detail), None))
}

/// Fewer than four distinct ranges within their limits: the measurement steps are too coarse
/// (Wheeler and Lyday 1989, Evaluating the Measurement Process).
fn coarse_steps(chart: &Chart) -> Option<Note> {
    let (place, ranges) =
        chart.panels.iter().enumerate().rfind(|(_, panel)| matches!(panel.plotted, Plotted::MovingRange | Plotted::Range))?;
    let ucl = ranges.phases.last()?.ucl?;
    if all_equal(chart)
        || matches!(chart.explanation, Some(Explanation::Coarse { .. }))
        || chart.kind == ChartKind::Ratio
        || ranges.present < ENOUGH_POINTS
    {
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
        format!("Measurement steps are coarse: only {} within the limits.", counted(steps, "different range", "different ranges")),
        Some(detail),
        Some(Pin { panel: place, first: None, last: None, value: Some(ucl), pattern: None }),
    ))
}

/// Neighbours alike beyond chance (|r| > 2.58/√n) make moving ranges, and so the limits, too narrow.
fn correlated(chart: &Chart) -> Option<Note> {
    let r = chart.lag_one.filter(|_| chart.explanation.is_none())?;
    let n = chart.panels[0].present;
    if n < ENOUGH_POINTS || r.abs() * (n as f64).sqrt() <= 2.58 {
        return None;
    }
    let (like, narrow) = if r > 0.0 { ("alike", "narrow") } else { ("opposed", "wide") };
    let detail = format!("Correlation with the {} before: {}.", chart.noun().0, ValueFormat::fixed(2).value(r));
    Some(
        note(
            Tone::Caution,
            match chart.kind {
                // It has none.
                ChartKind::Run => format!("Neighbours are {like} beyond chance. Look for drift, or take them further apart."),
                _ => {
                    format!(
                        "Neighbours are {like} beyond chance: the limits may be too {narrow}. Look for drift, or take them further apart."
                    )
                }
            },
            Some(detail),
            None,
        )
        .states(NEIGHBOURS),
    )
}

/// The shape that was fitted to times between events.
fn fitted_shape(chart: &Chart) -> Option<Note> {
    let (shape, scale) = chart.diagnostics.shape?;
    let scale = chart.panels[0].writer.computed(scale);
    if shape == 1.0 {
        let sentence = format!("Limits suppose an exponential with mean {scale}, as of events without memory.");
        return Some(note(Tone::Unsure, sentence, Some("It was asked for, not found.".to_owned()), None));
    }
    let [low, high] = shape_interval(shape, chart.limits_sample_size);
    let found = if high < 1.0 {
        "events come in clusters"
    } else if low > 1.0 {
        "events come with some regularity"
    } else {
        "whether events cluster or keep a rhythm cannot be told"
    };
    let likely = span(&hundredths(low), &hundredths(high));
    let told =
        note(Tone::Unsure, format!("Limits follow a Weibull shape {shape:.2}, likely {likely}, scale {scale}: {found}."), None, None);
    Some(told.states_if(high < 1.0 || low > 1.0, CLUSTERED))
}

/// The 95 % interval of a Weibull shape found from n times: of all of them, 0.822 n (found / true)² is nearly χ² with 0.822 (n − 1)
/// degrees of freedom (Bain and Engelhardt 1991, Statistical Analysis of Reliability and Life-Testing Models, sec. 4.2.2).
fn shape_interval(shape: f64, n: usize) -> [f64; 2] {
    let n = n.max(2) as f64;
    [0.975, 0.025].map(|above| shape * (chi_square_upper(above, 0.822 * (n - 1.0)) / (0.822 * n)).sqrt())
}

fn left_out(chart: &Chart) -> Option<Note> {
    let omitted = (0..chart.len()).filter(|&i| chart.points.is_omitted(i)).count();
    let present = chart.panels[0].present;
    let missing = chart.len() - present;
    let (one, many) = chart.noun();
    let they_are = |n: usize| counted(n, &format!("{one} is"), &format!("{many} are"));
    let unordered = ("row has no place in the order and stands last", "rows have no place in the order and stand last");
    let parts: Vec<String> = [
        (omitted > 0).then(|| format!("{} left out of the limits", they_are(omitted))),
        (missing > 0).then(|| format!("{} missing", they_are(missing))),
        (chart.points.unordered > 0).then(|| counted(chart.points.unordered, unordered.0, unordered.1)),
        (chart.points.unsampled > 0).then(|| counted(chart.points.unsampled, "row belongs to no subgroup", "rows belong to no subgroup")),
    ]
    .into_iter()
    .flatten()
    .collect();
    let tone = if omitted > 0 || chart.points.unordered > 0 || chart.points.unsampled > 0 { Tone::Caution } else { Tone::Unsure };
    (!parts.is_empty()).then(|| note(tone, format!("{}.", capital(&listed(&parts))), None, None))
}

/// Fewer signals than this are told as charts with one.
const RARELY: f64 = 0.75;

fn false_alarms(chart: &Chart) -> Option<Note> {
    if let Some(chance) = chart.chance.filter(|chance| chance.expected > 0.0) {
        // Of all panels, and of limits that rest on these points.
        let points = counted(chart.panels[0].present, chart.noun().0, chart.noun().1);
        let sentence = if chance.expected < RARELY {
            format!("A steady process shows a signal on about 1 in {:.0} charts like this of {points}.", 1.0 / chance.expected)
        } else {
            format!("A steady process shows about {} on a chart like this of {points}.", signals_about(chance.expected))
        };
        return Some(note(Tone::Unsure, sentence, None, None));
    }
    chart.in_control_arl?;
    let between = Some(chart.panels[0].present as f64 / chart.expected_alarms()).filter(|between| between.is_finite())?;
    let these = match chart.run_rules.len() {
        1 => "this pattern".to_owned(),
        n => format!("these {n} patterns"),
    };
    let many = chart.noun().1;
    let sentence = format!("With {these} a steady process gives a false alarm about every {} {many}.", about(between));
    Some(note(Tone::Unsure, sentence, None, None))
}

/// "1.8 signals", "1 signal".
fn signals_about(expected: f64) -> String {
    let words = about(expected);
    let one = words == "1";
    format!("{words} {}", if one { "signal" } else { "signals" })
}

fn limit_pin(chart: &Chart) -> Option<Pin> {
    let value = chart.panels[0].phases.last()?.ucl;
    Some(Pin { panel: 0, first: None, last: None, value, pattern: None })
}
