//! Settings that do better.
//!
//! Candidates are judged by the same draws of the noise (common random numbers), so that a difference between two of them is
//! theirs. First points spread over the ranges (Halton 1960, leaped by primes), on a part of the draws; from the best three a
//! simplex each (Nelder and Mead 1965) on the same; then the best of them again on all draws. Settings with steps end with a walk
//! along their steps. The same seed finds the same settings.

use std::sync::{Mutex, PoisonError};

use rayon::prelude::*;

use super::assembly::Model;
use super::bench::Bench;
use super::draws::Source;
use super::random::BLOCK;
use super::run::{Tally, limits};
use super::statement::{Goal, Range, Search};
use acorn_maths::cancel::{Cancel, Stopped};
use acorn_maths::describe::moments;
use acorn_maths::judgement::VERY_UNLIKELY;
use acorn_maths::tails::t_beyond;
use acorn_maths::words;
use acorn_study::StudyError;
use acorn_study::reading::bad;

/// A response that counts, as the search takes it.
#[derive(Clone, Copy, Debug, PartialEq)]
pub struct Counted {
    /// Its place.
    pub response: usize,
    weight: f64,
    target: f64,
}

/// A search that can be made.
#[derive(Clone, Debug)]
pub struct Plan {
    /// What it aims at.
    pub goal: Goal,
    /// The responses that count.
    pub counted: Vec<Counted>,
    /// The ranges, with the control of each.
    pub ranges: Vec<(usize, Range)>,
}

/// A setting that was found.
#[derive(Clone, Debug, PartialEq)]
pub struct Found {
    /// The control.
    pub control: usize,
    /// The setting.
    pub value: f64,
    /// Its range.
    pub range: Range,
    /// Which end of its range it lies on: −1 the lowest, 1 the highest, 0 neither.
    pub border: i8,
    /// The stretch of settings, the others as found, within which at most a tenth of what the search gained is given up.
    pub slack: [f64; 2],
}

/// What a search found.
#[derive(Clone, Debug)]
pub struct Best {
    /// The settings.
    pub found: Vec<Found>,
    /// Every response at the settings as they are.
    pub before: Vec<Tally>,
    /// Every response at the settings found.
    pub after: Vec<Tally>,
    /// How many settings were tried.
    pub tried: usize,
    /// Whether it is better than the settings as they are.
    pub better: bool,
}

/// Most controls searched at once.
pub const CONTROLS_MOST: usize = 20;
/// Draws that candidates are compared by at first, at most.
const FEW: usize = 8 * BLOCK;
/// Draws that the last comparisons are made by, at most.
const ALL: usize = 200 * BLOCK;
/// Draws at least that the best is held against the settings as they are by.
const FRESH: usize = 20 * BLOCK;
/// Makes of a seed another one.
const OTHER: u64 = 0x9e37_79b9_7f4a_7c15;

