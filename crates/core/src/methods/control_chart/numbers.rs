//! The numbers of a chart in the shape of their contract, for one view of the points.

use std::collections::BTreeSet;

use serde::Serialize;

use super::answer::{Chart, Panel, PhaseLimits};
use super::patterns::{Pattern, Signal};
use crate::frame::{NO_CODE, Values};
use crate::methods::Numbers as MethodNumbers;
use crate::study::view::kept_points;
use crate::study::{View, ViewNumbers};

/// What a control chart computes.
#[derive(Clone, Debug, Serialize)]
#[cfg_attr(feature = "openapi", derive(utoipa::ToSchema))]
#[cfg_attr(feature = "openapi", schema(as = ControlChartNumbers))]
pub struct Numbers {
    /// The kind of chart.
    pub chart: &'static str,
    /// Location first, then spread.
    pub panels: Vec<PanelNumbers>,
    /// The process sd in use, in the unit of the measure.
    pub sigma_within: Option<f64>,
    /// No signal on any panel.
    pub steady: bool,
    /// How often a steady process would signal.
    pub false_alarm: FalseAlarm,
    /// All points of the chart, whatever the view.
    pub points: usize,
    /// How many points each sent point may stand for.
    pub bucket: usize,
    /// Distance of the control limits from the centre, in sd.
    pub width: f64,
}

/// How often a steady process would signal.
#[derive(Clone, Debug, Serialize)]
#[cfg_attr(feature = "openapi", derive(utoipa::ToSchema))]
pub struct FalseAlarm {
    /// Average points between false alarms of the first panel's patterns; null when too rare to tell.
    pub points_between: Option<f64>,
}

/// One panel.
#[derive(Clone, Debug, Serialize)]
#[cfg_attr(feature = "openapi", derive(utoipa::ToSchema))]
pub struct PanelNumbers {
    /// What is plotted.
    pub name: &'static str,
    /// Stretches with limits of their own.
    pub phases: Vec<PhaseLimits>,
    /// The points of the view.
    pub points: Vec<PointNumbers>,
    /// The signals that touch the view; thinned, the first of each pattern in each bucket.
    pub signals: Vec<Signal>,
    /// How many signals the whole panel has.
    pub signal_count: usize,
    /// Smallest and largest of all values and limits, for an axis that stays put.
    pub span: Option<[f64; 2]>,
}

/// One point.
#[derive(Clone, Debug, Serialize)]
#[cfg_attr(feature = "openapi", derive(utoipa::ToSchema))]
pub struct PointNumbers {
    /// Its number, from 0.
    pub i: usize,
    /// The rows it is made of.
    pub row_ids: Vec<i64>,
    /// What it is called.
    pub label: String,
    /// What is plotted; null when missing.
    pub value: Option<f64>,
    /// Values it rests on.
    pub n: usize,
    /// Its centre.
    pub center: Option<f64>,
    /// Its lower control limit.
    pub lcl: Option<f64>,
    /// Its upper control limit.
    pub ucl: Option<f64>,
    /// Whether it is left out of the limits.
    pub omitted: bool,
}

impl ViewNumbers for Chart {
    fn numbers(&self, view: &View) -> MethodNumbers {
        MethodNumbers::ControlChart(Numbers {
            chart: self.kind.name(),
            panels: self.panels.iter().map(|panel| self.panel_numbers(panel, view)).collect(),
            sigma_within: self.sigma_within,
            steady: self.steady(),
            false_alarm: FalseAlarm { points_between: self.points_between },
            points: self.len(),
            bucket: view.stretch(self.len()).1,
            width: self.width,
        })
    }

    fn bytes(&self) -> usize {
        self.panels.iter().map(|panel| size_of_val(&panel.values[..]) + size_of_val(&panel.signals[..])).sum()
    }

