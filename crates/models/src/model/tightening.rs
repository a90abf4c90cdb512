//! What a narrower or wider spread of one input does to the responses.
//!
//! The spread of an input about its mean is multiplied, the same draws otherwise: x → m + c (x − m). What changes is then the
//! input's doing and not that of other draws.

use super::assembly::Model;
use super::bench::Bench;
use super::draws::Source;
use super::run::{Run, Tally, in_blocks, limits};
use acorn_maths::cancel::{Cancel, Stopped};

/// What each scale of an input makes of a response.
#[derive(Clone, Debug, PartialEq)]
pub struct Line {
    /// Its sd, a scale each.
    pub sd: Vec<f64>,
    /// Its share out, a scale each.
    pub out: Vec<f64>,
}

/// The middle about which the spread of each input is scaled.
fn middles(model: &Model) -> Vec<f64> {
    model.drawn.iter().map(|one| one.distribution.mean().unwrap_or_else(|| one.distribution.quantile(0.5, 0.5))).collect()
}

fn scale(column: &mut [f64], middle: f64, by: f64) {
    column.iter_mut().for_each(|value| *value = middle + by * (*value - middle));
}

/// One line for each response and drawn input, from a run over as many draws of the same source.
///
/// # Errors
/// [`Stopped`].
pub fn lines(model: &Model, scales: &[f64], run: &Run, source: Source, cancel: &Cancel) -> Result<Vec<Vec<Line>>, Stopped> {
    let (inputs, responses) = (model.drawn.len(), model.responses.len());
    let (programs, limits, middles, depends) = (model.programs(&model.settings()), limits(model), middles(model), model.depends());
    let start = || vec![Tally::NONE; responses * inputs * scales.len()];
    let see = |bench: &mut Bench, block: u64, len: usize, seen: &mut Vec<Tally>| {
        bench.draw(model, source, block, len);
        for input in 0..inputs {
            let kept = bench.columns[input].clone();
            for (step, by) in scales.iter().enumerate() {
                bench.columns[input].copy_from_slice(&kept);
                scale(&mut bench.columns[input], middles[input], *by);
                bench.follow(model, &programs);
                for place in (0..responses).filter(|place| depends[*place][input]) {
                    let seen = &mut seen[(place * inputs + input) * scales.len() + step];
                    *seen = seen.and(Tally::of(bench.response(model, place), limits[place]));
                }
            }
            bench.columns[input] = kept;
        }
    };
    let join = |mut all: Vec<Tally>, more: Vec<Tally>| {
        all.iter_mut().zip(more).for_each(|(all, more)| *all = all.and(more));
        all
    };
    let seen = in_blocks(model, run.draws, cancel, start, see, join)?;
    let line = |place: usize, input: usize| {
        let tally = |step: usize| match depends[place][input] {
            true => seen[(place * inputs + input) * scales.len() + step],
            false => run.tallies[place],
        };
        let tallies: Vec<Tally> = (0..scales.len()).map(tally).collect();
        Line { sd: tallies.iter().map(Tally::sd).collect(), out: tallies.iter().map(Tally::out).collect() }
    };
    Ok((0..responses).map(|place| (0..inputs).map(|input| line(place, input)).collect()).collect())
}

/// A set of tightened inputs that reaches a goal.
#[derive(Clone, Debug, PartialEq)]
pub struct Cheapest {
    /// What the spread of each drawn input is multiplied by.
    pub scales: Vec<f64>,
    /// What it costs in all.
    pub cost: f64,
    /// The share out of the worst response that it leaves.
    pub out: f64,
    /// Whether the goal is reached.
    pub reached: bool,
}

/// Steps of tightening; at most nine tenths go.
const STEPS: u32 = 9;

