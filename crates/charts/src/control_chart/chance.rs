//! What a steady process shows on the same chart. Values are drawn from one over and over, the chart is made of them with limits of its
//! own each time, and the share of drawn charts that are as odd as the chart is the chance of its signals.
//!
//! Odd is a chart by the number of points in signals, by how far the farthest point lies beyond its limit, by the longest run and trend,
//! by the largest shift between what comes before and after some point, and by the same of its spread panels; of a run chart by the least
//! likely of its tests. Each is ranked among the drawn charts, the
//! smallest share is taken, and that share is ranked again, so that the chance is exact whatever the kind of chart, its patterns, its size
//! and the scatter of its own limits. Measured values are drawn from a normal of their own mean and short-term sd, rounded as they were
//! recorded, counts from their binomial or Poisson, times and pieces between events from their own law.
//!
//! A second chance leaves everything but the order to the values: they are shuffled within each phase. What is odd of the first kind and
//! not of the second lies in the shape of the values, or in single ones of them, and not in the order.
//!
//! Sources: Barnard (1963), J. Royal Statistical Society B 25 (the test); Dwass (1957), Annals of Mathematical Statistics 28 (shuffled);
//! Westfall and Young (1993), Resampling-Based Multiple Testing, ch. 2 (the smallest of several shares).

use std::ops::Range;
use std::sync::Arc;

use rand::RngExt;
use rand::distr::{Distribution, StandardUniform};
use rand::seq::SliceRandom;
use rand_distr::StandardNormal;
use rand_xoshiro::Xoshiro256PlusPlus;
use rayon::prelude::*;

use super::build::{build, search_panels};
use super::counts::Counts;
use super::false_alarm::random;
use super::individuals;
use super::kind::ChartKind;
use super::panel::{Panel, PhaseNumbers};
use super::params::{LimitSource, Params};
use super::parts::{Chance, Diagnostics, POINTS_MOST, Runs};
use super::patterns::Pattern;
use super::points::Points;
use acorn_data::frame::Missing;
use acorn_maths::describe::{Moments, decimals, moments};
use acorn_maths::judgement::{BEYOND_CHANCE, UNLIKELY};
use acorn_study::{Cancel, StudyError};

/// Charts drawn at most, and at least where points are many.
const CHARTS: [usize; 2] = [399, 99];
/// Of charts that are judged among many so many drawn ones are to be as odd at the level, where a chart comes so many times near to it;
/// more than the last number are never drawn.
const TELLING: f64 = 12.0;
const NEAR: f64 = 5.0;
const CHARTS_MOST: usize = 4000;
/// The first seed of shuffled charts.
const SHUFFLED: u64 = 1 << 32;
/// Values drawn for all of them together.
const VALUES: usize = 400_000;
/// Ways to be odd: larger is odder.
type Oddness = [f64; 8];

/// Weighs the signals of a chart; `None` where there is none, or where points are too many to draw.
///
/// # Errors
/// [`StudyError::Stopped`].
pub fn weigh(
    params: &Params,
    points: &Points,
    raw: &[Arc<[f64]>],
    panels: &[Panel],
    diagnostics: &Diagnostics,
    sigma: Option<f64>,
    cancel: &Cancel,
) -> Result<Option<Chance>, StudyError> {
    let own = oddness(panels, diagnostics.runs.as_ref());
    let is_quiet = panels.iter().all(|panel| panel.signals.is_empty());
    let odd_runs = own[6] > -(UNLIKELY.ln());
    if (is_quiet && !odd_runs) || points.len() > POINTS_MOST || panels[0].present < 2 {
        return Ok(None);
    }
    let Some(steady) = Steady::of(params, points, raw, diagnostics, sigma)? else { return Ok(None) };
    let values = panels[0].present * raw.len().max(1) * if points.gathered() { raw_per_point(raw, points) } else { 1 };
    let charts = (VALUES / values.max(1)).clamp(CHARTS[1], CHARTS[0]);
    type Draw<'d> = &'d (dyn Fn(&mut Xoshiro256PlusPlus) -> Drawn + Sync);
    let drawn = |draw: Draw<'_>, seeds: Range<u64>| -> Result<Vec<(Oddness, usize)>, StudyError> {
        let one = |seed: u64| {
            cancel.check()?;
            let drawn = draw(&mut random(seed));
            let (panels, runs) = drawn.chart(params, points, cancel)?;
            Ok((oddness(&panels, runs.as_ref()), panels.iter().map(|panel| panel.signals.len()).sum()))
        };
        seeds.into_par_iter().map(one).collect()
    };
    let steady = |random: &mut Xoshiro256PlusPlus| steady.draw(random);
    let mut steady_charts = drawn(&steady, 0..charts as u64)?;
    let mut p = as_odd(&own, &steady_charts);
    // A chart among many is judged at so small a level that more drawn ones are needed to tell.
    let wanted = BEYOND_CHANCE / params.among.max(1) as f64;
    let enough = (TELLING / wanted).ceil() as usize;
    if params.among > 1 && p < NEAR * wanted && charts == CHARTS[0] && charts < enough {
        steady_charts.extend(drawn(&steady, charts as u64..enough.min(CHARTS_MOST) as u64)?);
        p = as_odd(&own, &steady_charts);
    }
    let expected = steady_charts.iter().map(|(_, signals)| *signals as f64).sum::<f64>() / steady_charts.len() as f64;
    // Not below what so many drawn charts can tell.
    let level = wanted.max(1.5 / (steady_charts.len() as f64 + 1.0)).min(BEYOND_CHANCE);
    let is_measured = !params.kind.counts() && !matches!(params.kind, ChartKind::Deviation | ChartKind::G | ChartKind::T);
    let p_order = if is_measured && p < level {
        Some(as_odd(&own, &drawn(&|random| Drawn::Values(shuffled(points, raw, random)), SHUFFLED..SHUFFLED + charts as u64)?))
    } else {
        None
    };
    Ok(Some(Chance { expected, p, level, p_order }))
}

