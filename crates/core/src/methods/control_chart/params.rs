//! What a control chart takes, checked once.

use std::collections::{BTreeMap, HashSet};
use std::sync::Arc;

use serde::{Deserialize, Serialize};

use super::kind::ChartKind;
use super::patterns::{Pattern, Watch};
use crate::frame::{Column, Frame, Kind, Values};
use crate::study::{Options, RoleColumns, Spec, StudyError, in_range};

/// What the limits come from.
#[derive(Clone, Debug, Default, PartialEq, Deserialize)]
#[serde(tag = "from", rename_all = "kebab-case", deny_unknown_fields)]
pub enum LimitSource {
    /// All values, of each phase on its own.
    #[default]
    Data,
    /// A stretch of points, both ends included, counted from 0.
    Baseline {
        /// First point.
        first: usize,
        /// Last point.
        last: usize,
    },
    /// Values known beforehand.
    Known {
        /// The centre: a mean in the unit of the measure, a share, a count or a rate.
        center: f64,
        /// The process sd in the unit of the measure; of a prime chart the widening. Counts need none.
        sigma: Option<f64>,
        /// Who set them.
        set_by: Option<String>,
        /// When they were set, as `2026-05-04`.
        set_on: Option<String>,
    },
}

/// How the process sd is estimated.
#[derive(Clone, Copy, Debug, PartialEq, Eq, Deserialize, Serialize)]
#[serde(rename_all = "kebab-case")]
pub enum SigmaFrom {
    /// Mean moving range over d2.
    MrMean,
    /// Median moving range over the median range of normals.
    MrMedian,
    /// Ranges of the samples over d2, weighted.
    Range,
    /// Sds of the samples over c4, weighted.
    Sd,
    /// Pooled variance of the samples, over c4.
    Pooled,
}

/// How values are gathered into samples.
#[derive(Clone, Copy, Debug)]
pub enum Sampling<'f> {
    /// A sample for each label of a column.
    Column(&'f Column),
    /// So many rows in a row.
    Consecutive(usize),
    /// The columns of a row, side by side.
    SideBySide,
}

/// How many were inspected.
#[derive(Clone, Copy, Debug)]
pub enum Inspected<'f> {
    /// As the column says, by row.
    Column(&'f Arc<[f64]>),
    /// Always as many.
    Constant(f64),
}

/// A new phase from a point on.
#[derive(Clone, Debug, PartialEq, Deserialize)]
#[serde(deny_unknown_fields)]
pub struct Cut {
    /// Its first point.
    pub first: usize,
    /// What it is called.
    pub name: Option<String>,
}

/// The distribution of the time between events.
#[derive(Clone, Copy, Debug, Default, PartialEq, Eq, Deserialize)]
#[serde(rename_all = "kebab-case")]
pub enum TimeShape {
    /// Weibull.
    #[default]
    Weibull,
    /// Exponential.
    Exponential,
}

/// How the limits of a chart of counts between events are taken.
#[derive(Clone, Copy, Debug, Default, PartialEq, Eq, Deserialize)]
#[serde(rename_all = "kebab-case")]
pub enum Tails {
    /// By probability: as much in each tail as a normal has.
    #[default]
    Probability,
    /// So many sds about the mean.
    Sigma,
}

#[derive(Deserialize)]
#[serde(deny_unknown_fields)]
struct PatternChoice {
    pattern: Pattern,
    length: Option<usize>,
}

/// Valid parameters: columns found and of the right kind, numbers within bounds.
#[derive(Clone)]
pub struct Params<'f> {
    pub frame: &'f Frame,
    pub kind: ChartKind,
    /// The charted columns: one, or several side by side.
    pub columns: Vec<&'f Column>,
    pub sampling: Option<Sampling<'f>>,
    pub inspected: Option<Inspected<'f>>,
    pub part: Option<&'f Column>,
    pub target: Option<&'f Column>,
    pub targets: BTreeMap<String, f64>,
    pub standardised: bool,
    pub order: Option<&'f Column>,
    pub phase: Option<&'f Column>,
    pub label: Option<&'f Column>,
    pub cuts: Vec<Cut>,
    pub limits: LimitSource,
    pub sigma_from: SigmaFrom,
    pub width: f64,
    pub mr_length: usize,
    pub lambda: f64,
    pub reference: f64,
    pub decision: f64,
    pub time_shape: TimeShape,
    pub tails: Tails,
    pub omit: HashSet<i64>,
    pub watches: Vec<Watch>,
}

