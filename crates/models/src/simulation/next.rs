//! What to do next, with numbers: limits, settings, tightening.

use serde_json::{Map, Value, json};

use super::answer::Answer;
use super::decisions::{BETTER, MOVED, NEWEST_DIFFER};
use super::numbers::{Numbers, ResponseNumbers, SearchNumbers};
use super::standing::{Standing, allowed, standing};
use crate::model::Goal;
use acorn_maths::words::{about, capital, counted, hundredths, listed, percent, share, small};
use acorn_study::notes::note;
use acorn_study::{Note, Offer, Tone};

fn offer(label: &str, options: Value, figure: Option<&str>) -> Offer {
    let options: Map<String, Value> = options.as_object().cloned().unwrap_or_default();
    Offer { label: label.to_owned(), options, figure: figure.map(str::to_owned) }
}

/// Ten times as many draws.
pub fn more_draws(numbers: &Numbers) -> Vec<Offer> {
    let more = numbers.draws.saturating_mul(10).min(10_000_000);
    let fits = more > numbers.draws && more * numbers.responses.len() <= 40_000_000;
    if fits { vec![offer(&format!("Draw {}", acorn_maths::words::grouped(more)), json!({ "draws": more }), None)] } else { Vec::new() }
}

/// What the chance of such a difference rests on: measured in `docs/decisions.md`.
const NEAR_NORMAL: &str = "The chance p supposes values near normal: a long tail brings such a difference more often.";

/// Inputs whose column has moved.
pub fn links(answer: &Answer) -> Vec<Option<Note>> {
    let with = |place: usize, change: &dyn Fn(&mut Map<String, Value>)| {
        let mut inputs = serde_json::to_value(&answer.inputs).unwrap_or_default();
        if let Some(input) = inputs.get_mut(place).and_then(Value::as_object_mut) {
            change(input);
        }
        json!({ "inputs": inputs })
    };
    let told = |(place, drawn): (usize, &crate::model::Drawn)| {
        let link = drawn.link.as_ref()?;
        let writer = &answer.numbers.inputs[place].writer;
        let lies = |by: f64| format!("{} {}", writer.computed(by.abs()), if by < 0.0 { "lower" } else { "higher" });
        if let Some(moved) = link.newest.filter(|moved| NEWEST_DIFFER.is_made(moved.p)) {
            let sentence = format!(
                "{} rests on {}; the newest {} average {} and scatter {} times as wide (p {}).",
                capital(&drawn.name),
                counted(link.n, "value", "values"),
                moved.n,
                lies(moved.by),
                about(moved.ratio),
                told_p(moved.p)
            );
            let mut told = note(Tone::Caution, sentence, Some(NEAR_NORMAL.to_owned())).states(NEWEST_DIFFER);
            told.offers =
                vec![offer("Take the newest", with(place, &|input| drop(input.insert("newest".to_owned(), moved.n.into()))), None)];
            return Some(told);
        }
        let moved = link.moved.filter(|moved| MOVED.is_made(moved.p))?;
        let sentence = format!(
            "{} was accepted as it is here, but {} has moved away: its {} average {} and scatter {} times as wide (p {}).",
            capital(&drawn.name),
            link.column,
            counted(moved.n, "value", "values"),
            lies(moved.by),
            about(moved.ratio),
            told_p(moved.p)
        );
        let mut told = note(Tone::Caution, sentence, Some(NEAR_NORMAL.to_owned())).states(MOVED);
        told.offers = vec![offer("Follow the column", with(place, &|input| drop(input.insert("parameters".to_owned(), json!({})))), None)];
        Some(told)
    };
    answer.model.drawn.iter().enumerate().map(told).collect()
}

fn told_p(p: f64) -> String {
    let p = small(p);
    if p.starts_with("below") { p } else { format!("= {p}") }
}

