//! The numbers of a chart in the shape of their contract, for one view of the points.

use std::collections::{BTreeSet, HashSet};

use serde::Serialize;

use super::answer::{Chart, ROWS_LISTED};
use super::compare::{Comparison, Freshness};
use super::kind::ChartKind;
use super::lineup::CandidateWords;
use super::panel::{Panel, PhaseNumbers, known};
use super::parts::{Dispersion, Runs};
use super::patterns::{Pattern, Signal};
use super::plotted::Plotted;
use super::{notes, verdict};
use acorn_maths::words::ValueFormat;
use acorn_study::gauge::share::GaugeShare;
use acorn_study::view::kept_points;
use acorn_study::{Brief, FoundSignal, Note, StoredAnswer, Table, ToNumbers, Verdict, View};

/// What a control chart computes.
#[derive(Clone, Debug, Serialize, utoipa::ToSchema)]
#[schema(as = ControlChartNumbers)]
pub struct Numbers {
    /// The kind of chart.
    pub chart: &'static str,
    /// Location first, then spread.
    pub panels: Vec<PanelNumbers>,
    /// The process sd in use, in the unit of the measure.
    pub sigma_within: Option<f64>,
    /// What the gauge makes of it, where the column names a gauge that was studied.
    #[serde(skip_serializing_if = "Option::is_none")]
    pub gauge: Option<GaugeShare>,
    /// Of a prime chart: by how much its limits are widened.
    #[serde(skip_serializing_if = "Option::is_none")]
    pub sigma_z: Option<f64>,
    /// Of counts: whether they scatter as counts do.
    #[serde(skip_serializing_if = "Option::is_none")]
    pub dispersion: Option<Dispersion>,
    /// Of a run chart: whether the order looks random.
    #[serde(skip_serializing_if = "Option::is_none")]
    pub runs: Option<Runs>,
    /// The last two phases against each other.
    #[serde(skip_serializing_if = "Option::is_none")]
    pub comparison: Option<Comparison>,
    /// The newest points against limits settled before them.
    #[serde(skip_serializing_if = "Option::is_none")]
    pub freshness: Option<Freshness>,
    /// Of counts: the same counts as other charts.
    #[serde(skip_serializing_if = "Option::is_none")]
    pub line_up: Option<LineUpNumbers>,
    /// No signal on any panel.
    pub steady: bool,
    /// Signals that chance alone would bring to so many points.
    pub signals_expected: f64,
    /// Whether chance explains the signals that there are, and brings so many that none is worth its search.
    pub signals_by_chance: bool,
    /// How often a steady process would signal.
    pub false_alarm: FalseAlarm,
    /// All points of the chart, whatever the view.
    pub points: usize,
    /// How many points each sent point may stand for.
    pub bucket: usize,
    /// Distance of the control limits from the centre, in sd.
    pub width: f64,
    /// What one point is called.
    pub point_word: &'static str,
    /// Whether specification limits, which are about single values, belong on the location panel.
    pub single_values: bool,
}

/// Three charts of one count.
#[derive(Clone, Debug, Serialize, utoipa::ToSchema)]
pub struct LineUpNumbers {
    /// Plain, prime, single values.
    pub candidates: Vec<CandidateNumbers>,
    /// The one to believe.
    pub believe: ChartKind,
    /// That in words.
    pub verdict: Verdict,
    /// Why, a note for each of the others.
    pub notes: Vec<Note>,
    /// Smallest and largest of all values and limits, for one scale.
    pub span: Option<[f64; 2]>,
}

/// One chart of a line-up.
#[derive(Clone, Debug, Serialize, utoipa::ToSchema)]
pub struct CandidateNumbers {
    /// The kind of chart; choosing it sets the option `chart`.
    pub chart: ChartKind,
    /// Whether it is the one in the statement.
    pub chosen: bool,
    /// What its card says.
    #[serde(flatten)]
    pub words: CandidateWords,
    /// Points beyond its limits.
    pub flagged: usize,
    /// Its location panel.
    pub panel: PanelNumbers,
}

/// How often a steady process would signal.
#[derive(Clone, Debug, Serialize, utoipa::ToSchema)]
pub struct FalseAlarm {
    /// Average points between false alarms of the first panel's patterns; null when too rare to tell.
    pub points_between: Option<f64>,
}

