//! The doubts and facts beside the figure, each with what to do.

use std::collections::BTreeMap;

use serde_json::{Map, json};

use super::answer::Answer;
use super::assumed::{AssumedDistribution, BELOW_BOUND};
use super::decisions::{MISFIT, NEIGHBOURS, SURPRISE};
use super::params::Subgroups;
use super::verdict::{Standing, all_beyond, beyond_words, explained, index, shape_holds, standing};
use crate::control_chart::ChartKind;
use crate::control_chart::decisions::{EXPLAINED, NOT_STEADY};
use acorn_maths::judgement::VERY_UNLIKELY;
use acorn_maths::normal;
use acorn_maths::shape::NORMALITY_LEAST;
use acorn_maths::shapes::{Fitted, Untested};
use acorn_maths::tails::binomial_from;
use acorn_maths::words::{capital, chance, counted, hundredths, part_of, share};
use acorn_study::notes::note;
use acorn_study::{NextQuestion, Note, Offer, RoleColumns, Tone, letter_notes};

/// Fewer values than this leave an index wide open.
const USUAL: usize = 100;
/// Indices of believable shapes farther apart than this are told.
const APART: f64 = 0.2;
/// Long-term spread this much wider than short-term tells of drift.
const DRIFT: f64 = 1.1;
/// Skewed beyond this, the two sides are nothing alike.
const SKEWED: f64 = 0.5;

/// All notes, lettered.
pub fn all(answer: &Answer) -> Vec<Note> {
    let varied = answer.numbers.sd_overall.is_some_and(|sd| sd > 0.0);
    let limited = answer.params.lsl.is_some() || answer.params.usl.is_some();
    let mut notes: Vec<Note> = if varied {
        [
            explained(answer).is_some().then(|| conditions(answer)),
            limited.then(|| outside(answer)),
            (explained(answer).is_none() && all_beyond(answer).is_none()).then(|| conditions(answer)),
            gauge(answer),
            explained(answer).is_none().then(|| shape(answer)).flatten(),
            surprise(answer),
            explained(answer).is_none().then(|| drift(answer)).flatten(),
            few(answer),
            skewed(answer),
            zeros(answer),
            coarse(answer),
            below_bound(answer),
            not_reached(answer),
            historical(answer),
            missing(answer),
        ]
        .into_iter()
        .flatten()
        .collect()
    } else {
        [below_bound(answer), missing(answer)].into_iter().flatten().collect()
    };
    letter_notes(&mut notes);
    notes
}

/// How much of the spread is measuring.
fn gauge(answer: &Answer) -> Option<Note> {
    let of = &answer.numbers;
    let index = of.ppk.zip(of.ppk_without_gauge).map(|(is, would)| ("Ppk", is, would));
    Some(of.gauge.as_ref()?.note("this spread", &of.writer, index))
}

/// What lies outside, and what centring would bring.
fn outside(answer: &Answer) -> Note {
    let numbers = &answer.numbers;
    let seen = (numbers.observed.total.unwrap_or(0.0) * numbers.n as f64).round() as usize;
    let seen_words = format!("Seen: {} {}.", part_of(seen, numbers.n, ["value", "values"], ["lies", "lie"]), beyond_words(answer));
    let centred = match (answer.assumed, numbers.pp, numbers.ppk, numbers.limits.lsl, numbers.limits.usl) {
        (AssumedDistribution::Normal, Some(pp), Some(ppk), Some(lsl), Some(usl)) if pp > 1.07 * ppk => {
            format!(" Centred on {} Ppk would be {}.", numbers.writer.value(0.5 * (lsl + usl)), hundredths(pp))
        }
        _ => String::new(),
    };
    let trusted = shape_holds(answer) && answer.cut_off.is_none() && numbers.signals_by_chance && explained(answer).is_none();
    let tone = match standing(answer) {
        _ if !trusted => Tone::Unsure,
        Some(Standing::Fails) => Tone::Alarm,
        Some(Standing::Meets) | None => Tone::Calm,
        Some(_) => Tone::Caution,
    };
    match (numbers.expected_overall.total.filter(|_| answer.agreement.is_none()), index(answer)) {
        (None, Some(_)) if answer.agreement.is_some() => note(tone, seen_words, None),
        (Some(out), Some(index)) => {
            let place = beyond_words(answer);
            let expected = if trusted { "Expected" } else { "If that shape held" };
            note(tone, format!("{expected}: {} {place}. {index}.", share(out)), Some(format!("{seen_words}{centred}")))
        }
        (None, Some(index)) => note(tone, format!("{index}, by percentiles of the values."), Some(seen_words)),
        _ => note(tone, seen_words, None),
    }
}

