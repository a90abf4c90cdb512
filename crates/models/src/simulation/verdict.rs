//! A simulation in words.

use super::answer::Answer;
use super::next;
use super::numbers::{InputNumbers, Numbers, ResponseNumbers};
use super::standing::{Standing, standing};
use acorn_charts::capability::GOAL;
use acorn_data::formula::written;
use acorn_maths::normal;
use acorn_maths::words::{about, capital, counted, grouped, hundredths, listed, percent, share, typed};
use acorn_study::notes::{note, worst_first};
use acorn_study::{NextQuestion, Note, Tone, Verdict};

/// Verdict, notes and next questions.
pub fn read(answer: &Answer) -> (Verdict, Vec<Note>, Vec<NextQuestion>) {
    let numbers = &answer.numbers;
    let mut notes: Vec<Option<Note>> = numbers.responses.iter().map(undefined).collect();
    notes.extend(numbers.responses.iter().map(units));
    notes.extend(numbers.responses.iter().map(needs));
    notes.extend(numbers.responses.iter().map(|response| rare(numbers, response)));
    notes.extend(numbers.responses.iter().map(unlike_normal));
    notes.extend(next::links(answer));
    notes.extend(next::found(answer));
    notes.push(next::worth(answer));
    notes.push(next::cheapest(answer));
    notes.push(next::step(answer));
    notes.push(not_parted(answer));
    notes.extend(numbers.responses.iter().map(stacked));
    notes.push(unused(answer));
    (verdict(numbers), worst_first(notes), Vec::new())
}

fn verdict(numbers: &Numbers) -> Verdict {
    let judged = numbers.responses.iter().filter_map(|one| Some((standing(&one.out?, one.ppk), one)));
    // Of those that stand alike, the one with the most out.
    let worst = judged.clone().max_by(|(a, one), (b, other)| {
        let out = |response: &ResponseNumbers| response.out.map_or(0.0, |out| out.total);
        a.cmp(b).then(out(one).total_cmp(&out(other)))
    });
    if let Some(lost) = numbers.responses.iter().find(|response| response.mean.is_none()) {
        let sentence = format!("No draw gives {} a number: {}.", lost.name, "its formula divides by 0 or leaves what can be computed");
        return Verdict::new(Tone::Alarm, "No number", sentence);
    }
    let Some((standing, worst)) = worst else {
        let Some(first) = numbers.responses.last() else {
            return Verdict::new(Tone::Unsure, "No response", "The model has no response yet.".to_owned());
        };
        return Verdict::new(Tone::Unsure, "No limits to judge by", format!("{}{}.", spread_of(first), driven(first)));
    };
    let title = match standing {
        Standing::Meets => "Meets the limits",
        Standing::JustMeets => "Just meets the limits",
        Standing::Misses => "Does not meet the limits",
    };
    let limited = judged.clone().count();
    let good = judged.filter(|(standing, _)| *standing == Standing::Meets).count();
    let others = match (limited, good) {
        (1, _) => String::new(),
        (all, good) if all == good => format!("; all {all} responses meet their limits"),
        (all, good) => format!("; {good} of {all} responses meet their limits"),
    };
    Verdict::new(standing.tone(), title, format!("{}{}{others}.", out_of(numbers, worst), driven(worst)))
}

/// "run time averages 5.06 h, and 95 % lies from 4.66 to 5.48 h".
fn spread_of(response: &ResponseNumbers) -> String {
    let writer = &response.writer;
    let at = |share: f64| response.percentiles.iter().find(|one| one.share == share).map(|one| one.value);
    let name = capital(&response.name);
    match (response.mean, response.sd, at(0.025).zip(at(0.975))) {
        (Some(mean), Some(sd), Some((low, high))) if sd > 0.0 => {
            format!("{name} averages {}, and 95 % of the draws lie from {}", writer.computed(mean), writer.interval(low, high))
        }
        (Some(mean), ..) => format!("{name} is always {}", writer.computed(mean)),
        _ => format!("{name} is no number"),
    }
}

