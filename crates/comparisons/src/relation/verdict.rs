//! A relation in words: whether, how closely, and what may deceive.

use std::collections::BTreeMap;

use super::compute::Answer;
use super::decisions::{self, MAKES_FIT, TOGETHER, WITHIN};
use super::numbers::Numbers;
use acorn_maths::tails;
use acorn_maths::words::{chance, correlation, counted, percent, span};
use acorn_study::notes::{note, worst_first};
use acorn_study::{NextQuestion, Note, RoleColumns, Tone, Verdict};

/// Fewer pairs leave nearly everything open.
const ENOUGH: usize = 8;
/// A rank correlation so much larger than Pearson's follows a bend.
const BENT: f64 = 0.1;

/// Fewer pairs leave the interval of a rank correlation above the second too narrow.
const FEW_RANKS: usize = 15;
const HIGH_RANKS: f64 = 0.95;

/// The verdict.
pub fn read(answer: &Answer) -> Verdict {
    let of = &answer.numbers;
    let [x, y] = &of.names;
    let Some((r, p)) = of.pearson.zip(of.p) else {
        let sentence = if of.n < 3 {
            format!("Too few to say: {}.", counted(of.n, "pair", "pairs"))
        } else {
            format!("Too few to say: {x} or {y} does not vary.")
        };
        return Verdict::new(Tone::Unsure, "Too few to say", sentence);
    };
    let likely = of.ci95.map(|[low, high]| format!(", likely {}", span(&correlation(low), &correlation(high)))).unwrap_or_default();
    let later = if of.lag > 0 { format!(" {} later", counted(of.lag, "row", "rows")) } else { String::new() };
    if let Some(verdict) = of_one_point(answer).or_else(|| of_parts(of)).or_else(|| of_curve(answer, &later)) {
        return verdict;
    }
    if !TOGETHER.is_made(p) {
        return Verdict::new(
            Tone::Unsure,
            "Not shown to go together",
            format!("Not shown to go together: {y}{later} and {x} have a correlation of {}{likely} ({}).", correlation(r), chance(p)),
        );
    }
    let way = if r > 0.0 { "rises" } else { "falls" };
    let part = of.fit.as_ref().map(|fit| format!(" The fit explains {} of its variation.", percent(fit.r2))).unwrap_or_default();
    Verdict::new(
        Tone::Caution,
        "They go together",
        format!("They go together: {y}{later} {way} with {x}, correlation {}{likely} ({}).{part}", correlation(r), chance(p)),
    )
    .states(TOGETHER)
}

/// One far point that makes the correlation: without it there is none to be shown, or half of it at most.
fn of_one_point(answer: &Answer) -> Option<Verdict> {
    let of = &answer.numbers;
    let (r, far) = (of.pearson?, of.influential.filter(|far| far.cook >= 1.0 && far.is_apart)?);
    let without = far.pearson_without?;
    let df = of.n as f64 - 3.0;
    let p = tails::t_beyond(without * (df / (1.0 - without * without)).sqrt(), df);
    if !TOGETHER.is_made(of.p) || (TOGETHER.is_made(p) && without.abs() > 0.5 * r.abs()) {
        return None;
    }
    let [x, y] = &of.names;
    let title = "One point makes it";
    let at =
        format!("row {} ({x} {}, {y} {})", far.at + 1, of.writers[0].value(answer.x[far.point]), of.writers[1].value(answer.y[far.point]));
    let sentence = format!(
        "{title}: without {at} the correlation is {} ({}), with it {}. Check that row first.",
        correlation(without),
        chance(p),
        correlation(r)
    );
    Some(Verdict::new(Tone::Caution, title, sentence).states(TOGETHER))
}

/// Groups that turn the relation round, make it or hide it: what holds is what holds within them.
fn of_parts(of: &Numbers) -> Option<Verdict> {
    let (within, r) = (of.within?, of.pearson?);
    let [x, y] = &of.names;
    let how = format!("correlation {}, {}", correlation(within.r), within.p.map(chance).unwrap_or_default());
    let way = if within.r > 0.0 { "rises" } else { "falls" };
    let (title, sentence) = match (TOGETHER.is_made(of.p), WITHIN.is_made(within.p)) {
        (_, true) if within.r * r < 0.0 => (
            "Turned round within groups",
            format!(
                "within the groups {y} {way} with {x} ({how}); over all it is the other way round ({}) because the groups differ",
                correlation(r)
            ),
        ),
        (true, false) => (
            "Only the groups differ",
            format!(
                "within the groups {y} and {x} are not shown to go together ({how}); the correlation over all, {}, is that of the groups",
                correlation(r)
            ),
        ),
        (false, true) => ("They go together within groups", format!("within the groups {y} {way} with {x} ({how}); the whole hides it")),
        _ => return None,
    };
    let decision = if WITHIN.is_made(within.p) { WITHIN } else { TOGETHER };
    Some(Verdict::new(Tone::Caution, title, format!("{title}: {sentence}.")).states(decision))
}

