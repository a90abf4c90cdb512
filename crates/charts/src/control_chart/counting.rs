//! What chance brings to a chart of counts. Counts are whole and lopsided, so that a normal would tell their false alarms, and how
//! far out a count lies, wrongly: about twice too rarely where a defective or two are expected.
//!
//! The law follows from the lines of a point: of p, sd² = p(1 - p)/n; of u, sd² = u/n; pieces between events are geometric.
//! Beyond-limits alone is summed over the counts. Any other set of patterns is simulated, seeded, with the search that reads
//! the chart: a million points, a relative standard error of about √(ARL/1e6). Counts with a variance above 10,000 are as good as
//! normal. Source: Montgomery (2013), sec. 7.2 and 7.3.

use std::collections::HashMap;
use std::sync::{Mutex, OnceLock, PoisonError};

use rand::distr::{Distribution, Uniform};
use rayon::prelude::*;

use super::false_alarm::{self, STREAMS};
use super::kind::ChartKind;
use super::panel::Lines;
use super::patterns::{Pattern, RunRule};
use super::search::{Search, Zones};
use acorn_maths::distributions::{Binomial, Law, Poisson};
use acorn_study::{Cancel, StudyError};

const POINTS_A_STREAM: usize = 16_384;
/// Counts that vary more are as good as normal.
const WIDEST: f64 = 1e4;
/// Shares below this are drawn by nobody.
const NOTHING: f64 = 1e-15;
/// Sets that are remembered.
const REMEMBERED: usize = 1000;

/// The law of the counts of one point.
#[derive(Clone, Copy, Debug)]
enum Of {
    Binomial(Binomial),
    Poisson(Poisson),
    Geometric { mean: f64 },
}

/// The counts that chance brings to a point, with what judges them.
#[derive(Clone, Copy, Debug)]
pub struct Counting {
    of: Of,
    /// What one count is on the scale that is plotted.
    unit: f64,
    zones: [f64; 7],
}

impl Counting {
    /// From the lines of a point of a chart of counts; `None` for another kind, without a spread, and for counts as good as normal.
    pub fn of(kind: ChartKind, lines: Lines, width: f64) -> Option<Counting> {
        let Lines { center, sd, .. } = lines;
        let variance = sd * sd;
        let pieces = |n: f64, p: f64| Of::Binomial(Binomial { n: n.round(), p });
        let (of, unit) = match kind {
            ChartKind::P => (pieces(center * (1.0 - center) / variance, center), variance / (center * (1.0 - center))),
            ChartKind::Np => (pieces(center / (1.0 - variance / center), 1.0 - variance / center), 1.0),
            ChartKind::C => (Of::Poisson(Poisson { mean: center }), 1.0),
            ChartKind::U => (Of::Poisson(Poisson { mean: center * center / variance }), variance / center),
            _ => return None,
        };
        let found = Counting { of, unit, zones: [-width, -2.0, -1.0, 0.0, 1.0, 2.0, width].map(|z| center + z * sd) };
        (variance > 0.0 && variance / (unit * unit) <= WIDEST && found.is_known()).then_some(found)
    }

    /// Of pieces between events, which are judged by quantiles.
    pub fn of_pieces_between(mean: f64, zones: [f64; 7]) -> Option<Counting> {
        let found = Counting { of: Of::Geometric { mean }, unit: 1.0, zones };
        (mean > 0.0 && mean * (mean + 1.0) <= WIDEST && found.is_known()).then_some(found)
    }

    fn is_known(&self) -> bool {
        let of = match self.of {
            Of::Binomial(Binomial { n, p }) => n >= 1.0 && n.is_finite() && p > 0.0 && p < 1.0,
            Of::Poisson(Poisson { mean }) | Of::Geometric { mean } => mean > 0.0 && mean.is_finite(),
        };
        of && self.unit > 0.0 && self.unit.is_finite() && self.zones.iter().all(|zone| !zone.is_nan())
    }