/// "About 1 in 240 would have a run time below 4.5 h".
fn out_of(numbers: &Numbers, response: &ResponseNumbers) -> String {
    let Some(out) = response.out else { return spread_of(response) };
    // As it was typed.
    let limit = |limit: Option<f64>| {
        let typed = typed(limit.unwrap_or_default());
        if response.unit.is_empty() { typed } else { format!("{typed} {}", response.unit) }
    };
    let below = out.below.unwrap_or(0.0);
    let above = out.above.unwrap_or(0.0);
    let place = match (response.lsl, response.usl) {
        (Some(_), None) => format!("below {}", limit(response.lsl)),
        (None, Some(_)) => format!("above {}", limit(response.usl)),
        _ if above <= 0.02 * below => format!("below {}", limit(response.lsl)),
        _ if below <= 0.02 * above => format!("above {}", limit(response.usl)),
        _ => {
            format!("outside {} to {}", response.lsl.map_or_else(String::new, typed), limit(response.usl))
        }
    };
    let name = &response.name;
    if out.total == 0.0 {
        let place = if response.lsl.is_some() && response.usl.is_some() { "out of its limits".to_owned() } else { place };
        return format!("None of {} draws has {name} {place}", grouped(numbers.draws - response.undefined));
    }
    format!("{} would have {name} {place}", capital(&share(out.total)))
}

/// "; 50 % of its variance comes from capacity".
fn driven(response: &ResponseNumbers) -> String {
    let most = response.shares.iter().flatten().max_by(|a, b| a.total.total_cmp(&b.total));
    most.filter(|most| most.total > 0.05).map_or_else(String::new, |most| {
        // As far as the draws can tell.
        let all = |share: f64, error: f64| share > 0.97 && share + 3.0 * error > 0.995;
        if all(most.total, most.total_error) && all(most.first, most.first_error) {
            return format!("; all of its variance comes from {}", most.name);
        }
        let part = if most.total - most.first > 0.03 { "involves" } else { "comes from" };
        format!("; {} of its variance {part} {}", percent(most.total.min(1.0)), most.name)
    })
}

fn undefined(response: &ResponseNumbers) -> Option<Note> {
    (response.undefined > 0 && response.mean.is_some()).then(|| {
        let sentence = format!(
            "{} {} no number: a division by 0, a root of a negative number, or too large.",
            counted(response.undefined, "draw gives", "draws give"),
            response.name
        );
        note(Tone::Caution, sentence, Some("They are left out of all its numbers; catch them with if(condition, then, else).".to_owned()))
    })
}

fn units(response: &ResponseNumbers) -> Option<Note> {
    (!response.unit_doubts.is_empty()).then(|| {
        let sentence = format!("The units of {} do not fit: {}.", response.name, response.unit_doubts.join("; "));
        note(Tone::Caution, sentence, Some("Nothing is converted; correct a unit or the formula.".to_owned()))
    })
}

/// What a Ppk of 1.33 needs, as the sketch of a way out.
fn needs(response: &ResponseNumbers) -> Option<Note> {
    let (out, ppk, mean, sd) = (response.out?, response.ppk?, response.mean?, response.sd?);
    let standing = standing(&out, Some(ppk));
    if standing == Standing::Meets {
        return None;
    }
    let writer = &response.writer;
    let most = 3.0 * GOAL * sd;
    let by_mean = match (response.lsl, response.usl) {
        (Some(lsl), None) => Some(format!("a mean of {}", writer.computed(lsl + most))),
        (None, Some(usl)) => Some(format!("a mean of {}", writer.computed(usl - most))),
        (Some(lsl), Some(usl)) if usl - lsl >= 2.0 * most => Some(format!("a mean from {}", writer.interval(lsl + most, usl - most))),
        _ => None,
    };
    let room = [response.usl.map(|usl| usl - mean), response.lsl.map(|lsl| mean - lsl)].into_iter().flatten().fold(f64::INFINITY, f64::min);
    let by_sd = (room > 0.0).then(|| format!("an sd of {}", ValueOf(response).sd(room / (3.0 * GOAL))));
    let ways: Vec<String> = by_mean.into_iter().chain(by_sd).collect();
    let tone = if standing == Standing::Misses { Tone::Alarm } else { Tone::Caution };
    let sentence = match ways.is_empty() {
        true => {
            format!("{}: Ppk {}; neither its mean nor its sd alone can bring a Ppk of {GOAL}.", capital(&response.name), hundredths(ppk))
        }
        false => format!("{}: Ppk {}; a Ppk of {GOAL} needs {}.", capital(&response.name), hundredths(ppk), ways.join(" or ")),
    };
    Some(note(tone, sentence, None))
}

