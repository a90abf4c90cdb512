//! Several streams on one chart.

use super::Explanation;
use super::series::Series;
use crate::control_chart::answer::Chart;
use crate::control_chart::kind::ChartKind;
use acorn_data::frame::Frame;
use acorn_maths::judgement::{VERY_UNLIKELY, coarse, unlikely_among};
use acorn_maths::mixture::two_groups;
use acorn_maths::one_way::OneWay;
use acorn_maths::sorting::Sorted;
use acorn_study::labelled::{Labelled, STREAMS_SHARE, Streams, streams};

/// Streams by turns make up at least this share of the variation.
const TURNS_SHARE: f64 = 0.5;
/// Most streams that take turns.
const TURNS_MOST: usize = 8;
/// Streams by turns, as a share, may be told less well by a column of labels than by their turns.
const ALMOST: f64 = 0.05;
/// Means that vary less than this times what the spread within subgroups lets expect.
const TOO_LITTLE: f64 = 0.6;

pub fn of(chart: &Chart, series: &Series, frame: &Frame) -> Option<Explanation> {
    let labelled = series.labelled(chart, frame);
    if chart.sampled() {
        return within_subgroups(chart, series, &labelled).or_else(|| by_turns(&means(chart), None));
    }
    by_turns(&series.values, Some(&labelled)).or_else(|| by_label(series, &labelled)).or_else(|| two_peaks(chart, series, &labelled))
}

/// The plotted means, without missing ones.
pub fn means(chart: &Chart) -> Vec<f64> {
    chart.panels[0].values.iter().copied().filter(|value| !value.is_nan()).collect()
}

fn by_turns(values: &[f64], labelled: Option<&[Labelled]>) -> Option<Explanation> {
    let turns = |streams: usize| {
        let group: Vec<usize> = (0..values.len()).map(|place| place % streams).collect();
        Some((streams, OneWay::of(values, &group, streams)?)).filter(|_| values.len() >= 4 * streams)
    };
    let found: Vec<(usize, OneWay)> = (2..=TURNS_MOST).filter_map(turns).collect();
    let most = found.iter().map(|(_, of)| of.share).fold(0.0, f64::max);
    let (streams, of) = found.into_iter().find(|(_, of)| of.share > most - ALMOST)?;
    if of.share < TURNS_SHARE || !unlikely_among(of.p, TURNS_MOST) || drifts(values, streams) {
        return None;
    }
    let tells = |one: &&Labelled| {
        let parted = OneWay::of(values, &one.group, one.names.len());
        one.names.len() <= 2 * streams && parted.is_some_and(|parted| parted.share > of.share - ALMOST)
    };
    let by = labelled.and_then(|all| all.iter().find(tells)).map(|one| one.column.name.clone());
    Some(Explanation::Alternating { streams, apart: of.apart(), by })
}

/// Whether the turns come from a slow change: then neighbours of one stream are as far apart as neighbours are.
fn drifts(values: &[f64], streams: usize) -> bool {
    let steps = |lag: usize| {
        let squares = values.windows(lag + 1).map(|pair| (pair[lag] - pair[0]).powi(2));
        squares.sum::<f64>() / (values.len() - lag) as f64
    };
    steps(streams) > 0.7 * steps(1)
}

fn by_label(series: &Series, labelled: &[Labelled]) -> Option<Explanation> {
    streams(&series.values, labelled).map(|Streams { by, ends, apart }| Explanation::Streams { by, ends, apart })
}

/// Two peaks, in an order that shows nothing else: a shift has two levels as well.
fn two_peaks(chart: &Chart, series: &Series, labelled: &[Labelled]) -> Option<Explanation> {
    let r = chart.lag_one.unwrap_or(0.0);
    let is_random = r * (series.values.len() as f64).sqrt() <= 2.58;
    // Readings in steps have peaks of their own, and batches that happen to fall into two groups are batches.
    let by_stretch = labelled.iter().any(|one| one.stretches().is_some_and(|all| all.len() * 2 <= series.values.len()));
    let found = two_groups(&Sorted::of(&series.values)).filter(|_| is_random && !by_stretch && coarse(&series.values).is_none())?;
    Some(Explanation::TwoGroups { centers: found.centers })
}

fn within_subgroups(chart: &Chart, series: &Series, labelled: &[Labelled]) -> Option<Explanation> {
    let points = chart.len();
    let between = OneWay::of(&series.values, &series.points, points)?;
    let times = (between.squares[0] / between.squares[1]).sqrt();
    let p_unlike = chart.neighbours()?.p_unlike;
    // What subgroups leave of the values, parted by the columns side by side, or by labels.
    let left: Vec<f64> = series.values.iter().zip(&series.points).map(|(value, point)| value - between.means[*point]).collect();
    let beside = (chart.raw.len() > 1).then(|| OneWay::of(&left, &series.columns, chart.raw.len())).flatten();
    let positions = beside.map(|of| (of, None, chart.side_names.clone()));
    let labels = labelled.iter().filter(|one| one.are_streams()).filter_map(|one| {
        let of = OneWay::of(&left, &one.group, one.names.len())?;
        Some((of, Some(one.column.name.clone()), one.names.clone()))
    });
    let tell = positions.into_iter().chain(labels).filter(|(of, ..)| of.share >= STREAMS_SHARE && unlikely_among(of.p, labelled.len() + 1));
    let streams = tell.max_by(|a, b| a.0.share.total_cmp(&b.0.share));
    let is_too_even = times < TOO_LITTLE && p_unlike < VERY_UNLIKELY / 10.0;
    if chart.kind == ChartKind::XbarBetween || !(is_too_even || streams.is_some() && times < 1.0) {
        return None;
    }
    let ends = streams.as_ref().map(|(of, _, names)| (of.ends().map(|place| names[place].clone()), of.apart()));
    Some(Explanation::Stratified { times: 1.0 / times.max(0.01), ends, by: streams.and_then(|(_, by, _)| by) })
}
