//! Samples: their means, ranges and sds, and the charts of them.
//!
//! Means about the mean of all values, limits ± k σ/√nᵢ; ranges about d2 σ, (d2 ± k d3) σ; sds about c4 σ,
//! c4 σ ± k σ √(1 - c4²); the last two floored at 0. Between and within: means as single values with the
//! moving range of neighbouring means, ranges or sds beneath. Sources: Burr (1969); Montgomery (2013), sec. 6.2
//! and 6.3; ISO 7870-2:2023; Wheeler (1995), Advanced Topics in SPC, ch. 6 (between and within).

use std::ops::Range;
use std::sync::Arc;

use super::kind::ChartKind;
use super::panel::{Lines, PanelSpec, PhaseLimits};
use super::params::{LimitSource, Params, SigmaFrom};
use super::parts::ChartParts;
use super::plotted::Plotted;
use super::points::Points;
use super::process::{Process, bases, moving_ranges, of_values};
use acorn_maths::bias::{c4, range_constants};
use acorn_maths::describe::moments;
use acorn_study::StudyError;
use acorn_study::reading::numbers;

/// One sample a point.
pub struct Samples {
    /// Values in each.
    pub n: Vec<f64>,
    /// Means; NaN without values.
    pub mean: Arc<[f64]>,
    /// Ranges; NaN below two values.
    pub range: Vec<f64>,
    /// Sds; NaN below two values.
    pub sd: Vec<f64>,
    /// Whether it is not left out of the limits.
    pub used: Vec<bool>,
}

impl Samples {
    /// Gathers the values of each point.
    pub fn of(points: &Points, columns: &[Arc<[f64]>]) -> Samples {
        let len = points.len();
        let (mut n, mut mean, mut range, mut sd) =
            (Vec::with_capacity(len), Vec::with_capacity(len), Vec::with_capacity(len), Vec::with_capacity(len));
        let mut values = Vec::new();
        for point in 0..len {
            values.clear();
            for &row in points.rows(point).iter() {
                values.extend(columns.iter().map(|column| column[row]).filter(|value| !value.is_nan()));
            }
            let one = sample(&values);
            n.push(values.len() as f64);
            mean.push(one.0);
            range.push(one.1);
            sd.push(one.2);
        }
        let used = (0..len).map(|point| !points.is_omitted(point)).collect();
        Samples { n, mean: mean.into(), range, sd, used }
    }

    /// The process that judges each phase.
    ///
    /// # Errors
    /// [`StudyError::OutOfRange`] for a baseline beyond the last sample.
    pub fn processes(&self, params: &Params, points: &Points, sigma_from: SigmaFrom) -> Result<Vec<Process>, StudyError> {
        if let LimitSource::Known { center, sigma, .. } = params.limits {
            return Ok(vec![Process::known(center, sigma, points.len()); points.phases.len()]);
        }
        Ok(bases(params, points)?.into_iter().map(|basis| of_samples(self, basis, sigma_from)).collect())
    }
}

/// Mean, range and sd of a few values, two passes.
fn sample(values: &[f64]) -> (f64, f64, f64) {
    let n = values.len() as f64;
    let Some(&first) = values.first() else { return (f64::NAN, f64::NAN, f64::NAN) };
    let mean = first + values.iter().map(|value| value - first).sum::<f64>() / n;
    if values.len() < 2 {
        return (mean, f64::NAN, f64::NAN);
    }
    let (low, high) = values.iter().fold((first, first), |(low, high), &value| (low.min(value), high.max(value)));
    let squares: f64 = values.iter().map(|value| (value - mean) * (value - mean)).sum();
    (mean, high - low, (squares / (n - 1.0)).sqrt())
}

/// Means with ranges or sds, or between and within.
///
/// # Errors
/// [`StudyError`] when nothing is left to chart or the baseline lies outside.
pub fn build(params: &Params, points: &Points, columns: &[Arc<[f64]>]) -> Result<ChartParts, StudyError> {
    let samples = Samples::of(points, columns);
    let processes = samples.processes(params, points, params.sigma_from)?;
    let spread_by_range = match params.kind {
        ChartKind::XbarS => false,
        ChartKind::XbarBetween => params.sigma_from == SigmaFrom::Range,
        _ => true,
    };
    if params.kind == ChartKind::XbarBetween {
        let (mut panels, of_means) = between(params, points, &samples)?;
        panels.push(spread(params, points, &samples, &processes, spread_by_range));
        // How far the limits may move is a matter of the moving ranges that they rest on, not of the values within.
        let df = ChartParts::new(Vec::new(), &of_means).limits_df;
        return Ok(ChartParts { limits_df: df, ..ChartParts::new(panels, &processes) });
    }
    let [low, high] = params.bounds;
    let mean =
        |i: usize, process: &Process| Lines::about(process.center, process.sigma / samples.n[i].sqrt(), params.width).within(low, high);
    let panels = vec![
        PanelSpec::new(Plotted::Mean, samples.mean.clone(), phase_limits(points, &processes, &samples, &mean)),
        spread(params, points, &samples, &processes, spread_by_range),
    ];
    Ok(ChartParts::new(panels, &processes))
}

fn phase_limits(points: &Points, processes: &[Process], samples: &Samples, lines: &dyn Fn(usize, &Process) -> Lines) -> Vec<PhaseLimits> {
    let judged = points.phases.iter().zip(processes);
    // Samples without a value are passed over, so that they do not make the limits step.
    let usual = |phase: &super::points::Phase| phase.points.clone().find(|&i| samples.n[i] > 0.0);
    judged
        .map(|(phase, process)| {
            let stand_in = usual(phase);
            let at = |i: usize| if samples.n[i] > 0.0 { i } else { stand_in.unwrap_or(i) };
            PhaseLimits::of(phase.points.clone().map(|i| lines(at(i), process)).collect())
        })
        .collect()
}

