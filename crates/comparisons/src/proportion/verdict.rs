//! A claim in words.

use std::collections::BTreeMap;

use super::decisions::{DIFFER, NOT_CLAIMED};
use super::numbers::{One, Planned, Two, Wanted, rate_format};
use super::plan::Plan;
use super::sample::{Alternative, Counted, Counting};
use acorn_maths::words::{ValueFormat, capital, chance, counted, grouped, percent as short_percent, span};
use acorn_study::notes::{note, worst_first};
use acorn_study::{NextQuestion, Note, RoleColumns, Tone, Verdict};

/// An interval of a share wider than this holds many a claim.
const WIDE: f64 = 0.1;
/// Half an interval above this is worth saying how to narrow.
const LOOSE: f64 = 0.02;

fn percent(share: f64) -> String {
    format!("{:.1} %", 100.0 * share)
}

/// A share in percent, or a rate.
fn written(counting: Counting, value: f64, beside: f64) -> String {
    match counting {
        Counting::Pieces => percent(value),
        Counting::Defects => rate_format(&[value, beside]).computed(value),
    }
}

/// "9 of 140, 6.4 %, likely 3.0 to 11.9 %".
fn seen(one: &One, asked: &Counted) -> String {
    let what = asked.column.as_ref().and_then(|(_, label)| label.as_ref()).map(|label| format!(" are {label}")).unwrap_or_default();
    let [low, high] = one.ci95;
    let count = grouped(one.x as usize);
    let counts = match one.n {
        Some(n) => format!("{count} of {}{what}", grouped(n as usize)),
        None => format!("{} in {}", counted(one.x as usize, "defect", "defects"), one.of()),
    };
    let write = |value| written(asked.counting, value, one.estimate.max(high));
    format!("{counts}, {}, likely {}", write(one.estimate), span(&write(low), &write(high)))
}

/// Reads one sample.
pub fn of_one(one: &One, asked: &Counted) -> (Verdict, Vec<Note>, Vec<NextQuestion>) {
    let notes = worst_first(vec![many(asked), width(one), missing(asked.missing)]);
    (verdict(one, asked), notes, onward(asked))
}

fn verdict(one: &One, asked: &Counted) -> Verdict {
    let seen = seen(one, asked);
    let thing = if asked.counting == Counting::Pieces { "A share" } else { "A rate" };
    let (Some(claim), Some(p)) = (one.claim, one.p) else {
        return Verdict::new(Tone::Calm, thing, format!("{}.", capital(&seen)));
    };
    let claimed = written(asked.counting, claim, one.ci95[1]);
    if NOT_CLAIMED.is_made(p) {
        let side = match asked.alternative {
            Alternative::NotEqual if one.estimate < claim => "it is less",
            Alternative::NotEqual => "it is more",
            Alternative::Less => "it is less",
            Alternative::Greater => "it is more",
        };
        let title = "Not as claimed";
        let sentence = format!("{title}: {claimed} is not believable, {side} ({}). {}.", chance(p), capital(&seen));
        return Verdict::new(Tone::Alarm, title, sentence).states(NOT_CLAIMED);
    }
    let [low, high] = one.ci95;
    let title = "Could be as claimed";
    // A wide interval holds many a claim: it is no proof of this one.
    let wide = if one.n.is_some() { high - low > WIDE } else { high > 2.0 * claim };
    let tone = if wide { Tone::Unsure } else { Tone::Calm };
    Verdict::new(tone, title, format!("{title}: {claimed} goes with what was seen ({}). {}.", chance(p), capital(&seen)))
}

/// How much more would tell.
fn width(one: &One) -> Option<Note> {
    let half = 0.5 * (one.ci95[1] - one.ci95[0]);
    let n = one.n.filter(|_| half > LOOSE)?;
    // Half of the width takes four times as many.
    let detail = format!("Four times as many, {}, would halve that.", grouped((4.0 * n) as usize));
    Some(note(Tone::Unsure, format!("The share is known to about ± {}.", percent(half)), Some(detail)))
}

fn missing(rows: usize) -> Option<Note> {
    (rows > 0).then(|| {
        note(Tone::Unsure, format!("{}.", counted(rows, "row says nothing and is left out", "rows say nothing and are left out")), None)
    })
}

/// A column of more than two labels does not make two samples.
fn many(asked: &Counted) -> Option<Note> {
    let (column, labels) = asked.many.as_ref()?;
    let sentence = format!("{} has {}: two can be compared here.", column.name, counted(*labels, "label", "labels"));
    Some(note(Tone::Caution, sentence, Some("All are counted together; ask whether it depends on it.".to_owned())))
}

