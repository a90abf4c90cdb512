//! From counts or a normal to yields and levels.
//!
//! dpu = D/U, dpo = D/(U O), dpmo = 10⁶ dpo, yield = 1 - dpo, z = Φ⁻¹(1 - dpo), level = z + shift, first-time yield
//! e^-dpu, rolled yield their product over the steps. The interval of dpmo is exact binomial on U O chances (Clopper and
//! Pearson 1934), that of the level follows from it. Of a normal: out = Φ((LSL - μ)/σ) + Φ((μ - USL)/σ), z = Φ⁻¹(1 - out)
//! from the upper tail. Of measured values the interval is z ± 1.96 √(1/n + z²/(2(n-1))).
//! Sources: Harry and Schroeder (2000), Six Sigma; Montgomery (2013), sec. 1.2 and 8.3.

use std::collections::{BTreeMap, HashMap};

use serde_json::{Map, json};

use super::numbers::{Answer, NormalNumbers, Numbers, Rung, Step};
use super::params::{Counts, Normal, Params, Source, check_counts, check_limits};
use crate::figure::heap::CurvePoint;
use crate::frame::{ColumnInfo, Frame, Values};
use crate::methods::control_chart::{self, Chart};
use crate::numeric::describe::{decimals, moments};
use crate::numeric::normal;
use crate::numeric::shape::anderson_darling;
use crate::numeric::sorting::sorted;
use crate::numeric::tails::share_interval;
use crate::study::words::Writer;
use crate::study::{Cancel, RoleColumns, Spec, StudyError};

/// Most steps read from a column.
const STEPS_MOST: usize = 100;
const LEVELS: [f64; 7] = [1.0, 2.0, 3.0, 4.0, 5.0, 6.0, 7.0];