impl Plan {
    /// Reads a search against its model.
    ///
    /// # Errors
    /// [`StudyError::BadOption`] for what does not exist, lacks limits or a target, or has no range.
    pub fn read(search: &Search, model: &Model) -> Result<Plan, StudyError> {
        let wrong = |problem: String| bad("search", problem);
        let named: Vec<(String, f64, Option<f64>)> = match (&search.response, &search.responses[..]) {
            (Some(name), []) => vec![(name.clone(), 1.0, search.target)],
            (None, []) => model
                .responses
                .iter()
                .filter(|response| match search.goal {
                    Goal::Target => response.stated.target.is_some(),
                    _ => response.stated.lsl.is_some() || response.stated.usl.is_some(),
                })
                .map(|response| (response.stated.name.clone(), 1.0, search.target))
                .collect(),
            (_, several) => several.iter().map(|one| (one.name.clone(), one.weight, one.target)).collect(),
        };
        if named.is_empty() {
            let lacking = if search.goal == Goal::Target { "a target" } else { "a limit" };
            return Err(wrong(format!("no response has {lacking} to search by; give one {lacking}")));
        }
        let counted = named.into_iter().map(|(name, weight, target)| {
            let place = model.responses.iter().position(|response| response.stated.name.trim() == name.trim());
            let response = place.ok_or_else(|| wrong(format!("there is no response “{name}”")))?;
            let stated = &model.responses[response].stated;
            if !(weight > 0.0 && weight <= 1e9) {
                return Err(wrong(format!("the weight of “{name}” must be above 0")));
            }
            let target = target.or(stated.target);
            match search.goal {
                Goal::Target if target.is_none() => Err(wrong(format!("“{name}” has no target to hit; give it one"))),
                Goal::LeastOut | Goal::LargestPpk if stated.lsl.is_none() && stated.usl.is_none() => {
                    Err(wrong(format!("“{name}” has no limit to stay within; give it LSL or USL")))
                }
                _ => Ok(Counted { response, weight, target: target.unwrap_or(0.0) }),
            }
        });
        let counted = counted.collect::<Result<Vec<_>, _>>()?;
        let own = || {
            let ranged = model.controls.iter().filter_map(|control| {
                Some(Range { name: control.name.clone(), low: control.low?, high: control.high?, step: control.step })
            });
            ranged.collect::<Vec<Range>>()
        };
        let ranges = if search.controls.is_empty() { own() } else { search.controls.clone() };
        if ranges.is_empty() {
            return Err(wrong("no control has a lowest and a highest setting; give one a range".to_owned()));
        }
        if ranges.len() > CONTROLS_MOST {
            return Err(wrong(format!("{} controls are too many to search at once; choose {CONTROLS_MOST} at most", ranges.len())));
        }
        let ranges = ranges.into_iter().map(|range| {
            let name = &range.name;
            let place = model.controls.iter().position(|control| control.name.trim() == name.trim());
            let control = place.ok_or_else(|| wrong(format!("there is no control “{name}”")))?;
            let fits = range.low.abs() <= 1e100 && range.high.abs() <= 1e100 && range.low <= range.high;
            if !fits {
                return Err(wrong(format!(
                    "the range of “{name}” runs from {} to {}; its lowest must not lie above its highest",
                    range.low, range.high
                )));
            }
            if range.step.is_some_and(|step| step <= 0.0) {
                return Err(wrong(format!("the step of “{name}” must be above 0")));
            }
            Ok((control, range))
        });
        Ok(Plan { goal: search.goal, counted, ranges: ranges.collect::<Result<Vec<_>, _>>()? })
    }

    /// The settings of a point of the unit cube.
    fn settings(&self, model: &Model, point: &[f64]) -> Vec<f64> {
        let mut settings = model.settings();
        for ((control, range), at) in self.ranges.iter().zip(point) {
            settings[*control] = snapped(range, range.low + at.clamp(0.0, 1.0) * (range.high - range.low));
        }
        settings
    }

    fn point(&self, settings: &[f64]) -> Vec<f64> {
        let at = |(control, range): &(usize, Range)| {
            let width = range.high - range.low;
            if width > 0.0 { ((settings[*control] - range.low) / width).clamp(0.0, 1.0) } else { 0.5 }
        };
        self.ranges.iter().map(at).collect()
    }

    /// What the search aims at, as far as it got.
    fn display_text(&self, [_, aim, _]: &[f64; 3]) -> String {
        let several = self.counted.len() > 1;
        match self.goal {
            _ if !aim.is_finite() => "no setting yet at which all can be worked out".to_owned(),
            Goal::LeastOut => format!("{} out{}", words::share(*aim), if several { ", weighed together" } else { "" }),
            Goal::LargestPpk => format!("Ppk {}{}", words::correlation(-aim), if several { " of the worst" } else { "" }),
            Goal::Target => format!("{} off target{}", words::about(aim.sqrt()), if several { ", weighed together" } else { "" }),
        }
    }

    /// How bad the responses are, the worse the larger: first the share that is no number, then what the search aims at, then what
    /// parts equals.
    fn badness(&self, tallies: &[Tally], limits: &[[f64; 2]]) -> [f64; 3] {
        let all = || self.counted.iter().map(|counted| (&tallies[counted.response], limits[counted.response], counted));
        let undefined = self.counted.iter().map(|counted| tallies[counted.response].undefined).sum::<f64>();
        let spread = |tally: &Tally| tally.sd().max(1e-12 * tally.mean.abs()).max(f64::MIN_POSITIVE);
        let worst = || {
            let room = |tally: &Tally, [lsl, usl]: [f64; 2]| (usl - tally.mean).min(tally.mean - lsl) / (3.0 * spread(tally));
            all().map(|(tally, limits, _)| -room(tally, limits)).fold(f64::NEG_INFINITY, f64::max)
        };
        let out = || all().map(|(tally, _, counted)| counted.weight * tally.out()).sum::<f64>();
        let missed = || {
            let squared = |(tally, _, counted): (&Tally, [f64; 2], &Counted)| {
                counted.weight * (tally.variance() + (tally.mean - counted.target).powi(2))
            };
            all().map(squared).sum::<f64>()
        };
        let [aim, then] = match self.goal {
            Goal::LeastOut => [out(), worst()],
            Goal::LargestPpk => [worst(), out()],
            Goal::Target => [missed(), 0.0],
        };
        let number = |value: f64| if value.is_nan() { f64::INFINITY } else { value };
        [undefined, number(aim), number(then)]
    }
}