/// Whether the indices mean anything.
fn conditions(answer: &Answer) -> Note {
    let numbers = &answer.numbers;
    if let Some(explanation) = explained(answer) {
        let detail = explanation.is_shape().then(|| "The same values in any other order would show as many signals.".to_owned());
        return note(explanation.tone(), format!("{}.", capital(&explanation.finding(&answer.chart))), detail).states(EXPLAINED);
    }
    if !numbers.signals_by_chance {
        let signals = counted(numbers.signals, "signal stands", "signals stand");
        return note(
            Tone::Alarm,
            format!("{} on the chart: these values are not of one process.", capital(&signals)),
            Some("Ask whether it is steady, give the causes, and come back.".to_owned()),
        )
        .states(NOT_STEADY);
    }
    if numbers.signals == 0 && answer.chart.rests_on_few() {
        return note(Tone::Unsure, "No signal so far, but too few points to call the process steady.".to_owned(), None);
    }
    let steady = if numbers.signals == 0 { "Steady: no signal on the chart" } else { "Steady enough" };
    let detail = (numbers.signals > 0).then(|| chance_signals(numbers.signals, numbers.signals_expected));
    if numbers.misfits || answer.cut_off.is_some() || answer.assumed == AssumedDistribution::Percentile {
        return note(Tone::Calm, format!("{steady}."), detail);
    }
    match numbers.shape_p {
        Some(_) if matches!(answer.assumed, AssumedDistribution::Johnson(_)) => {
            let sentence = format!("{steady}; Johnson's functions were chosen so that these values look normal, which tests nothing.");
            note(Tone::Unsure, sentence, detail)
        }
        Some(p) => {
            let rely = if standing(answer) == Some(Standing::ByShape) { "" } else { ", so these numbers can be relied on" };
            let fits = format!("{steady}, and {} fits ({}){rely}.", numbers.shape, chance(p));
            note(Tone::Calm, fits, detail)
        }
        None => note(Tone::Unsure, format!("{steady}; {}.", untested(answer)), detail),
    }
}

/// Why a shape has no chance, as a clause.
fn untested(answer: &Answer) -> &'static str {
    match answer.assumed {
        AssumedDistribution::Fitted(Fitted { untested: Some(Untested::NotFittedAgain), .. }) => {
            "the shape cannot be tested, because samples drawn from it cannot be fitted"
        }
        AssumedDistribution::Fitted(Fitted { untested: Some(Untested::NoGain), .. }) => {
            "the shape was not tested, because its threshold gains nothing"
        }
        _ if answer.numbers.n < NORMALITY_LEAST => "the shape cannot be tested with so few values",
        _ => "the shape could not be tested",
    }
}

/// "3 signals, where chance alone brings about 2.1 to such a chart. Look at them all the same."
pub fn chance_signals(seen: usize, expected: f64) -> String {
    let signals = counted(seen, "signal", "signals");
    let by_chance = if expected < 0.05 { "fewer than 0.1".to_owned() } else { format!("about {expected:.1}") };
    format!("{}, where chance alone brings {by_chance} to such a chart. Look at them all the same.", capital(&signals))
}

