//! The dial of a chart: the characteristic at a glance.

use super::answer::Chart;
use super::patterns::{Pattern, Signal};
use crate::dial::Dial;
use crate::frame::ColumnInfo;

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
        let signalled = |point: &usize| location.signals.iter().any(|signal| marks(signal, *point));
        Dial {
            mean: moments.mean,
            sd_within: self.sigma_within,
            ppk,
            last: values.iter().rev().copied().find(|value| !value.is_nan()),
            recent: values[start..].iter().map(|&value| Some(value).filter(|value| !value.is_nan())).collect(),
            recent_signals: (start..values.len()).filter(signalled).map(|point| point - start).collect(),
            signals: self.panels.iter().map(|panel| panel.signals.len()).sum(),
            steady: self.alarms().passed_over(),
        }
    }
}

#[cfg(test)]
mod tests {
    use crate::frame::{ColumnInfo, Frame};
    use crate::methods;
    use crate::study::{Cancel, Spec};

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
}
