//! From two columns to a correlation, a fit with its bands, and what makes them.

use std::sync::Arc;

use super::decisions::BENT;
use super::numbers::{Cells, CurvePoint, FitNumbers, Group, Influential, Numbers, Point, Reason, Within};
use acorn_data::figure::even_bars::{EvenBars, Places};
use acorn_data::frame::{Coded, NO_CODE};
use acorn_maths::correlation::{Fit, pearson, pearson_within, spearman};
use acorn_maths::describe::{decimals, mean, moments};
use acorn_maths::judgement::UNLIKELY;
use acorn_maths::ranks::ranks;
use acorn_maths::tails::{f_above, t_beyond, t_two_sided};
use acorn_study::left_out::{LeftOut, is_left_out};
use acorn_study::reading::{bad, numbers};
use acorn_study::{Cancel, StudyError, ValidatedSpec};

/// Points that are drawn one by one.
const DRAWN_MOST: usize = 1500;
const ACROSS: usize = 60;
const UP: usize = 40;
/// Up to so many points of a cell stand alone, of which so many are drawn; and so many of those left out.
const ALONE_MOST: u32 = 2;
const ALONE_DRAWN: usize = 600;
const OUT_MOST: usize = 300;
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
    /// A curve that explains what a line does not.
    pub(super) curve: Option<Curve>,
}

/// A parabola beside the line.
#[derive(Clone, Copy, Debug, PartialEq)]
pub struct Curve {
    /// The part of the variation that it explains.
    pub r2: f64,
    /// The x of its turning point, where that lies well among the values.
    pub turn: Option<f64>,
    /// Whether that is a peak; else a valley.
    pub is_peak: bool,
}

/// A curve explains at least so much more than the line.
const MORE: f64 = 0.1;
/// Of more pairs no curve is looked for: the picture tells.
const CURVED_MOST: usize = 100_000;

/// How much more a parabola explains than a line, and the chance of that by F of its square on 1 and n - 3 df.
fn gain_of_square(line: &Fit, bent: &Fit) -> (f64, f64) {
    let left = (1.0 - bent.r2).max(f64::MIN_POSITIVE);
    let gain = bent.r2 - line.r2;
    (gain, f_above(gain * bent.df / left, 1.0, bent.df))
}

/// A parabola that explains more than a line; `None` where none does. It has to explain more of the ranks of y too: a far value bends
/// the line of few points by itself.
fn curve(x: &[f64], y: &[f64], bars: &EvenBars) -> Option<Curve> {
    if x.len() > CURVED_MOST {
        return None;
    }
    let (line, bent) = (Fit::of(x, y, 1)?, Fit::of(x, y, 2)?);
    let [_, slope, square] = bent.coefficients[..] else { return None };
    let (gain, p) = gain_of_square(&line, &bent);
    let (y_ranks, _) = ranks(y);
    let (_, p_of_ranks) = gain_of_square(&Fit::of(x, &y_ranks, 1)?, &Fit::of(x, &y_ranks, 2)?);
    let turn = -slope / (2.0 * square);
    let reach = bars.high - bars.low;
    let is_within = (bars.low + 0.1 * reach..=bars.high - 0.1 * reach).contains(&turn);
    (bent.df > 0.0 && gain >= MORE && BENT.is_made(p) && BENT.is_made(p_of_ranks)).then_some(Curve {
        r2: bent.r2,
        turn: Some(turn).filter(|_| is_within),
        is_peak: square < 0.0,
    })
}

