//! The verdict: the conditions first, then the index with its interval, then what to do.

use super::agreement::Agreement;
use super::answer::Answer;
use super::assumed::AssumedDistribution;
use super::decisions::{CUT_OFF, MISFIT};
use super::need;
use super::params::Params;
use crate::control_chart::Explanation;
use crate::control_chart::decisions::{EXPLAINED, NOT_STEADY};
use acorn_maths::cut_off::CutOff;
use acorn_maths::shape::departure;
use acorn_maths::words::{about, all_of, capital, chance, counted, hundredths, part_of, share, span};
use acorn_study::{Tone, Verdict};

/// Fewer values may all lie beyond without any mistake.
const ALL_LEAST: usize = 5;

/// What is to be settled before the index.
pub fn explained(answer: &Answer) -> Option<&Explanation> {
    answer.chart.settles_first()
}

/// "Ppk 0.84", where it misleads.
fn bare_index(answer: &Answer) -> Option<String> {
    answer.numbers.ppk.map(|ppk| format!("Ppk {}", hundredths(ppk)))
}

/// "Ppk 0.84, likely 0.72 to 0.96".
pub fn index(answer: &Answer) -> Option<String> {
    let numbers = &answer.numbers;
    let ppk = numbers.ppk?;
    Some(match numbers.ppk_ci95 {
        Some([low, high]) => format!("Ppk {}, likely {}", hundredths(ppk), span(&hundredths(low), &hundredths(high))),
        None => format!("Ppk {}", hundredths(ppk)),
    })
}

/// "beyond the specification limits", "above 2.50 mm".
pub fn beyond_words(answer: &Answer) -> String {
    let numbers = &answer.numbers;
    let write = &numbers.writer;
    match (numbers.limits.lsl, numbers.limits.usl) {
        (Some(lsl), None) => format!("below {}", write.value(lsl)),
        (None, Some(usl)) => format!("above {}", write.value(usl)),
        _ => "beyond the specification limits".to_owned(),
    }
}

/// That every value lies beyond the same limit, farther than the limits are apart: a wrong unit or a wrong limit is likelier.
pub fn all_beyond(answer: &Answer) -> Option<String> {
    let numbers = &answer.numbers;
    let (lsl, usl) = numbers.limits.lsl.zip(numbers.limits.usl)?;
    let mean = numbers.mean?;
    let side = if mean > usl { "above" } else { "below" };
    let is_far = mean > usl + (usl - lsl) || mean < lsl - (usl - lsl);
    let write = &numbers.writer;
    let all = numbers.observed.total == Some(1.0) && numbers.n >= ALL_LEAST && is_far;
    all.then(|| {
        format!(
            "Check unit and limits: {} {side} the limits of {}, at {} on average. Are values and limits in the same unit?",
            all_of(numbers.n, ["value", "values"], ["lies", "lie"]),
            write.interval(lsl, usl),
            write.computed(mean)
        )
    })
}

