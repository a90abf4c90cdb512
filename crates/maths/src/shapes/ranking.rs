//! How well fitted shapes fit, and which fits best.

use rand::SeedableRng;
use rand::distr::{Distribution, Uniform};
use rand_distr::Gamma;
use rand_xoshiro::Xoshiro256PlusPlus;
use rayon::prelude::*;

use super::family::Family;
use super::fit::fit;
use super::member::Shape;
use crate::cancel::{Cancel, Stopped};
use crate::describe::moments;
use crate::judgement::unlikely;
use crate::shape::anderson_darling;
use crate::sorting::Sorted;
use crate::tails::t_two_sided;

/// A fitted shape with how well it fits.
#[derive(Clone, Copy, Debug, PartialEq)]
pub struct Fitted {
    /// The shape.
    pub shape: Shape,
    /// 2k - 2 ln L on the scale of the values; the smaller the better.
    pub aic: f64,
    /// Anderson and Darling's statistic; the smaller the better.
    pub ad: f64,
    /// The chance of so large a statistic when the shape is the source; `None` when it was not tested.
    pub p: Option<f64>,
    /// Why it was not tested.
    pub untested: Option<Untested>,
}

/// Why a fitted shape was not tested.
#[derive(Clone, Copy, Debug, PartialEq, Eq)]
pub enum Untested {
    /// Below eight values.
    TooFewValues,
    /// Its threshold lowers the criterion by too little to be worth it.
    NoGain,
    /// Hardly any sample drawn from it could be fitted again.
    NotFittedAgain,
}

impl Untested {
    /// In words.
    pub fn display_text(self) -> &'static str {
        match self {
            Untested::TooFewValues => "too few values to test it",
            Untested::NoGain => "no gain by its threshold",
            Untested::NotFittedAgain => "draws from it cannot be fitted",
        }
    }
}

/// Samples drawn from a fitted shape to learn how large the statistic gets by chance.
const DRAWS: u64 = 400;
/// Samples drawn at once where few may do.
const DRAWN_AT_ONCE: usize = 16;
/// Values a drawn sample, at most: the statistic hardly depends on their number beyond it (Stephens 1974).
const DRAWN_MOST: usize = 150;
/// Fewest values that can be tested.
const LEAST: usize = 8;
/// A threshold must lower the criterion by as much to be worth its parameter.
const WORTH: f64 = 2.0;

/// Judges a fitted shape by sorted values.
///
/// The chance is that of D'Agostino and Stephens (1986, table 4.9) where the values or their logarithms are taken for
/// normal, else from 400 samples drawn from the fitted shape and fitted again (a parametric bootstrap, seeded, so that
/// the same values always give the same answer): p = (1 + samples with as large a statistic)/(1 + samples).
///
/// # Errors
/// [`Stopped`].
pub fn judge(shape: Shape, sorted: &Sorted, seed: u64, cancel: &Cancel) -> Result<Fitted, Stopped> {
    let measured = measure(shape, sorted);
    if sorted.len() < LEAST {
        return Ok(Fitted { untested: Some(Untested::TooFewValues), ..measured });
    }
    let p = chance(shape, sorted, measured.ad, seed, cancel)?;
    Ok(Fitted { p, untested: p.is_none().then_some(Untested::NotFittedAgain), ..measured })
}

fn measure(shape: Shape, sorted: &Sorted) -> Fitted {
    Fitted { shape, aic: aic(&shape, sorted), ad: shape.anderson_darling(sorted), p: None, untested: None }
}

/// Akaike's criterion, 2k - 2 ln L: the smaller the better.
pub fn aic(shape: &Shape, values: &[f64]) -> f64 {
    2.0 * shape.family.parameters() as f64 - 2.0 * shape.ln_likelihood(values)
}