fn raw_per_point(raw: &[Arc<[f64]>], points: &Points) -> usize {
    raw.first().map_or(1, |column| (column.len() / points.len().max(1)).max(1))
}

/// The chance of a chart as odd as one, from drawn ones: the share whose own smallest share is as small. Of those that stand first in some
/// way the one that stands farther before the others, in sds, is odder: few drawn charts would not tell them apart otherwise.
fn as_odd(own: &Oddness, drawn: &[(Oddness, usize)]) -> f64 {
    // Each way sorted, so that a share is found by halving.
    let ways: Vec<(Vec<f64>, Moments)> = (0..own.len())
        .map(|way| {
            let mut sorted: Vec<f64> = drawn.iter().map(|(oddness, _)| oddness[way]).chain([own[way]]).collect();
            sorted.sort_unstable_by(f64::total_cmp);
            let of = moments(&sorted);
            (sorted, of)
        })
        .collect();
    let oddest = |oddness: &Oddness| {
        let place = |((sorted, of), value): (&(Vec<f64>, Moments), &f64)| {
            let share = sorted.len() - sorted.partition_point(|other| other < value);
            let sds = of.mean.zip(of.sd.filter(|sd| *sd > 0.0)).map_or(0.0, |(mean, sd)| (value - mean) / sd);
            (share, -sds)
        };
        let first = |a: &(usize, f64), b: &(usize, f64)| a.0.cmp(&b.0).then(a.1.total_cmp(&b.1));
        ways.iter().zip(oddness).map(place).min_by(first).unwrap_or((usize::MAX, 0.0))
    };
    let seen = oddest(own);
    let as_small = drawn.iter().map(|(oddness, _)| oddest(oddness)).filter(|one| *one <= seen).count();
    (as_small + 1) as f64 / (drawn.len() + 1) as f64
}

/// In which ways a chart is odd.
fn oddness(panels: &[Panel], runs: Option<&Runs>) -> Oddness {
    let location = &panels[0];
    let points_in = |panel: &Panel| panel.signals.iter().map(|signal| signal.last - signal.first + 1).sum::<usize>() as f64;
    let longest = |pattern: Pattern| {
        let of = location.signals.iter().filter(|signal| signal.pattern == pattern);
        of.map(|signal| signal.last - signal.first + 1).max().unwrap_or(0) as f64
    };
    let spread = &panels[1..];
    let least = runs.map_or(1.0, |runs| {
        let all = [runs.about_median.p_clustering, runs.about_median.p_mixtures, runs.up_down.p_trends, runs.up_down.p_oscillation];
        all.into_iter().flatten().fold(1.0, f64::min)
    });
    [
        points_in(location),
        farthest(location),
        longest(Pattern::RunOneSide),
        longest(Pattern::Trend),
        spread.iter().map(points_in).sum(),
        spread.iter().map(farthest).fold(0.0, f64::max),
        -least.max(f64::MIN_POSITIVE).ln(),
        shift(location),
    ]
}

