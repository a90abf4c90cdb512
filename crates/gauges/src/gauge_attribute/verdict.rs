//! Whether inspection can be trusted, in one sentence.

use super::compute::Answer;
use super::decisions::MISSES;
use super::numbers::{Agreement, Errors};
use acorn_maths::words::{capital, counted, hundredths, percent};
use acorn_study::{Tone, Verdict};

/// From such a kappa on agreement is good, below the other it is poor (AIAG MSA, 4th ed.).
pub const GOOD: f64 = 0.75;
const POOR: f64 = 0.40;
/// Agreement with the reference that is wanted, and below which inspection cannot be used (AIAG MSA, 4th ed.).
const EFFECTIVE: f64 = 0.90;
const INEFFECTIVE: f64 = 0.80;
/// Misses above the first are too many for a good inspection, above the second for any (AIAG MSA, 4th ed.).
pub const MISSED_GOOD: f64 = 0.02;
const MISSED_POOR: f64 = 0.05;

/// "all agree with the reference on 27 of 30 pieces (likely 73 % to 98 %)".
fn agreed(of: &Agreement) -> String {
    let [low, high] = of.ci95.map(percent);
    format!("{} of {} (likely {low} to {high})", of.matched, counted(of.inspected, "piece", "pieces"))
}

/// Who misses most.
pub fn worst(errors: &[Errors]) -> Option<&Errors> {
    errors.iter().filter(|one| one.miss_rate.is_some()).max_by(|a, b| a.miss_rate.unwrap_or(0.0).total_cmp(&b.miss_rate.unwrap_or(0.0)))
}

/// Agreement of each with the reference.
fn of_each(answer: &Answer) -> impl Iterator<Item = &Agreement> {
    answer.numbers.against.iter().flatten().map(|one| &one.agreement)
}

/// The verdict.
pub fn read(answer: &Answer) -> Verdict {
    let of = &answer.numbers;
    if of.n == of.parts && of.all_against.is_none() {
        let sentence = "Each piece was judged once: nothing can be told of agreement. Let two people judge, or one twice.".to_owned();
        return Verdict::new(Tone::Unsure, "Too few to say", sentence);
    }
    let kappa = of.fleiss.all.kappa;
    let kappa_words = kappa.map(|kappa| format!("; kappa {}", hundredths(kappa))).unwrap_or_default();
    if kappa.is_none() && of.labels.len() < 2 {
        return Verdict::new(
            Tone::Unsure,
            "Nothing varies",
            format!("Every judgement is “{}”: put bad pieces among them.", of.labels.join("")),
        );
    }
    let Some(all) = &of.all_against else {
        let sentence = format!("all judgements agree on {}{kappa_words}", agreed(&of.between));
        let (tone, title) = match kappa {
            Some(kappa) if kappa < POOR => (Tone::Alarm, "Inspectors disagree"),
            Some(kappa) if kappa < GOOD => (Tone::Caution, "Agreement is fair"),
            _ => (Tone::Caution, "They agree"),
        };
        let doubt = if title == "They agree" { ", though nobody knows whether they are right: give the pieces a reference" } else { "" };
        return Verdict::new(tone, title, format!("{}{doubt}.", capital(&sentence)));
    };
    let missed = of.errors.as_deref().and_then(worst);
    let miss = missed.and_then(|one| one.miss_rate).unwrap_or(0.0);
    let who = missed
        .filter(|one| one.misses > 0)
        .map(|one| format!("; {} misses {} of the bad", one.operator, percent(miss)))
        .unwrap_or_default();
    // Each by themselves: the least effective decides. What is surely so is alarming, what may be chance is a doubt.
    let ends = |of: fn(&Agreement) -> f64| of_each(answer).map(of).fold(1.0, f64::min);
    let (least, low, high) = (ends(|one| one.share), ends(|one| one.ci95[0]), ends(|one| one.ci95[1]));
    let surely_misses = of.errors.iter().flatten().any(|one| one.miss_ci95.is_some_and(|[low, _]| low > MISSED_GOOD));
    let poor = least < INEFFECTIVE || miss > MISSED_POOR;
    let (tone, title) = if high < EFFECTIVE || surely_misses || kappa.is_some_and(|kappa| kappa < POOR) {
        (Tone::Alarm, "Not usable as it is")
    } else if poor {
        (Tone::Caution, "Likely not usable")
    } else if least < EFFECTIVE || miss > MISSED_GOOD {
        (Tone::Caution, "Depends on the use")
    } else if low < INEFFECTIVE {
        (Tone::Caution, "Fit for use, with a doubt")
    } else {
        (Tone::Calm, "Fit for use")
    };
    Verdict::new(tone, title, format!("{title}: all agree with the reference on {}{who}{kappa_words}.", agreed(all)))
        .states_if(surely_misses, MISSES)
}
