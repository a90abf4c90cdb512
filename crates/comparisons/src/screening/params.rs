//! What a screening takes.

use super::candidates::{Candidate, candidate};
use acorn_data::frame::{Column, NO_CODE};
use acorn_maths::describe::mean;
use acorn_maths::words::counted;
use acorn_study::reading::{bad, numbers};
use acorn_study::{StudyError, ValidatedSpec};

/// Most labels of what is to be explained.
pub const LABELS_MOST: usize = 20;
/// What the rows in question are called, and the others.
const ROWS: [&str; 2] = ["these rows", "the others"];

/// What is to be explained, one a row.
pub enum Response {
    /// Distances from the mean; NaN is missing.
    Number(Vec<f64>),
    /// Places in a list; [`NO_CODE`] is missing.
    Labels(Vec<u32>),
}

/// The statement, read.
pub struct Params<'f> {
    /// What is to be explained, in words.
    pub subject: String,
    pub measure: Option<&'f Column>,
    pub response: Response,
    pub labels: Vec<String>,
    /// The label whose rows are looked for, of two.
    pub marked: Option<u32>,
    /// The stretches of rows in question.
    pub rows: Vec<[i64; 2]>,
    pub candidates: Vec<Candidate<'f>>,
    /// Columns that could not be tried, and why.
    pub skipped: Vec<(String, String)>,
}

impl<'f> Params<'f> {
    /// Reads a statement that fits its card.
    ///
    /// # Errors
    /// [`StudyError`] names the role or option.
    pub fn read(asked: &ValidatedSpec<'f>) -> Result<Params<'f>, StudyError> {
        let frame = asked.frame();
        let rows: Option<Vec<[i64; 2]>> = asked.option("rows")?;
        let measure = if rows.is_some() { None } else { Some(asked.needed("measure")?) };
        let (response, labels) = match (&rows, measure) {
            (Some(rows), _) => {
                let inside = |id: i64| rows.iter().any(|[first, last]| (*first..=*last).contains(&id));
                let codes: Vec<u32> = (0..frame.rows()).map(|row| u32::from(!inside(frame.row_id(row)))).collect();
                if codes.iter().all(|code| *code == codes[0]) {
                    return Err(bad("rows", "holds no row of the data, or all of them; there is nothing to tell them from"));
                }
                (Response::Labels(codes), ROWS.map(str::to_owned).to_vec())
            }
            (None, Some(column)) if column.kind.is_numeric() => {
                let values = numbers(column, "what is to be explained")?;
                let there: Vec<f64> = values.iter().copied().filter(|value| !value.is_nan()).collect();
                let middle = if there.is_empty() { 0.0 } else { mean(&there) };
                (Response::Number(values.iter().map(|value| value - middle).collect()), Vec::new())
            }
            (None, Some(column)) => {
                let coded = frame.coded(column, LABELS_MOST)?;
                (Response::Labels(coded.codes.to_vec()), coded.labels.to_vec())
            }
            (None, None) => return Err(asked.needed("measure").map_or_else(|error| error, |_| bad("measure", "is missing"))),
        };
        let named = asked.columns("columns");
        let tried: Vec<&Column> = match named.is_empty() {
            true => frame.columns().iter().collect(),
            false => named,
        };
        let (mut candidates, mut skipped) = (Vec::new(), Vec::new());
        let apart: Vec<&str> = asked.columns("apart").into_iter().chain(measure).map(|column| column.name.as_str()).collect();
        for column in tried.into_iter().filter(|column| !apart.contains(&column.name.as_str())) {
            let found = candidate(frame, column);
            match if rows.is_some() { found.and_then(Candidate::unless_counting) } else { found } {
                Ok(one) => candidates.push(one),
                Err(why) => skipped.push((column.name.clone(), why)),
            }
        }
        if candidates.is_empty() {
            let problem = match skipped.is_empty() {
                true => "there is no other column to try".to_owned(),
                false => format!("none of {} can be tried", counted(skipped.len(), "other column", "other columns")),
            };
            return Err(bad("columns", problem));
        }
        let marked = marked(&response, labels.len(), rows.is_some());
        let subject = measure.map_or_else(|| ROWS[0].to_owned(), |column| column.name.clone());
        Ok(Params { subject, measure, response, labels, marked, rows: rows.unwrap_or_default(), candidates, skipped })
    }
}

/// Of two labels the one that is looked for: the rows in question, or the rarer one.
fn marked(response: &Response, labels: usize, is_rows: bool) -> Option<u32> {
    let Response::Labels(codes) = response else { return None };
    let of = |label: u32| codes.iter().filter(|code| **code == label).count();
    match labels {
        2 if is_rows => Some(0),
        2 => Some(u32::from(of(1) < of(0))),
        _ => None,
    }
}

impl Response {
    /// Whether a row has none.
    pub fn is_missing(&self, row: usize) -> bool {
        match self {
            Response::Number(values) => values[row].is_nan(),
            Response::Labels(codes) => codes[row] == NO_CODE,
        }
    }

    /// Rows.
    pub fn len(&self) -> usize {
        match self {
            Response::Number(values) => values.len(),
            Response::Labels(codes) => codes.len(),
        }
    }

    /// The same of some rows, in that order.
    pub fn at(&self, rows: &[u32]) -> Response {
        match self {
            Response::Number(values) => Response::Number(rows.iter().map(|&row| values[row as usize]).collect()),
            Response::Labels(codes) => Response::Labels(rows.iter().map(|&row| codes[row as usize]).collect()),
        }
    }
}
