//! From checked parameters to an answer: the scale, the chart that judges it, indices and figure.

use std::borrow::Cow;
use std::sync::Arc;

use serde_json::{Map, Number, Value};

use super::agreement;
use super::answer::Answer;
use super::assumed::{AssumedDistribution, BELOW_BOUND, take};
use super::curves::Spread;
use super::indices::{Indices, Limits, ShareOutside, THREE_SDS, both_interval, even_scale, from_even_scale, of_shape, worse_interval};
use super::need::Need;
use super::numbers::{Candidate, Control, FitNumbers, LimitsInUse, Numbers, SigmaLine, Transform};
use super::params::{Params, together};
use super::tolerance;
use crate::control_chart::Chart;
use acorn_data::figure::histogram::{Bin, Scale};
use acorn_data::figure::probability::plot;
use acorn_maths::cut_off::cut_off;
use acorn_maths::describe::{self, Moments, moments};
use acorn_maths::is_shared;
use acorn_maths::judgement::{coarse, many_zeros, misfits, unlikely};
use acorn_maths::shape::{anderson_darling, skewness_and_kurtosis};
use acorn_maths::shapes::{Fitted, Shape, Untested, bootstrap};
use acorn_maths::sorting::Sorted;
use acorn_study::dial::Dial;
use acorn_study::gauge::share::GaugeShare;
use acorn_study::{Cancel, StudyError};

/// An interval of Ppk wider than this on its even scale, some 1 to 20, says that there are too few values for any.
const WIDEST: f64 = 6.0;

/// Answers a specification.
///
/// # Errors
/// [`StudyError::TooFewValues`] without a value, [`StudyError::BadOption`] for limits or a shape that cannot be,
/// what the chart refuses, [`StudyError::Stopped`].
pub fn answer(params: Params, cancel: &Cancel) -> Result<Answer, StudyError> {
    let columns = params.values()?;
    let values = together(&columns);
    // Neither waits for the other.
    let (sorted, plain) = (|| Sorted::of(&values), || params.chart(&columns, cancel));
    let (sorted, plain) = if is_shared(values.len()) { rayon::join(sorted, plain) } else { (sorted(), plain()) };
    if sorted.is_empty() {
        return Err(StudyError::TooFewValues { column: params.measure.name.clone(), have: 0, need: 1 });
    }
    cancel.check()?;
    let (assumed, ranked) = take(&params, &sorted, cancel)?;
    let plain = plain?;
    let scaled = if assumed.is_plain() { None } else { Some(on_scale(&params, &assumed, &columns, cancel)?) };
    let chart = scaled.as_ref().unwrap_or(&plain);
    let numbers = Work { params: &params, sorted: &sorted, assumed: &assumed, plain: &plain, chart, missing: values.len() - sorted.len() }
        .numbers(&ranked, cancel)?;
    let chart = scaled.unwrap_or(plain);
    // What the verdict says first leaves nothing for the shapes to agree on.
    let agreement = match numbers.misfits && chart.settles_first().is_none() {
        true => agreement::of(&sorted, Limits { lsl: params.lsl, usl: params.usl }, params.goal, params.seed, cancel)?,
        false => None,
    };
    let cut_off = cut_off(&sorted, params.lsl, params.usl);
    Ok(Answer {
        params,
        assumed,
        numbers,
        agreement,
        cut_off,
        zeros: many_zeros(&sorted),
        lowest: sorted[0],
        distinct: coarse(&sorted),
        chart,
    })
}

/// The chart of the values on the scale on which their shape is normal.
fn on_scale(params: &Params, assumed: &AssumedDistribution, columns: &[Arc<[f64]>], cancel: &Cancel) -> Result<Chart, StudyError> {
    let score = |&x: &f64| if x.is_nan() { x } else { assumed.score(x) };
    let scaled: Vec<Arc<[f64]>> = columns.iter().map(|values| values.iter().map(score).collect()).collect();
    params.chart(&scaled, cancel)
}

struct Work<'a> {
    params: &'a Params,
    sorted: &'a Sorted,
    assumed: &'a AssumedDistribution,
    /// Of the values as they are.
    plain: &'a Chart,
    /// On the scale of the shape.
    chart: &'a Chart,
    missing: usize,
}

