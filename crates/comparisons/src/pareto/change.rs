//! Before and after: what became of each kind.
//!
//! Without the number inspected only the mix can be compared: the share of a kind among all defects, Fisher's exact test. With
//! it, rates are: of the defects of a kind in both, those before are binomial with the part inspected before (Przyborowski and
//! Wilenski 1940, Biometrika 31). Chances are adjusted for the number of kinds by Holm (1979).

use super::decisions::CHANGED;
use super::numbers::{Change, KindChange};
use super::params::{Params, Stage};
use super::tally::Tally;
use acorn_data::frame::{Coded, NO_CODE};
use acorn_maths::distributions::{Binomial, Hypergeometric, Law, holm};
use acorn_study::{Cancel, StudyError};

/// Most kinds that are told one by one.
const TOLD_MOST: usize = 500;

/// Compares each kind, in the order in which they are ranked.
///
/// # Errors
/// [`StudyError::BadValue`], [`StudyError::Stopped`].
pub fn change(params: &Params, stage: &Stage, kinds: &Coded, ranked: &[(u32, f64)], cancel: &Cancel) -> Result<Change, StudyError> {
    let stages = Coded { codes: stage.codes.clone(), labels: stage.labels.clone().into() };
    let tally = Tally::of(&Params { weight: None, ..params.bare() }, kinds, Some(&stages), cancel)?;
    let [before, after] = [0, 1].map(|stage| ranked.iter().map(|(kind, _)| tally.sum(stage, *kind as usize)).collect::<Vec<f64>>());
    let totals = [&before, &after].map(|counts| counts.iter().sum::<f64>());
    let whole = before.iter().chain(&after).all(|count| count.fract() == 0.0);
    let p: Vec<f64> = before.iter().zip(&after).map(|(a, b)| if whole { chance(*a, *b, totals, stage.inspected) } else { 1.0 }).collect();
    let adjusted = holm(&p);
    let rate = |count: f64, side: usize| match stage.inspected {
        Some(inspected) => Some(count / inspected[side]),
        None => (totals[side] > 0.0).then(|| count / totals[side]),
    };
    let kind = |place: usize| {
        let (b, a) = (before[place], after[place]);
        let [rate_before, rate_after] = [rate(b, 0), rate(a, 1)];
        let up = rate_after > rate_before;
        KindChange {
            category: kinds.labels[ranked[place].0 as usize].clone(),
            before: b,
            after: a,
            rate_before,
            rate_after,
            p: whole.then_some(p[place]),
            p_adjusted: whole.then_some(adjusted[place]),
            changed: if whole && CHANGED.is_made(adjusted[place]) { if up { 1 } else { -1 } } else { 0 },
        }
    };
    let neither = stage.codes.iter().filter(|code| **code == NO_CODE).count();
    Ok(Change {
        labels: stage.labels.clone(),
        totals,
        inspected: stage.inspected,
        total_p: stage.inspected.filter(|_| whole).map(|inspected| conditional(totals, inspected)),
        kinds: (0..ranked.len().min(TOLD_MOST)).map(kind).collect(),
        neither,
    })
}

fn chance(before: f64, after: f64, totals: [f64; 2], inspected: Option<[f64; 2]>) -> f64 {
    match inspected {
        Some(inspected) => conditional([before, after], inspected),
        None => Hypergeometric { total: totals[0] + totals[1], marked: before + after, drawn: totals[0] }.two_sided(before),
    }
}

/// The chance of two counts as unlike their numbers inspected.
fn conditional([before, after]: [f64; 2], inspected: [f64; 2]) -> f64 {
    Binomial { n: before + after, p: inspected[0] / (inspected[0] + inspected[1]) }.two_sided(before)
}
