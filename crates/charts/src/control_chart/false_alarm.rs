//! How often a steady process would cry wolf: average points from a start to the first signal of a set of
//! patterns, on independent normal values with known centre and sd.
//!
//! Beyond-limits alone has the closed form 1 / (2 (1 - Φ(k))). Any other set is simulated, seeded, with
//! the same search that reads the chart: total points / number of signals, the maximum likelihood estimate
//! also when the last run of a stream is cut off. Sixteen million points leave a relative standard error of
//! about √(ARL / 16e6): 0.3 % at 130 points, 0.6 % at 500, 2.5 % at 10,000. Source: Champ and Woodall (1987), Technometrics 29(4), who solve
//! the zone patterns exactly.

use std::collections::HashMap;
use std::sync::{Mutex, OnceLock, PoisonError};

use rand::SeedableRng;
use rand::distr::Distribution;
use rand_distr::StandardNormal;
use rand_xoshiro::Xoshiro256PlusPlus;
use rayon::prelude::*;

use super::patterns::{Pattern, RunRule};
use super::search::{Search, Zones};
use acorn_maths::normal;
use acorn_study::{Cancel, StudyError};

pub const STREAMS: u64 = 64;
const POINTS_A_STREAM: usize = 250_000;
const FIRST_STREAMS: u64 = 4;
const POINTS: usize = STREAMS as usize * POINTS_A_STREAM;
/// Below this many signals the estimate is too rough to quote.
const SIGNALS_NEEDED: usize = 100;

type Key = (Vec<RunRule>, u64);

/// Average points between false alarms of a set; `None` for an empty set or one that hardly ever signals.
/// Each set is worked out once in the life of the program.
///
/// # Errors
/// [`StudyError::Stopped`].
pub fn in_control_arl(run_rules: &[RunRule], width: f64, cancel: &Cancel) -> Result<Option<f64>, StudyError> {
    static KNOWN: OnceLock<Mutex<HashMap<Key, Option<f64>>>> = OnceLock::new();
    match run_rules {
        [] => return Ok(None),
        [RunRule { pattern: Pattern::BeyondLimits, .. }] => return Ok(Some(0.5 / normal::above(width))),
        _ => {}
    }
    let mut set = run_rules.to_vec();
    set.sort_unstable();
    let key = (set, width.to_bits());
    let known = KNOWN.get_or_init(Mutex::default);
    if let Some(found) = known.lock().unwrap_or_else(PoisonError::into_inner).get(&key) {
        return Ok(*found);
    }
    let signals = |streams: std::ops::Range<u64>| {
        streams.into_par_iter().map(|seed| stream(&key.0, width, seed, cancel)).sum::<Result<usize, StudyError>>()
    };
    // A set that is silent over a million points will not come to a hundred signals over sixteen.
    let first = signals(0..FIRST_STREAMS)?;
    let average = if first == 0 { None } else { average(first + signals(FIRST_STREAMS..STREAMS)?, POINTS) };
    known.lock().unwrap_or_else(PoisonError::into_inner).insert(key, average);
    Ok(average)
}

/// Average points to the first signal of a weighted moving average with exact limits, simulated.
///
/// # Errors
/// [`StudyError::Stopped`].
pub fn ewma(lambda: f64, width: f64, cancel: &Cancel) -> Result<Option<f64>, StudyError> {
    remembering(("ewma", lambda.to_bits(), width.to_bits()), cancel, |values| {
        let (mut level, mut variance, mut false_alarms) = (0.0, 0.0, 0);
        for value in values {
            level = lambda * value + (1.0 - lambda) * level;
            variance = lambda * lambda + (1.0 - lambda) * (1.0 - lambda) * variance;
            if level * level > width * width * variance {
                false_alarms += 1;
                (level, variance) = (0.0, 0.0);
            }
        }
        false_alarms
    })
}

/// Average points to the first signal of a two-sided cumulative sum, simulated.
///
/// # Errors
/// [`StudyError::Stopped`].
pub fn cusum(reference: f64, decision: f64, cancel: &Cancel) -> Result<Option<f64>, StudyError> {
    remembering(("cusum", reference.to_bits(), decision.to_bits()), cancel, |values| {
        let (mut up, mut down, mut false_alarms) = (0.0, 0.0, 0);
        for value in values {
            up = f64::max(0.0, up + value - reference);
            down = f64::max(0.0, down - value - reference);
            if up > decision || down > decision {
                false_alarms += 1;
                (up, down) = (0.0, 0.0);
            }
        }
        false_alarms
    })
}

type MemoryKey = (&'static str, u64, u64);

/// The average over seeded streams of a chart with a memory; each is worked out once in the life of the program.
fn remembering(key: MemoryKey, cancel: &Cancel, false_alarms: impl Fn(&[f64]) -> usize + Sync) -> Result<Option<f64>, StudyError> {
    static KNOWN: OnceLock<Mutex<HashMap<MemoryKey, Option<f64>>>> = OnceLock::new();
    let known = KNOWN.get_or_init(Mutex::default);
    if let Some(found) = known.lock().unwrap_or_else(PoisonError::into_inner).get(&key) {
        return Ok(*found);
    }
    let one = |seed| cancel.check().map(|()| false_alarms(&normal_stream(seed)));
    let average = average((0..STREAMS).into_par_iter().map(one).sum::<Result<usize, _>>()?, POINTS);
    known.lock().unwrap_or_else(PoisonError::into_inner).insert(key, average);
    Ok(average)
}

/// Points a signal; `None` for so few signals that it is too rough to quote.
pub(super) fn average(signals: usize, points: usize) -> Option<f64> {
    (signals >= SIGNALS_NEEDED).then(|| points as f64 / signals as f64)
}

/// The random numbers of a stream.
pub(super) fn random(seed: u64) -> Xoshiro256PlusPlus {
    Xoshiro256PlusPlus::seed_from_u64(seed)
}

fn normal_stream(seed: u64) -> Vec<f64> {
    StandardNormal.sample_iter(random(seed)).take(POINTS_A_STREAM).collect()
}

/// Signals in one stream; after each the process starts afresh.
fn stream(run_rules: &[RunRule], width: f64, seed: u64, cancel: &Cancel) -> Result<usize, StudyError> {
    cancel.check()?;
    Ok(Search::of(&normal_stream(seed), Zones::about(0.0, 1.0, width), run_rules).false_alarms(run_rules))
}
