//! From counts or a normal to yields and levels.
//!
//! dpu = D/U, dpo = D/(U O), dpmo = 10⁶ dpo, yield = 1 - dpo, z = Φ⁻¹(1 - dpo), level = z + shift, first-time yield
//! e^-dpu, rolled yield their product over the steps. The interval of dpmo is exact binomial on U O chances (Clopper and
//! Pearson 1934), that of the level follows from it. Of a normal: out = Φ((LSL - μ)/σ) + Φ((μ - USL)/σ), z = Φ⁻¹(1 - out)
//! from the upper tail. Of measured values the interval is z ± 1.96 √(1/n + z²/(2(n-1))).
//! Sources: Harry and Schroeder (2000), Six Sigma; Montgomery (2013), sec. 1.2 and 8.3.

use super::numbers::{Answer, NormalNumbers, Numbers, Rung, Step};
use super::params::{CountColumns, Counts, Normal, Params, STEPS_MOST, Source, check_counts, check_limits};
use crate::control_chart::{self, Chart, ChartKind, Explanation, Inspected, Params as Question, Sampling, SigmaFrom};
use acorn_data::figure::histogram::CurvePoint;
use acorn_data::frame::{Column, ColumnInfo, Missing};
use acorn_maths::describe::{decimals, moments};
use acorn_maths::judgement::misfits;
use acorn_maths::normal;
use acorn_maths::shape::anderson_darling;
use acorn_maths::sorting::Sorted;
use acorn_maths::tails::share_interval;
use acorn_maths::words::{ValueFormat, typed};
use acorn_study::reading::{bad, numbers};
use acorn_study::{Cancel, StudyError};

const LEVELS: [f64; 7] = [1.0, 2.0, 3.0, 4.0, 5.0, 6.0, 7.0];

/// Works it out.
///
/// # Errors
/// [`StudyError::BadOption`] for limits or counts that cannot be, [`StudyError::BadValue`] for such counts in a column,
/// [`StudyError::TooFewValues`], [`StudyError::TooManyGroups`], [`StudyError::Stopped`].
pub fn answer(params: &Params, cancel: &Cancel) -> Result<Answer, StudyError> {
    let ladder = LEVELS.map(|level| Rung { level, dpmo: 1e6 * normal::above(level - params.shift) }).into();
    let bare = Numbers { signals_by_chance: true, shift: params.shift, goal: params.goal, ladder, ..Numbers::default() };
    match &params.source {
        Source::Typed(steps) => Ok(Answer { numbers: of_counts(bare, steps), chart: None }),
        Source::Normal(typed) => Ok(Answer { numbers: of_normal(bare, *typed, None, ValueFormat::plain(2)), chart: None }),
        Source::Columns(asked) => of_columns(bare, params, asked, cancel),
        Source::Measurement { measure, subgroup } => of_measurement(bare, params, measure, *subgroup, cancel),
    }
}

/// The level of a share out; unknown when nothing or everything is.
fn level(out: f64, shift: f64) -> Option<f64> {
    (out > 0.0 && out < 1.0).then(|| shift - normal::quantile(out))
}

fn of_counts(bare: Numbers, steps: &[Counts]) -> Numbers {
    let shift = bare.shift;
    let mut rolled = 1.0;
    let step = |counts: &Counts| {
        let dpu = counts.defects / counts.units;
        let first_time_yield = (-dpu).exp();
        rolled *= first_time_yield;
        let dpo = dpu / counts.opportunities;
        Step {
            name: counts.name.clone(),
            units: counts.units,
            defects: counts.defects,
            dpu,
            dpmo: 1e6 * dpo,
            first_time_yield,
            rolled_yield: rolled,
            sigma_level: level(dpo, shift),
        }
    };
    let listed: Vec<Step> = steps.iter().map(step).collect();
    let sum = |get: &dyn Fn(&Counts) -> f64| steps.iter().map(get).sum::<f64>();
    let (defects, chances) = (sum(&|one| one.defects), sum(&|one| one.units * one.opportunities));
    // Through several steps go the same units, so that their defects add up on each.
    let dpu: f64 = listed.iter().map(|step| step.dpu).sum();
    let dpo = defects / chances;
    let [low, high] = share_interval(defects, chances);
    Numbers {
        units: steps.first().map(|first| first.units),
        defects: Some(defects),
        chances: Some(chances),
        dpu: Some(dpu),
        dpo: Some(dpo),
        dpmo: Some(1e6 * dpo),
        yield_share: Some(1.0 - dpo),
        z: level(dpo, 0.0),
        sigma_level: level(dpo, shift),
        first_time_yield: Some((-dpu).exp()),
        dpmo_ci95: Some([1e6 * low, 1e6 * high]),
        sigma_level_ci95: Some([level(high, shift), level(low, shift)]),
        rolled_yield: (listed.len() > 1).then_some(rolled),
        normalised_yield: (listed.len() > 1).then(|| rolled.powf(1.0 / listed.len() as f64)),
        steps: listed,
        ..bare
    }
}

