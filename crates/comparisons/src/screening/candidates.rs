//! A column that may explain something: numbers, or labels.

use acorn_data::frame::{Column, Frame, Kind, NO_CODE, NO_TIME, Values};
use acorn_maths::LARGEST;
use acorn_maths::describe::{extent, mean};
use acorn_maths::sorting::Sorted;
use acorn_maths::words::ValueFormat;

/// Whole numbers with at most so many different ones are labels, such as the number of a press.
const FEW: usize = 12;
/// Classes of a measurement.
const CLASSES: usize = 8;
/// Most labels.
const LABELS_MOST: usize = 1000;
/// Labels that hold fewer rows than this on average name rows.
const EACH_LEAST: usize = 2;

/// What it holds, one a row.
pub enum CandidateValues {
    /// Distances from the mean; NaN is missing.
    Numbers(Vec<f64>),
    /// Places in a list; [`NO_CODE`] is missing. Classes are of numbers.
    Labels { codes: Vec<u32>, labels: Vec<String>, classes: bool },
}

/// A column to try, as what it may be taken for: numbers follow a line as they are, and any course as labels or in classes.
pub struct Candidate<'f> {
    pub column: &'f Column,
    pub held: Vec<CandidateValues>,
}

/// Takes a column as numbers or as labels, or as both.
///
/// # Errors
/// Why it cannot be tried, in words.
pub fn candidate<'f>(frame: &'f Frame, column: &'f Column) -> Result<Candidate<'f>, String> {
    let held = match (&column.values, column.kind) {
        (Values::Label { .. }, _) => vec![labels(frame, column, LABELS_MOST)?],
        (Values::Number(_), Kind::WholeNumber) if let Ok(few) = labels(frame, column, FEW) => vec![few],
        (Values::Number(values), kind) => {
            let by_label = if kind == Kind::WholeNumber { labels(frame, column, LABELS_MOST).ok() } else { None };
            let line = apart(values, column)?;
            vec![line, by_label.unwrap_or_else(|| classes(values))]
        }
        (Values::Time(values), _) => {
            let seconds: Vec<f64> = values.iter().map(|&time| if time == NO_TIME { f64::NAN } else { time as f64 / 1e6 }).collect();
            let line = apart(&seconds, column)?;
            vec![line, labels(frame, column, LABELS_MOST).unwrap_or_else(|_| classes(&seconds))]
        }
    };
    Ok(Candidate { column, held })
}

/// An end of a class as it is written under a small picture.
fn short(end: f64) -> String {
    ValueFormat::fixed(3).value(end).trim_end_matches('0').trim_end_matches('.').to_owned()
}

/// Classes that hold about as many values each, equal ones together.
fn classes(values: &[f64]) -> CandidateValues {
    let sorted = Sorted::of(values);
    let mut ends: Vec<f64> = (1..CLASSES).filter_map(|k| sorted.quantile(k as f64 / CLASSES as f64)).collect();
    ends.dedup();
    let code = |value: &f64| if value.is_nan() { NO_CODE } else { ends.partition_point(|end| end < value) as u32 };
    let label = |place: usize| match (place.checked_sub(1).map(|below| ends[below]), ends.get(place)) {
        (_, Some(end)) => format!("to {}", short(*end)),
        (Some(start), None) => format!("over {}", short(start)),
        (None, None) => "all".to_owned(),
    };
    CandidateValues::Labels { codes: values.iter().map(code).collect(), labels: (0..=ends.len()).map(label).collect(), classes: true }
}

impl Candidate<'_> {
    /// Refuses a running number or a time that never turns back: of rows that stand together it only says where they stand.
    pub fn unless_counting(self) -> Result<Self, String> {
        let Some(CandidateValues::Numbers(values)) = self.held.first() else { return Ok(self) };
        let there: Vec<f64> = values.iter().copied().filter(|value| !value.is_nan()).collect();
        let (rises, falls) = (there.is_sorted(), there.is_sorted_by(|a, b| a >= b));
        if rises || falls { Err("it only counts the rows".to_owned()) } else { Ok(self) }
    }
}

fn apart(values: &[f64], column: &Column) -> Result<CandidateValues, String> {
    let [low, high] = extent(values).ok_or("it has no value")?;
    if low == high {
        return Err("it does not vary".to_owned());
    }
    if low.abs().max(high.abs()) > LARGEST {
        return Err(format!("a value of {} is too large to compute with", column.name));
    }
    let there: Vec<f64> = values.iter().copied().filter(|value| !value.is_nan()).collect();
    let middle = mean(&there);
    Ok(CandidateValues::Numbers(values.iter().map(|value| value - middle).collect()))
}

fn labels(frame: &Frame, column: &Column, most: usize) -> Result<CandidateValues, String> {
    let coded = frame.coded(column, most).map_err(|_| format!("it has more than {most} labels"))?;
    // A narrowed column keeps labels that none of its rows has.
    let mut each = vec![0; coded.labels.len()];
    coded.codes.iter().filter(|code| **code != NO_CODE).for_each(|code| each[*code as usize] += 1);
    let rows: usize = each.iter().sum();
    match each.iter().filter(|rows| **rows > 0).count() {
        0 => Err("it has no value".to_owned()),
        1 => Err("it does not vary".to_owned()),
        many if many * EACH_LEAST > rows => Err("it has a label of its own for nearly every row".to_owned()),
        _ => Ok(CandidateValues::Labels { codes: coded.codes.to_vec(), labels: coded.labels.to_vec(), classes: false }),
    }
}

impl CandidateValues {
    /// The same of some rows, in that order.
    pub fn at(&self, rows: &[u32]) -> CandidateValues {
        match self {
            CandidateValues::Numbers(values) => CandidateValues::Numbers(rows.iter().map(|&row| values[row as usize]).collect()),
            CandidateValues::Labels { codes, labels, classes } => CandidateValues::Labels {
                codes: rows.iter().map(|&row| codes[row as usize]).collect(),
                labels: labels.clone(),
                classes: *classes,
            },
        }
    }
}