/// A curve with more to it than the line.
fn of_curve(answer: &Answer, later: &str) -> Option<Verdict> {
    let (of, curve) = (&answer.numbers, answer.curve?);
    let [x, y] = &of.names;
    let shape = match (curve.turn, curve.is_peak) {
        (Some(turn), true) => format!("with a peak at {x} {}", of.writers[0].computed(turn)),
        (Some(turn), false) => format!("with a low at {x} {}", of.writers[0].computed(turn)),
        (None, _) => "along a bend".to_owned(),
    };
    let line = of.pearson.map(|r| format!(", a line {}", percent(r * r))).unwrap_or_default();
    let sentence =
        format!("They go together: {y}{later} follows {x} {shape}; a curve explains {} of its variation{line}.", percent(curve.r2));
    Some(Verdict::new(Tone::Caution, "They go together", sentence).states(decisions::BENT))
}

/// All notes.
pub fn notes(answer: &Answer) -> Vec<Note> {
    let of = &answer.numbers;
    let together = TOGETHER.is_made(of.p);
    let reasons = of.reasons.iter().filter(|reason| reason.pairs > 0).map(|reason| {
        let words = counted(reason.pairs, "row is left out", "rows are left out");
        Some(note(Tone::Unsure, format!("{words}: {}.", reason.why.trim().trim_end_matches('.')), None))
    });
    let mut notes = vec![
        split(of),
        maker(of),
        bent(of),
        together.then(|| {
            note(
                Tone::Unsure,
                "Going together is no cause: both may follow from a third.",
                Some("Change one on purpose and see whether the other follows.".into()),
            )
        }),
        (of.n < ENOUGH && of.pearson.is_some())
            .then(|| note(Tone::Unsure, format!("{} leave nearly everything open.", counted(of.n, "pair", "pairs")), None)),
        ranks_of_few(of),
        (of.missing > of.lag)
            .then(|| note(Tone::Unsure, format!("{} without a partner.", counted(of.missing, "row is", "rows are")), None)),
    ];
    notes.extend(reasons);
    worst_first(notes)
}

/// A third column that splits the relation.
fn split(of: &Numbers) -> Option<Note> {
    let (within, r) = (of.within?, of.pearson?);
    let p = within.p.map(chance).unwrap_or_default();
    let words = format!("Within the groups the correlation is {} ({p})", correlation(within.r));
    let (tone, sentence) = match (TOGETHER.is_made(of.p), WITHIN.is_made(within.p)) {
        (_, true) if within.r * r < 0.0 => (Tone::Alarm, format!("{words}: the other way round than over all. The groups make the whole.")),
        (true, false) => (Tone::Alarm, format!("{words}: it is the groups that differ, not the points within them that go together.")),
        (false, true) => (Tone::Alarm, format!("{words}: the whole hides it.")),
        _ => (Tone::Calm, format!("{words}, as over all.")),
    };
    Some(note(tone, sentence, None).states_if(TOGETHER.is_made(of.p), TOGETHER).states_if(WITHIN.is_made(within.p), WITHIN))
}

/// A point that makes the fit.
fn maker(of: &Numbers) -> Option<Note> {
    let far = of.influential.filter(|far| far.is_apart)?;
    let without = far.pearson_without.map(|r| format!("Without it the correlation would be {}.", correlation(r)));
    // A row that the fit must pass through has a distance without bound.
    let distance = if far.cook < 1000.0 { format!("{:.1}", far.cook) } else { "over 1,000".to_owned() };
    let sentence = format!("Row {} makes the fit: Cook's distance {distance}, leverage {:.2}.", far.at + 1, far.leverage);
    Some(note(if far.cook >= 1.0 { Tone::Alarm } else { Tone::Caution }, sentence, without).states(MAKES_FIT))
}

/// Of few pairs the interval of a high rank correlation is too narrow, by simulation as in `docs/methods/relation.md`.
fn ranks_of_few(of: &Numbers) -> Option<Note> {
    let is_loose = of.n < FEW_RANKS && of.spearman.is_some_and(|ranks| ranks.abs() > HIGH_RANKS);
    is_loose.then(|| {
        let pairs = counted(of.n, "pair", "pairs");
        let sentence =
            format!("With only {pairs}, the 95 % interval of so high a rank correlation holds the true value about 91 times in 100.");
        note(Tone::Unsure, sentence, None)
    })
}

/// Ranks go together more closely than values: the rise is bent.
fn bent(of: &Numbers) -> Option<Note> {
    let (r, ranks) = (of.pearson?, of.spearman?);
    let sentence =
        format!("By ranks they go together more closely ({}): the rise is not straight, or far values blur it.", correlation(ranks));
    (ranks.abs() > r.abs() + BENT).then(|| note(Tone::Caution, sentence, None))
}

/// What the answer makes worth asking.
pub fn next(answer: &Answer) -> Vec<NextQuestion> {
    let [x, y] = &answer.numbers.names;
    let one = |column: &String| BTreeMap::from([("measure".to_owned(), RoleColumns::One(column.clone()))]);
    let roles = one(x);
    let chart = NextQuestion::of("control-chart", &format!("Is {x} steady?"), "What it is followed by can only be steady if it is.", roles);
    let rows = answer.numbers.influential.map(|far| {
        NextQuestion::about([far.point; 2], format!("What is special about row {}?", far.at + 1), "It makes the fit.".to_owned())
    });
    let screen = NextQuestion::of("screening", &format!("What else goes with {y}?"), "Every other column, chance reckoned with.", one(y));
    rows.into_iter().chain([chart, screen]).collect()
}