fn of_normal(bare: Numbers, given: Normal, seen: Option<Sorted>, writer: ValueFormat) -> Numbers {
    let shift = bare.shift;
    let Normal { mean, sd, lsl, usl } = given;
    let below = lsl.map(|lsl| normal::below((lsl - mean) / sd));
    let above = usl.map(|usl| normal::above((usl - mean) / sd));
    let out = below.unwrap_or(0.0) + above.unwrap_or(0.0);
    let z = normal_level(lsl.map(|lsl| (lsl - mean) / sd), usl.map(|usl| (usl - mean) / sd));
    let interval = seen.as_ref().zip(z).map(|(seen, z)| {
        let n = seen.len() as f64;
        let reach = 1.959_963_984_540_054 * (1.0 / n + z * z / (2.0 * (n - 1.0))).sqrt();
        [z - reach, z + reach]
    });
    let beyond = |value: &&f64| lsl.is_some_and(|lsl| **value < lsl) || usl.is_some_and(|usl| **value > usl);
    let test = seen.as_ref().and_then(|seen| anderson_darling(seen, mean, sd));
    let shown = NormalNumbers {
        n: seen.as_ref().map(|seen| seen.len()),
        mean,
        sd,
        lsl,
        usl,
        below,
        above,
        ad_p: test.map(|test| test.p),
        misfits: misfits(seen.as_ref().map_or(0, |seen| seen.len()), test.map(|test| test.p), test.map(|test| test.a2)),
        seen: seen.as_ref().map(|seen| seen.iter().filter(beyond).count() as f64 / seen.len() as f64),
        curve: normal_curve(mean, sd),
        writer,
    };
    Numbers {
        dpmo: Some(1e6 * out),
        yield_share: Some(1.0 - out),
        z,
        sigma_level: z.map(|z| z + shift),
        dpmo_ci95: interval.map(|[low, high]| [1e6 * normal::above(high), 1e6 * normal::above(low)]),
        sigma_level_ci95: interval.map(|[low, high]| [Some(low + shift), Some(high + shift)]),
        normal: Some(shown),
        ..bare
    }
}

/// The z that leaves as much of a normal in one tail as lies beyond limits so many sds from the mean; from logarithms of the
/// smaller of the shares out and in, so that it is known also where a share is too small to be a number.
fn normal_level(lsl: Option<f64>, usl: Option<f64>) -> Option<f64> {
    let none = f64::NEG_INFINITY;
    let (below, above) = (lsl.map_or(none, normal::ln_below), usl.map_or(none, |usl| normal::ln_below(-usl)));
    let more = |a: f64, b: f64| a.max(b) + (a.min(b) - a.max(b)).exp().ln_1p();
    let out = more(below, above);
    let z = if out < -std::f64::consts::LN_2 {
        -normal::quantile_of_ln(out)
    } else {
        // What lies within, taken as a difference on the side on which both shares are small.
        let (low, high) = (lsl.unwrap_or(f64::NEG_INFINITY), usl.unwrap_or(f64::INFINITY));
        let (nearer, farther) = if low > 0.0 { (-low, -high) } else { (high, low) };
        let [most, less] = [nearer, farther].map(|z| if z == none { none } else { normal::ln_below(z) });
        normal::quantile_of_ln(most + (-(less - most).exp()).ln_1p())
    };
    Some(z).filter(|z| z.is_finite())
}

fn normal_curve(mean: f64, sd: f64) -> Vec<CurvePoint> {
    let at = |k: i32| f64::from(k) / 15.0 - 4.0;
    (0..=120).map(|k| CurvePoint { value: mean + at(k) * sd, count: (-0.5 * at(k) * at(k)).exp() }).collect()
}