/// Longest stretch a moving range may span.
const MR_LENGTH_MAX: usize = 100;
/// Largest sample of consecutive rows.
const SAMPLE_MAX: usize = 10_000;
/// Most columns side by side.
const SIDE_BY_SIDE_MAX: usize = 100;
/// Most phases cut by hand.
const CUTS_MAX: usize = 50;
const ROLES: [&str; 9] = ["measure", "count", "size", "subgroup", "order", "phase", "label", "part", "target"];

impl<'f> Params<'f> {
    /// Checks a specification against a frame.
    ///
    /// # Errors
    /// [`StudyError`] names the role or option.
    pub fn check(frame: &'f Frame, spec: &Spec) -> Result<Params<'f>, StudyError> {
        spec.known_roles(&ROLES)?;
        let mut options = Options::of(spec);
        let kind: ChartKind = options.take("chart")?.unwrap_or_default();
        let limits: LimitSource = options.take("limits")?.unwrap_or_default();
        let sigma_from = options.take("sigma")?;
        let width = in_range("width", options.take("width")?.unwrap_or(3.0), 0.5, 10.0)?;
        let mr_length: usize = options.take("mr_length")?.unwrap_or(2);
        let lambda = in_range("lambda", options.take("lambda")?.unwrap_or(0.2), 0.01, 1.0)?;
        let reference = in_range("k", options.take("k")?.unwrap_or(0.5), 0.0, 10.0)?;
        let decision = in_range("h", options.take("h")?.unwrap_or(5.0), 0.1, 100.0)?;
        let constant_size: Option<f64> = options.take("size")?;
        let subgroup_size: Option<usize> = options.take("subgroup_size")?;
        let targets = options.take("targets")?.unwrap_or_default();
        let standardised = options.take("standardised")?.unwrap_or_default();
        let time_shape = options.take("time_shape")?.unwrap_or_default();
        let tails = options.take("tails")?.unwrap_or_default();
        let omit = spec.omit.iter().copied().collect();
        let cuts: Vec<Cut> = options.take("cuts")?.unwrap_or_default();
        let choices = options.take::<Vec<PatternChoice>>("patterns")?;
        options.finish()?;
        in_range("mr_length", mr_length as f64, 2.0, MR_LENGTH_MAX as f64)?;
        in_range("cuts", cuts.len() as f64, 0.0, CUTS_MAX as f64)?;
        check_limits(&limits, kind)?;

        let columns = charted(frame, spec, kind)?;
        let sampling = sampling(frame, spec, kind, columns.len(), subgroup_size)?;
        let number_role = |role: &'static str| spec.role(frame, role)?.map(|column| numbers(column, role).map(|_| column)).transpose();
        Ok(Params {
            frame,
            kind,
            sampling,
            inspected: inspected(frame, spec, kind, constant_size)?,
            part: spec.role(frame, "part")?,
            target: number_role("target")?,
            order: spec.role(frame, "order")?,
            phase: spec.role(frame, "phase")?,
            label: spec.role(frame, "label")?,
            sigma_from: sigma(sigma_from, kind, sampling.is_some())?,
            watches: watches(choices, kind)?,
            columns,
            targets,
            standardised,
            cuts,
            limits,
            width,
            mr_length,
            lambda,
            reference,
            decision,
            time_shape,
            tails,
            omit,
        })
    }

    /// The first charted column.
    pub fn column(&self) -> &'f Column {
        self.columns[0]
    }

    /// Its values.
    pub fn values(&self) -> &'f Arc<[f64]> {
        numbers(self.columns[0], "measurement").expect("charted columns are checked to hold numbers")
    }
}

/// The numbers of a column.
pub fn numbers<'f>(column: &'f Column, role: &'static str) -> Result<&'f Arc<[f64]>, StudyError> {
    match &column.values {
        Values::Number(values) => Ok(values),
        _ => Err(StudyError::WrongKind { role, column: column.name.clone(), found: column.kind.words(), needed: Kind::Number.words() }),
    }
}

/// The charted columns: a count where the chart counts, else a measurement.
fn charted<'f>(frame: &'f Frame, spec: &Spec, kind: ChartKind) -> Result<Vec<&'f Column>, StudyError> {
    let (role, label, choose) = match kind {
        _ if kind.counts() => ("count", "count", "a count"),
        ChartKind::G if spec.roles.contains_key("count") => ("count", "count", "a count"),
        _ => ("measure", "measurement", "a measurement"),
    };
    let columns = match spec.roles.get(role) {
        Some(RoleColumns::Many(names)) if kind.may_be_sampled() && names.len() > 1 => {
            in_range(role, names.len() as f64, 1.0, SIDE_BY_SIDE_MAX as f64)?;
            let find = |name: &String| {
                let unknown = || StudyError::UnknownColumn { role: role.to_owned(), column: name.clone() };
                frame.column(name).ok_or_else(unknown)
            };
            names.iter().map(find).collect::<Result<Vec<_>, _>>()?
        }
        _ => vec![spec.role(frame, role)?.ok_or(StudyError::MissingRole { role: label, choose })?],
    };
    columns.iter().try_for_each(|column| numbers(column, label).map(|_| ()))?;
    Ok(columns)
}

