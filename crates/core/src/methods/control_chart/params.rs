//! What a control chart takes, checked once.

use std::collections::HashSet;
use std::sync::Arc;

use serde::Deserialize;

use super::patterns::{Pattern, Watch};
use crate::frame::{Column, Frame, Kind};
use crate::study::{Options, Spec, StudyError, in_range};

/// The kinds of chart.
#[derive(Clone, Copy, Debug, Default, PartialEq, Eq, Deserialize)]
#[serde(rename_all = "kebab-case")]
pub enum ChartKind {
    /// Individuals with moving range.
    #[default]
    Individuals,
}

impl ChartKind {
    /// Its name in a specification.
    pub fn name(self) -> &'static str {
        match self {
            ChartKind::Individuals => "individuals",
        }
    }
}

/// What the limits come from.
#[derive(Clone, Copy, Debug, Default, PartialEq, Deserialize)]
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
        /// The centre, in the unit of the measure.
        center: f64,
        /// The process sd, in the unit of the measure.
        sigma: f64,
    },
}

/// How the process sd is estimated.
#[derive(Clone, Copy, Debug, Default, PartialEq, Eq, Deserialize)]
#[serde(rename_all = "kebab-case")]
pub enum SigmaFrom {
    /// Mean moving range over d2.
    #[default]
    MrMean,
    /// Median moving range over the median range of normals.
    MrMedian,
}

#[derive(Deserialize)]
#[serde(deny_unknown_fields)]
struct PatternChoice {
    pattern: Pattern,
    length: Option<usize>,
}

/// Valid parameters: columns found and of the right kind, numbers within bounds.
pub struct Params<'f> {
    pub frame: &'f Frame,
    pub measure: &'f Column,
    pub values: &'f Arc<[f64]>,
    pub order: Option<&'f Column>,
    pub phase: Option<&'f Column>,
    pub label: Option<&'f Column>,
    pub chart: ChartKind,
    pub limits: LimitSource,
    pub sigma_from: SigmaFrom,
    pub width: f64,
    pub mr_length: usize,
    pub omit: HashSet<i64>,
    pub watches: Vec<Watch>,
}

/// Longest stretch a moving range may span.
const MR_LENGTH_MAX: usize = 100;

impl<'f> Params<'f> {
    /// Checks a specification against a frame.
    ///
    /// # Errors
    /// [`StudyError`] names the role or option.
    pub fn check(frame: &'f Frame, spec: &Spec) -> Result<Params<'f>, StudyError> {
        spec.known_roles(&["measure", "order", "phase", "label"])?;
        let mut options = Options::of(spec);
        let chart = options.take("chart")?.unwrap_or_default();
        let limits = options.take("limits")?.unwrap_or_default();
        let sigma_from = options.take("sigma")?.unwrap_or_default();
        let width = options.take("width")?.unwrap_or(3.0);
        let mr_length: usize = options.take("mr_length")?.unwrap_or(2);
        let omit = options.take::<HashSet<i64>>("omit")?.unwrap_or_default();
        let choices = options.take::<Vec<PatternChoice>>("patterns")?;
        options.finish()?;

        let measure = spec.role(frame, "measure")?;
        let measure = measure.ok_or(StudyError::MissingRole { role: "measurement", choose: "a measurement" })?;
        let wrong = || StudyError::WrongKind {
            role: "measurement",
            column: measure.name.clone(),
            found: measure.kind.words(),
            needed: Kind::Number.words(),
        };
        let values = match &measure.values {
            crate::frame::Values::Number(values) => values,
            _ => return Err(wrong()),
        };
        in_range("width", width, 0.5, 10.0)?;
        in_range("mr_length", mr_length as f64, 2.0, MR_LENGTH_MAX as f64)?;
        if let LimitSource::Known { center, sigma } = limits {
            in_range("limits.center", center, f64::MIN, f64::MAX)?;
            in_range("limits.sigma", sigma, 0.0, f64::MAX)?;
        }
        if let LimitSource::Baseline { first, last } = limits {
            let end = frame.rows().saturating_sub(1) as f64;
            in_range("limits.last", last as f64, 0.0, end)?;
            in_range("limits.first", first as f64, 0.0, last as f64)?;
        }
        Ok(Params {
            frame,
            measure,
            values,
            order: spec.role(frame, "order")?,
            phase: spec.role(frame, "phase")?,
            label: spec.role(frame, "label")?,
            chart,
            limits,
            sigma_from,
            width,
            mr_length,
            omit,
            watches: watches(choices)?,
        })
    }
}

/// The chosen patterns with their lengths; the usual four when nothing was said. Naming one twice keeps the last.
fn watches(choices: Option<Vec<PatternChoice>>) -> Result<Vec<Watch>, StudyError> {
    let Some(choices) = choices else {
        return Ok(Pattern::ALL.into_iter().filter(|pattern| pattern.default_on()).map(Watch::usual).collect());
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
    Ok(watches)
}