fn spread(params: &Params, points: &Points, samples: &Samples, processes: &[Process], by_range: bool) -> PanelSpec {
    let lines = |i: usize, process: &Process| {
        let n = samples.n[i];
        let (center, sd) = if by_range {
            range_constants(n as usize).map_or((f64::NAN, f64::NAN), |range| (range.d2, range.d3))
        } else {
            c4(n).map_or((f64::NAN, f64::NAN), |c4| (c4, (1.0 - c4 * c4).sqrt()))
        };
        Lines::about(center * process.sigma, sd * process.sigma, params.width).within(0.0, f64::INFINITY)
    };
    let (plotted, values) = if by_range { (Plotted::Range, &samples.range) } else { (Plotted::Sd, &samples.sd) };
    PanelSpec::new(plotted, values.as_slice(), phase_limits(points, processes, samples, &lines))
}

/// Means judged as single values, and the moving range of the means, with the processes behind both.
fn between(params: &Params, points: &Points, samples: &Samples) -> Result<(Vec<PanelSpec>, Vec<Process>), StudyError> {
    let used: Vec<f64> = samples.mean.iter().zip(&samples.used).map(|(&mean, &used)| if used { mean } else { f64::NAN }).collect();
    let mut ranges = vec![f64::NAN; used.len()];
    for phase in &points.phases {
        moving_ranges(&used[phase.points.clone()], 2, &mut ranges[phase.points.clone()]);
    }
    let two = range_constants(2).expect("two values have a range");
    let single = |basis: std::ops::Range<usize>| {
        let inside = (basis.start + 1).min(basis.end)..basis.end;
        let ranges = &ranges[inside];
        let process = of_values(&moments(&used[basis.clone()]), &moments(ranges), ranges, SigmaFrom::MrMean, 2);
        // The centre of a mean chart is the mean of all values, whatever the sizes.
        Process { center: of_samples(samples, basis, SigmaFrom::Pooled).center, ..process }
    };
    let processes: Vec<Process> = bases(params, points)?.into_iter().map(single).collect();
    let center = |process: &Process| match params.limits {
        LimitSource::Known { center, .. } => center,
        _ => process.center,
    };
    let [low, high] = params.bounds;
    let means = |p: &Process| PhaseLimits::even(Lines::about(center(p), p.sigma, params.width).within(low, high));
    let steps = |p: &Process| {
        let lines = Lines::about(two.d2 * p.sigma, two.d3 * p.sigma, params.width);
        PhaseLimits::even(lines.within(0.0, f64::INFINITY))
    };
    let panels = vec![
        PanelSpec::new(Plotted::Mean, samples.mean.clone(), processes.iter().map(means).collect()),
        PanelSpec::new(Plotted::MovingRange, ranges, processes.iter().map(steps).collect()),
    ];
    Ok((panels, processes))
}

/// The values of the charted columns.
pub fn columns(params: &Params) -> Vec<Arc<[f64]>> {
    params.columns.iter().map(|column| numbers(column, "measurement").expect("charted columns hold numbers").clone()).collect()
}

/// From samples: the mean of all values, and the sd by one of three ways.
///
/// - range: Σ fᵢ Rᵢ / d2(nᵢ) / Σ fᵢ with fᵢ = d2² / d3² (Burr 1969, J. Quality Technology 1)
/// - sd: Σ fᵢ sᵢ / c4(nᵢ) / Σ fᵢ with fᵢ = c4² / (1 - c4²)
/// - pooled: √(Σ (nᵢ - 1) sᵢ² / Σ (nᵢ - 1)) / c4(1 + Σ (nᵢ - 1))
pub fn of_samples(samples: &Samples, stretch: Range<usize>, sigma_from: SigmaFrom) -> Process {
    let used = || stretch.clone().filter(|&i| samples.used[i] && samples.n[i] > 0.0);
    let pivot = used().next().map_or(0.0, |i| samples.mean[i]);
    let (mut total, mut off, mut points) = (0.0, 0.0, 0);
    for i in used() {
        total += samples.n[i];
        off += samples.n[i] * (samples.mean[i] - pivot);
        points += 1;
    }
    let center = if points == 0 { f64::NAN } else { pivot + off / total };
    let several = || used().filter(|&i| samples.n[i] > 1.0);
    let weighted = |of: &dyn Fn(usize) -> (f64, f64)| {
        let (mut weights, mut sum) = (0.0, 0.0);
        for i in several() {
            let (weight, estimate) = of(i);
            weights += weight;
            sum += weight * estimate;
        }
        // Var(s)/σ² = 1/(2 df) roughly, which gives the degrees of freedom of a weighted estimate.
        (sum / weights, 0.5 * weights)
    };
    let (sigma, df) = match sigma_from {
        SigmaFrom::Pooled => {
            let (mut df, mut squares) = (0.0, 0.0);
            for i in several() {
                df += samples.n[i] - 1.0;
                squares += (samples.n[i] - 1.0) * samples.sd[i] * samples.sd[i];
            }
            (c4(1.0 + df).map_or(f64::NAN, |c4| (squares / df).sqrt() / c4), df)
        }
        SigmaFrom::Sd => weighted(&|i| {
            let c4 = c4(samples.n[i]).unwrap_or(f64::NAN);
            (c4 * c4 / (1.0 - c4 * c4), samples.sd[i] / c4)
        }),
        _ => weighted(&|i| {
            let constants = range_constants(samples.n[i] as usize).expect("samples of one value are passed over");
            let d2 = constants.d2;
            (d2 * d2 / (constants.d3 * constants.d3), samples.range[i] / d2)
        }),
    };
    Process { center, sigma, n: points, df }
}