struct ValueOf<'a>(&'a ResponseNumbers);

impl ValueOf<'_> {
    fn sd(&self, sd: f64) -> String {
        let unit = &self.0.unit;
        if unit.is_empty() { about(sd) } else { format!("{} {unit}", about(sd)) }
    }
}

/// Draws out that the share should rest on, at least.
const ENOUGH_OUT: f64 = 100.0;

fn rare(numbers: &Numbers, response: &ResponseNumbers) -> Option<Note> {
    let out = response.out?;
    let draws = (numbers.draws - response.undefined) as f64;
    let seen = out.total * draws;
    if seen >= ENOUGH_OUT || (seen == 0.0 && response.ppk.is_none_or(|ppk| ppk > 2.0)) {
        return None;
    }
    let sentence = match seen as usize {
        0 => format!("{}: no draw is out; the share is below {} (95 %).", capital(&response.name), small(out.ci95[1])),
        seen => format!(
            "{}: the share out rests on {}; it lies from {} to {} (95 %).",
            capital(&response.name),
            counted(seen, "draw", "draws"),
            small(out.ci95[0]),
            small(out.ci95[1])
        ),
    };
    let mut told = note(Tone::Unsure, sentence, None);
    told.offers = next::more_draws(numbers);
    Some(told)
}

fn small(share: f64) -> String {
    if share < 1e-4 { format!("{} ppm", about(share * 1e6)) } else { percent_fine(share) }
}

fn percent_fine(share: f64) -> String {
    format!("{} %", about(100.0 * share))
}

/// Where Ppk would promise something else than the draws show.
fn unlike_normal(response: &ResponseNumbers) -> Option<Note> {
    let (out, ppk, mean, sd) = (response.out?, response.ppk?, response.mean?, response.sd?);
    let tail = |limit: Option<f64>, sign: f64| limit.map_or(0.0, |limit| normal::above(sign * (limit - mean) / sd));
    let expected = tail(response.usl, 1.0) + tail(response.lsl, -1.0);
    let apart = out.ci95[0] > 3.0 * expected || (out.ci95[1] < expected / 3.0 && expected > 1e-4);
    apart.then(|| {
        let seen = if out.total == 0.0 { "none".to_owned() } else { share(out.total) };
        let sentence = format!(
            "{} is no normal: one with its Ppk of {} would have {} out, and the draws have {seen}.",
            capital(&response.name),
            hundredths(ppk),
            share(expected)
        );
        note(Tone::Unsure, sentence, Some("The share of the draws is the one to go by.".to_owned()))
    })
}

fn not_parted(answer: &Answer) -> Option<Note> {
    answer.not_parted.then(|| {
        let detail = "What two of them do together belongs to neither.".to_owned();
        note(Tone::Unsure, "Inputs that go together leave no shares of variance to part.", Some(detail))
    })
}

fn stacked(response: &ResponseNumbers) -> Option<Note> {
    let (stack, first, last) = (response.stack?, response.percentiles.first()?, response.percentiles.last()?);
    let writer = &response.writer;
    let sentence = format!(
        "{} adds up to {} at worst and to {} by root sum square.",
        capital(&response.name),
        writer.interval(stack.worst[0], stack.worst[1]),
        writer.interval(stack.rss[0], stack.rss[1])
    );
    let detail = format!("99.73 % of the draws lie from {}.", writer.interval(first.value, last.value));
    Some(note(Tone::Unsure, sentence, Some(detail)))
}

/// Inputs that no formula names.
fn unused(answer: &Answer) -> Option<Note> {
    let depends = answer.model.depends();
    let idle = |place: usize| depends.iter().all(|on| !on[place]);
    let names: Vec<String> = answer
        .numbers
        .inputs
        .iter()
        .enumerate()
        .filter(|(place, _)| idle(*place))
        .map(|(_, InputNumbers { name, .. })| written(name))
        .collect();
    let verb = if names.len() == 1 { "is" } else { "are" };
    (!names.is_empty()).then(|| note(Tone::Unsure, format!("{} {verb} used by no formula.", capital(&listed(&names))), None))
}
