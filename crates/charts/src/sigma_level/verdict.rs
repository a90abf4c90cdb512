//! A sigma level in words: never without its shift, and never without the conditions that it rests on.

use std::collections::BTreeMap;

use super::decisions::{NOT_NORMAL, SCATTER};
use super::numbers::{Answer, Numbers};
use super::params::{Params, Source};
use crate::capability::notes::chance_signals;
use crate::control_chart::decisions::{EXPLAINED, NOT_STEADY};
use acorn_maths::words::{about, capital, chance, counted, grouped, hundredths, listed, part_of, share, span, typed};
use acorn_study::notes::note;
use acorn_study::{NextQuestion, Note, RoleColumns, Tone, Verdict, letter_notes};

/// Reads an answer.
pub fn read(answer: &Answer, params: &Params) -> (Verdict, Vec<Note>, Vec<NextQuestion>) {
    let numbers = &answer.numbers;
    let mut notes: Vec<Note> =
        [condition(numbers), shape(numbers), scatter(answer), units(numbers), weakest(numbers), shift(numbers), none(numbers)]
            .into_iter()
            .flatten()
            .collect();
    letter_notes(&mut notes);
    (verdict(answer, params), notes, next(params))
}

/// A rate of defects: "11,029", "3.4", "fewer than 0.1".
fn rate(dpmo: f64) -> String {
    match dpmo {
        0.0 => "0".to_owned(),
        few if few < 0.1 => "fewer than 0.1".to_owned(),
        some if some < 100.0 => format!("{some:.1}"),
        many => grouped(many.round() as usize),
    }
}

/// A share that passes, in percent; never 0 or 100 where it is not.
fn passing(share: f64) -> String {
    match share {
        s if s > 0.0 && s < 0.000_5 => "fewer than 0.1 %".to_owned(),
        s if (0.999_5..1.0).contains(&s) => "over 99.9 %".to_owned(),
        s => format!("{:.1} %", 100.0 * s),
    }
}

fn shift_words(shift: f64) -> String {
    if shift == 0.0 { "without a shift".to_owned() } else { format!("with the shift of {}", typed(shift)) }
}

fn verdict(answer: &Answer, params: &Params) -> Verdict {
    let numbers = &answer.numbers;
    let dpmo = numbers.dpmo.unwrap_or(0.0);
    let what = if numbers.normal.is_some() { "values in a million out" } else { "defects in a million chances" };
    let likely = |[low, high]: [f64; 2]| match low < 0.1 && high >= 0.1 {
        true => format!(", likely up to {}", rate(high)),
        false => format!(", likely {}", span(&rate(low), &rate(high))),
    };
    let likely = numbers.dpmo_ci95.map(likely).unwrap_or_default();
    let pass = numbers.rolled_yield.map(|share| format!("; {} of units pass all steps", passing(share))).unwrap_or_default();
    let evidence = format!("{} {what}{likely}{pass}", rate(dpmo));
    let Some(level) = numbers.sigma_level else {
        let title = if dpmo == 0.0 { "No defect seen" } else { "Nothing but defects" };
        let of = if numbers.normal.is_some() { "so far from the limits" } else { "to such counts" };
        return Verdict::new(Tone::Unsure, title.to_owned(), format!("{title}: {evidence}. There is no sigma level {of}."));
    };
    let words = format!("Sigma level {} {}", hundredths(level), shift_words(numbers.shift));
    let title = format!("Sigma level {}", hundredths(level));
    let charted = answer.chart.as_ref().filter(|_| numbers.normal.is_some());
    if let Some((chart, explanation)) = charted.and_then(|chart| Some((chart, chart.settles_first()?))) {
        let title = explanation.title();
        let sentence = format!("{title}: {}, so this misleads. {words}: {evidence}.", explanation.finding(chart));
        return Verdict::new(explanation.tone(), title, sentence).states(EXPLAINED);
    }
    if !numbers.signals_by_chance {
        let signals = counted(numbers.signals, "signal", "signals");
        let sentence = format!("Not steady: {signals}, so this tells what was. {words}: {evidence}.");
        return Verdict::new(Tone::Alarm, "Not steady".to_owned(), sentence).states(NOT_STEADY);
    }
    if let Some(p) = numbers.normal.as_ref().filter(|normal| normal.misfits).and_then(|normal| normal.ad_p) {
        let sentence = format!("Not normal ({}), so this misleads. {words}: {evidence}.", chance(p));
        return Verdict::new(Tone::Caution, "Not normal".to_owned(), sentence).states(NOT_NORMAL);
    }
    let tone = match params.goal {
        Some(goal) if level >= goal => Tone::Calm,
        Some(goal) if level >= goal - 0.5 => Tone::Caution,
        Some(_) => Tone::Alarm,
        None => Tone::Calm,
    };
    let short = params.goal.filter(|goal| level < *goal).map(|goal| format!(" It falls short of {goal}.")).unwrap_or_default();
    Verdict::new(tone, title, format!("{words}: {evidence}.{short}"))
}

