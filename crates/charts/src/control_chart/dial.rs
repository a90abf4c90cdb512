//! The dial of a chart: the characteristic at a glance.

use super::answer::Chart;
use super::panel::known;
use super::patterns::{Pattern, Signal};
use super::plotted::Plotted;
use super::verdict;
use acorn_data::frame::{ColumnInfo, Limits};
use acorn_study::dial::{Dial, DialOf};
use acorn_study::{Tone, Verdict};

/// How many of the newest values the spark line shows.
const RECENT: usize = 30;

impl Chart {
    /// Reads the dial off a chart. Ppk = min(USL - x̄, x̄ - LSL) / 3s (ISO 22514-2), one side when the other
    /// limit is missing.
    pub fn dial(&self, info: &ColumnInfo) -> Dial {
        let location = &self.panels[0];
        let values = &location.values;
        let moments = &self.moments;
        let room = |mean: f64| {
            let sides = [info.usl.map(|usl| usl - mean), info.lsl.map(|lsl| mean - lsl)];
            sides.into_iter().flatten().reduce(f64::min)
        };
        let ppk = moments.mean.and_then(room).zip(moments.sd.filter(|sd| *sd > 0.0)).map(|(room, sd)| room / (3.0 * sd));
        let start = values.len().saturating_sub(RECENT);
        let marks = |signal: &Signal, point: usize| match signal.pattern {
            Pattern::BeyondLimits => (signal.first..=signal.last).contains(&point),
            _ => signal.last == point,
        };
        let of = self.counted();
        // Of counts the centre and the limits are those that the newest point is judged by: shares of few are worth less than of many.
        let newest = location.phases.len().checked_sub(1).filter(|_| of != DialOf::Values && !values.is_empty());
        let lines = newest.map(|phase| location.lines(phase, values.len() - 1));
        let signalled = |point: &usize| location.signals.iter().any(|signal| marks(signal, *point));
        let Verdict { tone, title, .. } = verdict::of(self);
        Dial {
            of,
            limits: if of == DialOf::Values { info.limits() } else { Limits::default() },
            mean: lines.and_then(|lines| known(lines.center)).or(moments.mean),
            lcl: lines.and_then(|lines| known(lines.lcl)),
            ucl: lines.and_then(|lines| known(lines.ucl)),
            sd_within: self.sigma_within,
            ppk: ppk.filter(|_| of == DialOf::Values),
            last: values.iter().rev().copied().find(|value| !value.is_nan()),
            recent: values[start..].iter().map(|&value| Some(value).filter(|value| !value.is_nan())).collect(),
            recent_signals: (start..values.len()).filter(signalled).map(|point| point - start).collect(),
            signals: self.panels.iter().map(|panel| panel.signals.len()).sum(),
            steady: tone != Tone::Alarm,
            tone: Some(tone),
            title,
        }
    }

    /// What the dial is about: a share, a rate or a count where counts are charted.
    fn counted(&self) -> DialOf {
        let location = &self.panels[0];
        match location.plotted {
            _ if !self.kind.counts() => DialOf::Values,
            Plotted::Proportion => DialOf::Share,
            Plotted::Count => DialOf::Count,
            Plotted::Rate => DialOf::Rate,
            // Ratios charted as single values.
            _ if location.extent.is_some_and(|[_, high]| high <= 1.0) => DialOf::Share,
            _ => DialOf::Rate,
        }
    }
}