    fn point_columns(&self) -> Vec<(String, Values)> {
        let n = self.len();
        let of = |get: &dyn Fn(usize) -> f64| Values::Number((0..n).map(get).collect());
        let mut columns = vec![
            ("point".to_owned(), of(&|i| i as f64 + 1.0)),
            ("label".to_owned(), labels((0..n).map(|i| Some(self.label(i))))),
            ("row".to_owned(), of(&|i| self.row_id(i) as f64 + 1.0)),
            ("left out".to_owned(), labels((0..n).map(|i| self.is_omitted(i).then(|| "yes".to_owned())))),
        ];
        for panel in &self.panels {
            let limit = |get: fn(&PhaseLimits) -> Option<f64>| {
                let stretch = |phase: &PhaseLimits| std::iter::repeat_n(get(phase).unwrap_or(f64::NAN), phase.last + 1 - phase.first);
                Values::Number(panel.phases.iter().flat_map(stretch).collect())
            };
            let name = panel.name.replace('-', " ");
            columns.push((name.clone(), Values::Number(panel.values.clone())));
            columns.push((format!("{name} lower limit"), limit(|phase| phase.lcl)));
            columns.push((format!("{name} centre"), limit(|phase| phase.center)));
            columns.push((format!("{name} upper limit"), limit(|phase| phase.ucl)));
            columns.push((format!("{name} signals"), signal_names(panel, n)));
        }
        columns
    }
}

fn labels(texts: impl Iterator<Item = Option<String>>) -> Values {
    let mut all = Vec::new();
    let mut code = |text: Option<String>| {
        text.map_or(NO_CODE, |text| {
            all.push(text);
            all.len() as u32 - 1
        })
    };
    let codes = texts.map(&mut code).collect();
    Values::Label { codes, labels: all.into() }
}

/// The patterns that each point belongs to.
fn signal_names(panel: &Panel, n: usize) -> Values {
    let mut names: Vec<Option<String>> = vec![None; n];
    for signal in &panel.signals {
        for name in &mut names[signal.first..=signal.last] {
            let joined = name.take().map_or_else(String::new, |before| before + " ");
            *name = Some(joined + signal.pattern.name());
        }
    }
    labels(names.into_iter())
}

impl Chart {
    fn panel_numbers(&self, panel: &Panel, view: &View) -> PanelNumbers {
        let (stretch, bucket) = view.stretch(panel.values.len());
        let signals = kept_signals(&panel.signals, stretch.clone(), bucket);
        let mut kept = kept_points(&panel.values, stretch.clone(), bucket);
        if bucket > 2 {
            let ends = signals.iter().flat_map(|signal| [signal.first, signal.last]).filter(|i| stretch.contains(i));
            kept = kept.into_iter().chain(ends).collect::<BTreeSet<_>>().into_iter().collect();
        }
        let mut phase = 0;
        let points = kept.into_iter().map(|i| {
            while panel.phases[phase].last < i {
                phase += 1;
            }
            let limits = &panel.phases[phase];
            let value = Some(panel.values[i]).filter(|value| !value.is_nan());
            PointNumbers {
                i,
                row_ids: vec![self.row_id(i)],
                label: self.label(i),
                value,
                n: usize::from(value.is_some()),
                center: limits.center,
                lcl: limits.lcl,
                ucl: limits.ucl,
                omitted: self.is_omitted(i),
            }
        });
        PanelNumbers {
            name: panel.name,
            points: points.collect(),
            phases: panel.phases.clone(),
            signal_count: panel.signals.len(),
            span: span(panel),
            signals,
        }
    }
}

/// The signals that touch a stretch; when thinned, one of each pattern and side for each bucket.
fn kept_signals(signals: &[Signal], stretch: std::ops::Range<usize>, bucket: usize) -> Vec<Signal> {
    let touching = signals.iter().filter(|signal| signal.first < stretch.end && signal.last >= stretch.start);
    let mut seen: BTreeSet<(usize, Pattern, i8)> = BTreeSet::new();
    touching.filter(|signal| bucket <= 2 || seen.insert((signal.first / bucket, signal.pattern, signal.side))).copied().collect()
}

fn span(panel: &Panel) -> Option<[f64; 2]> {
    let limits = panel.phases.iter().flat_map(|phase| [phase.lcl, phase.ucl, phase.center]).flatten();
    let all = panel.extent.into_iter().flatten().chain(limits);
    all.map(|value| [value, value]).reduce(|[low, high], [a, b]| [low.min(a), high.max(b)])
}