/// Works it out.
///
/// # Errors
/// [`StudyError::BadOption`] for limits or counts that cannot be, [`StudyError::BadValue`] for such counts in a column,
/// [`StudyError::TooFewValues`], [`StudyError::TooManyGroups`], [`StudyError::Stopped`].
pub fn answer(params: &Params, frame: &Frame, cancel: &Cancel) -> Result<Answer, StudyError> {
    let ladder = LEVELS.map(|level| Rung { level, dpmo: 1e6 * normal::above(level - params.shift) }).into();
    let bare = Numbers { signals_by_chance: true, shift: params.shift, goal: params.goal, ladder, ..Numbers::default() };
    match &params.source {
        Source::Typed(steps) => Ok(Answer { numbers: of_counts(bare, steps), chart: None }),
        Source::Normal(typed) => Ok(Answer { numbers: of_normal(bare, *typed, None, Writer::plain(2)), chart: None }),
        Source::Columns { opportunities } => of_columns(bare, params, frame, *opportunities, cancel),
        Source::Measurement => of_measurement(bare, params, frame, cancel),
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

/// Measured values behind a normal.
struct Seen<'v> {
    sorted: &'v [f64],
}

fn of_normal(bare: Numbers, given: Normal, seen: Option<Seen>, writer: Writer) -> Numbers {
    let shift = bare.shift;
    let Normal { mean, sd, lsl, usl } = given;
    let below = lsl.map(|lsl| normal::below((lsl - mean) / sd));
    let above = usl.map(|usl| normal::above((usl - mean) / sd));
    let out = below.unwrap_or(0.0) + above.unwrap_or(0.0);
    let z = level(out, 0.0);
    let interval = seen.as_ref().zip(z).map(|(seen, z)| {
        let n = seen.sorted.len() as f64;
        let reach = 1.959_963_984_540_054 * (1.0 / n + z * z / (2.0 * (n - 1.0))).sqrt();
        [z - reach, z + reach]
    });
    let beyond = |value: &&f64| lsl.is_some_and(|lsl| **value < lsl) || usl.is_some_and(|usl| **value > usl);
    let shown = NormalNumbers {
        n: seen.as_ref().map(|seen| seen.sorted.len()),
        mean,
        sd,
        lsl,
        usl,
        below,
        above,
        ad_p: seen.as_ref().and_then(|seen| anderson_darling(seen.sorted, mean, sd)).map(|test| test.p),
        seen: seen.as_ref().map(|seen| seen.sorted.iter().filter(beyond).count() as f64 / seen.sorted.len() as f64),
        curve: bell(mean, sd),
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

fn bell(mean: f64, sd: f64) -> Vec<CurvePoint> {
    let at = |k: i32| f64::from(k) / 15.0 - 4.0;
    (0..=120).map(|k| CurvePoint { value: mean + at(k) * sd, count: (-0.5 * at(k) * at(k)).exp() }).collect()
}

/// Values with the limits of their column, their normal and their steadiness.
fn of_measurement(bare: Numbers, params: &Params, frame: &Frame, cancel: &Cancel) -> Result<Answer, StudyError> {
    let spec = charted(
        &params.spec,
        &["measure", "subgroup", "order"],
        json!(if params.spec.roles.contains_key("subgroup") { "xbar-s" } else { "individuals" }),
    );
    let chart = control_chart::chart(frame, &spec, cancel)?;
    let column = params.spec.role(frame, "measure")?.ok_or(StudyError::MissingRole { role: "measurement", choose: "a measurement" })?;
    let Values::Number(values) = &column.values else {
        return Err(StudyError::WrongKind {
            role: "measurement",
            column: column.name.clone(),
            found: column.kind.words(),
            needed: "number",
        });
    };
    let ColumnInfo { lsl, usl, .. } = column.info;
    check_limits(lsl, usl).map_err(|_| StudyError::BadOption {
        option: "measure".to_owned(),
        problem: format!("“{}” has no limits that fit; set them on the column, then its defects can be told", column.name),
    })?;
    let of = moments(values);
    let few = || StudyError::TooFewValues { column: column.name.clone(), have: of.n, need: 2 };
    let (mean, sd) = of.mean.zip(of.sd).ok_or_else(few)?;
    if sd == 0.0 {
        let problem = format!("all {} values are {mean}: without a spread there is no level", of.n);
        return Err(StudyError::BadOption { option: "measure".to_owned(), problem });
    }
    let sorted = sorted(values);
    let writer = Writer::of(&column.info, decimals(values));
    let numbers = of_normal(bare, Normal { mean, sd, lsl, usl }, Some(Seen { sorted: &sorted }), writer);
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

fn charted(spec: &Spec, roles: &[&str], chart: serde_json::Value) -> Spec {
    let roles: BTreeMap<String, RoleColumns> =
        spec.roles.iter().filter(|(role, _)| roles.contains(&role.as_str())).map(|(r, c)| (r.clone(), c.clone())).collect();
    Spec { method: "control-chart".to_owned(), roles, options: Map::from_iter([("chart".to_owned(), chart)]), ..Spec::default() }
}

/// Counts by sample, summed, or by step.
fn of_columns(bare: Numbers, params: &Params, frame: &Frame, opportunities: f64, cancel: &Cancel) -> Result<Answer, StudyError> {
    let number = |role: &'static str| -> Result<(String, std::sync::Arc<[f64]>), StudyError> {
        let column = params.spec.role(frame, role)?.ok_or(StudyError::MissingRole { role, choose: "a column" })?;
        match &column.values {
            Values::Number(values) => Ok((column.name.clone(), values.clone())),
            _ => Err(StudyError::WrongKind { role, column: column.name.clone(), found: column.kind.words(), needed: "whole number" }),
        }
    };
    let ((name, defects), (_, units)) = (number("count")?, number("size")?);
    let step = params.spec.role(frame, "step")?;
    let mut known: HashMap<u64, usize> = HashMap::new();
    let mut steps: Vec<Counts> = Vec::new();
    let mut single = true;
    for row in 0..frame.rows() {
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
        single &= opportunities == 1.0;
        let key = step.map_or(0, |column| column.values.key(row));
        let place = *known.entry(key).or_insert(steps.len());
        if place == steps.len() {
            if place == STEPS_MOST {
                return Err(StudyError::TooManyGroups {
                    columns: step.map(|column| column.name.clone()).unwrap_or_default(),
                    most: STEPS_MOST,
                });
            }
            let name = step.map(|column| column.values.text(row).unwrap_or_else(|| format!("no {}", column.name))).unwrap_or_default();
            steps.push(Counts { name, units: 0.0, opportunities, defects: 0.0 });
        }
        steps[place].units += inspected;
        steps[place].defects += found;
    }
    if steps.is_empty() {
        return Err(StudyError::TooFewValues { column: name, have: 0, need: 1 });
    }
    steps.retain(|counts| counts.units > 0.0);
    if steps.is_empty() {
        return Err(StudyError::BadOption { option: "size".to_owned(), problem: "no unit was inspected".to_owned() });
    }
    steps.iter().try_for_each(check_counts)?;
    let numbers = of_counts(bare, &steps);
    // Steps are different processes: one chart of all would say nothing.
    if steps.len() > 1 {
        return Ok(Answer { numbers, chart: None });
    }
    let kind = if single { json!("p") } else { json!("u") };
    let chart = control_chart::chart(frame, &charted(&params.spec, &["count", "size", "label", "order"], kind), cancel)?;
    Ok(with_chart(numbers, chart))
}
