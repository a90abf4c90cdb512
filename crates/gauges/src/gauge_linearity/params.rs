//! What a linearity study takes.

use acorn_data::frame::{Column, Frame, Missing};
use acorn_maths::words::typed;
use acorn_study::gauge::against::MULTIPLIER;
use acorn_study::reading::{bad, numbers};
use acorn_study::{StudyError, ValidatedSpec};

/// Most pieces.
const PARTS_MOST: usize = 10_000;

/// A piece of known value with its readings.
pub struct Piece {
    pub label: String,
    pub reference: f64,
    /// Readings less reference.
    pub biases: Vec<f64>,
    pub rows: Vec<usize>,
}

/// The statement, read.
pub struct Params<'f> {
    pub measure: &'f Column,
    /// The name of the column of known values, with its unit.
    pub reference: &'f Column,
    pub frame: &'f Frame,
    /// In rising order of the reference.
    pub pieces: Vec<Piece>,
    /// Rows without a reading, a piece or a reference.
    pub missing: usize,
    pub process_sd: Option<f64>,
    pub multiplier: f64,
}

impl<'f> Params<'f> {
    /// Reads a statement that fits its card.
    ///
    /// # Errors
    /// [`StudyError::BadOption`] for a piece with two known values; [`StudyError::TooFewValues`] without a reading;
    /// [`StudyError::TooManyGroups`].
    pub fn read(asked: &ValidatedSpec<'f>) -> Result<Params<'f>, StudyError> {
        let (measure, part, reference) = (asked.needed("measure")?, asked.needed("part")?, asked.needed("reference")?);
        let (values, known) = (numbers(measure, "measurement")?, numbers(reference, "reference")?);
        let groups = asked.frame().groups(&[part], None, Missing::Left, PARTS_MOST)?;
        let mut pieces = Vec::new();
        for group in 0..groups.len() {
            let there = |row: &&usize| !values[**row].is_nan() && !known[**row].is_nan();
            let rows: Vec<usize> = groups.rows(group).iter().filter(there).copied().collect();
            let Some(&first) = rows.first() else { continue };
            let label = groups.label(group).unwrap_or_default().to_owned();
            if let Some(&other) = rows.iter().find(|&&row| known[row] != known[first]) {
                let problem = format!("{label} has two known values, {} and {}", typed(known[first]), typed(known[other]));
                return Err(bad("reference", format!("{problem}; a piece has one")));
            }
            pieces.push(Piece { label, reference: known[first], biases: rows.iter().map(|&row| values[row] - known[row]).collect(), rows });
        }
        if pieces.is_empty() {
            return Err(StudyError::TooFewValues { column: measure.name.clone(), have: 0, need: 3 });
        }
        pieces.sort_by(|a, b| a.reference.total_cmp(&b.reference));
        let kept: usize = pieces.iter().map(|piece| piece.rows.len()).sum();
        Ok(Params {
            measure,
            reference,
            frame: asked.frame(),
            pieces,
            missing: values.len() - kept,
            process_sd: asked.number("process_sd"),
            multiplier: asked.number("multiplier").unwrap_or(MULTIPLIER),
        })
    }
}