/// Answers a statement.
///
/// # Errors
/// [`StudyError`] names the role; [`StudyError::TooFewValues`] without a pair.
pub fn answer(asked: &ValidatedSpec, cancel: &Cancel) -> Result<Answer, StudyError> {
    let (x_column, y_column) = (asked.needed("x")?, asked.needed("y")?);
    if x_column.name == y_column.name {
        return Err(bad("x", "the same column stands twice; choose another one"));
    }
    let (all_x, all_y) = (numbers(x_column, "x")?, numbers(y_column, "y")?);
    let lag = asked.whole("lag").unwrap_or(0);
    let rows = asked.frame().rows();
    let left_out: Vec<LeftOut> = asked.option("left_out")?.unwrap_or_default();
    let ids = asked.frame().row_ids();
    let id_of = |row: usize| ids.map_or(row as i64, |ids| ids[row]);
    let is_pair = |row: &usize| !all_x[*row].is_nan() && !all_y[*row + lag].is_nan();
    let all_pairs = (0..rows.saturating_sub(lag)).filter(is_pair);
    let (out, at): (Vec<usize>, Vec<usize>) = match left_out.is_empty() {
        true => (Vec::new(), all_pairs.collect()),
        false => all_pairs.partition(|&row| is_left_out(&left_out, id_of(row))),
    };
    let x: Vec<f64> = at.iter().map(|&row| all_x[row]).collect();
    let y: Vec<f64> = at.iter().map(|&row| all_y[row + lag]).collect();
    if at.is_empty() && out.is_empty() {
        return Err(StudyError::TooFewValues { column: y_column.name.clone(), have: 0, need: 1 });
    }
    cancel.check()?;
    let wanted: Option<String> = asked.option("fit")?;
    let fit = || match wanted.as_deref() {
        Some("none") => None,
        Some("quadratic") => Fit::of(&x, &y, 2),
        _ => Fit::of(&x, &y, 1),
    };
    // Ranks take as long as all else together.
    let few = x.len() <= DRAWN_MOST;
    let by_values = || {
        let (straight, fit, bars) = (pearson(&x, &y), fit(), [EvenBars::of(&x), EvenBars::of(&y)]);
        let (cells, alone) = if few { (None, Vec::new()) } else { cells(&x, &y, &bars) };
        let influential = fit.as_ref().and_then(|fit| influential(fit, &x, &y, &at, id_of));
        (straight, fit, bars, cells, alone, influential)
    };
    let ((straight, fit, bars, cells, alone, influential), by_ranks) = rayon::join(by_values, || spearman(&x, &y));
    cancel.check()?;
    let group = asked.column("group").map(|column| asked.frame().coded(column, GROUPS_MOST)).transpose()?;
    let drawn = |row: usize, x: f64, y: f64| Point {
        row: id_of(row),
        x,
        y,
        residual: fit.as_ref().map(|fit| y - fit.at(x)),
        group: group.as_ref().map(|coded| coded.codes[row]).filter(|code| *code != NO_CODE).map(|code| code as usize),
    };
    let point = |place: usize| drawn(at[place], x[place], y[place]);
    let writer = |column: &acorn_data::frame::Column, values: &[f64]| column.info.writer(decimals(values));
    let pairs_of = |one: &LeftOut| out.iter().filter(|&&row| is_left_out(std::slice::from_ref(one), id_of(row))).count();
    let found = Numbers {
        n: x.len(),
        missing: rows - x.len() - out.len(),
        pearson: straight.map(|one| one.r),
        ci95: straight.and_then(|one| one.ci95),
        p: straight.and_then(|one| one.p),
        spearman: by_ranks.map(|one| one.r),
        spearman_ci95: by_ranks.and_then(|one| one.ci95),
        fit: fit.as_ref().map(|fit| along(fit, &bars[0])),
        points: if few { (0..x.len()).map(point).collect() } else { alone.into_iter().map(point).collect() },
        cells,
        left_out: out.iter().take(OUT_MOST).map(|&row| drawn(row, all_x[row], all_y[row + lag])).collect(),
        reasons: left_out.iter().map(|one| Reason { why: one.why.clone(), pairs: pairs_of(one) }).collect(),
        groups: group.as_ref().map_or_else(Vec::new, |coded| of_groups(coded, &x, &y, &at)),
        within: group.as_ref().and_then(|coded| within(coded, &x, &y, &at)),
        influential,
        lag,
        names: [x_column.name.clone(), y_column.name.clone()],
        writers: [writer(x_column, &x), writer(y_column, &y)],
        bars,
    };
    let curve = curve(&x, &y, &found.bars[0]);
    Ok(Answer { numbers: found, row_ids: ids.cloned(), x, y, at, fit, curve })
}

