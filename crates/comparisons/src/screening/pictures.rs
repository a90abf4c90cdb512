//! Small pictures of what a screening found.

use super::candidates::CandidateValues;
use super::numbers::{Level, Picture};
use super::params::{Params, Response};
use acorn_data::frame::NO_CODE;

const POINTS: usize = 90;
const LEVELS: usize = 12;

/// How a column goes with what is to be explained.
pub fn picture(params: &Params, held: &CandidateValues) -> Picture {
    match (&params.response, held) {
        (Response::Number(y), CandidateValues::Numbers(x)) => points(x, y),
        (Response::Number(y), CandidateValues::Labels { codes, labels, .. }) => means(y, codes, labels),
        // Turned round: the column by the labels that are to be explained.
        (Response::Labels(y), CandidateValues::Numbers(x)) => means(x, y, &params.labels),
        (Response::Labels(y), CandidateValues::Labels { codes, labels, .. }) => {
            let marked = params.marked.unwrap_or(0);
            let is_marked: Vec<f64> =
                y.iter().map(|&own| if own == NO_CODE { f64::NAN } else { f64::from(u8::from(own == marked)) }).collect();
            means(&is_marked, codes, labels)
        }
    }
}

/// Values on a scale from 0 to 1.
fn scaled(values: impl Iterator<Item = f64> + Clone) -> impl Fn(f64) -> f64 {
    let (low, high) = values.fold((f64::MAX, f64::MIN), |(low, high), value| (value.min(low), value.max(high)));
    move |value| if high > low { ((value - low) / (high - low)).clamp(0.0, 1.0) } else { 0.5 }
}

fn points(x: &[f64], y: &[f64]) -> Picture {
    let there: Vec<(f64, f64)> = x.iter().zip(y).filter(|(x, y)| !(*x + *y).is_nan()).map(|(x, y)| (*x, *y)).collect();
    let step = there.len().div_ceil(POINTS).max(1);
    let (along, up) = (scaled(there.iter().map(|pair| pair.0)), scaled(there.iter().map(|pair| pair.1)));
    Picture::Points { points: there.iter().step_by(step).map(|(x, y)| [along(*x), up(*y)]).collect() }
}

/// Means of the largest labels; a share is the mean of 0 and 1.
fn means(values: &[f64], codes: &[u32], labels: &[String]) -> Picture {
    let mut sums = vec![(0_usize, 0.0); labels.len()];
    for (value, &code) in values.iter().zip(codes) {
        if let Some((n, sum)) = sums.get_mut(code as usize).filter(|_| !value.is_nan()) {
            *n += 1;
            *sum += value;
        }
    }
    let mut order: Vec<usize> = (0..labels.len()).filter(|&label| sums[label].0 > 0).collect();
    let rows: usize = sums.iter().map(|(n, _)| n).sum();
    if rows == 0 {
        return Picture::None;
    }
    order.sort_by_key(|&label| std::cmp::Reverse(sums[label].0));
    order.truncate(LEVELS);
    order.sort_unstable();
    let mean = |label: usize| sums[label].1 / sums[label].0 as f64;
    let all = sums.iter().map(|(_, sum)| sum).sum::<f64>() / rows as f64;
    let at = scaled(order.iter().map(|&label| mean(label)).chain([all]).collect::<Vec<_>>().into_iter());
    let level = |label: usize| Level { label: labels[label].clone(), n: sums[label].0, at: at(mean(label)) };
    Picture::Levels { all: at(all), levels: order.into_iter().map(level).collect() }
}
