//! What moves the values in their order: wear, batches, cycles, likeness of neighbours.

use std::f64::consts::TAU;
use std::ops::Range;

use super::Explanation;
use super::segments::residuals;
use super::series::Series;
use super::streams::means;
use crate::control_chart::answer::Chart;
use crate::control_chart::kind::ChartKind;
use acorn_data::frame::Frame;
use acorn_maths::describe::{lag_one_correlation, moments};
use acorn_maths::judgement::{VERY_UNLIKELY, unlikely_among};
use acorn_maths::one_way::OneWay;
use acorn_study::labelled::Labelled;

/// Wear makes up at least this share of the variation, and so much more than one straight line does.
const WEAR_SHARE: [f64; 2] = [0.25, 0.1];
/// Stretches between changes hold at least so many values on average, and there are at least so many of them.
const WEAR_LEAST: [usize; 2] = [5, 3];
/// Batches differ by at least so many sds of what is within them.
const BATCHES_DIFFER: f64 = 1.5;
/// Fewer batches show no difference from a shift.
const BATCHES_LEAST: usize = 8;
/// A cycle makes up at least this share of the variation, and is seen so many times.
const CYCLE: (f64, usize) = (0.5, 5);
/// Of more points no cycle is looked for.
const CYCLE_POINTS: usize = 4000;
/// Neighbours are alike from this correlation on.
const ALIKE: f64 = 0.3;

pub fn of(chart: &Chart, series: &Series, frame: &Frame) -> Option<Explanation> {
    let labelled = series.labelled(chart, frame);
    let plotted = if chart.sampled() { means(chart) } else { series.values.clone() };
    wear(series, &labelled).or_else(|| batches(chart, series, &labelled)).or_else(|| cycle(&plotted)).or_else(|| alike(&plotted))
}

/// A common slope within the stretches of a label, which starts anew with each: y = a + b (place in the stretch).
pub fn wear(series: &Series, labelled: &[Labelled]) -> Option<Explanation> {
    let one = |one: &Labelled| {
        let stretches = one.stretches()?;
        if stretches.len() < WEAR_LEAST[1] || series.values.len() < WEAR_LEAST[0] * stretches.len() {
            return None;
        }
        let places: Vec<f64> = stretches.iter().flat_map(|stretch| (0..stretch.len()).map(|place| place as f64)).collect();
        let (slope, share) = line(&places, &series.values)?;
        let (_, straight) = line(&(0..places.len()).map(|place| place as f64).collect::<Vec<_>>(), &series.values)?;
        let typical = places.len() as f64 / stretches.len() as f64;
        let t = (share / (1.0 - share).max(1e-12) * (places.len() as f64 - 2.0)).sqrt();
        let holds = share >= WEAR_SHARE[0] && share >= straight + WEAR_SHARE[1] && t > 5.0;
        Some((share, Explanation::Wear { by: one.column.name.clone(), rise: slope * (typical - 1.0) })).filter(|_| holds)
    };
    labelled.iter().filter_map(one).max_by(|a, b| a.0.total_cmp(&b.0)).map(|(_, explanation)| explanation)
}

/// Slope, and the share of the variation that a straight line makes up.
fn line(x: &[f64], y: &[f64]) -> Option<(f64, f64)> {
    let (of_x, of_y) = (moments(x), moments(y));
    let (mean_x, mean_y) = (of_x.mean?, of_y.mean?);
    let products: f64 = x.iter().zip(y).map(|(x, y)| (x - mean_x) * (y - mean_y)).sum();
    let squares = |sd: Option<f64>| sd.map(|sd| sd * sd * (x.len() as f64 - 1.0)).filter(|squares| *squares > 0.0 && squares.is_finite());
    let slope = products / squares(of_x.sd)?;
    Some((slope, slope * products / squares(of_y.sd)?))
}