fn snapped(range: &Range, value: f64) -> f64 {
    match range.step {
        Some(step) => {
            let most = ((range.high - range.low) / step + 1e-9).floor();
            range.low + ((value - range.low) / step).round().clamp(0.0, most) * step
        }
        None => value.clamp(range.low, range.high),
    }
}

/// The draws of the noise, kept for all candidates.
struct Common<'m> {
    model: &'m Model,
    plan: &'m Plan,
    limits: Vec<[f64; 2]>,
    blocks: Vec<Bench>,
}

impl<'m> Common<'m> {
    fn of(model: &'m Model, plan: &'m Plan, draws: usize, seed: u64) -> Common<'m> {
        let block = |number: usize| {
            let mut bench = Bench::of(model);
            let len = (draws - number * BLOCK).min(BLOCK);
            bench.draw(model, Source { seed, set: 0, slices: None }, number as u64, len);
            bench
        };
        let blocks = (0..draws.div_ceil(BLOCK)).into_par_iter().map(block).collect();
        Common { model, plan, limits: limits(model), blocks }
    }

    /// Every response at some settings, by the first so many blocks.
    fn tallies(&self, settings: &[f64], blocks: usize) -> Vec<Tally> {
        self.tallies_of(settings, &self.blocks[..blocks.min(self.blocks.len())])
    }

    fn tallies_of(&self, settings: &[f64], blocks: &[Bench]) -> Vec<Tally> {
        let programs = self.model.programs(settings);
        let moved: Vec<(usize, f64)> = self
            .model
            .drawn
            .iter()
            .enumerate()
            .filter_map(|(place, one)| one.control.map(|control| (place, settings[control] - self.model.controls[control].value)))
            .filter(|(_, by)| *by != 0.0)
            .collect();
        let see = |block: &Bench| {
            let mut bench = block.clone();
            for (place, by) in &moved {
                bench.columns[*place].iter_mut().for_each(|value| *value += by);
            }
            bench.follow(self.model, &programs);
            self.limits.iter().enumerate().map(|(place, limits)| Tally::of(bench.response(self.model, place), *limits)).collect::<Vec<_>>()
        };
        let found: Vec<Vec<Tally>> = blocks.par_iter().map(see).collect();
        let none = vec![Tally::NONE; self.limits.len()];
        found.into_iter().fold(none, |all, more| all.into_iter().zip(more).map(|(all, more)| all.and(more)).collect())
    }

    fn badness(&self, point: &[f64], blocks: usize) -> [f64; 3] {
        self.plan.badness(&self.tallies(&self.plan.settings(self.model, point), blocks), &self.limits)
    }

    /// Whether settings do better than others by more than chance explains: t of the differences that the blocks show, in what parts them
    /// first.
    fn do_better(&self, settings: &[f64], others: &[f64]) -> bool {
        let of_block = |block: &Bench| {
            [settings, others].map(|settings| self.plan.badness(&self.tallies_of(settings, std::slice::from_ref(block)), &self.limits))
        };
        let pairs: Vec<[[f64; 3]; 2]> = self.blocks.iter().map(of_block).collect();
        let Some(part) = (0..3).find(|&part| pairs.iter().any(|[one, other]| one[part] != other[part])) else { return false };
        let apart: Vec<f64> = pairs.iter().map(|[one, other]| one[part] - other[part]).collect();
        let of = moments(&apart);
        let (Some(mean), Some(sd)) = (of.mean.filter(|mean| mean.is_finite()), of.sd.filter(|sd| sd.is_finite())) else {
            // Only one of them can be worked out at all.
            let whole = |settings: &[f64]| self.plan.badness(&self.tallies(settings, self.blocks.len()), &self.limits);
            return lexical(&whole(settings), &whole(others)).is_lt();
        };
        let t = mean / (sd / (of.n as f64).sqrt());
        mean < 0.0 && (sd == 0.0 || 0.5 * t_beyond(t, of.n as f64 - 1.0) < VERY_UNLIKELY)
    }
}