    fn at_most(&self, count: f64) -> f64 {
        match self.of {
            Of::Binomial(law) => law.at_most(count),
            Of::Poisson(law) => law.at_most(count),
            Of::Geometric { mean } => -((mean.ln() - mean.ln_1p()) * (count + 1.0)).exp_m1(),
        }
    }

    fn at_least(&self, count: f64) -> f64 {
        match self.of {
            Of::Binomial(law) => law.at_least(count),
            Of::Poisson(law) => law.at_least(count),
            Of::Geometric { mean } => ((mean.ln() - mean.ln_1p()) * count).exp(),
        }
    }

    /// The chance of a plotted value as far out on its own side.
    pub fn as_far(&self, plotted: f64) -> f64 {
        let count = (plotted / self.unit).round();
        if plotted > self.zones[3] { self.at_least(count) } else { self.at_most(count) }.min(1.0)
    }

    /// The chances of a point above and of one below the centre.
    pub fn sides(&self) -> [f64; 2] {
        let table = self.table();
        let share = |side: &dyn Fn(f64) -> bool| table.iter().filter(|(plotted, _)| side(*plotted)).map(|(_, chance)| chance).sum();
        [share(&|plotted| plotted > self.zones[3]), share(&|plotted| plotted < self.zones[3])]
    }

    /// Every count that is ever drawn, as it is plotted, with its chance.
    fn table(&self) -> Vec<(f64, f64)> {
        let mut table = Vec::new();
        let mut count = 0.0;
        let mut left = self.at_least(0.0);
        while left > NOTHING {
            let next = self.at_least(count + 1.0);
            table.push((count * self.unit, left - next));
            (left, count) = (next, count + 1.0);
        }
        table
    }

    /// Average points between false alarms of a set of patterns; `None` when they are too rare to tell.
    ///
    /// # Errors
    /// [`StudyError::Stopped`].
    pub fn points_between(&self, run_rules: &[RunRule], cancel: &Cancel) -> Result<Option<f64>, StudyError> {
        type Key = (Vec<RunRule>, [u64; 8]);
        static KNOWN: OnceLock<Mutex<HashMap<Key, Option<f64>>>> = OnceLock::new();
        let table = self.table();
        if let [RunRule { pattern: Pattern::BeyondLimits, .. }] = run_rules {
            let beyond = |(plotted, _): &&(f64, f64)| *plotted < self.zones[0] || *plotted > self.zones[6];
            let share: f64 = table.iter().filter(beyond).map(|(_, chance)| chance).sum();
            return Ok((share > 0.0).then(|| 1.0 / share));
        }
        let mut set = run_rules.to_vec();
        set.sort_unstable();
        let [a, b, c, d, e, f, g] = self.zones.map(f64::to_bits);
        let key = (set, [a, b, c, d, e, f, g, self.unit.to_bits()]);
        let known = KNOWN.get_or_init(Mutex::default);
        if let Some(found) = known.lock().unwrap_or_else(PoisonError::into_inner).get(&key) {
            return Ok(*found);
        }
        let up_to: Vec<f64> = table.iter().scan(0.0, |sum, (_, chance)| Some(std::mem::replace(sum, *sum + chance) + chance)).collect();
        let even = Uniform::new(0.0, 1.0).expect("0 lies below 1");
        let stream = |seed: u64| {
            cancel.check()?;
            let place = |share: f64| up_to.partition_point(|up_to| *up_to <= share).min(table.len() - 1);
            let values: Vec<f64> =
                even.sample_iter(false_alarm::random(seed)).take(POINTS_A_STREAM).map(|share| table[place(share)].0).collect();
            Ok(Search::of(&values, Zones::Even(self.zones), run_rules).false_alarms(run_rules))
        };
        let signals = (0..STREAMS).into_par_iter().map(stream).sum::<Result<usize, StudyError>>()?;
        let average = false_alarm::average(signals, STREAMS as usize * POINTS_A_STREAM);
        let mut known = known.lock().unwrap_or_else(PoisonError::into_inner);
        if known.len() >= REMEMBERED {
            known.clear();
        }
        known.insert(key, average);
        Ok(average)
    }
}