fn onward(asked: &Counted) -> Vec<NextQuestion> {
    let (Some((column, Some(_))), Some((group, _))) = (&asked.column, &asked.many) else { return Vec::new() };
    let roles = [("row", &group.name), ("column", &column.name)].map(|(role, name)| (role.to_owned(), RoleColumns::One(name.clone())));
    let question = format!("Does {} depend on {}?", column.name, group.name);
    vec![NextQuestion::of("association", &question, "For more than two.", BTreeMap::from(roles))]
}

/// Reads two samples.
pub fn of_two(two: &Two, asked: &Counted) -> (Verdict, Vec<Note>, Vec<NextQuestion>) {
    let notes = worst_first(vec![few(two), missing(two.missing)]);
    let [first, second] = two.sides();
    let write = |one: &One| written(asked.counting, one.estimate, first.estimate.max(second.estimate));
    let against = format!("{} against {}", write(first), write(second));
    let verdict = if DIFFER.is_made(two.p) {
        let more = if two.estimate_1 > two.estimate_2 { "more" } else { "less" };
        let names = format!("{} has {more} than {}", first.label, second.label);
        Verdict::new(Tone::Alarm, "They differ", format!("They differ: {names}, {against}, {} ({}).", apart(two), chance(two.p)))
            .states(DIFFER)
    } else {
        Verdict::new(
            Tone::Unsure,
            "Not shown to differ",
            format!("Not shown to differ: {against} may be chance ({}), {}.", chance(two.p), apart(two)),
        )
    };
    (verdict, notes, Vec::new())
}

/// "by 10.6 points, likely 1.2 to 19.8", or "−1.2 to 19.8" when either may be more.
fn apart(two: &Two) -> String {
    let points = |share: f64| ValueFormat::fixed(1).value(100.0 * share);
    match (two.difference_ci95, two.ratio, two.ratio_ci95) {
        (Some([low, high]), ..) => {
            // From the side that has more.
            let [low, high] = if two.difference < 0.0 { [-high, -low] } else { [low, high] };
            format!("by {} points, likely {}", points(two.difference.abs()), span(&points(low), &points(high)))
        }
        (_, Some(ratio), Some([low, high])) => {
            let end = high.map_or("any".to_owned(), |high| format!("{high:.2}"));
            format!("{ratio:.2} times as many, likely {:.2} to {end} times", low.unwrap_or_default())
        }
        _ => "with none in the second".to_owned(),
    }
}

/// Both tests of two shares should say the same; where they do not, the exact one counts.
fn few(two: &Two) -> Option<Note> {
    let p_z = two.p_z?;
    let sentence = format!("The pooled z says otherwise ({}): with so few the exact chance counts.", chance(p_z));
    (DIFFER.is_made(p_z) != DIFFER.is_made(two.p)).then(|| note(Tone::Caution, sentence, None))
}

/// Reads a plan.
pub fn of_plan(planned: &Planned, plan: &Plan) -> (Verdict, Vec<Note>, Vec<NextQuestion>) {
    let n = grouped(planned.inspect as usize);
    let (title, sentence) = match *plan {
        Plan::Margin { margin, expected } => {
            (format!("{n} pieces"), format!("Inspect {n}: a share near {} is then known to ± {}.", percent(expected), percent(margin)))
        }
        Plan::Power { claim, share, power, .. } => (
            format!("{n} pieces"),
            format!(
                "Inspect {n}: where {} is claimed, {} is then found {} of the time.",
                percent(claim),
                percent(share),
                short_percent(power)
            ),
        ),
        Plan::Passes { at_most, confidence, failures } => {
            let passed = if failures > 0.0 {
                format!("with {} at most", counted(failures as usize, "failure", "failures"))
            } else {
                "without a failure".to_owned()
            };
            let sure = format!("the share is then at most {}, {} sure", percent(at_most), short_percent(confidence));
            (format!("{n} must pass"), format!("Inspect {n} {passed}: {sure}."))
        }
    };
    let steps = (planned.wanted == Wanted::Power).then(|| {
        let detail = "Counts are whole, so the chance rises in steps that fall back a little; from here on it stays above.";
        note(Tone::Unsure, format!("So many reach {}.", short_percent(planned.reached)), Some(detail.into()))
    });
    let middle = matches!(plan, Plan::Margin { expected, .. } if *expected == 0.5).then(|| {
        note(
            Tone::Unsure,
            "For a share near one half, which takes the most.",
            Some("Say what share you expect, and it may be fewer.".into()),
        )
    });
    let one_more = matches!(plan, Plan::Passes { .. }).then(|| {
        note(Tone::Unsure, "One failure more, and nothing is shown: begin again with a larger number, do not add to this one.", None)
    });
    (Verdict::new(Tone::Calm, &title, sentence), worst_first(vec![steps, middle, one_more]), Vec::new())
}