fn sampling<'f>(
    frame: &'f Frame,
    spec: &Spec,
    kind: ChartKind,
    columns: usize,
    subgroup_size: Option<usize>,
) -> Result<Option<Sampling<'f>>, StudyError> {
    if !kind.may_be_sampled() {
        return Ok(None);
    }
    if columns > 1 {
        return Ok(Some(Sampling::SideBySide));
    }
    if let Some(column) = spec.role(frame, "subgroup")? {
        return Ok(Some(Sampling::Column(column)));
    }
    match subgroup_size {
        Some(size) => {
            in_range("subgroup_size", size as f64, 2.0, SAMPLE_MAX as f64)?;
            Ok(Some(Sampling::Consecutive(size)))
        }
        None if kind.always_sampled() => Err(StudyError::MissingRole { role: "sample", choose: "a sample column or a sample size" }),
        None => Ok(None),
    }
}

fn inspected<'f>(frame: &'f Frame, spec: &Spec, kind: ChartKind, constant: Option<f64>) -> Result<Option<Inspected<'f>>, StudyError> {
    if !kind.counts() || kind == ChartKind::C {
        return Ok(None);
    }
    if let Some(column) = spec.role(frame, "size")? {
        return Ok(Some(Inspected::Column(numbers(column, "number inspected")?)));
    }
    match constant {
        Some(size) => Ok(Some(Inspected::Constant(in_range("size", size, f64::MIN_POSITIVE, 1e15)?))),
        None => Err(StudyError::MissingRole { role: "number inspected", choose: "a column with the number inspected, or one number" }),
    }
}

fn check_limits(limits: &LimitSource, kind: ChartKind) -> Result<(), StudyError> {
    let LimitSource::Known { center, sigma, .. } = limits else { return Ok(()) };
    let low = if kind.counts() { 0.0 } else { f64::MIN };
    let high = if kind.counts_pieces() && kind != ChartKind::Np { 1.0 } else { f64::MAX };
    in_range("limits.center", *center, low, high)?;
    match sigma {
        Some(sigma) => in_range("limits.sigma", *sigma, 0.0, f64::MAX).map(|_| ()),
        None if kind.limits_from_counting() || matches!(kind, ChartKind::Run | ChartKind::G | ChartKind::T) => Ok(()),
        None => Err(StudyError::BadOption { option: "limits".into(), problem: "known values need a sigma".into() }),
    }
}

/// The estimator of the sd: the usual one of the chart, or the one asked for where it makes sense.
fn sigma(asked: Option<SigmaFrom>, kind: ChartKind, sampled: bool) -> Result<SigmaFrom, StudyError> {
    let usual = match kind {
        ChartKind::XbarS => SigmaFrom::Sd,
        _ if sampled => SigmaFrom::Range,
        _ => SigmaFrom::MrMean,
    };
    let Some(asked) = asked.filter(|_| !kind.limits_from_counting()) else { return Ok(usual) };
    let of_samples = !matches!(asked, SigmaFrom::MrMean | SigmaFrom::MrMedian);
    if of_samples == sampled {
        return Ok(asked);
    }
    let problem = if sampled { "samples take range, sd or pooled" } else { "single values take mr-mean or mr-median" };
    Err(StudyError::BadOption { option: "sigma".into(), problem: problem.into() })
}

/// The chosen patterns with their lengths; the usual ones of the chart when nothing was said. Naming one twice
/// keeps the last; one that makes no sense on the chart is not watched.
fn watches(choices: Option<Vec<PatternChoice>>, kind: ChartKind) -> Result<Vec<Watch>, StudyError> {
    let Some(choices) = choices else {
        return Ok(kind.default_watches());
    };
    let mut watches: Vec<Watch> = Vec::new();
    for PatternChoice { pattern, length } in choices {
        let mut watch = Watch::usual(pattern);
        if let (Some(length), Some(bounds)) = (length, pattern.length()) {
            in_range(pattern.name(), length as f64, bounds.low as f64, bounds.high as f64)?;
            watch.length = length;
        }
        watches.retain(|other| other.pattern != pattern);
        watches.push(watch);
    }
    watches.retain(|watch| kind.takes(watch.pattern));
    Ok(watches)
}
