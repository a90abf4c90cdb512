//! From two columns to a correlation, a fit with its bands, and what makes them.

use std::sync::Arc;

use super::numbers::{Bars, Cells, CurvePoint, FitNumbers, Group, Influential, Numbers, Point, Within};
use crate::frame::{Coded, NO_CODE};
use crate::numeric::correlation::{Fit, pearson, spearman};
use crate::numeric::describe::{decimals, extent, mean};
use crate::numeric::tails::t_two_sided;
use crate::study::reading::{bad, numbers};
use crate::study::words::ValueFormat;
use crate::study::{Cancel, Filled, StudyError};

/// Points that are drawn one by one.
const DRAWN_MOST: usize = 1500;
const ACROSS: usize = 60;
const UP: usize = 40;
const BARS: usize = 24;
const CURVE: usize = 61;
const GROUPS_MOST: usize = 12;
/// From here on a point is worth a look: Cook and Weisberg (1982).
const FAR: f64 = 0.5;

/// A finished relation.
pub struct Answer {
    pub(super) numbers: Numbers,
    pub(super) x: Vec<f64>,
    pub(super) y: Vec<f64>,
    /// Positions of the rows of x.
    pub(super) at: Vec<usize>,
    pub(super) row_ids: Option<Arc<[i64]>>,
    pub(super) fit: Option<Fit>,
}

/// Answers a statement.
///
/// # Errors
/// [`StudyError`] names the role; [`StudyError::TooFewValues`] without a pair.
pub fn answer(asked: &Filled, cancel: &Cancel) -> Result<Answer, StudyError> {
    let (x_column, y_column) = (asked.needed("x")?, asked.needed("y")?);
    if x_column.name == y_column.name {
        return Err(bad("x", "the same column stands twice; choose another one"));
    }
    let (all_x, all_y) = (numbers(x_column, "x")?, numbers(y_column, "y")?);
    let lag = asked.whole("lag").unwrap_or(0);
    let rows = asked.frame().rows();
    let is_pair = |row: &usize| !all_x[*row].is_nan() && !all_y[*row + lag].is_nan();
    let at: Vec<usize> = (0..rows.saturating_sub(lag)).filter(is_pair).collect();
    let x: Vec<f64> = at.iter().map(|&row| all_x[row]).collect();
    let y: Vec<f64> = at.iter().map(|&row| all_y[row + lag]).collect();
    if at.is_empty() {
        return Err(StudyError::TooFewValues { column: y_column.name.clone(), have: 0, need: 1 });
    }
    cancel.check()?;
    let (straight, by_ranks) = rayon::join(|| pearson(&x, &y), || spearman(&x, &y));
    cancel.check()?;
    let wanted: Option<String> = asked.option("fit")?;
    let fit = match wanted.as_deref() {
        Some("none") => None,
        Some("quadratic") => Fit::of(&x, &y, 2),
        _ => Fit::of(&x, &y, 1),
    };
    let group = asked.column("group").map(|column| asked.frame().coded(column, GROUPS_MOST)).transpose()?;
    let ids = asked.frame().row_ids();
    let few = x.len() <= DRAWN_MOST;
    let point = |place: usize| Point {
        row: ids.map_or(at[place] as i64, |ids| ids[at[place]]),
        x: x[place],
        y: y[place],
        residual: fit.as_ref().map(|fit| y[place] - fit.at(x[place])),
        group: group.as_ref().map(|coded| coded.codes[at[place]]).filter(|code| *code != NO_CODE).map(|code| code as usize),
    };
    let bars = [bars(&x), bars(&y)];
    let writer = |column: &crate::frame::Column, values: &[f64]| ValueFormat::of(&column.info, decimals(values));
    let found = Numbers {
        n: x.len(),
        missing: rows - x.len(),
        pearson: straight.map(|one| one.r),
        ci95: straight.and_then(|one| one.ci95),
        p: straight.and_then(|one| one.p),
        spearman: by_ranks.map(|one| one.r),
        spearman_ci95: by_ranks.and_then(|one| one.ci95),
        fit: fit.as_ref().map(|fit| along(fit, &bars[0])),
        points: if few { (0..x.len()).map(point).collect() } else { Vec::new() },
        cells: (!few).then(|| cells(&x, &y, &bars)),
        groups: group.as_ref().map_or_else(Vec::new, |coded| of_groups(coded, &x, &y, &at)),
        within: group.as_ref().and_then(|coded| within(coded, &x, &y, &at)),
        influential: fit.as_ref().and_then(|fit| influential(fit, &x, &y, &at)),
        lag,
        names: [x_column.name.clone(), y_column.name.clone()],
        writers: [writer(x_column, &x), writer(y_column, &y)],
        bars,
    };
    Ok(Answer { numbers: found, row_ids: ids.cloned(), x, y, at, fit })
}

