//! Levels of a series: where its mean changed, for good or for a while, found by cutting it again and again (Scott and Knott 1974,
//! Biometrics 30; Olshen and others 2004, Biostatistics 5, for a level that comes and goes).

use std::ops::Range;

/// Levels shorter than this are none.
const SHORTEST: usize = 5;
/// Most cuts that are made, and one more where the last comes and goes.
const CUTS_MOST: usize = 3;
/// A cut stands when the means on its two sides are so many standard errors apart.
const APART: f64 = 4.5;
/// A level that comes and goes, since there are more of them to choose from, and so many times as far as one cut.
const COMES_AND_GOES: (f64, f64) = (5.0, 1.15);
/// Ends of such a level that are tried.
const ENDS_MOST: usize = 400;

/// What the levels leave of values without missing ones, and how many cuts were made.
pub fn residuals(values: &[f64]) -> (Vec<f64>, usize) {
    let whole = 0..values.len();
    let mut levels = vec![whole];
    while levels.len() <= CUTS_MOST {
        let best = levels.iter().enumerate().filter_map(|(place, level)| Some((place, part(&values[level.clone()])?)));
        let Some((place, (inner, _))) = best.max_by(|a, b| a.1.1.total_cmp(&b.1.1)) else { break };
        let Range { start, end } = levels[place].clone();
        let cuts = [start, start + inner.start, start + inner.end, end];
        levels.splice(place..=place, cuts.windows(2).map(|ends| ends[0]..ends[1]).filter(|level| !level.is_empty()));
    }
    let cuts = levels.len() - 1;
    let left = levels.into_iter().flat_map(|level| {
        let own = &values[level];
        let mean = own.iter().sum::<f64>() / own.len() as f64;
        own.iter().map(move |value| value - mean)
    });
    (left.collect(), cuts)
}

/// The part of a stretch whose mean differs most from that of the rest, and by how many standard errors; `None` where none stands.
fn part(values: &[f64]) -> Option<(Range<usize>, f64)> {
    let n = values.len();
    if n < 2 * SHORTEST {
        return None;
    }
    let mean = values.iter().sum::<f64>() / n as f64;
    let all: f64 = values.iter().map(|value| (value - mean) * (value - mean)).sum();
    let mut sums = vec![0.0];
    sums.extend(values.iter().scan(0.0, |sum, value| {
        *sum += value - mean;
        Some(*sum)
    }));
    let gained = |part: &Range<usize>| {
        let (sum, within) = (sums[part.end] - sums[part.start], part.len() as f64);
        sum * sum * n as f64 / (within * (n as f64 - within))
    };
    let apart = |part: Range<usize>| {
        let gained = gained(&part);
        let left = (all - gained) / (n as f64 - 2.0);
        (left > 0.0).then(|| (part, (gained / left).sqrt()))
    };
    let most = |parts: &mut dyn Iterator<Item = Range<usize>>| parts.max_by(|a, b| gained(a).total_cmp(&gained(b))).and_then(apart);
    let once = most(&mut (SHORTEST..=n - SHORTEST).map(|at| at..n));
    let step = n.div_ceil(ENDS_MOST);
    let ends = || (SHORTEST..=n - SHORTEST).step_by(step);
    let inner = ends().flat_map(|start| ends().map(move |end| start..end));
    let for_a_while = most(&mut inner.filter(|part| part.end >= part.start + SHORTEST));
    let once_apart = once.as_ref().map_or(0.0, |(_, apart)| *apart);
    let stands = |apart: f64| apart > COMES_AND_GOES.0 && apart > COMES_AND_GOES.1 * once_apart;
    for_a_while.filter(|(_, apart)| stands(*apart)).or(once.filter(|(_, apart)| *apart > APART))
}
