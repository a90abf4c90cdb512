//! From groups of values to their numbers.

use super::groups::{Group, split};
use super::numbers::{BoxNumbers, GroupNumbers, Numbers, ShownValue};
use super::params::Params;
use super::structure::Structure;
use acorn_data::figure::histogram::{Bin, CurvePoint, Scale};
use acorn_data::figure::probability::{places, plot};
use acorn_maths::describe::{self, moments};
use acorn_maths::equal_means::{Sample, welch};
use acorn_maths::equal_variance::brown_forsythe;
use acorn_maths::judgement::{coarse, misfits};
use acorn_maths::normal;
use acorn_maths::shape::{anderson_darling, skewness_and_kurtosis};
use acorn_maths::sorting::Sorted;
use acorn_maths::tails::{chi_square_upper, t_two_sided};
use acorn_study::{Cancel, StudyError};

/// Points of a drawn curve.
const CURVE_POINTS: usize = 81;
/// Most values drawn one by one of a group.
const DRAWN_MOST: usize = 300;
/// Most far values drawn beyond the whiskers of a box.
const FAR_MOST: usize = 100;

/// Looks at the values.
///
/// # Errors
/// [`StudyError::TooFewValues`] without a value, [`StudyError::TooManyGroups`], [`StudyError::OutOfRange`] for bars that
/// do not fit, [`StudyError::Stopped`].
pub fn compute(params: &Params, cancel: &Cancel) -> Result<Numbers, StudyError> {
    let groups = split(params)?;
    cancel.check()?;
    let all = match &groups[..] {
        [only] => only.sorted.clone(),
        _ => Sorted::of(&groups.iter().flat_map(|group| group.sorted.iter().copied()).collect::<Vec<f64>>()),
    };
    if all.is_empty() {
        return Err(StudyError::TooFewValues { column: params.measure.name.clone(), have: 0, need: 1 });
    }
    let common = Scale::of(&all, params.bars)?.filter(|_| params.same_scale);
    let decimals = describe::decimals(params.values);
    let mut numbers = Vec::with_capacity(groups.len());
    for group in &groups {
        cancel.check()?;
        let scale = match common {
            Some(scale) => Some(scale),
            None => Scale::of(&group.sorted, params.bars)?,
        };
        numbers.push(look(group, scale, params));
    }
    Ok(Numbers {
        span: [all[0], all[all.len() - 1]],
        bin_width: common.map(|scale| scale.width()),
        same_scale: params.same_scale,
        show: params.show,
        equal_means: welch(numbers.iter().filter_map(sample)),
        equal_spread: brown_forsythe(&groups.iter().map(|group| &group.in_order[..]).collect::<Vec<_>>()).filter(|_| groups.len() > 1),
        coarse: coarse(params.values),
        structure: if groups.len() == 1 { Structure::of(params, &all) } else { None },
        writer: params.measure.info.writer(decimals),
        groups: numbers,
    })
}

fn sample(group: &GroupNumbers) -> Option<Sample> {
    Some(Sample { n: group.n as f64, mean: group.mean?, sd: group.sd? })
}

fn look(group: &Group, scale: Option<Scale>, params: &Params) -> GroupNumbers {
    let sorted = &group.sorted;
    let of = moments(sorted);
    let n = of.n;
    let (skewness, kurtosis) = skewness_and_kurtosis(sorted);
    let spread = of.mean.zip(of.sd);
    let test = spread.and_then(|(mean, sd)| anderson_darling(sorted, mean, sd));
    let bins = match (scale, sorted.last()) {
        (Some(scale), Some(&high)) => scale.fill(sorted, high),
        _ => Vec::new(),
    };
    let varied = spread.filter(|(_, sd)| *sd > 0.0);
    GroupNumbers {
        label: group.label.clone(),
        n,
        missing: group.missing,
        mean: of.mean,
        sd: of.sd,
        min: of.min,
        q1: sorted.quantile(0.25),
        median: sorted.quantile(0.5),
        q3: sorted.quantile(0.75),
        max: of.max,
        range: of.min.zip(of.max).map(|(low, high)| high - low),
        skewness,
        kurtosis,
        mean_ci95: spread.map(|(mean, sd)| mean_interval(mean, sd, n as f64)),
        sd_ci95: varied.map(|(_, sd)| sd_interval(sd, n as f64)),
        ad: test.map(|test| test.a2),
        ad_star: test.map(|test| test.a2_star),
        ad_p: test.map(|test| test.p),
        misfits: misfits(n, test.map(|test| test.p), test.map(|test| test.a2)),
        curve: varied.filter(|_| params.curve).map_or_else(Vec::new, |(mean, sd)| curve(&bins, mean, sd, n)),
        box_plot: box_plot(sorted),
        values: shown_values(&group.in_order),
        plot: varied.map_or_else(Vec::new, |(mean, sd)| plot(sorted, |score| mean + score * sd)),
        bins,
    }
}

/// x̄ ± t s/√n.
fn mean_interval(mean: f64, sd: f64, n: f64) -> [f64; 2] {
    let reach = t_two_sided(0.05, n - 1.0) * sd / n.sqrt();
    [mean - reach, mean + reach]
}

/// s √((n-1)/χ²) at both ends.
fn sd_interval(sd: f64, n: f64) -> [f64; 2] {
    let df = n - 1.0;
    [0.025, 0.975].map(|alpha| sd * (df / chi_square_upper(alpha, df)).sqrt())
}

/// The normal curve in counts a bar.
fn curve(bins: &[Bin], mean: f64, sd: f64, n: usize) -> Vec<CurvePoint> {
    let (Some(first), Some(last)) = (bins.first(), bins.last()) else { return Vec::new() };
    let width = first.to - first.from;
    let (low, high) = ((mean - 3.5 * sd).min(first.from), (mean + 3.5 * sd).max(last.to));
    let at = |k: usize| low + (high - low) * k as f64 / (CURVE_POINTS - 1) as f64;
    (0..CURVE_POINTS).map(|k| CurvePoint { value: at(k), count: n as f64 * width / sd * normal::density((at(k) - mean) / sd) }).collect()
}

/// Quartiles, whiskers to the last values within 1.5 interquartile ranges (Tukey 1977), and those beyond.
fn box_plot(sorted: &Sorted) -> Option<BoxNumbers> {
    let (q1, q3) = (sorted.quantile(0.25)?, sorted.quantile(0.75)?);
    let reach = 1.5 * (q3 - q1);
    let (from, to) = (sorted.partition_point(|v| *v < q1 - reach), sorted.partition_point(|v| *v <= q3 + reach));
    let far: Vec<f64> = sorted[..from].iter().chain(&sorted[to..]).copied().collect();
    let low = sorted.get(from).copied().unwrap_or(q1);
    let high = to.checked_sub(1).and_then(|place| sorted.get(place)).copied().unwrap_or(q3);
    Some(BoxNumbers { low_fence: q1 - reach, high_fence: q3 + reach, low, high, far_count: far.len(), far: evenly(&far, FAR_MOST) })
}

/// Values of even ranks, the first and the last among them.
fn evenly(values: &[f64], most: usize) -> Vec<f64> {
    places(values.len(), most).map(|place| values[place]).collect()
}

/// Values one by one, in the order of the rows.
fn shown_values(values: &[f64]) -> Vec<ShownValue> {
    let last = values.len().max(2) - 1;
    places(values.len(), DRAWN_MOST).map(|place| ShownValue { place: place as f64 / last as f64, value: values[place] }).collect()
}
