//! One panel of a chart: plotted values, the lines that judge them, and the signals found.

use std::borrow::Cow;
use std::sync::Arc;

use rayon::prelude::*;
use serde::Serialize;

use super::patterns::{RunRule, Signal};
use super::plotted::Plotted;
use super::points::{Phase, Points};
use super::search::{Search, Zones};
use acorn_maths::describe::{self, Moments};
use acorn_maths::is_shared;
use acorn_maths::words::ValueFormat;
use acorn_study::{Cancel, StudyError};

/// A panel before its signals are searched.
pub struct PanelSpec {
    /// What is plotted.
    pub plotted: Plotted,
    /// One value a point.
    pub values: Arc<[f64]>,
    /// What judges each phase.
    pub phase_limits: Vec<PhaseLimits>,
    /// Moments of the values, when they were needed on the way.
    pub moments: Option<Moments>,
}

impl PanelSpec {
    /// Values that nobody has looked through yet.
    pub fn new(plotted: Plotted, values: impl Into<Arc<[f64]>>, phase_limits: Vec<PhaseLimits>) -> PanelSpec {
        PanelSpec { plotted, values: values.into(), phase_limits, moments: None }
    }
}

/// Centre, sd and limits of a plotted statistic; NaN is unknown.
#[derive(Clone, Copy, Debug, PartialEq)]
pub struct Lines {
    pub center: f64,
    pub sd: f64,
    pub lcl: f64,
    pub ucl: f64,
}

impl Lines {
    /// Limits so many sd about a centre.
    pub fn about(center: f64, sd: f64, width: f64) -> Lines {
        Lines { center, sd, lcl: center - width * sd, ucl: center + width * sd }
    }

    /// A centre without limits.
    pub fn only(center: f64) -> Lines {
        Lines { center, sd: f64::NAN, lcl: f64::NAN, ucl: f64::NAN }
    }

    /// Limits kept to what the statistic can be; unknown ones stay unknown.
    pub fn within(self, floor: f64, ceiling: f64) -> Lines {
        let clip = |value: f64| if value.is_nan() { value } else { value.clamp(floor, ceiling) };
        Lines { lcl: clip(self.lcl), ucl: clip(self.ucl), ..self }
    }

    fn bits(&self) -> [u64; 4] {
        [self.center, self.sd, self.lcl, self.ucl].map(f64::to_bits)
    }
}

/// What judges the points of one phase.
pub enum PhaseLimits {
    /// The same lines for all; zones that are not so many sd about the centre are given.
    Even { lines: Lines, zones: Option<[f64; 7]> },
    /// Each point its own.
    Each(Vec<Lines>),
}

impl PhaseLimits {
    pub fn even(lines: Lines) -> PhaseLimits {
        PhaseLimits::Even { lines, zones: None }
    }

    /// Each point its own lines, or the same for all when they are.
    pub fn of(each: Vec<Lines>) -> PhaseLimits {
        match each.first() {
            Some(first) if each.iter().all(|lines| lines.bits() == first.bits()) => PhaseLimits::even(*first),
            _ => PhaseLimits::Each(each),
        }
    }

    fn at(&self, place: usize) -> Lines {
        match self {
            PhaseLimits::Even { lines, .. } => *lines,
            PhaseLimits::Each(each) => each[place],
        }
    }
}

/// The limits of one stretch of points; what varies within it is null.
#[derive(Clone, Debug, PartialEq, Serialize, utoipa::ToSchema)]
pub struct PhaseNumbers {
    /// The name of the phase; `None` when there is one only.
    pub label: Option<String>,
    /// First point.
    pub first: usize,
    /// Last point, included.
    pub last: usize,
    /// Centre line; `None` without values, or when it varies.
    pub center: Option<f64>,
    /// Lower control limit; `None` when the spread cannot be told, or when it varies.
    pub lcl: Option<f64>,
    /// Upper control limit; `None` when the spread cannot be told, or when it varies.
    pub ucl: Option<f64>,
    /// Sd of the plotted statistic; `None` when it varies.
    pub sigma: Option<f64>,
}

/// One panel of a chart.
pub struct Panel {
    /// What is plotted.
    pub plotted: Plotted,
    /// One value a point; NaN where there is none.
    pub values: Arc<[f64]>,
    /// Of a cumulative sum, the sums above and below; `values` are then the larger of the two, below negative.
    pub sums: Option<[Arc<[f64]>; 2]>,
    /// Moments of the values.
    pub moments: Moments,
    /// How many points have a value.
    pub present: usize,
    /// The smallest and the largest value; `None` without values.
    pub extent: Option<[f64; 2]>,
    /// Stretches with limits of their own.
    pub phases: Vec<PhaseNumbers>,
    /// What was found, in order of first point.
    pub signals: Vec<Signal>,
    /// How its values are written.
    pub writer: ValueFormat,
    phase_limits: Vec<PhaseLimits>,
}

/// NaN as nothing.
pub fn known(value: f64) -> Option<f64> {
    Some(value).filter(|value| value.is_finite())
}