fn offer(label: &str, options: &[(&str, serde_json::Value)]) -> Offer {
    let options = options.iter().map(|(name, value)| ((*name).to_owned(), value.clone())).collect::<Map<_, _>>();
    Offer { label: label.to_owned(), options, figure: None }
}

/// What else the shape could be.
fn shape(answer: &Answer) -> Option<Note> {
    let numbers = &answer.numbers;
    let best = || offer("Fit shapes and take the best", &[("shape", json!("best-fit"))]);
    if let AssumedDistribution::Fitted(_) = answer.assumed
        && let [first, ..] = &numbers.shapes[..]
    {
        let told = numbers.ppk_by_shape.filter(|[low, high]| high - low > APART).map(|[low, high]| {
            format!(
                "Those that fit as well give a Ppk from {} to {}: more values would tell them apart.",
                hundredths(low),
                hundredths(high)
            )
        });
        let undecided = standing(answer) == Some(Standing::ByShape);
        let tone = if undecided { Tone::Caution } else { Tone::Unsure };
        let mut note = note(tone, format!("Of {} fitted shapes {} fits best.", numbers.shapes.len(), first.fit.words), told);
        note.offers = vec![Offer { label: "Compare the shapes".to_owned(), figure: Some("shapes".to_owned()), ..Offer::default() }];
        return Some(note);
    }
    if !numbers.misfits || answer.cut_off.is_some() {
        return None;
    }
    let p = numbers.shape_p.map(chance).unwrap_or_default();
    let mut note = note(
        if shape_holds(answer) { Tone::Unsure } else { Tone::Caution },
        format!("The values do not follow {} ({p}): what lies far out is guessed wrongly.", numbers.shape),
        Some("First look for two sources mixed, or values cut off. Then take another shape.".to_owned()),
    )
    .states(MISFIT);
    note.offers.push(best());
    if answer.assumed == AssumedDistribution::Normal {
        if numbers.dial.mean.is_some() && answer.lowest > 0.0 {
            note.offers.push(offer("Take a power (Box and Cox)", &[("shape", json!("box-cox"))]));
        }
        note.offers.push(offer("Take Johnson's functions", &[("shape", json!("johnson"))]));
    }
    note.offers.push(offer("Use percentiles", &[("shape", json!("percentile"))]));
    Some(note)
}

/// More beyond the limits than the shape expects.
fn surprise(answer: &Answer) -> Option<Note> {
    let numbers = &answer.numbers;
    let (seen, expected) = (numbers.observed.total?, numbers.expected_overall.total?);
    let n = numbers.n as f64;
    let count = (seen * n).round();
    let p = binomial_from(count, n, expected.clamp(0.0, 1.0));
    (count > 0.0 && SURPRISE.is_made(p)).then(|| {
        note(
            Tone::Caution,
            format!(
                "{} {}, though the shape expects {:.1}.",
                part_of(count as usize, numbers.n, ["value", "values"], ["lies", "lie"]),
                beyond_words(answer),
                expected * n
            ),
            Some("Believe the values: the tails are heavier than the shape.".to_owned()),
        )
        .states(SURPRISE)
    })
}

