//! The answer in one sentence: how much of what counts the gauge takes, how many groups it tells apart, and who is off.

use super::compute::Answer;
use crate::study::words::{counted, percent};
use crate::study::{Tone, Verdict};

/// Up to this share a gauge is good (AIAG MSA, 4th ed.).
pub const GOOD: f64 = 0.10;
/// Above this share it cannot be used.
pub const POOR: f64 = 0.30;
/// Fewer groups of parts told apart are too few.
pub const GROUPS: f64 = 5.0;

/// How a gauge stands.
#[derive(Clone, Copy, Debug, PartialEq, Eq)]
pub enum Standing {
    /// Nothing varies.
    Nothing,
    /// Good, by its whole interval where there is one.
    Good,
    /// Good by the estimate; its interval reaches higher.
    MayBeGood,
    /// It depends on the use.
    Depends,
    /// It cannot be used.
    Poor,
}

/// Where the gauge stands; too few groups told apart leave it no better than "it depends".
pub fn standing(answer: &Answer) -> Standing {
    let of = &answer.numbers;
    let few = of.ndc.is_some_and(|ndc| ndc < GROUPS);
    match of.share {
        None => Standing::Nothing,
        Some(part) if part > POOR => Standing::Poor,
        Some(part) if part > GOOD || few => Standing::Depends,
        Some(_) if of.share_ci95.is_none_or(|[_, high]| high > POOR) => Standing::MayBeGood,
        Some(_) => Standing::Good,
    }
}

/// The verdict.
pub fn read(answer: &Answer) -> Verdict {
    let of = &answer.numbers;
    let Some(part) = of.share else {
        let sentence =
            format!("All {} of {} are alike: nothing can be told of the gauge.", counted(of.n, "reading", "readings"), answer.measure);
        return Verdict { tone: Tone::Unsure, title: "Nothing varies".into(), sentence };
    };
    let (tone, title) = match standing(answer) {
        Standing::Good | Standing::Nothing => (Tone::Calm, "Fit for use"),
        Standing::MayBeGood => (Tone::Caution, "Fit for use, with a doubt"),
        Standing::Depends => (Tone::Caution, "Depends on the use"),
        Standing::Poor => (Tone::Alarm, "Not usable as it is"),
    };
    let likely = of.share_ci95.map(|[low, high]| format!(", likely {} to {},", percent(low), percent(high))).unwrap_or_default();
    let groups = of.ndc.map(|ndc| {
        let groups = counted(ndc as usize, "step", "steps");
        if ndc < GROUPS { format!(" and tells only {groups} apart") } else { format!(" and tells {groups} apart") }
    });
    let off = answer.numbers.operators.iter().filter(|one| one.off).max_by(|a, b| a.bias.abs().total_cmp(&b.bias.abs()));
    let who = off
        .map(|one| format!("; {} reads {} {}", one.label, of.writer.computed(one.bias.abs()), if one.bias > 0.0 { "high" } else { "low" }));
    let sentence = format!(
        "{title}: the gauge takes {} of {}{likely}{}{}.",
        percent(part),
        of.basis.words(),
        groups.unwrap_or_default(),
        who.unwrap_or_default()
    );
    Verdict { tone, title: title.into(), sentence }
}