fn batches(chart: &Chart, series: &Series, labelled: &[Labelled]) -> Option<Explanation> {
    let differ = |group: &[usize], groups: usize, tried: usize| {
        let of = OneWay::of(&series.values, group, groups)?;
        let n = series.values.len() as f64 / groups as f64;
        let times = ((of.squares[0] - of.squares[1]).max(0.0) / n / of.squares[1]).sqrt();
        let means: Vec<f64> = of.means.iter().copied().filter(|mean| !mean.is_nan()).collect();
        let r = lag_one_correlation(&means, &moments(&means)).unwrap_or(0.0);
        // Means that are like their neighbours drift, or shift: that is no matter of batches.
        let is_random = r.abs() * (means.len() as f64).sqrt() <= 2.0;
        let holds = times >= BATCHES_DIFFER && unlikely_among(of.p, tried) && is_random && means.len() >= BATCHES_LEAST;
        Some(times).filter(|times| holds && times.is_finite())
    };
    if chart.sampled() {
        let times = differ(&series.points, chart.len(), 1).filter(|_| chart.kind != ChartKind::XbarBetween)?;
        return Some(Explanation::Batches { by: chart.points.named_by.clone(), times });
    }
    let several = |stretches: &Vec<Range<usize>>| stretches.len() * 2 <= series.values.len();
    let of_label = |one: &Labelled| {
        let stretches = one.stretches().filter(several)?;
        let times = differ(&one.group, one.names.len(), labelled.len()).filter(|_| stretches.len() == one.names.len())?;
        Some(Explanation::Batches { by: Some(one.column.name.clone()), times })
    };
    labelled.iter().find_map(of_label)
}

/// The largest ordinate of the periodogram with its two neighbours (Fisher 1929, Proc. Royal Society A 125).
fn cycle(values: &[f64]) -> Option<Explanation> {
    let n = values.len();
    if n > CYCLE_POINTS || n < 6 * CYCLE.1 {
        return None;
    }
    let of = moments(values);
    let (mean, squares) = (of.mean?, of.sd.map(|sd| sd * sd * (n as f64 - 1.0)).filter(|squares| *squares > 0.0)?);
    let power = |times: usize| {
        let angle = |place: usize| TAU * ((place * times) % n) as f64 / n as f64;
        let part = |wave: fn(f64) -> f64| values.iter().enumerate().map(|(place, value)| (value - mean) * wave(angle(place))).sum::<f64>();
        (part(f64::cos).powi(2) + part(f64::sin).powi(2)) * 2.0 / (n as f64 * squares)
    };
    let powers: Vec<f64> = (0..=n / 3).map(power).collect();
    let near = |times: usize| powers[times.saturating_sub(1)..powers.len().min(times + 2)].iter().sum::<f64>();
    let largest = (CYCLE.1..powers.len()).max_by(|a, b| powers[*a].total_cmp(&powers[*b]))?;
    let m = (n / 2) as f64;
    let p = m * (1.0 - powers[largest].min(1.0)).powf(m - 1.0);
    let period = n as f64 / largest as f64;
    // Slow swings of neighbours that are alike are no cycle: there is as much below.
    let below: f64 = powers[1..largest.saturating_sub(1).max(1)].iter().sum();
    (near(largest) >= CYCLE.0 && p < VERY_UNLIKELY / 10.0 && below < 0.3 * near(largest)).then_some(Explanation::Cycle { period })
}

/// Neighbours that are alike although no level has changed.
fn alike(values: &[f64]) -> Option<Explanation> {
    let (left, splits) = residuals(values);
    let r = lag_one_correlation(&left, &moments(&left))?;
    let n = values.len() as f64;
    let own = lag_one_correlation(values, &moments(values))?;
    let trend = line(&(0..values.len()).map(|place| place as f64).collect::<Vec<_>>(), values).map_or(0.0, |(_, share)| share);
    let is_alike = r >= ALIKE && r * n.sqrt() > 2.58 && (splits == 0 || r >= 0.35 || own >= 0.8) && trend < 0.6;
    is_alike.then_some(Explanation::Autocorrelated { r: own })
}