/// One panel.
#[derive(Clone, Debug, Serialize, utoipa::ToSchema)]
pub struct PanelNumbers {
    /// What is plotted.
    pub name: Plotted,
    /// Its title in the words of the trade.
    pub title: String,
    /// Whether it can never lie below 0, so that a lower limit of 0 is a floor and no limit.
    pub never_negative: bool,
    /// Stretches with limits of their own.
    pub phases: Vec<PhaseNumbers>,
    /// The points of the view.
    pub points: Vec<PointNumbers>,
    /// The signals that touch the view; thinned, the first of each pattern in each bucket.
    pub signals: Vec<Signal>,
    /// How many signals the whole panel has.
    pub signal_count: usize,
    /// Smallest and largest of all values and limits, for an axis that stays put.
    pub span: Option<[f64; 2]>,
    /// How its values are written.
    pub writer: ValueFormat,
}

/// One point.
#[derive(Clone, Debug, Serialize, utoipa::ToSchema)]
pub struct PointNumbers {
    /// Its number, from 0.
    pub i: usize,
    /// The rows it is made of, the first 200.
    pub row_ids: Vec<i64>,
    /// Where these rows stand by now, from 0.
    pub rows: Vec<usize>,
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
    /// The sd of what is plotted.
    pub sigma: Option<f64>,
    /// Whether it is left out of the limits.
    pub omitted: bool,
    /// Of a cumulative sum: the sum above.
    #[serde(skip_serializing_if = "Option::is_none")]
    pub upper: Option<f64>,
    /// Of a cumulative sum: the sum below.
    #[serde(skip_serializing_if = "Option::is_none")]
    pub lower: Option<f64>,
    /// The values of its sample, while few points are in sight.
    #[serde(skip_serializing_if = "Vec::is_empty")]
    pub contents: Vec<f64>,
}

/// The contents of samples are sent up to this many points in sight.
const CONTENTS_UP_TO: usize = 300;

impl Chart {
    /// The numbers of a view.
    pub fn of_view(&self, view: &View) -> Numbers {
        let alarms = self.alarms();
        Numbers {
            chart: self.kind.name(),
            panels: self.panels.iter().enumerate().map(|(place, panel)| self.panel_numbers(panel, view, place == 0)).collect(),
            sigma_within: self.sigma_within,
            gauge: self.gauge.clone(),
            sigma_z: self.diagnostics.sigma_z,
            dispersion: self.diagnostics.dispersion,
            runs: self.diagnostics.runs,
            comparison: self.comparison.clone(),
            freshness: self.freshness.clone(),
            line_up: self.line_up_numbers(view),
            steady: self.steady(),
            signals_expected: alarms.expected,
            signals_by_chance: alarms.by_chance,
            false_alarm: FalseAlarm { points_between: self.in_control_arl },
            points: self.len(),
            bucket: view.stretch(self.len()).1,
            width: self.width,
            point_word: self.noun().0,
            single_values: self.kind.shows_single_values() && !self.sampled(),
        }
    }
}

impl ToNumbers for Chart {
    type Numbers = Numbers;

    fn numbers(&self, view: &View) -> Numbers {
        self.of_view(view)
    }
}

impl StoredAnswer for Chart {
    fn brief(&self) -> Vec<Brief> {
        self.in_sight()
    }

    fn tables(&self) -> Vec<Table> {
        self.listed()
    }

    fn points(&self, view: &View) -> Table {
        self.points_table(view)
    }

    fn bytes(&self) -> usize {
        let line_up = self.line_up.iter().flat_map(|line_up| &line_up.candidates).map(|candidate| candidate.panel.bytes());
        self.panels.iter().map(Panel::bytes).sum::<usize>() + line_up.sum::<usize>() + self.points.bytes()
    }

    fn signals(&self, most: usize) -> (Vec<FoundSignal>, usize) {
        let all = || self.panels.iter().enumerate().flat_map(|(k, panel)| panel.signals.iter().map(move |signal| (k, panel, signal)));
        let mut found: Vec<_> = all().collect();
        let total = found.len();
        found.sort_by_key(|(k, _, signal)| (signal.first, *k, signal.pattern));
        let described = found.into_iter().take(most).map(|(k, panel, signal)| FoundSignal {
            panel: k,
            panel_name: panel.plotted.name().to_owned(),
            pattern: signal.pattern.name().to_owned(),
            first: signal.first,
            last: signal.last,
            first_row: self.points.row_id(signal.first),
            last_row: self.points.row_id(signal.last),
            sentence: notes::describe(self, k, signal),
        });
        (described.collect(), total)
    }

