//! Which input a response's variance comes from.
//!
//! Sobol's indices by Saltelli's scheme: two independent sets A and B of N draws, and for each input A with that input's draws
//! from B; first = 1 − Σ(f(B) − f(ABᵢ))²/(2N V), total = Σ(f(A) − f(ABᵢ))²/(2N V) (Jansen 1999; Saltelli and others 2010).
//! Their standard errors are those of the means in them; that of V is added as if it were independent.

use super::assembly::Model;
use super::bench::Bench;
use super::draws::Source;
use super::run::{Tally, in_blocks};
use acorn_maths::cancel::{Cancel, Stopped};

/// What share of a response's variance an input makes.
#[derive(Clone, Copy, Debug, PartialEq)]
pub struct Share {
    /// By itself.
    pub first: f64,
    /// Its standard error.
    pub first_error: f64,
    /// With all it does together with others.
    pub total: f64,
    /// Its standard error.
    pub total_error: f64,
}

const OPEN: [f64; 2] = [f64::NEG_INFINITY, f64::INFINITY];

/// The shares of every drawn input in every response; `None` for a response that does not vary. The inputs must be uncorrelated.
///
/// # Errors
/// [`Stopped`].
pub fn shares(model: &Model, draws: usize, seed: u64, cancel: &Cancel) -> Result<Vec<Option<Vec<Share>>>, Stopped> {
    let (inputs, responses) = (model.drawn.len(), model.responses.len());
    let base = (draws / (inputs + 2)).max(1);
    let programs = model.programs(&model.settings());
    let depends = model.depends();
    let source = |set| Source { seed, set, slices: None };
    // Of each response: its own tally, then of each input the squares of both differences.
    let start = || vec![vec![Tally::NONE; 1 + 2 * inputs]; responses];
    let see = |bench: &mut Bench, block: u64, len: usize, seen: &mut Vec<Vec<Tally>>| {
        bench.draw(model, source(1), block, len);
        bench.follow(model, &programs);
        let from_b: Vec<Vec<f64>> = bench.columns.clone();
        bench.draw(model, source(0), block, len);
        bench.follow(model, &programs);
        let from_a: Vec<Vec<f64>> = bench.columns.clone();
        for (place, seen) in seen.iter_mut().enumerate() {
            let (a, b) = (&from_a[inputs + place], &from_b[inputs + place]);
            seen[0] = seen[0].and(Tally::of(a, OPEN)).and(Tally::of(b, OPEN));
        }
        for input in 0..inputs {
            bench.columns[input].copy_from_slice(&from_b[input]);
            bench.follow(model, &programs);
            for (place, seen) in seen.iter_mut().enumerate() {
                let swapped = bench.response(model, place);
                let squares =
                    |from: &[f64]| -> Vec<f64> { from.iter().zip(swapped).map(|(from, swapped)| (from - swapped).powi(2)).collect() };
                // Without this input nothing changes in A, and all of what makes A and B differ is still there.
                if depends[place][input] {
                    seen[2 + 2 * input] = seen[2 + 2 * input].and(Tally::of(&squares(&from_a[inputs + place]), OPEN));
                    seen[1 + 2 * input] = seen[1 + 2 * input].and(Tally::of(&squares(&from_b[inputs + place]), OPEN));
                }
            }
            bench.columns[input].copy_from_slice(&from_a[input]);
        }
    };
    let join = |mut all: Vec<Vec<Tally>>, more: Vec<Vec<Tally>>| {
        all.iter_mut().flatten().zip(more.into_iter().flatten()).for_each(|(all, more)| *all = all.and(more));
        all
    };
    let seen = in_blocks(model, base, cancel, start, see, join)?;
    let share = |seen: &[Tally], input: usize, depends: bool| {
        let nothing = Share { first: 0.0, first_error: 0.0, total: 0.0, total_error: 0.0 };
        let v = seen[0].variance();
        if !depends {
            return nothing;
        }
        let (b, a) = (&seen[1 + 2 * input], &seen[2 + 2 * input]);
        let error = |tally: &Tally| {
            let part = tally.mean / (2.0 * v);
            // The sd of a variance is about V √(2/N) of a normal.
            ((tally.variance() / tally.n.max(1.0)) / (4.0 * v * v) + part * part / seen[0].n.max(1.0)).sqrt()
        };
        Share { first: 1.0 - b.mean / (2.0 * v), first_error: error(b), total: a.mean / (2.0 * v), total_error: error(a) }
    };
    let of = |(seen, depends): (Vec<Tally>, Vec<bool>)| {
        let varies = seen[0].sd() > 0.0 && seen[0].variance().is_finite();
        varies.then(|| (0..inputs).map(|input| share(&seen, input, depends[input])).collect())
    };
    Ok(seen.into_iter().zip(model.depends()).map(of).collect())
}