/// Finds the settings.
///
/// # Errors
/// [`Stopped`].
pub fn search(model: &Model, plan: &Plan, draws: usize, seed: u64, cancel: &Cancel) -> Result<Best, Stopped> {
    let many = plan.ranges.len();
    let common = Common::of(model, plan, draws.min(ALL), seed);
    let (few, all) = (FEW / BLOCK, common.blocks.len());
    let (global, local, last) = (64 * many + 32, 120 * many, 60 * many);
    cancel.expect((global + 3 * local + last) as u32);
    let start = plan.point(&model.settings());
    let best_so_far = Mutex::new([f64::INFINITY; 3]);
    let judge = |point: Vec<f64>, blocks: usize| -> Result<Candidate, Stopped> {
        cancel.step()?;
        let badness = common.badness(&point, blocks);
        let mut best = best_so_far.lock().unwrap_or_else(PoisonError::into_inner);
        if lexical(&badness, &best).is_lt() {
            *best = badness;
            cancel.found(plan.display_text(&badness));
        }
        Ok(Candidate { point, badness })
    };
    let points = (0..global).map(|place| if place == 0 { start.clone() } else { halton(place, many) });
    let mut candidates: Vec<Candidate> =
        points.collect::<Vec<_>>().into_par_iter().map(|point| judge(point, few)).collect::<Result<_, _>>()?;
    let mut tried = candidates.len();
    candidates.sort_by(Candidate::order);
    let mut refined: Vec<Candidate> = Vec::new();
    for candidate in candidates.into_iter().take(3) {
        let (best, more) = simplex(candidate, 0.12, local, |point| judge(point, few))?;
        tried += more;
        refined.push(best);
    }
    refined.sort_by(Candidate::order);
    let best = refined.into_iter().next().map(|best| best.point).unwrap_or_else(|| start.clone());
    let best = judge(best, all)?;
    let (best, more) = simplex(best, 0.03, last, |point| judge(point, all))?;
    let (best, steps) = walk(plan, best, |point| judge(point, all))?;
    tried += 1 + more + steps;
    let before = common.tallies(&model.settings(), all);
    let worst = plan.badness(&before, &common.limits);
    // The best of many settings suits the draws that it was chosen by: others tell whether it is better.
    let fresh = Common::of(model, plan, draws.clamp(FRESH, ALL), seed ^ OTHER);
    let chosen = plan.settings(model, &best.point);
    let better = fresh.do_better(&chosen, &model.settings());
    let settings = if better { chosen } else { plan.settings(model, &start) };
    let point = plan.point(&settings);
    let badness = if better { best.badness } else { worst };
    let found = plan.ranges.iter().enumerate().map(|(place, (control, range))| {
        let value = settings[*control];
        let width = range.high - range.low;
        let near = |end: f64| width > 0.0 && (value - end).abs() <= (1e-3 * width).max(range.step.map_or(0.0, |step| step / 2.0));
        let border = if near(range.low) { -1 } else { i8::from(near(range.high)) };
        let slack = slack(&common, &point, place, range, badness, worst, all.min(50));
        Found { control: *control, value, range: range.clone(), border, slack }
    });
    let found = found.collect();
    cancel.check()?;
    Ok(Best { found, after: common.tallies(&settings, all), before, tried, better })
}

#[derive(Clone, Debug)]
struct Candidate {
    point: Vec<f64>,
    badness: [f64; 3],
}

impl Candidate {
    fn order(&self, other: &Candidate) -> std::cmp::Ordering {
        lexical(&self.badness, &other.badness)
    }
}

fn lexical(one: &[f64; 3], other: &[f64; 3]) -> std::cmp::Ordering {
    one.iter().zip(other).map(|(one, other)| one.total_cmp(other)).find(|order| order.is_ne()).unwrap_or(std::cmp::Ordering::Equal)
}

/// A point of Halton's sequence.
fn halton(place: usize, many: usize) -> Vec<f64> {
    const PRIMES: [usize; CONTROLS_MOST] = [2, 3, 5, 7, 11, 13, 17, 19, 23, 29, 31, 37, 41, 43, 47, 53, 59, 61, 67, 71];
    let in_base = |base: usize| {
        // Later primes start in long even rows, which a leap breaks up (Kocis and Whiten 1997).
        let (mut rest, mut part, mut value) = (place * 409, 1.0, 0.0);
        while rest > 0 {
            part /= base as f64;
            value += part * (rest % base) as f64;
            rest /= base;
        }
        value
    };
    PRIMES[..many].iter().map(|base| in_base(*base)).collect()
}