/// What a search found, where it ends, and how far the settings may move.
pub fn found(answer: &Answer) -> Vec<Option<Note>> {
    let Some(search) = &answer.numbers.search else { return Vec::new() };
    if !search.better {
        let sentence = "No settings in the ranges do better than the ones that are set.";
        return vec![Some(note(Tone::Calm, sentence, Some(format!("{} were tried.", counted(search.tried, "setting", "settings")))))];
    }
    let settings: Vec<String> = search.best.iter().map(|one| format!("{} {}", one.name, one.writer.computed(one.value))).collect();
    let mut told = note(Tone::Calm, format!("{} {}.", capital(&listed(&settings)), gained(search)), None).states(BETTER);
    let mut controls = serde_json::to_value(&answer.model.controls).unwrap_or_default();
    for one in &search.best {
        let mine = controls
            .as_array_mut()
            .and_then(|all| all.iter_mut().find(|control| control["name"].as_str().map(str::trim) == Some(&one.name)));
        if let Some(control) = mine.and_then(Value::as_object_mut) {
            // As many digits as are told, so that a person can set it.
            control.insert("value".to_owned(), json!(rounded(one.value, one.high - one.low)));
        }
    }
    told.offers = vec![offer("Use these settings", json!({ "controls": controls }), None)];
    let border = |one: &super::numbers::Setting| {
        let end = if one.border < 0 { "lowest" } else { "highest" };
        (one.border != 0).then(|| {
            let sentence = format!("{} is at the {end} of its range: further on may be better still.", capital(&one.name));
            note(Tone::Unsure, sentence, None)
        })
    };
    let slack: Vec<String> =
        search.best.iter().map(|one| format!("{} from {}", one.name, one.writer.interval(one.slack[0], one.slack[1]))).collect();
    let flat = note(
        Tone::Unsure,
        format!("Nine tenths of that gain remain with {}.", listed(&slack)),
        Some("One at a time, the others as found.".to_owned()),
    );
    [Some(told), Some(flat)].into_iter().chain(search.best.iter().map(border)).collect()
}

/// Four digits of a range.
fn rounded(value: f64, range: f64) -> f64 {
    if range <= 0.0 {
        return value;
    }
    let power = (3.0 - range.log10().floor()).clamp(-300.0, 300.0);
    let unit = 10f64.powf(power);
    let rounded = (value * unit).round() / unit;
    if rounded.is_finite() { rounded } else { value }
}

fn gained(search: &SearchNumbers) -> String {
    let (before, after) = (&search.before, &search.after);
    let name = &after.name;
    let ppk = |ppk: Option<f64>| ppk.map_or_else(|| "none".to_owned(), hundredths);
    match search.goal {
        Goal::LeastOut => {
            format!("would bring the share out of {name} from {} to {}", share(before.out.unwrap_or(0.0)), share(after.out.unwrap_or(0.0)))
        }
        Goal::LargestPpk => format!("would bring the Ppk of {name} from {} to {}", ppk(before.ppk), ppk(after.ppk)),
        Goal::Target => format!("would bring the mean of {name} from {} to {}", about_signed(before.mean), about_signed(after.mean)),
    }
}

fn about_signed(value: f64) -> String {
    if value < 0.0 { format!("−{value:.4}", value = -value) } else { format!("{value:.4}") }
}

/// Which inputs are worth money, and which are not.
pub fn worth(answer: &Answer) -> Option<Note> {
    let numbers = &answer.numbers;
    let response = judged(numbers)?;
    let lines = response.tightening.as_ref()?;
    let at = |scale: f64| numbers.scales.iter().position(|one| (one - scale).abs() < 1e-9);
    let (now, half, nothing) = (at(1.0)?, at(0.5)?, at(0.0));
    let out_now = lines.first()?.out.as_ref()?.get(now).copied()?;
    let best = lines.iter().filter_map(|line| Some((line, *line.out.as_ref()?.get(half)?))).min_by(|a, b| a.1.total_cmp(&b.1))?;
    let flat: Vec<String> = lines
        .iter()
        .filter(|line| {
            let sd = |step: usize| line.sd[step];
            nothing.is_some_and(|nothing| (sd(now) - sd(nothing)).abs() <= 0.01 * sd(now))
        })
        .map(|line| line.name.clone())
        .collect();
    let detail = (!flat.is_empty()).then(|| format!("Tightening {} changes next to nothing.", listed(&flat)));
    if standing(&response.out?, response.ppk) == Standing::Meets {
        return loosened(numbers, detail);
    }
    let sentence = if best.1 < 0.98 * out_now {
        format!(
            "Halving the spread of {} pays most: the share out of {} goes from {} to {}.",
            best.0.name,
            response.name,
            share(out_now),
            share(best.1)
        )
    } else {
        format!("Halving the spread of no single input brings the share out of {} down from {}.", response.name, share(out_now))
    };
    Some(note(Tone::Unsure, sentence, detail))
}