/// The cheapest tightening found that brings the share out of every response to a goal, in steps of a tenth that cost what their
/// input says; inputs without a cost stay. `None` when no input has one.
///
/// Steps are taken where most is gained for the money until the goal is reached; then steps are given back, the dearest first,
/// and pairs exchanged, while the goal holds.
///
/// # Errors
/// [`Stopped`].
pub fn cheapest(model: &Model, goal: f64, draws: usize, seed: u64, cancel: &Cancel) -> Result<Option<Cheapest>, Stopped> {
    let costs: Vec<Option<f64>> = model.drawn.iter().map(|one| one.cost).collect();
    if costs.iter().all(Option::is_none) {
        return Ok(None);
    }
    let (programs, limits, middles) = (model.programs(&model.settings()), limits(model), middles(model));
    let source = Source { seed, set: 0, slices: None };
    let limited: Vec<usize> = (0..limits.len()).filter(|place| limits[*place].iter().any(|limit| limit.is_finite())).collect();
    let out = |steps: &[u32]| -> Result<f64, Stopped> {
        let see = |bench: &mut Bench, block: u64, len: usize, seen: &mut Vec<Tally>| {
            bench.draw(model, source, block, len);
            for (input, step) in steps.iter().enumerate().filter(|(_, step)| **step > 0) {
                scale(&mut bench.columns[input], middles[input], 1.0 - f64::from(*step) / 10.0);
            }
            bench.follow(model, &programs);
            for (seen, &place) in seen.iter_mut().zip(&limited) {
                *seen = seen.and(Tally::of(bench.response(model, place), limits[place]));
            }
        };
        let join = |all: Vec<Tally>, more: Vec<Tally>| all.into_iter().zip(more).map(|(all, more)| all.and(more)).collect();
        let seen = in_blocks(model, draws, cancel, || vec![Tally::NONE; limited.len()], see, join)?;
        Ok(seen.iter().map(Tally::out).fold(0.0, f64::max))
    };
    let cost = |steps: &[u32]| steps.iter().zip(&costs).map(|(step, cost)| f64::from(*step) * cost.unwrap_or(0.0)).sum::<f64>();
    let mut steps = vec![0u32; costs.len()];
    let mut now = out(&steps)?;
    while now > goal {
        let mut best: Option<(f64, usize, f64)> = None;
        for (input, cost) in costs.iter().enumerate() {
            let Some(cost) = cost.filter(|_| steps[input] < STEPS) else { continue };
            steps[input] += 1;
            let then = out(&steps)?;
            steps[input] -= 1;
            let gain = (now - then) / cost;
            if best.is_none_or(|(most, ..)| gain > most) {
                best = Some((gain, input, then));
            }
        }
        match best {
            Some((gain, input, then)) if gain > 0.0 => {
                steps[input] += 1;
                now = then;
            }
            _ => break,
        }
    }
    let reached = now <= goal;
    if reached {
        cheaper(&mut steps, &costs, goal, &mut now, out)?;
    }
    let scales = steps.iter().map(|step| 1.0 - f64::from(*step) / 10.0).collect();
    Ok(Some(Cheapest { scales, cost: cost(&steps), out: now, reached }))
}

/// Gives steps back, and exchanges one for a cheaper one, while the goal holds.
fn cheaper(
    steps: &mut [u32],
    costs: &[Option<f64>],
    goal: f64,
    now: &mut f64,
    out: impl Fn(&[u32]) -> Result<f64, Stopped>,
) -> Result<(), Stopped> {
    let mut order: Vec<usize> = (0..steps.len()).filter(|input| costs[*input].is_some()).collect();
    order.sort_by(|a, b| costs[*b].unwrap_or(0.0).total_cmp(&costs[*a].unwrap_or(0.0)));
    loop {
        let mut changed = false;
        for &dear in &order {
            if steps[dear] == 0 {
                continue;
            }
            steps[dear] -= 1;
            let then = out(steps)?;
            if then <= goal {
                (*now, changed) = (then, true);
                continue;
            }
            // One step less here for as many as are still cheaper elsewhere.
            let price = costs[dear].unwrap_or(0.0);
            let exchange = order.iter().copied().filter(|other| *other != dear && steps[*other] < STEPS).find_map(|other| {
                let own = costs[other].unwrap_or(f64::INFINITY);
                let most = ((price / own).ceil() as u32).saturating_sub(1).min(STEPS - steps[other]);
                (1..=most).find_map(|more| {
                    let mut tried = steps.to_vec();
                    tried[other] += more;
                    match out(&tried) {
                        Ok(then) if then <= goal => Some(Ok((tried, then))),
                        Ok(_) => None,
                        Err(stopped) => Some(Err(stopped)),
                    }
                })
            });
            match exchange.transpose()? {
                Some((tried, then)) => {
                    steps.copy_from_slice(&tried);
                    (*now, changed) = (then, true);
                }
                None => steps[dear] += 1,
            }
        }
        if !changed {
            return Ok(());
        }
    }
}