/// The largest difference of the mean before and after a point of a phase, in standard errors of the distance of the limits: how much one
/// shift at the likeliest place explains.
fn shift(panel: &Panel) -> f64 {
    let of_phase = |(place, phase): (usize, &PhaseNumbers)| {
        let off = |point: usize| {
            let lines = panel.lines(place, point);
            (panel.values[point] - lines.center) / ((lines.ucl - lines.lcl) / 2.0)
        };
        let scaled: Vec<f64> = (phase.first..=phase.last).map(off).filter(|value| value.is_finite()).collect();
        let (n, all) = (scaled.len() as f64, scaled.iter().sum::<f64>());
        let mut before = 0.0;
        let gap = |(place, value): (usize, &f64)| {
            before += value;
            let first = (place + 1) as f64;
            if first == n { 0.0 } else { (before - all * first / n).abs() / (first * (n - first) / n).sqrt() }
        };
        scaled.iter().enumerate().map(gap).fold(0.0, f64::max)
    };
    panel.phases.iter().enumerate().map(of_phase).fold(0.0, f64::max)
}

/// How far the farthest point lies from the centre, in distances of its limit on that side; 0 when nothing is known.
fn farthest(panel: &Panel) -> f64 {
    let far = |place: usize, point: usize| {
        let (lines, value) = (panel.lines(place, point), panel.values[point]);
        let [off, room] = if value >= lines.center {
            [value - lines.center, lines.ucl - lines.center]
        } else {
            [lines.center - value, lines.center - lines.lcl]
        };
        if room > 0.0 { off / room } else { 0.0 }
    };
    let all = panel.phases.iter().enumerate().flat_map(|(place, phase)| (phase.first..=phase.last).map(move |point| far(place, point)));
    all.filter(|far| far.is_finite()).fold(0.0, f64::max)
}

/// What was drawn for a chart.
enum Drawn {
    /// Columns by row.
    Values(Vec<Arc<[f64]>>),
    /// One count a point.
    Counts(Arc<[f64]>),
    /// One share or rate a point.
    Ratios(Arc<[f64]>),
}

impl Drawn {
    fn chart(self, params: &Params, points: &Points, cancel: &Cancel) -> Result<(Vec<Panel>, Option<Runs>), StudyError> {
        let mut parts = match self {
            Drawn::Values(raw) => build(params, points, &raw)?,
            Drawn::Counts(counts) => build(&Params { counted: Some(counts), ..params.clone() }, points, &[])?,
            Drawn::Ratios(ratios) => individuals::build(params, points, &ratios)?,
        };
        let panels = search_panels(params, points, &mut parts, cancel)?;
        Ok((panels, parts.diagnostics.runs))
    }
}

/// A steady process like that of a chart.
enum Steady {
    /// Columns by row, each value from a normal of its own mean and sd, with so many decimals.
    Normal { mean: Vec<Arc<[f64]>>, sd: Arc<[f64]>, decimals: u8 },
    /// One share or rate a point, of counts whose shares or rates differ between points by an sd of their own.
    Ratios { counts: Counts, center: f64, between: f64 },
    /// Counts of bad pieces or blemishes.
    Counts { counts: Counts, centers: Vec<f64>, widening: f64 },
    /// Pieces between events of a mean, by row.
    Geometric { mean: f64, there: Arc<[f64]> },
    /// Times between events, of a Weibull shape and scale, by row.
    Weibull { shape: f64, scale: f64, there: Arc<[f64]> },
}

impl Steady {
    fn of(
        params: &Params,
        points: &Points,
        raw: &[Arc<[f64]>],
        diagnostics: &Diagnostics,
        sigma: Option<f64>,
    ) -> Result<Option<Steady>, StudyError> {
        Ok(match params.kind {
            ChartKind::G => diagnostics.mean_between.map(|mean| Steady::Geometric { mean, there: raw[0].clone() }),
            ChartKind::T => diagnostics.shape.map(|(shape, scale)| Steady::Weibull { shape, scale, there: raw[0].clone() }),
            ChartKind::Ratio => {
                let counts = Counts::read(params, points)?;
                let of = moments(&counts.ratios());
                let Some((center, sd)) = of.mean.zip(of.sd) else { return Ok(None) };
                // What counting explains is drawn with the counts.
                let between = (sd * sd - counts.ratio_variance(center)).max(0.0).sqrt();
                Some(Steady::Ratios { counts, center, between })
            }
            kind if kind.counts() => {
                let counts = Counts::read(params, points)?;
                let centers = counts.centers(params, points)?;
                Some(Steady::Counts { counts, centers, widening: diagnostics.sigma_z.unwrap_or(1.0) })
            }
            _ => Steady::normal(params, raw, sigma)?,
        })
    }

