//! What a study of one reference piece says.

use std::collections::BTreeMap;

use serde_json::json;

use super::compute::Answer;
use super::decisions::BIAS;
use acorn_maths::words::{ValueFormat, all_of, capital, chance, counted, percent};
use acorn_study::notes::{note, worst_first};
use acorn_study::{NextQuestion, Note, RoleColumns, Tone, Verdict};

/// The capability that a gauge should have (ISO 22514-7).
const WANTED: f64 = 1.33;
/// A larger share of the tolerance for one step is too coarse (ISO 22514-7).
const STEP_MOST: f64 = 0.05;
/// Fewer readings are few.
const READINGS_WANTED: usize = 25;
/// From such a correlation on readings follow each other.
const FOLLOWS: f64 = 0.4;

/// The verdict: whether the gauge is capable on this piece, and by what it is off.
pub fn read(answer: &Answer) -> Verdict {
    let of = &answer.numbers;
    let write = &of.writer;
    let off = BIAS.is_made(of.bias_p);
    let bias = match (off, of.bias > 0.0) {
        (true, true) => format!("it reads {} high", write.computed(of.bias)),
        (true, false) => format!("it reads {} low", write.computed(-of.bias)),
        (false, _) => "no bias to be seen".to_owned(),
    };
    let Some(sd) = of.sd else {
        let sentence = format!("One reading, {} from the reference: read the piece 25 times or more.", write.signed(of.bias));
        return Verdict::new(Tone::Unsure, "Too few to say", sentence);
    };
    if sd == 0.0 {
        let all = capital(&all_of(of.n, ["reading", "readings"], ["is", "are"]));
        let sentence = format!("{all} {}: the gauge shows no step fine enough to tell its spread.", write.value(of.mean));
        return Verdict::new(Tone::Unsure, "Nothing varies", sentence);
    }
    let two = ValueFormat::fixed(2);
    let (Some(cg), Some(cgk)) = (of.cg, of.cgk) else {
        let sentence = format!(
            "{}, and readings repeat with an sd of {}. Give the limits, and it is held against the tolerance.",
            acorn_maths::words::capital(&bias),
            write.computed(sd)
        );
        let (tone, title) = if off { (Tone::Caution, "Reads off") } else { (Tone::Unsure, "No limits") };
        return Verdict::new(tone, title, sentence).states_if(off, BIAS);
    };
    let numbers = format!("Cg {}, Cgk {}", two.value(cg), two.value(cgk));
    if cg < WANTED {
        let sentence =
            format!("Not usable as it is: it repeats too widely for {} of the tolerance ({numbers}); {bias}.", percent(of.share));
        return Verdict::new(Tone::Alarm, "Not usable as it is", sentence);
    }
    if cgk < WANTED && !off {
        let p = of.bias_p.map(chance).unwrap_or_default();
        let sentence = format!(
            "Fit for use, with a doubt: it repeats well ({numbers}), and the bias of {} that lowers Cgk may be chance ({p}). Read the piece more \
             often.",
            write.signed(of.bias)
        );
        return Verdict::new(Tone::Caution, "Fit for use, with a doubt", sentence);
    }
    if cgk < WANTED {
        let sentence =
            format!("Set it right: it repeats well, but {} high or low takes its share ({numbers}).", write.computed(of.bias.abs()));
        let sentence = sentence.replace(" high or low", if of.bias > 0.0 { " too high" } else { " too low" });
        return Verdict::new(Tone::Alarm, "Set it right", sentence).states(BIAS);
    }
    let sure = of.cg_ci95.is_some_and(|[low, _]| low >= WANTED);
    let (tone, title) = if sure { (Tone::Calm, "Fit for use") } else { (Tone::Caution, "Fit for use, with a doubt") };
    let doubt = of.cg_ci95.filter(|_| !sure).map(|[low, _]| format!(", though Cg may be as low as {}", two.value(low))).unwrap_or_default();
    Verdict::new(tone, title, format!("{title}: {numbers} on this piece, {bias}{doubt}."))
}

/// All notes, the worst first.
pub fn notes(answer: &Answer) -> Vec<Note> {
    let of = &answer.numbers;
    let write = &of.writer;
    let off = BIAS.is_made(of.bias_p);
    let bias = of.bias_ci95.zip(of.bias_p).map(|([low, high], p)| {
        let range = format!("likely {}", write.interval(low, high));
        let sentence = format!("The bias is {}, {range} ({}).", write.signed(of.bias), chance(p));
        let takes = of.tolerance.map(|room| format!("It takes {} of the tolerance.", percent(of.bias.abs() / room)));
        note(if off { Tone::Caution } else { Tone::Calm }, sentence, takes).states_if(off, BIAS)
    });
    let coarse = answer.coarse.map(|distinct| {
        let sentence = format!(
            "Only {} among {} readings: the decimals are too coarse.",
            counted(distinct, "different value", "different values"),
            of.n
        );
        note(Tone::Caution, sentence, Some("Read one more decimal.".into()))
    });
    let step = of.pct_resolution.filter(|step| *step > STEP_MOST).map(|step| {
        let sentence = format!("One step of the gauge is {} of the tolerance; {} is the most.", percent(step), percent(STEP_MOST));
        note(Tone::Caution, sentence, Some("Take a finer gauge.".into()))
    });
    let few = (of.n < READINGS_WANTED && of.n > 1)
        .then(|| note(Tone::Unsure, format!("{} only; 25 to 50 tell more.", counted(of.n, "reading", "readings")), None));
    let drift = answer.lag.filter(|lag| *lag > FOLLOWS && of.n >= 15).map(|_| {
        let detail = "Something moves while it is read: warmth, wear, how the piece is held. See it in order with the next question.";
        note(Tone::Caution, "Each reading follows the one before: they drift.", Some(detail.into()))
    });
    let missing =
        (of.missing > 0).then(|| note(Tone::Unsure, format!("{} without a reading.", counted(of.missing, "row is", "rows are")), None));
    worst_first(vec![drift, coarse, step, bias, few, missing])
}

/// Stability of a gauge is its chart on the same piece, the known value in the middle.
pub fn next(answer: &Answer) -> Vec<NextQuestion> {
    let roles = BTreeMap::from([("measure".to_owned(), RoleColumns::One(answer.measure.clone()))]);
    let of = &answer.numbers;
    let mut steady = NextQuestion::of(
        "control-chart",
        "Does the gauge stay steady over time?",
        "The same readings in order, about the known value of the piece.",
        roles.clone(),
    );
    if let Some(sd) = of.sd.filter(|sd| *sd > 0.0) {
        steady.options.insert("chart".to_owned(), json!("individuals"));
        steady.options.insert("limits".to_owned(), json!({"from": "known", "center": of.reference, "sigma": sd}));
    }
    vec![steady, NextQuestion::of("distribution", "What do the readings look like?", "Steps, tails and far readings.", roles)]
}