fn condition(numbers: &Numbers) -> Option<Note> {
    numbers.steady?;
    Some(match (numbers.signals, numbers.signals_by_chance) {
        (0, _) => note(Tone::Calm, "Steady: no signal on the chart.".to_owned(), None),
        (seen, true) => note(Tone::Calm, "Steady enough.".to_owned(), Some(chance_signals(seen, numbers.signals_expected))),
        (seen, false) => {
            let signals = counted(seen, "signal stands", "signals stand");
            let detail = "Ask whether it is steady, give the causes, and come back.".to_owned();
            note(Tone::Alarm, format!("{} on the chart.", capital(&signals)), Some(detail)).states(NOT_STEADY)
        }
    })
}

/// Whether the normal holds, and what was really seen.
fn shape(numbers: &Numbers) -> Option<Note> {
    let normal = numbers.normal.as_ref()?;
    let Some(n) = normal.n else {
        return Some(note(
            Tone::Unsure,
            "A normal is taken for granted: with values instead of a mean and sd it could be tested.".to_owned(),
            None,
        ));
    };
    let out = |seen: f64| part_of((seen * n as f64).round() as usize, n, ["value", "values"], ["is", "are"]);
    let seen = normal.seen.map(|seen| format!("Seen: {} out.", out(seen)));
    Some(match normal.ad_p {
        Some(p) if normal.misfits => note(
            Tone::Caution,
            format!("The values are not normal ({}): ask whether it can meet the limits, with another shape.", chance(p)),
            seen,
        )
        .states(NOT_NORMAL),
        Some(p) => note(Tone::Calm, format!("The normal that this rests on fits ({}).", chance(p)), seen),
        None => note(Tone::Unsure, "Too few values to test the normal that this rests on.".to_owned(), seen),
    })
}

/// Whether counts scatter as counts do.
fn scatter(answer: &Answer) -> Option<Note> {
    let dispersion = answer.chart.as_ref()?.dispersion()?;
    SCATTER.is_made(dispersion.p).then(|| {
        let detail = "The interval above takes every chance as alike, so it is too narrow.".to_owned();
        note(
            Tone::Caution,
            format!("Subgroups scatter {} times as much as counting explains ({}).", about(dispersion.times()), chance(dispersion.p)),
            Some(detail),
        )
        .states(SCATTER)
    })
}

fn units(numbers: &Numbers) -> Option<Note> {
    let (dpu, pass) = numbers.dpu.zip(numbers.first_time_yield)?;
    let many = numbers.steps.len() > 1;
    if dpu == 0.0 {
        return None;
    }
    let dpu = if dpu > 0.0 && dpu < 0.000_05 { "Fewer than 0.0001".to_owned() } else { format!("{dpu:.4}") };
    let words = if many {
        format!("Rolled through all {} steps, {} of units pass without a defect.", numbers.steps.len(), passing(pass))
    } else if numbers.chances == numbers.units {
        // A unit with one chance is bad or good: nothing has to be guessed about how defects share units.
        format!("{dpu} defects a unit, each with one chance: {} of units have none.", passing(numbers.yield_share.unwrap_or(pass)))
    } else {
        format!("{dpu} defects a unit: {} of units have none, if defects fall at random.", passing(pass))
    };
    Some(note(Tone::Unsure, words, numbers.normalised_yield.map(|share| format!("As if each step passed {}.", passing(share)))))
}

/// The step that loses most.
fn weakest(numbers: &Numbers) -> Option<Note> {
    let least = numbers.steps.iter().map(|step| step.first_time_yield).reduce(f64::min).filter(|least| *least < 1.0)?;
    let worst: Vec<String> = numbers.steps.iter().filter(|step| step.first_time_yield == least).map(|step| step.name.clone()).collect();
    let lost = share(1.0 - least);
    let words = match (&worst[..], numbers.steps.len()) {
        (_, 1) => return None,
        ([one], _) => format!("{} loses most: {lost} of its units have a defect.", capital(one)),
        (all, steps) if all.len() == steps => format!("All steps lose alike: {lost} of the units of each have a defect."),
        ([_, _] | [_, _, _], _) => format!("{} lose most, and alike: {lost} of their units have a defect.", capital(&listed(&worst))),
        (all, steps) => format!("{} of {steps} steps lose most, and alike: {lost} of their units have a defect.", all.len()),
    };
    Some(note(Tone::Caution, words, None))
}

fn shift(numbers: &Numbers) -> Option<Note> {
    let z = numbers.z?;
    (numbers.shift > 0.0).then(|| {
        let detail = "The shift stands for long-term drift; it is a convention, not a finding.".to_owned();
        note(Tone::Unsure, format!("Without the shift of {} the level is {}.", typed(numbers.shift), hundredths(z)), Some(detail))
    })
}

fn none(numbers: &Numbers) -> Option<Note> {
    let (chances, [_, high]) = numbers.chances.zip(numbers.dpmo_ci95)?;
    (numbers.defects == Some(0.0)).then(|| {
        let words =
            format!("None in {} chances: up to {} in a million could still be there.", grouped(chances.round() as usize), rate(high));
        note(Tone::Caution, words, None)
    })
}

fn next(params: &Params) -> Vec<NextQuestion> {
    match &params.source {
        Source::Measurement { measure, .. } => {
            let roles = || BTreeMap::from([("measure".to_owned(), RoleColumns::One(measure.name.clone()))]);
            vec![
                NextQuestion::of("capability", "Can it meet the limits?", "Spread and aim, short-term and long-term.", roles()),
                NextQuestion::of("control-chart", "Is it steady?", "A level holds only while the process does.", roles()),
            ]
        }
        _ => Vec::new(),
    }
}