/// Values with the limits of their column, their normal and their steadiness.
fn of_measurement(
    bare: Numbers,
    params: &Params,
    column: &Column,
    subgroup: Option<&Column>,
    cancel: &Cancel,
) -> Result<Answer, StudyError> {
    let kind = if subgroup.is_some() { ChartKind::XbarS } else { ChartKind::Individuals };
    let sigma_from = if subgroup.is_some() { SigmaFrom::Sd } else { SigmaFrom::MrMean };
    let asked = Question {
        sampling: subgroup.map(Sampling::Column),
        order: params.order,
        sigma_from,
        ..Question::plain(params.frame, kind, vec![column])
    };
    let values = numbers(column, "measurement")?;
    let chart = control_chart::compute(&asked, cancel)?;
    let ColumnInfo { lsl, usl, .. } = column.info;
    check_limits(lsl, usl).map_err(|_| {
        bad("measure", format!("“{}” has no limits that fit; set them on the column, then its defects can be told", column.name))
    })?;
    let of = moments(values);
    let few = || StudyError::TooFewValues { column: column.name.clone(), have: of.n, need: 2 };
    let (mean, sd) = of.mean.zip(of.sd).ok_or_else(few)?;
    if sd == 0.0 {
        return Err(bad("measure", format!("all {} values are {}: without a spread there is no level", of.n, typed(mean))));
    }
    let writer = column.info.writer(decimals(values));
    let numbers = of_normal(bare, Normal { mean, sd, lsl, usl }, Some(Sorted::of(values)), writer);
    Ok(with_chart(numbers, chart))
}

fn with_chart(numbers: Numbers, chart: Chart) -> Answer {
    let alarms = chart.alarms();
    let numbers = Numbers {
        steady: Some(chart.steady()),
        signals: alarms.seen,
        signals_expected: alarms.expected,
        signals_by_chance: alarms.by_chance,
        ..numbers
    };
    Answer { numbers, chart: Some(chart) }
}

/// Counts by sample, summed, or by step.
fn of_columns(bare: Numbers, params: &Params, asked: &CountColumns, cancel: &Cancel) -> Result<Answer, StudyError> {
    let frame = params.frame;
    let (defects, units) = (numbers(asked.count, "defects")?, numbers(asked.size, "number inspected")?);
    let (name, opportunities) = (&asked.count.name, asked.opportunities);
    let groups = frame.groups(asked.step.as_slice(), None, Missing::Apart, STEPS_MOST)?;
    let mut steps: Vec<Counts> = Vec::new();
    let mut counted = 0;
    for place in 0..groups.len() {
        let mut step = Counts { name: groups.label(place).unwrap_or_default().to_owned(), units: 0.0, opportunities, defects: 0.0 };
        for &row in groups.rows(place) {
            let (found, inspected) = (defects[row], units[row]);
            if found.is_nan() || inspected.is_nan() {
                continue;
            }
            let bad = |problem: String| Err(StudyError::BadValue { column: name.clone(), row, problem });
            if found < 0.0 || inspected < 0.0 {
                return bad("a count cannot be below 0".to_owned());
            }
            if found > inspected * opportunities {
                return bad(format!("{found} defects in {inspected} units are more than their chances; say how many chances a unit has"));
            }
            counted += 1;
            step.units += inspected;
            step.defects += found;
        }
        steps.extend(Some(step).filter(|step| step.units > 0.0));
    }
    if counted == 0 {
        return Err(StudyError::TooFewValues { column: name.clone(), have: 0, need: 1 });
    }
    if steps.is_empty() {
        return Err(bad("size", "no unit was inspected"));
    }
    steps.iter().try_for_each(check_counts)?;
    let numbers = of_counts(bare, &steps);
    // Steps are different processes: one chart of all would say nothing.
    if steps.len() > 1 {
        return Ok(Answer { numbers, chart: None });
    }
    let kind = if opportunities == 1.0 { ChartKind::P } else { ChartKind::U };
    let inspected = Some(Inspected::Column(units));
    let asked = Question { inspected, order: params.order, label: asked.label, ..Question::plain(frame, kind, vec![asked.count]) };
    let plain = control_chart::compute(&asked, cancel)?;
    // As the chart is that is proposed for such counts.
    let chart = match plain.explanation {
        Some(Explanation::Overdispersed { .. }) => {
            let kind = if opportunities == 1.0 { ChartKind::PPrime } else { ChartKind::UPrime };
            control_chart::compute(&Question { kind, ..asked }, cancel)?
        }
        _ => plain,
    };
    Ok(with_chart(numbers, chart))
}