/// Counts of points in cells, and the places of those that nearly stand alone, which are drawn and counted in no cell.
fn cells(x: &[f64], y: &[f64], [along, upward]: &[EvenBars; 2]) -> (Option<Cells>, Vec<usize>) {
    let (columns, rows) = (Places::new(along.low, along.high, ACROSS), Places::new(upward.low, upward.high, UP));
    let cell_of: Vec<u16> = x.iter().zip(y).map(|(x, y)| (rows.of(*y) * ACROSS + columns.of(*x)) as u16).collect();
    let mut counts = vec![0; ACROSS * UP];
    cell_of.iter().for_each(|cell| counts[*cell as usize] += 1);
    let is_alone: Vec<bool> = counts.iter().map(|count| *count <= ALONE_MOST).collect();
    let alone: Vec<usize> = (0..x.len()).filter(|&place| is_alone[cell_of[place] as usize]).take(ALONE_DRAWN).collect();
    alone.iter().for_each(|&place| counts[cell_of[place] as usize] -= 1);
    (Some(Cells { across: ACROSS, up: UP, counts }), alone)
}

/// The fit with its bands over the range of x.
fn along(fit: &Fit, range: &EvenBars) -> FitNumbers {
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
    let groups: Vec<Vec<usize>> = places(coded, at).into_iter().filter(|places| places.len() > 1).collect();
    for places in &groups {
        let about = |values: &[f64]| {
            let picked: Vec<f64> = places.iter().map(|&place| values[place]).collect();
            let middle = mean(&picked);
            picked.into_iter().map(move |value| value - middle).collect::<Vec<_>>()
        };
        own_x.extend(about(x));
        own_y.extend(about(y));
    }
    pearson_within(&own_x, &own_y, groups.len()).map(|one| Within { r: one.r, p: one.p })
}

/// The point with the largest Cook's distance, when that is far.
fn influential(fit: &Fit, x: &[f64], y: &[f64], at: &[usize], id_of: impl Fn(usize) -> i64) -> Option<Influential> {
    let scale = 1.0 / (fit.coefficients.len() as f64 * fit.sd * fit.sd);
    let distance = |place: usize| {
        let h = fit.leverage(x[place]).min(1.0);
        let e = y[place] - fit.at(x[place]);
        scale * e * e * h / ((1.0 - h) * (1.0 - h))
    };
    let mut farthest: Option<(usize, f64)> = None;
    for place in 0..x.len() {
        let cook = distance(place);
        if cook.is_finite() && farthest.is_none_or(|(_, most)| cook > most) {
            farthest = Some((place, cook));
        }
    }
    let (point, cook) = farthest?;
    let leverage = fit.leverage(x[point]).min(1.0);
    (cook >= FAR).then(|| {
        let without =
            |values: &[f64]| values.iter().enumerate().filter(|(place, _)| *place != point).map(|(_, value)| *value).collect::<Vec<_>>();
        let (others_x, others_y) = (without(x), without(y));
        Influential {
            point,
            at: at[point],
            row: id_of(at[point]),
            leverage,
            cook,
            pearson_without: pearson(&others_x, &others_y).map(|one| one.r),
            is_apart: is_apart(x[point], &others_x) || is_off(fit, x[point], y[point], &others_x, &others_y),
        }
    })
}

/// Of two looks each may err half as often.
const OF_TWO: f64 = 0.5 * UNLIKELY;

/// Whether a value lies farther from the others than the farthest of as many normal ones does: Grubbs (1950), Annals of Mathematical
/// Statistics 21.
fn is_apart(value: f64, others: &[f64]) -> bool {
    let of = moments(others);
    let n = of.n as f64;
    of.mean.zip(of.sd).is_some_and(|(mean, sd)| {
        let t = (value - mean) / (sd * (1.0 + 1.0 / n).sqrt());
        n > 2.0 && (t.is_infinite() || (n + 1.0) * t_beyond(t, n - 1.0) < OF_TWO)
    })
}

/// Whether a point lies farther from the fit through the others than the farthest of as many does: Cook and Weisberg (1982), ch. 2.
fn is_off(fit: &Fit, x: f64, y: f64, others_x: &[f64], others_y: &[f64]) -> bool {
    let Some(without) = Fit::of(others_x, others_y, fit.coefficients.len() - 1) else { return false };
    let t = (y - without.at(x)) / (without.sd * (1.0 + without.leverage(x)).sqrt());
    without.df > 0.0 && (t.is_infinite() || (others_x.len() as f64 + 1.0) * t_beyond(t, without.df) < OF_TWO)
}
