//! The dial of a chart: the characteristic at a glance.

use super::answer::Chart;
use super::panel::known;
use super::patterns::{Pattern, Signal};
use super::plotted::Plotted;
use acorn_data::frame::{ColumnInfo, Limits};
use acorn_study::dial::{Dial, DialOf};

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
            steady: self.alarms().passed_over(),
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

#[cfg(test)]
mod tests {
    use acorn_core::methods;
    use acorn_data::frame::{ColumnInfo, Frame};
    use acorn_study::dial::DialOf;
    use acorn_study::{Cancel, Spec};

    #[test]
    fn a_one_sided_limit_gives_the_index_of_that_side() {
        let columns = serde_json::json!({"leak": [1.0, 2.0, 3.0, null]});
        let frame = Frame::from_json(columns.as_object().unwrap()).unwrap();
        let spec: Spec = serde_json::from_str(r#"{"method": "control-chart", "roles": {"measure": "leak"}}"#).unwrap();
        let dial = |info: ColumnInfo| {
            let mut columns = frame.columns().to_vec();
            columns[0].info = info;
            methods::compute(&Frame::new(columns, None).unwrap(), &spec, &Cancel::default()).unwrap().dial.unwrap()
        };
        let upper = dial(ColumnInfo { usl: Some(5.0), ..ColumnInfo::default() });
        assert_eq!((upper.ppk, upper.last, upper.recent.len()), (Some(1.0), Some(3.0), 4));
        assert_eq!(dial(ColumnInfo::default()).ppk, None);
    }

    /// Expected by hand: p̄ = 12/300 = 0.04 and the newest point is judged by its own 50: 0.04 ± 3 √(0.04 · 0.96 / 50).
    #[test]
    fn a_dial_of_counts_has_the_centre_and_the_limits_of_the_newest_point() {
        let columns = serde_json::json!({"bad": [4, 5, 3], "looked": [100, 150, 50]});
        let frame = Frame::from_json(columns.as_object().unwrap()).unwrap();
        let dial = |kind: &str| {
            let spec = format!(
                r#"{{"method": "control-chart", "roles": {{"count": "bad", "size": "looked"}}, "options": {{"chart": "{kind}"}}}}"#
            );
            methods::compute(&frame, &serde_json::from_str(&spec).unwrap(), &Cancel::default()).unwrap().dial.unwrap()
        };
        let share = dial("p");
        assert_eq!((share.of, share.ppk, share.lcl, share.last), (DialOf::Share, None, Some(0.0), Some(0.06)));
        assert!((share.mean.unwrap() - 0.04).abs() < 1e-12);
        assert!((share.ucl.unwrap() - (0.04 + 3.0 * (0.04 * 0.96 / 50.0_f64).sqrt())).abs() < 1e-12);
        assert_eq!((dial("u").of, dial("c").of), (DialOf::Rate, DialOf::Count));
    }
}
