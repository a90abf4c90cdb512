//! A share in words.

use super::numbers::Numbers;
use super::params::{Alternative, Params};
use crate::judgement::unlikely;
use crate::study::words::{capital, chance, counted, grouped};
use crate::study::{NextQuestion, Note, Tone, Verdict, letter_notes};

/// Reads a share.
pub fn read(numbers: &Numbers, params: &Params) -> (Verdict, Vec<Note>, Vec<NextQuestion>) {
    let mut notes: Vec<Note> = [width(numbers), missing(numbers)].into_iter().flatten().collect();
    letter_notes(&mut notes);
    (verdict(numbers, params), notes, Vec::new())
}

fn percent(share: f64) -> String {
    format!("{:.1} %", 100.0 * share)
}

fn seen(numbers: &Numbers, params: &Params) -> String {
    let what = params.counted.as_ref().map(|(_, label)| format!(" are {label}")).unwrap_or_default();
    let [low, high] = numbers.ci95;
    format!(
        "{} of {}{what}, {}, likely {} to {}",
        grouped(numbers.x as usize),
        grouped(numbers.n as usize),
        percent(numbers.estimate),
        percent(low),
        percent(high)
    )
}

fn verdict(numbers: &Numbers, params: &Params) -> Verdict {
    let say = |tone, title: &str, sentence| Verdict { tone, title: title.to_owned(), sentence };
    let seen = seen(numbers, params);
    let (Some(claim), Some(p)) = (numbers.claim, numbers.p) else {
        return say(Tone::Calm, "A share", format!("{seen}."));
    };
    let asked = match params.alternative {
        Alternative::NotEqual if numbers.estimate < claim => "less than",
        Alternative::NotEqual => "more than",
        Alternative::Less => "less than",
        Alternative::Greater => "more than",
    };
    if unlikely(Some(p)) {
        let title = "Not as claimed";
        return say(Tone::Alarm, title, format!("{title}: {asked} {} ({}). {}.", percent(claim), chance(p), capital(&seen)));
    }
    let [low, high] = numbers.ci95;
    let title = "Could be as claimed";
    // A wide interval holds many a claim: it is no proof of this one.
    let tone = if high - low > 0.1 { Tone::Unsure } else { Tone::Calm };
    say(tone, title, format!("{title}: {} goes with what was seen ({}). {}.", percent(claim), chance(p), capital(&seen)))
}

/// How much more would tell.
fn width(numbers: &Numbers) -> Option<Note> {
    let half = 0.5 * (numbers.ci95[1] - numbers.ci95[0]);
    // Half of the width takes four times as many.
    (half > 0.02).then(|| Note {
        letter: String::new(),
        tone: Tone::Unsure,
        sentence: format!("The share is known to about ± {}.", percent(half)),
        detail: Some(format!("Four times as many, {}, would halve that.", grouped((4.0 * numbers.n) as usize))),
        pin: None,
        offers: Vec::new(),
    })
}

fn missing(numbers: &Numbers) -> Option<Note> {
    (numbers.missing > 0).then(|| Note {
        letter: String::new(),
        tone: Tone::Unsure,
        sentence: format!("{}.", counted(numbers.missing, "row has no label and is left out", "rows have no label and are left out")),
        detail: None,
        pin: None,
        offers: Vec::new(),
    })
}
