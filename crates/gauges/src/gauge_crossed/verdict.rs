//! The answer in one sentence: how much of what counts the gauge takes, how many groups it tells apart, and who is off.

use super::compute::Answer;
use acorn_maths::words::{all_of, counted, grouped};
use acorn_study::gauge::operators::READS_OFF;
use acorn_study::gauge::standing::{Standing, left_open, takes};
use acorn_study::{Tone, Verdict};

/// Where the gauge stands.
pub fn standing(answer: &Answer) -> Standing {
    let of = &answer.numbers;
    Standing::of(of.share, of.share_ci95, of.ndc, of.basis)
}

/// The verdict.
pub fn read(answer: &Answer) -> Verdict {
    let of = &answer.numbers;
    let so_far = (of.n < of.asked).then(|| format!("{} of {} readings", grouped(of.n), grouped(of.asked)));
    let Some(part) = of.share else {
        if answer.repeats {
            let all = all_of(of.n, ["reading", "readings"], ["says", "say"]);
            let sentence = format!("Of {} {all} the same: nothing can be told of the gauge.", answer.measure);
            return Verdict::new(Tone::Unsure, "Nothing varies", sentence);
        }
        let so_far = so_far.unwrap_or_else(|| counted(of.n, "reading", "readings"));
        let sentence = format!("{so_far}: too few to tell repeating from the parts; let someone read a part again.");
        return Verdict::new(Tone::Unsure, "Too few to say", sentence);
    };
    let (tone, title) = standing(answer).display_text();
    // What is still being read is not yet fit, however good it looks.
    let tone = if so_far.is_some() && tone == Tone::Calm { Tone::Caution } else { tone };
    // Who reads off matters where the gauge is in question.
    let off = (of.operators.len() > 2 && !standing(answer).is_good())
        .then(|| of.operators.iter().filter(|one| one.off).max_by(|a, b| a.bias.abs().total_cmp(&b.bias.abs())))
        .flatten();
    let who = off
        .map(|one| format!("; {} reads {} {}", one.label, of.writer.computed(one.bias.abs()), if one.bias > 0.0 { "high" } else { "low" }));
    let sentence = format!("{}{}.{}", takes(part, of.basis, of.share_ci95, of.ndc), who.unwrap_or_default(), left_open(standing(answer)));
    let sentence = match so_far {
        Some(so_far) => format!("{so_far}, so far: {sentence}"),
        None => format!("{title}: {sentence}"),
    };
    Verdict::new(tone, title, sentence).states_if(off.is_some(), READS_OFF)
}