/// Reads an answer.
pub fn read(answer: &Answer) -> Verdict {
    let (numbers, params) = (&answer.numbers, &answer.params);
    let name = params.subject();
    let values = counted(numbers.n, "value", "values");
    if params.lsl.is_none() && params.usl.is_none() {
        return Verdict::new(
            Tone::Unsure,
            "No limits",
            format!("No limits: {name} has neither a lower nor an upper one. Set them in the statement."),
        );
    }
    let seen = match numbers.observed.total {
        Some(out) if out > 0.0 => {
            let part = (out * numbers.n as f64).round() as usize;
            format!("{} {}", part_of(part, numbers.n, ["value", "values"], ["lies", "lie"]), beyond_words(answer))
        }
        _ => format!("{} within the limits", all_of(numbers.n, ["value", "values"], ["lies", "lie"])),
    };
    if numbers.sd_overall.is_none_or(|sd| sd == 0.0) {
        let title = if numbers.n == 1 { "One value" } else { "Nothing varies" };
        let all = if numbers.n == 1 { "it is" } else { "all are" };
        let at = numbers.writer.value(numbers.mean.unwrap_or_default());
        return Verdict::new(Tone::Unsure, title, format!("{title}: {all} {at}, and an index needs a spread. {}.", capital(&seen)));
    }
    if let Some(sentence) = all_beyond(answer) {
        return Verdict::new(Tone::Alarm, "Check unit and limits", sentence);
    }
    if let Some(explanation) = explained(answer) {
        let title = explanation.title();
        let holds = match bare_index(answer) {
            Some(index) if explanation.is_shape() => format!(" {index} assumes {} and misleads.", numbers.shape),
            Some(index) if matches!(explanation, Explanation::Coarse { .. }) => format!(" {index} rests on these steps."),
            Some(index) if explanation.is_mixture() => format!(" {index} describes the mixture."),
            Some(index) => format!(" {index} tells what was, not what will be."),
            None => String::new(),
        };
        let advice = match explanation.is_shape() {
            true => "Choose the distribution first.".to_owned(),
            false => explanation.advice(&answer.chart),
        };
        let sentence = format!("{title}: {}.{holds} {advice}", explanation.finding(&answer.chart));
        return Verdict::new(explanation.tone(), &title, sentence).states(EXPLAINED);
    }
    if let Some(CutOff { upper, limit, expected }) = answer.cut_off {
        let misleads = bare_index(answer).map(|index| format!(", so {index} misleads")).unwrap_or_default();
        let (side, limit) = (if upper { "above" } else { "below" }, numbers.writer.value(limit));
        let sentence = format!(
            "Cut off at a limit: {name} ends at {limit}, though about {} of {values} would lie {side} it. Sorted parts, or readings pulled \
             inside, do not show what the process does{misleads}. Measure before sorting.",
            about(expected.round()),
        );
        return Verdict::new(Tone::Caution, "Cut off at a limit", sentence).states(CUT_OFF);
    }
    if !numbers.signals_by_chance {
        let signals = counted(numbers.signals, "signal", "signals");
        let was = bare_index(answer).map(|index| format!(" {index} tells what was, not what will be.")).unwrap_or_default();
        return Verdict::new(
            Tone::Alarm,
            "Not steady",
            format!("Not steady: {signals}, so no index holds for tomorrow. Find the causes first.{was}"),
        )
        .states(NOT_STEADY);
    }
    let Some(ppk) = numbers.ppk else {
        let why = format!("the shape assumed, {}, does not reach a limit", numbers.shape);
        return Verdict::new(
            Tone::Calm,
            "Within the limits",
            format!("Within the limits: {seen}; {why}, so there is no distance to divide."),
        );
    };
    let index = index(answer).unwrap_or_default();
    if !shape_holds(answer) {
        let p = numbers.shape_p.map(chance).unwrap_or_default();
        let departs = departure(numbers.skewness, numbers.kurtosis);
        let index = bare_index(answer).unwrap_or_default();
        let sentence = match answer.assumed {
            AssumedDistribution::Normal => {
                format!("The shape does not fit: {name} is {departs} ({p}), so {index} misleads. Choose a distribution that fits.")
            }
            _ => format!("The shape does not fit: {name} is not {} ({p}), so {index} misleads. Choose another.", numbers.shape),
        };
        return Verdict::new(Tone::Caution, "The shape does not fit", sentence).states(MISFIT);
    }
    if let (true, Some(agreement)) = (numbers.misfits, answer.agreement) {
        return whatever_shape(answer, agreement);
    }
    let out = numbers.expected_overall.total.map(|out| format!("; {} would lie {}", share(out), beyond_words(answer))).unwrap_or_default();
    let asked = bare(params.goal);
    match standing(answer) {
        Some(Standing::ByShape) => by_shape(answer, &asked),
        Some(Standing::MayMeet) => {
            let more = more_to_tell(answer, ppk, params.goal);
            let sentence = format!("May meet the limits: {index}, and {asked} was asked for. {values} {more}.");
            Verdict::new(Tone::Caution, "May meet the limits", sentence)
        }
        Some(Standing::Meets) | None => Verdict::new(Tone::Calm, "Meets the limits", format!("Meets the limits: {index}{out}.")),
        Some(Standing::Close) => {
            Verdict::new(Tone::Caution, "Close to the limits", format!("Close to the limits: {}. {index}.", remedy(answer, ppk, params)))
        }
        Some(Standing::Fails) => Verdict::new(
            Tone::Alarm,
            "Does not meet the limits",
            format!("Does not meet the limits: {}. {index}.", remedy(answer, ppk, params)),
        ),
    }
}

/// Whether the index can be read by the shape assumed: it fits, or every shape that does says the same, or nothing but the steps of a coarse
/// gauge speaks against it.
pub fn shape_holds(answer: &Answer) -> bool {
    let is_even = answer.numbers.skewness.is_none_or(|skewness| skewness.abs() <= 0.5);
    !answer.numbers.misfits || answer.agreement.is_some() || (answer.distinct.is_some() && is_even)
}

/// The verdict where the assumed shape does not fit, and all that do agree.
fn whatever_shape(answer: &Answer, agreement: Agreement) -> Verdict {
    let [low, high] = agreement.ppk.map(hundredths);
    let index = format!("Ppk is {} by every distribution that fits", span(&low, &high));
    let p = answer.numbers.shape_p.map(chance).unwrap_or_default();
    let poor = format!("{} fits poorly ({p}), which changes nothing", answer.numbers.shape);
    match agreement.meets {
        true => Verdict::new(Tone::Calm, "Meets the limits", format!("Meets the limits: {index}; {poor}.")).states(MISFIT),
        false => {
            Verdict::new(Tone::Alarm, "Does not meet the limits", format!("Does not meet the limits: {index}; {poor}.")).states(MISFIT)
        }
    }
}