/// What may be wider, all limits still met.
fn loosened(numbers: &Numbers, detail: Option<String>) -> Option<Note> {
    let limited: Vec<&ResponseNumbers> = numbers.responses.iter().filter(|response| response.out.is_some()).collect();
    let widest = |input: usize| {
        let holds = |step: usize| {
            limited.iter().all(|response| {
                let out = response.tightening.as_ref().and_then(|lines| lines[input].out.as_ref()).map_or(1.0, |out| out[step]);
                out <= allowed()
            })
        };
        let wider = numbers.scales.iter().enumerate().filter(|(step, scale)| **scale > 1.0 && holds(*step));
        wider.map(|(_, scale)| *scale).fold(1.0, f64::max)
    };
    let wider: Vec<String> = numbers
        .inputs
        .iter()
        .enumerate()
        .map(|(place, input)| (input, widest(place)))
        .filter(|(_, widest)| *widest > 1.0)
        .map(|(input, widest)| format!("{} {widest} times", input.name))
        .collect();
    let sentence = match wider.is_empty() {
        true => "No single spread may be wider without missing a limit.".to_owned(),
        false => format!("There is room: the spread may be as wide as {}, one of them at a time.", listed(&wider)),
    };
    Some(note(Tone::Calm, sentence, detail))
}

/// The cheapest set that reaches the goal.
pub fn cheapest(answer: &Answer) -> Option<Note> {
    let goal = answer.goal?;
    let asked = share_goal(goal);
    let Some(found) = &answer.numbers.cheapest else {
        let sentence = format!("To find the cheapest way to {asked}, give inputs a cost for each tenth of their spread.");
        return Some(note(Tone::Unsure, sentence, None));
    };
    let set: Vec<String> = found.set.iter().map(|one| format!("{} to {}", one.name, percent(one.scale))).collect();
    let sentence = match (found.reached, set.is_empty()) {
        (true, true) => format!("Nothing has to be tightened for {asked}."),
        (true, false) => format!("The cheapest way found to {asked} costs {}: {} of their spread.", about(found.cost), listed(&set)),
        (false, _) => format!("No tightening of what has a cost reaches {asked}; the most of it leaves {}.", share(found.out)),
    };
    let mut told = note(if found.reached { Tone::Calm } else { Tone::Caution }, sentence, None);
    if found.reached && !set.is_empty() {
        let mut inputs = serde_json::to_value(&answer.inputs).unwrap_or_default();
        for one in &found.set {
            let mine =
                inputs.as_array_mut().and_then(|all| all.iter_mut().find(|input| input["name"].as_str().map(str::trim) == Some(&one.name)));
            if let Some(input) = mine.and_then(Value::as_object_mut) {
                let before = input.get("spread").and_then(Value::as_f64).unwrap_or(1.0);
                input.insert("spread".to_owned(), json!(before * one.scale));
            }
        }
        told.offers = vec![offer("Tighten these", json!({ "inputs": inputs }), None)];
    }
    Some(told)
}

fn share_goal(goal: f64) -> String {
    format!("{} out", share(goal).trim_start_matches("about "))
}

/// The response that stands worst.
fn judged(numbers: &Numbers) -> Option<&ResponseNumbers> {
    let out = |response: &ResponseNumbers| response.out.map_or(-1.0, |out| out.total);
    numbers.responses.iter().filter(|response| response.out.is_some()).max_by(|a, b| out(a).total_cmp(&out(b)))
}

/// The next step.
pub fn step(answer: &Answer) -> Option<Note> {
    let numbers = &answer.numbers;
    let Some(worst) = judged(numbers) else {
        let detail = "Then the share out is told, and what drives it.".to_owned();
        return (!numbers.responses.is_empty()).then(|| note(Tone::Unsure, "Give a response LSL or USL to judge it by.", Some(detail)));
    };
    let meets = standing(&worst.out?, worst.ppk) == Standing::Meets;
    let tightened = !numbers.scales.is_empty();
    let look = |label: &str| {
        let mut told = note(Tone::Unsure, "Which spreads matter, and which cost money for nothing?", None);
        told.offers = vec![offer(label, json!({ "tightening": {} }), Some("tightening"))];
        (!tightened).then_some(told)
    };
    if meets {
        return look("See what could be loosened");
    }
    let ranged = answer.model.controls.iter().any(|control| control.low.zip(control.high).is_some_and(|(low, high)| low < high));
    match &numbers.search {
        None if ranged => {
            let mut told = note(Tone::Unsure, "The ranges of the controls may hold better settings.", None);
            told.offers = vec![offer("Search settings", json!({ "search": { "goal": "largest-ppk" } }), Some("settings"))];
            Some(told)
        }
        Some(search) if search.better && search.after.out.is_some_and(|out| out <= allowed()) => None,
        _ => look("See what tightening pays"),
    }
}
