//! What is to be said of single values before their shape: a gauge too coarse, two groups, values that end at a limit.

use super::params::Params;
use acorn_maths::cut_off::{CutOff, cut_off};
use acorn_maths::judgement::{coarse, too_coarse};
use acorn_maths::mixture::two_groups;
use acorn_maths::sorting::Sorted;
use acorn_maths::words::{ValueFormat, about, counted, level};
use acorn_study::labelled::{Streams, labelled, streams};
use acorn_study::{Tone, Verdict};

/// Labels are looked through for so many rows at most.
const ROWS_MOST: usize = 20_000;

/// What was found.
#[derive(Clone, Debug, PartialEq)]
pub enum Structure {
    /// The gauge reads in steps of about the size of the sd: the step, and the same in sds.
    Coarse(f64, f64),
    /// A column parts the values into streams.
    Streams(Streams),
    /// Two peaks that no column tells apart.
    TwoGroups([f64; 2]),
    /// The values end at a limit.
    CutOff(CutOff),
}

impl Structure {
    /// Finds what is to be said first of the values of one group.
    pub fn of(params: &Params, sorted: &Sorted) -> Option<Structure> {
        if let Some((step, sds)) = too_coarse(params.values) {
            return Some(Structure::Coarse(step, sds));
        }
        if params.frame.rows() <= ROWS_MOST {
            let rows: Vec<usize> = (0..params.frame.rows()).filter(|row| !params.values[*row].is_nan()).collect();
            let values: Vec<f64> = rows.iter().map(|&row| params.values[row]).collect();
            let found = streams(&values, &labelled(params.frame, &rows, std::slice::from_ref(&params.measure.name)));
            if let Some(found) = found {
                return Some(Structure::Streams(found));
            }
        }
        if let Some(found) = two_groups(sorted).filter(|_| coarse(params.values).is_none()) {
            return Some(Structure::TwoGroups(found.centers));
        }
        let info = &params.measure.info;
        cut_off(sorted, info.lsl, info.usl).map(Structure::CutOff)
    }

    /// The verdict.
    pub fn verdict(&self, writer: &ValueFormat, sorted_by: &str, n: usize, of: [f64; 2]) -> Verdict {
        let [mean, sd] = of.map(|value| writer.computed(value));
        let values = counted(n, "value", "values");
        let (title, finding, advice) = match self {
            Structure::Coarse(step, sds) => (
                "Too coarse to judge",
                format!("readings come in steps of {}, {} times the sd, so the shape cannot be seen", writer.value(*step), about(*sds)),
                "Record one more decimal, or use a finer gauge.".to_owned(),
            ),
            Structure::Streams(Streams { by, ends: [low, high], apart }) => (
                "Two groups",
                format!("{} runs {} above {}", level(by, high), writer.computed(*apart), level(by, low)),
                format!("Look at each {by} by itself."),
            ),
            Structure::TwoGroups([low, high]) => (
                "Two groups",
                format!("values gather about {} and about {}, with few in between", writer.computed(*low), writer.computed(*high)),
                "Find out what tells them apart (cavity, line, lot) and look at each by itself.".to_owned(),
            ),
            Structure::CutOff(cut) => (
                "Cut off at a limit",
                format!(
                    "{sorted_by} ends at {}, though about {} of {values} would lie {} it",
                    writer.value(cut.limit),
                    about(cut.expected.round()),
                    if cut.upper { "above" } else { "below" }
                ),
                "Were the parts sorted, or readings pulled inside? Measure before sorting.".to_owned(),
            ),
        };
        let sentence = format!("{title}: {finding}. {advice} Mean {mean}, sd {sd} ({values}).");
        Verdict::new(Tone::Caution, title, sentence)
    }

    /// The column that parts the values.
    pub fn by(&self) -> Option<&str> {
        if let Structure::Streams(streams) = self { Some(&streams.by) } else { None }
    }
}