/// Short-term beside long-term spread.
fn drift(answer: &Answer) -> Option<Note> {
    let numbers = &answer.numbers;
    let (cpk, ppk) = (numbers.cpk?, numbers.ppk?);
    let (short, long) = match numbers.transform {
        Some(transform) => (transform.sd_within?, transform.sd_overall),
        None => (numbers.sd_within?, numbers.sd_overall?),
    };
    let ratio = long / short;
    if answer.params.historical.is_some() || !ratio.is_finite() {
        return None;
    }
    if (1.0 / DRIFT..=DRIFT).contains(&ratio) {
        return Some(note(Tone::Calm, "Short-term and long-term spread differ little: no drift is seen.".to_owned(), None));
    }
    let judged = answer.chart.neighbours();
    let drifts = judged.is_some_and(|judged| judged.p_alike < VERY_UNLIKELY);
    let mixed = judged.is_some_and(|judged| judged.p_unlike < VERY_UNLIKELY);
    if ratio > DRIFT && drifts {
        return Some(
            note(
                Tone::Caution,
                format!("Long-term spread is {ratio:.2} times short-term spread: something drifts from one value to later ones."),
                Some(format!("Held as steady as neighbours are, Ppk could rise from {} to {}.", hundredths(ppk), hundredths(cpk))),
            )
            .states(NEIGHBOURS),
        );
    }
    // Else chance brings as much.
    (ratio < 1.0 && mixed).then(|| {
        note(
            Tone::Caution,
            format!("Short-term spread is {:.2} times long-term spread: neighbours differ more than values far apart.", 1.0 / ratio),
            Some("Two streams may take turns, or subgroups may hold one piece of each. Chart the streams apart.".to_owned()),
        )
        .states(NEIGHBOURS)
    })
}

/// How open the index still is.
fn few(answer: &Answer) -> Option<Note> {
    let numbers = &answer.numbers;
    // Few values are told where the interval holds the goal, or has no end.
    let undecided = numbers.ppk_ci95.is_none_or(|[low, high]| (low..=high).contains(&answer.params.goal));
    if numbers.n >= USUAL || !undecided || answer.agreement.is_some() {
        return None;
    }
    let detail = numbers
        .need
        .as_ref()
        .and_then(|need| need.n.map(|n| format!("For ± {} it takes {}.", need.wanted, counted(n as usize, "value", "values"))));
    let mut note =
        note(Tone::Caution, format!("Only {}: {USUAL} or more are usual for an index.", counted(numbers.n, "value", "values")), detail);
    if numbers.need.is_some() {
        note.offers.push(Offer { label: "See how many are needed".to_owned(), figure: Some("need".to_owned()), ..Offer::default() });
    }
    Some(note)
}

/// Few different values: a test of shape takes steps for a misfit.
fn coarse(answer: &Answer) -> Option<Note> {
    let distinct = answer.distinct?;
    let sentence =
        format!("Only {distinct} different values: the gauge reads coarsely, and the test of shape takes its steps for a misfit.");
    Some(note(Tone::Caution, sentence, Some("Record one more decimal, or use a finer gauge.".to_owned())))
}

/// Many values of exactly 0.
fn zeros(answer: &Answer) -> Option<Note> {
    let n = answer.numbers.n;
    let sentence = format!(
        "{} exactly 0: nothing there, or less than the gauge reads?",
        part_of(answer.zeros?, n, ["value", "values"], ["is", "are"])
    );
    let detail = "No distribution describes both; judge how often it is 0 and the other values one by one.".to_owned();
    Some(note(Tone::Caution, capital(&sentence), Some(detail)))
}

/// Both limits and a lopsided shape.
fn skewed(answer: &Answer) -> Option<Note> {
    let numbers = &answer.numbers;
    let skewness = numbers.skewness.filter(|skewness| skewness.abs() > SKEWED)?;
    let both = numbers.limits.lsl.is_some() && numbers.limits.usl.is_some();
    (answer.assumed == AssumedDistribution::Normal && both && numbers.misfits).then(|| {
        let side = if skewness > 0.0 { "upper" } else { "lower" };
        note(Tone::Unsure, format!("The histogram leans: judge the {side} side by itself, there the tail is long."), None)
    })
}