fn bars(values: &[f64]) -> Bars {
    let [low, high] = extent(values).unwrap_or([0.0, 0.0]);
    let mut counts = vec![0; BARS];
    values.iter().for_each(|value| counts[place(*value, low, high, BARS)] += 1);
    Bars { low, high, counts }
}

/// The place of a value among even stretches.
fn place(value: f64, low: f64, high: f64, many: usize) -> usize {
    let share = (value - low) / (high - low);
    if share.is_finite() { ((share * many as f64) as usize).min(many - 1) } else { many / 2 }
}

fn cells(x: &[f64], y: &[f64], [along, upward]: &[Bars; 2]) -> Cells {
    let mut counts = vec![0; ACROSS * UP];
    for (x, y) in x.iter().zip(y) {
        counts[place(*y, upward.low, upward.high, UP) * ACROSS + place(*x, along.low, along.high, ACROSS)] += 1;
    }
    Cells { across: ACROSS, up: UP, counts }
}

/// The fit with its bands over the range of x.
fn along(fit: &Fit, range: &Bars) -> FitNumbers {
    let t = if fit.df > 0.0 { t_two_sided(0.05, fit.df) } else { 0.0 };
    let at = |k: usize| {
        let x = range.low + (range.high - range.low) * k as f64 / (CURVE - 1) as f64;
        let leverage = fit.leverage(x);
        CurvePoint { x, y: fit.at(x), mean_reach: t * fit.sd * leverage.sqrt(), point_reach: t * fit.sd * (1.0 + leverage).sqrt() }
    };
    FitNumbers { coefficients: fit.coefficients.clone(), r2: fit.r2, sd: fit.sd, curve: (0..CURVE).map(at).collect() }
}

/// The places of the pairs of each group.
fn places(coded: &Coded, at: &[usize]) -> Vec<Vec<usize>> {
    let mut places = vec![Vec::new(); coded.labels.len()];
    for (place, &row) in at.iter().enumerate() {
        if let Some(group) = places.get_mut(coded.codes[row] as usize) {
            group.push(place);
        }
    }
    places
}

fn of_groups(coded: &Coded, x: &[f64], y: &[f64], at: &[usize]) -> Vec<Group> {
    let one = |(label, places): (&String, Vec<usize>)| {
        let pick = |values: &[f64]| places.iter().map(|&place| values[place]).collect::<Vec<_>>();
        let found = pearson(&pick(x), &pick(y));
        Group { label: label.clone(), n: places.len(), pearson: found.map(|one| one.r), p: found.and_then(|one| one.p) }
    };
    coded.labels.iter().zip(places(coded, at)).map(one).collect()
}

/// The relation of distances from the means of each group.
fn within(coded: &Coded, x: &[f64], y: &[f64], at: &[usize]) -> Option<Within> {
    let (mut own_x, mut own_y) = (Vec::new(), Vec::new());
    for places in places(coded, at).into_iter().filter(|places| places.len() > 1) {
        let about = |values: &[f64]| {
            let picked: Vec<f64> = places.iter().map(|&place| values[place]).collect();
            let middle = mean(&picked);
            picked.into_iter().map(move |value| value - middle).collect::<Vec<_>>()
        };
        own_x.extend(about(x));
        own_y.extend(about(y));
    }
    pearson(&own_x, &own_y).map(|one| Within { r: one.r, p: one.p })
}

/// The point with the largest Cook's distance, when that is far.
fn influential(fit: &Fit, x: &[f64], y: &[f64], at: &[usize]) -> Option<Influential> {
    let variance = fit.sd * fit.sd;
    let terms = fit.coefficients.len() as f64;
    let distance = |place: usize| {
        let h = fit.leverage(x[place]);
        let e = y[place] - fit.at(x[place]);
        let cook = e * e * h / (terms * variance * (1.0 - h).powi(2));
        (cook, h)
    };
    let (point, (cook, leverage)) = (0..x.len())
        .map(|place| (place, distance(place)))
        .filter(|(_, (cook, _))| cook.is_finite())
        .max_by(|a, b| a.1.0.total_cmp(&b.1.0))?;
    (cook >= FAR).then(|| {
        let without =
            |values: &[f64]| values.iter().enumerate().filter(|(place, _)| *place != point).map(|(_, value)| *value).collect::<Vec<_>>();
        let pearson_without = pearson(&without(x), &without(y)).map(|one| one.r);
        Influential { point, at: at[point], leverage, cook, pearson_without }
    })
}
