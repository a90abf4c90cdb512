//! What a control chart takes.

use std::collections::{BTreeMap, HashSet};
use std::sync::Arc;

use serde::{Deserialize, Serialize};

use super::kind::ChartKind;
use super::patterns::{Pattern, RunRule};
use acorn_data::frame::{Column, Frame};
use acorn_study::periods::Step;
use acorn_study::reading::{bad, numbers};
use acorn_study::{StudyError, ValidatedSpec, in_range};

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
    /// Rows of a log, counted by a column or by the calendar.
    Periods(&'f Column, Step),
}

impl Sampling<'_> {
    /// Whether it gathers measured values, whose spread can be told.
    pub fn of_values(self) -> bool {
        !matches!(self, Sampling::Periods(..))
    }
}

/// How many were inspected.
#[derive(Clone, Copy, Debug)]
pub enum Inspected<'f> {
    /// As the column says, by row.
    Column(&'f Arc<[f64]>),
    /// Always as many.
    Constant(f64),
    /// As is given for each point by its name.
    PerPoint,
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

/// A pattern to watch for, with its length when it is not the usual one.
#[derive(Clone, Copy, Debug, Deserialize)]
#[serde(deny_unknown_fields)]
pub struct PatternChoice {
    pattern: Pattern,
    length: Option<usize>,
}

/// The statement, read.
#[derive(Clone)]
pub struct Params<'f> {
    /// The data.
    pub frame: &'f Frame,
    /// The kind of chart.
    pub kind: ChartKind,
    /// The charted columns: one, or several side by side.
    pub columns: Vec<&'f Column>,
    /// How values are gathered into samples.
    pub sampling: Option<Sampling<'f>>,
    /// Of counts: how many were inspected.
    pub inspected: Option<Inspected<'f>>,
    /// How many were inspected, by the name of a point.
    pub sizes: BTreeMap<String, f64>,
    /// Of short runs: the part of each row.
    pub part: Option<&'f Column>,
    /// Of short runs: the target of each row.
    pub target: Option<&'f Column>,
    /// Of short runs: the target of each part.
    pub targets: BTreeMap<String, f64>,
    /// Of short runs: whether deviations are divided by the sd of the part.
    pub standardised: bool,
    /// What orders the rows; their own order when absent.
    pub order: Option<&'f Column>,
    /// What tells phases apart.
    pub phase: Option<&'f Column>,
    /// What points are called by.
    pub label: Option<&'f Column>,
    /// Phases cut by hand.
    pub cuts: Vec<Cut>,
    /// What the limits come from.
    pub limits: LimitSource,
    /// How the process sd is estimated.
    pub sigma_from: SigmaFrom,
    /// Distance of the limits from the centre, in sd.
    pub width: f64,
    /// Values that a moving range spans.
    pub mr_length: usize,
    /// EWMA: the weight of the newest value.
    pub lambda: f64,
    /// CUSUM: the allowance k, in sd.
    pub reference: f64,
    /// CUSUM: the decision limit h, in sd.
    pub decision: f64,
    /// Of the time between events.
    pub time_shape: TimeShape,
    /// Of counts between events.
    pub tails: Tails,
    /// Rows left out of the limits, by id.
    pub omit: HashSet<i64>,
    /// The patterns looked for on the location panel.
    pub run_rules: Vec<RunRule>,
    /// Counts, one a point, in place of those of the column: drawn ones, to learn what chance does.
    pub counted: Option<Arc<[f64]>>,
    /// What the charted values can be: no limit lies beyond.
    pub bounds: [f64; 2],
    /// How many charts are judged at once: what is unlikely for one is not for one of many.
    pub among: usize,
}