/// Walks a simplex downhill, inside the unit cube; only what is better counts, so that any ranking will do.
fn simplex(
    start: Candidate,
    size: f64,
    most: usize,
    judge: impl Fn(Vec<f64>) -> Result<Candidate, Stopped>,
) -> Result<(Candidate, usize), Stopped> {
    let many = start.point.len();
    let mut corners = vec![start.clone()];
    for place in 0..many {
        let mut point = start.point.clone();
        point[place] += if point[place] > 0.5 { -size } else { size };
        corners.push(judge(point)?);
    }
    let mut tried = many;
    while tried < most {
        corners.sort_by(Candidate::order);
        let wide = (0..many).any(|place| {
            let at = corners.iter().map(|corner| corner.point[place]);
            at.clone().fold(f64::MIN, f64::max) - at.fold(f64::MAX, f64::min) > 1e-6
        });
        if !wide {
            break;
        }
        let worst = corners[many].clone();
        let middle: Vec<f64> =
            (0..many).map(|place| corners[..many].iter().map(|corner| corner.point[place]).sum::<f64>() / many as f64).collect();
        let along =
            |by: f64| middle.iter().zip(&worst.point).map(|(middle, worst)| (middle + by * (worst - middle)).clamp(0.0, 1.0)).collect();
        let mirrored = judge(along(-1.0))?;
        tried += 1;
        if mirrored.order(&corners[0]).is_lt() {
            let further = judge(along(-2.0))?;
            tried += 1;
            corners[many] = if further.order(&mirrored).is_lt() { further } else { mirrored };
            continue;
        }
        if mirrored.order(&corners[many - 1]).is_lt() {
            corners[many] = mirrored;
            continue;
        }
        let nearer = judge(along(if mirrored.order(&worst).is_lt() { -0.5 } else { 0.5 }))?;
        tried += 1;
        if nearer.order(&worst).is_lt() && nearer.order(&mirrored).is_lt() {
            corners[many] = nearer;
            continue;
        }
        let best = corners[0].point.clone();
        for corner in &mut corners[1..] {
            *corner = judge(corner.point.iter().zip(&best).map(|(at, best)| best + 0.5 * (at - best)).collect())?;
        }
        tried += many;
    }
    corners.sort_by(Candidate::order);
    Ok((corners.swap_remove(0), tried))
}

/// Walks along the steps of settings that have them, as long as it gets better.
fn walk(plan: &Plan, mut best: Candidate, judge: impl Fn(Vec<f64>) -> Result<Candidate, Stopped>) -> Result<(Candidate, usize), Stopped> {
    const WALKS: usize = 50;
    let mut tried = 0;
    for _ in 0..WALKS {
        let mut changed = false;
        for (place, (_, range)) in plan.ranges.iter().enumerate() {
            let width = range.high - range.low;
            let Some(step) = range.step.filter(|_| width > 0.0) else { continue };
            for by in [-step / width, step / width] {
                let mut point = best.point.clone();
                point[place] = (point[place] + by).clamp(0.0, 1.0);
                let next = judge(point)?;
                tried += 1;
                if next.order(&best).is_lt() {
                    (best, changed) = (next, true);
                }
            }
        }
        if !changed {
            break;
        }
    }
    Ok((best, tried))
}

/// How far one setting may move, the others as found, before more than a tenth of what was gained is lost.
fn slack(common: &Common, point: &[f64], place: usize, range: &Range, best: [f64; 3], before: [f64; 3], blocks: usize) -> [f64; 2] {
    const LOST: f64 = 0.1;
    const HALVINGS: usize = 12;
    // What parts equals is looked at where the aim itself is the same at both.
    let which = if best[1] == before[1] { 2 } else { 1 };
    let most = best[which] + LOST * (before[which] - best[which]).abs().max(1e-12 * best[which].abs());
    let holds = |at: f64| {
        let mut moved = point.to_vec();
        moved[place] = at;
        let badness = common.badness(&moved, blocks);
        badness[0] <= best[0] && badness[which] <= most
    };
    let reach = |end: f64| {
        if holds(end) {
            return end;
        }
        let (mut inside, mut outside) = (point[place], end);
        for _ in 0..HALVINGS {
            let middle = (inside + outside) / 2.0;
            if holds(middle) { inside = middle } else { outside = middle }
        }
        inside
    };
    let value = |at: f64| range.low + at * (range.high - range.low);
    [value(reach(0.0)), value(reach(1.0))]
}
