//! From columns to every pair of them.

use rayon::prelude::*;

use super::decisions::TOGETHER;
use super::numbers::{Column, Numbers};
use acorn_data::figure::even_bars::EvenBars;
use acorn_maths::correlation::{Correlation, pearson, spearman, spearman_of_ranks};
use acorn_maths::describe::{count, decimals};
use acorn_maths::distributions::holm;
use acorn_maths::ranks::ranks;
use acorn_study::reading::{bad, numbers};
use acorn_study::{Cancel, StudyError, ValidatedSpec};

/// Rows that are drawn.
const DRAWN_MOST: usize = 240;

/// Works it out.
///
/// # Errors
/// [`StudyError::BadOption`] for one column or the same twice; [`StudyError::Stopped`].
pub fn compute(asked: &ValidatedSpec, cancel: &Cancel) -> Result<Numbers, StudyError> {
    let columns = asked.columns("measure");
    if columns.len() < 2 {
        return Err(bad("measure", "is one column; choose a second one to hold it against"));
    }
    let twice = columns.iter().enumerate().find(|(place, column)| columns[..*place].iter().any(|before| before.name == column.name));
    if let Some((_, column)) = twice {
        return Err(bad("measure", format!("{} stands twice; choose another column", column.name)));
    }
    let values: Vec<&[f64]> =
        columns.iter().map(|column| numbers(column, "measurement").map(|values| &values[..])).collect::<Result<_, _>>()?;
    let k = columns.len();
    let counts: Vec<usize> = values.iter().map(|values| count(values)).collect();
    let rows = asked.frame().rows();
    // A column without a gap has the same ranks in all pairs of such columns.
    let whole_ranks: Vec<Option<Vec<f64>>> =
        values.par_iter().zip(&counts).map(|(values, count)| (*count == rows).then(|| ranks(values).0)).collect();
    cancel.check()?;
    let pairs: Vec<(usize, usize)> = (0..k).flat_map(|a| (a + 1..k).map(move |b| (a, b))).collect();
    let found: Vec<Found> = pairs
        .par_iter()
        .map(|&(a, b)| {
            cancel.check()?;
            if let (Some(ranks_a), Some(ranks_b)) = (&whole_ranks[a], &whole_ranks[b]) {
                return Ok((rows, pearson(values[a], values[b]), spearman_of_ranks(ranks_a, ranks_b)));
            }
            let both = || values[a].iter().zip(values[b]).filter(|(x, y)| !(x.is_nan() || y.is_nan()));
            let (x, y): (Vec<f64>, Vec<f64>) = both().map(|(x, y)| (*x, *y)).unzip();
            Ok((x.len(), pearson(&x, &y), spearman(&x, &y)))
        })
        .collect::<Result<_, StudyError>>()?;
    let p_holm = among_all(&found, |found| found.1);
    // A far value or two make a correlation that ranks do not show.
    let p_of_ranks = among_all(&found, |found| found.2);
    let pair_of = |a: usize, b: usize| pairs.iter().position(|&pair| pair == (a.min(b), a.max(b)));
    let step = rows.div_ceil(DRAWN_MOST).max(1);
    let varies = |a: usize| EvenBars::of(values[a]);
    let bars: Vec<EvenBars> = (0..k).into_par_iter().map(varies).collect();
    let of = |on_diagonal: &dyn Fn(usize) -> Option<f64>, get: &dyn Fn(usize) -> Option<f64>| square(k, on_diagonal, &pair_of, get);
    Ok(Numbers {
        n: square(k, &|a| Some(counts[a]), &pair_of, &|pair| Some(found[pair].0))
            .into_iter()
            .map(|row| row.into_iter().map(Option::unwrap_or_default).collect())
            .collect(),
        pearson: of(&|a| (bars[a].high > bars[a].low).then_some(1.0), &|pair| found[pair].1.map(|one| one.r)),
        ci95: square(k, &|_| None, &pair_of, &|pair| found[pair].1.and_then(|one| one.ci95)),
        p: of(&|_| None, &|pair| found[pair].1.and_then(|one| one.p)),
        flagged: square(k, &|_| None, &pair_of, &|pair| Some(TOGETHER.is_made(p_holm[pair]) && TOGETHER.is_made(p_of_ranks[pair])))
            .into_iter()
            .map(|row| row.into_iter().map(|flag| flag == Some(true)).collect())
            .collect(),
        p_holm: of(&|_| None, &|pair| p_holm[pair]),
        spearman: of(&|a| (bars[a].high > bars[a].low).then_some(1.0), &|pair| found[pair].2.map(|one| one.r)),
        sample: values
            .iter()
            .map(|values| values.iter().step_by(step).map(|value| Some(*value).filter(|value| !value.is_nan())).collect())
            .collect(),
        columns: columns
            .iter()
            .zip(bars)
            .zip(&values)
            .map(|((column, bars), values)| Column { name: column.name.clone(), writer: column.info.writer(decimals(values)), bars })
            .collect(),
        opens: "relation",
    })
}

type Found = (usize, Option<Correlation>, Option<Correlation>);

/// The chance of each pair for all of them together, by one of both correlations.
fn among_all(found: &[Found], of: impl Fn(&Found) -> Option<Correlation>) -> Vec<Option<f64>> {
    let each: Vec<Option<f64>> = found.iter().map(|found| of(found).and_then(|one| one.p)).collect();
    let mut adjusted = holm(&each.iter().copied().flatten().collect::<Vec<_>>()).into_iter();
    each.into_iter().map(|p| p.and_then(|_| adjusted.next())).collect()
}

/// A square of numbers, the same on both sides of the diagonal.
fn square<T>(
    k: usize,
    on_diagonal: &dyn Fn(usize) -> Option<T>,
    pair_of: &dyn Fn(usize, usize) -> Option<usize>,
    get: &dyn Fn(usize) -> Option<T>,
) -> Vec<Vec<Option<T>>> {
    (0..k).map(|a| (0..k).map(|b| if a == b { on_diagonal(a) } else { pair_of(a, b).and_then(get) }).collect()).collect()
}