/// Where Ppk stands against its goal.
#[derive(Clone, Copy, Debug, PartialEq, Eq)]
pub enum Standing {
    /// Its whole interval meets the goal.
    Meets,
    /// It does, its interval reaches below.
    MayMeet,
    /// Shapes that fit as well disagree.
    ByShape,
    /// Below the goal, and 1 or more.
    Close,
    /// Below 1.
    Fails,
}

/// Where Ppk stands; `None` without one.
pub fn standing(answer: &Answer) -> Option<Standing> {
    let (numbers, goal) = (&answer.numbers, answer.params.goal);
    let ppk = numbers.ppk?;
    if let Some(agreement) = answer.agreement {
        return Some(if agreement.meets { Standing::Meets } else { Standing::Fails });
    }
    Some(match (numbers.ppk_by_shape, numbers.ppk_ci95) {
        (Some([low, high]), _) if low < goal && high >= goal => Standing::ByShape,
        (_, Some([low, _])) if low >= goal => Standing::Meets,
        _ if ppk >= goal => Standing::MayMeet,
        _ if ppk >= 1.0 => Standing::Close,
        _ => Standing::Fails,
    })
}

/// How many more values would settle whether the goal is met, if Ppk is what it seems.
fn more_to_tell(answer: &Answer, ppk: f64, goal: f64) -> String {
    let n = answer.numbers.n;
    let Some([low, _]) = answer.numbers.ppk_ci95 else {
        return match answer.assumed {
            AssumedDistribution::Percentile => "give no interval by percentiles, so it is not sure".to_owned(),
            _ => "are too few for an interval, so it is not sure".to_owned(),
        };
    };
    // The interval of a fitted shape narrows with the root of the number of values.
    let enough = match answer.assumed {
        AssumedDistribution::Fitted(_) => need::enough_by_root(n, ppk - low, ppk - goal),
        _ => need::enough_to_tell(ppk, goal),
    };
    match enough.filter(|enough| *enough > n) {
        Some(enough) => format!("cannot tell; {} more would, if Ppk is what it seems", about((enough - n) as f64).trim_end_matches(".0")),
        None => "cannot tell, nor would many more, so near to the goal".to_owned(),
    }
}

/// What the shapes that fit as well say, where they differ about the goal.
fn by_shape(answer: &Answer, asked: &str) -> Verdict {
    let numbers = &answer.numbers;
    let [low, high] = numbers.ppk_by_shape.unwrap_or_default();
    let outside = numbers
        .outside_by_shape
        .map(|[least, most]| format!(" From {} to {} would lie {}, by the shape chosen.", share(least), share(most), beyond_words(answer)));
    let sentence = format!(
        "Depends on the shape: those that fit as well give Ppk {}, and {asked} was asked for.{}",
        span(&hundredths(low), &hundredths(high)),
        outside.unwrap_or_default()
    );
    Verdict::new(Tone::Caution, "Depends on the shape", sentence)
}

fn bare(value: f64) -> String {
    let text = format!("{value:.2}");
    text.trim_end_matches('0').trim_end_matches('.').to_owned()
}

/// What would bring it within: the aim, the spread, or both.
fn remedy(answer: &Answer, ppk: f64, params: &Params) -> String {
    let numbers = &answer.numbers;
    let write = &numbers.writer;
    let (AssumedDistribution::Normal, Some(mean), Some(sd)) = (answer.assumed, numbers.mean, numbers.sd_overall) else {
        return format!("its spread or its aim leaves too little room, {} was asked for", bare(params.goal));
    };
    let moved = |to: f64| {
        let by = to - mean;
        format!("move the mean {} by {}", if by < 0.0 { "down" } else { "up" }, write.computed(by.abs()))
    };
    match (params.lsl, params.usl) {
        (Some(lsl), Some(usl)) => {
            let middle = params.target.filter(|target| (lsl..=usl).contains(target)).unwrap_or(0.5 * (lsl + usl));
            let centred = (usl - middle).min(middle - lsl) / (3.0 * sd);
            let needed = (usl - middle).min(middle - lsl) / (3.0 * params.goal);
            if centred >= params.goal {
                format!("the spread fits, the aim does not, so {}", moved(middle))
            } else if ppk >= 0.93 * centred {
                format!("the aim is right, the spread is not: bring the sd from {} down to {}", write.computed(sd), write.computed(needed))
            } else {
                format!("{} and bring the sd down to {}", moved(middle), write.computed(needed))
            }
        }
        (Some(lsl), None) => {
            format!("there is too little room above LSL: {}, or spread less", moved(lsl + 3.0 * params.goal * sd))
        }
        (None, Some(usl)) => {
            format!("there is too little room below USL: {}, or spread less", moved(usl - 3.0 * params.goal * sd))
        }
        (None, None) => String::new(),
    }
}