    /// Of measured values: one mean and sd, or those of each part where parts are charted as deviations.
    fn normal(params: &Params, raw: &[Arc<[f64]>], sigma: Option<f64>) -> Result<Option<Steady>, StudyError> {
        let rows = raw.first().map_or(0, |column| column.len());
        let own: Vec<f64> = raw.iter().flat_map(|column| column.iter().copied()).collect();
        let of = moments(&own);
        let (mut center, mut spread) = match (&params.limits, of.mean, sigma.or(of.sd)) {
            (LimitSource::Known { center, .. }, _, Some(sd)) => (vec![*center; rows], vec![sd; rows]),
            (_, Some(mean), Some(sd)) => (vec![mean; rows], vec![sd; rows]),
            _ => return Ok(None),
        };
        if params.kind == ChartKind::Deviation {
            let parts = params.frame.groups(params.part.as_slice(), None, Missing::Apart, usize::MAX)?;
            for place in 0..parts.len() {
                let rows = parts.rows(place);
                let own: Vec<f64> = rows.iter().flat_map(|&row| raw.iter().map(move |column| column[row])).collect();
                let of = moments(&own);
                for &row in rows {
                    center[row] = of.mean.unwrap_or(f64::NAN);
                    spread[row] = of.sd.filter(|sd| *sd > 0.0).unwrap_or(1.0);
                }
            }
        }
        let there =
            |column: &Arc<[f64]>| column.iter().zip(&center).map(|(value, mean)| if value.is_nan() { f64::NAN } else { *mean }).collect();
        let decimals = raw.iter().map(|column| decimals(column)).max().unwrap_or(6);
        Ok(Some(Steady::Normal { mean: raw.iter().map(there).collect(), sd: spread.into(), decimals }))
    }

    fn draw(&self, random: &mut Xoshiro256PlusPlus) -> Drawn {
        match self {
            Steady::Normal { mean, sd, decimals } => {
                let scale = 10f64.powi((*decimals).into());
                let recorded = |value: f64| if *decimals < 6 { (value * scale).round() / scale } else { value };
                let mut column = |mean: &Arc<[f64]>| {
                    let value = |(mean, sd): (&f64, &f64)| {
                        if mean.is_nan() { f64::NAN } else { recorded(mean + sd * Distribution::<f64>::sample(&StandardNormal, random)) }
                    };
                    mean.iter().zip(sd.iter()).map(value).collect()
                };
                Drawn::Values(mean.iter().map(&mut column).collect())
            }
            Steady::Ratios { counts, center, between } => {
                let own: Vec<f64> = (0..counts.points())
                    .map(|_| (center + between * Distribution::<f64>::sample(&StandardNormal, random)).max(0.0))
                    .collect();
                Drawn::Ratios(counts.ratios_of(&counts.drawn(&own, 1.0, random)))
            }
            Steady::Counts { counts, centers, widening } => Drawn::Counts(counts.drawn(centers, *widening, random)),
            Steady::Geometric { mean, there } => {
                let stay = mean / (1.0 + mean);
                let value = |there: &f64| {
                    let share = uniform(random);
                    if there.is_nan() || stay == 0.0 { there * 0.0 } else { (share.ln() / stay.ln()).floor() }
                };
                Drawn::Values(vec![there.iter().map(value).collect()])
            }
            Steady::Weibull { shape, scale, there } => {
                let value = |there: &f64| if there.is_nan() { f64::NAN } else { scale * (-uniform(random).ln()).powf(1.0 / shape) };
                Drawn::Values(vec![there.iter().map(value).collect()])
            }
        }
    }
}

/// A share above 0 and below 1.
fn uniform(random: &mut Xoshiro256PlusPlus) -> f64 {
    let share: f64 = random.sample(StandardUniform);
    share.max(f64::EPSILON / 4.0)
}

/// The values in any order within each phase, missing ones in their places.
fn shuffled(points: &Points, raw: &[Arc<[f64]>], random: &mut Xoshiro256PlusPlus) -> Vec<Arc<[f64]>> {
    let mut columns: Vec<Vec<f64>> = raw.iter().map(|column| column.to_vec()).collect();
    for phase in &points.phases {
        let rows = phase.points.clone().flat_map(|point| points.rows(point).into_owned());
        let places: Vec<(usize, usize)> = rows
            .flat_map(|row| (0..raw.len()).map(move |column| (column, row)))
            .filter(|&(column, row)| !raw[column][row].is_nan())
            .collect();
        let mut values: Vec<f64> = places.iter().map(|&(column, row)| raw[column][row]).collect();
        values.shuffle(random);
        for ((column, row), value) in places.into_iter().zip(values) {
            columns[column][row] = value;
        }
    }
    columns.into_iter().map(Into::into).collect()
}