impl<'f> Params<'f> {
    /// Reads a statement that fits its card.
    ///
    /// # Errors
    /// [`StudyError`] names the role or option.
    pub fn read(asked: &ValidatedSpec<'f>) -> Result<Params<'f>, StudyError> {
        let kind: ChartKind = asked.option("chart")?.unwrap_or_default();
        let limits: LimitSource = asked.option("limits")?.unwrap_or_default();
        check_limits(&limits, kind)?;
        let columns = charted(asked, kind)?;
        let sampling = sampling(asked, kind, columns.len())?;
        let usual = Params::plain(asked.frame(), kind, columns);
        let number = |option: &str, usual: f64| asked.number(option).unwrap_or(usual);
        Ok(Params {
            sampling,
            inspected: inspected(asked, kind)?,
            sizes: asked.option("sizes")?.unwrap_or_default(),
            part: asked.column("part"),
            target: asked.column("target"),
            targets: asked.option("targets")?.unwrap_or_default(),
            standardised: asked.is_on("standardised"),
            order: asked.column("order"),
            phase: asked.column("phase"),
            label: asked.column("label"),
            cuts: asked.option("cuts")?.unwrap_or_default(),
            limits,
            sigma_from: sigma(asked.option("sigma")?, kind, sampling.is_some_and(Sampling::of_values))?,
            width: number("width", usual.width),
            mr_length: asked.whole("mr_length").unwrap_or(usual.mr_length),
            lambda: number("lambda", usual.lambda),
            reference: number("k", usual.reference),
            decision: number("h", usual.decision),
            time_shape: asked.option("time_shape")?.unwrap_or_default(),
            tails: asked.option("tails")?.unwrap_or_default(),
            omit: asked.omit().iter().copied().collect(),
            run_rules: run_rules(asked.option("patterns")?, kind),
            bounds: bounds(kind, usual.column()),
            ..usual
        })
    }

    /// A chart of some columns with everything as usual.
    pub fn plain(frame: &'f Frame, kind: ChartKind, columns: Vec<&'f Column>) -> Params<'f> {
        Params {
            frame,
            kind,
            columns,
            sampling: None,
            inspected: None,
            sizes: BTreeMap::new(),
            part: None,
            target: None,
            targets: BTreeMap::new(),
            standardised: false,
            order: None,
            phase: None,
            label: None,
            cuts: Vec::new(),
            limits: LimitSource::default(),
            sigma_from: SigmaFrom::MrMean,
            width: 3.0,
            mr_length: 2,
            lambda: 0.2,
            reference: 0.5,
            decision: 5.0,
            time_shape: TimeShape::default(),
            tails: Tails::default(),
            omit: HashSet::new(),
            run_rules: kind.default_watches(),
            counted: None,
            bounds: [f64::NEG_INFINITY, f64::INFINITY],
            among: 1,
        }
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

/// The natural bounds of a measured column.
fn bounds(kind: ChartKind, column: &Column) -> [f64; 2] {
    let rules = &column.info.rules;
    let is_measured = matches!(kind, ChartKind::Individuals | ChartKind::XbarR | ChartKind::XbarS | ChartKind::XbarBetween);
    let bound = |bound: Option<f64>, without: f64| bound.filter(|_| is_measured).unwrap_or(without);
    [bound(rules.lower_bound, f64::NEG_INFINITY), bound(rules.upper_bound, f64::INFINITY)]
}

/// The charted columns: a count where the chart counts, of a log what its rows are counted by, else a measurement.
fn charted<'f>(asked: &ValidatedSpec<'f>, kind: ChartKind) -> Result<Vec<&'f Column>, StudyError> {
    let counts = kind.counts() || kind == ChartKind::G && asked.column("count").is_some();
    if let Some(per) = asked.column("per").filter(|_| kind.counts()) {
        return Ok(vec![per]);
    }
    let role = if counts { "count" } else { "measure" };
    let columns = asked.columns(role);
    if columns.is_empty() {
        return Err(asked.needed(role).err().unwrap_or(StudyError::MissingRole { role, choose: "a column" }));
    }
    columns.iter().try_for_each(|column| numbers(column, role).map(|_| ()))?;
    Ok(columns)
}

fn sampling<'f>(asked: &ValidatedSpec<'f>, kind: ChartKind, columns: usize) -> Result<Option<Sampling<'f>>, StudyError> {
    if let Some(per) = asked.column("per").filter(|_| kind.counts()) {
        return Ok(Some(Sampling::Periods(per, asked.option("step")?.unwrap_or_default())));
    }
    if !kind.may_be_sampled() {
        return Ok(None);
    }
    if columns > 1 {
        return Ok(Some(Sampling::SideBySide));
    }
    if let Some(column) = asked.column("subgroup") {
        return Ok(Some(Sampling::Column(column)));
    }
    match asked.whole("subgroup_size") {
        Some(size) => Ok(Some(Sampling::Consecutive(size))),
        None if kind.always_sampled() => Err(StudyError::MissingRole { role: "subgroup", choose: "a subgroup column or a subgroup size" }),
        None => Ok(None),
    }
}

fn inspected<'f>(asked: &ValidatedSpec<'f>, kind: ChartKind) -> Result<Option<Inspected<'f>>, StudyError> {
    if !kind.counts() || kind == ChartKind::C {
        return Ok(None);
    }
    if asked.column("size").is_some() {
        return Ok(Some(Inspected::Column(asked.numbers("size")?)));
    }
    if asked.is_given("sizes") {
        return Ok(Some(Inspected::PerPoint));
    }
    match asked.number("size") {
        Some(size) => Ok(Some(Inspected::Constant(size))),
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
        None => Err(bad("limits", "known values need a sigma")),
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
    let problem = if sampled { "subgroups take range, sd or pooled" } else { "single values take mr-mean or mr-median" };
    Err(bad("sigma", problem))
}

/// The chosen patterns with their lengths; the usual ones of the chart when nothing was said. Naming one twice
/// keeps the last; one that makes no sense on the chart is not watched.
pub fn run_rules(choices: Option<Vec<PatternChoice>>, kind: ChartKind) -> Vec<RunRule> {
    let Some(choices) = choices else {
        return kind.default_watches();
    };
    let mut run_rules: Vec<RunRule> = Vec::new();
    for PatternChoice { pattern, length } in choices {
        let usual = RunRule::usual(pattern);
        let length = length.filter(|_| pattern.length().is_some()).unwrap_or(usual.length);
        run_rules.retain(|other| other.pattern != pattern);
        run_rules.push(RunRule { length, ..usual });
    }
    run_rules.retain(|rule| kind.takes(rule.pattern));
    run_rules
}