/// A shape, or values, below what nature allows.
fn below_bound(answer: &Answer) -> Option<Note> {
    let numbers = &answer.numbers;
    let bound = numbers.limits.bound?;
    let words = numbers.writer.value(bound);
    if answer.lowest < bound {
        return Some(note(
            Tone::Alarm,
            format!("The smallest value, {}, lies below {words}, where none can be.", numbers.writer.value(answer.lowest)),
            Some("Correct it on the Data page, or change the bound in the statement.".to_owned()),
        ));
    }
    let mean_sd = numbers.mean.zip(numbers.sd_overall);
    let below = match (answer.assumed, mean_sd) {
        (AssumedDistribution::Normal, Some((mean, sd))) => normal::below((bound - mean) / sd),
        (AssumedDistribution::Fitted(fitted), _) => fitted.shape.below(bound),
        _ => 0.0,
    };
    (below > BELOW_BOUND).then(|| {
        let mut note = note(
            Tone::Caution,
            format!("The curve puts {} below {words}, where nothing can be.", share(below)),
            Some("Take a shape that ends there.".to_owned()),
        );
        note.offers.push(offer("Fit shapes and take the best", &[("shape", json!("best-fit"))]));
        note
    })
}

/// A limit beyond the end of the shape.
fn not_reached(answer: &Answer) -> Option<Note> {
    let numbers = &answer.numbers;
    let silent = |limit: Option<f64>, index: Option<f64>, side: &str| {
        let limit = limit.filter(|_| index.is_none())?;
        Some(format!("The {side} limit, {}, lies beyond the end of the shape, which never reaches it.", numbers.writer.value(limit)))
    };
    let lower = silent(numbers.limits.lsl, numbers.ppl, "lower");
    let sentence = lower.or_else(|| silent(numbers.limits.usl, numbers.ppu, "upper"))?;
    Some(note(Tone::Unsure, sentence, Some("It has no index of its own.".to_owned())))
}

fn historical(answer: &Answer) -> Option<Note> {
    let known = answer.params.historical?;
    let write = &answer.numbers.writer;
    let sentence =
        format!("Short-term indices take the mean {} and the sd {} from before.", write.computed(known.mean), write.computed(known.sigma));
    Some(note(Tone::Unsure, sentence, Some("Long-term ones take the values.".to_owned())))
}

fn missing(answer: &Answer) -> Option<Note> {
    let missing = answer.numbers.missing;
    (missing > 0).then(|| note(Tone::Unsure, format!("{} missing.", capital(&counted(missing, "value is", "values are"))), None))
}

/// What the answer makes worth asking.
pub fn next(answer: &Answer) -> Vec<NextQuestion> {
    let one = RoleColumns::One(answer.params.measure.name.clone());
    let measure = BTreeMap::from([("measure".to_owned(), one.clone())]);
    let all = match &answer.params.further[..] {
        [] => one,
        _ => RoleColumns::Many(answer.params.columns().map(|column| column.name.clone()).collect()),
    };
    let mut roles = BTreeMap::from([("measure".to_owned(), all)]);
    let subgroup =
        answer.params.subgroups.as_ref().and_then(|subgroups| if let Subgroups::Column(name) = subgroups { Some(name) } else { None });
    for (role, name) in [("subgroup", subgroup), ("order", answer.params.order.as_ref())] {
        roles.extend(name.map(|name| (role.to_owned(), RoleColumns::One(name.clone()))));
    }
    let ask = NextQuestion::of;
    let mut steady = ask("control-chart", "Is it steady?", "An index holds only while the process does.", roles);
    if !answer.params.further.is_empty() {
        steady.options.insert("chart".to_owned(), ChartKind::XbarS.name().into());
    }
    let look = ask("distribution", "What does it look like?", "A histogram with two peaks has two causes.", measure.clone());
    let bad = ask("sigma-level", "How bad is it?", "The same as defects in a million and a sigma level.", measure);
    if let Some(explanation) = explained(answer) {
        let mut first = explanation.next(&answer.chart);
        first.push(steady);
        first.push(look);
        return first;
    }
    if !answer.numbers.signals_by_chance {
        return vec![steady, look];
    }
    // What meets its limits by far is not asked how bad it is.
    let is_bad = standing(answer).is_some_and(|standing| standing != Standing::Meets);
    [Some(look), is_bad.then_some(bad), Some(steady)].into_iter().flatten().collect()
}