/// Whether sorted values refute a fitted shape: the chance of [`judge`] is below `level`. Most shapes that fit are told after a few samples,
/// since no more than are needed are drawn. Fewer than eight values refute nothing.
///
/// # Errors
/// [`Stopped`].
pub fn is_refuted(shape: Shape, sorted: &Sorted, level: f64, seed: u64, cancel: &Cancel) -> Result<bool, Stopped> {
    if sorted.len() < LEAST {
        return Ok(false);
    }
    if let Some(p) = exact_chance(shape.family, sorted) {
        return Ok(p.is_some_and(|p| p < level));
    }
    let ad = shape.anderson_darling(sorted);
    let enough = level * (1.0 + DRAWS as f64);
    let (mut as_large, mut fitted) = (0.0, 0);
    for first in (0..DRAWS).step_by(DRAWN_AT_ONCE) {
        let draws = first..DRAWS.min(first + DRAWN_AT_ONCE as u64);
        let found =
            draws.into_par_iter().map(|draw| is_larger(&shape, sorted.len(), ad, seed, draw, cancel)).collect::<Result<Vec<_>, _>>()?;
        fitted += found.iter().flatten().count() as u64;
        as_large += found.into_iter().flatten().filter(|larger| *larger).count() as f64;
        if 1.0 + as_large >= enough {
            return Ok(false);
        }
    }
    Ok(fitted > DRAWS / 2 && (1.0 + as_large) / (1.0 + fitted as f64) < level)
}

fn chance(shape: Shape, sorted: &Sorted, ad: f64, seed: u64, cancel: &Cancel) -> Result<Option<f64>, Stopped> {
    if let Some(p) = exact_chance(shape.family, sorted) {
        return Ok(p);
    }
    cancel.draws_from(seed);
    cancel.expect(DRAWS as u32);
    let one = |draw: u64| {
        cancel.step()?;
        is_larger(&shape, sorted.len(), ad, seed, draw, cancel)
    };
    let answers = (0..DRAWS).into_par_iter().map(one).collect::<Result<Vec<_>, Stopped>>()?;
    let fitted: Vec<bool> = answers.into_iter().flatten().collect();
    let as_large = fitted.iter().filter(|larger| **larger).count();
    Ok((fitted.len() as u64 > DRAWS / 2).then(|| (1.0 + as_large as f64) / (1.0 + fitted.len() as f64)))
}

/// The chance that needs no draws: of values, or of their logarithms, that are taken for normal.
fn exact_chance(family: Family, sorted: &Sorted) -> Option<Option<f64>> {
    let as_normal = |values: &Sorted| {
        let of = moments(values);
        of.mean.zip(of.sd).and_then(|(mean, sd)| anderson_darling(values, mean, sd)).map(|test| test.p)
    };
    match family {
        Family::Normal => Some(as_normal(sorted)),
        Family::Lognormal => Some(as_normal(&sorted.on_scale(f64::ln))),
        _ => None,
    }
}

/// Whether a sample drawn from a shape and fitted again has as large a statistic; `None` where it cannot be fitted.
fn is_larger(shape: &Shape, n: usize, ad: f64, seed: u64, draw: u64, cancel: &Cancel) -> Result<Option<bool>, Stopped> {
    cancel.check()?;
    let values = sample(shape, n.min(DRAWN_MOST), stream(seed, draw));
    Ok(fit(shape.family, &values).map(|again| again.anderson_darling(&values) >= ad))
}