impl Panel {
    /// Values with a limits for each phase, and their moments when they are known.
    pub fn new(drawn: PanelSpec, phases: &[Phase], writer: ValueFormat) -> Panel {
        let PanelSpec { plotted, values, phase_limits, moments } = drawn;
        let seen = moments.unwrap_or_else(|| describe::moments(&values));
        let limits = phases.iter().zip(&phase_limits).map(|(phase, limits)| phase_numbers(phase, limits)).collect();
        Panel {
            plotted,
            moments: seen,
            present: seen.n,
            extent: seen.min.zip(seen.max).map(|(low, high)| [low, high]),
            values,
            sums: None,
            phases: limits,
            signals: Vec::new(),
            writer,
            phase_limits,
        }
    }

    /// The lines of a point of a phase.
    pub fn lines(&self, phase: usize, point: usize) -> Lines {
        self.phase_limits[phase].at(point - self.phases[phase].first)
    }

    /// The lines of a point of the newest phase that are neither the tightest nor the widest of it, and their zones where those
    /// are not so many sds about the centre.
    pub fn usual_lines(&self) -> Option<(Lines, Option<[f64; 7]>)> {
        match self.phase_limits.last()? {
            PhaseLimits::Even { lines, zones } => Some((*lines, *zones)),
            PhaseLimits::Each(each) => {
                let mut known: Vec<&Lines> = each.iter().filter(|lines| lines.sd.is_finite()).collect();
                let middle = known.len() / 2;
                (!known.is_empty()).then(|| (**known.select_nth_unstable_by(middle, |a, b| a.sd.total_cmp(&b.sd)).1, None))
            }
        }
    }

    /// Whether limits step from point to point.
    pub fn steps(&self) -> bool {
        self.phase_limits.iter().any(|limits| matches!(limits, PhaseLimits::Each(_)))
    }

    /// Searches each phase for each pattern. Zones are taken before limits are clipped; omitted points are passed over.
    pub fn search(&mut self, points: &Points, width: f64, run_rules: &[RunRule], cancel: &Cancel) -> Result<(), StudyError> {
        let used: Cow<[f64]> = match &points.omitted {
            Some(omitted) => self.values.iter().zip(omitted).map(|(&value, &out)| if out { f64::NAN } else { value }).collect(),
            None => Cow::Borrowed(&self.values),
        };
        for (phase, limits) in self.phases.iter().zip(&self.phase_limits) {
            let (centers, sds): (Vec<f64>, Vec<f64>);
            let zones = match limits {
                PhaseLimits::Even { zones: Some(zones), .. } => Zones::Even(*zones),
                PhaseLimits::Even { lines, .. } => Zones::about(lines.center, lines.sd, width),
                PhaseLimits::Each(each) => {
                    (centers, sds) = each.iter().map(|lines| (lines.center, lines.sd)).unzip();
                    Zones::Each { center: &centers, sd: &sds, width }
                }
            };
            let search = Search::of(&used[phase.first..=phase.last], zones, run_rules);
            let find = |&rule: &RunRule| {
                cancel.check()?;
                let mut found = Vec::new();
                search.find(rule, phase.first, &mut found);
                Ok(found)
            };
            let found: Vec<Vec<Signal>> = match is_shared(phase.last - phase.first) {
                true => run_rules.par_iter().map(find).collect::<Result<_, StudyError>>()?,
                false => run_rules.iter().map(find).collect::<Result<_, StudyError>>()?,
            };
            self.signals.extend(found.into_iter().flatten());
        }
        self.sort_signals();
        Ok(())
    }

    /// Puts the signals in order of first point.
    pub fn sort_signals(&mut self) {
        self.signals.sort_by_key(|signal| (signal.first, signal.pattern, signal.last));
    }

    /// Smallest and largest of all values and limits.
    pub fn span(&self) -> Option<[f64; 2]> {
        let even = self.phases.iter().flat_map(|phase| [phase.lcl, phase.ucl, phase.center]).flatten();
        let each = self.phase_limits.iter().filter_map(|limits| if let PhaseLimits::Each(each) = limits { Some(each) } else { None });
        let each = each.flatten().flat_map(|lines| [lines.lcl, lines.ucl]).filter_map(known);
        let all = self.extent.into_iter().flatten().chain(even).chain(each);
        all.map(|value| [value, value]).reduce(|[low, high], [a, b]| [low.min(a), high.max(b)])
    }

    /// About how much memory it keeps.
    pub fn bytes(&self) -> usize {
        let each: usize =
            self.phase_limits.iter().map(|limits| if let PhaseLimits::Each(each) = limits { size_of_val(&each[..]) } else { 0 }).sum();
        size_of_val(&self.values[..]) * if self.sums.is_some() { 3 } else { 1 } + size_of_val(&self.signals[..]) + each
    }
}

fn phase_numbers(phase: &Phase, limits: &PhaseLimits) -> PhaseNumbers {
    let lines = match limits {
        PhaseLimits::Even { lines, .. } => *lines,
        PhaseLimits::Each(each) => {
            let same = |get: fn(&Lines) -> f64| {
                let first = each.first().map_or(f64::NAN, get);
                if each.iter().all(|lines| get(lines).to_bits() == first.to_bits()) { first } else { f64::NAN }
            };
            Lines { center: same(|l| l.center), sd: same(|l| l.sd), lcl: same(|l| l.lcl), ucl: same(|l| l.ucl) }
        }
    };
    PhaseNumbers {
        label: phase.label.clone(),
        first: phase.points.start,
        last: phase.points.end.saturating_sub(1),
        center: known(lines.center),
        lcl: known(lines.lcl),
        ucl: known(lines.ucl),
        sigma: known(lines.sd),
    }
}