impl Work<'_> {
    fn numbers(&self, ranked: &[Fitted], cancel: &Cancel) -> Result<Numbers, StudyError> {
        let Work { params, sorted, assumed, plain, chart, missing } = *self;
        let of = moments(sorted);
        let n = of.n as f64;
        let gauge = GaugeShare::of(params.measure.measuring.as_ref(), of.sd);
        let raw = Limits { lsl: params.lsl, usl: params.usl };
        let scores: Cow<Sorted> = match assumed.is_plain() {
            true => Cow::Borrowed(sorted),
            false => Cow::Owned(sorted.on_scale(|x| assumed.score(x))),
        };
        let scale = if assumed.is_plain() { of } else { moments(&scores) };
        let limits = Limits { lsl: raw.lsl.map(|lsl| assumed.score(lsl)), usl: raw.usl.map(|usl| assumed.score(usl)) };
        let centre = scale.mean.unwrap_or(f64::NAN);
        let sd = scale.sd.unwrap_or(f64::NAN);
        let varies = sd > 0.0;
        let lean = skewness_and_kurtosis(sorted);
        let rivals = assumed.fitting_as_well(ranked, sorted, params.bound);

        // Short-term: the mean and the sd from neighbours, or those known from before. Johnson's functions and fitted
        // families are found from all values together, which leaves nothing to take short-term.
        let short = match (assumed, params.historical) {
            (_, Some(known)) => Some((known.mean, known.sigma, f64::INFINITY)),
            (AssumedDistribution::Normal | AssumedDistribution::BoxCox(_), None) => {
                chart.sigma_within.filter(|sigma| *sigma > 0.0).map(|sigma| (centre, sigma, chart.limits_df.unwrap_or(f64::NAN)))
            }
            _ => None,
        };
        let within = short.map_or_else(Indices::default, |(mean, sigma, _)| Indices::normal(limits, mean, sigma));
        let df = short.map_or(f64::NAN, |(_, _, df)| df);
        let overall = match assumed {
            AssumedDistribution::Percentile | AssumedDistribution::Fitted(_) if !varies => Indices::default(),
            AssumedDistribution::Percentile => Indices::percentiles(raw, THREE_SDS.map(|(p, _)| sorted.quantile(p).unwrap_or(f64::NAN))),
            AssumedDistribution::Fitted(fitted) => of_shape(raw, &fitted.shape),
            _ => Indices::normal(limits, centre, sd),
        };
        let expected_overall = match assumed {
            AssumedDistribution::Fitted(_) => ShareOutside::fitted(raw, assumed),
            AssumedDistribution::Percentile => ShareOutside::default(),
            _ => ShareOutside::normal(limits, centre, sd),
        };
        let expected_within = short.map_or_else(ShareOutside::default, |(mean, sigma, _)| ShareOutside::normal(limits, mean, sigma));
        let alarms = chart.alarms();
        let test = of.mean.zip(of.sd).and_then(|(mean, sd)| anderson_darling(sorted, mean, sd));
        let ppk_ci95 = match assumed {
            AssumedDistribution::Fitted(fitted) => {
                let even = |shape: Shape| of_shape(raw, &shape).worse.map(even_scale);
                bootstrap(&fitted.shape, sorted.len(), even, params.seed, cancel)?
                    .filter(|[low, high]| high - low < WIDEST)
                    .map(|ends| ends.map(from_even_scale))
            }
            AssumedDistribution::Percentile => None,
            _ => worse_interval(overall.worse, n, n - 1.0),
        };
        let (shape_p, statistic) = match assumed {
            AssumedDistribution::Fitted(fitted) => (fitted.p, Some(fitted.ad)),
            AssumedDistribution::Percentile => (None, None),
            AssumedDistribution::Normal => (test.map(|test| test.p), test.map(|test| test.a2)),
            _ => anderson_darling(&scores, centre, sd).map_or((None, None), |test| (Some(test.p), Some(test.a2))),
        };
        let is_normal = matches!(assumed, AssumedDistribution::Normal | AssumedDistribution::BoxCox(_) | AssumedDistribution::Johnson(_));
        let bins = Scale::of(sorted, params.bars)?.map_or_else(Vec::new, |scale| scale.fill(sorted, sorted[sorted.len() - 1]));
        let spread = |mean: f64, sd: f64| Spread { assumed, mean, sd };
        let long = match assumed {
            AssumedDistribution::Fitted(_) => spread(0.0, 1.0),
            _ => spread(centre, sd),
        };
        let shaped = varies && *assumed != AssumedDistribution::Percentile;
        let at = |score: f64| Some(long.at(score)).filter(|value| is_normal && value.is_finite());
        Ok(Numbers {
            n: of.n,
            missing,
            mean: of.mean,
            sd_overall: of.sd,
            ppk_without_gauge: gauge
                .as_ref()
                .filter(|_| matches!(assumed, AssumedDistribution::Normal))
                .and_then(|gauge| Some(overall.worse? * of.sd? / gauge.sd_without?)),
            gauge,
            sd_within: params.historical.map(|known| known.sigma).or(plain.sigma_within),
            cp: within.both,
            cpl: within.lower,
            cpu: within.upper,
            cpk: within.worse,
            pp: overall.both,
            ppl: overall.lower,
            ppu: overall.upper,
            ppk: overall.worse,
            cpm: self.cpm(&of),
            cp_ci95: both_interval(within.both, df),
            cpk_ci95: worse_interval(within.worse, n, df),
            pp_ci95: both_interval(overall.both.filter(|_| is_normal), n - 1.0),
            ppk_ci95,
            z_bench_within: expected_within.z_bench(),
            z_bench_overall: expected_overall.z_bench(),
            observed: ShareOutside::seen(raw, sorted),
            expected_within,
            expected_overall,
            ad: test.map(|test| test.a2),
            ad_star: test.map(|test| test.a2_star),
            ad_p: test.map(|test| test.p),
            shape_p,
            misfits: misfits(of.n, shape_p.map(|p| p * params.among as f64), statistic),
            shape: assumed.display_text(),
            skewness: lean.0,
            kurtosis: lean.1,
            steady: chart.steady(),
            signals: alarms.seen,
            signals_expected: alarms.expected,
            signals_by_chance: alarms.by_chance,
            control: self.control(),
            transform: self.transform(&scale),
            fit: match assumed {
                AssumedDistribution::Fitted(fitted) => Some(fit_numbers(fitted)),
                _ => None,
            },
            ppk_by_shape: span(rivals.iter().map(|shape| of_shape(raw, shape).worse)),
            outside_by_shape: span(rivals.iter().map(|shape| ShareOutside::of_shape(raw, shape).total)),
            shapes: ranked.iter().map(|fitted| self.candidate(fitted, raw, &bins)).collect(),
            limits: LimitsInUse { lsl: params.lsl, target: params.target, usl: params.usl, bound: params.bound },
            short_term: short.map_or_else(Vec::new, |(mean, sigma, _)| spread(mean, sigma).curve(&bins, of.n)),
            long_term: if shaped { long.curve(&bins, of.n) } else { Vec::new() },
            sigma_lines: if shaped { sigma_lines(&long) } else { Vec::new() },
            plot: if varies { plot(sorted, |score| long.at(score)) } else { Vec::new() },
            tolerance: if varies { tolerance::intervals(sorted, at, [raw.lsl.is_some(), raw.usl.is_some()]) } else { Vec::new() },
            // Percentiles of the values give no interval, so that no number of values has a known one.
            need: overall
                .worse
                .filter(|_| *assumed != AssumedDistribution::Percentile)
                .map(|ppk| Need::of(ppk, params.wanted, ppk_ci95.filter(|_| !is_normal).map(|ends| (of.n, ends)))),
            writer: params.measure.info.writer(describe::decimals(sorted)),
            dial: self.dial(overall.worse),
            bins,
            chart: None,
        })
    }

    /// Cpm = (USL - LSL) / 6√(s² + (x̄ - T)²) (Chan, Cheng and Spiring 1988), of values as they are.
    fn cpm(&self, of: &Moments) -> Option<f64> {
        let (lsl, usl, target) = (self.params.lsl?, self.params.usl?, self.params.target?);
        let (mean, sd) = (of.mean?, of.sd?);
        let about = (sd * sd + (mean - target) * (mean - target)).sqrt();
        (*self.assumed == AssumedDistribution::Normal && about > 0.0).then(|| (usl - lsl) / (6.0 * about))
    }

    fn control(&self) -> Option<Control> {
        if self.params.subgroups.is_some() {
            return None;
        }
        let lines = |panel: usize| self.chart.panels.get(panel).and_then(|panel| panel.phases.last());
        let value = |y: f64| Some(self.assumed.value_at(y)).filter(|value| value.is_finite());
        let (location, ranges) = (lines(0)?, lines(1)?);
        Some(Control {
            center: location.center.and_then(value),
            lcl: location.lcl.and_then(value),
            ucl: location.ucl.and_then(value),
            mr_center: ranges.center,
            mr_ucl: ranges.ucl,
        })
    }

    fn transform(&self, scale: &Moments) -> Option<Transform> {
        let (mean, sd_overall) = (scale.mean?, scale.sd?);
        let bare =
            |kind, lambda| Transform { kind, lambda, family: None, gamma: None, delta: None, xi: None, mean, sd_overall, sd_within: None };
        match self.assumed {
            AssumedDistribution::BoxCox(power) => Some(Transform { sd_within: self.chart.sigma_within, ..bare("box-cox", power.lambda) }),
            AssumedDistribution::Johnson(system) => Some(Transform {
                family: Some(system.system),
                gamma: Some(system.gamma),
                delta: Some(system.delta),
                xi: Some(system.xi),
                ..bare("johnson", system.lambda)
            }),
            _ => None,
        }
    }

    fn candidate(&self, fitted: &Fitted, limits: Limits, bins: &[Bin]) -> Candidate {
        let assumed = AssumedDistribution::Fitted(*fitted);
        let fit = fit_numbers(fitted);
        Candidate {
            refuted: unlikely(fit.p),
            untested: fitted.untested.map(Untested::display_text),
            fit,
            assumed: assumed == *self.assumed,
            below_bound: self.params.bound.is_some_and(|bound| fitted.shape.below(bound) > BELOW_BOUND),
            ppk: of_shape(limits, &fitted.shape).worse,
            out: ShareOutside::fitted(limits, &assumed).total,
            curve: Spread { assumed: &assumed, mean: 0.0, sd: 1.0 }.curve(bins, self.sorted.len()),
        }
    }

    /// Values and their spread as they are; steadiness and Ppk by the shape that is assumed.
    fn dial(&self, ppk: Option<f64>) -> Dial {
        let mut info = self.params.measure.info.clone();
        (info.lsl, info.usl) = (self.params.lsl, self.params.usl);
        let Dial { signals, steady, tone, title, recent_signals, .. } = self.chart.dial(&info);
        Dial { ppk, signals, steady, tone, title, recent_signals, ..self.plain.dial(&info) }
    }
}

fn sigma_lines(long: &Spread) -> Vec<SigmaLine> {
    let line = |sds: i8| SigmaLine { sds, value: long.at(f64::from(sds)) };
    [-3, -2, -1, 1, 2, 3].map(line).into_iter().filter(|line| line.value.is_finite()).collect()
}

/// The smallest and the largest of what is known.
fn span(values: impl Iterator<Item = Option<f64>>) -> Option<[f64; 2]> {
    values.flatten().filter(|value| value.is_finite()).map(|value| [value, value]).reduce(|[low, high], [a, b]| [low.min(a), high.max(b)])
}

fn fit_numbers(fitted: &Fitted) -> FitNumbers {
    let number = |(name, value): (&str, f64)| (name.to_owned(), Number::from_f64(value).map_or(Value::Null, Value::Number));
    FitNumbers {
        name: fitted.shape.family.name(),
        words: fitted.shape.family.display_text(),
        parameters: fitted.shape.parameters().into_iter().map(number).collect::<Map<_, _>>(),
        aic: fitted.aic,
        ad: Some(fitted.ad).filter(|ad| ad.is_finite()),
        p: fitted.p,
    }
}