/// The 95 % interval of a statistic of a fitted shape by a parametric bootstrap: 400 samples of as many values, at most
/// 2000 (200 with a threshold), drawn from it and fitted again, seeded; deviations are scaled by the root of the numbers where
/// fewer are drawn. `None` when the statistic or half of the fits fail.
///
/// The deviations of the draws are turned over about what was found (the basic interval of Davison and Hinkley 1997, Bootstrap
/// Methods and their Application, sec. 5.2), which takes back twice the bias that percentiles of the draws would keep, and are
/// widened by t/1.96 √(n/(n - 1)), because the draws take the fitted spread for the true one (Hesterberg 2015, The American
/// Statistician 69, sec. 5.3). `statistic` is to be on a scale on which its error hardly depends on it.
///
/// # Errors
/// [`Stopped`].
pub fn bootstrap(
    shape: &Shape,
    n: usize,
    statistic: impl Fn(Shape) -> Option<f64> + Sync,
    seed: u64,
    cancel: &Cancel,
) -> Result<Option<[f64; 2]>, Stopped> {
    // A threshold is slow to find.
    let most = if shape.family.has_threshold() { 200 } else { 2000 };
    let Some(found) = statistic(*shape) else { return Ok(None) };
    let drawn = n.min(most);
    let df = n.saturating_sub(1).max(1) as f64;
    let wider = t_two_sided(0.05, df) / 1.959_963_984_540_054 * (n as f64 / df).sqrt();
    let reach = wider * (drawn as f64 / n as f64).sqrt();
    let one = |draw: u64| {
        cancel.step()?;
        Ok(fit(shape.family, &sample(shape, drawn, stream(seed, draw))).and_then(&statistic))
    };
    cancel.draws_from(seed);
    cancel.expect(DRAWS as u32);
    let again = (0..DRAWS).into_par_iter().map(one).collect::<Result<Vec<_>, Stopped>>()?;
    let again = Sorted::of(&again.into_iter().flatten().filter(|value| value.is_finite()).collect::<Vec<f64>>());
    if (again.len() as u64) < DRAWS / 2 {
        return Ok(None);
    }
    let end = |p| again.quantile(p).map(|value| found - reach * (value - found));
    Ok(end(0.975).zip(end(0.025)).map(|(low, high)| [low, high]))
}

/// The stream of random numbers of one draw; those of different seeds share none.
fn stream(seed: u64, draw: u64) -> Xoshiro256PlusPlus {
    Xoshiro256PlusPlus::seed_from_u64(seed.wrapping_mul(DRAWS) + draw)
}

/// Sorted values of a shape.
fn sample(shape: &Shape, n: usize, mut random: Xoshiro256PlusPlus) -> Sorted {
    Sorted::of(&(0..n).map(|_| draw(shape, &mut random)).filter(|value| value.is_finite()).collect::<Vec<f64>>())
}

/// One value of a shape. A gamma's quantile is slow to find, so that it is drawn directly (Marsaglia and Tsang 2000).
fn draw(shape: &Shape, random: &mut Xoshiro256PlusPlus) -> f64 {
    if shape.family.plain() == Family::Gamma {
        return Gamma::new(shape.alpha, shape.scale).map_or(f64::NAN, |gamma| shape.threshold + gamma.sample(random));
    }
    let below: f64 = Uniform::new(0.0, 1.0).expect("0 lies below 1").sample(random);
    shape.quantile(below, 1.0 - below)
}

/// In which order shapes are believed. What could not be tested is never put before what was, not even before what was
/// refuted: that would hide that nothing fits.
#[derive(Clone, Copy, PartialEq, Eq, PartialOrd, Ord)]
enum Standing {
    Fits,
    Refuted,
    Untested,
}

/// All families that can be fitted to sorted values, the best first: those not refuted before those that are, a
/// threshold that is not worth its parameter last and without a chance, else by Anderson and Darling's statistic.
///
/// # Errors
/// [`Stopped`].
pub fn rank(sorted: &Sorted, seed: u64, cancel: &Cancel) -> Result<Vec<Fitted>, Stopped> {
    let mut ranked: Vec<(Standing, Fitted)> = Vec::new();
    // A family without its threshold comes before the one with it.
    for family in Family::ALL {
        cancel.check()?;
        let Some(shape) = fit(family, sorted) else { continue };
        let plain = ranked.iter().find(|(_, one)| one.shape.family == family.plain()).map(|(_, plain)| plain.aic);
        let idle = plain.is_some_and(|plain| aic(&shape, sorted) > plain - WORTH);
        let fitted =
            if idle { Fitted { untested: Some(Untested::NoGain), ..measure(shape, sorted) } } else { judge(shape, sorted, seed, cancel)? };
        if fitted.ad.is_finite() && fitted.aic.is_finite() {
            let standing = match fitted.p {
                _ if sorted.len() < LEAST => Standing::Fits,
                Some(_) if unlikely(fitted.p) => Standing::Refuted,
                Some(_) => Standing::Fits,
                None => Standing::Untested,
            };
            ranked.push((standing, fitted));
        }
    }
    ranked.sort_by(|a, b| a.0.cmp(&b.0).then(a.1.ad.total_cmp(&b.1.ad)));
    Ok(ranked.into_iter().map(|(_, fitted)| fitted).collect())
}