    fn rows(&self, first: usize, last: usize) -> Vec<i64> {
        (first..=last.min(self.len().saturating_sub(1))).flat_map(|point| self.points.row_ids(point)).collect()
    }

    fn stretch_of(&self, rows: &[i64]) -> Option<[usize; 2]> {
        let wanted: HashSet<i64> = rows.iter().copied().collect();
        let holds = |point: &usize| wanted.contains(&self.points.row_id(*point));
        Some([(0..self.len()).find(holds)?, (0..self.len()).rfind(holds)?])
    }
}

impl Chart {
    fn panel_numbers(&self, panel: &Panel, view: &View, with_contents: bool) -> PanelNumbers {
        let (stretch, bucket) = view.stretch(panel.values.len());
        let signals = kept_signals(&panel.signals, stretch.clone(), bucket);
        let mut kept = kept_points(&panel.values, stretch.clone(), bucket);
        if bucket > 2 {
            let ends = signals.iter().flat_map(|signal| [signal.first, signal.last]).filter(|i| stretch.contains(i));
            kept = kept.into_iter().chain(ends).collect::<BTreeSet<_>>().into_iter().collect();
        }
        let with_contents = with_contents && self.sampled() && kept.len() <= CONTENTS_UP_TO;
        let mut phase = 0;
        let points = kept.into_iter().map(|i| {
            while panel.phases[phase].last < i {
                phase += 1;
            }
            let lines = panel.lines(phase, i);
            let sum = |side: usize| panel.sums.as_ref().and_then(|sums| known(sums[side][i]));
            let mut row_ids = self.points.row_ids(i);
            row_ids.truncate(ROWS_LISTED);
            let mut rows = self.points.rows(i).into_owned();
            rows.truncate(ROWS_LISTED);
            PointNumbers {
                i,
                row_ids,
                rows,
                label: self.points.label(i),
                value: known(panel.values[i]),
                n: self.values_behind(i),
                center: known(lines.center),
                lcl: known(lines.lcl),
                ucl: known(lines.ucl),
                sigma: known(lines.sd),
                omitted: self.points.is_omitted(i),
                upper: sum(0),
                lower: sum(1),
                contents: if with_contents { self.contents(i) } else { Vec::new() },
            }
        });
        PanelNumbers {
            name: panel.plotted,
            title: panel.plotted.title(self.kind, self.subgroup_size()),
            never_negative: panel.plotted.never_negative(),
            points: points.collect(),
            phases: panel.phases.clone(),
            signal_count: panel.signals.len(),
            span: panel.span(),
            writer: panel.writer.clone(),
            signals,
        }
    }

    fn line_up_numbers(&self, view: &View) -> Option<LineUpNumbers> {
        let line_up = self.line_up.as_ref()?;
        let spans = line_up.candidates.iter().filter_map(|candidate| candidate.panel.span());
        let candidate = |candidate: &super::lineup::Candidate| CandidateNumbers {
            chart: candidate.kind,
            chosen: candidate.kind == self.kind,
            words: candidate.display_text(),
            flagged: candidate.flagged,
            panel: self.panel_numbers(&candidate.panel, view, false),
        };
        let (verdict, notes) = verdict::line_up(self, line_up);
        Some(LineUpNumbers {
            candidates: line_up.candidates.iter().map(candidate).collect(),
            believe: line_up.believe,
            verdict,
            notes,
            span: spans.reduce(|[low, high], [a, b]| [low.min(a), high.max(b)]),
        })
    }
}

/// The signals that touch a stretch; when thinned, one of each pattern and side for each bucket.
fn kept_signals(signals: &[Signal], stretch: std::ops::Range<usize>, bucket: usize) -> Vec<Signal> {
    let touching = signals.iter().filter(|signal| signal.first < stretch.end && signal.last >= stretch.start);
    let mut seen: BTreeSet<(usize, Pattern, i8)> = BTreeSet::new();
    touching.filter(|signal| bucket <= 2 || seen.insert((signal.first / bucket, signal.pattern, signal.side))).copied().collect()
}
